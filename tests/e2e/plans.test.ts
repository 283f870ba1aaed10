import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import DxfParser from "dxf-parser";
import type { Page } from "playwright-core";
import { afterAll, describe, expect, it } from "vitest";
import { writeDxf } from "@/core/plans/outputs/dxf";
import { drawShape } from "@/core/plans/shapes";
import { PLAN_STEPS } from "@/ui/features/plans/steps";
import { listens, saved, until } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop({ seed: true });
const files = mkdtempSync(path.join(tmpdir(), "plan-files-"));
afterAll(() => rmSync(files, { recursive: true, force: true }));

/** The steps of a plan in its own order; calling out and practising come after. */
const SHOWN = PLAN_STEPS.filter((step) => step !== "cut" && step !== "finish" && step !== "practice");
const at = (page: Page) => page.url().replace(server.url, "");
const figure = (page: Page, row: string, end: "root" | "tip") => page.locator(`[data-figure="${row}"] td[data-end="${end}"]`).innerText();

describe("a plan", () => {
  it("a drawing comes in, both ends get their kerfs, the cutter's heat moves the templates, paper comes out, and another workshop opens it the same", async () => {
    const watch = await watched();
    const page = await watch.page("/cutters");
    await page.locator('[data-cutter="Long Tom"] a').first().click();
    await page.getByRole("button", { name: "Plan a part" }).click();
    await page.waitForURL(/\/plans\/[0-9a-f-]{36}$/);
    await page.getByTestId("plan-drawing").waitFor();
    const home = at(page);
    const id = home.split("/")[2] as string;

    // A drawing made elsewhere: the tail fin's root, in the exchange format.
    const outline = drawShape({ kind: "naca4", code: "2415" }, 320).regions[0]?.outline ?? [];
    const dxf = path.join(files, "root.dxf");
    writeFileSync(dxf, writeDxf({ title: "root", lines: [{ layer: "section", points: outline, closed: true }], texts: [] }));
    await page.keyboard.press("r");
    await page.getByRole("dialog", { name: "What at the root?" }).waitFor();
    await page.getByLabel("Drawing file").setInputFiles(dxf);
    await page.getByText(/: 1 piece\./).waitFor();
    await page.getByRole("button", { name: /320 mm × 48 mm/ }).click();
    await page.keyboard.press("Escape");
    await until(
      () => page.locator(".sentence").innerText(),
      (words) => /an outline of \d+ points/.test(words),
      "the drawing in the sentence",
    );
    // The second end is the first until it is given a shape of its own.
    await page.keyboard.press("t");
    await page.getByRole("button", { name: "of its own" }).click();
    await page.getByRole("button", { name: "Four-digit section" }).click();
    await page.getByLabel("Number").fill("0015");
    await page.getByRole("textbox", { name: "Chord" }).fill("140");
    await page.keyboard.press("Escape");
    const kerfs = async () => [await figure(page, "kerf", "root"), await figure(page, "kerf", "tip")];
    const before = await kerfs();
    expect(before[0]).not.toBe(before[1]);
    expect(Number.parseFloat(before[1] as string)).toBeGreaterThan(Number.parseFloat(before[0] as string));
    const edge = () => page.locator('[data-template="root-upper"]').getAttribute("d");
    const drawn = await edge();
    await saved(page);

    // The cutter is turned up on its own desk, in another tab; coming back, the plan has followed.
    const other = await watch.context.newPage();
    await other.goto(`${server.url}/cutters`);
    await other.locator('[data-cutter="Long Tom"] a').first().click();
    const knob = other.getByRole("slider", { name: "Volts knob" });
    await knob.focus();
    for (let i = 0; i < 12; i++) await other.keyboard.press("ArrowRight");
    await saved(other);
    await other.close();
    await page.evaluate(() => window.dispatchEvent(new Event("focus")));
    await until(kerfs, (now) => now[0] !== before[0] && now[1] !== before[1], "wider kerfs");
    await until(edge, (now) => now !== drawn, "the templates moved");

    // Every step by its key and its address, Back and reload.
    const views = {
      ends: page.getByTestId("ends"),
      templates: page.getByTestId("edge-costs"),
      pace: page.getByTestId("pace-table"),
      blank: page.getByTestId("blank"),
      out: page.getByRole("link", { name: "Templates as PDF" }),
    };
    for (const [i, step] of SHOWN.entries()) {
      await page.keyboard.press(String(i + 2));
      // Seen before the next key: the browser takes an address into its history after the page has it.
      await views[step].waitFor();
      expect(at(page)).toBe(`${home}/${step}`);
    }
    // What is done with the part afterwards goes into its cutter's log.
    await page.keyboard.press("8");
    await page.locator('[data-finish="hairs"] input').check();
    await page.locator('[data-finish="check"] input').check();
    await page.getByRole("button", { name: "Log what is ticked" }).click();
    await page.getByRole("button", { name: "Logged" }).waitFor();
    expect(at(page)).toBe(`${home}/finish`);
    await page.goBack();
    await page.goBack();
    await page.getByTestId("blank").waitFor();
    await page.reload();
    await page.getByTestId("blank").waitFor();
    // The page listens once all of it has come.
    await listens(page);
    expect(await page.getByTestId("cut-list").innerText()).toContain("1100 mm");
    // Laid out on the drawer's own block of foam.
    expect(await page.locator('[data-board="Float blocks"]').innerText()).toMatch(/On Float blocks: 1 of EPS/);
    await page.goForward();
    await page.getByRole("link", { name: "Templates as PDF" }).waitFor();
    expect((await page.request.get(`${server.url}${home}/attic`)).status()).toBe(404);

    // On paper: the ruler at the foot of the first sheet measures 100 mm.
    const get = async (query: string) => (await page.request.get(`${server.url}/api/plans/${id}/templates?${query}`)).body();
    const pdf = path.join(files, "templates.pdf");
    writeFileSync(pdf, await get("as=pdf&paper=a4"));
    const words = execFileSync("pdftotext", ["-bbox", "-l", "1", pdf, "-"], { encoding: "utf8" });
    const after = Number(/xMin="([\d.]+)"[^>]*>100</.exec(words)?.[1]);
    expect((after * 25.4) / 72 - 8 - 102).toBeLessThan(0.35);
    const parsed = new DxfParser().parseSync((await get("as=dxf")).toString());
    expect(parsed?.header.$INSUNITS).toBe(4);
    expect(Object.keys(parsed?.tables.layer.layers ?? {})).toEqual(
      expect.arrayContaining(["guide", "body", "pins", "base line", "finished part", "travel", "words"]),
    );
    expect((await get("as=svg")).toString()).toMatch(/<svg [^>]*width="[\d.]+mm"/);
    expect((await get("as=coordinates&end=tip")).toString().split("\n").length).toBeGreaterThan(100);
    expect((await page.request.get(`${server.url}/api/plans/${id}/templates?as=pdf&ruler_mm=50`)).status()).toBe(422);

    // What was given out is remembered, and the plan as a file opens the same elsewhere.
    const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "SVG" }).click()]);
    await download.path();
    await page.getByText(/Last made/).waitFor();
    await saved(page);
    await page.keyboard.press("1");
    const sentence = await page.locator(".sentence").innerText();
    const figures = await page.locator(".plan-figures").innerText();
    const file = path.join(files, "plan.json");
    writeFileSync(file, await (await page.request.get(`${server.url}/api/plans/${id}/file`)).body());
    expect(JSON.parse(readFileSync(file, "utf8"))).toMatchObject({ format: "upwind-rod/plan", version: 1 });
    await page.goto(`${server.url}/plans`);
    await page.getByLabel("Plan file").setInputFiles(file);
    await page.waitForURL(/\/plans\/[0-9a-f-]{36}$/);
    expect(at(page)).not.toBe(home);
    await until(
      () => page.locator(".plan-figures").innerText(),
      (now) => now === figures,
      "the same figures",
    );
    expect(await page.locator(".sentence").innerText()).toBe(sentence);
    watch.forgive(/404|422/);
    await watch.end();
  });

  it("the shelf of the demo: every plan draws, letters too; it turns by keys and by hand; a fault is said and nothing is lost", async () => {
    const watch = await watched();
    const page = await watch.page("/plans");
    const names = await page.locator("[data-plan]").evaluateAll((rows) => rows.map((row) => row.getAttribute("data-plan") as string));
    expect(names.length).toBeGreaterThanOrEqual(6);
    for (const name of names.filter((each) => each !== "New plan").slice(0, 7)) {
      await page.goto(`${server.url}/plans`);
      await page.getByRole("link", { name, exact: true }).first().click();
      await page.locator("[data-template]").first().waitFor();
    }
    await page.goto(`${server.url}/plans`);
    await page.getByRole("link", { name: "Lantern rib", exact: true }).click();
    const drawing = page.getByTestId("plan-drawing");
    // The window's picture is drawn by the page itself: from then on it listens.
    await page.locator("[data-region]").first().waitFor();
    const wire = () => page.locator("[data-wire]").getAttribute("d");
    const first = await wire();
    await drawing.getByRole("slider").focus();
    await page.keyboard.press("ArrowRight");
    const turned = await until(wire, (now) => now !== first, "turned by a key");
    const box = await drawing.boundingBox();
    if (!box) throw new Error("no drawing");
    await page.mouse.move(box.x + 200, box.y + 150);
    await page.mouse.down();
    await page.mouse.move(box.x + 260, box.y + 180, { steps: 4 });
    await page.mouse.up();
    await until(wire, (now) => now !== turned, "turned by hand");
    // A strip thicker than its own bend cannot be: said in words, the field kept, and undone.
    await page.keyboard.press("r");
    await page.getByLabel("Thickness", { exact: true }).fill("900");
    await page.keyboard.press("Escape");
    await page.getByRole("alert").filter({ hasText: "must be less than the bend's own radius" }).waitFor();
    await page.getByRole("button", { name: "Undo" }).click();
    await page.locator("[data-template]").first().waitFor();
    await watch.end();
  });
});
