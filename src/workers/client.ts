import type { FromWorker, TaskName, Tasks, ToWorker } from "./protocol";

/** Said to a caller whose question was overtaken by a newer one: not a fault. */
export class Superseded extends Error {}

interface Waiting<K extends TaskName> {
  run: number;
  job: Tasks[K]["job"];
  resolve: (result: Tasks[K]["result"]) => void;
  reject: (error: Error) => void;
}

const engine = () => new Worker(new URL("./engine.worker.ts", import.meta.url), { type: "module" });
/** Which worker does which task: what brings packages along has one of its own. */
const STARTS: Readonly<Record<TaskName, () => Worker>> = {
  map: engine,
  search: engine,
  matches: engine,
  oneThing: engine,
  start: engine,
  hear: () => new Worker(new URL("./ear.worker.ts", import.meta.url), { type: "module" }),
  learn: () => new Worker(new URL("./learn.worker.ts", import.meta.url), { type: "module" }),
};

/**
 * Has one kind of task done in a worker, one at a time: a newer request replaces one that has not started.
 * If the worker dies every waiting call is rejected and the next call starts a fresh one.
 */
export class EngineClient<K extends TaskName> {
  private worker: Worker | null = null;
  private running: Waiting<K> | null = null;
  private next: Waiting<K> | null = null;
  private runs = 0;

  constructor(private readonly task: K) {}

  ask(job: Tasks[K]["job"]): Promise<Tasks[K]["result"]> {
    return new Promise((resolve, reject) => {
      this.next?.reject(new Superseded());
      this.runs += 1;
      this.next = { run: this.runs, job, resolve, reject };
      this.pump();
    });
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.rejectAll(new Superseded());
  }

  private pump(): void {
    if (this.running || !this.next) return;
    this.running = this.next;
    this.next = null;
    const message = { kind: this.task, run: this.running.run, job: this.running.job } as ToWorker;
    this.start().postMessage(message);
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = STARTS[this.task]();
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      const done = this.running;
      if (!done || done.run !== data.run) return;
      this.running = null;
      if (data.kind === "done") done.resolve(data.result as Tasks[K]["result"]);
      else done.reject(new Error(data.message));
      this.pump();
    };
    worker.onerror = (event) => {
      worker.terminate();
      this.worker = null;
      this.rejectAll(new Error(event.message || "the worker that computes for this page stopped"));
    };
    this.worker = worker;
    return worker;
  }

  private rejectAll(error: Error): void {
    const waiting = [this.running, this.next];
    this.running = null;
    this.next = null;
    for (const call of waiting) call?.reject(error);
  }
}
