import { afterEach, expect, it, vi } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { ApiError, api, PATIENCE_MS } from "./api";

const ID = "3f2b8c1e-0000-4000-8000-000000000001";
const cutter = { id: ID, design: DEMO_CUTTERS[0], revision: 3, updatedAt: "2026-05-01T10:00:00.000Z", deletedAt: null };

function answers(status: number, body: unknown) {
  const sent: { url: string; method: string; body: unknown }[] = [];
  vi.stubGlobal("fetch", (url: string, { method, body: text }: { method: string; body?: string }) => {
    sent.push({ url, method, body: text === undefined ? undefined : JSON.parse(text) });
    return Promise.resolve(new Response(typeof body === "string" ? body : JSON.stringify(body), { status }));
  });
  return sent;
}
const fault = (work: Promise<unknown>) =>
  work.then(
    () => expect.fail("went well"),
    (error) => error as ApiError,
  );

afterEach(() => vi.unstubAllGlobals());

it("asks the route its exchange belongs to, and reads the answer by its contract", async () => {
  const sent = answers(200, { cutter });
  expect((await api.cutters.save(ID, 3, cutter.design as never)).revision).toBe(3);
  expect(sent).toEqual([{ url: `/api/cutters/${ID}`, method: "PUT", body: { revision: 3, design: cutter.design } }]);
});

it("an answer that is not what the contract says is refused, with the place that is wrong", async () => {
  answers(200, { cutter: { ...cutter, design: { ...cutter.design, job: { ...cutter.design?.job, feed_mm_s: "fast" } } } });
  const error = await fault(api.cutters.get(ID));
  expect(error).toBeInstanceOf(ApiError);
  expect([error.code, error.message]).toEqual(["unreadable-answer", "The server's answer cannot be read at cutter.design.job.feed_mm_s."]);
  answers(200, "<html>");
  expect((await fault(api.cutters.list())).code).toBe("unreadable-answer");
});

it("a refusal keeps its code, its place, its words and what is there", async () => {
  answers(409, { error: { code: "stale-revision", path: "revision", message: "Changed elsewhere.", current: cutter } });
  const error = await fault(api.cutters.save(ID, 2, cutter.design as never));
  expect([error.code, error.path, error.message, error.status]).toEqual(["stale-revision", "revision", "Changed elsewhere.", 409]);
  expect(error.current).toMatchObject({ id: ID, revision: 3 });
  answers(502, "bad gateway");
  expect(await fault(api.cutters.remove(ID))).toMatchObject({ code: "server-failed", status: 502, message: "The server answered 502." });
});

it("a server that does not answer differs from one that refuses", async () => {
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("network")));
  expect(await fault(api.drawer.list())).toMatchObject({ code: "unreachable", status: 0 });
  // Nor does one that breaks off in the middle of its answer: whether it was done is not known, so it is asked again.
  const broken = new ReadableStream({
    start(controller) {
      controller.enqueue(new TextEncoder().encode('{"cutter":{"id"'));
      controller.error(new TypeError("terminated"));
    },
  });
  vi.stubGlobal("fetch", () => Promise.resolve(new Response(broken, { status: 200 })));
  expect(await fault(api.cutters.save(ID, 2, cutter.design as never))).toMatchObject({ code: "unreachable", status: 0 });
});

it("a question that is never answered is given up, also where its asker would wait; an archive is waited for", async () => {
  vi.useFakeTimers();
  const timed: number[] = [];
  vi.spyOn(AbortSignal, "timeout").mockImplementation((ms) => {
    timed.push(ms);
    const deferred = new AbortController();
    setTimeout(() => deferred.abort(), ms);
    return deferred.signal;
  });
  vi.stubGlobal(
    "fetch",
    (_: string, { signal }: { signal: AbortSignal | null }) => new Promise((_resolve, reject) => signal?.addEventListener("abort", reject)),
  );
  const requested = fault(api.cutters.list(200, new AbortController().signal));
  await vi.advanceTimersByTimeAsync(PATIENCE_MS);
  expect(await requested).toMatchObject({ code: "unreachable", status: 0 });
  void api.backups.make();
  expect(timed).toEqual([PATIENCE_MS]);
  vi.useRealTimers();
  vi.restoreAllMocks();
});
