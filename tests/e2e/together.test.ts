import type { Browser, Page } from "playwright-core";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { launch, saved, savedMark, until, watched } from "../helpers/browser";
import { startPostgres } from "../helpers/postgres";
import { TestServer } from "../helpers/server";

const postgres = await startPostgres();
let browser: Browser;
beforeAll(async () => {
  browser = await launch();
});
afterAll(async () => {
  await browser.close();
  postgres?.remove();
});

const cutterId = async (server: TestServer, name: string) => {
  const { cutters } = (await (await fetch(`${server.url}/api/cutters`)).json()) as { cutters: { id: string; design: { name: string } }[] };
  const found = cutters.find(({ design }) => design.name === name);
  if (!found) throw new Error(`no ${name}`);
  return found.id;
};
const nameOf = (page: Page) => page.getByLabel("Cutter's name");
const shows = (page: Page, name: string) =>
  until(
    () => nameOf(page).inputValue(),
    (now) => now === name,
    `${name} on the other page`,
  );

/** What two pages on one cutter are to each other, whichever servers they were served by. */
async function together(one: TestServer, other: TestServer): Promise<void> {
  const id = await cutterId(one, "Long Tom");
  const [watch, second] = [await watched(browser, one.url), await watched(browser, other.url)];
  const [a, b] = [await watch.page(`/cutters/${id}`), await second.page(`/cutters/${id}`)];
  const list = await second.page("/cutters");
  await nameOf(a).waitFor();
  await nameOf(b).waitFor();
  // What one saves the other shows, and a list too, without a reload.
  await nameOf(a).fill("Long Tom of the shed");
  await saved(a);
  await list.bringToFront();
  await list.locator('[data-cutter="Long Tom of the shed"]').first().waitFor();
  await b.bringToFront();
  await shows(b, "Long Tom of the shed");
  await saved(b);
  // Each page says that the other has it open, and stops saying so when it closes.
  for (const page of [a, b]) await page.getByTestId("presence").getByText("another page has this open too").waitFor();
  const third = await watch.page(`/cutters/${id}`);
  await b.getByTestId("presence").getByText("2 other pages have this open too").waitFor();
  await third.close();
  await b.getByTestId("presence").getByText("another page has this open too").waitFor();
  // Changes of different parts at the same moment are joined.
  await a.bringToFront();
  const knob = a.getByRole("slider", { name: "Volts knob" });
  await knob.focus();
  await a.keyboard.press("ArrowRight");
  await nameOf(b).fill("Long Tom the second");
  await Promise.all([saved(a), saved(b)]);
  await shows(a, "Long Tom the second");
  await until(
    async () => [await knob.inputValue(), await b.getByRole("slider", { name: "Volts knob" }).inputValue()],
    ([mine, theirs]) => mine === theirs,
    "the same knob on both",
  );
  // Of the same part they are shown both, and neither is lost.
  await Promise.all([nameOf(a).fill("As one has it"), nameOf(b).fill("As the other has it")]);
  const late = await until(
    async () => ((await a.getByRole("dialog").count()) > 0 ? a : (await b.getByRole("dialog").count()) > 0 ? b : null),
    (page) => page !== null,
    "both versions shown",
  );
  if (!late) throw new Error("no conflict");
  const words = await late.getByRole("dialog").innerText();
  expect(words).toMatch(/As one has it/);
  expect(words).toMatch(/As the other has it/);
  await late.getByRole("button", { name: /Take the other tab's/ }).click();
  await until(
    async () => [await nameOf(a).inputValue(), await nameOf(b).inputValue()],
    ([mine, theirs]) => mine === theirs && /^As (one|the other) has it$/.test(mine ?? ""),
    "the same name on both",
  );
  await watch.end();
  await second.end();
}

describe("two pages on one workshop", () => {
  it("on the embedded engine: each shows what the other saves as it is saved, joins what differs, and shows both where they clash", async () => {
    const server = new TestServer();
    await server.start({ seed: true });
    try {
      await together(server, server);
    } finally {
      await server.remove();
    }
  });
});

describe.skipIf(!postgres)("two processes on one PostgreSQL database", () => {
  const pg = postgres as NonNullable<typeof postgres>;

  it("started at once on an empty database they lay the demo in once, and two pages are to each other as on one", async () => {
    const [one, other] = [new TestServer(), new TestServer()];
    const env = { DATABASE_URL: pg.database() };
    await Promise.all([one.start({ seed: true, env }), other.start({ seed: true, env })]);
    try {
      const { cutters } = (await (await fetch(`${other.url}/api/cutters`)).json()) as { cutters: { design: { name: string } }[] };
      expect(new Set(cutters.map(({ design }) => design.name)).size).toBe(cutters.length);
      await together(one, other);
    } finally {
      await one.remove();
      await other.remove();
    }
  });

  it("when the database server goes away a notice appears, nothing typed meanwhile is lost, and it is saved automatically when it is back", async () => {
    const server = new TestServer();
    await server.start({ seed: true, env: { DATABASE_URL: pg.database() } });
    try {
      const id = await cutterId(server, "Gatepost");
      const watch = await watched(browser, server.url);
      const page = await watch.page(`/cutters/${id}`);
      await nameOf(page).waitFor();
      pg.stop("immediate");
      await nameOf(page).fill("Typed while it was away");
      await until(
        () => savedMark(page).getAttribute("data-save"),
        (state) => state === "failed",
        "notice that it is not saved",
      );
      expect(await savedMark(page).innerText()).toMatch(/database server does not answer|not saved/i);
      // A page that is opened meanwhile says what is the matter and comes automatically once it is not.
      const late = await watch.context.newPage();
      const response = await late.goto(`${server.url}/cutters`);
      expect(response?.status()).toBe(503);
      await late.getByRole("heading", { name: /does not answer/ }).waitFor();
      // A backup asked for meanwhile is refused in words too.
      const backup = await fetch(`${server.url}/api/backup`);
      expect([backup.status, ((await backup.json()) as { error: { code: string } }).error.code]).toEqual([503, "database-away"]);
      await pg.start();
      await late.getByRole("heading", { name: "Cutters" }).waitFor();
      await saved(page);
      const { cutter } = (await (await fetch(`${server.url}/api/cutters/${id}`)).json()) as { cutter: { design: { name: string } } };
      expect(cutter.design.name).toBe("Typed while it was away");
      // What changed elsewhere is heard again; a field that is being typed in keeps what is typed.
      await page.keyboard.press("Tab");
      const reply = await fetch(`${server.url}/api/cutters/${id}`, {
        method: "PUT",
        headers: { "content-type": "application/json", origin: server.url },
        body: JSON.stringify({ revision: 2, design: { ...cutter.design, name: "Saved elsewhere" } }),
      });
      expect(reply.status).toBe(200);
      await shows(page, "Saved elsewhere");
      watch.forgive(/status of 503|Failed to load/);
      await watch.end();
      expect(server.output).not.toMatch(/Typed while|postgres:\/\//);
    } finally {
      await server.remove();
    }
  });
});
