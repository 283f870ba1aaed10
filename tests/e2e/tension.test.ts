import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { resolveWire } from "@/core/physics/heat/wire";
import { tensionFromPitch } from "@/core/physics/mechanics/tension";
import { pluckedSound } from "@/core/tuner/synth";
import { writeWav } from "@/core/tuner/wav";
import { accessFaults, launch, listens, until } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop({ seed: true });

describe("tension, frame and tuner", () => {
  it("tunes a slack wire to its target by the simulated microphone, keeps the check, and stops at the yield", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    await page.getByRole("button", { name: "Keep a copy" }).click();
    await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
    await page.getByRole("button", { name: "Tension", exact: true }).click();
    await page.getByRole("button", { name: "Tuner" }).click();
    const advice = page.locator("[data-advice]");
    await page.getByRole("button", { name: "Pluck", exact: true }).click();
    await advice.waitFor();
    expect(await advice.getAttribute("data-advice")).toBe("slack");
    expect(await advice.innerText()).toMatch(/tighten by \d+\.\d N, \d+\.\d mm of the device/);
    expect(await accessFaults(page)).toEqual([]);
    const pluckCount = async () => Number(await page.getByLabel("Pluck tuner").getAttribute("data-plucks"));
    const tighter = async () => {
      const before = await pluckCount();
      await page.getByRole("button", { name: "One turn tighter, pluck" }).click();
      await until(pluckCount, (now) => now > before, "another pluck");
    };
    for (let i = 0; i < 12 && (await advice.getAttribute("data-advice")) === "slack"; i++) await tighter();
    expect(await advice.getAttribute("data-advice")).toBe("in tune");
    await page.getByRole("button", { name: "Add to the log" }).click();
    await page.getByRole("button", { name: "Checks" }).click();
    await page.getByText(/cold, by pitch/).waitFor();
    await page.getByText(/Check again: the first days settle most/).waitFor();
    await page.reload();
    await page.getByRole("button", { name: "Tension", exact: true }).click();
    await page.getByRole("button", { name: "Checks" }).click();
    await page.getByText(/cold, by pitch/).waitFor();

    // A soft wire over-tightened: the pitch stops rising, and it says so.
    await page.goto(`${server.url}/demo/gatepost`);
    await listens(page);
    await page.keyboard.press("n");
    await page.getByLabel("Tension while hot").fill("24 N");
    await page.getByRole("button", { name: "Tuner" }).click();
    for (let i = 0; i < 24 && (await page.locator('[data-plateau="yielding"]').count()) === 0; i++) await tighter();
    expect(await page.locator('[data-plateau="yielding"]').innerText()).toMatch(/Stop\. the pitch has stopped rising .* the wire is yielding/);
    await watch.end();
  });

  it("hears a WAV file, and refuses a broken one clearly", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    await page.keyboard.press("n");
    await page.getByRole("button", { name: "Tuner" }).click();
    await page.getByRole("button", { name: "WAV file" }).click();
    const wire = resolveWire({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" });
    const sound = pluckedSound({ wire, spanM: 1.3, tensionN: tensionFromPitch(wire, 1.3, 55), sampleRate: 22050, seconds: 1.5, noise: 0.05 });
    const wav = Buffer.from(writeWav({ samples: sound, sampleRate: 22050 }));
    const input = page.getByLabel("WAV file", { exact: true });
    await input.setInputFiles({ name: "pluck.wav", mimeType: "audio/wav", buffer: wav });
    await until(
      () => page.locator('[data-figure="heard"]').innerText(),
      (text) => Math.abs(Number.parseFloat(text) / 55 - 1) < 0.01,
      "55 Hz",
    );
    await input.setInputFiles({ name: "broken.wav", mimeType: "audio/wav", buffer: Buffer.from("this is a letter, not a sound") });
    await page.getByText(/not a WAV file/).waitFor();
    await input.setInputFiles({ name: "cut.wav", mimeType: "audio/wav", buffer: wav.subarray(0, 40) });
    await page.getByText(/cannot be read|too short/).waitFor();
    await watch.end();
  });

  it("hears plucks through the browser's own microphone path (a recording replaces the microphone)", async () => {
    const folder = mkdtempSync(path.join(tmpdir(), "upwind-ear-"));
    const file = path.join(folder, "room.wav");
    const wire = resolveWire({ alloy: "ss-304", diameter_mm: 0.64, temper: "spring" });
    const sound = pluckedSound({ wire, spanM: 1.3, tensionN: tensionFromPitch(wire, 1.3, 63), sampleRate: 48000, seconds: 3, quiet: 0.8, noise: 0.01 });
    writeFileSync(file, writeWav({ samples: sound, sampleRate: 48000 }));
    const ears = await launch(file);
    try {
      const watch = await watched({ permissions: ["microphone"] }, ears);
      const page = await watch.page("/demo/long-tom/tension");
      await page.getByRole("button", { name: "Tuner" }).click();
      await page.getByRole("button", { name: "microphone", exact: true }).click();
      await page.getByRole("button", { name: "Listen" }).click();
      await until(
        () => page.locator('[data-figure="heard"]').innerText(),
        (text) => Math.abs(Number.parseFloat(text) / 63 - 1) < 0.01,
        "63 Hz",
      );
      await page.getByRole("button", { name: "Stop listening" }).click();
      await page.getByRole("button", { name: "Listen" }).waitFor();
      await watch.end();
    } finally {
      await ears.close();
      rmSync(folder, { recursive: true, force: true });
    }
  });

  it("says plainly when the microphone is not allowed", async () => {
    const watch = await watched({ permissions: [] });
    const page = await watch.page("/demo/long-tom");
    await page.keyboard.press("n");
    await page.getByRole("button", { name: "Tuner" }).click();
    await page.getByRole("button", { name: "microphone", exact: true }).click();
    await page.getByRole("button", { name: "Listen" }).click();
    await page.getByText(/microphone was not allowed|No microphone was found|could not be opened/).waitFor();
    await watch.end();
  });

  it("measures a spring by two weights, judges a frame, and redraws the wire hot and cold", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    await page.keyboard.press("n");
    for (const [label, text] of [
      ["Length at rest", "105 mm"],
      ["First weight", "20 N"],
      ["Length under it", "110 mm"],
      ["Second weight", "44 N"],
      ["Length under it, second", "120 mm"],
    ] as const) {
      await page
        .getByRole("group", { name: /Hang a weight or two/ })
        .getByLabel(label, { exact: true })
        .fill(text);
    }
    await page.getByRole("button", { name: "Take this spring" }).click();
    await page.locator('[data-set="Set it cold-spring"]', { hasText: /measures 13\d\.\d mm/ }).waitFor();
    expect(await accessFaults(page)).toEqual([]);
    await page.getByRole("button", { name: "Frame", exact: true }).click();
    await page.locator('[data-check="spreader"][data-ok="true"]').waitFor();
    await page.getByLabel("Spreader: width").fill("6 mm");
    await page.getByLabel("Spreader: depth, in the bend").fill("6 mm");
    await page.locator('[data-check="spreader"][data-ok="false"]', { hasText: "too slender" }).waitFor();
    await page.getByRole("button", { name: "C-frame" }).click();
    await page.locator('[data-check="the back"]').waitFor();
    expect(await accessFaults(page)).toEqual([]);
    await page.getByRole("button", { name: "Ends", exact: true }).click();
    await page.locator('[data-caution="whip"]').waitFor();
    expect(await page.locator('[data-figure="energy"]').innerText()).toMatch(/^\d\.\d\d J$/);
    await watch.end();
  });
});
