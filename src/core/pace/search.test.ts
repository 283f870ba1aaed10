import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type CornerWay, type Course, fastest, LEAST_MM_S, MOST_WAIT_S, type Plan, ROUNDS, type Trial } from "./search";

const TOL = 0.4;
const MOST = 10;
const TAU = 0.8;
interface Bit {
  mm: number;
  /** feed at which this piece alone misses by the whole tolerance, mm/s */
  limit?: number;
  corner?: number | null;
  most?: number;
  least?: number;
}
interface Made {
  bits: Bit[];
  /** what each corner costs at the most feed without a wait, mm */
  lost?: number[];
  /** what the fine reckoning finds, to what the coarse one does */
  fine?: number;
  /** nobody answers for what is missed */
  silent?: boolean;
}

/**
 * A wire in closed form: what a piece misses goes with the square of its feed, and what a corner loses with the greatest feed beside it and falls to its e-th part in {@link TAU} of wait.
 * Every trial is counted, and one that no hand could lead fails the test.
 */
function made({ bits, lost = [], fine = 1, silent = false }: Made): Course & { asked: { coarse: number; fine: number } } {
  const asked = { coarse: 0, fine: 0 };
  const most = Float64Array.from(bits, ({ most: own = MOST }) => own);
  const least = Float64Array.from(bits, ({ least: own = LEAST_MM_S }) => own);
  const reckon = ({ feeds, waits }: Plan, how: "coarse" | "fine"): Trial => {
    asked[how] += 1;
    expect(feeds).toHaveLength(bits.length);
    expect(waits).toHaveLength(lost.length);
    for (const [j, feed] of feeds.entries()) if (!(feed >= (least[j] as number) && feed <= (most[j] as number))) throw new Error(`a feed of ${feed} at ${j}`);
    for (const wait of waits) if (!(wait >= 0 && wait <= MOST_WAIT_S)) throw new Error(`a wait of ${wait}`);
    const more = how === "fine" ? fine : 1;
    const cornerMm = Float64Array.from(lost, (mm, k) => {
      const beside = Math.max(...bits.map(({ corner }, j) => (corner === k ? (feeds[j] as number) : 0)));
      return more * mm * (beside / MOST) * Math.exp(-(waits[k] as number) / TAU);
    });
    const pieceMm = Float64Array.from(bits, ({ limit = 1e6, corner = null }, j) =>
      Math.max(more * TOL * ((feeds[j] as number) / limit) ** 2, corner === null ? 0 : (cornerMm[corner] as number)),
    );
    const errorMm = Math.max(0, ...pieceMm, ...cornerMm);
    const totalS = bits.reduce((sum, { mm }, j) => sum + mm / (feeds[j] as number), 0) + waits.reduce((sum, each) => sum + each, 0);
    if (silent) {
      pieceMm.fill(0);
      cornerMm.fill(0);
    }
    return { feeds, waits, totalS, errorMm, pieceMm, cornerMm, worst: { at: [0, 0], share: 0.5 } };
  };
  return {
    asked,
    pieces: bits.map(({ mm, corner = null }) => ({ longMm: mm, corner })),
    corners: lost.length,
    most,
    least,
    toleranceMm: TOL,
    relaxationS: TAU,
    reckon,
  };
}
const search = (course: Course, way: CornerWay = "wait") => {
  let told = 0;
  const found = fastest(course, way, () => {
    told += 1;
  });
  return { found: found as Trial & { leastMm?: number }, told };
};
/** Two straights with a corner between them, and a short piece beside it on either side. */
const corner = (lost: number, more: Partial<Bit> = {}): Made => ({
  bits: [{ mm: 60 }, { mm: 5, corner: 0, ...more }, { mm: 5, corner: 0, ...more }, { mm: 60 }],
  lost: [lost],
});

describe("the search, on a wire in closed form", () => {
  it("leads every piece as fast as it alone allows: a way within a twentieth of the least time, and no piece beyond its own", () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ mm: fc.double({ min: 5, max: 80, noNaN: true }), limit: fc.double({ min: 1.2, max: 30, noNaN: true }) }), {
          minLength: 1,
          maxLength: 9,
        }),
        (bits) => {
          const { found, told } = search(made({ bits }));
          for (const [j, { limit }] of bits.entries()) expect(found.feeds[j]).toBeLessThanOrEqual(Math.min(MOST, limit) * (1 + 1e-9));
          expect(found.totalS).toBeLessThan(bits.reduce((sum, { mm, limit }) => sum + mm / Math.min(MOST, limit), 0) * 1.05);
          expect(found.errorMm).toBeLessThanOrEqual(TOL);
          expect(told).toBeLessThanOrEqual(1 + 2 * ROUNDS);
        },
      ),
      { numRuns: 200 },
    );
  });

  it("waits at each corner until it has come back to the tolerance, in tenths of a second, and leads everything as fast as may be", () => {
    const lost = [1.2, 0.3, 3, 0.9];
    const bits: Bit[] = lost.flatMap((_, k) => [{ mm: 40 }, { mm: 4, corner: k }]);
    const { found } = search(made({ bits, lost }));
    expect(Array.from(found.feeds)).toEqual(bits.map(() => MOST));
    for (const [k, mm] of lost.entries()) {
      const wanted = Math.max(0, TAU * Math.log(mm / TOL));
      expect(found.waits[k]).toBeGreaterThanOrEqual(wanted - 1e-9);
      expect(found.waits[k]).toBeLessThan(wanted + 0.21);
      expect((found.waits[k] as number) * 10).toBeCloseTo(Math.round((found.waits[k] as number) * 10), 9);
    }
  });

  it("slows beside a corner, and only there, where corners are slowed at; a long one is not waited at either", () => {
    for (const lost of [0.9, 2, 6]) {
      const { found } = search(made(corner(lost)), "slow");
      expect(Array.from(found.waits)).toEqual([0]);
      for (const j of [1, 2]) {
        expect(found.feeds[j]).toBeLessThanOrEqual((MOST * TOL) / lost + 1e-9);
        expect(found.feeds[j]).toBeGreaterThan(((MOST * TOL) / lost) * 0.93);
      }
      for (const j of [0, 3]) expect(found.feeds[j]).toBeGreaterThan(MOST * 0.999);
    }
  });

  it("a way past its corners has no waits, and what is left of a corner there is left to the feed of all", () => {
    const { found } = search(made(corner(0.8)), "past");
    expect(Array.from(found.waits)).toEqual([0]);
    // Half as fast beside the corner is what it takes; one feed for all is the only way to it.
    expect(found.feeds[1]).toBeLessThanOrEqual(MOST / 2 + 1e-9);
    expect(found.feeds[1]).toBeGreaterThan((MOST / 2) * 0.97);
  });

  it("is never slower than the best of one feed and one wait for all, looked for on a fine grid, though nobody answers for what is missed", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 8, noNaN: true }),
        fc.double({ min: 20, max: 300, noNaN: true }),
        fc.integer({ min: 1, max: 4 }),
        (lost, mm, corners) => {
          const bits = Array.from({ length: corners }, (_, k): Bit[] => [{ mm }, { mm: 5, corner: k }]).flat();
          const course = made({ bits, lost: Array.from({ length: corners }, () => lost), silent: true });
          const { found } = search(course);
          const grid = [0, 0.5, 1, 1.5, 2, 3].map((wait) => {
            const feed = Math.min(MOST, (MOST * TOL * Math.exp(wait / TAU)) / lost);
            return (corners * (mm + 5)) / feed + corners * wait;
          });
          expect(found.errorMm).toBeLessThanOrEqual(TOL);
          expect(found.totalS).toBeLessThanOrEqual(Math.min(...grid) * 1.012);
        },
      ),
      { numRuns: 200 },
    );
  });

  it("without corners one feed for all is found within a twelfth where nobody answers", () => {
    for (const limit of [0.5, 1.7, 4, 7.3, 9.9]) {
      const { found } = search(made({ bits: [{ mm: 50, limit }, { mm: 30 }], silent: true }));
      expect(found.totalS).toBeGreaterThanOrEqual(80 / limit - 1e-9);
      expect(found.totalS).toBeLessThan((80 / limit) * 1.085);
    }
  });

  it("what the fine reckoning finds worse is looked for anew; what it finds better is taken back", () => {
    for (const fine of [0.9, 0.97, 1.05, 1.2, 1.6]) {
      const limit = 5;
      const { found } = search(made({ bits: [{ mm: 50 }, { mm: 50, limit }, { mm: 30, limit: 3 }], fine }));
      expect(found.errorMm).toBeLessThanOrEqual(TOL);
      expect(found.feeds[0]).toBeGreaterThan(MOST * 0.99);
      // As fast as the fine reckoning allows, but for what a search anew gives away.
      for (const [j, own] of [limit, 3].entries()) {
        expect((found.feeds[j + 1] as number) * Math.sqrt(fine)).toBeLessThanOrEqual(own * (1 + 1e-9));
        expect((found.feeds[j + 1] as number) * Math.sqrt(fine)).toBeGreaterThan(own * (fine < 0.95 ? 0.92 : 0.955));
      }
    }
  });

  it("ends at once where all may be led as fast as anything: one look, and what little might be gained", () => {
    for (const way of ["wait", "slow", "past"] as const) {
      const course = made(corner(0.2));
      const { found, told } = search(course, way);
      expect(told).toBe(1);
      expect(found.totalS).toBeCloseTo(13, 9);
      expect(course.asked.coarse).toBe(1);
      // The answer itself, and a little faster twice.
      expect(course.asked.fine).toBe(3);
    }
  });

  it.each([
    ["bends alone", { bits: [{ mm: 50 }, { mm: 50, limit: 5 }, { mm: 30, limit: 3 }] }, "wait", 30, 3],
    ["a corner waited at", corner(1.2), "wait", 36, 4],
    ["a corner slowed at", corner(1.2), "slow", 34, 3],
    ["a corner run past", corner(1.2), "past", 31, 3],
    ["a corner that nobody answers for", { ...corner(3), silent: true }, "wait", 62, 4],
  ] satisfies [string, Made, CornerWay, number, number][])("is at its end after so many looks: %s", (_, how, way, coarse, fine) => {
    const course = made(how);
    search(course, way);
    expect(course.asked.coarse).toBeLessThanOrEqual(coarse);
    expect(course.asked.fine).toBeLessThanOrEqual(fine);
  });

  it("says the least error there is where even the slowest with the longest waits misses", () => {
    // At its least feed the second piece misses by four times the tolerance, in the coarse reckoning; by six in the fine one.
    const { found, told } = search(made({ bits: [{ mm: 20 }, { mm: 20, least: 4, limit: 2 }], fine: 1.5 }));
    expect(found.leastMm).toBeCloseTo(6 * TOL, 9);
    expect(told).toBe(1 + 2 * ROUNDS);
    const bent = { ...corner(1e9, { least: 3 }) };
    expect(search(made(bent)).found.leastMm).toBeCloseTo(1e9 * 0.3 * Math.exp(-MOST_WAIT_S / TAU), -3);
    expect(search(made(bent), "slow").found.leastMm).toBeCloseTo(1e9 * 0.3, 3);
  });

  it("gives up where the fine reckoning never agrees, and says the least that it saw", () => {
    const course = made({ bits: [{ mm: 20 }, { mm: 20, least: 1, limit: 2 }] });
    const never = {
      ...course,
      reckon: (plan: Plan, how: "coarse" | "fine") => {
        const trial = course.reckon(plan, how);
        return how === "coarse" ? trial : { ...trial, errorMm: 2 * TOL + trial.errorMm };
      },
    };
    const { found } = search(never);
    // The slowest of the tries is the last, and what it missed beyond the two is little.
    expect(found.leastMm).toBeGreaterThan(2 * TOL);
    expect(found.leastMm).toBeLessThan(2.3 * TOL);
    expect(course.asked.fine).toBeLessThanOrEqual(4);
  });

  it("leads a piece at its own bounds, though the others may go faster or slower", () => {
    const { found } = search(
      made({
        bits: [
          { mm: 30, most: 6 },
          { mm: 30, limit: 4 },
          { mm: 30, least: 9, limit: 20 },
        ],
      }),
    );
    expect(found.feeds[0]).toBeCloseTo(6, 2);
    expect(found.feeds[1]).toBeGreaterThan(3.88);
    expect(found.feeds[2]).toBeCloseTo(MOST, 2);
  });
});
