import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { newDesign } from "@/core/cutters/solve/defaults";
import { metrics } from "@/server/kernel/metrics";
import { TestApp } from "../../../../tests/helpers/testApp";
import { eventStream } from "./feed";

let app: TestApp;
beforeAll(async () => {
  app = await TestApp.open();
});
afterAll(() => app.close());

const PATIENCE_MS = 8000;
const listening = async () => (await metrics().listening.get()).values[0]?.value ?? 0;
async function comes<T>(read: () => T | Promise<T>, good: (value: T) => boolean, what: string): Promise<T> {
  for (const from = Date.now(); ; ) {
    const value = await read();
    if (good(value)) return value;
    if (Date.now() - from > PATIENCE_MS) throw new Error(`${what}: last ${JSON.stringify(value)}`);
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
}
/** A page that listens: what it heard so far, and how it leaves. */
async function page(at = "") {
  const leaving = new AbortController();
  const response = await app.response("GET", `/api/changes${at}`, undefined, { signal: leaving.signal });
  const listener: string[] = [];
  const reader = (response.body as ReadableStream<Uint8Array>).getReader();
  let over = false;
  void (async () => {
    for (let text = ""; ; ) {
      const { done, value } = await reader.read();
      if (done) break;
      text += new TextDecoder().decode(value);
      const whole = text.split("\n\n");
      text = whole.pop() ?? "";
      listener.push(...whole);
    }
    over = true;
  })().catch(() => {
    over = true;
  });
  const result = () => listener.filter((event) => event.startsWith("data: ")).map((event) => JSON.parse(event.slice(6)) as Record<string, unknown>);
  await comes(result, (events) => events.length > 0, "hears that it listens");
  return { response, result, listener, leave: () => leaving.abort(), reader, over: () => over };
}

describe("changes sent to open pages", () => {
  it("begin with a word that something may have been missed, and then tell what is saved, with its revision", async () => {
    const { response, result, leave } = await page();
    expect(["content-type", "cache-control", "x-accel-buffering"].map((name) => response.headers.get(name))).toEqual([
      "text/event-stream; charset=utf-8",
      "no-store, no-transform",
      "no",
    ]);
    expect(result()).toEqual([{}]);
    const { body } = await app.request<{ cutter: { id: string } }>("POST", "/api/cutters", { design: newDesign("bow", "Heard of") });
    await comes(result, (events) => events.some(({ id }) => id === body.cutter.id), "made");
    await app.request("PUT", `/api/cutters/${body.cutter.id}`, { revision: 1, design: newDesign("bow", "Heard of again") });
    const events = await comes(result, (all) => all.some(({ revision }) => revision === 2), "saved");
    expect(events.filter(({ id }) => id === body.cutter.id).map(({ table, revision }) => [table, revision])).toEqual([
      ["cutters", 1],
      ["cutters", 2],
    ]);
    leave();
  });

  it("say nothing of second screens to those who are not in front of them, and that at once to those who do", async () => {
    const { result, leave } = await page();
    const { body } = await app.request<{ ticket: string }>("POST", "/api/second", { about: { kind: "stopwatch", name: "x" } });
    const other = await app.request<{ ticket: string }>("POST", "/api/second", { about: { kind: "stopwatch", name: "y" } });
    const gone = new AbortController();
    const stream = await app.response("GET", `/api/second/${body.ticket}/events`, undefined, { signal: gone.signal });
    const reader = (stream.body as ReadableStream<Uint8Array>).getReader();
    const next = async () => JSON.parse(new TextDecoder().decode((await reader.read()).value).slice(6)) as { revision: number; about?: unknown };
    const first = await next();
    expect([first.revision, first.about]).toEqual([1, undefined]);
    await app.request("POST", `/api/second/${other.body.ticket}`, { do: "press" });
    await app.request("POST", `/api/second/${body.ticket}`, { do: "press" });
    expect((await next()).revision).toBe(2);
    await app.request("POST", "/api/cutters", { design: newDesign("bow", "Last") });
    await comes(result, (events) => events.some(({ table }) => table === "cutters"), "the cutter");
    expect(result().some(({ table }) => table === "second_screens")).toBe(false);
    gone.abort();
    leave();
  });

  it("presence reaches everyone who has a document open, in both directions, and when they leave", async () => {
    const at = "cutters/7f1c1f5e-0000-4000-8000-00000000aaaa";
    const own = (events: Record<string, unknown>[], who: string) => events.filter(({ table, page: each }) => table === "presence" && each === who);
    const [one, two, elsewhere] = ["000000000000000a", "000000000000000b", "000000000000000c"];
    const first = await page(`?at=${at}&page=${one}`);
    const third = await page(`?at=plans/7f1c1f5e-0000-4000-8000-00000000aaaa&page=${elsewhere}`);
    await comes(first.result, (events) => own(events, elsewhere).length > 0, "the third came");
    const before = own(third.result(), one).length;
    const second = await page(`?at=${at}&page=${two}`);
    await comes(first.result, (events) => own(events, two).length > 0, "the second is there");
    expect(own(first.result(), two)[0]).toMatchObject({ at, gone: false, by: null, hello: true });
    // The first one answers, so that anyone who comes later learns of who came before; one that has another document open does not.
    const answered = await comes(second.result, (events) => own(events, one).length > 0, "the first answers");
    expect(own(answered, one)[0]).toMatchObject({ at, gone: false });
    await comes(third.result, (events) => own(events, one).length > before, "all hear of it");
    expect(own(second.result(), elsewhere)).toEqual([]);
    second.leave();
    const left = await comes(first.result, (events) => own(events, two).some(({ gone }) => gone === true), "the second left");
    expect(own(left, two).at(-1)).toMatchObject({ gone: true });
    first.leave();
    third.leave();
    for (const bad of ["?at=moon&page=000000000000000a", `?at=${at}&page=zz`, "?more=1"]) expect((await app.refusal("GET", `/api/changes${bad}`))[0]).toBe(422);
  });

  it("pages that left are let go of, by whichever side ended it", async () => {
    const before = await listening();
    const [one, two] = [await page(), await page()];
    expect(await listening()).toBe(before + 2);
    one.leave();
    await comes(listening, (pages) => pages === before + 1, "one left");
    await two.reader.cancel();
    await comes(listening, (pages) => pages === before, "the other left");
  });

  it("an event that cannot be made is noted down and hides none of the next; changes of one moment come in one piece", async () => {
    app.enter();
    const { error } = console;
    const noted: string[] = [];
    console.error = (line: string) => noted.push(line);
    const gone = new AbortController();
    let result = 0;
    const stream = eventStream(
      gone.signal,
      async (payload) => {
        result += 1;
        if (result === 2) throw new Error("not this one");
        return payload === null ? "begin" : "change";
      },
      async () => true,
      { togetherMs: 60 },
    );
    const reader = stream.getReader();
    const read = async () => new TextDecoder().decode((await reader.read()).value);
    expect(await read()).toBe("data: begin\n\n");
    for (const name of ["a", "b", "c"]) await app.request("POST", "/api/cutters", { design: newDesign("bow", name) });
    await comes(
      () => result,
      (count) => count >= 4,
      "three changes",
    );
    let text = "";
    while (!text.includes("data: change\n\ndata: change\n\n")) text += await read();
    console.error = error;
    expect(noted.some((line) => JSON.parse(line).event === "fault" && JSON.parse(line).where === undefined)).toBe(true);
    gone.abort();
  });
});
