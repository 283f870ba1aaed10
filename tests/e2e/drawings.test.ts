import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import type { Browser } from "playwright-core";
import { afterAll, beforeAll, expect, it } from "vitest";
import { common } from "@/core/geometry/offset";
import { regionArea } from "@/core/geometry/points";
import { readSvg } from "@/core/plans/imports/svg";
import { launch } from "../helpers/browser";

/** Pixels an icon of 16 by 16 units is drawn with each way. */
const SIDE = 960;

/** The box of an icon, in mm. */
const BOX = [
  {
    outline: [
      [0, 0],
      [160, 0],
      [160, 160],
      [0, 160],
    ] as const,
    holes: [],
  },
];

let browser: Browser;
beforeAll(async () => {
  browser = await launch();
});
afterAll(() => browser.close());

it("over 300 icons that nobody here drew fill what the browser fills, within half a per cent", async () => {
  const folder = path.resolve("node_modules/bootstrap-icons/icons");
  const icons = readdirSync(folder)
    .filter((_, i) => i % 6 === 0)
    .map((name) => ({ name, text: readFileSync(path.join(folder, name), "utf8").replaceAll(/ fill-opacity="[^"]*"/g, "") }));
  const page = await browser.newPage();
  await page.addInitScript("globalThis.__name = (f) => f");
  await page.goto("about:blank");
  const filled = await page.evaluate(
    async ({ texts, side }) => {
      const canvas = new OffscreenCanvas(side, side);
      const context = canvas.getContext("2d", { willReadFrequently: true });
      if (!context) throw new Error("no canvas");
      const shares: number[] = [];
      for (const text of texts) {
        const image = new Image();
        image.src = `data:image/svg+xml,${encodeURIComponent(text.replace(/width="16" height="16"/, `width="${side}" height="${side}"`))}`;
        await image.decode();
        context.clearRect(0, 0, side, side);
        context.drawImage(image, 0, 0);
        const { data } = context.getImageData(0, 0, side, side);
        let sum = 0;
        for (let i = 3; i < data.length; i += 4) sum += data[i] as number;
        shares.push(sum / 255 / (side * side));
      }
      return shares;
    },
    { texts: icons.map(({ text }) => text), side: SIDE },
  );
  const off = icons.flatMap(({ name, text }, i) => {
    const { regions } = readSvg(text.replace('width="16" height="16"', 'width="160mm" height="160mm"'), undefined, 0.05);
    // A browser shows no more than the drawing's own box.
    const ours = common(regions, BOX).reduce((sum, region) => sum + regionArea(region), 0) / 160 ** 2;
    const theirs = filled[i] as number;
    return Math.abs(ours / theirs - 1) < 0.005 ? [] : [`${name}: ${ours.toFixed(5)} against ${theirs.toFixed(5)}`];
  });
  expect(icons.length).toBeGreaterThan(300);
  expect(off).toEqual([]);
});
