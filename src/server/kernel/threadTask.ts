import type { MessagePort } from "node:worker_threads";
import { CoreError } from "@/core/kernel/errors";

/** What a task of a worker thread returns: errors lose their class and their fields on the way, so a refusal is a value. */
export type TaskResult<T> = { ok: true; value: T } | { ok: false; code: string; path: string; message: string };

/** Wraps a task of a worker thread: what the core refuses is returned, anything else is thrown. */
export const task =
  <I, O>(work: (input: I) => O | Promise<O>) =>
  async (input: I): Promise<TaskResult<O>> => {
    try {
      return { ok: true, value: await work(input) };
    } catch (error) {
      if (error instanceof CoreError) return { ok: false, code: error.code, path: error.path, message: error.message };
      throw error;
    }
  };

/** The thread's side of `streamTask`: sends each item and waits until it has been consumed. */
export async function sendItems<T>(port: MessagePort, items: AsyncIterable<T>): Promise<void> {
  let next = () => {};
  port.on("message", () => next());
  try {
    for await (const item of items) {
      const consumed = new Promise<void>((resolve) => {
        next = resolve;
      });
      port.postMessage(item);
      await consumed;
    }
  } finally {
    port.close();
  }
}
