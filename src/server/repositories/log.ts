import { and, desc, eq } from "drizzle-orm";
import { entrySchema, type LogEntry } from "@/core/log/entries";
import type { Database } from "../db/client";
import { logEntries } from "../db/schema";
import { ServerError } from "../errors";
import { getCutter } from "./cutters";

/** A log entry as everything outside the repositories sees it. */
export interface LogRow {
  id: string;
  entry: LogEntry;
}

type Executor = Pick<Database, "select" | "insert" | "update" | "delete">;

const toRow = (row: typeof logEntries.$inferSelect): LogRow => ({ id: row.id, entry: entrySchema.parse(row.entry) });

/** A cutter's entries, newest first. */
export async function listLog(db: Executor, cutterId: string): Promise<LogRow[]> {
  const rows = await db.select().from(logEntries).where(eq(logEntries.cutterId, cutterId)).orderBy(desc(logEntries.at), desc(logEntries.createdAt));
  return rows.map(toRow);
}

/** @throws ServerError `not-found` for a cutter that is not there */
export async function addEntry(db: Executor, cutterId: string, entry: LogEntry): Promise<LogRow> {
  await getCutter(db, cutterId);
  const [row] = await db
    .insert(logEntries)
    .values({ cutterId, kind: entry.kind, at: new Date(entry.at), entry })
    .returning();
  return toRow(row as typeof logEntries.$inferSelect);
}

/** @throws ServerError `not-found` */
export async function removeEntry(db: Executor, cutterId: string, id: string): Promise<void> {
  const rows = await db
    .delete(logEntries)
    .where(and(eq(logEntries.id, id), eq(logEntries.cutterId, cutterId)))
    .returning({ id: logEntries.id });
  if (rows.length === 0) throw new ServerError("not-found", 404, "This entry is not in the log any more.");
}
