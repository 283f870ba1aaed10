import { readFileSync } from "node:fs";
import path from "node:path";
import type { Browser } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Role } from "@/core/workshop/roles";
import { Access } from "@/server/kernel/access/access";
import { openDatabase } from "@/server/kernel/db/client";
import { accessFaults, launch, overflow, saved, until, watched } from "../helpers/browser";
import { exportedRoutes } from "../helpers/routes";
import { TestServer } from "../helpers/server";

const PHRASES: Record<Role, string> = { keep: "lantern barge on the tide", work: "paper swan at dusk", look: "moon over the marsh" };
const NOWHERE = "00000000-0000-4000-8000-000000000000";

const server = new TestServer();
let browser: Browser;

/** Sets the phrases of a workshop that nobody serves. */
async function setPhrases(folder: string, roles: readonly Role[]): Promise<void> {
  const { db, close } = await openDatabase(folder);
  const access = new Access(async () => db);
  for (const role of roles) await access.setPhrase(role, PHRASES[role]);
  for (const name of ["Administrator of keys", "Glue hand", "Onlooker"]) await access.addMember(name);
  await close();
}
const headers = (cookie?: string) => ({ "content-type": "application/json", origin: server.url, ...(cookie ? { cookie } : {}) });
const signIn = (name: string, phrase: string, more: Record<string, string> = {}) =>
  fetch(`${server.url}/api/access/sign-in`, { method: "POST", headers: { ...headers(), ...more }, body: JSON.stringify({ name, phrase }) });
async function cookieOf(name: string, role: Role): Promise<string> {
  const response = await signIn(name, PHRASES[role]);
  expect(response.status).toBe(200);
  return (response.headers.get("set-cookie") as string).split(";")[0] as string;
}
const asks = async (route: string, cookie?: string): Promise<{ status: number; code: string | undefined }> => {
  const [method, address] = route.split(" ") as [string, string];
  const controller = new AbortController();
  const response = await fetch(`${server.url}${address.replaceAll(":id", NOWHERE)}`, {
    method,
    headers: headers(cookie),
    redirect: "manual",
    signal: controller.signal,
    ...(method === "POST" || method === "PUT" ? { body: "{}" } : {}),
  });
  const text = response.headers.get("content-type")?.includes("json") ? await response.text() : "";
  // What goes on for as long as it is listened to is not.
  controller.abort();
  return { status: response.status, code: text ? (JSON.parse(text) as { error?: { code: string } }).error?.code : undefined };
};

beforeAll(async () => {
  browser = await launch();
  // The folder is made ready by a start on this computer alone, which asks nobody.
  await server.start({ seed: true });
  expect((await fetch(`${server.url}/api/access/members`)).status).toBe(200);
  await server.stop();
});
afterAll(async () => {
  await browser.close();
  await server.remove();
});

describe("a workshop that others can reach", () => {
  it("is not started without a phrase, in words; in an open workshop every page says so", async () => {
    await expect(server.start({ host: "0.0.0.0" })).rejects.toThrow(
      /no access phrase: it was not started[\s\S]*npm run phrase -- keep[\s\S]*UPWIND_OPEN=anyone/,
    );
    await server.start({ host: "0.0.0.0", env: { UPWIND_OPEN: "anyone" } });
    expect(server.output).toMatch(/WARNING: anyone who reaches this address may look at and change everything/);
    const watch = await watched(browser, server.url);
    for (const address of ["/cutters", "/start"]) {
      const page = await watch.page(address);
      await page.getByRole("note").filter({ hasText: "Anyone who reaches this address" }).waitFor();
    }
    await watch.end();
    await server.stop();
    await setPhrases(server.folder, ["keep", "work", "look"]);
    await server.start({ host: "0.0.0.0" });
  });

  it("has no route without its check: nobody without a session, those who look change nothing, and administrators alone keep", async () => {
    const routes = exportedRoutes();
    expect(routes.length).toBeGreaterThan(60);
    // This computer's own programs may ask how the app is.
    const outside = ["POST /api/access/sign-in", "GET /api/health", "GET /api/metrics"];
    for (const route of routes) if (!outside.includes(route)) expect([route, await asks(route)]).toEqual([route, { status: 401, code: "sign-in" }]);
    expect((await asks("POST /api/access/sign-in")).status).toBe(422);
    // So may anyone who can read the data folder have all that is in it, as npm run backup has; nobody else by a mark of that form.
    const token = (JSON.parse(readFileSync(path.join(server.folder, "in-use.json"), "utf8")) as { token: string }).token;
    const archive = async (authorization: string) => (await fetch(`${server.url}/api/backup`, { headers: { authorization } })).status;
    expect([await archive(`Bearer ${token}`), await archive(`Bearer ${NOWHERE}`), await archive("Bearer ")]).toEqual([200, 401, 401]);
    const health = (await (await fetch(`${server.url}/api/health`)).json()) as { ok: boolean; database: { engine: string; answersMs: number } };
    expect(health).toMatchObject({ ok: true, database: { engine: "embedded", answersMs: expect.any(Number) } });
    const figures = await (await fetch(`${server.url}/api/metrics`)).text();
    expect(figures).toMatch(/upwind_request_seconds_count\{[^}]*status="401"\} \d+/);
    expect(figures).not.toMatch(/[0-9a-f]{8}-[0-9a-f]{4}/);
    // Forged, and of the app's own making but for nobody.
    for (const cookie of ["upwind-session=x", "upwind-session=Fe26.2*1*a*b*c*d*e*f~2", "x-upwind-member=1"])
      expect((await asks("GET /api/cutters", cookie)).status).toBe(401);
    const lied = await fetch(`${server.url}/api/cutters`, {
      headers: { "x-upwind-member": encodeURIComponent(JSON.stringify({ accessMode: "open", name: "x", role: "keep" })) },
    });
    expect(lied.status).toBe(401);

    const keeps = (route: string) => route.startsWith("DELETE ") || /\/restore$|\/api\/backups?\b|\/api\/access\/members/.test(route);
    const own = ["POST /api/access/sign-in", "POST /api/access/sign-out", "POST /api/access/passphrase"];
    // Past its ticket a second screen is for those who work.
    const works = (route: string) => route.includes("/api/second");
    const [look, work, keep] = [await cookieOf("Onlooker", "look"), await cookieOf("Glue hand", "work"), await cookieOf("Administrator of keys", "keep")];
    for (const route of routes) {
      if (own.includes(route) || outside.includes(route)) continue;
      const barred = { look: !route.startsWith("GET ") || keeps(route) || works(route), work: keeps(route) };
      for (const [role, cookie] of [["look", look] as const, ["work", work] as const]) {
        const reply = await asks(route, cookie);
        if (barred[role]) expect([route, role, reply]).toEqual([route, role, { status: 403, code: "role" }]);
        else expect([route, role, [401, 403].includes(reply.status)]).toEqual([route, role, false]);
      }
      if (keeps(route) && !route.includes("/api/backup")) expect([route, [401, 403].includes((await asks(route, keep)).status)]).toEqual([route, false]);
    }
    // A page that was asked for without a session leads to the sign-in page, and from there back.
    const page = await fetch(`${server.url}/backups?x=1`, { redirect: "manual" });
    expect([page.status, page.headers.get("location")]).toEqual([307, `${server.url}/sign-in?to=%2Fbackups%3Fx%3D1`]);
  });

  it("two members, each under their own name: signed in, kept apart by role, each shown what the other did, and signed out", async () => {
    const watch = await watched(browser, server.url, { viewport: { width: 390, height: 844 } });
    const page = await watch.page("/cutters");
    await page.waitForURL(/sign-in\?to=%2Fcutters$/);
    expect(await accessFaults(page)).toEqual([]);
    expect(await overflow(page)).toBeLessThanOrEqual(0);
    await page.getByLabel("Your name").fill("Glue hand");
    await page.getByLabel("The workshop's phrase").fill("not the phrase");
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.getByText("That is not the phrase of this workshop.").waitFor();
    expect(await page.getByLabel("Your name").inputValue()).toBe("Glue hand");
    await page.getByLabel("The workshop's phrase").fill(PHRASES.work);
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL(`${server.url}/cutters`);
    await page.getByRole("button", { name: "Places" }).click();
    expect(await page.getByRole("link", { name: "Backups" }).count()).toBe(0);
    expect(await page.getByRole("button", { name: /^Delete/ }).count()).toBe(0);

    const other = await watched(browser, server.url);
    const administrator = await other.page("/members");
    await administrator.getByLabel("Your name").fill("Administrator of keys");
    await administrator.getByLabel("The workshop's phrase").fill(PHRASES.keep);
    await administrator.getByRole("button", { name: "Sign in" }).click();
    await administrator.waitForURL(`${server.url}/members`);
    await administrator.locator('[data-member="Glue hand"]').waitFor();
    expect(await accessFaults(administrator)).toEqual([]);

    // Both on one cutter: what one changes the other sees as it is saved, with the name.
    await page.locator("[data-cutter] h2 a").first().click();
    await page.getByLabel("Cutter's name").waitFor();
    const cutter = new URL(page.url()).pathname;
    const desk = await other.page(cutter);
    await desk.getByLabel("Cutter's name").waitFor();
    await page.getByLabel("Cutter's name").fill("The club's own");
    await saved(page);
    await until(
      () => desk.getByLabel("Cutter's name").inputValue(),
      (name) => name === "The club's own",
      "the other's name for it",
    );
    await desk.getByText("Joined with a change by Glue hand").waitFor();
    // Each page says at the document's head that the other has it open.
    await desk.getByText("Glue hand has this open too").waitFor();
    await page.getByText("Administrator of keys has this open too").waitFor();
    await administrator.bringToFront();
    await administrator.reload();
    await administrator.getByText("Glue hand changed a cutter “The club's own”").waitFor();
    const rows = (await (await fetch(`${server.url}/api/cutters`, { headers: headers(await cookieOf("Onlooker", "look")) })).json()) as {
      cutters: { changedBy: string; design: { name: string } }[];
    };
    expect(rows.cutters.find(({ design }) => design.name === "The club's own")?.changedBy).toBe("Glue hand");

    // Signed out by the administrator: what the member types then is kept in the browser, and said not to be saved.
    await administrator.locator('[data-member="Glue hand"]').getByRole("button", { name: "Sign out" }).click();
    await administrator.locator('[data-member="Glue hand"]').getByText("not signed in").waitFor();
    await page.bringToFront();
    await page.getByLabel("Cutter's name").fill("Typed after");
    await page.getByRole("alert").filter({ hasText: "You are signed out" }).waitFor();
    await page.getByRole("link", { name: "sign in again" }).click();
    await page.getByLabel("Your name").fill("Glue hand");
    await page.getByLabel("The workshop's phrase").fill(PHRASES.work);
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL(`${server.url}${cutter}`);
    await until(
      () => page.getByLabel("Cutter's name").inputValue(),
      (name) => name === "Typed after",
      "what was typed meanwhile",
    );
    await saved(page);
    watch.forgive(/status of 401/);
    await watch.end();
    other.forgive(/status of 401/);
    await other.end();
  });

  it("those who look try things out, and nothing of it is kept", async () => {
    const watch = await watched(browser, server.url);
    const page = await watch.page("/sign-in");
    await page.getByLabel("Your name").fill("Onlooker");
    await page.getByLabel("The workshop's phrase").fill(PHRASES.look);
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL(`${server.url}/cutters`);
    await page.locator("[data-cutter] h2 a").first().click();
    const name = page.getByLabel("Cutter's name");
    await name.waitFor();
    const before = await name.inputValue();
    await name.fill("Only tried");
    await page.getByText("looking: nothing is kept").waitFor();
    await page.waitForTimeout(1000);
    await page.reload();
    await name.waitFor();
    expect(await name.inputValue()).toBe(before);
    watch.forgive(/status of 403/);
    await watch.end();
  });

  it("the session's cookie is out of the page's reach, for this site alone; wrong tries are limited, and nobody's words are in the server's output", async () => {
    const response = await signIn("Administrator of keys", PHRASES.keep);
    expect(response.headers.get("set-cookie")).toMatch(/^upwind-session=[^;]+; Path=\/; Max-Age=2592000; HttpOnly; SameSite=Lax$/);
    expect((await signIn("Administrator of keys", PHRASES.keep, { origin: "http://elsewhere.example" })).status).toBe(403);
    let last = 0;
    for (let i = 0; i < 12 && last !== 429; i++) {
      // A client's own word about its address makes it nobody else.
      last = (await signIn("Administrator of keys", `wrong guess number ${i}`, { "x-forwarded-for": `203.0.113.${i}`, "x-upwind-client": `198.51.100.${i}` }))
        .status;
      expect([401, 429]).toContain(last);
    }
    expect(last).toBe(429);
    const barred = await signIn("Administrator of keys", PHRASES.keep);
    expect(((await barred.json()) as { error: { message: string } }).error.message).toMatch(/Too many tries: wait \d+ minutes?/);
    for (const word of [...Object.values(PHRASES), "wrong guess", "Glue hand", "Administrator of keys", "The club's own"])
      expect(server.output).not.toContain(word);
  });

  it("behind its proxy it answers the proxy alone, by TLS alone, and the cookie goes by TLS alone", async () => {
    await server.stop();
    await server.start({ env: { UPWIND_PROXY: "127.0.0.1", UPWIND_HOSTS: "shed.example" } });
    const said = { "x-forwarded-for": "203.0.113.5", "x-forwarded-proto": "https", origin: server.url.replace("http:", "https:") };
    expect((await fetch(`${server.url}/api/cutters`)).status).toBe(421);
    expect((await fetch(`${server.url}/api/cutters`, { headers: { ...said, "x-forwarded-proto": "http" } })).status).toBe(421);
    expect((await fetch(`${server.url}/api/cutters`, { headers: said })).status).toBe(401);
    // The proxy speaks from this computer too: how the app is is for administrators then.
    for (const route of ["health", "metrics"]) expect((await fetch(`${server.url}/api/${route}`, { headers: said })).status).toBe(401);
    const response = await signIn("Administrator of keys", PHRASES.keep, said);
    expect(response.headers.get("set-cookie")).toMatch(/; HttpOnly; SameSite=Lax; Secure$/);
    const cookie = (response.headers.get("set-cookie") as string).split(";")[0] as string;
    for (const route of ["cutters", "health"]) expect((await fetch(`${server.url}/api/${route}`, { headers: { ...said, cookie } })).status).toBe(200);
    // Tries are counted by anyone who the proxy says asks.
    for (let i = 0; i < 11; i++) await signIn("Administrator of keys", "not the phrase at all", said);
    expect((await signIn("Administrator of keys", PHRASES.keep, said)).status).toBe(429);
    expect((await signIn("Administrator of keys", PHRASES.keep, { ...said, "x-forwarded-for": "203.0.113.5, 203.0.113.6" })).status).toBe(200);
  });
});
