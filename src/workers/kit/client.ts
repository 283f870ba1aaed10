import type { Tell } from "@/core/kernel/progress";
import { buffersOf, type FromTaskWorker, type TaskMap, type ToTaskWorker, WorkerFault } from "./messages";

/** Said to a caller whose question was overtaken by a newer one, or called off: not a fault. */
export class Superseded extends Error {}

interface Waiting {
  run: number;
  job: unknown;
  transfer: boolean;
  onProgress: Tell | undefined;
  resolve: (result: never) => void;
  reject: (error: Error) => void;
  /** Stops listening to its abort signal. */
  release: () => void;
}

export interface RunOptions {
  /** Calls the question off: one that waits is dropped, one that is being worked out ends its worker. */
  signal?: AbortSignal | undefined;
  /** Hands typed arrays of the question over instead of copying them: the caller has them no more. */
  transfer?: boolean | undefined;
  /** Receives progress from tasks that report it. */
  onProgress?: Tell | undefined;
}

/**
 * Has one kind of task done in a worker, one at a time: a newer request replaces one that has not started.
 * If the worker dies, or what is said cannot be read, every waiting call is rejected and the next call starts a fresh one. A question that cannot be sent is refused to its own
 * caller and holds up nobody.
 */
export class TaskClient<T extends TaskMap<T>, K extends keyof T & string> {
  private worker: Worker | null = null;
  private running: Waiting | null = null;
  private next: Waiting | null = null;
  private runs = 0;

  constructor(
    private readonly task: K,
    private readonly makeWorker: () => Worker,
  ) {}

  /** @throws Superseded, or WorkerFault with the code of what went wrong */
  submit(job: T[K]["job"], { signal, transfer = false, onProgress }: RunOptions = {}): Promise<T[K]["result"]> {
    return new Promise((resolve, reject) => {
      if (signal?.aborted) {
        reject(new Superseded());
        return;
      }
      this.runs += 1;
      const run = this.runs;
      const abort = () => this.callOff(run);
      signal?.addEventListener("abort", abort, { once: true });
      const release = () => signal?.removeEventListener("abort", abort);
      this.end(this.next, new Superseded());
      this.next = { run, job, transfer, onProgress, resolve, reject, release };
      this.pump();
    });
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.rejectAll(new Superseded());
  }

  private end(call: Waiting | null, error: Error): void {
    call?.release();
    call?.reject(error);
  }

  private callOff(run: number): void {
    if (this.next?.run === run) {
      const waiting = this.next;
      this.next = null;
      this.end(waiting, new Superseded());
    } else if (this.running?.run === run) {
      // What is being worked out cannot be spoken to: its worker goes with it.
      const working = this.running;
      this.running = null;
      this.worker?.terminate();
      this.worker = null;
      this.end(working, new Superseded());
      this.pump();
    }
  }

  private pump(): void {
    while (!this.running && this.next) {
      const requested = this.next;
      this.next = null;
      this.running = requested;
      const message: ToTaskWorker = { task: this.task, run: requested.run, job: requested.job };
      try {
        this.start().postMessage(message, requested.transfer ? buffersOf(requested.job) : []);
      } catch (error) {
        this.running = null;
        this.end(requested, new WorkerFault("unreadable", `this cannot be asked of the worker: ${(error as Error).message}`));
      }
    }
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = this.makeWorker();
    worker.onmessage = ({ data }: MessageEvent<FromTaskWorker>) => {
      if (data.kind === "failed" && data.run === 0) {
        this.fail(worker, new WorkerFault(data.code, data.message, data.places));
        return;
      }
      const done = this.running;
      if (!done || done.run !== data.run) return;
      if (data.kind === "progress") {
        done.onProgress?.(data.share, data.doing);
        return;
      }
      this.running = null;
      done.release();
      if (data.kind === "done") done.resolve(data.result as never);
      else done.reject(new WorkerFault(data.code, data.message, data.places));
      this.pump();
    };
    worker.onerror = (event) => this.fail(worker, new WorkerFault("worker-failed", event.message || "the worker that computes for this page stopped"));
    worker.onmessageerror = () => this.fail(worker, new WorkerFault("unreadable", "the worker's answer could not be read"));
    this.worker = worker;
    return worker;
  }

  private fail(worker: Worker, error: Error): void {
    worker.terminate();
    if (this.worker === worker) this.worker = null;
    this.rejectAll(error);
  }

  private rejectAll(error: Error): void {
    const waiting = [this.running, this.next];
    this.running = null;
    this.next = null;
    for (const call of waiting) this.end(call, error);
  }
}
