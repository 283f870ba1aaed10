import { readFile } from "node:fs/promises";
import path from "node:path";

export const dynamic = "force-dynamic";

/** The service worker, as it was bundled with this build. It is looked at again each time: an old one must not outlive its build. */
export async function GET(): Promise<Response> {
  try {
    const text = await readFile(path.join(process.cwd(), ".next", "sw.js"), "utf8");
    return new Response(text, { headers: { "content-type": "text/javascript; charset=utf-8", "cache-control": "no-cache" } });
  } catch {
    // A build made by other means has none: the app works without.
    return new Response("", { status: 404 });
  }
}
