import { CoreError } from "@/core/kernel/errors";
import type { Tell } from "@/core/kernel/progress";
import { buffersOf, type FromTaskWorker, type TaskMap, type ToTaskWorker } from "./messages";

interface Port {
  onmessage: ((event: MessageEvent<ToTaskWorker>) => void) | null;
  onmessageerror: (() => void) | null;
  postMessage: (message: FromTaskWorker, transfer?: Transferable[]) => void;
}

/** An error as it crosses to the page. */
export const failure = (run: number, error: unknown): Extract<FromTaskWorker, { kind: "failed" }> => ({
  kind: "failed",
  run,
  code: error instanceof CoreError ? error.code : "worker-failed",
  ...(error instanceof CoreError && error.places ? { places: error.places } : {}),
  message: error instanceof Error ? error.message : String(error),
});

/** Does the tasks that a page asks of this worker, one after the other; typed arrays of an answer are handed over, not copied. */
export function serve<T extends TaskMap<T>>(tasks: { [K in keyof T]: (job: T[K]["job"], tell: Tell) => T[K]["result"] }): void {
  const port = self as unknown as Port;
  port.onmessage = ({ data }) => {
    try {
      const work = (tasks as Record<string, (job: unknown, tell: Tell) => unknown>)[data.task];
      if (!work) throw new Error(`this worker does not know ${data.task}`);
      const result = work(data.job, (share, doing) => port.postMessage({ kind: "progress", run: data.run, share, doing }));
      port.postMessage({ kind: "done", run: data.run, result }, buffersOf(result));
    } catch (error) {
      port.postMessage(failure(data.run, error));
    }
  };
  // Its run is not known: every caller gets the failure.
  port.onmessageerror = () => port.postMessage({ kind: "failed", run: 0, code: "unreadable", message: "what was asked did not reach the worker whole" });
}
