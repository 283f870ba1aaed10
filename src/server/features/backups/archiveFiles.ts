import { randomUUID } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from "node:fs";
import path from "node:path";
import type { Database } from "../../kernel/db/client";
import { backupFolder, backupNames, dataFolder, requireFreeSpace } from "../../kernel/db/dataFolder";
import { syncPath } from "../../kernel/db/durable";
import { beforeUpdate, type QueryRows } from "../../kernel/db/migrations";
import { ServerError } from "../../kernel/errors";
import { packSnapshot } from "./archivePacker";
import { snapshotBefore, snapshotWorkshop } from "./archiveWriter";

/** A backup in the backup folder. */
export interface BackupFile {
  name: string;
  /** ISO time it was written. */
  at: string;
  bytes: number;
}

/** What packs a snapshot's folder into a file: in this thread, or in a worker. */
export type Pack = (job: { folder: string; file: string; made: string }) => Promise<void>;

const NAME = /^[a-z0-9][a-z0-9._-]{0,80}\.zip$/i;
/** Begins the names of files and folders that are being written or received; what a killed process left of them is deleted at the next start. */
const TEMPORARY = ".temporary-";
/** No backup or restore takes so long, ms. */
const ABANDONED_MS = 3 * 3600_000;

/** Path of a stored backup. @throws ServerError `not-found` for a name that is none, or leads elsewhere */
export function backupPath(name: string, folder = dataFolder()): string {
  const full = path.join(backupFolder(folder), name);
  if (!NAME.test(name) || path.dirname(full) !== backupFolder(folder) || !existsSync(full))
    throw new ServerError("not-found", 404, "There is no such backup here.");
  return full;
}

export const listBackups = (folder = dataFolder()): BackupFile[] =>
  backupNames(folder).map((name) => {
    const { mtime, size } = statSync(path.join(backupFolder(folder), name));
    return { name, at: mtime.toISOString(), bytes: size };
  });

/** A path in the backup folder that nothing else uses. Anyone who asks for it deletes it. */
export function temporaryPath(folder = dataFolder()): string {
  const where = backupFolder(folder);
  mkdirSync(where, { recursive: true });
  return path.join(where, `${TEMPORARY}${process.pid}-${randomUUID()}`);
}

/** Deletes what an earlier process left half written. Another process may be writing here too: its files are younger. */
export function removeTemporary(folder = dataFolder()): void {
  const where = backupFolder(folder);
  if (!existsSync(where)) return;
  for (const name of readdirSync(where)) {
    const file = path.join(where, name);
    if (name.startsWith(TEMPORARY) && Date.now() - statSync(file).mtimeMs > ABANDONED_MS) rmSync(file, { recursive: true, force: true });
  }
}

/** One backup is made after the other: each needs the disk and reads every row. */
let queue: Promise<unknown> = Promise.resolve();

/**
 * Writes an archive of everything to a file: a snapshot of the rows first, packed afterwards with no transaction open.
 * @returns its path; anyone who asks for it deletes or renames it
 */
async function writeArchive(folder: string, snapshot: (to: string) => Promise<void>, pack: Pack, signal?: AbortSignal): Promise<string> {
  const before = queue;
  let done = () => {};
  queue = new Promise<void>((resolve) => {
    done = resolve;
  });
  try {
    await before;
    signal?.throwIfAborted();
    requireFreeSpace(backupFolder(folder));
    const rows = temporaryPath(folder);
    const file = temporaryPath(folder);
    try {
      await snapshot(rows);
      await pack({ folder: rows, file, made: new Date().toISOString() });
      return file;
    } catch (error) {
      rmSync(file, { force: true });
      throw error;
    } finally {
      rmSync(rows, { recursive: true, force: true });
    }
  } finally {
    done();
  }
}

/** Gives an archive its name, now that it is whole and on the disk. */
function keepAs(file: string, name: string, folder: string): BackupFile {
  const where = backupFolder(folder);
  const full = path.join(where, name);
  renameSync(file, full);
  syncPath(where);
  const { mtime, size } = statSync(full);
  return { name, at: mtime.toISOString(), bytes: size };
}

/** Writes a backup of everything to a temporary file. */
export const writeTemporary = (db: Database, pack: Pack = packSnapshot, folder = dataFolder(), signal?: AbortSignal): Promise<string> =>
  writeArchive(folder, (to) => snapshotWorkshop(db, to, signal), pack, signal);

/** Writes a backup of everything into the backup folder. */
export const writeBackup = async (db: Database, name: string, folder = dataFolder(), pack: Pack = packSnapshot): Promise<BackupFile> =>
  keepAs(await writeTemporary(db, pack, folder), name, folder);

/** Writes a backup of a database whose tables are about to be updated: nobody else changes it meanwhile. */
export const writeBefore = async (request: QueryRows, name: string, folder = dataFolder()): Promise<BackupFile> =>
  keepAs(await writeArchive(folder, (to) => snapshotBefore(request, to), packSnapshot), name, folder);

/** Writes a backup before every update of the tables. */
export const backupBeforeUpdates = (): void =>
  beforeUpdate(async (request) => {
    const { name } = await writeBefore(request, backupName("before-update"));
    console.error(`\nThe workshop's tables are updated. A backup of the workshop as it was is in ${name}.\n`);
  });

/** A name for an archive made now: "by-hand-2026-11-25-10-15-30.zip". */
export const backupName = (what: string, now = new Date()): string => `${what}-${now.toISOString().slice(0, 19).replaceAll(/[T:]/g, "-")}.zip`;
