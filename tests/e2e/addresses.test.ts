import type { Page } from "playwright-core";
import { describe, expect, it } from "vitest";
import { BENCH_TABS, DESK_VIEWS, LOG_TABS, TENSION_TABS } from "@/ui/cutter/views";
import { slugOf } from "@/ui/kit/slug";
import { saved, until } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop({ seed: true });

const at = (page: Page) => page.url().replace(server.url, "");
const arrived = (page: Page, address: string) =>
  until(
    async () => at(page),
    (now) => now === address,
    `at ${address}`,
  );

/** Every place of a cutter, and what is to be seen there. A loop alone has the tab of stiffness. */
const PLACES: readonly [string, string][] = [
  ["", ".desk-main"],
  ...DESK_VIEWS.map((view): [string, string] => [
    `/${view}`,
    { tension: ".sheet-frame", bench: ".bench-foot", wiring: ".wiring svg", sheet: ".sheet h1, .sheet h2", log: ".sheet-frame", setups: "[role=dialog]" }[view],
  ]),
  ...TENSION_TABS.filter((tab) => tab !== "Pull" && tab !== "Stiffness").map((tab): [string, string] => [`/tension/${slugOf(tab)}`, ".sheet-frame"]),
  ...BENCH_TABS.filter((tab) => tab !== "Cut").map((tab): [string, string] => [`/bench/${slugOf(tab)}`, ".bench-foot"]),
  ...LOG_TABS.filter((tab) => tab !== "Test cut").map((tab): [string, string] => [`/log/${slugOf(tab)}`, ".sheet-frame"]),
];
/** Which tile is pressed: the tab that is open. */
const tabOpen = (page: Page) => page.locator("[aria-pressed=true]").first().innerText();

describe("every place has its address", () => {
  it("a cutter's views and tabs open by their link, stay on reload, and nowhere else is anywhere", async () => {
    const watch = await watched();
    const page = await watch.page();
    for (const [place, seen] of PLACES) {
      await page.goto(`${server.url}/demo/long-tom${place}`);
      await page.locator(seen).first().waitFor();
      const tab = place.split("/")[2];
      if (tab) expect(slugOf(await tabOpen(page))).toBe(tab);
    }
    await page.reload();
    await page.locator(".sheet-frame").waitFor();
    expect(at(page)).toBe(`/demo/long-tom${PLACES.at(-1)?.[0]}`);
    for (const nowhere of ["/attic", "/tension/attic", "/log/logbook/more"])
      expect((await page.request.get(`${server.url}/demo/long-tom${nowhere}`)).status()).toBe(404);
    watch.forgive(/404/);
    await watch.end();
  });

  it("pressing about writes the address, Back and Forward read it, and what was changed on the way is kept", async () => {
    const watch = await watched();
    const page = await watch.page("/cutters");
    await page.locator("[data-cutter] a").first().click();
    await page.locator("[data-region=clean], [data-region]").first().waitFor();
    const home = at(page);
    await page.locator('[data-part="feed"]').click();
    await page.getByLabel("Feed", { exact: true }).first().fill("7.3");
    await page.keyboard.press("Escape");
    // At once away, before it can have been saved: nothing is lost, and the same desk comes back.
    await page.keyboard.press("n");
    await arrived(page, `${home}/tension`);
    await page.getByRole("button", { name: "Ends" }).click();
    await arrived(page, `${home}/tension/ends`);
    await page.keyboard.press("k");
    await arrived(page, `${home}/log`);
    await page.getByRole("button", { name: "Setting card" }).click();
    await arrived(page, `${home}/log/setting-card`);
    for (const back of ["/log", "/tension/ends", "/tension", ""]) {
      await page.goBack();
      await arrived(page, `${home}${back}`);
    }
    expect(await page.locator(".sentence").innerText()).toContain("7.3 mm/s");
    await page.goForward();
    await arrived(page, `${home}/tension`);
    // A part opened from another view brings the desk back, and opens where it is.
    await page.keyboard.press("w");
    await arrived(page, home);
    await page.getByLabel("Diameter or gauge").waitFor();
    await page.keyboard.press("Escape");
    await page.keyboard.press("g");
    await arrived(page, `${home}/setups`);
    await page.getByRole("button", { name: "Put on the desk" }).first().waitFor();
    await page.keyboard.press("Escape");
    await arrived(page, home);
    await saved(page);
    await page.reload();
    expect(await page.locator(".sentence").innerText()).toContain("7.3 mm/s");
    await watch.end();
  });

  it("the drawer's kind, search and new thing, a page of matches and a compared pair are asked in the address", async () => {
    const watch = await watched();
    const page = await watch.page("/drawer");
    await page.getByRole("button", { name: /^Supplies/ }).click();
    await arrived(page, "/drawer?kind=supply");
    await page.getByLabel("Search").fill("bench");
    await arrived(page, "/drawer?kind=supply&find=bench");
    await page.getByRole("button", { name: "Add a supply" }).click();
    await arrived(page, "/drawer?kind=supply&find=bench&add=new");
    await page.reload();
    await page.getByRole("dialog").waitFor();
    await page.goBack();
    await page.getByRole("dialog").waitFor({ state: "detached" });
    expect(await page.getByLabel("Search").inputValue()).toBe("bench");
    await page.goto(`${server.url}/matches`);
    await page.getByText(/cut it cleanly/).waitFor();
    const before = await page.locator(".match-table td").count();
    await page.getByRole("button", { name: "with what I could buy" }).click();
    await arrived(page, "/matches?buy=too");
    await until(
      () => page.locator(".match-table td").count(),
      (now) => now !== before,
      "other cells",
    );
    await page.reload();
    await until(
      () => page.locator(".match-table td").count(),
      (now) => now > 0 && now !== before,
      "the same cells again",
    );
    await page.goto(`${server.url}/compare`);
    const [first, second] = await Promise.all([0, 1].map((i) => page.locator(".compare-table th a").nth(i).innerText()));
    await page.getByLabel("This", { exact: true }).click();
    await page.getByRole("option").nth(2).click();
    await until(
      async () => at(page),
      (now) => /\/compare\?a=.+&b=.+/.test(now),
      "a pair in the address",
    );
    await page.reload();
    expect(await page.locator(".compare-table th a").nth(0).innerText()).not.toBe(first);
    expect(await page.locator(".compare-table th a").nth(1).innerText()).toBe(second);
    await watch.end();
  });

  it("a bench lesson and an open match have addresses too: their links open them, Back leaves them", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom/bench/lessons");
    await page.locator(".lesson-list button").nth(1).click();
    await until(
      async () => at(page),
      (now) => /\/bench\?lesson=.+/.test(now),
      "a lesson in the address",
    );
    const brief = await page.locator(".lesson-brief").innerText();
    await page.getByRole("button", { name: "Instruments" }).click();
    await until(
      async () => at(page),
      (now) => /\/bench\/instruments\?lesson=.+/.test(now),
      "the lesson still, next to its instruments",
    );
    await page.reload();
    await page.getByRole("button", { name: "Cut", exact: true }).click();
    expect(await page.locator(".lesson-brief").innerText()).toBe(brief);
    await page.goto(`${server.url}/matches`);
    await page.getByText(/cut it cleanly/).waitFor();
    await page.locator(".match-table tbody tr").nth(1).locator("td").nth(2).click();
    const words = await page.getByRole("dialog", { name: "This match" }).innerText();
    expect(at(page)).toMatch(/\/matches\?cell=.+\*.+/);
    await page.reload();
    expect(await page.getByRole("dialog", { name: "This match" }).innerText()).toBe(words);
    await page.goBack();
    await page.getByRole("dialog", { name: "This match" }).waitFor({ state: "detached" });
    await watch.end();
  });
});
