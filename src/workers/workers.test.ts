import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { LESSONS } from "@/core/bench/lessons";
import { BENCH_DEFAULTS } from "@/core/bench/world";
import { teachingCuts } from "@/core/calibration/measured";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { demoLog } from "@/core/log/demoLog";
import { resolveWire } from "@/core/physics/heat/wire";
import type { BenchFrame, FromBench, ToBench } from "./bench/protocol";
import type { FromTaskWorker, ToTaskWorker } from "./kit/messages";

/** The worker's own side of its port, with the test at the other end. */
interface Port<To, From> {
  onmessage: ((event: { data: To }) => void) | null;
  postMessage: (message: From) => void;
  said: From[];
}
function port<To, From>(): Port<To, From> {
  const said: From[] = [];
  return { onmessage: null, postMessage: (message) => said.push(message), said };
}
const tom = designSchema.parse(DEMO_CUTTERS[0]);

beforeEach(() => {
  vi.resetModules();
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("the bench's worker", () => {
  async function started() {
    const own = port<ToBench, FromBench>();
    vi.stubGlobal("self", own);
    await import("./bench/bench.worker");
    const say = (message: ToBench) => own.onmessage?.({ data: message });
    const frames = () => own.said.flatMap((message) => (message.kind === "frame" ? [message.frame] : []));
    return { own, say, frames };
  }
  /** The track as the page puts it together from what each frame brings. */
  function together(frames: readonly BenchFrame[]) {
    const track: BenchFrame["track"]["rows"] = [];
    for (const frame of frames) {
      track.length = Math.min(track.length, frame.track.from);
      track.push(...frame.track.rows);
    }
    return track;
  }

  it("runs in real time, sixty frames a second, and passes on what the page says", async () => {
    const { say, frames, own } = await started();
    say({ kind: "open", run: 1, design: tom, options: BENCH_DEFAULTS });
    say({ kind: "heat", run: 1, on: true });
    await vi.advanceTimersByTimeAsync(2000);
    const last = frames().at(-1);
    expect(last?.timeS).toBeGreaterThan(1.8);
    expect(last?.timeS).toBeLessThan(2.1);
    expect(frames().length).toBeGreaterThan(100);
    expect(last?.heatOn).toBe(true);
    expect(last?.airC).toBeGreaterThan(60);
    say({ kind: "knob", run: 1, setting: 5 });
    await vi.advanceTimersByTimeAsync(1500);
    expect(frames().at(-1)?.volts).toBeLessThan(5.2);
    say({ kind: "say", run: 1, id: 7, device: "supply", line: "VOLT?" });
    expect(own.said.at(-1)).toEqual({ kind: "said", run: 1, id: 7, evaluation: "5.000" });
    say({ kind: "say", run: 1, id: 8, device: "pwm", line: "*IDN?" });
    expect(own.said.at(-1)).toEqual({ kind: "said", run: 1, id: 8, evaluation: null });
  });

  it("goes faster, does not move, and after a hold-up goes on from where it was instead of leaping", async () => {
    const { say, frames } = await started();
    say({ kind: "open", run: 1, design: tom, options: BENCH_DEFAULTS });
    say({ kind: "pace", run: 1, times: 4 });
    await vi.advanceTimersByTimeAsync(1000);
    const fast = frames().at(-1)?.timeS ?? 0;
    expect(fast).toBeGreaterThan(3.6);
    say({ kind: "pace", run: 1, times: 0 });
    const count = frames().length;
    await vi.advanceTimersByTimeAsync(1000);
    expect(frames().length).toBe(count);
    say({ kind: "pace", run: 1, times: 1 });
    vi.setSystemTime(Date.now() + 60_000);
    await vi.advanceTimersByTimeAsync(100);
    expect((frames().at(-1)?.timeS ?? 99) - fast).toBeLessThan(1);
  });

  it("sends each row of the track and each point of the traces once, a widened row again", async () => {
    const { say, frames } = await started();
    say({ kind: "open", run: 1, design: tom, options: BENCH_DEFAULTS });
    say({ kind: "heat", run: 1, on: true });
    say({ kind: "pace", run: 1, times: 4 });
    await vi.advanceTimersByTimeAsync(3000);
    say({ kind: "hand", run: 1, hand: { mode: "pace", mPerS: 0.006 } });
    await vi.advanceTimersByTimeAsync(2500);
    say({ kind: "hand", run: 1, hand: { mode: "still" } });
    await vi.advanceTimersByTimeAsync(1500);
    const track = together(frames());
    expect(track.length).toBeGreaterThan(50);
    for (let i = 1; i < track.length; i++) expect(track[i]?.p).toBeGreaterThan(track[i - 1]?.p as number);
    const widest = Math.max(...track.map((row) => row.kerfM));
    expect(track.at(-1)?.kerfM).toBe(widest); // where it rests now the groove grew
    const times = frames().flatMap((frame) => frame.traces.timeS);
    for (let i = 1; i < times.length; i++) expect(times[i]).toBeGreaterThan(times[i - 1] as number);
    say({ kind: "report", run: 1, id: 1 });
  });

  it("lets messages of an older run lie, opens any lesson, and says in words what cannot be opened", async () => {
    const { say, own, frames } = await started();
    for (const [i, lesson] of LESSONS.entries()) {
      say({ kind: "open", run: i + 1, design: lesson.design, options: lesson.options });
      await vi.advanceTimersByTimeAsync(60);
      expect(frames().at(-1)?.broken).toBe(false);
    }
    const runs = LESSONS.length;
    say({ kind: "heat", run: 1, on: true });
    await vi.advanceTimersByTimeAsync(200);
    expect(frames().at(-1)?.heatOn).toBe(false);
    expect(own.said.at(-1)).toMatchObject({ run: runs });
    say({ kind: "open", run: runs + 1, design: { ...tom, wire: { ...tom.wire, alloy: "unobtainium" } }, options: BENCH_DEFAULTS });
    expect(own.said.at(-1)).toMatchObject({ kind: "failed", run: runs + 1 });
    // The refused one leaves an empty bench: nothing of the one before goes on being sent.
    const sent = own.said.length;
    await vi.advanceTimersByTimeAsync(400);
    expect(own.said.length).toBe(sent);
  });
});

describe("the other workers", () => {
  async function requested(file: "engine" | "ear" | "learn", message: ToTaskWorker): Promise<FromTaskWorker | undefined> {
    const own = port<ToTaskWorker, FromTaskWorker>();
    vi.stubGlobal("self", own);
    if (file === "engine") await import("./engine/engine.worker");
    else if (file === "ear") await import("./ear/ear.worker");
    else await import("./learn/learn.worker");
    own.onmessage?.({ data: message });
    return own.said.at(-1);
  }

  it("learn answers with the fit and the next cut, or with why it cannot", async () => {
    const cuts = teachingCuts(tom, demoLog());
    const done = await requested("learn", { task: "learn", run: 3, job: { design: tom, cuts } });
    expect(done).toMatchObject({ kind: "done", run: 3, result: { cuts: cuts.length, next: { measure: expect.stringMatching(/kerf|bow/) } } });
    vi.resetModules();
    expect(await requested("learn", { task: "learn", run: 4, job: { design: tom, cuts: [] } })).toMatchObject({ kind: "failed", run: 4, code: "missing-key" });
  });

  it("the ear hears what it is given and refuses what is no sound in words", async () => {
    const wire = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.4 });
    const messages = await requested("ear", {
      task: "hear",
      run: 1,
      job: { from: "simulated", scene: { wire, spanM: 0.5, tensionN: 20, sampleRate: 16000, seconds: 1.3, seed: 1 } },
    });
    // String closed form: 137.6 Hz.
    expect(messages).toMatchObject({ kind: "done", result: { hz: expect.closeTo(137.6, 0) } });
    vi.resetModules();
    expect(await requested("ear", { task: "hear", run: 2, job: { from: "wav", bytes: new Uint8Array(20) } })).toMatchObject({ kind: "failed", run: 2 });
  });

  it("a task sent to the wrong worker is refused, not guessed at", async () => {
    const stray = { task: "learn", run: 9, job: { design: tom, cuts: [] } } satisfies ToTaskWorker;
    expect(await requested("engine", stray)).toMatchObject({ kind: "failed", run: 9, message: expect.stringContaining("does not know learn") });
    vi.resetModules();
    expect(await requested("ear", stray)).toMatchObject({ kind: "failed", run: 9 });
  });

  it("says how far it is while it works, with the number of what was asked", async () => {
    const own = port<ToTaskWorker, FromTaskWorker>();
    vi.stubGlobal("self", own);
    const { serve } = await import("./kit/serve");
    serve<{ halves: { job: number; result: number } }>({
      halves: (job, tell) => {
        tell(0.5, "half way");
        return job / 2;
      },
    });
    own.onmessage?.({ data: { task: "halves", run: 6, job: 8 } });
    expect(own.said).toEqual([
      { kind: "progress", run: 6, share: 0.5, doing: "half way" },
      { kind: "done", run: 6, result: 4 },
    ]);
    (own as unknown as { onmessageerror: () => void }).onmessageerror();
    expect(own.said.at(-1)).toEqual({ kind: "failed", run: 0, code: "unreadable", message: "what was asked did not reach the worker whole" });
  });

  it("a picture's arrays are handed over, each once", async () => {
    const { buffersOf } = await import("./kit/messages");
    const shared = new Float64Array(8);
    expect(buffersOf({ a: shared, b: [shared, { c: new Uint8Array(3) }], part: shared.subarray(2) })).toHaveLength(2);
    expect(buffersOf({ part: shared.subarray(2) })).toEqual([]);
  });
});
