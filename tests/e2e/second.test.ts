import type { Browser, BrowserContextOptions, Page } from "playwright-core";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { FRAME_START } from "@/core/rigs/frame/fields";
import { newRig } from "@/core/rigs/rig";
import { accessFaults, launch, watched as openWatched, overflow, until } from "../helpers/browser";
import { ControllerProcess } from "../helpers/controller";
import { TestServer } from "../helpers/server";

const server = new TestServer();
const controller = new ControllerProcess();
let browser: Browser;
beforeAll(async () => {
  browser = await launch();
  await controller.start();
  await server.start({ seed: true, env: { UPWIND_CONTROLLER: `127.0.0.1:${controller.port}`, UPWIND_PAGE_PATIENCE: "8" } });
});
afterEach(async () => {
  await Promise.all(browser.contexts().map((context) => context.close()));
});
afterAll(async () => {
  await browser.close();
  await server.remove();
  await controller.stop();
});
const watched = (context?: BrowserContextOptions) => openWatched(browser, server.url, context);

/** What the second page's clock is ahead by, ms: its device was set by hand. */
const AHEAD_MS = 3217;
const request = async (method: string, path: string, body?: unknown) =>
  (await (
    await fetch(`${server.url}${path}`, {
      method,
      headers: { "content-type": "application/json", origin: server.url },
      body: body === undefined ? null : JSON.stringify(body),
    })
  ).json()) as Record<string, never>;
const state = (page: Page) => page.locator(".pacer").getAttribute("data-state");
const comes = (page: Page, wanted: string) =>
  until(
    () => state(page),
    (now) => now === wanted,
    wanted,
  );
/** When a page holds that the run began, by the clock of this computer. */
const began = async (page: Page, aheadMs: number) => Number(await page.locator(".pacer").getAttribute("data-started")) - aheadMs;

/** A device of its own, with a clock of its own: a phone, upright. */
async function phone() {
  const watch = await watched({ viewport: { width: 390, height: 844 } });
  await watch.context.addInitScript((ahead) => {
    const own = Date.now;
    Date.now = () => own.call(Date) + ahead;
  }, AHEAD_MS);
  return watch;
}
/** Opens the second screen and reads where it is joined. */
async function invite(page: Page): Promise<string> {
  await page.getByRole("button", { name: "second screen" }).click();
  const address = await page.locator(".second-address").innerText();
  await page.getByRole("img", { name: /Code that leads/ }).waitFor();
  expect(await accessFaults(page)).toEqual([]);
  await page.getByRole("button", { name: "To the work" }).click();
  return new URL(address).pathname;
}

describe("a second screen", () => {
  it("is the other end of the bow: the same count within 40 ms with any clock, stopped from either end, back after a reload, and both ends' own times kept", async () => {
    const plans = (await request("GET", "/api/plans")).plans as unknown as { plan: Record<string, unknown> & { name: string } }[];
    const cutters = (await request("GET", "/api/cutters")).cutters as unknown as { id: string; design: { name: string } }[];
    const tom = cutters.find(({ design }) => design.name === "Long Tom") as { id: string };
    const fin = plans.find(({ plan }) => plan.name === "Carp's tail fin");
    const end = (chord_mm: number) => ({ shape: { kind: "naca4", code: "0012" }, chord_mm });
    const short = { ...fin?.plan, name: "Short fin", cutter: { id: tom.id, name: "Long Tom" }, root: end(24), tip: end(18), stations: { count: 3 } };
    const { id } = (await request("POST", "/api/plans", { plan: short })).plan as unknown as { id: string };
    const one = await watched();
    const page = await one.page(`/plans/${id}/cut`);
    await page.getByTestId("pacer-number").waitFor();
    const path = await invite(page);
    const two = await phone();
    const far = await two.page(path);
    await far.getByTestId("pacer-number").waitFor();
    expect(await overflow(far)).toBeLessThanOrEqual(0);
    expect(await accessFaults(far)).toEqual([]);
    await far.getByRole("img", { name: "This end's template" }).waitFor();
    for (const each of [page, far]) await each.locator('[data-testid="other-end"][data-here="true"]').waitFor();
    expect(await far.locator(".pacer header button[aria-pressed=true]").innerText()).toMatch(/tip/);
    // As sure of the server's clock as it takes, each end by its own word.
    for (const each of [page, far])
      await until(
        async () => Number(/same count within (\d+) ms/.exec(await each.getByTestId("other-end").innerText())?.[1] ?? 999),
        (ms) => ms < 20,
        "sure of the count",
      );

    // Begun at one end, it counts on both.
    await page.locator(".pacer-face").click();
    for (const each of [page, far]) await comes(each, "running");
    const off = (await began(far, AHEAD_MS)) - (await began(page, 0));
    expect(Math.abs(off)).toBeLessThan(40);
    expect(Number(await far.locator(".pacer").getAttribute("data-started"))).toBeGreaterThan(
      AHEAD_MS - 100 + Number(await page.locator(".pacer").getAttribute("data-started")),
    );
    // Each says when it is at its number, by a key or by a thumb.
    await page.keyboard.press("m");
    await far.getByRole("button", { name: /^I am at it/ }).click();
    // Stopped from the far end, and gone on with from this one.
    await far.locator(".pacer-face").click();
    for (const each of [page, far]) await comes(each, "paused");
    const stopped = await Promise.all([page, far].map((each) => each.locator(".pacer").getAttribute("data-at")));
    expect(Math.abs(Number(stopped[0]) - Number(stopped[1]))).toBeLessThan(0.04);
    // It leaves and comes back into the same stop.
    await far.reload();
    await comes(far, "paused");
    await page.reload();
    await comes(page, "paused");
    await page.keyboard.press("p");
    for (const each of [page, far]) await comes(each, "running");
    expect(Math.abs((await began(far, AHEAD_MS)) - (await began(page, 0)))).toBeLessThan(40);
    for (const each of [page, far])
      await until(
        () => state(each),
        (now) => now === "done",
        "done",
      );
    await page.getByRole("button", { name: "Log this cut" }).click();
    await page.getByRole("button", { name: "Logged" }).waitFor();
    const { plan } = (await request("GET", `/api/plans/${id}`)).plan as unknown as {
      plan: { runs: { ends_s?: { root: number[]; tip: number[] }; pauses_s: number }[] };
    };
    expect(plan.runs[0]?.ends_s?.root.length).toBeGreaterThan(0);
    expect(plan.runs[0]?.ends_s?.tip.length).toBeGreaterThan(0);
    expect(plan.runs[0]?.pauses_s).toBeGreaterThan(0);
    const { entries } = (await request("GET", `/api/cutters/${tom.id}/log`)) as unknown as { entries: { entry: { note: string } }[] };
    expect(entries.some(({ entry }) => /Short fin.*reported by each end: root [\d. –]+, tip [\d. –]+/.test(entry.note))).toBe(true);
    // Put down, its ticket opens nothing any more.
    await page.getByRole("button", { name: "second screen" }).click();
    await page.getByRole("button", { name: "Put it down" }).click();
    await far.getByText(/has ended, or its link has expired/).waitFor();
    two.forgive(/status of (401|404)/);
    one.forgive(/status of (401|404)/);
    await one.end();
    await two.end();
  });

  it("is the stopwatch: pressed on either it runs on both, and the feed is read from its laps", async () => {
    const [tom] = (await request("GET", "/api/cutters")).cutters as unknown as { id: string }[];
    const one = await watched();
    const page = await one.page(`/cutters/${tom?.id}/log/test-cut`);
    await page.locator(".stopwatch").waitFor();
    const path = await invite(page);
    const two = await phone();
    const far = await two.page(path);
    const reads = async (each: Page) => Number.parseFloat(await each.locator('[data-figure="stopwatch"]').innerText());
    await far.locator(".second-big").click();
    await until(
      () => reads(page),
      (s) => s > 0.3,
      "this one runs too",
    );
    // Read one after the other on a machine that does other things too: alike as soon as both are read at about one time, and never if one were off.
    await until(
      () => Promise.all([reads(page), reads(far)]),
      ([here, there]) => Math.abs(here - there) < 0.3,
      "alike on both",
    );
    await page.locator(".stopwatch").click();
    await far.getByText("lap 2: press at each mark").waitFor();
    await far.getByRole("button", { name: "Stop" }).click();
    await until(
      async () => [await reads(page), await reads(far)],
      ([a, b]) => a === b && (a ?? 0) > 0,
      "both stand alike",
    );
    expect(await overflow(far)).toBeLessThanOrEqual(0);
    await one.end();
    await two.end();
  });

  it("is the bench supply's dial, and a run's stop key, which counts for nobody's presence", async () => {
    const cutters = (await request("GET", "/api/cutters")).cutters as unknown as { id: string; design: { name: string } }[];
    const tom = cutters.find(({ design }) => design.name === "Long Tom") as { id: string };
    const one = await watched();
    const page = await one.page(`/cutters/${tom.id}/bench`);
    await page
      .getByRole("tab", { name: "Instruments" })
      .or(page.getByRole("button", { name: "Instruments" }))
      .first()
      .click();
    const dial = await (await phone()).page(await invite(page));
    await dial.locator('[data-dial="volts_V"]').waitFor();
    expect(await accessFaults(dial)).toEqual([]);

    const plans = (await request("GET", "/api/plans")).plans as unknown as { id: string; plan: { name: string } }[];
    const buoy = plans.find(({ plan }) => plan.name === "Harbour buoy") as { id: string };
    const rig = {
      ...newRig("frame", "A frame", { id: tom.id, name: "Long Tom" }, { id: buoy.id, name: "Harbour buoy" }),
      rig: { ...FRAME_START, blockX_mm: 30, blockY_mm: 40 },
    };
    const { id } = (await request("POST", "/api/rigs", { rig })).rig as unknown as { id: string };
    await page.goto(`${server.url}/rigs/${id}/run`);
    await page.locator(".run-practice").waitFor();
    await page.getByRole("button", { name: "Home", exact: true }).click();
    await until(
      () => page.getByRole("button", { name: /^Start/ }).isEnabled(),
      (can) => can,
      "home",
    );
    const key = await (await phone()).page(await invite(page));
    await page.getByRole("button", { name: /^Start/ }).click();
    await key.locator('[data-phase="running"]').waitFor();
    await until(
      () => page.locator('.run-heat[data-hot="true"]').count(),
      (hot) => hot > 0,
      "hot",
    );
    const from = Date.now();
    await key.locator(".second-stop").click();
    await until(
      () => page.getByTestId("run").getAttribute("data-phase"),
      (now) => now === "stopped",
      "stopped",
    );
    await until(
      () => controller.where().catch(() => null),
      (now) => now === null || now.heat === 0,
      "cold",
    );
    expect(Date.now() - from).toBeLessThan(5000);
    await one.end();
  });

  it("opens nothing by a ticket that was made up, and nothing but its own thing by a good one", async () => {
    const made = (await request("POST", "/api/second", { about: { kind: "stopwatch", name: "x" } })) as unknown as { ticket: string };
    expect((await fetch(`${server.url}/api/second/${made.ticket}`)).status).toBe(200);
    for (const bad of ["x", `${made.ticket}x`, made.ticket.slice(1)]) expect((await fetch(`${server.url}/api/second/${bad}`)).status).toBe(404);
    expect(await request("POST", `/api/second/${made.ticket}`, { do: "begin", by: "pacer" })).toMatchObject({ error: { code: "unreadable" } });
    expect(await request("POST", `/api/second/${made.ticket}`, { do: "hold" })).toMatchObject({ error: { code: "unreadable" } });
    expect(await request("POST", `/api/second/${made.ticket}`, { do: "press", surprise: 1 })).toMatchObject({ error: { code: "unknown-key" } });
    expect(await request("POST", "/api/second", { about: { kind: "pacer", name: "x", face: "y", rows: [], parts: 4 } })).toHaveProperty("error");
  });
});
