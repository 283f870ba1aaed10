import bessel from "bessel";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { scaledBesselK } from "@/core/numerics/bessel";
import { halfKerf, halfKerfExact, thetaForHalfKerf } from "@/core/physics/heat/movingLineSource";

/** Theta against W, computed independently with a scientific library (project physics notes). */
const TABLE: [number, number][] = [
  [0.01, 76.0141],
  [0.02, 38.0021],
  [0.05, 15.1871],
  [0.1, 7.56919],
  [0.2, 3.7377],
  [0.5, 1.38563],
  [1, 0.565139],
  [2, 0.163874],
  [5, 0.00757225],
];

describe("moving line source", () => {
  it.each(TABLE)("Theta %f gives W %f to 1e-4", (theta, W) => {
    for (const solve of [halfKerf, halfKerfExact]) expect(Math.abs(solve(theta) / W - 1)).toBeLessThan(1e-4);
  });

  it("agrees with the widest point of the isotherm found by plain search, K0 from an outside special-functions library", () => {
    for (const theta of [0.3, 1, 3]) {
      let widest = 0;
      // exp(-X) K0(R) = theta, so X = ln(K0(R)/theta) and Y^2 = R^2 - X^2.
      for (let R = 1e-4; R < 12; R *= 1.0002) {
        const X = Math.log(bessel.besselk(R, 0) / theta);
        if (X * X < R * R) widest = Math.max(widest, Math.sqrt(R * R - X * X));
      }
      expect(Math.abs(halfKerf(theta) / widest - 1)).toBeLessThan(1e-5);
    }
  });

  it("tends to the published fast limit: W Theta -> sqrt(pi/2e)", () => {
    const limit = Math.sqrt(Math.PI / (2 * Math.E));
    for (const theta of [1e-2, 1e-3, 1e-4, 1e-6]) expect(Math.abs((halfKerf(theta) * theta) / limit - 1)).toBeLessThan(theta);
  });

  it("is continuous where the table, the direct solution and the limit meet", () => {
    for (const joint of [1e-5, 1e-4, 8]) {
      expect(Math.abs((halfKerf(joint * (1 + 1e-9)) * (1 + 1e-9)) / halfKerf(joint * (1 - 1e-9)) - 1)).toBeLessThan(3e-8);
    }
  });

  it("falls steadily with Theta, and the inverse finds Theta again", () => {
    const thetas = fc.double({ min: Math.log(1e-6), max: Math.log(200), noNaN: true }).map(Math.exp);
    fc.assert(
      fc.property(thetas, (theta) => {
        const W = halfKerf(theta);
        expect(halfKerf(theta * 1.001)).toBeLessThan(W);
        expect(Math.abs(halfKerf(theta) / halfKerfExact(theta) - 1)).toBeLessThan(5e-9);
        expect(Math.abs(thetaForHalfKerf(W) / theta - 1)).toBeLessThan(1e-7);
      }),
      { numRuns: 400 },
    );
  });

  it("refuses what has no isotherm", () => {
    for (const bad of [0, -1, Number.NaN, Number.POSITIVE_INFINITY]) expect(() => halfKerf(bad)).toThrow(/positive/);
  });
});

describe("modified Bessel functions", () => {
  it("match Abramowitz & Stegun table 9.8 values", () => {
    // K0(0.1), K1(0.1), K0(1), K1(1), K0(2), K0(10) e^10.
    expect(scaledBesselK(0.1).k0 * Math.exp(-0.1)).toBeCloseTo(2.42706902, 8);
    expect(scaledBesselK(0.1).k1 * Math.exp(-0.1)).toBeCloseTo(9.85384478, 8);
    expect(scaledBesselK(1).k0 * Math.exp(-1)).toBeCloseTo(0.42102443824, 11);
    expect(scaledBesselK(1).k1 * Math.exp(-1)).toBeCloseTo(0.60190723019, 10);
    expect(scaledBesselK(2).k0 * Math.exp(-2)).toBeCloseTo(0.11389387275, 10);
    expect(scaledBesselK(10).k0).toBeCloseTo(0.39163193, 7);
  });

  it("match an outside library (single-precision polynomials, 2e-7) over its whole range", () => {
    for (let x = 0.01; x < 30; x *= 1.3) {
      const { k0, k1 } = scaledBesselK(x);
      expect(Math.abs((k0 * Math.exp(-x)) / bessel.besselk(x, 0) - 1)).toBeLessThan(3e-7);
      expect(Math.abs((k1 * Math.exp(-x)) / bessel.besselk(x, 1) - 1)).toBeLessThan(3e-7);
    }
  });

  it("keeps 1 - K0/K1 at large x, where it tends to 1/2x", () => {
    for (const x of [1e3, 1e6, 1e9]) expect(Math.abs(scaledBesselK(x).oneMinusRatio * 2 * x - 1)).toBeLessThan(1 / x);
  });
});
