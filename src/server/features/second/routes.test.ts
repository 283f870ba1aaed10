import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { SECOND, type SecondView } from "@/contract/second/contract";
import { secondScreens } from "@/server/kernel/db/schema";
import { TestApp } from "../../../../tests/helpers/testApp";
import { TICKET_MS, ticketId } from "./screens";

let app: TestApp;
beforeAll(async () => {
  app = await TestApp.open();
});
afterAll(() => app.close());

const RIG = "7f1c1f5e-0000-4000-8000-00000000beef";
const row = (from: string, seconds: number) => ({ from, to: `${from}+`, seconds, waitS: 0, rootFeedMmS: 2, tipFeedMmS: 1, limit: "kerf", corner: false });
const ABOUT = {
  pacer: {
    kind: "pacer",
    name: "Tail fin",
    face: "upper",
    rows: [row("1", 4), row("2", 6)],
    parts: 1,
    templates: { root: { lines: [], numbers: [] }, tip: { lines: [], numbers: [] } },
  },
  stopwatch: { kind: "stopwatch", name: "Test cut" },
  dial: { kind: "dial", name: "Bench" },
  stop: { kind: "stop", name: "Frame", rig: RIG },
};
const made = async (kind: keyof typeof ABOUT) => {
  const { status, body } = await app.request<{ ticket: string; expiresAt: string; view: SecondView }>("POST", "/api/second", { about: ABOUT[kind] });
  expect(status).toBe(201);
  expect(SECOND.make.response.safeParse(body).error).toBeUndefined();
  return { ...body, at: `/api/second/${body.ticket}` };
};
const act = async (at: string, action: object) => {
  const { status, body } = await app.request<SecondView>("POST", at, action);
  expect(status).toBe(200);
  expect(SECOND.act.response.safeParse(body).error).toBeUndefined();
  return body;
};

describe("a second screen", () => {
  it("is opened by a ticket that is kept nowhere, shows what it is about, and for two hours", async () => {
    const { ticket, view, expiresAt, at } = await made("pacer");
    expect(ticket).toMatch(/^[A-Za-z0-9_-]{22}$/);
    expect(JSON.stringify(await app.db.select().from(secondScreens))).not.toContain(ticket);
    expect(view.about).toEqual(ABOUT.pacer);
    expect([view.revision, view.ended, view.addresses]).toEqual([1, false, []]);
    expect(Math.abs(Date.parse(expiresAt) - Date.now() - TICKET_MS)).toBeLessThan(5000);
    const shown = await app.request<SecondView>("GET", at);
    expect(shown.body.about).toEqual(ABOUT.pacer);
    expect(Math.abs(shown.body.nowMs - Date.now())).toBeLessThan(5000);
    expect((await made("pacer")).ticket).not.toBe(ticket);
    expect(await app.refusal("GET", "/api/second/never-given-out-so-long")).toEqual([404, "not-found"]);
    expect((await app.refusal("POST", "/api/second", { about: { kind: "moon" } }))[2]).toBe("about.kind");
  });

  it("says under which of this computer's addresses it is reached only where others can reach it", async () => {
    app.env = { HOST: "0.0.0.0", UPWIND_OPEN: "anyone" };
    const { view } = await made("stopwatch");
    for (const address of view.addresses ?? []) {
      expect(address).toMatch(/^\d+(\.\d+){3}$/);
      expect(address).not.toMatch(/^(127|169\.254)\./);
    }
    app.env = {};
  });

  it("of a pacer counts for both ends: here, begin, marks, pause, resume, again", async () => {
    const { at, ticket } = await made("pacer");
    expect((await act(at, { do: "look" })).revision).toBe(1);
    const here = await act(at, { do: "here", end: "tip" });
    expect([here.revision, here.pacer?.here.root]).toEqual([2, null]);
    expect(Math.abs((here.pacer?.here.tip ?? 0) - here.nowMs)).toBeLessThan(1000);
    const started = await act(at, { do: "begin", by: "hand" });
    expect(started.pacer?.run?.by).toBe("hand");
    // Ten seconds later, as the clock has it.
    const [held] = await app.db
      .select()
      .from(secondScreens)
      .where(eq(secondScreens.id, ticketId(ticket)));
    const { pacer } = (held as { state: unknown }).state as { pacer: { run: { startedMs: number } } };
    await app.db
      .update(secondScreens)
      .set({ state: { pacer: { ...pacer, run: { ...pacer.run, startedMs: pacer.run.startedMs - 10_000 } } } })
      .where(eq(secondScreens.id, ticketId(ticket)));
    const marked = await act(at, { do: "mark", end: "tip", leads: true });
    expect(marked.pacer?.marks.tip.filter((each) => each !== null).length).toBeGreaterThan(0);
    const paused = await act(at, { do: "pause" });
    expect(paused.pacer?.run?.pausedMs).not.toBeNull();
    // Paused already: nothing is written.
    expect((await act(at, { do: "pause" })).revision).toBe(paused.revision);
    expect((await act(at, { do: "resume" })).pacer?.run?.pausedMs).toBeNull();
    expect((await act(at, { do: "again" })).pacer?.run).toBeNull();
    expect((await act(at, { do: "look" })).about).toBeUndefined();
    for (const action of [{ do: "press" }, { do: "stop" }, { do: "hold" }, { do: "figures", figures: {} }])
      expect(await app.refusal("POST", at, action)).toEqual([422, "unreadable"]);
    expect((await app.refusal("POST", at, { do: "mark", end: "middle", leads: true }))[2]).toBe("end");
  });

  it("of a stopwatch runs, laps, stops and begins again", async () => {
    const { at } = await made("stopwatch");
    expect((await act(at, { do: "here", end: "tip" })).revision).toBe(1);
    const run = await act(at, { do: "press" });
    expect([run.revision, run.stopwatch?.lapsMs, run.stopwatch?.stoppedMs]).toEqual([2, [], null]);
    expect(Math.abs((run.stopwatch?.startedMs ?? 0) - run.nowMs)).toBeLessThan(1000);
    expect((await act(at, { do: "press" })).stopwatch?.lapsMs).toHaveLength(1);
    const stopped = await act(at, { do: "stop" });
    expect(stopped.stopwatch?.stoppedMs).not.toBeNull();
    expect((await act(at, { do: "stop" })).revision).toBe(stopped.revision);
    expect((await act(at, { do: "reset" })).stopwatch).toEqual({ startedMs: null, lapsMs: [], stoppedMs: null });
    for (const action of [{ do: "begin", by: "hand" }, { do: "pause" }, { do: "hold" }])
      expect(await app.refusal("POST", at, action)).toEqual([422, "unreadable"]);
  });

  it("of a dial shows what the page that opened it reads; wired instruments are read here instead", async () => {
    const { at, view } = await made("dial");
    expect(view.dial).toEqual({ figures: {}, troubles: [], wired: [] });
    const shown = await act(at, { do: "figures", figures: { volts_V: 11.5 } });
    expect(shown.dial).toEqual({ figures: { volts_V: 11.5 }, troubles: [], wired: ["the bench on the other screen"] });
    app.env = { UPWIND_SUPPLY: "nowhere at all" };
    const wired = (await app.request<SecondView>("GET", at)).body.dial;
    app.env = {};
    expect(wired?.wired).toHaveLength(1);
    expect(wired?.figures).toEqual({});
    expect(wired?.troubles[0]).toMatch(/must be an address/);
    expect(await app.refusal("POST", at, { do: "press" })).toEqual([422, "unreadable"]);
    expect((await act(at, { do: "here", end: "root" })).revision).toBe(2);
  });

  it("of a stop key shows its own frame's run and no other's", async () => {
    const { at, view } = await made("stop");
    expect(view.stop).toEqual({ phase: "ready", line: 0, lines: 0, heat: null });
    // Nothing runs: the key is pressed all the same, and harms nobody.
    expect((await act(at, { do: "stop" })).stop?.phase).toBe("ready");
    expect((await act(at, { do: "hold" })).revision).toBe(1);
    expect(await app.refusal("POST", at, { do: "press" })).toEqual([422, "unreadable"]);
  });

  it("opens without a sign-in until it expires or ends, and after that for members only", async () => {
    const { at, ticket } = await made("stopwatch");
    app.env = { HOST: "0.0.0.0" };
    expect((await app.request("GET", at)).status).toBe(200);
    await app.db
      .update(secondScreens)
      .set({ expiresAt: new Date(Date.now() - 1000) })
      .where(eq(secondScreens.id, ticketId(ticket)));
    expect(await app.refusal("GET", at)).toEqual([401, "sign-in"]);
    expect(await app.refusal("POST", at, { do: "press" })).toEqual([401, "sign-in"]);
    expect(await app.refusal("GET", `${at}/events`)).toEqual([401, "sign-in"]);
    app.env = {};
    expect((await app.request("GET", at)).status).toBe(200);
    const ended = await act(at, { do: "end" });
    expect(ended.ended).toBe(true);
    app.env = { HOST: "0.0.0.0" };
    expect(await app.refusal("GET", at)).toEqual([401, "sign-in"]);
    expect(await app.refusal("GET", "/api/second/never-given-out-so-long")).toEqual([401, "sign-in"]);
    app.env = {};
    // What ran out a day ago is cleared away when the next one is made.
    await app.db
      .update(secondScreens)
      .set({ expiresAt: new Date(Date.now() - 25 * 3600_000) })
      .where(eq(secondScreens.id, ticketId(ticket)));
    const { at: newer } = await made("stopwatch");
    expect(await app.refusal("GET", at)).toEqual([404, "not-found"]);
    expect((await app.request("GET", newer)).status).toBe(200);
  });

  it("two who press at one moment are both heard, one after the other", async () => {
    const { at } = await made("stopwatch");
    await act(at, { do: "press" });
    await Promise.all(Array.from({ length: 8 }, () => act(at, { do: "press" })));
    const { body } = await app.request<SecondView>("GET", at);
    expect(body.stopwatch?.lapsMs).toHaveLength(8);
    expect(body.revision).toBe(10);
  });
});
