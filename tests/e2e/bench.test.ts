import type { Page } from "playwright-core";
import { describe, expect, it } from "vitest";
import { accessFaults, listens, until } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { watched } = anyWorkshop({ seed: true });

const figure = async (page: Page, name: string) => page.locator(`[data-figure="${name}"]`).innerText();
const degreesInAir = async (page: Page) => Number.parseFloat(await figure(page, "bench-wire"));

describe("the virtual bench", () => {
  it("tunes by feel with the keyboard alone: heat, knob, push, until the foam passes; reads the traces; puts the setting on the desk", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    await page.keyboard.press("e");
    await page.getByRole("button", { name: "Lessons" }).waitFor();
    expect(await accessFaults(page)).toEqual([]);
    // Knob down to where nothing cuts, rest the foam on, turn up until it goes.
    for (let i = 0; i < 100; i++) await page.keyboard.press("-");
    await until(
      () => figure(page, "bench-knob"),
      (words) => words === "4.4 V",
      "a low setting",
    );
    await page.keyboard.press("h");
    await page.getByRole("button", { name: "4 times faster" }).click();
    await page.getByRole("button", { name: "with a push" }).click();
    await page.keyboard.press("Space");
    await page.getByText("Not melting yet: wait, or turn up.").waitFor();
    let turns = 0;
    const advice = page.locator("[data-advice-bench]");
    const goes = async () => /top feed/.test(await advice.innerText()) && Number.parseFloat(await figure(page, "bench-feed")) > 0.5;
    while (!(await goes())) {
      for (let i = 0; i < 5; i++) await page.keyboard.press("=");
      turns += 5;
      expect(turns).toBeLessThan(180);
      await page.waitForTimeout(900);
    }
    const found = await figure(page, "bench-knob");
    expect(Number.parseFloat(found)).toBeGreaterThan(5);
    // Pause and read a moment off the traces.
    await page.keyboard.press("p");
    const moment = page.getByLabel("Moment of the traces");
    await moment.focus();
    await page.keyboard.press("ArrowLeft");
    await until(
      () => figure(page, "trace-reading"),
      (words) => /^\d+\.\d s: -?\d+\.\d\d N, \d+ °C$/.test(words),
      "a reading",
    );
    await page.keyboard.press("p");
    await page.getByRole("button", { name: `Put ${found} on the desk` }).click();
    await page.keyboard.press("d");
    await page.getByRole("button", { name: new RegExp(`bench supply at ${found.replace(" V", "")}`) }).waitFor();
    await watch.end();
  });

  it("a lesson: no wait at the corner scores low and says why; led by pointer and by touch the wire moves", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/gatepost");
    await page.keyboard.press("e");
    await page.getByRole("button", { name: "Lessons" }).click();
    await page.getByRole("button", { name: /A corner, with and without/ }).click();
    await page.keyboard.press("h");
    await page.getByRole("button", { name: "4 times faster" }).click();
    await until(
      () => degreesInAir(page),
      (c) => c > 300,
      "a hot wire",
    );
    await page.getByRole("button", { name: "Go", exact: true }).click();
    const result = page.locator("[data-score]");
    await result.waitFor({ timeout: 60_000 });
    expect(Number(await result.getAttribute("data-score"))).toBeLessThan(60);
    const words = await result.innerText();
    for (const part of [/the middle passed \d+\.\d mm from the corner/, /waited 0\.0 s/, /Common practice waits two to three seconds/])
      expect(words).toMatch(part);
    expect(await page.locator("[data-face]").getAttribute("data-face")).toBe("hooked");
    expect(await accessFaults(page)).toEqual([]);
    // The best score is remembered over a reload.
    const score = await result.getAttribute("data-score");
    await page.reload();
    await listens(page);
    await page.keyboard.press("e");
    await page.getByRole("button", { name: "Lessons" }).click();
    await page.getByRole("button", { name: new RegExp(`A corner.*best ${score}`, "s") }).waitFor();
    // By hand, by the pointer.
    await page.getByRole("button", { name: "Cut", exact: true }).click();
    await page.getByRole("button", { name: "by hand" }).click();
    const box = await page.locator(".bench-canvas").first().boundingBox();
    if (!box) throw new Error("no picture");
    await page.mouse.move(box.x + 60, box.y + 34);
    await page.mouse.down();
    await page.mouse.move(box.x + 60, box.y + 60, { steps: 20 });
    await until(
      () => figure(page, "bench-feed"),
      (words) => words !== "still",
      "the hand to move",
    );
    await page.mouse.up();
    // And by a finger.
    const finger = await watch.context.newCDPSession(page);
    const touch = (type: "touchStart" | "touchMove" | "touchEnd", y?: number) =>
      finger.send("Input.dispatchTouchEvent", { type, touchPoints: y === undefined ? [] : [{ x: box.x + 60, y: box.y + y }] });
    await until(
      () => figure(page, "bench-feed"),
      (words) => words === "still",
      "the hand to rest",
    );
    await touch("touchStart", 62);
    for (let y = 64; y < 100; y += 4) await touch("touchMove", y);
    await until(
      () => figure(page, "bench-feed"),
      (words) => words !== "still",
      "the finger to move it",
    );
    await touch("touchEnd");
    await watch.end();
  });

  it("speaks to the instruments, and a fault that is switched on is felt", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    await page.keyboard.press("e");
    await page.getByRole("button", { name: "Instruments" }).click();
    const talk = page.getByRole("log", { name: "What was said" });
    const say = async (line: string) => {
      await page.getByLabel("Say a line to it").fill(line);
      await page.keyboard.press("Enter");
      await talk.getByText(line).last().waitFor();
    };
    await say("OUTP ON;OUTP?");
    await say("VOLT 9;VOLT?");
    await talk.getByText("9.000").waitFor();
    await until(
      () => figure(page, "bench-amps"),
      (words) => /^8\.\d V · [12]\.\d\d A$/.test(words),
      "the supply's own volts on the wire",
    );
    await page.getByLabel("trip", { exact: true }).check();
    await until(
      () => figure(page, "bench-amps"),
      (words) => words.startsWith("0.0 V"),
      "no current",
    );
    await say("NONSENSE");
    await say("SYST:ERR?");
    await talk.getByText('-113,"Undefined header"').waitFor();
    await page.getByRole("button", { name: "thermometer" }).click();
    await page.getByLabel("trip", { exact: true }).check();
    await until(
      () => figure(page, "bench-wire"),
      (words) => words.endsWith("no reading"),
      "the probe gone",
    );
    await watch.end();
  });
});
