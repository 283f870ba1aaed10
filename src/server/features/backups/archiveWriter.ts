import { closeSync, mkdirSync, openSync, writeFileSync, writeSync } from "node:fs";
import path from "node:path";
import { eq, sql } from "drizzle-orm";
import type { Database } from "../../kernel/db/client";
import type { QueryRows } from "../../kernel/db/migrations";
import { readPhotoBytes } from "../../kernel/db/photoStore";
import { photoHolds } from "../../kernel/db/schema";
import { ServerError } from "../../kernel/errors";
import { type ArchivePart, PARTS, rowToArchive } from "./archiveFormat";
import { photoFile } from "./archivePacker";

/** Rows read at once. Between two pages of them other requests get their turn. */
const PAGE_ROWS = 250;
/** The transaction that reads the rows may last so long, ms. */
const SNAPSHOT_MS = 30_000;
/** Longest that a backup may need its photographs, after which they may be deleted. */
const HOLD = sql`now() + interval '2 hours'`;

type Row = Record<string, unknown>;

/** Where the rows of a backup come from. */
interface Source {
  /** Rows of a part in the order of their keys, a page at a time. */
  pages: (part: ArchivePart) => AsyncIterable<Row[]>;
  /** Bytes of a photograph, null where they are gone. */
  photo: (row: Row) => Promise<Uint8Array | null>;
}

/**
 * Writes the rows of a source to files of a folder: one line of JSON for each row.
 * @returns the rows of photographs, whose bytes are read afterwards
 */
async function writeRows(source: Source, folder: string): Promise<Row[]> {
  let photos: Row[] = [];
  for (const part of PARTS) {
    const descriptor = openSync(path.join(folder, `${part.name}.jsonl`), "w");
    try {
      for await (const rows of source.pages(part)) {
        if (part.name === "photos") photos = photos.concat(rows);
        writeSync(descriptor, rows.map((row) => `${JSON.stringify(rowToArchive(part, row))}\n`).join(""));
      }
    } finally {
      closeSync(descriptor);
    }
  }
  return photos;
}

async function writePhotos(source: Source, photos: readonly Row[], folder: string, signal?: AbortSignal): Promise<void> {
  mkdirSync(path.join(folder, "photos"), { recursive: true });
  for (const row of photos) {
    signal?.throwIfAborted();
    const bytes = await source.photo(row);
    if (bytes) writeFileSync(photoFile(folder, row.id as string), bytes);
  }
}

/**
 * Copies everything a workshop holds into a folder. One read-only transaction of limited time reads the rows; photographs never change and are read one at a time after it, while a hold keeps them from being deleted.
 * @throws ServerError `busy` where reading the rows takes longer than that
 */
export async function snapshotWorkshop(db: Database, folder: string, signal?: AbortSignal): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const [hold] = await db.insert(photoHolds).values({ until: HOLD }).returning({ id: photoHolds.id });
  try {
    const photos = await db.transaction(
      async (tx) => {
        const endsAt = performance.now() + SNAPSHOT_MS;
        await tx.execute(sql`set local timezone to 'UTC'`);
        await tx.execute(sql.raw(`set local statement_timeout to ${SNAPSHOT_MS}`));
        return writeRows({ pages: (part) => tablePages(tx, part, endsAt, signal), photo: async () => null }, folder);
      },
      { isolationLevel: "repeatable read", accessMode: "read only" },
    );
    const photo: Source["photo"] = (row) => readPhotoBytes(db, row.sum as string);
    await writePhotos({ pages: noPages, photo }, photos, folder, signal);
  } finally {
    await db.delete(photoHolds).where(eq(photoHolds.id, (hold as { id: string }).id));
  }
}

async function* noPages(): AsyncGenerator<Row[]> {}

/** Every row of every part, in one read-only transaction. */
export async function* readTables(db: Database): AsyncGenerator<{ part: ArchivePart; row: Row }> {
  // Rows are gathered inside the transaction a page at a time, so that it can end before anyone who reads them does.
  const pages: { part: ArchivePart; rows: Row[] }[] = [];
  await db.transaction(
    async (tx) => {
      await tx.execute(sql`set local timezone to 'UTC'`);
      for (const part of PARTS) for await (const rows of tablePages(tx, part, Number.POSITIVE_INFINITY)) pages.push({ part, rows });
    },
    { isolationLevel: "repeatable read", accessMode: "read only" },
  );
  for (const { part, rows } of pages) for (const row of rows) yield { part, row };
}

async function* tablePages(tx: Pick<Database, "execute">, { table, key }: ArchivePart, endsAt: number, signal?: AbortSignal): AsyncGenerator<Row[]> {
  let after: string | null = null;
  for (;;) {
    signal?.throwIfAborted();
    if (performance.now() > endsAt)
      throw new ServerError(
        "busy",
        503,
        `Reading the workshop's rows took longer than ${SNAPSHOT_MS / 1000} s, so no backup was made. Try again when less is going on.`,
      );
    const from = after === null ? sql`` : sql`where ${sql.identifier(key)} > ${after}${key === "id" ? sql`::uuid` : sql``}`;
    const { rows } = (await tx.execute(
      sql`select to_jsonb(t)::text as row, ${sql.identifier(key)}::text as key from ${sql.identifier(table)} t ${from} order by ${sql.identifier(key)} limit ${PAGE_ROWS}`,
    )) as unknown as { rows: { row: string; key: string }[] };
    if (rows.length > 0) yield rows.map(({ row }) => JSON.parse(row) as Row);
    if (rows.length < PAGE_ROWS) return;
    after = rows.at(-1)?.key ?? null;
    await new Promise<void>((resolve) => setImmediate(resolve));
  }
}

/** Copies a database of an older program into a folder, before its tables are updated: what it had no table or column for is empty. */
export async function snapshotBefore(request: QueryRows, folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  await request("set timezone to 'UTC'");
  const has = async (table: string, column: string) =>
    (await request("select 1 from information_schema.columns where table_schema = 'public' and table_name = $1 and column_name = $2", [table, column])).length >
    0;
  const ownBytes = await has("photos", "bytes");
  const source: Source = {
    pages: async function* ({ name, table, key }) {
      if (!(await has(table, key))) return;
      const columns = name === "photos" && ownBytes ? "to_jsonb(t) - 'bytes'" : "to_jsonb(t)";
      const rows = await request(`select (${columns})::text as row from "${table}" t order by "${key}"`);
      yield rows.map(({ row }) => JSON.parse(row as string) as Row);
    },
    photo: async (row) => {
      const [found] = ownBytes
        ? await request("select bytes from photos where id = $1", [row.id])
        : await request("select bytes from photo_bytes where sum = $1", [row.sum]);
      return found ? new Uint8Array(found.bytes as Uint8Array) : null;
    },
  };
  await writePhotos(source, await writeRows(source, folder), folder);
}
