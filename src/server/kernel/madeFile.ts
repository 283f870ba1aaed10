import { file } from "./route";
import { runTask } from "./threadPool";

/** A file that a worker thread made. */
export interface MadeFile {
  body: string | Uint8Array;
  type: string;
  name: string;
}

/** A made file as a response. */
const madeFile = ({ body, type, name }: MadeFile): Response => file(typeof body === "string" ? body : Buffer.from(body), type, name);

/** Files that are made at once, their reading of the database included: more would keep the thread that serves pages busy with queries whose files nobody can make yet. */
const AT_ONCE = 1;
let making = 0;
const waiting: (() => void)[] = [];

/**
 * Makes a file in the sheets' thread, in turn with others.
 * @param name the thread's task
 * @param read what the task needs, read from the database once it is this file's turn
 */
export async function makeFile(name: string, read: () => Promise<object>): Promise<Response> {
  if (making >= AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve));
  else making += 1;
  try {
    return madeFile(await runTask<MadeFile>("sheets", name, await read()));
  } finally {
    const next = waiting.shift();
    if (next) next();
    else making -= 1;
  }
}
