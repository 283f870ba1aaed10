import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { ACCESS } from "@/contract/access/contract";
import { newDesign } from "@/core/cutters/solve/defaults";
import { CLIENT_HEADER, SECURE_HEADER } from "@/server/kernel/accessGuard";
import { access, auditEntries, members, sessions } from "@/server/kernel/db/schema";
import { exportedRoutes } from "../../../../tests/helpers/routes";
import { TestApp } from "../../../../tests/helpers/testApp";
import { SESSION_S } from "../../kernel/access/access";

const KEEP = "lantern barge on the tide";
const WORK = "paper swan at dusk";
const LOOK = "moon over the marsh";
const NOWHERE = "00000000-0000-4000-8000-000000000000";

interface Reply {
  phrases: Record<string, boolean>;
  ownNames: boolean;
  members: { id: string; name: string; role: string | null; sessions: number }[];
  activity: { who: string; did: string; on: string | null; times: number }[];
}
let app: TestApp;
beforeAll(async () => {
  app = await TestApp.open();
});
afterAll(() => app.close());

/** Others than this computer may reach it, by three phrases; an administrator, a worker and a looker are written in. */
beforeEach(async () => {
  for (const table of [sessions, members, access, auditEntries]) await app.db.delete(table);
  app.access.forget();
  app.env = { HOST: "0.0.0.0" };
  app.cookie = "";
  await app.access.setPhrase("keep", KEEP);
  await app.access.setPhrase("work", WORK);
  await app.access.setPhrase("look", LOOK);
  for (const name of ["Administrator", "Glue hand", "Visitor"]) await app.access.addMember(name);
});

const enter = (name: string, phrase: string, headers: Record<string, string> = {}) =>
  app.request<{ name: string; role: string }>("POST", "/api/access/sign-in", { name, phrase }, { headers });
/** Signs in, and asks as that member from now on. */
async function as(name: string, phrase: string) {
  const reply = await enter(name, phrase);
  expect(reply.status).toBe(200);
  app.cookie = (reply.headers.get("set-cookie") ?? "").split(";")[0] as string;
}
const view = async () => {
  const { status, body } = await app.request<Reply>("GET", "/api/access/members");
  expect(status).toBe(200);
  expect(ACCESS.members.response.safeParse(body).error).toBeUndefined();
  return body;
};
const change = (action: unknown) => app.request<Reply>("POST", "/api/access/members", action);

describe("access to a workshop that others reach", () => {
  it("answers nobody who has not signed in: every route but those that let in", async () => {
    const outside = new Set<string>();
    for (const route of exportedRoutes()) {
      const [method, at] = route.split(" ") as [string, string];
      if (!at.startsWith("/api/") || at.includes("sw.js")) continue;
      const { status } = await app.request(method, at.replaceAll(":id", NOWHERE), method === "GET" ? undefined : {});
      if (status !== 401) outside.add(`${route} ${status}`);
    }
    // Signing in itself, and the app's health to this computer's own programs.
    expect([...outside].sort()).toEqual(["GET /api/health 200", "GET /api/metrics 200", "POST /api/access/sign-in 422"]);
  });

  it("a cookie is out of the page's reach, for this site alone, and by TLS alone where it came by TLS", async () => {
    const plain = await enter("Glue hand", WORK);
    expect(plain.body).toEqual({ name: "Glue hand", role: "work" });
    expect(plain.headers.get("set-cookie")).toMatch(new RegExp(`^upwind-session=[^;]{50,}; Path=/; Max-Age=${SESSION_S}; HttpOnly; SameSite=Lax$`));
    expect(plain.headers.get("cache-control")).toBe("no-store");
    expect((await enter("Glue hand", WORK, { [SECURE_HEADER]: "1", origin: "https://127.0.0.1:3000" })).headers.get("set-cookie")).toMatch(
      /; SameSite=Lax; Secure$/,
    );
  });

  it("an https page on the same host is another origin, and so is a plain one where it came by TLS", async () => {
    const others: Record<string, string>[] = [{ origin: "https://127.0.0.1:3000" }, { [SECURE_HEADER]: "1", origin: "http://127.0.0.1:3000" }];
    for (const headers of others) expect(await app.refusal("POST", "/api/cutters", {}, { headers })).toEqual([403, "cross-origin"]);
  });

  it("another site's page cannot make the browser read, and HEAD makes nothing", async () => {
    for (const site of ["cross-site", "same-site"])
      for (const at of ["/api/backup", "/api/cutters", "/api/health"])
        expect(await app.refusal("GET", at, undefined, { headers: { "sec-fetch-site": site } })).toEqual([403, "cross-origin"]);
    await as("Visitor", LOOK);
    expect((await app.request("GET", "/api/cutters", undefined, { headers: { "sec-fetch-site": "same-origin" } })).status).toBe(200);
    expect((await app.request("GET", "/api/cutters", undefined, { headers: { "sec-fetch-site": "none" } })).status).toBe(200);
  });

  it("a removed member's events end at once", async () => {
    await as("Glue hand", WORK);
    const stream = await app.response("GET", "/api/changes");
    const reader = (stream.body as ReadableStream<Uint8Array>).getReader();
    await reader.read();
    const from = Date.now();
    await app.access.removeMember((await app.access.view()).members.find(({ name }) => name === "Glue hand")?.id as string);
    while (!(await reader.read()).done);
    expect(Date.now() - from).toBeLessThan(5000);
    await app.access.addMember("Glue hand");
  });

  it("signing out takes the cookie away and ends the session on the server", async () => {
    await as("Visitor", LOOK);
    expect((await app.request("GET", "/api/cutters")).status).toBe(200);
    // Other cookies, and blanks, are next to it as browsers send them.
    app.cookie = `theme=dark;  ${app.cookie} ; =; x`;
    const out = await app.request("POST", "/api/access/sign-out", {});
    expect(out.headers.get("set-cookie")).toBe("upwind-session=; Path=/; Max-Age=0; HttpOnly; SameSite=Lax");
    expect(await app.refusal("GET", "/api/cutters")).toEqual([401, "sign-in"]);
  });

  it("wrong tries are counted by the address that the guard saw, not by a header", async () => {
    for (let i = 0; i < 10; i++)
      expect((await enter("Administrator", "not this one", { [CLIENT_HEADER]: "192.0.2.7", "x-forwarded-for": `192.0.2.${i}` })).status).toBe(401);
    expect(await app.refusal("POST", "/api/access/sign-in", { name: "Administrator", phrase: KEEP }, { headers: { [CLIENT_HEADER]: "192.0.2.7" } })).toEqual([
      429,
      "too-many-tries",
    ]);
    expect((await enter("Administrator", KEEP, { [CLIENT_HEADER]: "192.0.2.8" })).status).toBe(200);
  });

  it("each role may do what is its own: look, work, keep", async () => {
    const design = newDesign("bow", "Of the club");
    await as("Glue hand", WORK);
    const { body, status } = await app.request<{ cutter: { id: string; changedBy: string | null } }>("POST", "/api/cutters", { design });
    expect([status, body.cutter.changedBy]).toEqual([201, "Glue hand"]);
    const at = `/api/cutters/${body.cutter.id}`;
    expect(await app.refusal("DELETE", at)).toEqual([403, "role"]);
    expect(await app.refusal("GET", "/api/access/members")).toEqual([403, "role"]);
    const refused = await app.request<{ error: { message: string } }>("DELETE", at);
    expect(refused.body.error.message).toMatch(/administrator .* can do that/i);
    await as("Visitor", LOOK);
    expect((await app.request("GET", at)).status).toBe(200);
    const looked = await app.request<{ error: { message: string } }>("PUT", at, { revision: 1, design });
    expect([looked.status, looked.body.error.message]).toEqual([403, "You signed in to look: nothing was changed."]);
    await as("Administrator", KEEP);
    expect((await app.request("DELETE", at)).status).toBe(200);
  });

  it("an administrator adds, removes and signs out members, sets phrases and renames; audit entries have names", async () => {
    await as("Glue hand", WORK);
    const { body } = await app.request<{ cutter: { id: string } }>("POST", "/api/cutters", { design: newDesign("bow", "Remembered") });
    const worker = app.cookie;
    await as("Administrator", KEEP);
    expect((await app.request("POST", `/api/cutters/${body.cutter.id}/duplicate`)).status).toBe(201);
    await change({ do: "add", name: "New hand" });
    let now = await view();
    expect(now.members.map(({ name, role, sessions: count }) => [name, role, count])).toEqual([
      ["Administrator", "keep", 1],
      ["Glue hand", "work", 1],
      ["New hand", null, 0],
      ["Visitor", null, 0],
    ]);
    expect(now.activity.map(({ who, did, on }) => [who, did, on])).toEqual([
      ["Administrator", "copied a cutter", "Remembered"],
      ["Glue hand", "made a cutter", null],
    ]);
    expect([now.phrases, now.ownNames]).toEqual([{ look: true, work: true, keep: true }, false]);
    const idOf = (name: string) => now.members.find((each) => each.name === name)?.id;
    await change({ do: "sign-out", id: idOf("Glue hand") });
    expect((await app.request("GET", "/api/cutters", undefined, { headers: { cookie: worker } })).status).toBe(401);
    expect((await change({ do: "remove", id: idOf("New hand") })).body.members).toHaveLength(3);
    expect((await change({ do: "remove", id: idOf("New hand") })).status).toBe(404);
    expect((await change({ do: "own-names", own: true })).body.ownNames).toBe(true);
    now = (await change({ do: "phrase", role: "look", phrase: null })).body;
    expect(now.phrases).toEqual({ look: false, work: true, keep: true });
    expect((await enter("Visitor", LOOK)).status).toBe(401);
    expect(await app.refusal("POST", "/api/access/members", { do: "phrase", role: "look", phrase: WORK })).toEqual([409, "name-taken", "phrase"]);
    expect(await app.refusal("POST", "/api/access/members", { do: "phrase", role: "look", phrase: "short" })).toEqual([422, "out-of-range", "phrase"]);
    expect((await app.refusal("POST", "/api/access/members", { do: "nothing" }))[0]).toBe(422);
    // Nobody could come in to set it right.
    expect(await app.refusal("POST", "/api/access/members", { do: "phrase", role: "keep", phrase: null })).toEqual([409, "role", "phrase"]);
  });

  it("in an open workshop nobody signs in, nobody is named, and the administrators' phrase may go", async () => {
    app.env = {};
    expect(await app.refusal("POST", "/api/access/sign-in", { name: "Administrator", phrase: KEEP })).toEqual([409, "sign-in"]);
    const { body } = await app.request<{ cutter: { changedBy: string | null } }>("POST", "/api/cutters", { design: newDesign("bow", "Alone") });
    expect(body.cutter.changedBy).toBeNull();
    expect((await change({ do: "phrase", role: "keep", phrase: null })).body.phrases).toEqual({ look: true, work: true, keep: false });
    expect((await view()).activity).toEqual([]);
    expect((await app.request("POST", "/api/access/sign-out", {})).status).toBe(200);
    app.env = { HOST: "0.0.0.0", UPWIND_OPEN: "anyone" };
    expect((await app.request("GET", "/api/cutters")).status).toBe(200);
  });

  it("health is shown to this computer's own programs, and to administrators; behind a proxy to administrators alone", async () => {
    const from = (client: string) => app.request("GET", "/api/health", undefined, { headers: { [CLIENT_HEADER]: client } });
    expect((await from("127.0.0.1")).status).toBe(200);
    expect((await from("192.0.2.7")).status).toBe(401);
    expect((await from("")).status).toBe(401);
    await as("Glue hand", WORK);
    expect((await from("192.0.2.7")).status).toBe(403);
    await as("Administrator", KEEP);
    expect((await from("192.0.2.7")).status).toBe(200);
    const metrics = await app.request("GET", "/api/metrics", undefined, { headers: { [CLIENT_HEADER]: "192.0.2.7" } });
    expect(metrics.status).toBe(200);
    expect(metrics.bytes.toString()).toMatch(/upwind_refusals_total\{code="role"\} [1-9]/);
    app.cookie = "";
    app.env = { HOST: "127.0.0.1", UPWIND_PROXY: "127.0.0.1" };
    expect((await from("127.0.0.1")).status).toBe(401);
  });
});

describe("before the workshop is open", () => {
  it("nobody is let in, and it is said why", async () => {
    await app.response("GET", "/api/health");
    const { holdAccess } = await import("../../kernel/access/who");
    const { accessRoutes } = await import("./routes");
    app.enter();
    holdAccess(undefined as never);
    try {
      process.env.HOST = "0.0.0.0";
      const response = await accessRoutes.signIn(
        new Request("http://127.0.0.1:3000/api/access/sign-in", {
          method: "POST",
          headers: { host: "127.0.0.1:3000", origin: "http://127.0.0.1:3000" },
          body: JSON.stringify({ name: "Administrator", phrase: KEEP }),
        }),
        undefined as never,
      );
      expect(response.status).toBe(503);
      expect(((await response.json()) as { error: { message: string } }).error.message).toMatch(/not open yet/);
    } finally {
      app.enter();
    }
  });
});
