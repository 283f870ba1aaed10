import type { Page } from "playwright-core";
import { launch } from "./browser";
import { TestServer } from "./server";

/** The kept Long Tom, whose log the demo brings along: its address is found once the server is up. */
const LONG_TOM = "the kept Long Tom";

/** One picture of each main view: name, address, and what to do before it is taken. */
const VIEWS: readonly { name: string; at: string; size?: { width: number; height: number }; before?: (page: Page) => Promise<unknown> }[] = [
  { name: "cutters", at: "/cutters" },
  { name: "start-foam", at: "/start/foam" },
  { name: "start-block", at: "/start/block" },
  {
    name: "start-bench",
    at: "/start/bench",
    before: async (page) => {
      await page.getByRole("button", { name: /laptop brick/ }).click();
      await page.getByRole("button", { name: /PWM module/ }).click();
    },
  },
  { name: "start-answer", at: "/start/answer", before: async (page) => page.locator(".choices > li").nth(2).waitFor() },
  { name: "desk", at: "/demo/long-tom" },
  { name: "desk-phone", at: "/demo/long-tom", size: { width: 390, height: 844 } },
  {
    name: "keeping",
    at: "/keeping",
    before: async (page) => {
      await page.getByRole("button", { name: "Keep one here now" }).click();
      await page.locator(".kept-rows li").first().waitFor();
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
    const page = await browser.newPage({ viewport: view.size ?? { width: 1280, height: 800 }, colorScheme: "light" });
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
