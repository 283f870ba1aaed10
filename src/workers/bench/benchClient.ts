import type { BenchReport } from "@/core/bench/face";
import type { BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import type { DeviceName } from "@/core/devices/instruments";
import { WorkerFault } from "../kit/messages";
import type { BenchFrame, FromBench, ToBench } from "./protocol";

type WithoutRun<T> = T extends { run: number } ? Omit<T, "run"> : never;
/** What may be said to the run that is open. */
export type BenchCommand = WithoutRun<Exclude<ToBench, { kind: "open" } | { kind: "say" } | { kind: "report" }>>;

interface Waiting {
  resolve: (value: never) => void;
  reject: (error: Error) => void;
}

/** The bench in a worker of its own: frames come as they are made; questions are answered by promise. If the worker dies, every waiting question is rejected. */
export class BenchClient {
  private worker: Worker | null = null;
  private run = 0;
  private ids = 0;
  private readonly waiting = new Map<number, Waiting>();

  constructor(
    private readonly onFrame: (frame: BenchFrame) => void,
    private readonly onFault: (message: string) => void,
  ) {}

  /** Sets a cutter on the bench, in place of what was there. */
  open(design: Design, options: BenchOptions): void {
    this.run += 1;
    // Nobody is left waiting for what was there before.
    this.rejectAll(new WorkerFault("superseded", "another cutter was set on the bench"));
    try {
      this.start().postMessage({ kind: "open", run: this.run, design, options } satisfies ToBench);
    } catch (error) {
      this.onFault(`this cannot be set on the bench: ${(error as Error).message}`);
    }
  }

  send(command: BenchCommand): void {
    this.worker?.postMessage({ ...command, run: this.run } as ToBench);
  }

  say(device: DeviceName, line: string): Promise<string | null> {
    return this.submit((id) => ({ kind: "say", run: this.run, id, device, line }));
  }

  report(): Promise<BenchReport> {
    return this.submit((id) => ({ kind: "report", run: this.run, id }));
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.rejectAll(new Error("the bench was left"));
  }

  private submit<T>(message: (id: number) => ToBench): Promise<T> {
    return new Promise((resolve, reject) => {
      if (!this.worker) {
        reject(new Error("the bench is not open"));
        return;
      }
      this.ids += 1;
      const id = this.ids;
      this.waiting.set(id, { resolve: resolve as (value: never) => void, reject });
      try {
        this.worker.postMessage(message(id));
      } catch (error) {
        this.waiting.delete(id);
        reject(new WorkerFault("unreadable", `this cannot be said to the bench: ${(error as Error).message}`));
      }
    });
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL("./bench.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<FromBench>) => this.take(data);
    const fail = (code: string, words: string) => {
      worker.terminate();
      if (this.worker === worker) this.worker = null;
      this.rejectAll(new WorkerFault(code, words));
      this.onFault(words);
    };
    worker.onerror = (event) => fail("worker-failed", event.message || "the bench's worker stopped");
    worker.onmessageerror = () => fail("unreadable", "what the bench said could not be read");
    this.worker = worker;
    return worker;
  }

  private take(data: FromBench): void {
    if (data.run !== this.run) return;
    switch (data.kind) {
      case "frame":
        this.onFrame(data.frame);
        break;
      case "failed":
        this.rejectAll(new WorkerFault(data.code, data.message));
        this.onFault(data.message);
        break;
      case "said":
      case "report": {
        const requested = this.waiting.get(data.id);
        this.waiting.delete(data.id);
        requested?.resolve((data.kind === "said" ? data.evaluation : data.report) as never);
      }
    }
  }

  private rejectAll(error: Error): void {
    for (const { reject } of this.waiting.values()) reject(error);
    this.waiting.clear();
  }
}
