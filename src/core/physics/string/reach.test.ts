import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "../../materials/foams";
import { scaledBesselK } from "../../numerics/bessel";
import { exponentialIntegral1 } from "../../numerics/exponentialIntegral";
import { type CutPair, diffusivity } from "../cut/cut";
import { resolveWire } from "../heat/wire";
import { type HeatTrail, heatTrail, reachMm, warmest, warmth } from "./reach";

const pair: CutPair = {
  wire: resolveWire({ alloy: "ss-304", diameter_mm: 0.64 }),
  foam: resolveFoam(parseFoamId("eps-18") as never),
  ambientC: 20,
};
const a = diffusivity(pair) * 1e6;
/** q'/(4 pi k) over the rise to collapse. */
const strength = (power: number, of = pair) => power / (4 * Math.PI * of.foam.conductivityWMK * (of.foam.collapseC - of.ambientC));

describe("how warm the foam has come", () => {
  it("a source that was and was switched off leaves E1 of its whole time less E1 of the time since (superposition)", () => {
    const trail = heatTrail(pair, 44, [0, 8], [0, 0], [0, 0]);
    for (const r of [0.8, 2]) {
      for (const since of [1, 4]) {
        const e = (t: number) => exponentialIntegral1((r * r) / (4 * a * t));
        expect(warmth(trail, 0, r, 8 + since)).toBeCloseTo(strength(44) * (e(8 + since) - e(since)), 1);
      }
    }
  });
  it("next to a wire that has long been going it is the moving line source's exp(v x/2a) K0(v r/2a) (Carslaw and Jaeger 10.3), x ahead of the wire", () => {
    const feed = 3;
    const trail = heatTrail(pair, 44, [10, 70], [0, 60 * feed], [5, 5]);
    const here = 60 * feed;
    for (const [x, y] of [
      [0, 0.5],
      [-2, 0.8],
      [-6, 1],
      [0.15, 0.3],
    ] as const) {
      const want = 2 * strength(44) * Math.exp((-feed * (x + Math.hypot(x, y))) / (2 * a)) * scaledBesselK((feed * Math.hypot(x, y)) / (2 * a)).k0;
      const got = warmth(trail, here + x, 5 + y, 70);
      expect(got / want).toBeGreaterThan(0.97);
      expect(got / want).toBeLessThan(1.03);
      // As warm on either side.
      expect(warmth(trail, here + x, 5 - y, 70)).toBeCloseTo(got, 9);
    }
  });
  it("goes with the heat, with the share of it that reaches the foam, and against the rise to collapse", () => {
    const of = (more: Partial<CutPair>, power = 40) => {
      const { strength: got } = heatTrail({ ...pair, ...more }, power, [0, 1], [0, 1], [0, 0]);
      return got;
    };
    expect(of({})).toBeCloseTo(strength(40), 12);
    expect(of({}, 80)).toBeCloseTo(2 * of({}), 12);
    expect(of({ heatShare: 0.5 })).toBeCloseTo(of({}) / 2, 12);
    expect(of({ ambientC: -20 }) / of({})).toBeCloseTo((pair.foam.collapseC - 20) / (pair.foam.collapseC + 20), 12);
  });
  it("follows the wire at even times, however uneven those it was given at, and through a stop", () => {
    const trail = heatTrail(pair, 44, [2, 3, 3, 5, 6], [0, 4, 4, 4, 0], [0, 0, 0, 0, 8]);
    const at = (t: number) => {
      const i = Math.round((t - trail.fromS) / trail.stepS);
      return [trail.x[i], trail.y[i]] as [number, number];
    };
    expect(trail.fromS).toBe(2);
    expect(trail.fromS + trail.stepS * (trail.x.length - 1)).toBeCloseTo(6, 9);
    for (const [t, x, y] of [
      [2, 0, 0],
      [2.5, 2, 0],
      [4, 4, 0],
      [5.5, 2, 4],
      [6, 0, 8],
    ] as const) {
      expect(at(t)[0]).toBeCloseTo(x, 1);
      expect(at(t)[1]).toBeCloseTo(y, 1);
    }
  });
  it("is nothing before the wire began", () => {
    const trail = heatTrail(pair, 44, [5, 6], [0, 1], [0, 0]);
    expect(warmth(trail, 0, 0.1, 5)).toBe(0);
    expect(warmth(trail, 0, 0.1, 4)).toBe(0);
    expect(warmth(trail, 0, 0.1, 5.2)).toBeGreaterThan(0);
  });
});

describe("the edge of what collapsed", () => {
  const passes: HeatTrail = heatTrail(pair, 44, [0, 20], [-60, 60], [0, 0]);
  it("the warmest a place gets is no less than at any time looked at, and hardly more", () => {
    for (const y of [0.3, 0.74, 1.5, 3]) {
      const most = Math.max(...Array.from({ length: 1200 }, (_, i) => warmth(passes, 0, y, 9 + i * 0.01)));
      const found = warmest(passes, 0, y, 9, 21);
      expect(found).toBeGreaterThan(most * 0.995);
      expect(found).toBeLessThan(most * 1.005);
    }
  });
  it("is where the warmest is just collapse; no farther than it is looked; and nought where nothing collapsed", () => {
    const edge = reachMm(passes, 0, 0, 0, 1, [9, 20], 60);
    expect(warmest(passes, 0, edge, 9, 20)).toBeCloseTo(1, 2);
    expect(reachMm(passes, 0, 0, 0, -1, [9, 20], 60)).toBeCloseTo(edge, 3);
    expect(reachMm(passes, 0, 0, 0, 1, [9, 20], edge / 2)).toBe(edge / 2);
    expect(reachMm(passes, 0, edge + 0.1, 0, 1, [9, 20], 60)).toBe(0);
    // From next to the wire's line it is the less far to the same edge.
    expect(reachMm(passes, 0, 0.2, 0, 1, [9, 20], 60)).toBeCloseTo(edge - 0.2, 2);
  });
  it("a long hot stand reaches beyond a millimetre, where the near bracket ends", () => {
    const stands = heatTrail(pair, 80, [0, 30], [0, 0], [0, 0]);
    const edge = reachMm(stands, 0, 0, 0.6, 0.8, [0, 30], 60);
    expect(edge).toBeGreaterThan(4);
    const e = strength(80) * exponentialIntegral1((edge * edge) / (4 * a * 30));
    expect(e).toBeCloseTo(1, 1);
  });
});
