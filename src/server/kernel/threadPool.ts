import { MessageChannel, type MessagePort } from "node:worker_threads";
import { CoreError } from "@/core/kernel/errors";
import { ServerError } from "./errors";
import { logFault } from "./log";
import { type ThreadName, threadFile } from "./threadFile";
import type { TaskResult } from "./threadTask";

interface PoolSettings {
  /** memory of a thread's own objects, MB; a task that needs more is ended */
  memoryMb: number;
  /** a task may take so long, ms */
  limitMs: number;
}
const POOLS: Readonly<Record<Exclude<ThreadName, "run">, PoolSettings>> = {
  archives: { memoryMb: 768, limitMs: 600_000 },
  programs: { memoryMb: 1024, limitMs: 30_000 },
  sheets: { memoryMb: 768, limitMs: 60_000 },
};
/** A thread that had nothing to do for so long ends, ms. */
const IDLE_MS = 60_000;

interface Pool {
  run: (input: unknown, options: { name: string; signal: AbortSignal; transferList?: MessagePort[] }) => Promise<unknown>;
}

// Route bundles each get their own copy of this module; the process has one pool of each kind.
const shared = globalThis as typeof globalThis & { upwindPools?: Map<ThreadName, Promise<Pool>> };

async function createPool(name: keyof typeof POOLS): Promise<Pool> {
  const { Piscina } = await import("piscina");
  const pool = new Piscina({
    filename: await threadFile(name),
    // One thread for each kind: two cores also serve pages and watch a wire.
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE_MS,
    resourceLimits: { maxOldGenerationSizeMb: POOLS[name].memoryMb },
  });
  // A thread that cannot even begin: its tasks end when their time is over.
  pool.on("error", (error) => logFault(error));
  return pool as Pool;
}

const poolOf = (name: keyof typeof POOLS): Promise<Pool> => {
  shared.upwindPools ??= new Map();
  const pool = shared.upwindPools.get(name) ?? createPool(name);
  shared.upwindPools.set(name, pool);
  return pool;
};

/** Words for a task that was ended from outside. */
function endedWords(error: unknown): ServerError | null {
  const { code, name } = error as { code?: string; name?: string };
  if (code === "ERR_WORKER_OUT_OF_MEMORY")
    return new ServerError("too-large", 413, "This needs more memory than the server gives to one task. Nothing was changed.");
  if (name === "TimeoutError") return new ServerError("busy", 503, "This took longer than the server gives to one task. Nothing was changed.");
  return null;
}

/**
 * Runs a task in a worker thread, so that the thread that serves pages and watches a wire stays free.
 * @param name the thread's exported function
 * @throws CoreError as the task refused; ServerError `too-large` or `busy` for one that needed too much memory or time
 */
export async function runTask<T>(pool: keyof typeof POOLS, name: string, input: unknown, signal?: AbortSignal, transferList?: MessagePort[]): Promise<T> {
  const limit = AbortSignal.timeout(POOLS[pool].limitMs);
  let result: TaskResult<T>;
  try {
    const running = (await poolOf(pool)).run(input, {
      name,
      signal: signal ? AbortSignal.any([signal, limit]) : limit,
      ...(transferList ? { transferList } : {}),
    });
    result = (await running) as TaskResult<T>;
  } catch (error) {
    const cause = limit.aborted ? limit.reason : error;
    throw endedWords(cause) ?? error;
  }
  if (!result.ok) throw new CoreError(result.code as CoreError["code"], result.path, result.message);
  return result.value;
}

/**
 * Runs a task that produces items one at a time, each consumed before the next is produced: neither side ever holds more than one.
 * @param name the thread's exported function; it gets `{...input, port}` and sends items by `sendItems`
 */
export async function* streamTask<T>(pool: keyof typeof POOLS, name: string, input: object, signal?: AbortSignal): AsyncGenerator<T> {
  const { port1, port2 } = new MessageChannel();
  const ended = new AbortController();
  const waiting: T[] = [];
  let wake = () => {};
  let over = false;
  let failure: unknown = null;
  port1.on("message", (item: T) => {
    waiting.push(item);
    wake();
  });
  const running = runTask(pool, name, { ...input, port: port2 }, signal ? AbortSignal.any([signal, ended.signal]) : ended.signal, [port2]).then(
    () => undefined,
    (error: unknown) => {
      failure = error;
    },
  );
  void running.then(() => {
    over = true;
    wake();
  });
  try {
    for (;;) {
      const item = waiting.shift();
      if (item !== undefined) {
        yield item;
        port1.postMessage("next");
      } else if (over) {
        if (failure) throw failure;
        return;
      } else
        await new Promise<void>((resolve) => {
          wake = resolve;
          if (waiting.length > 0 || over) resolve();
        });
    }
  } finally {
    ended.abort();
    port1.close();
    await running;
  }
}
