// Bundles the code of the server's worker threads, each into one file that needs nothing but Node.
import path from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");
const THREADS = ["archives", "programs", "sheets", "run"];

/** @param outfile where the bundle of src/server/threads/NAME.thread.ts goes */
export async function bundleThread(name, outfile) {
  await build({
    entryPoints: [path.join(root, "src", "server", "threads", `${name}.thread.ts`)],
    outfile,
    bundle: true,
    format: "esm",
    platform: "node",
    target: "node20",
    tsconfig: path.join(root, "tsconfig.json"),
    // Packages that were written for require() find it here.
    banner: { js: 'import { createRequire as requireFrom } from "node:module"; const require = requireFrom(import.meta.url);' },
    logLevel: "error",
  });
}

/** @returns when .next/threads has the bundles of all threads */
export async function bundleThreads() {
  for (const name of THREADS) await bundleThread(name, path.join(root, ".next", "threads", `${name}.mjs`));
}
