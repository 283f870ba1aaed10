import { setTimeout as pause } from "node:timers/promises";
import { afterAll, describe, expect, it } from "vitest";
import { until } from "../helpers/browser";
import { Chance, type CrowdMember, letIn, startCrowd } from "../helpers/crowd";
import { startPostgres } from "../helpers/postgres";
import { TestServer } from "../helpers/server";
import { Way } from "../helpers/way";

/** Dozens by npm run long -- faults; a few here. */
const KILLS = Number(process.env.UPWIND_FAULT_KILLS ?? 2);
const RESTARTS = Number(process.env.UPWIND_FAULT_RESTARTS ?? 2);
const MEMBERS = process.env.UPWIND_FAULT_KILLS ? 20 : 10;
/** Of the pieces that pass, how many take their connection down with them. */
const LOSES = 0.05;

const postgres = await startPostgres();
afterAll(() => postgres?.remove());

/** While the database server is away a signed-in member sees a notice and is not sent to sign in again; the page reloads automatically. */
async function expectAwayNotice(member: CrowdMember): Promise<void> {
  const pg = postgres as NonNullable<typeof postgres>;
  pg.stop("immediate");
  // Who is signed in is remembered for some seconds.
  const response = (path: string) =>
    until(
      () => member.request(path),
      ({ status, headers }) => status === 503 && (path.startsWith("/api") || headers.has("refresh")),
      `${path} says that the database is away`,
    );
  expect(await (await response("/cutters")).text()).toMatch(/database server does not answer.*Nothing that was saved is lost/);
  expect(await (await response("/api/cutters")).json()).toMatchObject({ error: { code: "database-away", message: expect.stringMatching(/Nothing was lost/) } });
  // What is for everyone is there all the same.
  expect((await member.request("/offline")).status).toBe(200);
  expect(await (await response("/api/health")).json()).toMatchObject({ ok: false });
  await pg.start();
  await until(
    () => member.request("/cutters"),
    ({ status }) => status === 200,
    "the page is there again, and its reader still signed in",
  );
}

describe.skipIf(!postgres)("a crowd at work while things break", () => {
  const pg = postgres as NonNullable<typeof postgres>;

  it("with processes killed, the database server restarted and the way losing questions and answers, every acknowledged write is once", async () => {
    const url = pg.database();
    await letIn(url);
    const servers = [new TestServer(), new TestServer()];
    const start = (server: TestServer) => server.start({ seed: true, host: "0.0.0.0", env: { DATABASE_URL: url } });
    for (const server of servers) await start(server);
    const ways = servers.map((server, i) => new Way(() => server.port, i + 1));
    try {
      for (const way of ways) await way.begin();
      const crowd = await startCrowd(
        ways.map((way) => way.url),
        MEMBERS,
        0.5,
      );
      for (const way of ways) way.loses = LOSES;
      const chance = new Chance(11);
      const actions = [...Array.from({ length: KILLS }, () => "kill" as const), ...Array.from({ length: RESTARTS }, () => "restart" as const)];
      for (let i = 0, killed = 0, stopped = 0; actions.length > 0; i++) {
        await pause(400 + 800 * chance.next());
        const [action] = actions.splice(Math.floor(chance.next() * actions.length), 1);
        if (action === "kill") {
          const server = servers[killed++ % servers.length] as TestServer;
          server.signalGroup("SIGKILL");
          await server.stop("SIGKILL");
          await pause(500 * chance.next());
          await start(server);
        } else {
          // In turn as an administrator stops it, which breaks connections off, and as a power cut does.
          pg.stop(stopped++ % 2 === 0 ? "fast" : "immediate");
          await pause(1500 * chance.next());
          await pg.start();
        }
        if (i % 5 === 4) (ways[i % ways.length] as Way).cutAll();
      }
      await pause(1000);
      for (const way of ways) way.loses = 0;
      const { record } = crowd;
      expect(await crowd.finish()).toEqual([]);
      const lost = ways.map((way) => way.lost);
      const written =
        record.entries.acknowledged.size +
        record.things.acknowledged.size +
        [...record.counts.values()].reduce((sum, { acknowledged }) => sum + acknowledged, 0);
      const saved = [...record.own.values()].reduce((sum, { revisions }) => sum + revisions.length, 0);
      console.log(JSON.stringify({ members: MEMBERS, kills: KILLS, restarts: RESTARTS, written, saved, unanswered: record.unanswered, lost }));
      expect([written + saved > 0, record.unanswered > 0]).toEqual([true, true]);
      expect(lost.reduce((sum, { questions, answers }) => sum + questions + answers, 0)).toBeGreaterThan(0);
      await expectAwayNotice(crowd.members[0] as CrowdMember);
      // What a server says of it is no word of what was written.
      for (const server of servers) expect(server.output).not.toMatch(/Hand \d|entry \d|postgres:\/\//);
    } finally {
      for (const way of ways) await way.end();
      for (const server of servers) await server.remove();
    }
  }, 1_800_000);
});
