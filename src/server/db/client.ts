import path from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { drizzle, type PgliteDatabase } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { dataFolder, lockDataFolder } from "./dataFolder";
import * as schema from "./schema";

export type Database = PgliteDatabase<typeof schema>;

interface Opened {
  db: Database;
  close: () => Promise<void>;
}

/** Opens a folder (or memory, for tests), applies migrations and hands out the database with its closer. */
export async function openDatabase(folder: string | undefined): Promise<Opened> {
  const release = folder ? await lockDataFolder(folder) : async () => {};
  try {
    const pglite = await PGlite.create({ dataDir: folder ? path.join(folder, "pg") : undefined, initialMemory: 128 * 1024 * 1024 });
    const db = drizzle(pglite, { schema });
    await migrate(db, { migrationsFolder: path.join(process.cwd(), "drizzle") });
    return {
      db,
      close: async () => {
        await pglite.close();
        await release();
      },
    };
  } catch (error) {
    await release();
    throw error;
  }
}

// Route bundles each get their own copy of this module; the process has one database.
const shared = globalThis as typeof globalThis & { upwindDatabase?: Promise<Opened> };

/** The process's database, opened on first use. */
export async function database(): Promise<Database> {
  shared.upwindDatabase ??= openDatabase(dataFolder());
  return (await shared.upwindDatabase).db;
}

/** Closes the process's database if it is open; safe to call twice. */
export async function closeDatabase(): Promise<void> {
  const opened = shared.upwindDatabase;
  shared.upwindDatabase = undefined;
  if (opened) await (await opened).close();
}
