import type { Browser, Page } from "playwright-core";
import { ROLES } from "@/core/workshop/roles";
import { Access } from "@/server/kernel/access/access";
import { openDatabase } from "@/server/kernel/db/client";
import { launch } from "./browser";
import { ControllerProcess } from "./controller";
import { TestServer } from "./server";

/** The kept Long Tom, whose log the demo brings along: its address is found once the server is up. */
const LONG_TOM = "the kept Long Tom";

/** The shelf's tapered part, found the same way. */
const TAIL_FIN = "the tail fin's plan";

/** The demo's swing arm and its motorised frame, by their names. */
const SWING_ARM = "Long Tom on the swing arm";
const FRAME = "Marionette for lettering";

/** One picture of each main view: name, address, and what to do before it is taken. */
const VIEWS: readonly { name: string; at: string; size?: { width: number; height: number }; before?: (page: Page) => Promise<unknown> }[] = [
  { name: "cutters", at: "/cutters" },
  { name: "start-answer", at: "/start/answer", before: async (page) => page.locator(".choices > li").nth(2).waitFor() },
  { name: "desk", at: "/demo/long-tom" },
  { name: "drawer", at: "/drawer" },
  { name: "matches", at: "/matches", before: async (page) => page.getByText(/cut it cleanly/).waitFor() },
  { name: "plan", at: TAIL_FIN, before: async (page) => page.locator("[data-region]").first().waitFor() },
  { name: "plan-pace", at: `${TAIL_FIN}/pace`, before: async (page) => page.getByTestId("pace-table").waitFor() },
  {
    name: "pacer",
    at: `${TAIL_FIN}/cut`,
    before: async (page) => {
      await page.getByTestId("pacer-number").waitFor();
      await page.keyboard.press("Space");
      await page.waitForTimeout(9000);
    },
  },
  { name: "rig-swing", at: SWING_ARM, before: async (page) => page.getByTestId("rig-figures").waitFor() },
  { name: "frame", at: FRAME, before: async (page) => page.getByTestId("rig-figures").waitFor() },
  { name: "frame-path", at: `${FRAME}/program`, before: async (page) => page.locator('[data-testid="rig-path"][data-current="true"]').waitFor() },
  {
    name: "frame-run",
    at: `${FRAME}/run`,
    before: async (page) => {
      await page.locator(".run-practice summary").click();
      await page.getByRole("button", { name: /^50 times/ }).click();
      await page.locator(".run-practice summary").click();
      await page.getByRole("button", { name: "Home", exact: true }).click();
      await page.waitForTimeout(3000);
      await page.getByRole("button", { name: /^Start/ }).click();
      await page.waitForTimeout(7000);
    },
  },
  { name: "tension", at: "/demo/long-tom", before: async (page) => page.keyboard.press("n") },
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
];

/** A workshop that others can reach: sign-in, its members, two of them on one cutter, and a phone at the other end of the bow. */
async function many(browser: Browser): Promise<void> {
  const server = new TestServer();
  await server.start({ seed: true });
  await server.stop();
  const { db, close } = await openDatabase(server.folder);
  const access = new Access(async () => db);
  const phrases = { keep: "lantern barge on the tide", work: "paper swan at dusk", look: "moon over the marsh" };
  for (const role of ROLES) await access.setPhrase(role, phrases[role]);
  for (const name of ["Glue hand", "Carver", "Lantern painter"]) await access.addMember(name);
  await close();
  await server.start({ host: "0.0.0.0" });
  const take = (page: Page, name: string) => page.screenshot({ path: `docs/screenshots/${name}.png` });
  const comeIn = async (name: string, phrase: string, size = { width: 1280, height: 800 }): Promise<Page> => {
    const page = await (await browser.newContext({ viewport: size, colorScheme: "light" })).newPage();
    await page.goto(`${server.url}/cutters`);
    await page.getByLabel("Your name").fill(name);
    await page.getByLabel("The workshop's phrase").fill(phrase);
    if (name === "Administrator of the shed") await take(page, "sign-in");
    await page.getByRole("button", { name: "Sign in" }).click();
    await page.waitForURL(`${server.url}/cutters`);
    return page;
  };
  try {
    const [administrator, hand, carver] = [
      await comeIn("Administrator of the shed", phrases.keep),
      await comeIn("Glue hand", phrases.work),
      await comeIn("Carver", phrases.work, { width: 390, height: 844 }),
    ];
    const open = async (page: Page) => {
      await page.locator('[data-cutter="Long Tom"] h2 a').click();
      await page.getByLabel("Cutter's name").waitFor();
    };
    await open(administrator);
    await open(hand);
    await administrator.getByTestId("presence").waitFor();
    // Both change one thing at one moment: both versions are shown.
    await Promise.all([administrator.getByLabel("Cutter's name").fill("Long Tom, parade"), hand.getByLabel("Cutter's name").fill("Long Tom, big lanterns")]);
    await Promise.race([administrator, hand].map((page) => page.getByRole("dialog").waitFor()));
    const late = (await administrator.getByRole("dialog").count()) > 0 ? administrator : hand;
    await late.waitForTimeout(600);
    await take(late, "conflict");
    await late.getByRole("button", { name: /^Take / }).click();
    // The pacer here, and its other end on the carver's phone.
    await hand.goto(`${server.url}/plans`);
    await hand.getByRole("link", { name: "Carp's tail fin", exact: true }).click();
    await hand.waitForURL(/plans\/./);
    await hand.goto(`${hand.url()}/cut`);
    await hand.getByTestId("pacer-number").waitFor();
    await hand.getByRole("button", { name: "second screen" }).click();
    const address = await hand.locator(".second-address").innerText();
    await hand.getByRole("button", { name: "To the work" }).click();
    await carver.goto(`${server.url}${new URL(address).pathname}`);
    await carver.locator('[data-testid="other-end"][data-here="true"]').waitFor();
    await hand.locator(".pacer-face").click();
    await carver.waitForTimeout(9000);
    await take(carver, "second-screen");
    await administrator.goto(`${server.url}/members`);
    await administrator.locator(".activity-rows li").first().waitFor();
    await take(administrator, "members");
  } finally {
    await server.remove();
  }
}

const server = new TestServer();
const controller = new ControllerProcess();
await controller.start();
await server.start({ seed: true, env: { UPWIND_CONTROLLER: `127.0.0.1:${controller.port}` } });
const { cutters } = (await (await fetch(`${server.url}/api/cutters`)).json()) as { cutters: { id: string; design: { name: string } }[] };
const stored = `/cutters/${cutters.find((cutter) => cutter.design.name === "Long Tom")?.id}`;
const { plans } = (await (await fetch(`${server.url}/api/plans`)).json()) as { plans: { id: string; plan: { name: string } }[] };
const fin = `/plans/${plans.find(({ plan }) => plan.name === "Carp's tail fin")?.id}`;
const { rigs } = (await (await fetch(`${server.url}/api/rigs`)).json()) as { rigs: { id: string; rig: { name: string } }[] };
const rigAt = (name: string) => `/rigs/${rigs.find(({ rig }) => rig.name === name)?.id}`;
const browser = await launch();
try {
  for (const view of VIEWS) {
    const page = await browser.newPage({ viewport: view.size ?? { width: 1280, height: 800 }, colorScheme: "light" });
    await page.goto(
      `${server.url}${view.at.replace(LONG_TOM, stored).replace(TAIL_FIN, fin).replace(SWING_ARM, rigAt(SWING_ARM)).replace(FRAME, rigAt(FRAME))}`,
    );
    await page.waitForSelector(
      '[data-region="clean"], [data-cutter], main h1, [data-flat], [data-testid="blank"], [data-testid="rulers"], .pacer, [data-testid="rig-drawing"], [data-testid="rig-path"], [data-testid="run"]',
    );
    await view.before?.(page);
    await page.waitForTimeout(600);
    await page.screenshot({ path: `docs/screenshots/${view.name}.png` });
    await page.close();
  }
  await many(browser);
} finally {
  await browser.close();
  await server.remove();
  await controller.stop();
}
