import type { PgDatabase, PgQueryResultHKT } from "drizzle-orm/pg-core";
import type * as schema from "./schema";

/** The database, whichever engine it is in. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;
/** The database, or a transaction of it. */
export type Executor = Pick<Database, "select" | "insert" | "update" | "delete">;

/** A database as it was opened. */
export interface Opened {
  db: Database;
  /** Throws where it is not this process's own any more; null where several may share it. */
  lock: { check: () => void; release: () => Promise<void> } | null;
  /** Does something that no other process on the same database does at the same time. */
  alone: <T>(work: () => Promise<T>) => Promise<T>;
  /** Hears of every row that any process changes, as it is committed. @returns what ends it */
  listen: (heard: (payload: string) => void) => Promise<() => Promise<void>>;
  close: () => Promise<void>;
}

/** The channel on which the triggers announce changes. */
export const CHANGES = "upwind_changes";
