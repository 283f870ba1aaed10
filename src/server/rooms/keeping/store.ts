import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, renameSync, rmSync, statSync, writeSync } from "node:fs";
import path from "node:path";
import type { Database } from "../../kernel/db/client";
import { backupFolder, backupNames, dataFolder, requireRoom } from "../../kernel/db/dataFolder";
import { syncPath } from "../../kernel/db/durable";
import { type AskRows, beforeUpdate } from "../../kernel/db/migrations";
import { ServerError } from "../../kernel/errors";
import { packBefore, packWorkshop } from "./archive";

/** An archive that lies in the backup folder. */
export interface KeptBackup {
  name: string;
  /** ISO time it was written. */
  at: string;
  bytes: number;
}

const NAME = /^[a-z0-9][a-z0-9._-]{0,80}\.zip$/i;

/** Path of a kept archive. @throws ServerError `not-found` for a name that is none, or leads elsewhere */
function pathOf(name: string, folder: string): string {
  const full = path.join(backupFolder(folder), name);
  if (!NAME.test(name) || path.dirname(full) !== backupFolder(folder) || !existsSync(full))
    throw new ServerError("not-found", 404, "There is no such backup here.");
  return full;
}

export const listBackups = (folder = dataFolder()): KeptBackup[] =>
  backupNames(folder).map((name) => {
    const { mtime, size } = statSync(path.join(backupFolder(folder), name));
    return { name, at: mtime.toISOString(), bytes: size };
  });

export const readBackup = (name: string, folder = dataFolder()): Uint8Array => readFileSync(pathOf(name, folder));

/** Writes an archive of everything, of one moment. */
export const writeBackup = (db: Database, name: string, folder = dataFolder()): Promise<KeptBackup> =>
  writeArchive(name, folder, (write) =>
    db.transaction(
      async (tx) => {
        for await (const chunk of packWorkshop(tx, new Date().toISOString())) write(chunk);
      },
      { isolationLevel: "repeatable read", accessMode: "read only" },
    ),
  );

/** Writes what a database holds whose tables are about to be brought up to date: nobody else changes it meanwhile. */
export const writeBefore = (ask: AskRows, name: string, folder = dataFolder()): Promise<KeptBackup> =>
  writeArchive(name, folder, async (write) => {
    for await (const chunk of packBefore(ask, new Date().toISOString())) write(chunk);
  });

/** Keeps an archive before every update of the tables, by itself. */
export const keepBeforeUpdates = (): void =>
  beforeUpdate(async (ask) => {
    const { name } = await writeBefore(ask, nameFor("before-update"));
    console.error(`\nThe workshop's tables are brought up to date. As it was before, it stands in the backup ${name}.\n`);
  });

/** An archive takes its name only once it is whole and on the disk. */
async function writeArchive(name: string, folder: string, fill: (write: (chunk: Uint8Array) => void) => Promise<void>): Promise<KeptBackup> {
  const where = backupFolder(folder);
  mkdirSync(where, { recursive: true });
  requireRoom(where);
  const full = path.join(where, name);
  const beside = `${full}.writing`;
  const descriptor = openSync(beside, "w");
  try {
    await fill((chunk) => {
      let at = 0;
      while (at < chunk.length) at += writeSync(descriptor, chunk, at);
    });
    fsyncSync(descriptor);
  } catch (error) {
    rmSync(beside, { force: true });
    throw error;
  } finally {
    closeSync(descriptor);
  }
  renameSync(beside, full);
  syncPath(where);
  return { name, at: statSync(full).mtime.toISOString(), bytes: statSync(full).size };
}

/** A name for an archive made now: "by-hand-2026-11-25-10-15-30.zip". */
export const nameFor = (what: string, now = new Date()): string => `${what}-${now.toISOString().slice(0, 19).replaceAll(/[T:]/g, "-")}.zip`;
