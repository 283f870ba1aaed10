import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { BENCH_DEFAULTS } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { BenchClient } from "./bench/benchClient";
import type { BenchFrame, ToBench } from "./bench/protocol";
import { EngineClient } from "./clients";
import type { MapJob } from "./engine/protocol";
import { Superseded } from "./kit/client";
import type { ToTaskWorker } from "./kit/messages";

/** A worker that does nothing automatically: the test answers in its place. */
class FakeWorker {
  static made: FakeWorker[] = [];
  onmessage: ((event: { data: unknown }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  readonly messages: (ToTaskWorker | ToBench)[] = [];
  ended = false;
  constructor(readonly from: URL) {
    FakeWorker.made.push(this);
  }
  postMessage(message: ToTaskWorker | ToBench, transfer: Transferable[] = []): void {
    // As a browser does: what cannot be cloned is not sent at all.
    structuredClone(message, { transfer });
    this.handedOver = transfer;
    this.messages.push(message);
  }
  onmessageerror: (() => void) | null = null;
  handedOver: Transferable[] = [];
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
    const [first, second, third] = [client.submit(job(1)), client.submit(job(2)), client.submit(job(3))];
    const lost = expect(second).rejects.toBeInstanceOf(Superseded);
    expect(last().messages).toHaveLength(1);
    last().say({ kind: "done", task: "map", run: 99, result: "not asked for" });
    last().say({ kind: "done", task: "map", run: 1, result: "one" });
    expect(await first).toBe("one");
    expect(last().messages.map((message) => message.run)).toEqual([1, 3]);
    last().say({ kind: "failed", run: 3, code: "x", message: "no such map" });
    await expect(third).rejects.toThrow("no such map");
    await lost;
  });

  it("if the worker dies every waiting call is rejected, and the next call starts a fresh one", async () => {
    const client = new EngineClient("search");
    const [running, waiting] = [client.submit({} as never), client.submit({} as never)];
    const both = Promise.all([expect(running).rejects.toThrow("out of memory"), expect(waiting).rejects.toThrow("out of memory")]);
    last().onerror?.({ message: "out of memory" });
    await both;
    expect(last().ended).toBe(true);
    const again = client.submit({} as never);
    expect(FakeWorker.made).toHaveLength(2);
    last().say({ kind: "done", task: "search", run: 3, result: "found" });
    expect(await again).toBe("found");
  });

  it("closed, it ends its worker, and callers that wait are overtaken, not failed", async () => {
    const client = new EngineClient("matches");
    const requested = expect(client.submit({} as never)).rejects.toBeInstanceOf(Superseded);
    client.close();
    await requested;
    expect(last().ended).toBe(true);
  });

  it("a question that cannot be sent is refused to its own caller, and the next one goes on", async () => {
    const client = new EngineClient("map");
    const stray = client.submit({ acceptedKerfM: () => 1 } as unknown as MapJob);
    await expect(stray).rejects.toMatchObject({ code: "unreadable" });
    const next = client.submit(job(2));
    last().say({ kind: "done", run: 2, result: "two" });
    expect(await next).toBe("two");
  });

  it("called off: one that waits is dropped, one under way ends its worker, and anyone who comes after is served", async () => {
    const client = new EngineClient("map");
    const [first, second] = [new AbortController(), new AbortController()];
    const running = expect(client.submit(job(1), { signal: first.signal })).rejects.toBeInstanceOf(Superseded);
    const waiting = expect(client.submit(job(2), { signal: second.signal })).rejects.toBeInstanceOf(Superseded);
    second.abort();
    await waiting;
    expect(last().ended).toBe(false);
    const after = client.submit(job(3));
    first.abort();
    await running;
    expect(FakeWorker.made[0]?.ended).toBe(true);
    expect(last().messages.map((message) => message.run)).toEqual([3]);
    last().say({ kind: "done", run: 3, result: "three" });
    expect(await after).toBe("three");
    await expect(client.submit(job(4), { signal: AbortSignal.abort() })).rejects.toBeInstanceOf(Superseded);
  });

  it("keeps the code of what went wrong, and an answer that cannot be read fails instead of hanging", async () => {
    const client = new EngineClient("hear");
    const refused = client.submit({ from: "wav", bytes: new Uint8Array(4) });
    last().say({ kind: "failed", run: 1, code: "wrong-format", message: "no such sound" });
    await expect(refused).rejects.toMatchObject({ code: "wrong-format", message: "no such sound" });
    const lost = expect(client.submit({ from: "wav", bytes: new Uint8Array(4) })).rejects.toMatchObject({ code: "unreadable" });
    last().onmessageerror?.();
    await lost;
    expect(last().ended).toBe(true);
    // The worker's own word that a question did not reach it whole ends every wait.
    const cut = expect(client.submit({ from: "wav", bytes: new Uint8Array(4) })).rejects.toMatchObject({ code: "unreadable" });
    last().say({ kind: "failed", run: 0, code: "unreadable", message: "not whole" });
    await cut;
  });

  it("hands samples over where the caller is done with them, and copies them where not", () => {
    const client = new EngineClient("hear");
    const samples = new Float32Array(100);
    void client.submit({ from: "samples", samples, sampleRate: 48000 }).catch(() => undefined);
    expect(last().handedOver).toEqual([]);
    expect(samples.length).toBe(100);
    const other = new EngineClient("hear");
    void other.submit({ from: "samples", samples, sampleRate: 48000 }, { transfer: true }).catch(() => undefined);
    expect(last().handedOver).toHaveLength(1);
    expect(samples.length).toBe(0);
  });

  it("is started once however much it is asked; what brings packages along has a worker of its own", () => {
    const map = new EngineClient("map");
    for (const turn of [1, 2, 3]) void map.submit(job(turn)).catch(() => undefined);
    expect(FakeWorker.made).toHaveLength(1);
    const names = (["map", "search", "matches", "oneThing", "hear", "learn"] as const).map((task) => {
      void new EngineClient(task).submit({} as never).catch(() => undefined);
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
    expect(last().messages.at(-1)).toEqual({ kind: "heat", run: 2, on: true });
  });

  it("answers questions by their own number", async () => {
    const { client } = opened();
    const [volts, report] = [client.say("supply", "VOLT?"), client.report()];
    expect(last().messages.slice(-2)).toEqual([
      { kind: "say", run: 1, id: 1, device: "supply", line: "VOLT?" },
      { kind: "report", run: 1, id: 2 },
    ]);
    last().say({ kind: "report", run: 1, id: 2, report: { trips: 0 } });
    last().say({ kind: "said", run: 1, id: 1, evaluation: "12.000" });
    // One that nobody asked, or that was answered already, does nothing.
    last().say({ kind: "said", run: 1, id: 1, evaluation: "13.000" });
    last().say({ kind: "said", run: 1, id: 99, evaluation: "14.000" });
    expect(await volts).toBe("12.000");
    expect(await report).toEqual({ trips: 0 });
  });

  it("leaves nobody waiting for what was there before, nor for what cannot be said", async () => {
    const { client, faults } = opened();
    const old = expect(client.report()).rejects.toMatchObject({ code: "superseded" });
    client.open(design, BENCH_DEFAULTS);
    await old;
    await expect(client.say("supply", (() => "") as unknown as string)).rejects.toMatchObject({ code: "unreadable" });
    const next = client.say("supply", "VOLT?");
    last().say({ kind: "said", run: 2, id: 3, evaluation: "12" });
    expect(await next).toBe("12");
    client.open({ ...design, stray: () => 1 } as never, BENCH_DEFAULTS);
    expect(faults).toHaveLength(1);
    expect(faults[0]).toMatch(/cannot be set on the bench/);
  });

  it("a bench that dies or is left rejects anyone who waits, and says what happened", async () => {
    const { client, faults } = opened();
    const requested = expect(client.report()).rejects.toThrow("out of memory");
    last().onerror?.({ message: "out of memory" });
    await requested;
    expect(faults).toEqual(["out of memory"]);
    await expect(client.say("scale", "READ?")).rejects.toThrow("not open");
    client.open(design, BENCH_DEFAULTS);
    expect(FakeWorker.made).toHaveLength(2);
    const left = expect(client.report()).rejects.toThrow("left");
    client.close();
    await left;
    // Left twice, or before it was ever opened, is no fault.
    client.close();
    new BenchClient(
      () => undefined,
      () => undefined,
    ).close();
    const failing = opened();
    last().say({ kind: "failed", run: 1, code: "conflict", message: "no such set-up" });
    expect(failing.faults).toEqual(["no such set-up"]);
  });
});
