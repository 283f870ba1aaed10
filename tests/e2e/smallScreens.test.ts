import type { Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { accessFaults, listens, overflow, until, type Watched } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop({ seed: true });

/** Every view: its address, of which of the demo's documents, which step of it, or the key that opens it there. */
const VIEWS: readonly { name: string; at: string; of?: string; step?: string; open?: string; seen: string }[] = [
  { name: "cutters", at: "/cutters", seen: "[data-cutter]" },
  { name: "start, foam", at: "/start/foam", seen: ".foam-faces" },
  { name: "start, block", at: "/start/block", seen: ".block-scene" },
  { name: "start, bench", at: "/start/bench", seen: ".thing" },
  { name: "start, care", at: "/start/care", seen: ".edge-tiles" },
  { name: "start, answer", at: "/start/answer", seen: ".choices li" },
  { name: "drawer", at: "/drawer", seen: "[role=grid], table" },
  { name: "matches", at: "/matches", seen: ".match-table td" },
  { name: "compare", at: "/compare", seen: ".compare-table" },
  { name: "backups", at: "/backups", seen: "h1" },
  { name: "plans", at: "/plans", seen: "[data-plan]" },
  { name: "plan", at: "/plans", of: "Carp's tail fin", seen: "[data-region]" },
  { name: "plan, templates", at: "/plans", of: "Carp's tail fin", step: "/templates", seen: "[data-testid=edge-costs]" },
  { name: "plan, ends", at: "/plans", of: "Carp's tail fin", step: "/ends", seen: "[data-testid=ends]" },
  { name: "plan, pace", at: "/plans", of: "Carp's tail fin", step: "/pace", seen: "[data-testid=pace-table]" },
  { name: "plan, call it out", at: "/plans", of: "Carp's tail fin", step: "/cut", seen: "[data-testid=pacer-number]" },
  { name: "plan, practise", at: "/plans", of: "Carp's tail fin", step: "/practice", seen: "[data-testid=two-hands]" },
  { name: "plan, blank", at: "/plans", of: "Carp's tail fin", step: "/blank", seen: "[data-board]" },
  { name: "plan, give out", at: "/plans", of: "Carp's tail fin", step: "/out", seen: ".plan-out" },
  { name: "rigs", at: "/rigs", seen: "[data-rig]" },
  { name: "rig", at: "/rigs", of: "Long Tom on the swing arm", seen: "[data-testid=rig-figures]" },
  { name: "rig, sums", at: "/rigs", of: "Long Tom on the swing arm", step: "/sums", seen: "[data-table=haul]" },
  { name: "rig, in the hand", at: "/rigs", of: "Drop board for the lantern blanks", step: "/feel", seen: "[data-testid=rig-feel]" },
  { name: "rig, path", at: "/rigs", of: "Marionette for lettering", step: "/program", seen: "[data-testid=path-picture]" },
  { name: "desk", at: "/demo/long-tom", seen: "[data-region=clean]" },
  { name: "tension", at: "/demo/long-tom", open: "n", seen: ".sheet-frame" },
  { name: "bench", at: "/demo/long-tom", open: "e", seen: ".bench-foot" },
  { name: "wiring", at: "/demo/gatepost", open: "x", seen: ".wiring svg" },
  { name: "build sheet", at: "/demo/long-tom", open: "b", seen: ".sheet h1, .sheet h2" },
  { name: "log", at: "/demo/long-tom", open: "k", seen: ".sheet-frame" },
];

const WIDTHS = [
  { width: 1280, height: 800 },
  { width: 768, height: 1024 },
  { width: 390, height: 844 },
];

/** The address of one of the demo's documents by its name. */
async function addressOf({ at, of, step = "" }: (typeof VIEWS)[number]): Promise<string> {
  if (!of) return at;
  const lists = (await (await fetch(`${server.url}/api${at}`)).json()) as Record<string, { id: string; plan?: { name: string }; rig?: { name: string } }[]>;
  const row = (lists[at.slice(1)] ?? []).find(({ plan, rig }) => (plan ?? rig)?.name === of);
  if (!row) throw new Error(`no ${of} at ${at}`);
  return `${at}/${row.id}${step}`;
}

/** Opens what a view's address leads to. */
async function openView(page: Page, { open, seen }: (typeof VIEWS)[number]): Promise<void> {
  if (open) {
    await page.locator("[data-region=clean]").first().waitFor();
    await page.keyboard.press(open);
  }
  await page.locator(seen).first().waitFor();
}

/** Used in the shed: no target there is under 44 px. The "?" next to a figure is read at a desk. */
const SHED = /desk|bench|log|start/;
const smallTargets = (page: Page): Promise<string[]> =>
  page.locator("main button, .rail button").evaluateAll((all) =>
    all
      .filter((each) => !each.getAttribute("aria-label")?.startsWith("Why"))
      .map((each) => ({ name: each.textContent, at: each.getBoundingClientRect() }))
      .filter(({ at }) => at.width > 0 && (at.height < 43.5 || at.width < 43.5))
      .map(({ name, at }) => `${name} ${Math.round(at.width)}x${Math.round(at.height)}`),
  );

describe("every view, on a desk, a tablet and a phone", () => {
  // One page for them all: what it has read of the app it need not read and compile thirty times, and a page takes a second to begin.
  let watch: Watched;
  let page: Page;
  const titles: string[] = [];
  beforeAll(async () => {
    watch = await watched();
    page = await watch.page("/backups");
  });
  afterAll(() => watch.end());

  it.each(VIEWS)("$name: no fault of access, nothing wider than the screen, nothing too small for a thumb where it is used in the shed", async (view) => {
    await page.setViewportSize(WIDTHS[0] as (typeof WIDTHS)[number]);
    await page.goto(`${server.url}${await addressOf(view)}`);
    await listens(page);
    await openView(page, view);
    for (const size of WIDTHS) {
      await page.setViewportSize(size);
      await page.waitForTimeout(250);
      // Drawings measure their room a frame after it changed; on a busy machine some frames.
      await until(
        () => overflow(page),
        (wider) => wider <= 0,
        `wider than ${size.width} px`,
      );
      if (size.width < 500 && SHED.test(view.name)) expect(await smallTargets(page)).toEqual([]);
      // A tablet has the phone's rules of layout: judged by eye of width there, by every rule on the other two.
      if (size.width === 768) continue;
      // A bar that keeps to the foot of the screen lies over what scrolls beneath it: at the end nothing is under it.
      await page.evaluate(() => window.scrollTo(0, document.documentElement.scrollHeight));
      // Colours are the same at every width: their rule, the slowest, is judged at the first.
      expect(await accessFaults(page, size === WIDTHS[0] ? [] : ["color-contrast"]), `${size.width} px`).toEqual([]);
    }
    expect(watch.faults).toEqual([]);
    titles.push(await page.title());
  });

  it("every view has a title of its own", () => {
    expect(titles.filter((title) => !/^.+ - Upwind Rod$/.test(title))).toEqual([]);
    expect(new Set(titles.map((title) => title.replace(/ - Upwind Rod$/, ""))).size).toBe(titles.length);
  });

  it("390 px: the rod, its figures and the verdict are in the first screen, the sentence as rows, and nothing in the rod is cut off", async () => {
    const watch = await watched({ viewport: { width: 390, height: 844 } });
    const page = await watch.page("/demo/long-tom");
    await page.locator("[data-region=clean]").first().waitFor();
    const box = async (selector: string) => {
      const found = await page.locator(selector).first().boundingBox();
      if (!found) throw new Error(`${selector} is not to be seen`);
      return found;
    };
    const verdict = await box("h2[data-verdict]");
    expect(verdict.y + verdict.height).toBeLessThan(844);
    const window = await box('[data-testid="cutting-window"]');
    expect(window.x).toBeGreaterThanOrEqual(0);
    expect(window.x + window.width).toBeLessThanOrEqual(390);
    // Parts follow each other down the screen without lying on one another.
    const tops = [await box(".rod-strip section"), await box(".figures-strip"), await box(".desk-name"), verdict, window];
    for (let i = 1; i < tops.length; i++)
      expect((tops[i] as { y: number }).y).toBeGreaterThanOrEqual(
        (tops[i - 1] as { y: number; height: number }).y + (tops[i - 1] as { height: number }).height - 1,
      );
    // Words of the rod and of the window lie inside them.
    for (const drawing of [".rod-strip svg", '[data-testid="cutting-window"]']) {
      const outside = await page.locator(drawing).evaluate((svg) => {
        const frame = svg.getBoundingClientRect();
        return [...svg.querySelectorAll("text")].filter((text) => {
          const at = text.getBoundingClientRect();
          return at.left < frame.left - 1 || at.right > frame.right + 1 || at.top < frame.top - 1 || at.bottom > frame.bottom + 1;
        }).length;
      });
      expect(outside, drawing).toBe(0);
    }
    const rows = page.locator(".sentence-rows button");
    expect(await rows.count()).toBe(11);
    for (const row of await rows.all()) expect((await row.boundingBox())?.height).toBeGreaterThanOrEqual(44);
    await rows.filter({ hasText: "held by" }).click();
    await page.getByRole("dialog").waitFor();
    await watch.end();
  });

  it("390 px: the stopwatch is under the thumb", async () => {
    const watch = await watched({ viewport: { width: 390, height: 844 } });
    const log = VIEWS.find(({ name }) => name === "log") as (typeof VIEWS)[number];
    const page = await watch.page(log.at);
    await openView(page, log);
    const stopwatch = await page.locator("button.stopwatch").boundingBox();
    expect(stopwatch?.y).toBeGreaterThan(422);
    expect((stopwatch?.y ?? 0) + (stopwatch?.height ?? 0)).toBeLessThanOrEqual(844);
    await watch.end();
  });
});
