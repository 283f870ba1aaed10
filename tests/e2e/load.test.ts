import { mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { afterAll, describe, expect, it } from "vitest";
import { type Crowd, letIn, quantile, residentMb, startCrowd } from "../helpers/crowd";
import { freePort } from "../helpers/ports";
import { startPostgres } from "../helpers/postgres";
import { TestServer } from "../helpers/server";

/** Minutes and fifty members, by npm run long -- load alone. */
const LONG = process.env.UPWIND_LOAD_S !== undefined;
const SECONDS = Number(process.env.UPWIND_LOAD_S ?? 600);
const MEMBERS = { postgres: 50, embedded: 10 };
/** Between two things a member does, s. */
const THINK_S = 3;
/** Not looked at: caches fill, code is compiled. */
const WARM_SHARE = 0.15;

const postgres = LONG ? await startPostgres() : null;
afterAll(() => postgres?.remove());

interface Seen {
  atS: number;
  /** resident, of each process */
  mb: number[];
  /** in use once everything unused was collected, of each process; now and then only: collecting takes a moment */
  live: number[] | null;
}

/** How much is in use, asked of {@link liveHeap}. */
const HEAP_EVERY_S = SECONDS / 20;
async function liveHeap(): Promise<{ env: Record<string, string>; mb: () => Promise<number> }> {
  const port = await freePort();
  return {
    env: { NODE_OPTIONS: `--require ${path.resolve("tests/helpers/liveHeap.cjs")}`, UPWIND_LIVE_HEAP: String(port) },
    mb: async () => {
      const { heapUsed, external } = (await (await fetch(`http://127.0.0.1:${port}/`)).json()) as NodeJS.MemoryUsage;
      return (heapUsed + external) / 1024 / 1024;
    },
  };
}

/** The crowd at work for so long, and the processes' memory meanwhile. */
async function load(
  servers: readonly TestServer[],
  many: number,
  heaps: readonly Awaited<ReturnType<typeof liveHeap>>[],
): Promise<{ crowd: Crowd; seen: Seen[]; wrong: string[] }> {
  const crowd = await startCrowd(
    servers.map(({ url }) => url),
    many,
    THINK_S,
  );
  const from = Date.now();
  const seen: Seen[] = [];
  let heapAtS = 0;
  while (Date.now() - from < SECONDS * 1000) {
    await pause(Math.min(5000, SECONDS * 100));
    const atS = (Date.now() - from) / 1000;
    crowd.record.timing = atS > WARM_SHARE * SECONDS;
    if (!crowd.record.timing) continue;
    const collected = atS >= heapAtS;
    if (collected) heapAtS = atS + HEAP_EVERY_S;
    seen.push({ atS, mb: servers.map(({ pid }) => residentMb(pid)), live: collected ? await Promise.all(heaps.map(({ mb }) => mb())) : null });
  }
  return { crowd, seen, wrong: await crowd.finish() };
}

const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length;

/** What was measured, in words and as JSON that docs/operations.md is written from. */
function report(name: string, many: number, { crowd: { record }, seen }: Awaited<ReturnType<typeof load>>) {
  /** Of the first third of the time and of the last, and the most of all. */
  const thirds = (values: readonly number[]) => {
    const third = Math.floor(values.length / 3);
    return { first: mean(values.slice(0, third)), last: mean(values.slice(-third)), most: Math.max(...values) };
  };
  const live = seen.flatMap((each) => (each.live ? [each.live] : []));
  const memory = (seen[0]?.mb ?? []).map((_, i) => ({
    resident: thirds(seen.map(({ mb }) => mb[i] as number)),
    live: thirds(live.map((mb) => mb[i] as number)),
  }));
  const figures = {
    name,
    members: many,
    seconds: SECONDS,
    ...Object.fromEntries(
      Object.entries(record.ms).map(([kind, ms]) => [kind, { count: ms.length, p50: quantile(ms, 0.5), p95: quantile(ms, 0.95), most: quantile(ms, 1) }]),
    ),
    apartMs: Math.max(0, ...record.apart),
    entries: record.entries.acknowledged.size,
    counted: [...record.counts.values()].reduce((sum, { acknowledged }) => sum + acknowledged, 0),
    memory,
  };
  const folder = path.resolve("node_modules/.cache/upwind");
  mkdirSync(folder, { recursive: true });
  writeFileSync(
    path.join(folder, `load-${name}.json`),
    JSON.stringify(figures, (_, value) => (typeof value === "number" ? Math.round(value * 10) / 10 : value), 1),
  );
  const p95 = (kind: keyof typeof record.ms) => quantile(record.ms[kind], 0.95);
  console.log(JSON.stringify(figures, (_, value) => (typeof value === "number" ? Math.round(value * 10) / 10 : value)));
  expect([name, "p95 of a save, ms", p95("save") < 150]).toEqual([name, "p95 of a save, ms", true]);
  expect([name, "p95 of a page, ms", p95("page") < 400]).toEqual([name, "p95 of a page, ms", true]);
  // What is in use must not grow; how much of what is not the process holds on to is the collector's own business, and is written down.
  for (const { live } of memory) expect([name, "flat", live.last < 1.1 * live.first]).toEqual([name, "flat", true]);
  return record;
}

const busy = (record: Crowd["record"]) => {
  const counted = [...record.counts.values()].reduce((sum, { acknowledged }) => sum + acknowledged, 0);
  const saved = [...record.own.values()].reduce((sum, { revisions }) => sum + revisions.length, 0);
  expect(record.entries.acknowledged.size + record.things.acknowledged.size + counted + saved).toBeGreaterThan(0);
  expect(record.unanswered).toBe(0);
  expect(record.ms.page.length + record.ms.save.length + record.ms.read.length).toBeGreaterThan(0);
  expect(record.ms.call.length).toBeGreaterThan(0);
};

// The short version of both is in faults.test.ts: there the crowd is at work while things break.
describe.skipIf(!LONG)("a crowd at work", () => {
  it("on the embedded engine loses no write and doubles none", async () => {
    const server = new TestServer();
    await server.start({ seed: true });
    await server.stop();
    await letIn(server.folder);
    const heap = await liveHeap();
    await server.start({ seed: true, host: "0.0.0.0", env: heap.env });
    try {
      const done = await load([server], MEMBERS.embedded, [heap]);
      expect(done.wrong).toEqual([]);
      busy(report("embedded", MEMBERS.embedded, done));
    } finally {
      await server.remove();
    }
  }, 4_000_000);
});

describe.skipIf(!postgres || !LONG)("a crowd at work on PostgreSQL", () => {
  const pg = postgres as NonNullable<typeof postgres>;

  it("with two processes loses no write and doubles none, and both ends of a bow count alike", async () => {
    const url = pg.database();
    await letIn(url);
    const servers = [new TestServer(), new TestServer()];
    try {
      const heaps = await Promise.all(servers.map(liveHeap));
      for (const [i, server] of servers.entries()) await server.start({ seed: true, host: "0.0.0.0", env: { DATABASE_URL: url, ...heaps[i]?.env } });
      const done = await load(servers, MEMBERS.postgres, heaps);
      expect(done.wrong).toEqual([]);
      busy(report("postgres", MEMBERS.postgres, done));
      expect(quantile(done.crowd.record.apart, 0.95)).toBeLessThan(40);
    } finally {
      for (const server of servers) await server.remove();
    }
  }, 4_000_000);
});
