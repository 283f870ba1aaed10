import path from "node:path";
import { readMigrationFiles } from "drizzle-orm/migrator";
import { ServerError } from "../errors";
import { backupHint, dataFolder } from "./dataFolder";

export const migrationsFolder = () => path.join(process.cwd(), "drizzle");

/** Runs a statement against the database that is being opened. */
export type QueryRows = (statement: string, values?: unknown[]) => Promise<Record<string, unknown>[]>;

/** What is done with a workshop whose tables are about to be brought up to date: set by the module of backups. */
const shared = globalThis as typeof globalThis & { upwindBeforeUpdate?: (request: QueryRows) => Promise<void> };

export function beforeUpdate(keep: (request: QueryRows) => Promise<void>): void {
  shared.upwindBeforeUpdate = keep;
}

/** When the newest migration that was run was made, or null for a database nothing was made in; and the newest this program knows. */
async function newest(request: QueryRows): Promise<{ done: number | null; known: number }> {
  const [there] = await request("select to_regclass('drizzle.__drizzle_migrations')::text as result");
  const [done] = there?.result ? await request("select max(created_at)::text as result from drizzle.__drizzle_migrations") : [];
  const known = readMigrationFiles({ migrationsFolder: migrationsFolder() }).map((file) => file.folderMillis);
  return { done: typeof done?.result === "string" ? Number(done.result) : null, known: Math.max(...known) };
}

/**
 * Looks at a database before its tables are brought up to date: one that a newer program has changed is refused before anything is served from it, and one that is behind is kept as it is. A new
 * one has nothing to keep.
 * @throws ServerError `newer-schema`
 */
export async function beforeMigrating(request: QueryRows): Promise<void> {
  const { done, known } = await newest(request);
  if (done === null) return;
  if (done > known)
    throw new ServerError(
      "newer-schema",
      503,
      `This workshop's database was last opened by a newer Upwind Rod. Nothing was changed: update this copy, or put back a backup that this one made, such as the one kept before that update. ${backupHint(dataFolder())}`,
    );
  if (done < known) await shared.upwindBeforeUpdate?.(request);
}
