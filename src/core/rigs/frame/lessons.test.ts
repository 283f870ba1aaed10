import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isInside } from "../../geometry/points";
import { CORNER_TOLERANCE_MM, cornerTried, crookedFrame, ISLAND_SCENE, islandTried, rightSteps, ruled, stepsTried } from "./lessons";

describe("lessons on a frame", () => {
  it("a crooked frame is put right from a long move away from home, and not from a short one, nor by coming back", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5000 }), (seed) => {
        const frame = crookedFrame(seed);
        expect(crookedFrame(seed)).toEqual(frame);
        const from = (asked: number, back: boolean) => (frame.setPerMm * asked) / ruled(frame, asked, back);
        expect(stepsTried(frame, from(500, false)).good).toBe(true);
        expect(stepsTried(frame, rightSteps(frame)).offMm).toBeCloseTo(0, 9);
        // 0.1 mm of the rule and up to 0.4 of play in 20 mm.
        expect(stepsTried(frame, from(20, true)).good).toBe(false);
      }),
    );
    expect(stepsTried(crookedFrame(3), 80)).toMatchObject({ good: false });
    expect(stepsTried(crookedFrame(3), 80).offMm).toBeLessThan(0);
  });
  it("the ring's slit belongs below, and the disc apart", () => {
    expect(islandTried(null, "apart")).toMatchObject({ good: true });
    expect(islandTried([60, 5], "apart")).toMatchObject({ good: true });
    expect(islandTried([60, 105], "apart")).toMatchObject({ good: false });
    expect(islandTried(null, "joined")).toMatchObject({ good: false });
    // The ring is 10 mm thick below: the slit is that and a kerf.
    expect(islandTried(null, "apart").slitMm).toBeCloseTo(11.2, 0);
    expect(ISLAND_SCENE.some(({ outline }) => isInside([0, 60], outline))).toBe(false);
  });
  it("a corner needs a wait or a slow hand; longer waits and slower hands never cut more off", () => {
    expect(cornerTried(6, 0).missMm).toBeGreaterThan(5 * CORNER_TOLERANCE_MM);
    expect(cornerTried(9, 3)).toMatchObject({ good: true });
    expect(cornerTried(6, 15)).toMatchObject({ good: false });
    expect(cornerTried(6, 15).missMm).toBeLessThan(CORNER_TOLERANCE_MM);
    for (const feed of [3, 6, 9]) {
      let before = Number.POSITIVE_INFINITY;
      for (const wait of [0, 1, 2, 3, 4]) {
        const { missMm } = cornerTried(feed, wait);
        expect(missMm).toBeLessThanOrEqual(before + 1e-3);
        before = missMm;
      }
    }
    for (const wait of [0, 2]) expect(cornerTried(3, wait).missMm).toBeLessThan(cornerTried(6, wait).missMm);
    // The middle is still behind where the ends stop, and never outside the corner.
    const { cut } = cornerTried(6, 0);
    expect(Math.max(...cut.map(([x]) => x))).toBeLessThanOrEqual(60 + 1e-6);
  });
});
