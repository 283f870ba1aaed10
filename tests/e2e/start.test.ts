import type { Page } from "playwright-core";
import { describe, expect, it } from "vitest";
import { accessFaults, until, verdict } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop();

const question = (page: Page, words: string) => page.getByRole("heading", { level: 1, name: words }).waitFor();
/** Goes to an element by Tab alone, as somebody without a mouse does. */
async function tabTo(page: Page, name: RegExp): Promise<void> {
  for (let i = 0; i < 80; i++) {
    await page.keyboard.press("Tab");
    const here = await page.evaluate(() => document.activeElement?.getAttribute("aria-label") ?? document.activeElement?.textContent ?? "");
    if (name.test(here)) return;
  }
  throw new Error(`Tab never came to ${name}`);
}
/** The desk's design as the server keeps it. */
async function stored(page: Page) {
  const id = new URL(page.url()).pathname.split("/").at(-1);
  const response = await fetch(`${server.url}/api/cutters/${id}`);
  return ((await response.json()) as { cutter: { design: Record<string, never> } }).cutter.design as unknown as {
    name: string;
    job: { width_mm: number; foam: { family: string } };
    supply: { kind: string; voltage_V: number };
    wiring?: { switch?: string; fuse_A?: number };
    notes?: string;
  };
}

describe("from an empty workshop to a cutter", () => {
  it("with the mouse: foam, block, what is at hand, care; a refused foam bars the way; a reload loses nothing; the cutter is clean and its page says how to begin", async () => {
    const watch = await watched();
    const page = await watch.page("/");
    await question(page, "What is it made of?");
    await page.getByRole("button", { name: "Polyurethane" }).click();
    await page.getByText(/Not with a hot wire/).waitFor();
    expect(await page.getByRole("button", { name: "Next: how big" }).isDisabled()).toBe(true);
    await page.getByRole("button", { name: /Coloured board, smooth/ }).click();
    await page.getByRole("button", { name: "Next: how big" }).click();
    await question(page, "How big, and what comes out of it?");
    // Pulled by its handle, the block is wider; typed, it is exact.
    const handle = await page.getByRole("slider", { name: "Width along the wire" }).boundingBox();
    if (!handle) throw new Error("no handle");
    await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
    await page.mouse.down();
    await page.mouse.move(handle.x + 90, handle.y + handle.height / 2, { steps: 4 });
    await page.mouse.up();
    const pulled = Number(await page.getByRole("slider", { name: "Width along the wire" }).getAttribute("aria-valuenow"));
    expect(pulled).toBeGreaterThan(410);
    await page.getByLabel("How many pieces").fill("none");
    await page.getByText("a whole number from 1 to 100000").waitFor();
    await page.getByLabel("How many pieces").fill("12");
    await page.getByRole("textbox", { name: "Width along the wire" }).fill("300 mm");
    await page.reload();
    await page.getByText("300 mm along the wire, 75 mm thick, cut straight, 12 pieces.").waitFor();
    await page.getByRole("button", { name: "Next: what is at hand" }).click();
    await question(page, "What have you got?");
    await page.getByRole("button", { name: /laptop brick/ }).click();
    await page.getByRole("button", { name: /PWM module/ }).click();
    await page.getByRole("button", { name: "Next: how careful" }).click();
    await page.getByRole("button", { name: "Show me the cutter" }).click();
    await page.locator(".choices > li").nth(2).waitFor();
    expect(await accessFaults(page)).toEqual([]);
    const first = page.locator(".choices > li").first();
    expect(await first.innerText()).toMatch(/buy the wire/);
    expect(await first.innerText()).toMatch(/19 V 4\.7 A brick/);
    // What differs is out, in the first and in another.
    expect(await first.locator(".choice-sentence strong").count()).toBeGreaterThan(0);
    await first.getByRole("button", { name: /Make this cutter/ }).click();
    await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
    await until(
      () => verdict(page),
      (now) => now === "clean",
      "a clean cutter",
    );
    const design = await stored(page);
    expect(design).toMatchObject({ job: { width_mm: 300, foam: { family: "xps" } }, supply: { kind: "dc", voltage_V: 19 } });
    // Nobody has looked at the cutter yet: nothing is answered for them.
    expect(design.wiring).toBeUndefined();
    expect(design.notes).toMatch(/12 pieces.*measure the kerf at the far end/s);
    await watch.end();
  });

  it("by keyboard alone, and nothing is asked again afterwards", async () => {
    const watch = await watched();
    const page = await watch.page("/start");
    await question(page, "What is it made of?");
    await tabTo(page, /White, with beads/);
    await page.keyboard.press("Enter");
    await page.keyboard.press("n");
    await question(page, "How big, and what comes out of it?");
    await tabTo(page, /^Width along the wire$/);
    for (let i = 0; i < 4; i++) await page.keyboard.press("Shift+ArrowRight");
    await page.getByText("600 mm along the wire, 75 mm thick").waitFor();
    await page.keyboard.press("n");
    await question(page, "What have you got?");
    await tabTo(page, /^bench supply/);
    await page.keyboard.press("Space");
    await page.keyboard.press("n");
    await question(page, "How careful shall we be?");
    await page.keyboard.press("b");
    await question(page, "What have you got?");
    await page.getByRole("button", { name: /bench supply/, pressed: true }).waitFor();
    await page.keyboard.press("n");
    await question(page, "How careful shall we be?");
    await page.keyboard.press("n");
    await page.locator(".choices > li").first().waitFor();
    await tabTo(page, /Make this cutter: the first/);
    await page.keyboard.press("Enter");
    await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
    await until(
      () => verdict(page),
      (now) => now === "clean",
      "a clean cutter",
    );
    expect(await stored(page)).toMatchObject({ job: { width_mm: 600, foam: { family: "eps" } }, supply: { kind: "bench" } });
    await page.goto(`${server.url}/`);
    await page.waitForURL(/\/cutters$/);
    await watch.end();
  });

  it("a job that nothing does says why and where to turn", async () => {
    const watch = await watched();
    const page = await watch.page("/start/block");
    await page.getByRole("textbox", { name: "Width along the wire" }).fill("20000 mm");
    await page.goto(`${server.url}/start/answer`);
    await page.getByText(/Nothing sold or owned does this job as it is/).waitFor();
    await page.getByRole("link", { name: "A smaller block" }).click();
    await question(page, "How big, and what comes out of it?");
    await watch.end();
  });
});
