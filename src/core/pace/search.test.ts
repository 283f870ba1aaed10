import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runs } from "../../../tests/helpers/runs";
import { type CornerMethod, type Course, fastest, LEAST_MM_S, MOST_WAIT_S, type PaceTrial, type Trial } from "./search";

const MOST = 8.5;
const TOP = 10;
const TAU = 0.8;

interface Made {
  /** length, and how much it bends, 1/mm */
  bits: { mm: number; bend?: number; most?: number; least?: number }[];
  /** sines of half the corners' turns */
  corners?: number[];
  toleranceMm?: number;
  /** what the fine computation finds, to what the coarse one does */
  fine?: number;
  /** bow of the middle at a feed ratio of one half, mm */
  lagMm?: number;
}

/**
 * A wire in closed form: its bow is lag x/(1 - x); in a bend it deviates by bend bow^2/2, at a corner by its sine times the bow, which falls to its e-th part in {@link TAU} of wait.
 */
function made({ bits, corners = [], toleranceMm = 0.4, fine = 1, lagMm = 4 }: Made): Course & { count: { coarse: number; fine: number } } {
  const count = { coarse: 0, fine: 0 };
  const most = Float64Array.from(bits, ({ most: own = MOST }) => own);
  const least = Float64Array.from(bits, ({ least: own = LEAST_MM_S }) => own);
  const bowOf = (feed: number) => (lagMm * feed) / TOP / (1 - feed / TOP);
  const evaluate = ({ feeds, waits }: PaceTrial, how: "coarse" | "fine"): Trial => {
    count[how] += 1;
    expect([feeds.length, waits.length]).toEqual([bits.length, corners.length]);
    for (const [j, feed] of feeds.entries()) if (!(feed >= (least[j] as number) && feed <= (most[j] as number))) throw new Error(`a feed of ${feed} at ${j}`);
    for (const wait of waits) if (!(wait >= 0 && wait <= MOST_WAIT_S)) throw new Error(`a wait of ${wait}`);
    const inBends = bits.map(({ bend = 0 }, j) => (bend * bowOf(feeds[j] as number) ** 2) / 2);
    const atCorners = corners.map((sine, k) => sine * bowOf(Math.max(...feeds)) * Math.exp(-(waits[k] as number) / TAU));
    const errorMm = (how === "fine" ? fine : 1) * Math.max(0, ...inBends, ...atCorners);
    const totalS = bits.reduce((sum, { mm }, j) => sum + mm / (feeds[j] as number), 0) + waits.reduce((sum, each) => sum + each, 0);
    return { feeds, waits, totalS, errorMm, worst: { at: [0, 0], share: 0.5 } };
  };
  return {
    count,
    pieces: bits.map(({ mm, bend = 0 }) => ({ longMm: mm, bends: [bend, bend, bend] })),
    corners,
    maxFeedMmS: TOP,
    most,
    least,
    toleranceMm,
    relaxationS: TAU,
    evaluate,
  };
}
const search = (course: Course, paths: CornerMethod = "wait") => fastest(course, paths, () => undefined) as Trial & { leastMm?: number };
/** The feed at which a bend alone deviates by the tolerance. */
const feedAt = (bend: number, toleranceMm: number, lagMm = 4) => {
  const ratio = Math.sqrt((2 * toleranceMm) / bend) / lagMm;
  return Math.min(MOST, (TOP * ratio) / (1 + ratio));
};
const bits = fc.array(fc.record({ mm: fc.double({ min: 5, max: 80, noNaN: true }), bend: fc.double({ min: 0.0005, max: 0.3, noNaN: true }) }), {
  minLength: 1,
  maxLength: 9,
});

describe("the search, on a wire in closed form", () => {
  it("leads every bend as fast as it alone allows, within a twentieth of the least time", () => {
    fc.assert(
      fc.property(bits, (all) => {
        const found = search(made({ bits: all }));
        expect(found.errorMm).toBeLessThanOrEqual(0.4);
        expect(found.totalS).toBeLessThan(all.reduce((sum, { mm, bend }) => sum + mm / feedAt(bend, 0.4), 0) * 1.05);
      }),
      { numRuns: runs(200) },
    );
  });

  it("a looser tolerance is never slower, in the fine computation too; nor is a stiffer wire", () => {
    fc.assert(
      fc.property(
        bits,
        fc.array(fc.double({ min: 0.2, max: 1, noNaN: true }), { maxLength: 3 }),
        fc.double({ min: 0.9, max: 1.3, noNaN: true }),
        fc.constantFrom<CornerMethod>("wait", "slow", "past"),
        (all, corners, fine, paths) => {
          let before = Number.POSITIVE_INFINITY;
          for (const toleranceMm of [0.1, 0.15, 0.2, 0.25, 0.3, 0.45, 0.7, 1, 2]) {
            const { totalS } = search(made({ bits: all, corners, toleranceMm, fine }), paths);
            if (totalS === undefined) continue;
            expect(totalS).toBeLessThanOrEqual(before + 1e-9);
            before = totalS;
          }
          const [slack, stiff] = [6, 3].map((lagMm) => search(made({ bits: all, corners, lagMm }), paths).totalS);
          if (slack !== undefined) expect(stiff).toBeLessThanOrEqual(slack + 1e-9);
        },
      ),
      { numRuns: runs(60) },
    );
  });

  it("waits at corners in tenths of a second until the middle has come back, less where a corner turns less", () => {
    const found = search(made({ bits: [{ mm: 200 }, { mm: 200 }, { mm: 200 }], corners: [1, 0.5] }));
    expect(found.errorMm).toBeLessThanOrEqual(0.4);
    const [sharp, gentle] = found.waits as unknown as [number, number];
    expect(sharp).toBeGreaterThan(gentle);
    for (const wait of [sharp, gentle]) expect(wait * 10).toBeCloseTo(Math.round(wait * 10), 9);
    expect(Array.from(search(made({ bits: [{ mm: 200 }], corners: [1] }), "slow").waits)).toEqual([0]);
    expect(Array.from(search(made({ bits: [{ mm: 200 }], corners: [1] }), "past").waits)).toEqual([0]);
  });

  it("is never slower than one feed and one plain wait for all that the fine computation accepts", () => {
    fc.assert(
      fc.property(bits, fc.array(fc.double({ min: 0.3, max: 1, noNaN: true }), { maxLength: 3 }), (all, corners) => {
        const course = made({ bits: all, corners });
        const found = search(course);
        for (const wait of corners.length > 0 ? [0, 0.5, 1, 1.5, 2, 3] : [0])
          for (let share = 0.05; share <= 0.85; share += 0.1) {
            const plan = { feeds: new Float64Array(all.length).fill(share * TOP), waits: new Float64Array(corners.length).fill(wait) };
            const trial = course.evaluate(plan, "fine");
            if (trial.errorMm <= 0.4) expect(found.totalS).toBeLessThanOrEqual(trial.totalS * 1.0005);
          }
      }),
      { numRuns: runs(100) },
    );
  });

  it("where the fine computation finds more deviation it goes slower until it agrees", () => {
    for (const fine of [0.9, 1.05, 1.2, 1.6]) {
      const found = search(made({ bits: [{ mm: 50 }, { mm: 50, bend: 0.02 }], fine }));
      expect(found.errorMm).toBeLessThanOrEqual(0.4);
      expect(found.feeds[1]).toBeGreaterThan(feedAt(0.02, 0.4 / Math.max(1, fine)) * 0.95);
      expect(found.feeds[0]).toBeCloseTo(MOST, 9);
    }
  });

  it("ends at once where all may be led as fast as anything", () => {
    const course = made({ bits: [{ mm: 50 }, { mm: 50, bend: 1e-5 }] });
    expect(search(course).totalS).toBeCloseTo(100 / MOST, 9);
    expect(course.count).toEqual({ coarse: 0, fine: 1 });
  });

  it.each([
    ["bends alone", { bits: [{ mm: 50 }, { mm: 50, bend: 0.02 }, { mm: 30, bend: 0.1 }] }, "wait", 60, 12],
    ["corners waited at", { bits: [{ mm: 60 }, { mm: 60 }], corners: [1] }, "wait", 320, 40],
    ["corners slowed at", { bits: [{ mm: 60 }, { mm: 5, bend: 0.3 }, { mm: 60 }], corners: [0.7] }, "slow", 60, 40],
  ] satisfies [string, Made, CornerMethod, number, number][])("ends after so many trials: %s", (_, how, paths, coarse, fine) => {
    const course = made(how);
    search(course, paths);
    expect(course.count.coarse).toBeLessThanOrEqual(coarse);
    expect(course.count.fine).toBeLessThanOrEqual(fine);
  });

  it("says the least deviation there is where even the slowest with the longest waits has more", () => {
    const bent = { bits: [{ mm: 20 }, { mm: 20, least: 4, bend: 0.3 }], fine: 1.5 };
    const bow = (4 * 4) / TOP / (1 - 4 / TOP);
    expect(search(made(bent)).leastMm).toBeCloseTo((1.5 * 0.3 * bow ** 2) / 2, 9);
  });

  it("leads a piece within its own bounds, though the others may go faster or slower", () => {
    const found = search(
      made({
        bits: [
          { mm: 30, most: 6 },
          { mm: 30, bend: 0.05 },
          { mm: 30, least: 5, bend: 0.01 },
        ],
      }),
    );
    expect(found.feeds[0]).toBe(6);
    expect(found.feeds[2]).toBeGreaterThanOrEqual(5);
  });
});
