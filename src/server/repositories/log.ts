import { and, desc, eq, inArray, lt, notExists, sql } from "drizzle-orm";
import { entrySchema, type LogEntry } from "@/core/log/entries";
import { type LogFileRow, readLogFile } from "@/core/log/files";
import { type PhotoType, photoType } from "@/core/log/photo";
import type { Database } from "../db/client";
import { logEntries, photos } from "../db/schema";
import { ServerError } from "../errors";
import { getCutter } from "./cutters";
import { takeFromSpool } from "./drawer";

/** A log entry as everything outside the repositories sees it. */
export interface LogRow {
  id: string;
  entry: LogEntry;
}

type Executor = Pick<Database, "select" | "insert" | "update" | "delete">;

const toRow = (row: typeof logEntries.$inferSelect): LogRow => ({ id: row.id, entry: entrySchema.parse(row.entry) });
const columnsOf = (entry: LogEntry) => ({ kind: entry.kind, at: new Date(entry.at), entry });
const gone = () => new ServerError("not-found", 404, "This entry is not in the log any more.");

/** A cutter's entries, newest first. */
export async function listLog(db: Executor, cutterId: string): Promise<LogRow[]> {
  const rows = await db.select().from(logEntries).where(eq(logEntries.cutterId, cutterId)).orderBy(desc(logEntries.at), desc(logEntries.createdAt));
  return rows.map(toRow);
}

/** A picture that an entry names must be this cutter's own. */
async function checkPhoto(db: Executor, cutterId: string, entry: LogEntry): Promise<void> {
  if (entry.kind !== "test-cut" || entry.photo === undefined) return;
  const rows = await db
    .select({ id: photos.id })
    .from(photos)
    .where(and(eq(photos.id, entry.photo), eq(photos.cutterId, cutterId)));
  if (rows.length === 0) throw new ServerError("not-found", 404, "The picture is not there any more: choose it again.");
}

/**
 * Keeps an entry. A wire change that names a spool takes its wire off that spool in the drawer, both or neither.
 * @throws ServerError `not-found` for a cutter, picture or spool that is not there
 */
export async function addEntry(db: Database, cutterId: string, entry: LogEntry): Promise<LogRow> {
  return db.transaction(async (tx) => {
    await getCutter(tx, cutterId);
    await checkPhoto(tx, cutterId, entry);
    if (entry.kind === "wire-change" && entry.spool !== undefined) await takeFromSpool(tx, entry.spool, entry.cut_mm / 1000);
    const [row] = await tx
      .insert(logEntries)
      .values({ cutterId, ...columnsOf(entry) })
      .returning();
    return toRow(row as typeof logEntries.$inferSelect);
  });
}

/**
 * Puts an entry right, such as what became of a change that was tried. Its kind stays.
 * @throws ServerError `not-found`
 */
export async function saveEntry(db: Executor, cutterId: string, id: string, entry: LogEntry): Promise<LogRow> {
  await checkPhoto(db, cutterId, entry);
  const [row] = await db
    .update(logEntries)
    .set(columnsOf(entry))
    .where(and(eq(logEntries.id, id), eq(logEntries.cutterId, cutterId), eq(logEntries.kind, entry.kind)))
    .returning();
  if (!row) throw gone();
  return toRow(row);
}

/** Strikes an entry out, with its picture. @throws ServerError `not-found` */
export async function removeEntry(db: Database, cutterId: string, id: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [row] = await tx
      .delete(logEntries)
      .where(and(eq(logEntries.id, id), eq(logEntries.cutterId, cutterId)))
      .returning();
    if (!row) throw gone();
    const { entry } = toRow(row);
    if (entry.kind === "test-cut" && entry.photo !== undefined) await tx.delete(photos).where(and(eq(photos.id, entry.photo), eq(photos.cutterId, cutterId)));
  });
}

/** What taking a log file over would do, entry by entry. */
export async function previewLog(db: Executor, cutterId: string, text: string): Promise<LogFileRow[]> {
  await getCutter(db, cutterId);
  return readLogFile(
    text,
    (await listLog(db, cutterId)).map((row) => row.entry),
  );
}

/** Puts entries into a log as they are, all at once. */
export async function importEntries(db: Executor, cutterId: string, entries: readonly LogEntry[]): Promise<void> {
  if (entries.length > 0) await db.insert(logEntries).values(entries.map((entry) => ({ cutterId, ...columnsOf(entry) })));
}

/** Takes over every new entry of a log file in one transaction: all of them or, should anything fail, none. Spools are left alone: that wire was used elsewhere. */
export async function importLog(db: Database, cutterId: string, text: string): Promise<LogFileRow[]> {
  return db.transaction(async (tx) => {
    const rows = await previewLog(tx, cutterId, text);
    await importEntries(
      tx,
      cutterId,
      rows.flatMap((row) => (row.status === "new" ? [row.entry] : [])),
    );
    return rows;
  });
}

/** A picture that no entry took up within this time is cleared away at the next one. */
const ORPHAN_AGE = sql`now() - interval '1 hour'`;

/**
 * Keeps a picture for an entry to name.
 * @throws ServerError `unreadable` for bytes that are no picture
 */
export async function addPhoto(db: Database, cutterId: string, bytes: Uint8Array): Promise<string> {
  const type = photoType(bytes);
  if (!type) throw new ServerError("unreadable", 415, "This is not a picture of a kind that is kept: JPEG, PNG or WebP.");
  return db.transaction(async (tx) => {
    await getCutter(tx, cutterId);
    const unused = tx
      .select({ id: photos.id })
      .from(photos)
      .where(
        and(
          eq(photos.cutterId, cutterId),
          lt(photos.createdAt, ORPHAN_AGE),
          notExists(
            tx
              .select({ id: logEntries.id })
              .from(logEntries)
              .where(and(eq(logEntries.cutterId, cutterId), sql`${logEntries.entry} ->> 'photo' = ${photos.id}::text`)),
          ),
        ),
      );
    await tx.delete(photos).where(inArray(photos.id, unused));
    const [row] = await tx.insert(photos).values({ cutterId, type, bytes }).returning({ id: photos.id });
    return (row as { id: string }).id;
  });
}

/** @throws ServerError `not-found` */
export async function getPhoto(db: Executor, id: string): Promise<{ type: PhotoType; bytes: Uint8Array }> {
  const [row] = await db.select().from(photos).where(eq(photos.id, id));
  if (!row) throw new ServerError("not-found", 404, "There is no such picture.");
  return { type: row.type as PhotoType, bytes: row.bytes };
}
