import { eq, type SQL, sql } from "drizzle-orm";
import { DOCUMENT_IDS } from "@/core/kernel/documentIds";
import { CoreError } from "@/core/kernel/errors";
import type { RestoreCount, RestoreMode } from "@/core/workshop/restoring";
import type { Database } from "../../kernel/db/client";
import { errorCode } from "../../kernel/db/errorCode";
import { CHANGES } from "../../kernel/db/opened";
import { storeBytes } from "../../kernel/db/photoStore";
import { photoHolds, stagedRows } from "../../kernel/db/schema";
import { type ArchivePart, PARTS, rowToTable } from "./archiveFormat";
import type { ArchiveItem } from "./archiveReader";

/** A restore may need its staged rows so long, after which they are cleared away. */
const HOLD = sql`now() + interval '2 hours'`;
/** Rows that one statement of the restore's transaction changes. */
const CHUNK_ROWS = 1000;
/** A restore waits so long for rows that another transaction is changing. */
const LOCK_WAIT = "2s";

/** An archive whose rows are checked and in the database, ready to be compared or restored. */
export interface Staged {
  id: string;
  made: string;
  rows: number;
}

const tableOf = (part: ArchivePart) => sql.identifier(part.table);

/**
 * Reads an archive into the staging table: every row is checked before anything of the workshop is changed.
 * @param photos whether to store the photographs' bytes too: a restore needs them, a preview does not
 */
export async function stageArchive(db: Database, items: AsyncIterable<ArchiveItem>, photos: boolean): Promise<Staged> {
  const [hold] = await db.insert(photoHolds).values({ until: HOLD }).returning({ id: photoHolds.id });
  const id = (hold as { id: string }).id;
  const places = new Map<string, number>();
  let made = "";
  let rows = 0;
  try {
    for await (const item of items) {
      if (item.kind === "manifest") made = item.made;
      else if (item.kind === "photo") {
        if (photos) await storeBytes(db, item.sum, item.bytes);
      } else {
        const part = PARTS.find(({ name }) => name === item.part) as ArchivePart;
        const from = places.get(part.name) ?? 0;
        await db
          .insert(stagedRows)
          .values(item.rows.map((row, i) => ({ restore: id, part: part.table, place: from + i, key: String(row[part.key]), row: rowToTable(part, row) })));
        places.set(part.name, from + item.rows.length);
        rows += item.rows.length;
      }
    }
    // Without it the engine takes the table for nearly empty, and compares each row with every other.
    await db.execute(sql`analyze staged_rows`);
    return { id, made, rows };
  } catch (error) {
    await dropStaged(db, id);
    throw error;
  }
}

/** Forgets a staged archive. */
export async function dropStaged(db: Database, id: string): Promise<void> {
  await db.delete(stagedRows).where(eq(stagedRows.restore, id));
  await db.delete(photoHolds).where(eq(photoHolds.id, id));
}

/** Clears away what restores and backups that ended early left behind, and bytes that no photograph names any more. */
export async function sweepStaged(db: Database): Promise<void> {
  await db.execute(sql`delete from photo_holds where until < now()`);
  await db.execute(sql`delete from staged_rows where restore not in (select id from photo_holds)`);
  await db.execute(
    sql`delete from photo_bytes b where created_at < now() - interval '1 hour' and not exists (select 1 from photos p where p.sum = b.sum) and not exists (select 1 from photo_holds)`,
  );
}

/** The staged rows of a part as rows of its table. */
const stagedAs = (part: ArchivePart, id: string, where: SQL = sql``) =>
  sql`(select s.place, s.key as staged_key, r.* from staged_rows s, lateral jsonb_populate_record(null::${tableOf(part)}, s.row) r where s.restore = ${id} and s.part = ${part.table} ${where})`;

const rowsOf = async <T>(db: Pick<Database, "execute">, query: SQL): Promise<T[]> => ((await db.execute(query)) as unknown as { rows: T[] }).rows;

/** What restoring a staged archive would change, part by part. Nothing is changed. */
export async function compareStaged(db: Database, { id }: Staged): Promise<RestoreCount[]> {
  const counts: RestoreCount[] = [];
  for (const part of PARTS) {
    if (part.name === "facts") continue;
    const [row] = await rowsOf<{ staged: number; here: number; met: number; same: number }>(
      db,
      sql`select (select count(distinct key)::int from staged_rows where restore = ${id} and part = ${part.table}) as staged,
        (select count(*)::int from ${tableOf(part)}) as here,
        count(*)::int as met,
        count(*) filter (where r is not distinct from t)::int as same
        from staged_rows s join ${tableOf(part)} t on t.${sql.identifier(part.key)}::text = s.key, lateral jsonb_populate_record(null::${tableOf(part)}, s.row) r
        where s.restore = ${id} and s.part = ${part.table}`,
    );
    const { staged = 0, here = 0, met = 0, same = 0 } = row ?? {};
    counts.push({
      kind: part.name,
      inArchive: staged,
      here,
      same,
      differ: met - same,
      onlyArchive: staged - met,
      onlyHere: here - met,
    });
  }
  const order: RestoreCount["kind"][] = [...DOCUMENT_IDS, "drawer", "log", "photos"];
  return counts.sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind));
}

/** Columns of a table, as the database lists them. */
async function columnsOf(db: Pick<Database, "execute">, part: ArchivePart): Promise<SQL[]> {
  const rows = await rowsOf<{ name: string }>(
    db,
    sql`select column_name as name from information_schema.columns where table_schema = 'public' and table_name = ${part.table} order by ordinal_position`,
  );
  return rows.map(({ name }) => sql.identifier(name) as unknown as SQL);
}

/**
 * Restores a staged archive in one short transaction: all of it or, should anything fail, nothing. Only rows that differ are written; pages are notified once, at its end.
 * @returns how many rows were restored
 * @throws CoreError `wrong-format` where a row of the archive does not fit the others
 */
export async function restoreStaged(db: Database, { id, rows }: Staged, mode: RestoreMode): Promise<number> {
  const columns = new Map<ArchivePart, SQL[]>();
  for (const part of PARTS) columns.set(part, await columnsOf(db, part));
  try {
    return await db.transaction(async (tx) => {
      await tx.execute(sql.raw(`set local lock_timeout to '${LOCK_WAIT}'`));
      await tx.execute(sql`select set_config('upwind.quiet', 'on', true)`);
      let restored = 0;
      if (mode === "replace") {
        // Rows that other rows name go last. A row of the drawer that differs is written again: names may have changed places.
        for (const part of [...PARTS].reverse()) await removeOthers(tx, part, id);
      }
      for (const part of PARTS) restored += await insertStaged(tx, part, id, mode, columns.get(part) ?? []);
      await tx.execute(sql`select pg_notify(${CHANGES}, '{}')`);
      return mode === "replace" ? rows : restored;
    });
  } catch (error) {
    // Classes 22 and 23 are values and constraints: the archive's own rows contradict each other.
    const code = errorCode(error);
    if (/^(22|23)/.test(code)) throw new CoreError("wrong-format", "", `rows of this archive contradict each other (${code}): nothing was changed`);
    throw error;
  }
}

/** Deletes the rows of a table that the archive does not have, or, in the drawer, has otherwise. A page of keys at a time: no statement is long. */
async function removeOthers(tx: Pick<Database, "execute">, part: ArchivePart, id: string): Promise<void> {
  const key = sql.identifier(part.key);
  // Keys alone are compared where they can be: with the rows too, the engine would look through all staged rows for each row.
  const staged =
    part.name === "drawer"
      ? sql`select 1 from staged_rows s, lateral jsonb_populate_record(null::${tableOf(part)}, s.row) r
        where s.restore = ${id} and s.part = ${part.table} and s.key = t.${key}::text and r is not distinct from t`
      : sql`select 1 from staged_rows s where s.restore = ${id} and s.part = ${part.table} and s.key = t.${key}::text`;
  for (let after: string | null = null; ; ) {
    const cast = part.key === "id" ? sql`::uuid` : sql``;
    const from: SQL = after === null ? sql`` : sql`where ${key} > ${after}${cast}`;
    const [page] = await rowsOf<{ last: string | null; many: number }>(
      tx,
      sql`select max(${key}::text) as last, count(*)::int as many from (select ${key} from ${tableOf(part)} ${from} order by ${key} limit ${CHUNK_ROWS}) k`,
    );
    if (!page?.last) return;
    await tx.execute(
      sql`delete from ${tableOf(part)} t where t.${key} <= ${page.last}${cast} ${after === null ? sql`` : sql`and t.${key} > ${after}${cast}`} and not exists (${staged})`,
    );
    after = page.last;
  }
}

async function insertStaged(tx: Pick<Database, "execute">, part: ArchivePart, id: string, mode: RestoreMode, columns: readonly SQL[]): Promise<number> {
  const [{ most } = { most: 0 }] = await rowsOf<{ most: number }>(
    tx,
    sql`select coalesce(max(place) + 1, 0)::int as most from staged_rows where restore = ${id} and part = ${part.table}`,
  );
  const names = sql.join([...columns], sql`, `);
  const key = sql.identifier(part.key);
  const changed = sql.join(
    columns.map((column) => sql`${column} = excluded.${column}`),
    sql`, `,
  );
  // A thing of the drawer with the same name, or a row with the same id, stays as it is when an archive is added.
  const conflict =
    mode === "add" || part.name === "drawer"
      ? sql`on conflict do nothing`
      : sql`on conflict (${key}) do update set ${changed} where t is distinct from excluded`;
  let inserted = 0;
  for (let at = 0; at < most; at += CHUNK_ROWS) {
    const done = await rowsOf<{ done: number }>(
      tx,
      sql`insert into ${tableOf(part)} as t (${names}) select ${sql.join(
        columns.map((column) => sql`r.${column}`),
        sql`, `,
      )} from ${stagedAs(part, id, sql`and s.place >= ${at} and s.place < ${at + CHUNK_ROWS}`)} r order by r.place ${conflict} returning 1 as done`,
    );
    inserted += done.length;
  }
  return inserted;
}
