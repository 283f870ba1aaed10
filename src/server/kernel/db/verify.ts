import type { PGlite } from "@electric-sql/pglite";
import { DOCUMENT_IDS } from "@/core/kernel/documentIds";

/** Every table that is kept: its key, the column that carries most of it, and what its rows are called. */
const STORED = [
  ...DOCUMENT_IDS.map((id) => ({ table: id, key: "id", column: "document", words: id })),
  { table: "drawer_items", key: "id", column: "item", words: "drawer items" },
  { table: "log_entries", key: "id", column: "entry", words: "log entries" },
  { table: "photos", key: "id", column: "sum", words: "pictures" },
  { table: "photo_bytes", key: "sum", column: "bytes", words: "pictures' bytes" },
  { table: "workshop", key: "key", column: "value", words: "notes of the workshop's own" },
];

/**
 * Reads every page of every table and index, the engine's own lists among them, with the engine's own checker: its functions are made and undone in one transaction.
 * @returns what does not hold together, in words; null where all does
 * @throws the engine's own error for a page it cannot read
 */
export async function verifyStructure(pglite: PGlite): Promise<string | null> {
  await pglite.exec("begin");
  try {
    await pglite.exec("create extension amcheck");
    await pglite.query(
      "select count(bt_index_check(c.oid, true)) from pg_class c join pg_am a on a.oid = c.relam where c.relkind = 'i' and a.amname = 'btree'",
    );
    const { rows } = await pglite.query<{ name: string; msg: string }>(
      "select c.relname as name, v.msg from pg_class c, lateral verify_heapam(c.oid) v where c.relkind in ('r', 't', 'm') limit 1",
    );
    const [fault] = rows;
    return fault ? `${fault.name}: ${fault.msg}` : null;
  } finally {
    await pglite.exec("rollback");
  }
}

/**
 * Looks every kept table through: as many rows as were ever put in and not taken out (triggers count them in the same transactions), the same by its index, and every document
 * readable to its end. The engine's own page checks raise what is garbled; this finds what is missing without a trace, as when a file was cut short.
 * @returns what is lost, in words; null where all is there
 */
export async function verifyRows(pglite: PGlite): Promise<string | null> {
  const counted = new Map(
    (await pglite.query<{ name: string; rows: number }>("select name, rows::int as rows from row_counts")).rows.map((row) => [row.name, row.rows]),
  );
  for (const { table, key, column, words } of STORED) {
    const expected = counted.get(table);
    const one = async (query: string) => (await pglite.query<{ n: number | null }>(query)).rows[0]?.n ?? 0;
    const rows = await one(`select count(*)::int as n from ${table}`);
    if (expected === undefined || rows !== expected) return `${words}: ${rows} of ${expected ?? "an unknown number"} are there`;
    const indexed = await pglite.transaction(async (tx) => {
      await tx.exec("set local enable_seqscan = off; set local enable_bitmapscan = off");
      return (await tx.query<{ n: number }>(`select count(*)::int as n from ${table} where ${key} is not null`)).rows[0]?.n;
    });
    if (indexed !== rows) return `${words}: the index knows ${indexed} of ${rows}`;
    if (column === "bytes") {
      const [{ toast }] = (await pglite.query<{ toast: string }>(`select reltoastrelid::regclass::text as toast from pg_class where relname = '${table}'`))
        .rows as [{ toast: string }];
      const stored = await one(`select coalesce(sum(octet_length(chunk_data)), 0)::float8 as n from ${toast}`);
      const named = await one(
        `select coalesce(sum(pg_column_size(${column})) filter (where pg_column_toast_chunk_id(${column}) is not null), 0)::float8 as n from ${table}`,
      );
      if (stored !== named) return `${words}: ${stored} of ${named} bytes are there`;
    } else await one(`select coalesce(sum(octet_length(${column}::text)), 0)::float8 as n from ${table}`);
  }
  return null;
}
