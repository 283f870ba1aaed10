import type { BenchReport } from "@/core/bench/face";
import type { BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import type { DeviceName } from "@/core/devices/instruments";
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

  /** Sets a cutter on the bench, in place of what stood there. */
  open(design: Design, options: BenchOptions): void {
    this.run += 1;
    this.start().postMessage({ kind: "open", run: this.run, design, options } satisfies ToBench);
  }

  send(command: BenchCommand): void {
    this.worker?.postMessage({ ...command, run: this.run } as ToBench);
  }

  say(device: DeviceName, line: string): Promise<string | null> {
    return this.ask((id) => ({ kind: "say", run: this.run, id, device, line }));
  }

  report(): Promise<BenchReport> {
    return this.ask((id) => ({ kind: "report", run: this.run, id }));
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.rejectAll(new Error("the bench was left"));
  }

  private ask<T>(message: (id: number) => ToBench): Promise<T> {
    return new Promise((resolve, reject) => {
      if (!this.worker) {
        reject(new Error("the bench is not open"));
        return;
      }
      this.ids += 1;
      this.waiting.set(this.ids, { resolve: resolve as (value: never) => void, reject });
      this.worker.postMessage(message(this.ids));
    });
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL("./bench.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<FromBench>) => this.take(data);
    worker.onerror = (event) => {
      worker.terminate();
      this.worker = null;
      const words = event.message || "the bench's worker stopped";
      this.rejectAll(new Error(words));
      this.onFault(words);
    };
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
        this.rejectAll(new Error(data.message));
        this.onFault(data.message);
        break;
      case "said":
      case "report": {
        const asked = this.waiting.get(data.id);
        this.waiting.delete(data.id);
        asked?.resolve((data.kind === "said" ? data.answer : data.report) as never);
      }
    }
  }

  private rejectAll(error: Error): void {
    for (const { reject } of this.waiting.values()) reject(error);
    this.waiting.clear();
  }
}
