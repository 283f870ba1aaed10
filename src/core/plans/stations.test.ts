import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { apply, distance, type Point, scaling } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import { drawShape, type EndShape } from "./shapes";
import { brokenLine, countFor, faceLine, pairBreaks, pointAt, stationsOf } from "./stations";

const lineOf = (shape: EndShape, chordMm: number | undefined, face: "upper" | "lower" | "whole") => faceLine(drawShape(shape, chordMm), face);
const box: EndShape = { kind: "rounded", ratio: 0.5, radius_mm: 0 };
const section: EndShape = { kind: "naca4", code: "2412" };

describe("stations", () => {
  it.each(["upper", "lower", "whole"] as const)("of two similar sections the tip's are the root's, scaled (%s)", (face) => {
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 1, noNaN: true }), fc.integer({ min: 2, max: 30 }), (ratio, count) => {
        const { stations, ratio: _no, ...all } = { ratio: 0, ...stationsOf(lineOf(section, 200, face), lineOf(section, 200 * ratio, face), count, 4) };
        expect(all.tipLengthMm / all.rootLengthMm).toBeCloseTo(ratio, 4);
        expect(stations.filter(({ whole }) => whole).map(({ label }) => label)).toEqual(Array.from({ length: count + 1 }, (_, i) => String(i)));
        for (const { root, tip } of stations) expect(distance(apply(scaling(ratio), root), tip)).toBeLessThan(0.03);
      }),
      { numRuns: 12 },
    );
  });
  it("lie evenly along both ends between breaks, the nose is one, and parts are named as fractions", () => {
    const { stations, rootLengthMm } = stationsOf(lineOf(section, 200, "whole"), lineOf({ kind: "naca4", code: "0012" }, 100, "whole"), 8, 4);
    const nose = stations.find(({ at }) => at === "nose");
    expect(nose?.whole).toBe(true);
    expect(distance(nose?.root as Point, [0, 0])).toBeLessThan(0.05);
    expect(distance(nose?.tip as Point, [0, 0])).toBeLessThan(0.05);
    const before = stations.slice(0, stations.indexOf(nose as never) + 1);
    for (let i = 2; i < before.length; i++) {
      expect((before[i]?.rootAlongMm ?? 0) - (before[i - 1]?.rootAlongMm ?? 0)).toBeCloseTo(before[1]?.rootAlongMm ?? 0, 9);
      expect((before[i]?.tipAlongMm ?? 0) - (before[i - 1]?.tipAlongMm ?? 0)).toBeCloseTo(before[1]?.tipAlongMm ?? 0, 9);
    }
    expect(stations.slice(0, 6).map(({ label }) => label)).toEqual(["0", "0 1/4", "0 1/2", "0 3/4", "1", "1 1/4"]);
    expect(stations.at(-1)?.rootAlongMm).toBe(rootLengthMm);
  });
  it("every corner that pairs is a whole number on both", () => {
    const { stations, leftOver } = stationsOf(lineOf(box, 200, "whole"), lineOf({ kind: "rounded", ratio: 0.2, radius_mm: 0 }, 90, "whole"), 14, 2);
    expect(leftOver).toEqual([]);
    const corners = stations.filter(({ at }) => at === "corner");
    expect(corners.map(({ whole }) => whole)).toEqual([true, true, true]);
    for (const { root, tip } of corners) {
      expect(Math.abs(root[1])).toBeCloseTo(50, 6);
      expect(Math.abs(tip[1])).toBeCloseTo(9, 6);
      expect(root[0] / 200).toBeCloseTo(tip[0] / 90, 6);
    }
  });
  it("corners without a fellow are reported, and a person may pair them", () => {
    const [root, tip] = [lineOf(box, 200, "whole"), lineOf({ kind: "ellipse", ratio: 0.5 }, 100, "whole")];
    const { leftOver } = stationsOf(root, tip, 12, 4);
    expect(leftOver.map(({ end }) => end)).toEqual(["root", "root", "root"]);
    const notch = brokenLine([
      [0, 0],
      [40, 0],
      [40, 10],
      [60, 10],
      [60, 0],
      [100, 0],
    ]);
    const step = brokenLine([
      [0, 0],
      [85, 0],
      [85, 20],
      [100, 20],
    ]);
    expect(pairBreaks(notch, step).pairs).not.toContainEqual([0, 0]);
    const byHand = pairBreaks(notch, step, [[0, 0]]);
    expect(byHand.pairs).toContainEqual([0, 0]);
    // What a person tied holds all else apart: nothing crosses it.
    for (const [r, t] of byHand.pairs) expect(Math.sign(r)).toBe(Math.sign(t));
  });
  it("fewer numbers than stretches is refused with how many it takes", () => {
    expect(() => stationsOf(lineOf(box, 200, "whole"), lineOf(box, 100, "whole"), 3, 4)).toThrow(CoreError);
    expect(() => stationsOf(lineOf(box, 200, "whole"), lineOf(box, 100, "whole"), 3, 4)).toThrow(/from 5 to/);
  });
  it("the habit's count: a number every four seconds an inch", () => {
    // 254 mm at an inch in four seconds: ten inches, ten numbers four seconds apart.
    expect(countFor(254, 25.4 / 4, 4)).toBe(10);
    expect(countFor(1, 6, 4)).toBe(1);
  });
  it("a place so far along a line is on it", () => {
    const line = brokenLine([
      [0, 0],
      [30, 0],
      [30, 40],
    ]);
    expect(pointAt(line, 50)).toEqual([30, 20]);
    expect(pointAt(line, 0)).toEqual([0, 0]);
    expect(pointAt(line, 70)).toEqual([30, 40]);
    expect(line.breaks.map(({ along, kind }) => [along, kind])).toEqual([[30, "corner"]]);
  });
});
