import { existsSync, mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";

/** Code that runs in a thread of its own, each bundled into one file: see scripts/lib/threads.mjs. */
export type ThreadName = "archives" | "sheets" | "programs" | "run";

const bundles = new Map<ThreadName, Promise<string>>();

/** Bundles a thread's code for programs that no build prepared: tests, the command line, development. */
async function bundle(name: ThreadName): Promise<string> {
  const { bundleThread } = (await import(/* turbopackIgnore: true */ path.resolve("scripts/lib/threads.mjs"))) as {
    bundleThread: (name: string, outfile: string) => Promise<void>;
  };
  const file = path.join(mkdtempSync(path.join(tmpdir(), "upwind-thread-")), `${name}.mjs`);
  await bundleThread(name, file);
  return file;
}

/** The file that a worker thread runs: made by the build next to the app, or now. */
export function threadFile(name: ThreadName): Promise<string> {
  const built = path.resolve(/* turbopackIgnore: true */ ".next", "threads", `${name}.mjs`);
  // The framework's own runtime says that this is the built app; anything else may be newer than the last build.
  if (process.env.NEXT_RUNTIME === "nodejs" && existsSync(built)) return Promise.resolve(built);
  const known = bundles.get(name) ?? bundle(name);
  bundles.set(name, known);
  return known;
}
