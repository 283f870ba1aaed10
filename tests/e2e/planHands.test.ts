import path from "node:path";
import type { Page } from "playwright-core";
import { describe, expect, it } from "vitest";
import { saved, until } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop({ seed: true });

/** Tabs on, as one without a mouse does, until what has the focus is named so. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let i = 0; i < 80; i++) {
    await page.keyboard.press("Tab");
    const here = await page.evaluate(() => {
      const element = document.activeElement;
      // A part of the page that scrolls has all its words for text: it is not what is looked for.
      if (element?.tagName === "SECTION") return element.getAttribute("aria-label") ?? "";
      const labelled = element?.id ? document.querySelector(`label[for="${CSS.escape(element.id)}"]`)?.textContent : "";
      return `${element?.getAttribute("aria-label") ?? ""} ${labelled} ${element?.textContent ?? ""}`;
    });
    if (name.test(here)) return;
  }
  throw new Error(`no way by Tab to ${name}`);
}

const chord = (page: Page) => page.getByLabel("Aft of the leading edge").inputValue();

describe("a plan's ends in the hand", () => {
  it("handles are moved by mouse, finger and figures, an outline's points too, and what is drawn follows", async () => {
    const watch = await watched({ hasTouch: true });
    const page = await watch.page("/plans");
    await page.getByRole("link", { name: "Carp's tail fin", exact: true }).click();
    await page.getByTestId("plan-drawing").waitFor();
    await page.keyboard.press("2");
    const drawing = page.getByTestId("ends");
    await drawing.waitFor();
    const shape = () => page.locator("[data-outline]").getAttribute("d");
    const centre = async (id: string) => {
      const box = await page.locator(`[data-handle="${id}"]`).boundingBox();
      if (!box) throw new Error(`no handle ${id}`);
      return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    };
    const before = await shape();
    const top = await centre("top");
    await page.mouse.move(top.x + 3, top.y + 3);
    await page.mouse.down();
    await page.mouse.move(top.x + 3, top.y - 40, { steps: 5 });
    await page.mouse.up();
    await until(shape, (now) => now !== before, "thicker by the mouse");
    expect(await page.locator(".sentence").innerText()).toMatch(/times as thick/);
    await page.keyboard.press("Control+z");
    await until(shape, (now) => now === before, "one step back for the whole drag");

    // A finger, not quite on the tail.
    const tail = await centre("tail");
    const client = await page.context().newCDPSession(page);
    const touch = (type: "touchStart" | "touchMove" | "touchEnd", x?: number) =>
      client.send("Input.dispatchTouchEvent", { type, touchPoints: x === undefined ? [] : [{ x, y: tail.y + 6 }] });
    await touch("touchStart", tail.x - 8);
    for (let i = 1; i <= 5; i++) await touch("touchMove", tail.x - 8 - 12 * i);
    await touch("touchEnd");
    await until(
      () => chord(page),
      (now) => Number.parseFloat(now) < 310,
      "shorter by the finger",
    );
    // By its exact figure.
    await page.getByLabel("Aft of the leading edge").fill("300 mm");
    await until(
      () => page.locator(".sentence").innerText(),
      (words) => /2415, 300 mm/.test(words) || /2415, 299\.9\d* mm/.test(words),
      "the figure typed",
    );

    // Made points of, one of them moved by keys, one more, one less.
    await page.getByRole("button", { name: "Make points of it" }).click();
    await page.locator('[data-handle="point 4"]').focus();
    const points = () => page.locator('[data-handle^="point"]').count();
    const count = await points();
    const drawn = await shape();
    for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowUp");
    await until(shape, (now) => now !== drawn, "a point moved");
    await page.keyboard.press("Insert");
    await until(points, (now) => now === count + 1, "a point more");
    await page.keyboard.press("Delete");
    await until(points, (now) => now === count, "a point less");
    // The other end has its own address.
    await page.getByRole("button", { name: "tip", exact: true }).click();
    await until(
      async () => page.url(),
      (now) => now.endsWith("/ends?end=tip"),
      "the tip's address",
    );
    await saved(page);
    await page.reload();
    await page.getByRole("button", { name: "tip", exact: true, pressed: true }).waitFor();
    await watch.end();
  });

  it("panels share a template at their joint, a twist no one asked for holds the templates back, a font of one's own draws", async () => {
    const watch = await watched();
    const page = await watch.page("/plans");
    await page.getByRole("link", { name: "Carp's tail fin", exact: true }).click();
    await page.getByTestId("plan-drawing").waitFor();
    const id = page.url().split("/").at(-1) as string;
    const kerf = (end: string) => page.locator(`[data-figure="kerf"] td[data-end="${end}"]`).innerText();
    await page.locator("[data-region]").first().waitFor();
    const joint = await kerf("tip");
    await page.getByRole("button", { name: "Another panel beyond the tip" }).click();
    await until(
      () => kerf("root"),
      (now) => now === joint,
      "the joint's kerf at the second panel's root",
    );
    expect(page.url()).toMatch(/\?panel=2$/);
    await saved(page);
    const svg = async () => page.request.get(`${server.url}/api/plans/${id}/templates?as=svg`);
    expect(await (await svg()).text()).toMatch(/panel 1 of 2, and the root of panel 2/);
    await page.getByRole("button", { name: "panel 1", exact: true }).click();
    await page.locator('[data-part="lie"]').click();
    await page.getByRole("button", { name: "the twist is wanted" }).click();
    await page.keyboard.press("Escape");
    await page.locator('[data-note="twist"]').waitFor();
    await page.keyboard.press("6");
    await page.getByText(/No template is given out/).waitFor();
    expect(await page.getByRole("link", { name: "Templates as PDF" }).getAttribute("aria-disabled")).toBe("true");
    await saved(page);
    expect((await svg()).status()).toBe(422);

    await page.goto(`${server.url}/plans`);
    await page.getByRole("link", { name: "LANTERN lettering", exact: true }).click();
    const letters = () => page.locator('[data-template="root-whole"]').getAttribute("d");
    const plain = await until(letters, (now) => now !== null, "letters");
    await page.locator("[data-region]").first().waitFor();
    await page.keyboard.press("r");
    await page.getByLabel("Font file").setInputFiles(path.resolve("node_modules/dejavu-fonts-ttf/ttf/DejaVuSerif.ttf"));
    await until(letters, (now) => now !== plain, "letters of another font");
    await page.getByLabel("Font file").setInputFiles(path.resolve("package.json"));
    await page
      .getByRole("alert")
      .filter({ hasText: /package\.json: .*no font/ })
      .waitFor();
    watch.forgive(/422/);
    await watch.end();
  });

  it("by the keyboard alone: a plan is begun, its root chosen and its chord set, a handle moved, every step gone through and the template given out", async () => {
    const watch = await watched();
    const page = await watch.page("/plans");
    await tabTo(page, /New plan/i);
    await page.keyboard.press("Enter");
    await page.waitForURL(/\/plans\/[0-9a-f-]{36}$/);
    await page.locator("[data-region]").first().waitFor();
    await page.keyboard.press("r");
    await page.getByRole("dialog", { name: "What at the root?" }).waitFor();
    await tabTo(page, /Number/);
    await page.keyboard.press("Control+a");
    await page.keyboard.type("4412");
    await tabTo(page, /Chord/);
    await page.keyboard.press("Control+a");
    await page.keyboard.type("250");
    await page.keyboard.press("Escape");
    await until(
      () => page.locator(".sentence").innerText(),
      (words) => /4412, 250 mm/.test(words),
      "the root as typed",
    );
    await page.keyboard.press("2");
    await page.getByTestId("ends").waitFor();
    await tabTo(page, /its chord/);
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("PageDown");
    await page.keyboard.press("ArrowUp");
    await until(
      () => page.locator(".sentence").innerText(),
      (words) => /4412, 251 mm, 1\.\d+ times as thick/.test(words),
      "longer and thicker",
    );
    for (const [key, seen] of [
      ["3", page.locator("[data-flat]").first()],
      ["4", page.getByTestId("rulers").or(page.getByText("Name the cutter this is meant for, and the fastest"))],
      ["5", page.getByTestId("blank")],
      ["6", page.getByRole("link", { name: "Templates as PDF" })],
    ] as const) {
      await page.keyboard.press(key);
      await seen.waitFor();
    }
    await tabTo(page, /^\s*SVG\s*$/);
    const [download] = await Promise.all([page.waitForEvent("download"), page.keyboard.press("Enter")]);
    expect(download.suggestedFilename()).toMatch(/\.svg$/);
    await download.path();
    await page.getByText(/Last made/).waitFor();
    await watch.end();
  });
});
