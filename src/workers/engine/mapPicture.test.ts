import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { JUDGEMENT } from "@/core/kernel/constants";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { cutAtPower } from "@/core/physics/cut/cut";
import { borderBands, DOUBTS } from "@/core/physics/cut/uncertainty";
import { resolveWire } from "@/core/physics/heat/wire";
import { drawMap } from "./mapPicture";
import type { MapJob, RegionOutline } from "./protocol";

/** Whether a point lies inside an outline, holes counted, by crossings. */
function inside(outline: RegionOutline, feed: number, heat: number): boolean {
  let crossings = 0;
  for (const polygon of outline) {
    for (const ring of polygon) {
      for (let i = 1; i < ring.length; i++) {
        const [x0, y0] = ring[i - 1] as [number, number];
        const [x1, y1] = ring[i] as [number, number];
        if (y0 > heat !== y1 > heat && feed < x0 + ((heat - y0) * (x1 - x0)) / (y1 - y0)) crossings += 1;
      }
    }
  }
  return crossings % 2 === 1;
}

describe("the cutting window's picture", () => {
  const pair = { wire: resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.405 }), foam: resolveFoam(parseFoamId("eps-18")), ambientC: 20 };
  const job: MapJob = {
    pair,
    heat: { from: 1, to: 100, count: 100 },
    feed: { from: 2e-4, to: 0.02, count: 140 },
    acceptedKerfM: 0.0025,
    doubts: DOUBTS,
    kerfLinesM: [0.001, 0.002],
  };
  const picture = drawMap(job);

  it("a point lies in the region of its own verdict, away from the borders' own width", () => {
    let result = 0;
    fc.assert(
      fc.property(fc.double({ min: 0.0008, max: 0.0192, noNaN: true }), fc.double({ min: 4, max: 97, noNaN: true }), (feed, heat) => {
        const { verdict } = cutAtPower(pair, feed, heat, job.acceptedKerfM);
        // Next to a border the outline is as true as the grid: points that its neighbours judge otherwise are left out.
        const near = [-1, 1].flatMap((sign) => [
          cutAtPower(pair, feed + sign * 3e-4, heat, job.acceptedKerfM).verdict,
          cutAtPower(pair, feed, heat + sign * 2.5, job.acceptedKerfM).verdict,
        ]);
        if (near.some((each) => each !== verdict)) return;
        result += 1;
        expect(inside(picture.regions[verdict], feed * 1000, heat)).toBe(true);
        for (const other of ["drags", "smokes", "wide", "clean"] as const)
          if (other !== verdict) expect(inside(picture.regions[other], feed * 1000, heat)).toBe(false);
      }),
      { numRuns: 1500 },
    );
    expect(result).toBeGreaterThan(700);
  });

  it("its kerf lines are lines of that kerf", () => {
    for (const { kerfM, line } of picture.kerfLines) {
      for (const [feed, heat] of line.filter((_, i) => i % 7 === 3)) expect(cutAtPower(pair, feed / 1000, heat).kerfM / kerfM).toBeCloseTo(1, 6);
    }
  });

  it("what drags begins at the share of the top feed that counts as dragging, heat by heat, and reaches past the picture's right and its top", () => {
    const [[border]] = picture.regions.drags as [[[number, number][]]];
    const rows = border.slice(1, -3);
    expect(rows).toHaveLength(100);
    for (const [feed, heat] of rows.filter((_, i) => i % 9 === 4))
      expect(feed).toBeCloseTo(JUDGEMENT.dragsAboveFeedRatio * cutAtPower(pair, 0.005, heat).maxFeedMPerS * 1000, 9);
    const right = Math.max(...border.map(([feed]) => feed));
    expect(right).toBeCloseTo(1.1 * Math.max(20, ...rows.map(([feed]) => feed)), 9);
    expect(Math.max(...border.map(([, heat]) => heat))).toBeCloseTo(110, 9);
    // Closed, down to no heat at all.
    expect(border.at(-1)).toEqual(border[0]);
    expect(border[0]?.[1]).toBe(0);
  });

  it("its kerf lines have a point a row, its borders' bands are those of its own heats, its times are given", () => {
    expect(picture.kerfLines.map(({ kerfM, line }) => [kerfM, line.length, line[0]?.[1], line.at(-1)?.[1]])).toEqual([
      [0.001, 100, 1, 100],
      [0.002, 100, 1, 100],
    ]);
    const heats = Array.from({ length: 48 }, (_, i) => (100 * (i + 0.25)) / 47);
    expect(picture.borders).toEqual(borderBands(pair, heats, job.acceptedKerfM, DOUBTS));
    expect(picture.solvedMs).toBeGreaterThan(0);
    expect(picture.elapsedMs).toBeGreaterThanOrEqual(picture.solvedMs);
  });
});
