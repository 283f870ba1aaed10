import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { type CutPair, cleanFeeds, cutAtPower } from "@/core/physics/cut/cut";
import { borderBands, cutBands, DOUBTS } from "@/core/physics/cut/uncertainty";
import { resolveWire } from "@/core/physics/heat/wire";

const pair: CutPair = { wire: resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.635 }), foam: resolveFoam(parseFoamId("xps-35")), ambientC: 20 };

/** Seeded normal numbers (Box and Muller on a 32-bit generator). */
function normals(seed: number): () => number {
  let state = seed;
  const uniform = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return (state + 0.5) / 2 ** 32;
  };
  return () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
}

/** Twenty thousand pairs drawn from the doubts: the long way to the same band. */
function drawn(count: number): CutPair[] {
  const normal = normals(7);
  return Array.from({ length: count }, () => ({
    ...pair,
    heatShare: Math.exp(normal() * DOUBTS.heatShare),
    dragShare: 0.015 * Math.exp(normal() * DOUBTS.dragShare),
    clearanceShare: Math.exp(normal() * DOUBTS.clearanceShare),
    wire: { ...pair.wire, alloy: { ...pair.wire.alloy, emissivity: Math.min(1, Math.max(0.02, 0.75 + normal() * DOUBTS.emissivity)) } },
    foam: {
      ...pair.foam,
      collapseC: 108 + normal() * DOUBTS.collapseK,
      densityKgM3: 35 * Math.exp(normal() * DOUBTS.densityShare),
      fumeLimitC: pair.foam.fumeLimitC + normal() * DOUBTS.fumeLimitK,
    },
  }));
}

describe("bands", () => {
  it("hold about nine in ten of a random draw of the doubtful inputs (Monte Carlo, seeded)", () => {
    const bands = cutBands(pair, 0.004, { powerWPerM: 70 }, 0.0025);
    const cuts = drawn(4000).map((each) => ({ cut: cutAtPower(each, 0.004, 70), feeds: cleanFeeds(each, 70, 0.0025) }));
    const share = (band: { low: number; high: number }, values: number[]) =>
      values.filter((value) => value >= band.low && value <= band.high).length / values.length;
    for (const [band, values] of [
      [bands.kerfM, cuts.map(({ cut }) => cut.kerfM)],
      [bands.wireC, cuts.map(({ cut }) => cut.wireC)],
      [bands.maxFeedMPerS, cuts.map(({ cut }) => cut.maxFeedMPerS)],
      [bands.dragNPerM as { low: number; high: number }, cuts.map(({ cut }) => cut.dragNPerM as number)],
      [bands.cleanFromMPerS, cuts.map(({ feeds }) => feeds.from)],
      [bands.cleanToMPerS, cuts.map(({ feeds }) => feeds.to)],
    ] as const) {
      expect(share(band, [...values])).toBeGreaterThan(0.85);
      expect(share(band, [...values])).toBeLessThan(0.95);
    }
  });

  it("shrink to nothing with no doubt, and narrow when the block was weighed", () => {
    const none = { collapseK: 0, emissivity: 0, densityShare: 0, dragShare: 0, clearanceShare: 0, fumeLimitK: 0, heatShare: 0 };
    const sure = cutBands(pair, 0.004, { powerWPerM: 70 }, 0.0025, undefined, none);
    expect(sure.kerfM.high - sure.kerfM.low).toBeLessThan(1e-12);
    const guessed = cutBands(pair, 0.004, { powerWPerM: 70 }, 0.0025).kerfM;
    const weighed = cutBands(pair, 0.004, { powerWPerM: 70 }, 0.0025, undefined, { ...DOUBTS, densityShare: 0.02 }).kerfM;
    expect(weighed.high - weighed.low).toBeLessThan(0.9 * (guessed.high - guessed.low));
    // A factor with nothing off its diagonal is the independent doubts themselves.
    const factor = [DOUBTS.heatShare, 0, DOUBTS.collapseK, 0, 0, DOUBTS.densityShare, 0, 0, 0, DOUBTS.dragShare, 0, 0, 0, 0, DOUBTS.clearanceShare];
    const same = cutBands(pair, 0.004, { powerWPerM: 70 }, 0.0025, undefined, { ...DOUBTS, learnt: factor }).kerfM;
    expect(same).toEqual(guessed);
  });

  it("the window's borders lie inside their bands at every heat, and drag is open upward where a point passes its top feed", () => {
    fc.assert(
      fc.property(fc.double({ min: 3, max: 300, noNaN: true }), (heat) => {
        const [row] = borderBands(pair, [heat], 0.0025);
        for (const band of [row?.from, row?.to]) {
          expect(band?.low).toBeLessThanOrEqual(band?.mid as number);
          expect(band?.high).toBeGreaterThanOrEqual(band?.mid as number);
        }
      }),
    );
    const { maxFeedMPerS } = cutAtPower(pair, 0.004, 70);
    expect(cutBands(pair, maxFeedMPerS * 0.95, { powerWPerM: 70 }, 0.0025).dragNPerM?.high).toBe(Number.POSITIVE_INFINITY);
  });
});
