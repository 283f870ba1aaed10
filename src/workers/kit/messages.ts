/** Tasks of a worker by name: what each is given and what it gives back. */
export type TaskMap<T> = { [K in keyof T]: { job: unknown; result: unknown } };

/** What a page says to a worker that does tasks. */
export interface ToTaskWorker {
  task: string;
  run: number;
  job: unknown;
}

/** What it says back; errors cross as data. */
export type FromTaskWorker =
  | { kind: "progress"; run: number; share: number; doing: string }
  | { kind: "done"; run: number; result: unknown }
  | { kind: "failed"; run: number; code: string; message: string; places?: readonly (readonly [number, number])[] | undefined };

/** A fault of a worker, with the code it was thrown with. */
export class WorkerFault extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly places?: readonly (readonly [number, number])[],
  ) {
    super(message);
  }
}

/** Buffers of the typed arrays within a value, each once: they are handed over instead of copied. Looks three levels deep, which is as deep as any message here goes. */
export function buffersOf(value: unknown, depth = 3): ArrayBuffer[] {
  const found = new Set<ArrayBuffer>();
  const look = (each: unknown, left: number) => {
    if (ArrayBuffer.isView(each)) {
      // A view of part of a buffer would take what others still look at along with it.
      if (each.buffer instanceof ArrayBuffer && each.byteLength === each.buffer.byteLength) found.add(each.buffer);
    } else if (left > 0 && each !== null && typeof each === "object") for (const inner of Object.values(each)) look(inner, left - 1);
  };
  look(value, depth);
  return [...found];
}
