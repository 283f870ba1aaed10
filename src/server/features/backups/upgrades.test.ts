import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { amcheck } from "@electric-sql/pglite/contrib/amcheck";
import { readMigrationFiles } from "drizzle-orm/migrator";
import pg from "pg";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { weighArchive } from "../../../../tests/helpers/archives";
import { layIn, type OlderWorkshop, olderWorkshops } from "../../../../tests/helpers/olderWorkshops";
import { startPostgres } from "../../../../tests/helpers/postgres";
import { bringUpToDate, type Database } from "../../kernel/db/client";
import { beforeUpdate, type QueryRows } from "../../kernel/db/migrations";
import { openPostgres } from "../../kernel/db/postgres";
import { verifyRows, verifyStructure } from "../../kernel/db/verify";
import { cutterRepository } from "../cutters/repository";
import { listDrawer } from "../drawer/repository";
import { listLogWhole } from "../log/repository";
import { planRepository } from "../plans/repository";
import { rigRepository } from "../rigs/repository";
import { writeBefore } from "./archiveFiles";
import { weighWorkshop } from "./move";

const OLDER = olderWorkshops();
const postgres = await startPostgres();
let pglite: PGlite;
beforeAll(async () => {
  pglite = await PGlite.create({ extensions: { amcheck } });
});
afterAll(async () => {
  await pglite.close();
  postgres?.remove();
});
afterEach(() => beforeUpdate(async () => undefined));

/** What a workshop must be to this program, whichever version wrote it. */
async function judged(db: Database, { tables }: OlderWorkshop, stored: Uint8Array | null): Promise<void> {
  const { readable: cutters, unreadable } = await cutterRepository.list(db);
  expect(unreadable).toEqual([]);
  const alive = (name: string) => (tables[name] ?? []).filter((row) => row.deleted_at === null || row.deleted_at === undefined);
  expect(cutters.map(({ document }) => document.name).sort()).toEqual(
    alive("cutters")
      .map(({ name }) => name)
      .sort(),
  );
  expect(await listDrawer(db)).toHaveLength(alive("drawer_items").length);
  let entries = 0;
  for (const { id } of cutters) {
    const log = await listLogWhole(db, id);
    expect(log.unreadable).toEqual([]);
    entries += log.rows.length;
  }
  expect(entries).toBe(tables.log_entries?.length ?? 0);
  for (const [repository, name] of [[planRepository, "plans"] as const, [rigRepository, "rigs"] as const]) {
    const { readable, unreadable: bad } = await repository.list(db);
    expect(bad).toEqual([]);
    expect(readable).toHaveLength(alive(name).length);
  }
  const now = await weighWorkshop(db);
  expect(now.find(({ kind }) => kind === "photos")?.rows).toBe(tables.photos ? 1 : 0);
  // As it was before, it was kept automatically, and what was kept is what is here now.
  expect(await weighArchive(stored ?? new Uint8Array())).toEqual(now);
  // And it can be gone on with.
  const [first] = cutters;
  if (first) expect((await cutterRepository.create(db, { ...first.document, name: "One more" })).revision).toBe(1);
}

const backups = (): (() => Uint8Array | null) => {
  let stored: Uint8Array | null = null;
  beforeUpdate(async (request: QueryRows) => {
    const folder = path.join(mkdtempSync(path.join(tmpdir(), "upwind-before-")), "workshop");
    const { name } = await writeBefore(request, "before.zip", folder);
    stored = new Uint8Array(readFileSync(path.join(`${folder}.backups`, name)));
    rmSync(path.dirname(folder), { recursive: true });
  });
  return () => stored;
};

describe("a workshop of every version there was", () => {
  it("has one for every shape the tables had before this one", () => {
    // Before a migration is added, npx tsx scripts/workshopFixture.ts keeps a workshop as it is without it.
    const known = readMigrationFiles({ migrationsFolder: "drizzle" }).length;
    expect(OLDER.map(({ migrations }) => migrations)).toEqual(Array.from({ length: known - 1 }, (_, i) => i + 1));
  });

  it.each(OLDER.map((older) => [older.migrations, older] as const))("opens on the embedded engine: migration %d", async (_number, older) => {
    await pglite.exec("drop schema public cascade; create schema public; drop schema if exists drizzle cascade");
    await layIn(older, (statement, values) => pglite.query(statement, values));
    const stored = backups();
    const db = await bringUpToDate(pglite);
    await judged(db, older, stored());
    expect((await verifyStructure(pglite)) ?? (await verifyRows(pglite))).toBeNull();
  });

  it.skipIf(!postgres).each(OLDER.map((older) => [older.migrations, older] as const))("opens on PostgreSQL: migration %d", async (_number, older) => {
    const url = postgres?.database() as string;
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    await layIn(older, (statement, values) => client.query(statement, values));
    await client.end();
    const stored = backups();
    const { db, close } = await openPostgres(url);
    try {
      await judged(db, older, stored());
    } finally {
      await close();
    }
  });

  it.skipIf(!postgres)("one that a newer program wrote is refused in words that name a backup, and nothing in it is changed", async () => {
    const url = postgres?.database() as string;
    const { db, close } = await openPostgres(url);
    await db.execute("insert into drizzle.__drizzle_migrations (hash, created_at) values ('later', 9999999999999)");
    await close();
    await expect(openPostgres(url)).rejects.toMatchObject({
      code: "newer-schema",
      message: expect.stringMatching(/newer Upwind Rod.*(newest backup is|No backup was found in)/),
    });
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const { rows } = await client.query("select count(*)::int as n from drizzle.__drizzle_migrations");
    await client.end();
    expect(rows[0].n).toBeGreaterThan(OLDER.length);
  });
});
