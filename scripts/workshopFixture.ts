// npx tsx scripts/workshopFixture.ts: keeps a small workshop as this version leaves it, for the tests of every later one. Run it before a migration is added.
import { readdirSync, writeFileSync } from "node:fs";
import { sql } from "drizzle-orm";
import { seedDemo } from "@/server/features/demo/seedDemo";
import { openDatabase } from "@/server/kernel/db/client";

/** Rows kept of a table, and what is left out: counts come from triggers, who may come in is nobody's. */
const MOST: Readonly<Record<string, number>> = { cutters: 3, plans: 3, rigs: 4, workshop: 20 };
const OUT = ["row_counts", "members", "sessions", "access", "deeds", "second_screens", "photos", "photo_bytes", "photo_holds", "staged_rows"];

type Row = Record<string, unknown> & { id: string; name: string; kind: string; cutter_id: string };

const { db, close } = await openDatabase(undefined);
await seedDemo(db);
const ask = async (query: string): Promise<Record<string, unknown>[]> =>
  ((await db.execute(sql.raw(query))) as unknown as { rows: Record<string, unknown>[] }).rows;
const tables = (await ask("select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'"))
  .map(({ name }) => String(name))
  .filter((name) => !OUT.includes(name));
const rowsOf = async (name: string) =>
  (await ask(`select row_to_json(t)::text as row from "${name}" t order by 1`)).map(({ row }) => JSON.parse(String(row)) as Row);
/** So many of each kind. */
const ofEach = (rows: readonly Row[], most: number) => rows.filter((row, i) => rows.slice(0, i).filter(({ kind }) => kind === row.kind).length < most);

const log = tables.includes("log_entries") ? await rowsOf("log_entries") : [];
const logged = new Set(log.map(({ cutter_id }) => cutter_id));
const cutters = (await rowsOf("cutters"))
  .sort((a, b) => Number(logged.has(b.id)) - Number(logged.has(a.id)) || (a.name < b.name ? -1 : 1))
  .slice(0, MOST.cutters);
const kept: Record<string, Row[]> = { cutters };
for (const name of tables.filter((each) => each !== "cutters").sort()) {
  if (name === "log_entries")
    kept[name] = ofEach(
      log.filter(({ cutter_id }) => cutters.some(({ id }) => id === cutter_id)),
      2,
    );
  else if (name === "drawer_items") kept[name] = ofEach(await rowsOf(name), 1);
  else kept[name] = (await rowsOf(name)).slice(0, MOST[name] ?? 10);
}
kept.photos = [];
const newest = readdirSync("drizzle").filter((name) => name.endsWith(".sql")).length - 1;
writeFileSync(`tests/fixtures/workshops/${String(newest).padStart(4, "0")}.json`, `${JSON.stringify(kept, null, 1)}\n`);
await close();
