import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { Page } from "playwright-core";
import { afterAll, describe, expect, it } from "vitest";
import { accessFaults, overflow, saved, until } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop({ seed: true });
const files = mkdtempSync(path.join(tmpdir(), "rig-files-"));
afterAll(() => rmSync(files, { recursive: true, force: true }));

const figure = async (page: Page, id: string) => Number.parseFloat(await page.locator(`[data-figure="${id}"] dd`).innerText());
const open = async (page: Page, name: string) => {
  await page.goto(`${server.url}/rigs`);
  await page.getByRole("link", { name, exact: true }).click();
  await page.getByTestId("rig-drawing").waitFor();
  return page.url().split("/").at(-1) as string;
};
const figures = (page: Page) => page.getByTestId("rig-figures");

describe("rigs", () => {
  it("swing arm: the pulley is dragged and the answer moves; its best place is found; sums, build sheet and log", async () => {
    const watch = await watched();
    const page = await watch.page("/rigs");
    const id = await open(page, "Long Tom on the swing arm");
    await figures(page).waitFor();
    expect(await accessFaults(page)).toEqual([]);
    // Travels come from the plan's guides.
    expect(await figure(page, "travel-root")).toBeGreaterThan(320);
    const before = await figure(page, "mismatch");
    const handle = page.locator('[data-handle="pulley"]');
    const box = await handle.boundingBox();
    if (!box) throw new Error("no pulley");
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 70, box.y + box.height / 2 + 10, { steps: 6 });
    await page.mouse.up();
    await until(
      () => figure(page, "mismatch"),
      (now) => now > before + 1,
      "another mismatch",
    );
    await page.locator('[data-note="out-of-step"]').waitFor();
    await page.getByRole("button", { name: "Find the pulley's best place" }).click();
    await until(
      () => figure(page, "mismatch"),
      (now) => now < 0.05,
      "the best place",
    );
    // By key: the handle has the same arrows as every drawing.
    await handle.focus();
    await page.keyboard.press("Shift+ArrowRight");
    await until(
      () => figure(page, "mismatch"),
      (now) => now > 0.05,
      "moved by a key",
    );
    await page.keyboard.press("Control+z");
    await until(
      () => figure(page, "mismatch"),
      (now) => now < 0.05,
      "undone",
    );
    // A swing that is no swing is refused next to its field, and nothing is lost.
    await page.getByLabel("Arm to", { exact: true }).fill("60");
    await page.locator('[data-field="to_deg"] [role="alert"]', { hasText: /at least 1 degree/ }).waitFor();
    await page.getByLabel("Arm to", { exact: true }).fill("-60");
    await figures(page).waitFor();
    await saved(page);
    await page.keyboard.press("Escape");
    await page.locator("body").click({ position: { x: 700, y: 10 } });
    await page.keyboard.press("2");
    await page.locator('[data-curve="mismatch"] canvas').waitFor();
    expect(await page.locator('[data-table="haul"] tbody tr').count()).toBeGreaterThan(8);
    expect(page.url()).toMatch(/\/sums$/);
    await page.reload();
    await page.locator('[data-table="marks"]').waitFor();
    await page.keyboard.press("3");
    await page
      .getByTestId("rig-build")
      .getByText(/Pivot: a bolt/)
      .waitFor();
    const pdf = path.join(files, "rig.pdf");
    writeFileSync(pdf, await (await page.request.get(`${server.url}/api/rigs/${id}/drawing?as=pdf`)).body());
    expect(execFileSync("pdftotext", ["-layout", pdf, "-"], { encoding: "utf8" })).toMatch(/Long Tom on the swing arm[\s\S]*Drawn at 1 to/);
    expect((await page.request.get(`${server.url}/api/rigs/${id}/drawing?as=gcode`)).status()).toBe(422);
    // In the hand: it runs automatically and is judged.
    await page.keyboard.press("4");
    const feel = page.getByTestId("rig-feel");
    await feel.getByRole("button", { name: "Let it go" }).click();
    await until(
      () => feel.getAttribute("data-state"),
      (now) => now === "running",
      "running",
    );
    await page.keyboard.down("h");
    await feel.getByRole("button", { name: "Hold back (H)", pressed: true }).waitFor();
    await page.keyboard.up("h");
    await page.keyboard.press("5");
    const log = page.getByTestId("rig-log");
    await log.getByLabel("Weight that hung").fill("0.7 N");
    await log.getByRole("button", { name: "Log this cut" }).click();
    await log.getByRole("button", { name: "Logged" }).waitFor();
    await log.getByRole("link", { name: "See the log" }).click();
    await page.waitForURL(/\/cutters\/.*\/log/);
    await page.getByText(/Weight that hung 0.7 N/).waitFor();
    watch.forgive(/422/);
    await watch.end();
  });

  it("sheets: a stack of ten corrects the kerf here, and teaches the cutter; panes are laid out", async () => {
    const watch = await watched();
    const page = await watch.page("/rigs");
    await open(page, "Thimble for lantern panes");
    const spacer = await figure(page, "spacer");
    await page.getByText("as measured").click();
    await page.getByLabel("The stack measures").fill("28 mm");
    const note = page.locator('[data-note="stack-tells"]');
    await note.waitFor();
    await note.getByRole("button", { name: "compute with that kerf" }).click();
    await until(
      () => figure(page, "spacer"),
      (now) => now > spacer + 0.1,
      "higher spacers",
    );
    // A line that is not a pane gets an error, and what was typed stays.
    await page.getByText("panes", { exact: true }).click();
    const panes = page.getByLabel(/Strips and panes/);
    await panes.fill("120 80 6\n20 20");
    await page.getByText(/line 2: long, wide, how many/).waitFor();
    await panes.fill("120 80 2\n20 20 4");
    await page.keyboard.press("Tab");
    await saved(page);
    await page.locator("body").click({ position: { x: 700, y: 10 } });
    await page.keyboard.press("5");
    const log = page.getByTestId("rig-log");
    await log.getByLabel("Sheets stacked").fill("10");
    await log.getByLabel("The stack measured").fill("28 mm");
    await log.getByRole("button", { name: "Log this cut" }).click();
    await log.getByRole("link", { name: "See what its kerf teaches" }).click();
    await page.waitForURL(/\/cutters\/.*\/log/);
    await page.getByText(/1 logged cut of XPS 29 or near it can teach/).waitFor();
    await page.goto(page.url().replace("calibration", "logbook"));
    await page.getByText("cut on a rig").first().waitFor();
    await page.getByText("test cut").first().waitFor();
    await watch.end();
  });

  it("table: bevel, volts and a bare hole have cautions where they are chosen; small screens hold it; a new rig is made and archived", async () => {
    const watch = await watched({ viewport: { width: 390, height: 844 } });
    const page = await watch.page("/rigs");
    await open(page, "Gatepost for discs");
    expect(await overflow(page)).toBeLessThanOrEqual(0);
    expect(await figure(page, "pin-disc")).toBeGreaterThan(90);
    await page.getByLabel("Bevel: the wire leans by", { exact: true }).fill("30");
    await page.locator('[data-field="tilt_deg"] [data-note="lean-volts"]', { hasText: /15 % longer/ }).waitFor();
    await page.getByText("arm and table", { exact: true }).click();
    await page.getByRole("button", { name: /hole in the table is sleeved/ }).click();
    await page.getByRole("button", { name: "sleeve it" }).click();
    await page.locator('[data-note="bare-hole"]').waitFor({ state: "detached" });
    await saved(page);
    expect(await accessFaults(page)).toEqual([]);
    await page.goto(`${server.url}/rigs`);
    await page.getByRole("button", { name: "New rig" }).click();
    await page.getByRole("button", { name: /^Anchored wire/ }).click();
    await page.waitForURL(/\/rigs\/[0-9a-f-]{36}$/);
    await page.getByTestId("rig-drawing").waitFor();
    await page.goto(`${server.url}/rigs`);
    await page.getByRole("button", { name: "Archive Anchored wire" }).click();
    await page.getByText("Archived (1)").click();
    await page.getByRole("button", { name: "Restore Anchored wire" }).click();
    await page.getByRole("link", { name: "Anchored wire", exact: true }).waitFor();
    await page.goto(`${server.url}/rigs/00000000-0000-4000-8000-000000000000`);
    await page.goto(`${server.url}/rigs`);
    watch.forgive(/404/);
    await watch.end();
  });

  it("frame: lettering becomes one path and a program; a program opened is drawn next to it, a spoilt one refused by its line", async () => {
    const watch = await watched({ acceptDownloads: true });
    const page = await watch.page("/rigs");
    await open(page, "Marionette for lettering");
    expect(await figure(page, "steps")).toBe(80);
    expect(await figure(page, "corrected")).toBeCloseTo(79.86, 1);
    await page.keyboard.press("6");
    const view = page.getByTestId("rig-path");
    await view.getByText(/of way in/).waitFor();
    // Seven letters: A and R have a hole each.
    expect(await page.locator("[data-slit]").count()).toBeGreaterThanOrEqual(2);
    expect(await accessFaults(page)).toEqual([]);
    const [stored] = await Promise.all([page.waitForEvent("download"), view.getByRole("button", { name: "Program", exact: true }).click()]);
    const program = path.join(files, "letters.ngc");
    await stored.saveAs(program);
    const text = readFileSync(program, "utf8");
    expect(text).toMatch(/^\(LANTERN lettering/);
    expect(text.trim().endsWith("M5\nM2")).toBe(true);
    await page.getByLabel("Program file").setInputFiles(program);
    await page.locator('[data-opened="0"]').waitFor();
    writeFileSync(program, text.replace("M2", "G1 X5 Q3"));
    await page.getByLabel("Program file").setInputFiles(program);
    await page.getByText(/is not followed: line \d+: Q is no axis/).waitFor();
    await watch.end();
  });
});
