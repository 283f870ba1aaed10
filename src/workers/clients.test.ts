import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { BENCH_DEFAULTS } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { BenchClient } from "./benchClient";
import { EngineClient, Superseded } from "./client";
import type { BenchFrame, MapJob, ToBench, ToWorker } from "./protocol";

/** A worker that does nothing by itself: the test answers in its place. */
class FakeWorker {
  static made: FakeWorker[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  readonly heard: (ToWorker | ToBench)[] = [];
  ended = false;
  constructor(readonly from: URL) {
    FakeWorker.made.push(this);
  }
  postMessage(message: ToWorker | ToBench): void {
    this.heard.push(message);
  }
  terminate(): void {
    this.ended = true;
  }
  say(data: unknown): void {
    this.onmessage?.({ data });
  }
}
const last = () => FakeWorker.made.at(-1) as FakeWorker;

beforeEach(() => {
  FakeWorker.made = [];
  vi.stubGlobal("Worker", FakeWorker);
});
afterEach(() => vi.unstubAllGlobals());

const job = (n: number) => ({ acceptedKerfM: n }) as unknown as MapJob;

describe("the engine's client", () => {
  it("asks one at a time; a newer question replaces one that has not started, and an answer finds its own", async () => {
    const client = new EngineClient("map");
    const [first, second, third] = [client.ask(job(1)), client.ask(job(2)), client.ask(job(3))];
    const lost = expect(second).rejects.toBeInstanceOf(Superseded);
    expect(last().heard).toHaveLength(1);
    last().say({ kind: "done", task: "map", run: 99, result: "not asked for" });
    last().say({ kind: "done", task: "map", run: 1, result: "one" });
    expect(await first).toBe("one");
    expect(last().heard.map((message) => message.run)).toEqual([1, 3]);
    last().say({ kind: "failed", run: 3, code: "x", message: "no such map" });
    await expect(third).rejects.toThrow("no such map");
    await lost;
  });

  it("if the worker dies every waiting call is rejected, and the next call starts a fresh one", async () => {
    const client = new EngineClient("search");
    const [running, waiting] = [client.ask({} as never), client.ask({} as never)];
    const both = Promise.all([expect(running).rejects.toThrow("out of memory"), expect(waiting).rejects.toThrow("out of memory")]);
    last().onerror?.({ message: "out of memory" });
    await both;
    expect(last().ended).toBe(true);
    const again = client.ask({} as never);
    expect(FakeWorker.made).toHaveLength(2);
    last().say({ kind: "done", task: "search", run: 3, result: "found" });
    expect(await again).toBe("found");
  });

  it("closed, it ends its worker and whoever waits is told it was overtaken, not that it failed", async () => {
    const client = new EngineClient("matches");
    const asked = expect(client.ask({} as never)).rejects.toBeInstanceOf(Superseded);
    client.close();
    await asked;
    expect(last().ended).toBe(true);
  });

  it("is started once however much it is asked; what brings packages along has a worker of its own", () => {
    const map = new EngineClient("map");
    for (const turn of [1, 2, 3]) void map.ask(job(turn)).catch(() => undefined);
    expect(FakeWorker.made).toHaveLength(1);
    const names = (["map", "search", "matches", "oneThing", "hear", "learn"] as const).map((task) => {
      void new EngineClient(task).ask({} as never).catch(() => undefined);
      return last().from.pathname.split("/").at(-1);
    });
    expect(names).toEqual(["engine.worker.ts", "engine.worker.ts", "engine.worker.ts", "engine.worker.ts", "ear.worker.ts", "learn.worker.ts"]);
  });
});

describe("the bench's client", () => {
  const design = designSchema.parse(DEMO_CUTTERS[0]);
  const opened = () => {
    const frames: BenchFrame[] = [];
    const faults: string[] = [];
    const client = new BenchClient(
      (frame) => frames.push(frame),
      (words) => faults.push(words),
    );
    client.open(design, BENCH_DEFAULTS);
    return { client, frames, faults };
  };

  it("passes frames of the run that is open, and lets those of an older one lie", () => {
    const { client, frames } = opened();
    last().say({ kind: "frame", run: 1, frame: { timeS: 1 } });
    client.open(design, BENCH_DEFAULTS);
    last().say({ kind: "frame", run: 1, frame: { timeS: 2 } });
    last().say({ kind: "frame", run: 2, frame: { timeS: 0 } });
    expect(frames.map((frame) => frame.timeS)).toEqual([1, 0]);
    expect(FakeWorker.made).toHaveLength(1);
    client.send({ kind: "heat", on: true });
    expect(last().heard.at(-1)).toEqual({ kind: "heat", run: 2, on: true });
  });

  it("answers questions by their own number", async () => {
    const { client } = opened();
    const [volts, report] = [client.say("supply", "VOLT?"), client.report()];
    last().say({ kind: "report", run: 1, id: 2, report: { trips: 0 } });
    last().say({ kind: "said", run: 1, id: 1, answer: "12.000" });
    expect(await volts).toBe("12.000");
    expect(await report).toEqual({ trips: 0 });
  });

  it("a bench that dies or is left rejects whoever waits, and says what happened", async () => {
    const { client, faults } = opened();
    const asked = expect(client.report()).rejects.toThrow("out of memory");
    last().onerror?.({ message: "out of memory" });
    await asked;
    expect(faults).toEqual(["out of memory"]);
    await expect(client.say("scale", "READ?")).rejects.toThrow("not open");
    client.open(design, BENCH_DEFAULTS);
    expect(FakeWorker.made).toHaveLength(2);
    const left = expect(client.report()).rejects.toThrow("left");
    client.close();
    await left;
    const failing = opened();
    last().say({ kind: "failed", run: 1, code: "conflict", message: "no such set-up" });
    expect(failing.faults).toEqual(["no such set-up"]);
  });
});
