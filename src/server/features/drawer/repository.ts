import { and, count, eq, isNull, sql } from "drizzle-orm";
import { type CsvRow, drawerToCsv, itemKey, previewCsv } from "@/core/drawer/csv";
import { ITEM_KIND, type Item } from "@/core/drawer/items";
import { readRow } from "@/core/kernel/rowDocument";
import { whoName } from "../../kernel/access/who";
import type { Database, Executor } from "../../kernel/db/client";
import { drawerItems } from "../../kernel/db/schema";
import { readEach, type Unreadable } from "../../kernel/documents";
import { ServerError } from "../../kernel/errors";
import { readOnce } from "../../kernel/readOnce";

/** An item as everything outside the repositories sees it. */
export interface StoredItem {
  id: string;
  item: Item;
  revision: number;
}

const readItem = readOnce((value) => {
  const { version, item } = value as { version: number; item: unknown };
  return readRow(ITEM_KIND, item, version);
});
const toRow = (row: typeof drawerItems.$inferSelect): StoredItem => ({
  id: row.id,
  item: readRow(ITEM_KIND, row.item, row.formatVersion),
  revision: row.revision,
});
const columnsOf = (item: Item) => ({
  kind: item.kind,
  name: item.name,
  nameKey: itemKey(item.kind, item.name),
  item,
  formatVersion: ITEM_KIND.version,
  changedBy: whoName(),
});

const notFound = () => new ServerError("not-found", 404, "This is not in the drawer: it may have been taken out in another tab.");

/** The one complaint of the database that a maker can cause: a name its kind already has. */
async function named<T>(item: Item, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const cause = error instanceof Error && error.cause instanceof Error ? error.cause : error;
    if (cause instanceof Error && cause.message.includes("drawer_items_name")) {
      throw new ServerError("name-taken", 409, `The drawer already has a ${item.kind} called "${item.name}".`, { path: "name" });
    }
    throw error;
  }
}

/** Everything in the drawer, by kind and name; a row that cannot be read hides none of the others. A drawer of thousands comes as one text: the engine's row protocol takes five times as long. */
export async function listDrawerWhole(db: Executor): Promise<{ rows: StoredItem[]; unreadable: Unreadable[] }> {
  const { id, revision, item, kind, name, nameKey, formatVersion, deletedAt } = drawerItems;
  const document = sql`json_build_object('version', ${formatVersion}, 'item', ${item})::text`;
  const [row] = await db
    .select({
      all: sql<string>`coalesce(json_agg(json_build_object('id', ${id}, 'revision', ${revision}, 'name', ${name}, 'document', ${document}) order by ${kind}, ${nameKey}, ${id}), '[]')::text`,
    })
    .from(drawerItems)
    .where(isNull(deletedAt));
  const { readable, unreadable } = readEach(
    JSON.parse(row?.all ?? "[]") as { id: string; revision: number; name: string; document: string }[],
    (each) => ({ id: each.id, item: readItem(each.document), revision: each.revision }),
    (each) => each.name,
  );
  return { rows: readable, unreadable };
}

/** What of the drawer can be read. */
export const listDrawer = async (db: Executor): Promise<StoredItem[]> => (await listDrawerWhole(db)).rows;

export async function countDrawer(db: Executor): Promise<number> {
  const [row] = await db.select({ rows: count() }).from(drawerItems);
  return row?.rows ?? 0;
}

/** @throws ServerError `name-taken` */
export async function addItem(db: Executor, item: Item): Promise<StoredItem> {
  const [row] = await named(item, () => db.insert(drawerItems).values(columnsOf(item)).returning());
  return toRow(row as typeof drawerItems.$inferSelect);
}

/** @throws ServerError `stale-revision` with the row as it is, `name-taken`, `not-found` */
export async function saveItem(db: Executor, id: string, revision: number, item: Item): Promise<StoredItem> {
  const [row] = await named(item, () =>
    db
      .update(drawerItems)
      .set({ ...columnsOf(item), revision: sql`${drawerItems.revision} + 1`, updatedAt: sql`now()` })
      .where(and(eq(drawerItems.id, id), eq(drawerItems.revision, revision), isNull(drawerItems.deletedAt)))
      .returning(),
  );
  if (row) return toRow(row);
  const [stored] = await db
    .select()
    .from(drawerItems)
    .where(and(eq(drawerItems.id, id), isNull(drawerItems.deletedAt)));
  if (!stored) throw notFound();
  throw new ServerError("stale-revision", 409, "This was changed in another tab meanwhile; it is shown as it is now.", { current: toRow(stored) });
}

/** Takes an item out; {@link restoreItem} puts it back. */
export async function removeItem(db: Executor, id: string): Promise<void> {
  const rows = await db
    .update(drawerItems)
    .set({ deletedAt: sql`now()` })
    .where(and(eq(drawerItems.id, id), isNull(drawerItems.deletedAt)))
    .returning({ id: drawerItems.id });
  if (rows.length === 0) throw notFound();
}

/** @throws ServerError `name-taken` when another of that name has come meanwhile */
export async function restoreItem(db: Executor, id: string): Promise<StoredItem> {
  const [stored] = await db.select().from(drawerItems).where(eq(drawerItems.id, id));
  if (!stored?.deletedAt) throw notFound();
  const row = toRow(stored);
  const [back] = await named(row.item, () => db.update(drawerItems).set({ deletedAt: null }).where(eq(drawerItems.id, id)).returning());
  return toRow(back as typeof drawerItems.$inferSelect);
}

/**
 * Takes a length off a spool that is owned, by its name.
 * @throws ServerError `not-found` for no such spool, `spool-short` when it holds less
 */
export async function takeFromSpool(db: Executor, name: string, metres: number): Promise<void> {
  const [stored] = await db
    .select()
    .from(drawerItems)
    .where(and(eq(drawerItems.nameKey, itemKey("wire", name)), isNull(drawerItems.deletedAt)));
  if (!stored) throw new ServerError("not-found", 404, `The drawer has no spool called "${name}".`, { path: "spool" });
  const { item, revision } = toRow(stored);
  if (item.kind !== "wire") throw notFound();
  if (item.length_m < metres) {
    throw new ServerError("spool-short", 409, `"${item.name}" has only ${item.length_m.toFixed(2)} m left, and ${metres.toFixed(2)} m were cut.`, {
      path: "cut_mm",
    });
  }
  await saveItem(db, stored.id, revision, { ...item, length_m: Number((item.length_m - metres).toFixed(4)) });
}

export async function exportDrawer(db: Executor): Promise<string> {
  return drawerToCsv((await listDrawer(db)).map((row) => row.item));
}

/** What taking a CSV file over would do, row by row. */
export async function previewImport(db: Executor, text: string): Promise<CsvRow[]> {
  return previewCsv(text, await listDrawer(db)).rows;
}

/**
 * Takes over every readable row of a CSV file in one transaction: all of them or, should anything fail, none.
 * @returns the rows as they were judged at that moment
 */
export async function importDrawer(db: Database, text: string): Promise<CsvRow[]> {
  return db.transaction(async (tx) => {
    const stored = await listDrawer(tx);
    const { rows } = previewCsv(text, stored);
    const revisions = new Map(stored.map((row) => [row.id, row.revision]));
    for (const row of rows) {
      if (row.status === "new") await addItem(tx, row.item);
      if (row.status === "change") await saveItem(tx, row.id, revisions.get(row.id) ?? 0, row.item);
    }
    return rows;
  });
}
