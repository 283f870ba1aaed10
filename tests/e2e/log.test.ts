import { readFileSync } from "node:fs";
import type { Browser } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { launch, seriousFaults, until, watched } from "../helpers/browser";
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

describe("cut and log", () => {
  it("times a cut by the space bar, judges its face, keeps it through a killed server, and gives it out as CSV", async () => {
    const watch = await watched(browser, server.url, { acceptDownloads: true });
    const page = await watch.page("/demo/long-tom");
    await page.getByRole("button", { name: "Keep a copy" }).click();
    await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
    await page.keyboard.press("k");
    await page.getByText(/Nothing yet/).waitFor();
    expect(await seriousFaults(page)).toEqual([]);
    // Three laps of about 0.3 s each.
    await page.keyboard.press("Space");
    for (let i = 0; i < 3; i++) {
      await page.waitForTimeout(300);
      await page.keyboard.press("Space");
    }
    await page.getByRole("button", { name: "Stop" }).click();
    const read = page.getByLabel("Stopwatch").getByRole("status");
    const timed = Number.parseFloat(await read.innerText());
    expect(await read.innerText()).toContain("over 3 laps");
    // A lap of 25 mm in 0.3 s or a little more: the exact reckoning is checked against a fake clock elsewhere.
    expect(timed).toBeGreaterThan(20);
    expect(timed).toBeLessThan(85);
    expect(Number.parseFloat(await page.getByLabel("Feed").inputValue())).toBeCloseTo(timed, 0);
    await page.getByLabel("Kerf by calliper").fill("far");
    await page.getByRole("button", { name: "Keep this cut" }).click();
    await page.getByText(/is not a kerf/).waitFor();
    await page.getByLabel("Kerf by calliper").fill("1.3 mm");
    await page.getByRole("button", { name: /glossy, sunken/ }).click();
    await page.getByLabel("Note").fill("tail fin, left");
    await page.getByRole("button", { name: "Keep this cut" }).click();
    await page.locator('[data-entry="test-cut"]', { hasText: "tail fin, left" }).waitFor();
    // What the cut teaches, with what was believed before.
    await page.getByRole("button", { name: "What do these cuts teach?" }).click();
    await page.locator('[data-learnt="heatShare"]', { hasText: /of what was believed, sure to ±\d+ % \(before ±10 %\)/ }).waitFor();
    expect(await seriousFaults(page)).toEqual([]);
    // Acknowledged is kept: the server dies without a word and comes back.
    await server.stop("SIGKILL");
    await server.start();
    await until(
      () =>
        page.reload().then(
          () => true,
          () => false,
        ),
      (up) => up,
      "the page again",
    );
    await page.keyboard.press("k");
    const row = page.locator('[data-entry="test-cut"]', { hasText: "tail fin, left" });
    await row.waitFor();
    expect(await row.innerText()).toMatch(/EPS 18, 1100 mm wide; .*kerf 1\.30 mm; glossy, sunken/s);
    const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "CSV out" }).click()]);
    expect(readFileSync(await file.path(), "utf8")).toMatch(/^cutter,at,kind,.*\nLong Tom,.*,test-cut,eps-18,1100,/);
    await row.getByRole("button", { name: "Strike out" }).click();
    await page.getByText(/Nothing yet/).waitFor();
    watch.forgive(/ERR_CONNECTION|Failed to fetch|Failed to load/);
    await watch.end();
  });
});
