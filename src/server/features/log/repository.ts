import { and, desc, eq, inArray, lt, notExists, sql } from "drizzle-orm";
import { readRow } from "@/core/kernel/rowDocument";
import { ENTRY_KIND, type LogEntry } from "@/core/log/entries";
import { entriesToCsv, entriesToJson, type FilePicture, type LogFileRow, readLogFile, readLogWithPictures } from "@/core/log/files";
import { MAX_PHOTO_BYTES, type PhotoType, photoType } from "@/core/log/photo";
import { whoName } from "../../kernel/access/who";
import type { Database, Executor } from "../../kernel/db/client";
import { readPhotoBytes, storeBytes, sumOf } from "../../kernel/db/photoStore";
import { logEntries, photos } from "../../kernel/db/schema";
import { readEach, type Unreadable } from "../../kernel/documents";
import { ServerError } from "../../kernel/errors";
import { cutterRepository } from "../cutters/repository";
import { takeFromSpool } from "../drawer/repository";

/** A log entry as everything outside the repositories sees it. */
export interface StoredEntry {
  id: string;
  entry: LogEntry;
  revision: number;
  /** who wrote it, or put it right last, where somebody was signed in */
  changedBy: string | null;
}

const toRow = (row: typeof logEntries.$inferSelect): StoredEntry => ({
  id: row.id,
  entry: readRow(ENTRY_KIND, row.entry, row.formatVersion),
  revision: row.revision,
  changedBy: row.changedBy,
});
const columnsOf = (entry: LogEntry) => ({ kind: entry.kind, at: new Date(entry.at), entry, formatVersion: ENTRY_KIND.version, changedBy: whoName() });
const gone = () => new ServerError("not-found", 404, "This entry is not in the log any more.");

/** Entries sent at once: more than a person reads, few enough to come at once. */
export const LOG_PAGE = 300;

/** A page of a cutter's log, before a place in its order. */
interface LogPlace {
  limit: number;
  before?: { at: string; id: string } | undefined;
}

/** A cutter's entries, newest first: all of them, or a page; an entry that cannot be read hides none of the others. `older` says whether there are more beyond the page. */
export async function listLogWhole(
  db: Executor,
  cutterId: string,
  page?: LogPlace,
): Promise<{ rows: StoredEntry[]; unreadable: Unreadable[]; older: boolean }> {
  const { before } = page ?? {};
  const sorted = db
    .select()
    .from(logEntries)
    .where(
      and(eq(logEntries.cutterId, cutterId), before ? sql`(${logEntries.at}, ${logEntries.id}) < (${before.at}::timestamptz, ${before.id}::uuid)` : undefined),
    )
    .orderBy(desc(logEntries.at), desc(logEntries.id));
  // One more than the page is asked for, to tell whether there are more: it is left for the next one.
  const found = await (page ? sorted.limit(page.limit + 1) : sorted);
  const older = page !== undefined && found.length > page.limit;
  const { readable, unreadable } = readEach(
    older ? found.slice(0, -1) : found,
    toRow,
    (row) => `${row.kind}, ${row.at.toISOString().slice(0, 16).replace("T", " ")}`,
  );
  return { rows: readable, unreadable, older };
}

/** What of a cutter's log can be read, newest first. */
export const listLog = async (db: Executor, cutterId: string): Promise<StoredEntry[]> => (await listLogWhole(db, cutterId)).rows;

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
 * @param id chosen by anyone who made it, such as a page that could not reach the server: sent again it is kept once
 * @throws ServerError `not-found` for a cutter, picture or spool that is not there
 */
export async function addEntry(db: Database, cutterId: string, entry: LogEntry, id?: string): Promise<StoredEntry> {
  return db.transaction(async (tx) => {
    await cutterRepository.get(tx, cutterId);
    await checkPhoto(tx, cutterId, entry);
    const [row] = await tx
      .insert(logEntries)
      .values({ ...(id === undefined ? {} : { id }), cutterId, ...columnsOf(entry) })
      .onConflictDoNothing()
      .returning();
    if (!row) {
      const [stored] = await tx
        .select()
        .from(logEntries)
        .where(and(eq(logEntries.id, id as string), eq(logEntries.cutterId, cutterId)));
      if (!stored) throw new ServerError("name-taken", 409, "Another cutter's log has an entry of that id.");
      return toRow(stored);
    }
    if (entry.kind === "wire-change" && entry.spool !== undefined) await takeFromSpool(tx, entry.spool, entry.cut_mm / 1000);
    return toRow(row);
  });
}

/**
 * Puts an entry right, such as what became of a change that was tried. Its kind stays.
 * @throws ServerError `not-found`, also where its cutter was deleted; `stale-revision` with the entry as it is when somebody changed it in between
 */
export async function saveEntry(db: Database, cutterId: string, id: string, revision: number, entry: LogEntry): Promise<StoredEntry> {
  return db.transaction(async (tx) => {
    await cutterRepository.get(tx, cutterId);
    await checkPhoto(tx, cutterId, entry);
    const own = and(eq(logEntries.id, id), eq(logEntries.cutterId, cutterId), eq(logEntries.kind, entry.kind));
    const [row] = await tx
      .update(logEntries)
      .set({ ...columnsOf(entry), revision: revision + 1 })
      .where(and(own, eq(logEntries.revision, revision)))
      .returning();
    if (row) return toRow(row);
    const [stored] = await tx.select().from(logEntries).where(own);
    if (!stored) throw gone();
    throw new ServerError("stale-revision", 409, "This entry was changed elsewhere since you saw it.", { current: toRow(stored) });
  });
}

/** Strikes an entry out, with its picture. @throws ServerError `not-found` */
export async function removeEntry(db: Database, cutterId: string, id: string): Promise<void> {
  await db.transaction(async (tx) => {
    await cutterRepository.get(tx, cutterId);
    const [row] = await tx
      .delete(logEntries)
      .where(and(eq(logEntries.id, id), eq(logEntries.cutterId, cutterId)))
      .returning();
    if (!row) throw gone();
    // What cannot be read can still be struck out.
    const entry = row.entry as LogEntry;
    if (entry.kind === "test-cut" && entry.photo !== undefined) await tx.delete(photos).where(and(eq(photos.id, entry.photo), eq(photos.cutterId, cutterId)));
  });
}

/** What taking a log file over would do, entry by entry. */
export async function previewLog(db: Executor, cutterId: string, text: string): Promise<LogFileRow[]> {
  await cutterRepository.get(db, cutterId);
  return readLogFile(
    text,
    (await listLog(db, cutterId)).map((row) => row.entry),
  );
}

/** Puts entries into a log as they are, all at once. */
export async function importEntries(db: Executor, cutterId: string, entries: readonly LogEntry[]): Promise<void> {
  if (entries.length > 0) await db.insert(logEntries).values(entries.map((entry) => ({ cutterId, ...columnsOf(entry) })));
}

/**
 * Takes over every new entry of a log file with its picture in one transaction: all of them or, should anything fail, none. Spools are left alone: that wire was used elsewhere.
 * @throws ServerError `unreadable` for a picture that is none, or too large
 */
export async function importLog(db: Database, cutterId: string, text: string): Promise<LogFileRow[]> {
  return db.transaction(async (tx) => {
    await cutterRepository.get(tx, cutterId);
    const stored = (await listLog(tx, cutterId)).map((row) => row.entry);
    const { rows, pictures } = readLogWithPictures(text, stored);
    const entries: LogEntry[] = [];
    for (const row of rows) {
      if (row.status !== "new") continue;
      const picture = row.picture === undefined ? undefined : pictures[row.picture];
      if (!picture) {
        entries.push(row.entry);
        continue;
      }
      const bytes = Buffer.from(picture.base64, "base64");
      if (photoType(bytes) !== picture.type || bytes.length > MAX_PHOTO_BYTES)
        throw new ServerError(
          "unreadable",
          415,
          `The picture of entry ${row.line} is not one that is kept: JPEG, PNG or WebP of at most ${MAX_PHOTO_BYTES / 1048576} MB.`,
        );
      entries.push({ ...row.entry, photo: await storePhoto(tx, cutterId, picture.type, bytes) } as LogEntry);
    }
    await importEntries(tx, cutterId, entries);
    return rows;
  });
}

/** A cutter's whole log as a file's text: CSV, or JSON with its pictures. */
export async function exportLog(db: Database, cutterId: string, format: "csv" | "json"): Promise<{ name: string; text: string }> {
  const { document: design } = await cutterRepository.get(db, cutterId);
  const entries = (await listLog(db, cutterId)).map((row) => row.entry);
  if (format === "csv") return { name: design.name, text: entriesToCsv(entries.map((entry) => ({ cutter: design.name, entry }))) };
  const pictures: Record<string, FilePicture> = {};
  for (const entry of entries) {
    if (entry.kind !== "test-cut" || entry.photo === undefined) continue;
    const { type, bytes } = await getPhoto(db, entry.photo);
    pictures[entry.photo] = { type, base64: Buffer.from(bytes).toString("base64") };
  }
  return { name: design.name, text: entriesToJson(design.name, entries, pictures) };
}

/** Stores a photograph. Bytes that are stored already are used again. @returns its id */
async function storePhoto(tx: Executor & Pick<Database, "execute">, cutterId: string, type: PhotoType, bytes: Uint8Array): Promise<string> {
  const sum = sumOf(bytes);
  await storeBytes(tx, sum, bytes);
  const [row] = await tx.insert(photos).values({ cutterId, type, sum }).returning({ id: photos.id });
  return (row as { id: string }).id;
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
    await cutterRepository.get(tx, cutterId);
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
    return storePhoto(tx, cutterId, type, bytes);
  });
}

/** @throws ServerError `not-found` */
export async function getPhoto(db: Pick<Database, "select" | "execute">, id: string): Promise<{ type: PhotoType; bytes: Uint8Array }> {
  const [row] = await db.select({ type: photos.type, sum: photos.sum }).from(photos).where(eq(photos.id, id));
  const bytes = row && (await readPhotoBytes(db, row.sum));
  if (!row || !bytes) throw new ServerError("not-found", 404, "There is no such picture.");
  return { type: row.type as PhotoType, bytes };
}
