import path from "node:path";
import { readMigrationFiles } from "drizzle-orm/migrator";
import { ServerError } from "../errors";

export const migrationsFolder = () => path.join(process.cwd(), "drizzle");

/** Asks a database in its own words. */
export type AskRows = (statement: string, values?: unknown[]) => Promise<Record<string, unknown>[]>;

/** What is done with a workshop whose tables are about to be brought up to date: set by whoever keeps backups. */
const shared = globalThis as typeof globalThis & { upwindBeforeUpdate?: (ask: AskRows) => Promise<void> };

export function beforeUpdate(keep: (ask: AskRows) => Promise<void>): void {
  shared.upwindBeforeUpdate = keep;
}

/** Keeps a workshop as it stands where tables that hold something are about to change. A new one has nothing to keep. */
export async function keepBeforeUpdate(ask: AskRows): Promise<void> {
  const [there] = await ask("select to_regclass('drizzle.__drizzle_migrations')::text as answer");
  if (!there?.answer) return;
  const [done] = await ask("select max(created_at)::text as answer from drizzle.__drizzle_migrations");
  const known = readMigrationFiles({ migrationsFolder: migrationsFolder() }).map((file) => file.folderMillis);
  if (typeof done?.answer === "string" && Number(done.answer) < Math.max(...known)) await shared.upwindBeforeUpdate?.(ask);
}

/** Refuses a database that a newer program has changed, before anything is served from it. @param ask runs a statement that gives one text @throws ServerError `newer-schema` */
export async function refuseNewer(ask: (statement: string) => Promise<string | null>): Promise<void> {
  if (!(await ask("select to_regclass('drizzle.__drizzle_migrations')::text as answer"))) return;
  const last = await ask("select max(created_at)::text as answer from drizzle.__drizzle_migrations");
  const known = readMigrationFiles({ migrationsFolder: migrationsFolder() }).map((file) => file.folderMillis);
  if (last !== null && Number(last) > Math.max(...known))
    throw new ServerError(
      "newer-schema",
      503,
      "This workshop's database was last opened by a newer Upwind Rod. Nothing was changed: update this copy, or put back a backup that this one made.",
    );
}
