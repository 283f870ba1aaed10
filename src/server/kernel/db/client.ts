import { randomUUID } from "node:crypto";
import path from "node:path";
import type { PGlite } from "@electric-sql/pglite";
import { sql } from "drizzle-orm";
import { readMigrationFiles } from "drizzle-orm/migrator";
import { drizzle, type PgliteDatabase } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { ServerError } from "../errors";
import { logFault } from "../log";
import { beginMaking, databasePath, dataFolder, lookInto, markWorkshop, readyFolder, storageFault, wayOut, workshopId } from "./dataFolder";
import { syncPath, syncTree } from "./durable";
import { canSync, openEngine } from "./engine";
import { type FolderLock, lockFolder } from "./folderLock";
import * as schema from "./schema";
import { verifyRows, verifyStructure } from "./verify";

export type Database = PgliteDatabase<typeof schema>;
/** The database, or a transaction of it. */
export type Executor = Pick<Database, "select" | "insert" | "update" | "delete">;

interface Opened {
  db: Database;
  /** null in memory */
  lock: FolderLock | null;
  close: () => Promise<void>;
}

const migrationsFolder = () => path.join(process.cwd(), "drizzle");

/** Refuses a database that a newer program has changed, before anything is served from it. @throws ServerError `newer-schema` */
async function refuseNewer(db: Database): Promise<void> {
  const { rows: found } = await db.execute<{ there: string | null }>(sql`select to_regclass('drizzle.__drizzle_migrations')::text as there`);
  if (!found[0]?.there) return;
  const { rows } = await db.execute<{ last: string | null }>(sql`select max(created_at)::text as last from drizzle.__drizzle_migrations`);
  const known = readMigrationFiles({ migrationsFolder: migrationsFolder() }).map((file) => file.folderMillis);
  const last = rows[0]?.last ?? null;
  if (last !== null && Number(last) > Math.max(...known))
    throw new ServerError(
      "newer-schema",
      503,
      "This workshop's database was last opened by a newer Upwind Rod. Nothing was changed: update this copy, or put back a backup that this one made.",
    );
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
    const db = drizzle(pglite, { schema });
    await refuseNewer(db);
    await migrate(db, { migrationsFolder: migrationsFolder() });
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
      // It is being given up: the reason it could not be used is what is told.
    });
    if (!folder || error instanceof ServerError) throw error;
    logFault(error, { withPlace: false });
    throw storageFault(error, folder) ?? damaged(folder, "it cannot be read");
  }
}

const damaged = (folder: string, what: string) =>
  new ServerError("data-damaged", 503, `The database of the workshop in ${folder} is damaged: ${what}. Nothing was changed. ${wayOut(folder)}`);

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

/** The process's database, opened on first use. A lost lock ends the process: another may be writing. */
export async function database(): Promise<Database> {
  shared.upwindDatabase ??= openDatabase(dataFolder());
  const { db, lock } = await shared.upwindDatabase;
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
    console.error("\nThe database engine stopped again and again: this server ends. Start it anew once the disk has room and is sound.\n");
    process.exit(5);
  }
  const { lock } = await before;
  shared.upwindDatabase = openHeld(dataFolder()).then(({ pglite, db }) => ({
    db,
    lock,
    close: async () => {
      await pglite.close();
      await lock?.release();
    },
  }));
  await shared.upwindDatabase;
}
