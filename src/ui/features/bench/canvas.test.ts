import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { bytes, type CanvasInk, inkOfHeat, lightness } from "./canvas";

/** The colours of both schemes as the app ships them. */
const tokens = readFileSync("src/ui/kit/theme/tokens.css", "utf8");
const [light = "", dark = ""] = tokens.split('[data-scheme="dark"]');
const token = (scheme: string, name: string) => new RegExp(`${name}: (#[0-9a-f]+)`).exec(scheme)?.[1] ?? "";

describe("a canvas's colours", () => {
  it("are read short and long alike", () => {
    expect(bytes("#fff")).toEqual([255, 255, 255]);
    expect(bytes("#ffffff")).toEqual([255, 255, 255]);
    expect(bytes("#1ab")).toEqual([0x11, 0xaa, 0xbb]);
    expect(bytes("#26292b")).toEqual([0x26, 0x29, 0x2b]);
    expect(lightness("#000")).toBe(0);
    expect(lightness("#fff")).toBeCloseTo(1, 9);
  });

  it("in either scheme, paper or graphite contrasts with every foam", () => {
    for (const scheme of [light, dark]) {
      for (const family of ["eps", "xps", "epp", "pe"]) {
        const foam = lightness(token(scheme, `--foam-${family}`));
        const off = ["--paper", "--graphite"].map((name) => Math.abs(lightness(token(scheme, name)) - foam));
        expect(Math.max(...off)).toBeGreaterThan(0.4);
      }
    }
  });

  it("a wire's colour goes from cold to ember, held at both ends, each stop its own colour", () => {
    const ink = {
      heat: [
        [80, 10, 20, 30],
        [200, 110, 120, 130],
        [520, 210, 20, 30],
      ],
    } as unknown as CanvasInk;
    expect(inkOfHeat(ink, -40)).toBe("rgb(10 20 30)");
    expect(inkOfHeat(ink, 80)).toBe("rgb(10 20 30)");
    expect(inkOfHeat(ink, 140)).toBe("rgb(60 70 80)");
    expect(inkOfHeat(ink, 200)).toBe("rgb(110 120 130)");
    expect(inkOfHeat(ink, 2000)).toBe("rgb(210 20 30)");
  });
});
