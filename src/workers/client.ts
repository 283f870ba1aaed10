import type { FromWorker, MapJob, MapPicture, ToWorker } from "./protocol";

/** Said to a caller whose map was overtaken by a newer one: not a fault. */
export class Superseded extends Error {}

interface Waiting {
  run: number;
  job: MapJob;
  resolve: (picture: MapPicture) => void;
  reject: (error: Error) => void;
}

/**
 * Draws maps in a worker, one at a time: a newer request replaces one that has not started.
 * If the worker dies every waiting call is rejected and the next call starts a fresh one.
 */
export class MapClient {
  private worker: Worker | null = null;
  private running: Waiting | null = null;
  private next: Waiting | null = null;
  private runs = 0;

  draw(job: MapJob): Promise<MapPicture> {
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
    const message: ToWorker = { kind: "map", run: this.running.run, job: this.running.job };
    this.start().postMessage(message);
  }

  private start(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(new URL("./map.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      const done = this.running;
      if (!done || done.run !== data.run) return;
      this.running = null;
      if (data.kind === "map-done") done.resolve(data.picture);
      else done.reject(new Error(data.message));
      this.pump();
    };
    worker.onerror = (event) => {
      worker.terminate();
      this.worker = null;
      this.rejectAll(new Error(event.message || "the worker that draws the window stopped"));
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
