// What keeping things safe costs, and how fast a big workshop opens. Figures against a named reference of the same run.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { drizzle } from "drizzle-orm/pglite";
import { migrate } from "drizzle-orm/pglite/migrator";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { DESIGN_VERSION } from "@/core/cutters/design/vocabulary";
import { itemKey } from "@/core/drawer/csv";
import { itemSchema } from "@/core/drawer/items";
import { demoLog } from "@/core/log/demoLog";
import type { LogEntry } from "@/core/log/entries";
import { cutterRepository } from "@/server/features/cutters/repository";
import { type Database, openDatabase } from "@/server/kernel/db/client";
import { synced } from "@/server/kernel/db/engine";
import * as schema from "@/server/kernel/db/schema";
import { TestServer } from "../helpers/server";
import { medianOf, say } from "./say";

const SAVES = 300;

/** Saves a cutter over and over. @returns median time of one acknowledged save, ms */
async function savesOf(db: Database): Promise<number> {
  const [design] = DEMO_CUTTERS;
  if (!design) throw new Error("no demo");
  let { id, revision } = await cutterRepository.create(db, design);
  const times: number[] = [];
  for (let i = 0; i < SAVES; i++) {
    const started = performance.now();
    ({ id, revision } = await cutterRepository.save(db, id, revision, { ...design, notes: `turn ${i}` }));
    times.push(performance.now() - started);
  }
  return medianOf(times);
}

/** An acknowledged save brought to the disk, against the same engine as it ships, which leaves that to chance. */
async function costOfSync(): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), "upwind-bench-"));
  try {
    const { db, close } = await openDatabase(path.join(folder, "kept"));
    const before = synced.calls;
    const stored = await savesOf(db);
    const calls = synced.calls - before;
    await close();
    const loose = await PGlite.create({ dataDir: path.join(folder, "loose") });
    const looseDb = drizzle(loose, { schema });
    await migrate(looseDb, { migrationsFolder: path.resolve("drizzle") });
    const unkept = await savesOf(looseDb);
    await loose.close();
    say(`acknowledged save, on the disk (${(calls / (SAVES + 1)).toFixed(1)} kernel syncs each), median`, `${stored.toFixed(2)} ms`);
    say("  the engine as it ships, nothing synced", `${unkept.toFixed(2)} ms; keeping costs ${(stored / unkept).toFixed(1)} times`);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const ITEMS = Array.from({ length: 3000 }, (_, i) =>
  itemSchema.parse(
    i % 2 === 0
      ? {
          kind: "wire",
          name: `Spool ${i}`,
          alloy: ["ss-304", "nicr-80-20", "fecral", "nicr-60-16"][(i / 2) % 4],
          diameter_mm: 0.2 + (i % 90) * 0.01,
          length_m: 50,
        }
      : { kind: "supply", name: `Brick ${i}`, supply: { kind: "dc", voltage_V: 5 + (i % 40), maxCurrent_A: 1 + (i % 12) } },
  ),
);

/** Rows in lots, as one statement each. */
async function lots<T>(rows: readonly T[], insert: (lot: T[]) => PromiseLike<unknown>): Promise<void> {
  for (let i = 0; i < rows.length; i += 500) await insert(rows.slice(i, i + 500));
}

/** A workshop of many years, filled below the repositories: 1,500 cutters, 20,000 log entries, 1,500 wires and as many supplies. */
async function bigWorkshop(folder: string): Promise<string> {
  const { db, close } = await openDatabase(folder);
  const designs = Array.from({ length: 1500 }, (_, i) => ({ ...DEMO_CUTTERS[i % DEMO_CUTTERS.length], name: `Cutter ${i}` }) as (typeof DEMO_CUTTERS)[number]);
  let first = "";
  await lots(designs, async (lot) => {
    const made = await db
      .insert(schema.cutters)
      .values(lot.map((design) => ({ name: design.name, formatVersion: DESIGN_VERSION, document: design })))
      .returning({ id: schema.cutters.id });
    first ||= made[0]?.id ?? "";
  });
  const entries = demoLog();
  const years = Array.from({ length: 20_000 }, (_, i) => {
    const at = new Date(Date.UTC(2015, 0, 1) + i * 5 * 3600e3).toISOString();
    const entry = { ...entries[i % entries.length], at } as LogEntry;
    return { cutterId: first, kind: entry.kind, at: new Date(at), entry };
  });
  await lots(years, (lot) => db.insert(schema.logEntries).values(lot));
  await lots(ITEMS, (lot) =>
    db.insert(schema.drawerItems).values(lot.map((item) => ({ kind: item.kind, name: item.name, nameKey: itemKey(item.kind, item.name), item }))),
  );
  await close();
  return first;
}

/** Median of an answer read whole, ms, after one to warm up. */
async function answered(url: string, times = 7): Promise<number> {
  const took: number[] = [];
  for (let i = 0; i <= times; i++) {
    const started = performance.now();
    const response = await fetch(url);
    await response.arrayBuffer();
    if (!response.ok) throw new Error(`${url} answered ${response.status}`);
    if (i > 0) took.push(performance.now() - started);
  }
  return medianOf(took);
}

/** Prints what safety costs and how a big workshop answers. */
export async function app(): Promise<void> {
  await costOfSync();
  const server = new TestServer();
  try {
    const first = await bigWorkshop(server.folder);
    await server.start();
    const list = await answered(`${server.url}/cutters`);
    const log = await answered(`${server.url}/api/cutters/${first}/log`);
    const matches = await answered(`${server.url}/matches`);
    say("list of 1,500 cutters beside 20,000 log entries, page sent whole, median", `${list.toFixed(0)} ms (500 asked)`);
    say("  the first page of the log that has all 20,000", `${log.toFixed(0)} ms`);
    say("matches of 1,500 wires and 1,500 supplies, first page sent whole, median", `${matches.toFixed(0)} ms (300 asked)`);
    // Whether others are kept waiting: the shortest request there is, while the matches are asked for.
    const busy = fetch(`${server.url}/matches`).then((response) => response.arrayBuffer());
    const started = performance.now();
    await (await fetch(`${server.url}/icon.svg`)).arrayBuffer();
    const waited = performance.now() - started;
    await busy;
    say("  another request meanwhile waits", `${waited.toFixed(0)} ms`);
  } finally {
    await server.remove();
  }
}
