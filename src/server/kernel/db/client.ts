import { randomUUID } from "node:crypto";
import path from "node:path";
import type { PGlite } from "@electric-sql/pglite";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { ServerError } from "../errors";
import { logFault } from "../log";
import { backupHint, beginMaking, databasePath, dataFolder, lookInto, markWorkshop, readyFolder, storageFault, workshopId } from "./dataFolder";
import { syncPath, syncTree } from "./durable";
import { canSync, openEngine } from "./engine";
import { type FolderLock, lockFolder } from "./folderLock";
import { beforeMigrating, migrationsFolder } from "./migrations";
import { CHANGES, type Database, type Opened } from "./opened";
import * as schema from "./schema";
import { verifyRows, verifyStructure } from "./verify";

export type { Database, Executor } from "./opened";

/** Names a database server in place of the embedded engine. */
const databaseUrl = (): string | undefined => process.env.DATABASE_URL || undefined;
/** Whether the workshop is in a database server that several processes may share. */
export const isShared = (): boolean => databaseUrl() !== undefined;

/** The words for a database server that does not answer, where that is what went wrong. */
export async function awayError(error: unknown): Promise<ServerError | null> {
  if (!isShared()) return null;
  const { awayFault, serverAway } = await import("./postgres");
  return serverAway(error) ? awayFault() : null;
}

/** Work of one process on the embedded engine is alone anyway: nobody else has the folder. */
const alone = <T>(work: () => Promise<T>): Promise<T> => work();
const listenOn =
  (pglite: PGlite): Opened["listen"] =>
  (heard) =>
    pglite.listen(CHANGES, heard);

/** The embedded engine's tables as this program knows them, whichever version of it wrote them last. @throws ServerError `newer-schema` */
export async function bringUpToDate(pglite: PGlite): Promise<Database> {
  const own = drizzle(pglite, { schema });
  await beforeMigrating(async (statement, values) => (await pglite.query<Record<string, unknown>>(statement, values)).rows);
  await migrate(own, { migrationsFolder: migrationsFolder() });
  return own as unknown as Database;
}

/** The engine on a folder that is already held, or in memory: migrated, and looked through for losses. */
async function openHeld(folder: string | undefined): Promise<{ pglite: PGlite; db: Database }> {
  const fresh = folder !== undefined && lookInto(folder) === "new";
  if (fresh) beginMaking(folder);
  let engine: { pglite: PGlite; syncs: boolean };
  try {
    engine = await openEngine(folder && databasePath(folder));
  } catch (error) {
    if (!folder) throw error;
    logFault(error, { withPlace: false });
    throw storageFault(error, folder) ?? damaged(folder, "it does not open");
  }
  const { pglite } = engine;
  try {
    const db = await bringUpToDate(pglite);
    if (folder) {
      const lost = (await verifyStructure(pglite)) ?? (await verifyRows(pglite));
      if (lost) throw damaged(folder, lost);
      if (fresh) {
        await pglite.exec("checkpoint");
        syncTree(databasePath(folder));
        syncPath(folder);
      }
      markWorkshop(folder, workshopId(folder) ?? randomUUID());
      if (!engine.syncs || !canSync(path.join(databasePath(folder), "PG_VERSION")))
        console.error(
          "\nWARNING: saves are not brought to the disk at once here (the engine's sync hook is missing, or this disk cannot sync). What was just saved may be lost in a power cut.\n",
        );
    }
    return { pglite, db };
  } catch (error) {
    await pglite.close().catch(() => {
      // The connection is being closed: report why it could not be used.
    });
    if (!folder || error instanceof ServerError) throw error;
    logFault(error, { withPlace: false });
    throw storageFault(error, folder) ?? damaged(folder, "it cannot be read");
  }
}

const damaged = (folder: string, what: string) =>
  new ServerError("data-damaged", 503, `The database of the workshop in ${folder} is damaged: ${what}. Nothing was changed. ${backupHint(folder)}`);

/**
 * Opens a folder (or memory, for tests), applies migrations and hands out the database with its closer.
 * @throws ServerError in words, with a way out, for anything that keeps a folder from being opened
 */
export async function openDatabase(folder: string | undefined): Promise<Opened> {
  if (folder) readyFolder(folder);
  let lock: FolderLock | null = null;
  try {
    lock = folder ? await lockFolder(folder) : null;
    const { pglite, db } = await openHeld(folder);
    return {
      db,
      lock,
      alone,
      listen: listenOn(pglite),
      close: async () => {
        await pglite.close();
        await lock?.release();
      },
    };
  } catch (error) {
    await lock?.release();
    if (!folder || error instanceof ServerError) throw error;
    throw storageFault(error, folder) ?? error;
  }
}

// Route bundles each get their own copy of this module; the process has one database.
const shared = globalThis as typeof globalThis & { upwindDatabase?: Promise<Opened>; upwindRevived?: number };

/** A workshop: in a database server, by its address, or in a folder. */
export async function openWorkshopAt(at: { url: string } | { folder: string }): Promise<Opened> {
  if ("folder" in at) return openDatabase(at.folder);
  const { openPostgres } = await import("./postgres");
  return openPostgres(at.url);
}

/** The workshop of this process: in the server that DATABASE_URL names, or in its own folder. */
export function openWorkshop(folder = dataFolder()): Promise<Opened> {
  const url = databaseUrl();
  return openWorkshopAt(url ? { url } : { folder });
}

/** The process's database as it was opened, for what one asks of the engine itself. */
export const openedDatabase = (): Promise<Opened> => {
  shared.upwindDatabase ??= openWorkshop();
  return shared.upwindDatabase;
};

/** The process's database, opened on first use. A lost lock ends the process: another may be writing. */
export async function database(): Promise<Database> {
  const { db, lock } = await openedDatabase();
  try {
    lock?.check();
  } catch (error) {
    console.error(`\n${(error as Error).message}\n`);
    process.exit(4);
  }
  return db;
}

/** Checks now and then, even where nobody asks for anything, that the folder is still this process's own. */
export function watchLock(): void {
  setInterval(() => void database().catch(() => {}), 2000).unref();
}

/** Closes the process's database if it is open; safe to call twice. */
export async function closeDatabase(): Promise<void> {
  const opened = shared.upwindDatabase;
  shared.upwindDatabase = undefined;
  if (opened) await (await opened).close();
}

/** Most times an engine that died is opened again before the process gives up. */
const MOST_REVIVALS = 5;

/** Whether an error says that the engine itself is dead, as after a write to its log failed. */
export function engineDied(error: unknown): boolean {
  const texts = [error, error instanceof Error ? error.cause : undefined].map((each) => (each instanceof Error ? `${each.name} ${each.message}` : ""));
  return texts.some((text) => /RuntimeError|unreachable|Aborted\(|PGlite is closed|PGlite failed/i.test(text));
}

/** Opens a dead engine's folder again, still held by this process: its log brings back everything that was acknowledged. */
export async function reviveDatabase(): Promise<void> {
  const before = shared.upwindDatabase;
  shared.upwindRevived = (shared.upwindRevived ?? 0) + 1;
  if (!before || shared.upwindRevived > MOST_REVIVALS) {
    console.error("\nThe database engine stopped again and again: this server ends. Start it again once the disk has room and is sound.\n");
    process.exit(5);
  }
  const { lock } = await before;
  shared.upwindDatabase = openHeld(dataFolder()).then(({ pglite, db }) => ({
    db,
    lock,
    alone,
    listen: listenOn(pglite),
    close: async () => {
      await pglite.close();
      await lock?.release();
    },
  }));
  await shared.upwindDatabase;
}
