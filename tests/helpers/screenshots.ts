import type { Page } from "playwright-core";
import { launch } from "./browser";
import { TestServer } from "./server";

/** The kept Long Tom, whose log the demo brings along: its address is found once the server is up. */
const LONG_TOM = "the kept Long Tom";

/** One picture of each main view: name, address, and what to do before it is taken. */
const VIEWS: readonly { name: string; at: string; dark?: boolean; before?: (page: Page) => Promise<unknown> }[] = [
  { name: "cutters", at: "/cutters" },
  { name: "desk", at: "/demo/long-tom" },
  { name: "desk-cures-dark", at: "/demo/gatepost", dark: true },
  {
    name: "desk-supply",
    at: "/demo/limpet",
    before: async (page) => {
      await page.keyboard.press("s");
      await page.getByRole("dialog").waitFor();
    },
  },
  { name: "drawer", at: "/drawer" },
  { name: "matches", at: "/matches", before: async (page) => page.getByText(/cut it cleanly/).waitFor() },
  {
    name: "desk-setups",
    at: "/demo/gatepost",
    before: async (page) => {
      await page.keyboard.press("g");
      await page.getByRole("button", { name: "Put on the desk" }).first().waitFor();
    },
  },
  { name: "compare", at: "/compare" },
  { name: "tension", at: "/demo/long-tom", before: async (page) => page.keyboard.press("n") },
  {
    name: "tuner",
    at: "/demo/long-tom",
    before: async (page) => {
      await page.keyboard.press("n");
      await page.getByRole("button", { name: "Tuner" }).click();
      await page.getByRole("button", { name: "One turn tighter, pluck" }).click();
      await page.locator("[data-advice]").waitFor();
    },
  },
  {
    name: "frame",
    at: "/demo/long-tom",
    before: async (page) => {
      await page.keyboard.press("n");
      await page.getByRole("button", { name: "Frame", exact: true }).click();
    },
  },
  { name: "wiring", at: "/demo/gatepost", before: async (page) => page.keyboard.press("x") },
  {
    name: "build-sheet",
    at: "/demo/long-tom",
    before: async (page) => {
      await page.keyboard.press("b");
      await page.getByText("in the drawer: Gate spring").waitFor();
    },
  },
  {
    name: "bench",
    at: "/demo/long-tom",
    before: async (page) => {
      await page.keyboard.press("e");
      await page.getByRole("button", { name: "Heat on" }).click();
      await page.waitForTimeout(9000);
      await page.getByRole("button", { name: "Go", exact: true }).click();
      await page.waitForTimeout(13_000);
    },
  },
  {
    name: "lesson",
    at: "/demo/long-tom",
    before: async (page) => {
      await page.keyboard.press("e");
      await page.getByRole("button", { name: "Lessons" }).click();
      await page.getByRole("button", { name: /Dense foam/ }).click();
      await page.keyboard.press("h");
      await page.getByRole("button", { name: "4 times faster" }).click();
      await page.waitForTimeout(6000);
      await page.keyboard.press("Space");
      await page.locator("[data-score]").waitFor({ timeout: 60_000 });
    },
  },
  { name: "test-cut", at: LONG_TOM, before: async (page) => page.keyboard.press("k") },
  {
    name: "calibration",
    at: LONG_TOM,
    before: async (page) => {
      await page.keyboard.press("k");
      await page.getByRole("button", { name: "Calibration" }).click();
      await page.getByRole("button", { name: "What do these cuts teach?" }).click();
      await page.getByRole("button", { name: "Accept this calibration" }).waitFor();
    },
  },
  {
    name: "setting-card",
    at: LONG_TOM,
    before: async (page) => {
      await page.keyboard.press("k");
      await page.getByRole("button", { name: "Setting card" }).click();
      await page.getByRole("button", { name: "room at 5" }).click();
    },
  },
  {
    name: "logbook",
    at: LONG_TOM,
    before: async (page) => {
      await page.keyboard.press("k");
      await page.getByRole("button", { name: "Logbook" }).click();
    },
  },
];

const server = new TestServer();
await server.start({ seed: true });
const { cutters } = (await (await fetch(`${server.url}/api/cutters`)).json()) as { cutters: { id: string; design: { name: string } }[] };
const kept = `/cutters/${cutters.find((cutter) => cutter.design.name === "Long Tom")?.id}`;
const browser = await launch();
try {
  for (const view of VIEWS) {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: view.dark ? "dark" : "light" });
    await page.goto(`${server.url}${view.at === LONG_TOM ? kept : view.at}`);
    await page.waitForSelector('[data-region="clean"], [data-cutter], main h1');
    await view.before?.(page);
    await page.waitForTimeout(600);
    await page.screenshot({ path: `docs/screenshots/${view.name}.png` });
    await page.close();
  }
} finally {
  await browser.close();
  await server.remove();
}
