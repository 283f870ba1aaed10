import { execFileSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Browser } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessFaults, launch, overflow, until, watched } from "../helpers/browser";
import { TestServer } from "../helpers/server";

const server = new TestServer();
let browser: Browser;
beforeAll(async () => {
  browser = await launch();
  await server.start({ seed: true });
});
afterAll(async () => {
  await browser.close();
  await server.remove();
});

const request = async (path: string) => (await (await fetch(`${server.url}${path}`)).json()) as Record<string, never>;

describe("in the field", () => {
  it("can be put among a phone's own apps: its icons and its first page are there", async () => {
    const manifest = (await request("/manifest.webmanifest")) as unknown as {
      name: string;
      start_url: string;
      display: string;
      icons: { src: string; sizes: string }[];
    };
    expect(manifest).toMatchObject({ name: "Upwind Rod", start_url: "/", display: "standalone" });
    for (const { src, sizes } of manifest.icons) {
      const response = await fetch(`${server.url}${src}`);
      expect(response.status).toBe(200);
      if (!src.endsWith(".png")) continue;
      // Width and height are in a PNG's first chunk (ISO/IEC 15948, 11.2.2).
      const bytes = Buffer.from(await response.arrayBuffer());
      expect(`${bytes.readUInt32BE(16)}x${bytes.readUInt32BE(20)}`).toBe(sizes);
    }
  });

  it("prints the card and the sheet from a phone: what is on them, and nothing of the screen around them; the templates come as a file at full size", async () => {
    const [first] = (await request("/api/cutters")).cutters as unknown as { id: string; design: { name: string } }[];
    const [plan] = (await request("/api/plans")).plans as unknown as { id: string }[];
    const watch = await watched(browser, server.url, { viewport: { width: 390, height: 844 }, isMobile: true, hasTouch: true });
    const printed = async (path: string, pressed: string) => {
      const page = await watch.page(path);
      // The page's own key asks the browser to print.
      await page.evaluate(() => {
        window.print = () => document.body.setAttribute("data-printed", "yes");
      });
      await page.getByRole("button", { name: pressed, exact: true }).click();
      await page.locator('body[data-printed="yes"]').waitFor();
      const file = join(server.folder, "printed.pdf");
      writeFileSync(file, await page.pdf({ format: "A4" }));
      return execFileSync("pdftotext", ["-layout", file, "-"], { encoding: "utf8" });
    };
    const card = await printed(`/cutters/${first?.id}/log/setting-card`, "Print");
    expect(card).toContain(first?.design.name);
    expect(card).toMatch(/Knob.*Clean between/);
    expect(card).toMatch(/EPS/);
    expect(card).not.toMatch(/Print|Logbook|wider|\bUse\b|Places/);
    const sheet = await printed(`/cutters/${first?.id}/sheet`, "Print");
    expect(sheet).toMatch(/Parts[\s\S]*Wiring/);
    expect(sheet).not.toMatch(/Save PDF|Places/);
    const templates = await watch.page(`/plans/${plan?.id}/out`);
    const [file] = await Promise.all([templates.waitForEvent("download"), templates.getByRole("link", { name: /PDF/ }).first().click()]);
    expect(
      readFileSync(await file.path())
        .subarray(0, 5)
        .toString(),
    ).toBe("%PDF-");
    await watch.end();
  });

  it("with the workshop's computer away it shows the card last seen, times, calls the last pace out, and what is logged meanwhile is stored once when it is back", async () => {
    const cutters = (await request("/api/cutters")).cutters as unknown as { id: string; design: { name: string } }[];
    const plans = (await request("/api/plans")).plans as unknown as { id: string; plan: { name: string } }[];
    const tom = cutters.find(({ design }) => design.name === "Long Tom") as { id: string };
    const fin = plans.find(({ plan }) => plan.name === "Carp's tail fin") as { id: string };
    const entries = async () =>
      ((await request(`/api/cutters/${tom.id}/log`)).entries as unknown as { entry: { kind: string; note: string } }[]).filter(
        ({ entry }) => entry.note === "cut in the rain",
      );
    const watch = await watched(browser, server.url, { serviceWorkers: "allow", viewport: { width: 390, height: 844 } });
    const page = await watch.page(`/plans/${fin.id}/cut`);
    await page.getByTestId("pacer-number").waitFor();
    await page.goto(`${server.url}/cutters/${tom.id}`);
    await page.getByLabel("Cutter's name").waitFor();
    await page.evaluate(async () => {
      await navigator.serviceWorker.ready;
      while (!navigator.serviceWorker.controller) await new Promise((resolve) => setTimeout(resolve, 50));
    });
    // With the worker of this page between, every engine is still its own: the desk's first, then the pace's and the frame's.
    await page.locator('[data-region="clean"]').waitFor();
    await page.goto(`${server.url}/plans/${fin.id}/cut`);
    await page.getByTestId("pacer-number").waitFor();
    const rigs = (await request("/api/rigs")).rigs as unknown as { id: string; rig: { name: string } }[];
    await page.goto(`${server.url}/rigs/${rigs.find(({ rig }) => rig.name === "Marionette for lettering")?.id}/program`);
    await page.locator('[data-testid="rig-path"][data-current="true"]').waitFor();
    await page.goto(`${server.url}/cutters/${tom.id}`);
    await page.locator('[data-region="clean"]').waitFor();
    await until(
      () => page.evaluate(() => localStorage.getItem("upwind-last-seen")),
      (stored) => stored?.includes('"cutter"') === true && stored.includes('"pace"'),
      "what was seen",
    );
    await server.stop("SIGKILL");
    await page.goto(`${server.url}/cutters`);
    await page.getByRole("heading", { name: "The workshop's computer does not answer" }).waitFor();
    expect(await accessFaults(page)).toEqual([]);
    expect(await overflow(page)).toBeLessThanOrEqual(0);
    expect(await page.getByTestId("last-card").innerText()).toMatch(/Long Tom: set-up card[\s\S]*EPS 18[\s\S]*V/);
    // The pace last called is called on.
    await page.getByRole("button", { name: "Pacer" }).click();
    await page.locator(".pacer-face").click();
    await until(
      () => page.locator(".pacer").getAttribute("data-state"),
      (state) => state === "running",
      "counted in",
    );
    await page.getByRole("button", { name: "Back" }).click();
    // Timed, and kept with a note.
    await page.locator(".stopwatch").click();
    await page.waitForTimeout(600);
    await page.getByRole("button", { name: "Stop", exact: true }).click();
    await page.getByLabel("Note for the log").fill("cut in the rain");
    await page.getByRole("button", { name: /^Keep a piece cut/ }).click();
    await page.getByText("It waits in this browser.").waitFor();
    await page.getByTestId("log-waits").waitFor();
    // Still there after another look, and sent once however often it is tried.
    await page.reload();
    await page.getByTestId("log-waits").waitFor();
    await server.start({ seed: true });
    await page.getByRole("link", { name: "Try again" }).click();
    await page.waitForURL(/\/cutters$/);
    await until(entries, (found) => found.length === 1, "in the log");
    await page.reload();
    await page.waitForTimeout(1500);
    expect(await entries()).toHaveLength(1);
    expect(await page.getByTestId("log-waits").count()).toBe(0);
    watch.forgive(/ERR_|Failed to load|fetch|no-response/);
    await watch.end();
  });
});
