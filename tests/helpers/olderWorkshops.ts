import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { readMigrationFiles } from "drizzle-orm/migrator";

/** A small workshop as a version of this program left it: the demo's own data, written by that version's own code. */
export interface OlderWorkshop {
  /** how many migrations it knew */
  migrations: number;
  tables: Readonly<Record<string, readonly Record<string, unknown>[]>>;
}

const FOLDER = "tests/fixtures/workshops";

/** One for every shape the tables ever had, oldest first. */
export const olderWorkshops = (): OlderWorkshop[] =>
  readdirSync(FOLDER)
    .filter((name) => name.endsWith(".json"))
    .sort()
    .map((name) => ({ migrations: Number(name.slice(0, 4)) + 1, tables: JSON.parse(readFileSync(path.join(FOLDER, name), "utf8")) }));

type Run = (statement: string, values?: unknown[]) => Promise<unknown>;

/** Migrations after which the bytes of photographs are in a table of their own. */
const PHOTOS_BY_SUM = 12;
const PICTURE = "89504e470d0a1a0a0000000d";

/** Rows that another row names come first. */
const ORDER = ["workshop", "cutters"];

/** Lays one into an empty database, with that version's migrations and no later ones. A picture too, where it had room for one. */
export async function layIn({ migrations, tables }: OlderWorkshop, run: Run): Promise<void> {
  const files = readMigrationFiles({ migrationsFolder: "drizzle" }).slice(0, migrations);
  for (const { sql } of files) for (const statement of sql) await run(statement);
  await run("create schema if not exists drizzle");
  await run("create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)");
  for (const { hash, folderMillis } of files) await run("insert into drizzle.__drizzle_migrations (hash, created_at) values ($1, $2)", [hash, folderMillis]);
  const names = Object.keys(tables).sort((a, b) => ORDER.indexOf(b) - ORDER.indexOf(a));
  for (const name of names)
    for (const row of tables[name] ?? [])
      await run(`insert into "${name}" select * from json_populate_record(null::"${name}", $1::json)`, [JSON.stringify(row)]);
  const [cutter] = tables.cutters ?? [];
  if (!tables.photos || !cutter) return;
  const hasBytes = migrations <= PHOTOS_BY_SUM;
  if (!hasBytes) {
    await run("insert into photo_bytes (sum, bytes) select encode(sha256(b), 'hex'), b from (select decode($1, 'hex') as b) x", [PICTURE]);
    await run("insert into photos (cutter_id, type, sum) select $1, 'image/png', sum from photo_bytes", [cutter.id]);
  } else await run("insert into photos (cutter_id, type, bytes) values ($1, 'image/png', decode($2, 'hex'))", [cutter.id, PICTURE]);
}
