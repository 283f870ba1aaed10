import { spawnSync } from "node:child_process";
import { request as httpRequest } from "node:http";
import type { Page } from "playwright-core";
import { describe, expect, it } from "vitest";
import { accessFaults, listens, overflow, saved, until, type Watched } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop();

/** Makes a cutter from the empty shed and gives its page. */
async function newCutter(watch: Watched): Promise<{ page: Page; path: string }> {
  const page = await watch.page("/cutters");
  await page.getByRole("button", { name: /New cutter/ }).click();
  await page.getByRole("menuitem", { name: /Table cutter/ }).click();
  await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
  await page.waitForSelector(".sentence");
  return { page, path: new URL(page.url()).pathname };
}

const typeFeed = async (page: Page, text: string) => {
  await page.locator('[data-part="feed"]').click();
  await page.getByLabel("Feed", { exact: true }).first().fill(text);
  await page.keyboard.press("Escape");
};
/** Code of the page, and words that are in the choosers' alone. */
const isCode = (url: string | URL) => String(url).includes("/_next/static/chunks/");
const CHOOSER = /How warm is the room\?/;
const sentence = (page: Page) => page.locator(".sentence").innerText();

describe("an empty shed", () => {
  it.each(["/cutters", "/plans", "/drawer", "/matches", "/compare", "/backups"])(
    "%s: nothing is there, and what is in its place breaks no rule of access",
    async (at) => {
      const watch = await watched();
      const page = await watch.page(at);
      await listens(page);
      for (const width of [1280, 390]) {
        await page.setViewportSize({ width, height: 800 });
        expect(await overflow(page), `${width} px`).toBeLessThanOrEqual(0);
        expect(await accessFaults(page), `${width} px`).toEqual([]);
      }
      await watch.end();
    },
  );

  it("teaches: one sentence, one action, and the demo to open", async () => {
    const watch = await watched();
    const page = await watch.page("/");
    // A newcomer is asked; who knows what they want goes past.
    await page.getByRole("heading", { name: "What is it made of?" }).waitFor();
    await page.getByRole("link", { name: /skip this/ }).click();
    await page.getByRole("link", { name: "Look round a demo cutter" }).click();
    await page.getByText("demo: nothing is kept").waitFor();
    await typeFeed(page, "7");
    await page.goto(`${server.url}/cutters`);
    await page.getByRole("button", { name: "Make an empty bow" }).click();
    await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
    await watch.end();
  });
});

describe("two tabs on one cutter", () => {
  it("join changes of different parts", async () => {
    const watch = await watched();
    const { page: one, path } = await newCutter(watch);
    const two = await watch.page(path);
    await typeFeed(one, "7.5");
    await saved(one);
    await two.locator('[data-part="thickness"]').click();
    await two.getByLabel("Foam across the wire").first().fill("333");
    await two.keyboard.press("Escape");
    await saved(two);
    expect(await sentence(two)).toContain("7.5 mm/s");
    await one.reload();
    expect(await sentence(one)).toMatch(/333 mm thick, at 7\.5 mm\/s/);
    await watch.end();
  });

  it("ask when both changed one part, and can keep both", async () => {
    const watch = await watched();
    const { page: one, path } = await newCutter(watch);
    await one.getByLabel("Cutter's name").fill("Contested");
    await saved(one);
    const two = await watch.page(path);
    // The second tab's save is held back until the first one's has landed.
    let release = () => {};
    const landed = new Promise<void>((resolve) => {
      release = resolve;
    });
    await two.route("**/api/cutters/*", async (route) => {
      if (route.request().method() === "PUT") await landed;
      await route.continue();
    });
    const asked = two.waitForRequest((request) => request.method() === "PUT");
    await typeFeed(two, "9");
    await asked;
    await typeFeed(one, "3");
    await saved(one);
    release();
    const dialog = two.getByRole("dialog", { name: "Changed in two places" });
    await dialog.waitFor();
    // Both versions are shown side by side.
    expect(await dialog.locator("[data-clash=feed]").innerText()).toMatch(/feed\s+9 mm\/s\s+3 mm\/s/);
    await dialog.getByRole("button", { name: /Keep both/ }).click();
    await until(
      () => sentence(two),
      (text) => text.includes("3 mm/s"),
      "theirs here",
    );
    await saved(two);
    await two.goto(`${server.url}/cutters`);
    await two.locator('[data-cutter="Contested, my version"] a').first().click();
    await until(
      () => sentence(two),
      (text) => text.includes("9 mm/s"),
      "mine kept",
    );
    await watch.end();
  });
});

describe("nothing is lost", () => {
  it("while the server is away: the desk says so, keeps the change over a reload, and saves it on its return", async () => {
    const watch = await watched();
    // Fetched once the page has loaded, wanted or not: the server is stopped after that.
    const chooser = watch.context.waitForEvent("response", { predicate: async (response) => isCode(response.url()) && CHOOSER.test(await response.text()) });
    const { page } = await newCutter(watch);
    await chooser;
    await saved(page);
    await server.stop("SIGKILL");
    await typeFeed(page, "8.25");
    await until(
      () => page.locator("[data-save]").getAttribute("data-save"),
      (state) => state === "failed",
      "says not saved",
    );
    await server.start();
    await saved(page);
    await page.reload();
    expect(await sentence(page)).toContain("8.3 mm/s");
    // The browser reports late requests that nobody answers, parts of the page too.
    watch.forgive(/ERR_CONNECTION|Failed to load (resource|chunk)|fetch/);
    await watch.end();
  });

  it("a part that could not be fetched shows an error when it is wanted, and opens once the server answers again", async () => {
    const watch = await watched();
    let away = true;
    await watch.context.route(isCode, async (route) => {
      // A page that is closed while a part is fetched needs it no more.
      const response = await route.fetch().catch(() => null);
      const body = await response?.text();
      await (response === null || body === undefined || (away && CHOOSER.test(body)) ? route.abort() : route.fulfill({ response, body }));
    });
    const { page } = await newCutter(watch);
    await page.locator('[data-part="feed"]').click();
    await page.getByRole("status").getByText("has not come yet").waitFor();
    expect(await page.getByRole("dialog").count()).toBe(0);
    away = false;
    await page.getByRole("dialog", { name: "How fast?" }).waitFor();
    expect(await page.getByText("has not come yet").count()).toBe(0);
    // Parts that are fetched ahead may still be on their way through the route.
    await watch.context.unrouteAll({ behavior: "wait" });
    watch.forgive(/ERR_FAILED|Failed to load chunk/);
    await watch.end();
  });

  it("a tab that died before its save: the change is taken up on the next opening", async () => {
    const watch = await watched();
    const { page, path } = await newCutter(watch);
    await saved(page);
    await page.route("**/api/cutters/*", (route) => (route.request().method() === "PUT" ? route.abort() : route.continue()));
    await typeFeed(page, "2.5");
    await page.close({ runBeforeUnload: false });
    const again = await watch.page(path);
    await until(
      () => sentence(again),
      (text) => text.includes("2.5 mm/s"),
      "taken up",
    );
    await saved(again);
    watch.forgive(/ERR_FAILED/);
    await watch.end();
  });
});

describe("guarding access", () => {
  const origin = () => ({ origin: server.url, "content-type": "application/json" });

  it("sends a strict policy with every page and forbids framing", async () => {
    const response = await fetch(`${server.url}/cutters`);
    const policy = response.headers.get("content-security-policy") ?? "";
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'(;|$)/);
    expect(policy).not.toContain("unsafe-eval");
    expect(response.headers.get("x-frame-options")).toBe("DENY");
    expect(response.headers.get("x-powered-by")).toBeNull();
  });

  it("refuses changes from elsewhere, bodies that are too large, and names that are not its own", async () => {
    const url = `${server.url}/api/cutters`;
    const post = (headers: Record<string, string>, body: string) => fetch(url, { method: "POST", headers, body });
    expect((await post({ "content-type": "application/json" }, "{}")).status).toBe(403);
    expect((await post({ ...origin(), origin: "http://elsewhere.example" }, "{}")).status).toBe(403);
    expect((await post(origin(), JSON.stringify({ design: { notes: "x".repeat(300_000) } }))).status).toBe(413);
    const strange = await new Promise<number | undefined>((resolve) => {
      httpRequest(url, { headers: { host: "elsewhere.example" } }, (reply) => {
        reply.resume();
        resolve(reply.statusCode);
      }).end();
    });
    expect(strange).toBe(421);
  });

  it("answers faults with a code and path, never a stack", async () => {
    const bad = await fetch(`${server.url}/api/cutters`, {
      method: "POST",
      headers: origin(),
      body: JSON.stringify({ design: { format: "upwind-rod/design" } }),
    });
    expect(bad.status).toBe(422);
    expect(await bad.text()).not.toMatch(/ at |node_modules/);
    const missing = await fetch(`${server.url}/api/cutters/00000000-0000-4000-8000-000000000000`);
    expect([missing.status, (await missing.json()).error.code]).toEqual([404, "not-found"]);
    const odd = await fetch(`${server.url}/api/cutters/1;drop`);
    expect([odd.status, (await odd.json()).error.path]).toEqual([422, "id"]);
  });

  it("says plainly that the port is taken, and that the data folder is open elsewhere", async () => {
    const demo = (env: Record<string, string>) =>
      spawnSync(process.execPath, ["scripts/start.mjs"], { env: { ...process.env, ...env }, encoding: "utf8", timeout: 60_000 });
    const port = demo({ PORT: String(server.port), UPWIND_DATA: `${server.folder}-other` });
    expect(port.status).toBe(1);
    expect(port.stderr).toContain(`Port ${server.port} on 127.0.0.1 is taken`);
    expect(port.stderr).not.toMatch(/\n\s+at /);
    const folder = demo({ PORT: String(server.port + 1), UPWIND_DATA: server.folder });
    expect(folder.status).not.toBe(0);
    expect(folder.stderr).toContain("open in another Upwind Rod");
    expect(folder.stderr).not.toMatch(/\n\s+at /);
  });
});

describe("accessibility", () => {
  it.each(["light", "dark"] as const)("no serious fault on the list, the desk and a chooser in %s", async (colorScheme) => {
    const watch = await watched({ colorScheme });
    const page = await watch.page("/cutters");
    await page.waitForSelector("[data-cutter]");
    expect(await accessFaults(page)).toEqual([]);
    await page.goto(`${server.url}/demo/limpet`);
    await listens(page);
    await page.waitForSelector('[data-region="clean"]');
    expect(await accessFaults(page)).toEqual([]);
    await page.keyboard.press("s");
    await page.getByRole("dialog").waitFor();
    await page.waitForTimeout(400);
    expect(await accessFaults(page)).toEqual([]);
    await watch.end();
  });
});
