import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { demoLog } from "@/core/log/demoLog";
import { entriesToJson } from "@/core/log/files";
import { MAX_PHOTO_BYTES } from "@/core/log/photo";
import { DEMO_PLANS } from "@/core/plans/demoPlans";
import { newRig } from "@/core/rigs/rig";
import { exportedRoutes } from "../helpers/routes";
import { TestServer } from "../helpers/server";

const server = new TestServer();
let id = "";
let entryId = "";
let itemId = "";
let planId = "";
let rigId = "";
const NOWHERE = "00000000-0000-4000-8000-000000000000";

interface Reply {
  status: number;
  body: { error?: { code: string; path?: string; message: string } } & Record<string, unknown>;
  headers: Headers;
}
async function request(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Reply> {
  const raw = body instanceof Uint8Array || typeof body === "string";
  const response = await fetch(`${server.url}${path}`, {
    method,
    headers: { origin: server.url, ...(raw ? {} : { "content-type": "application/json" }), ...headers },
    ...(body === undefined ? {} : { body: raw ? (body as BodyInit) : JSON.stringify(body) }),
  });
  const text = await response.text();
  return { status: response.status, body: text.startsWith("{") ? JSON.parse(text) : {}, headers: response.headers };
}

const SPARE = { kind: "fuse", name: "A spare", rating_A: 7.5, count: 1 };

beforeAll(async () => {
  await server.start();
  const made = await request("POST", "/api/cutters", { design: DEMO_CUTTERS[0] });
  id = (made.body.cutter as { id: string }).id;
  const added = await request("POST", `/api/cutters/${id}/log`, { entry: demoLog()[0] });
  entryId = (added.body.row as { id: string }).id;
  const item = await request("POST", "/api/drawer", { item: SPARE });
  itemId = (item.body.row as { id: string }).id;
  const plan = await request("POST", "/api/plans", { plan: DEMO_PLANS[0] });
  planId = (plan.body.plan as { id: string }).id;
  const rig = await request("POST", "/api/rigs", { rig: newRig("drop") });
  rigId = (rig.body.rig as { id: string }).id;
});
afterAll(() => server.remove());

/** Every route that changes something, with a body that would be good. */
const changes = (): [string, string, unknown][] => [
  ["POST", "/api/cutters", { design: DEMO_CUTTERS[0] }],
  ["POST", "/api/cutters/import", { text: JSON.stringify(DEMO_CUTTERS[0]) }],
  ["PUT", `/api/cutters/${id}`, { revision: 1, design: DEMO_CUTTERS[0] }],
  ["DELETE", `/api/cutters/${id}`, undefined],
  ["POST", `/api/cutters/${id}/restore`, undefined],
  ["POST", `/api/cutters/${id}/duplicate`, undefined],
  ["POST", `/api/cutters/${id}/log`, { entry: demoLog()[1] }],
  ["PUT", `/api/cutters/${id}/log/${entryId}`, { revision: 1, entry: demoLog()[0] }],
  ["DELETE", `/api/cutters/${id}/log/${entryId}`, undefined],
  ["POST", `/api/cutters/${id}/log/preview`, { text: entriesToJson("x", demoLog()) }],
  ["POST", `/api/cutters/${id}/log/import`, { text: entriesToJson("x", demoLog()) }],
  ["POST", `/api/cutters/${id}/photos`, Uint8Array.of(0xff, 0xd8, 0xff)],
  ["POST", "/api/plans", { plan: DEMO_PLANS[0] }],
  ["POST", "/api/plans/import", { text: JSON.stringify(DEMO_PLANS[0]) }],
  ["PUT", `/api/plans/${planId}`, { revision: 1, plan: DEMO_PLANS[0] }],
  ["DELETE", `/api/plans/${planId}`, undefined],
  ["POST", `/api/plans/${planId}/restore`, undefined],
  ["POST", `/api/plans/${planId}/duplicate`, undefined],
  ["POST", "/api/rigs", { rig: newRig("swing") }],
  ["POST", "/api/rigs/import", { text: JSON.stringify(newRig("table")) }],
  ["PUT", `/api/rigs/${rigId}`, { revision: 1, rig: newRig("drop") }],
  ["DELETE", `/api/rigs/${rigId}`, undefined],
  ["POST", `/api/rigs/${rigId}/restore`, undefined],
  ["POST", `/api/rigs/${rigId}/duplicate`, undefined],
  ["POST", "/api/run", { rig: rigId, page: "page-0001", program: "x", text: "G21\nM2\n" }],
  ["POST", "/api/run/open", { rig: rigId, page: "page-0001" }],
  ["POST", "/api/run/pulse", { run: null, page: "page-0001", present: true }],
  ["POST", "/api/run/act", { act: "hold" }],
  ["POST", "/api/drawer", { item: { kind: "fuse", name: "A fuse", rating_A: 5, count: 1 } }],
  ["PUT", `/api/drawer/${itemId}`, { revision: 1, item: SPARE }],
  ["DELETE", `/api/drawer/${itemId}`, undefined],
  ["POST", `/api/drawer/${itemId}/restore`, undefined],
  ["POST", "/api/drawer/import", { text: "kind,name\nfuse,Another\n" }],
  ["POST", "/api/drawer/preview", { text: "kind,name\nfuse,Another\n" }],
];

/** Changes that are tried elsewhere: they replace the whole workshop, write an archive, or are about who may come in and what is on a second screen. */
const ELSEWHERE = [
  "POST /api/backups",
  "POST /api/backups/preview",
  "POST /api/backups/restore",
  "POST /api/access/sign-in",
  "POST /api/access/sign-out",
  "POST /api/access/members",
  "POST /api/access/passphrase",
  "POST /api/second",
  "POST /api/second/:id",
];

describe("every route that changes something", () => {
  it("is tried here: a route file that nobody tries is found", () => {
    const tried = changes().map(([method, address]) => `${method} ${address.replaceAll(/[0-9a-f]{8}-[0-9a-f-]{27}/g, ":id")}`);
    const changing = exportedRoutes().filter((route) => !route.startsWith("GET "));
    expect(changing.length).toBeGreaterThan(15);
    expect(changing.filter((route) => !tried.includes(route) && !ELSEWHERE.includes(route))).toEqual([]);
  });

  it("refuses every request of another site's page, and changes nothing", async () => {
    const before = await request("GET", "/api/cutters");
    const drawer = await request("GET", "/api/drawer");
    for (const [method, path, body] of changes()) {
      const elsewhere: Record<string, string>[] = [
        { origin: "http://elsewhere.example" },
        { origin: "null" },
        { origin: server.url, "sec-fetch-site": "cross-site" },
      ];
      for (const headers of elsewhere) {
        const reply = await request(method, path, body, headers);
        expect([path, reply.status, reply.body.error?.code]).toEqual([path, 403, "cross-origin"]);
      }
    }
    expect((await request("GET", "/api/cutters")).body).toEqual(before.body);
    expect((await request("GET", "/api/drawer")).body).toEqual(drawer.body);
  });

  it("names what is wrong with a body: not JSON, a key too many, none at all; never a stack", async () => {
    for (const [method, path, body] of changes()) {
      if (body === undefined || body instanceof Uint8Array) continue;
      const broken = await request(method, path, "{", { "content-type": "application/json" });
      expect([path, broken.status, broken.body.error?.code]).toEqual([path, 400, "unreadable"]);
      const more = await request(method, path, { ...(body as object), surprise: 1 });
      expect([path, more.status, more.body.error?.code]).toEqual([path, 422, "unknown-key"]);
      expect(more.body.error?.path).toBe("surprise");
      const nothing = await request(method, path, {});
      expect([path, nothing.status]).toEqual([path, 422]);
      for (const reply of [broken, more, nothing]) expect(JSON.stringify(reply.body)).not.toMatch(/node_modules|\bat .*:\d+:\d+|select |insert /i);
    }
  });

  it("answers 404 for a cutter or thing that is not there and 422 for what is no id", async () => {
    for (const [method, path, body] of changes()) {
      const own = [id, itemId, planId, rigId].find((each) => path.includes(each));
      if (!own) continue;
      const gone = await request(method, path.replace(own, NOWHERE), body);
      expect([path, gone.status, gone.body.error?.code]).toEqual([path, 404, "not-found"]);
      const odd = await request(method, path.replace(own, "1%20or%201"), body);
      expect([path, odd.status]).toEqual([path, 422]);
    }
    expect((await request("GET", `/api/photos/${NOWHERE}`)).status).toBe(404);
    expect((await request("GET", "/api/photos/nonsense")).status).toBe(422);
  });
});

describe("the log's routes", () => {
  it("an entry goes in, is put right, comes back as it is, and a bad one is named by its field", async () => {
    const entry = demoLog().find((each) => each.kind === "diagnosis");
    const added = await request("POST", `/api/cutters/${id}/log`, { entry: { ...entry, outcome: "untried" } });
    expect(added.status).toBe(201);
    const row = added.body.row as { id: string };
    const saved = await request("PUT", `/api/cutters/${id}/log/${row.id}`, { revision: 1, entry: { ...entry, outcome: "no help" } });
    expect(saved.body.row).toMatchObject({ id: row.id, entry: { outcome: "no help" } });
    const bad = await request("PUT", `/api/cutters/${id}/log/${row.id}`, { revision: 2, entry: { ...entry, outcome: "perhaps" } });
    const late = await request("PUT", `/api/cutters/${id}/log/${row.id}`, { revision: 1, entry: { ...entry, outcome: "helped" } });
    expect(late.status).toBe(409);
    expect(bad.status).toBe(422);
    expect(bad.body.error).toMatchObject({ code: "not-one-of", path: "entry.outcome" });
    const listed = await request("GET", `/api/cutters/${id}/log`);
    expect((listed.body.entries as { id: string; entry: unknown }[]).find((each) => each.id === row.id)?.entry).toMatchObject({ outcome: "no help" });
  });

  it("a picture is kept byte for byte, served as what it is and nothing else, and a film is refused before it is read", async () => {
    const jpeg = Uint8Array.from({ length: 5000 }, (_, i) => [0xff, 0xd8, 0xff, 0xe0][i] ?? i % 251);
    const stored = await request("POST", `/api/cutters/${id}/photos`, jpeg);
    expect(stored.status).toBe(201);
    const response = await fetch(`${server.url}/api/photos/${stored.body.id}`);
    expect(response.headers.get("content-type")).toBe("image/jpeg");
    expect(response.headers.get("x-content-type-options")).toBe("nosniff");
    expect(new Uint8Array(await response.arrayBuffer())).toEqual(jpeg);
    expect((await request("POST", `/api/cutters/${id}/photos`, new TextEncoder().encode("<script>"))).status).toBe(415);
    expect((await request("POST", `/api/cutters/${id}/photos`, new Uint8Array(0))).status).toBe(415);
    expect((await request("POST", `/api/cutters/${id}/photos`, new Uint8Array(MAX_PHOTO_BYTES + 1))).status).toBe(413);
  });

  it("a log file comes in once; a preview changes nothing", async () => {
    const made = await request("POST", "/api/cutters", { design: DEMO_CUTTERS[1] });
    const own = (made.body.cutter as { id: string }).id;
    const text = entriesToJson("x", demoLog());
    const statuses = (reply: Reply) => (reply.body.rows as { status: string }[]).map((row) => row.status);
    const count = async () => ((await request("GET", `/api/cutters/${own}/log`)).body.entries as unknown[]).length;
    expect(new Set(statuses(await request("POST", `/api/cutters/${own}/log/preview`, { text })))).toEqual(new Set(["new"]));
    expect(await count()).toBe(0);
    await request("POST", `/api/cutters/${own}/log/import`, { text });
    expect(await count()).toBe(demoLog().length);
    expect(new Set(statuses(await request("POST", `/api/cutters/${own}/log/import`, { text })))).toEqual(new Set(["known"]));
    expect(await count()).toBe(demoLog().length);
    const newer = await request("POST", `/api/cutters/${own}/log/import`, { text: text.replace('"version": 2', '"version": 7') });
    expect(newer.body.error).toMatchObject({ code: "newer-format", path: "version" });
  });

  it("with no instrument wired there is none to read, and nothing is said of any", async () => {
    expect((await request("GET", "/api/instruments")).body).toEqual({ figures: {}, troubles: [], wired: [] });
  });
});
