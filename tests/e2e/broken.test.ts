import http from "node:http";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Access } from "@/server/kernel/access/access";
import { openDatabase } from "@/server/kernel/db/client";
import { exportedRoutes } from "../helpers/routes";
import { TestServer } from "../helpers/server";

/** Thousands by npm run long -- broken; a few here. */
const BROKEN = Number(process.env.UPWIND_BROKEN ?? 200);
const CROSS = Number(process.env.UPWIND_CROSS ?? 80);
const PHRASE = "lantern barge on the tide";
const NOWHERE = "00000000-0000-4000-8000-000000000000";

const server = new TestServer();
let cookie = "";

interface Reply {
  status: number;
  text: string;
}
/** A request as a stranger may send it: any method, any host, any header. */
function send(method: string, path: string, headers: Record<string, string>, body?: Buffer | string): Promise<Reply> {
  return new Promise((resolve, reject) => {
    const request = http.request({ host: "127.0.0.1", port: server.port, method, path, headers }, (response) => {
      let text = "";
      response.setEncoding("utf8");
      // What goes on for as long as it is listened to is not.
      const enough = setTimeout(() => response.destroy(), 1500);
      response.on("data", (chunk) => {
        if (text.length < 20_000) text += chunk;
      });
      response.on("close", () => {
        clearTimeout(enough);
        resolve({ status: response.statusCode ?? 0, text });
      });
    });
    request.on("error", reject);
    request.end(body);
  });
}

beforeAll(async () => {
  await server.start({ seed: true });
  await server.stop();
  const { db, close } = await openDatabase(server.folder);
  await new Access(async () => db).setPhrase("keep", PHRASE);
  await close();
  await server.start({ host: "0.0.0.0" });
  const response = await fetch(`${server.url}/api/access/sign-in`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: server.url },
    body: JSON.stringify({ name: "Administrator", phrase: PHRASE }),
  });
  cookie = (response.headers.get("set-cookie") as string).split(";")[0] as string;
});
afterAll(() => server.remove());

const routes = exportedRoutes().filter((route) => !/access\/sign-in|access\/sign-out|backup|\/health|\/metrics/.test(route));
const own = () => ({ host: `127.0.0.1:${server.port}`, origin: server.url, "content-type": "application/json" });
const counts = async () => (await send("GET", "/api/cutters", { ...own(), cookie })).text;

const junk = fc.oneof(
  fc.json(),
  fc.string(),
  fc.constantFrom(
    "",
    "{",
    "null",
    "[]",
    "{}",
    '{"design":null}',
    '{"plan":{"format":"x"}}',
    '{"revision":1e400}',
    `"${"a".repeat(5000)}"`,
    '{"__proto__":{"x":1}}',
  ),
  fc.uint8Array({ maxLength: 300 }).map((bytes) => Buffer.from(bytes)),
);
/** An id that is none, or nobody's, or a way out of where it is. */
const word = fc.constantFrom(NOWHERE, "1", "%00", "..%2f..%2fetc%2fpasswd", "'%20or%201=1", "a".repeat(300), "%F0%9F%8F%AE", "0;drop%20table%20cutters");

describe("strangers' requests", () => {
  it("broken in any way they are answered in words, never by a fault, and change nothing; without a session nobody gets through", async () => {
    const before = await counts();
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...routes),
        word,
        junk,
        fc.boolean(),
        fc.constantFrom("application/json", "text/plain", "multipart/form-data", ""),
        fc.constantFrom("", "?limit=x", "?limit=-1&offset=1e9", "?a=%", "?at=..&page=1", "?as=pdf&paper=z"),
        async (route, id, body, inside, type, question) => {
          const [method, address] = route.split(" ") as [string, string];
          const { status, text } = await send(
            method,
            `${address.replaceAll(":id", id)}${question.includes("%") ? "" : question}`,
            { ...own(), "content-type": type, ...(inside ? { cookie } : {}) },
            method === "GET" || method === "DELETE" ? undefined : body,
          );
          // 502 is said of a controller that is not there.
          const fault = status >= 500 && status !== 502 ? `${status} ${text.slice(0, 200)}` : null;
          expect([route, id, fault]).toEqual([route, id, null]);
          // A ticket that is none is asked for a session too.
          if (!inside) expect([route, id, [400, 401, 404, 405].includes(status)]).toEqual([route, id, true]);
          expect(text).not.toMatch(/node_modules|\bat .*:\d+:\d+|select .* from|insert into/i);
        },
      ),
      { numRuns: BROKEN },
    );
    // Lists may be asked for, copies of nobody made: nothing of what stands has changed.
    expect((await counts()).length).toBeGreaterThanOrEqual(before.length - 200);
  }, 900_000);

  it("from another site, or by another name for this computer, they are refused with and without a session", async () => {
    const before = await counts();
    const origin = fc.constantFrom(
      "http://elsewhere.example",
      "null",
      "https://127.0.0.1",
      "http://127.0.0.1",
      "http://127.0.0.1.elsewhere.example",
      "file://",
      "x",
    );
    const host = fc.constantFrom(
      "elsewhere.example",
      "127.0.0.1.elsewhere.example",
      "shed",
      "localhost.elsewhere.example:80",
      "[::2]",
      "0x7f.1.elsewhere.example",
    );
    const site = fc.constantFrom("cross-site", "same-site", "none");
    const changing = routes.filter((route) => !route.startsWith("GET "));
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...changing),
        fc.oneof(
          origin.map((value) => ({ origin: value })),
          host.map((value) => ({ host: value, origin: `http://${value}` })),
          site.map((value) => ({ "sec-fetch-site": value })),
        ),
        fc.boolean(),
        async (route, headers: Record<string, string>, inside) => {
          const [method, address] = route.split(" ") as [string, string];
          const { status } = await send(
            method,
            address.replaceAll(":id", NOWHERE),
            { ...own(), ...headers, ...(inside ? { cookie } : {}) },
            method === "DELETE" ? undefined : "{}",
          );
          const wanted = "host" in headers ? [421] : inside ? [403] : [401, 403];
          expect([route, headers, inside, wanted.includes(status) ? "refused" : status]).toEqual([route, headers, inside, "refused"]);
        },
      ),
      { numRuns: CROSS },
    );
    // A page's own address under another name is no way in either.
    for (const name of ["elsewhere.example", "shed"]) expect((await send("GET", "/cutters", { host: name })).status).toBe(421);
    expect(await counts()).toBe(before);
  }, 900_000);
});
