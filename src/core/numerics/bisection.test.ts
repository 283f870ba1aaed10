import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bisect, geometricMean } from "./bisection";

describe("bisection", () => {
  it("closes on the place of change from both sides, by half each step", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 0, max: 45 }), (place, steps) => {
        const { low, high } = bisect((x) => x < place, 0, 1, steps);
        expect(high - low).toBeCloseTo(2 ** -steps, 12);
        expect(low).toBeLessThanOrEqual(place);
        expect(high).toBeGreaterThanOrEqual(place);
      }),
    );
  });

  it("goes to an end where nothing changes, and asks once a step", () => {
    let asked = 0;
    const never = bisect(() => ++asked < 0, 2, 3, 30);
    expect([asked, never.low]).toEqual([30, 2]);
    expect(never.high).toBeCloseTo(2, 8);
    expect(bisect(() => true, 2, 3, 50).low).toBeCloseTo(3, 12);
  });

  it("by the geometric mean it halves the ratio", () => {
    const { low, high } = bisect((x) => x < 10, 0.01, 10_000, 3, geometricMean);
    expect(high / low).toBeCloseTo((10_000 / 0.01) ** (1 / 8), 9);
  });
});
