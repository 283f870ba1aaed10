// Bundles what is not built by the framework: the page's service worker (/sw.js is served from .next) and the server's worker threads.
import { readFileSync } from "node:fs";
import path from "node:path";
import { build } from "esbuild";
import { root } from "./prepare.mjs";
import { bundleThreads } from "./threads.mjs";

/** @returns when .next/sw.js stands */
export async function bundleServiceWorker() {
  const revision = readFileSync(path.join(root, ".next", "BUILD_ID"), "utf8").trim();
  await build({
    entryPoints: [path.join(root, "src", "workers", "offline", "sw.ts")],
    outfile: path.join(root, ".next", "sw.js"),
    bundle: true,
    minify: true,
    format: "iife",
    platform: "browser",
    target: "es2022",
    define: { "self.UPWIND_BUILD": JSON.stringify(revision), "process.env.NODE_ENV": '"production"' },
    logLevel: "error",
  });
}

await bundleServiceWorker();
await bundleThreads();
