import type { Point } from "../geometry/points";

export const CORNER_METHODS = ["wait", "slow", "past"] as const;
export type CornerMethod = (typeof CORNER_METHODS)[number];

/** Feeds of a way's pieces, mm/s at the longer end, and waits at its corners, s. */
export interface PaceTrial {
  feeds: Float64Array;
  waits: Float64Array;
}
/** A plan, and its deviation. */
export interface Trial extends PaceTrial {
  totalS: number;
  errorMm: number;
  worst: { at: Point; share: number };
}

/** What a search must know of a path and of the wire that is led along it. */
export interface Course {
  /** length at the longer end, and how much the path bends at most within each of {@link WINDOWS_MM} of the piece, 1/mm */
  pieces: readonly { longMm: number; bends: readonly number[] }[];
  /** how much of the middle's lag a corner shows as deviation: the sine of half its turn */
  corners: readonly number[];
  /** v_max, mm/s */
  maxFeedMmS: number;
  /** feeds allowed, piece by piece, mm/s */
  most: Float64Array;
  least: Float64Array;
  toleranceMm: number;
  /** in which the deviation at a corner falls to its e-th part while both ends wait, s */
  relaxationS: number;
  /** One whole cut computed: coarse where it is one trial of many. */
  evaluate(plan: PaceTrial, how: "coarse" | "fine"): Trial;
}

/** No hand leads steadily slower, mm/s. */
export const LEAST_MM_S = 0.2;
/** A wait longer than this is no wait but a hole, s. */
export const MOST_WAIT_S = 12;
/** Within so far of a piece its bends count: the wire's middle still lags by them. One family of feeds each. */
export const WINDOWS_MM = [4, 12, 30] as const;
/** A coarse trial must keep so much of the tolerance free. */
const KEEP_FREE = 0.03;
/** Feeds of a family are tried on a fixed grid between its slowest and its fastest, found by halving: so many times. */
const HALVINGS = 8;
const GRID = 2 ** HALVINGS;
/** Waits tried at corners, s. */
const WAITS = [0, 0.3, 0.5, 0.8, 1, 1.3, 1.5, 2, 2.5, 3, 4, 5, 6.5, 8, MOST_WAIT_S] as const;
/** One feed for all, as shares of the most, and between two of them by so many halvings. */
const PLAIN_SHARES = 18;
const PLAIN_HALVINGS = 10;

const tenths = (seconds: number) => Math.max(0, Math.ceil(seconds * 10 - 1e-6) / 10);

/**
 * A family of plans: from the slowest (0) to the fastest (1), every feed rises. It depends on the path alone, never on the tolerance, so that a looser tolerance never gives a slower plan.
 * Feed ratio x of a piece by its bend k: x/(1 - x) = s/sqrt(k), the bow of the wire's middle that deviates by as much in every bend.
 */
function familyOf({ pieces, maxFeedMmS, most, least }: Course, window: number | null): (share: number) => Float64Array {
  const bends = pieces.map(({ bends: each }) => (window === null ? 1 : (each[window] as number)));
  const bounded = (feed: number, j: number) => Math.min(most[j] as number, Math.max(least[j] as number, feed));
  const ratio = (feed: number) => Math.min(0.98, feed / maxFeedMmS) / (1 - Math.min(0.98, feed / maxFeedMmS));
  const bent = bends.filter((bend) => bend > 0);
  if (bent.length === 0) return () => Float64Array.from(most);
  // At the slowest the gentlest bend goes at the least feed; at the fastest the sharpest goes at the most.
  const slowest = ratio(LEAST_MM_S) * Math.sqrt(Math.min(...bent));
  const fastest = ratio(Math.max(...most)) * Math.sqrt(Math.max(...bent));
  return (share) => {
    const scale = slowest * (fastest / slowest) ** share;
    return Float64Array.from(bends, (bend, j) => {
      if (bend <= 0) return most[j] as number;
      const r = scale / Math.sqrt(bend);
      return bounded((maxFeedMmS * r) / (1 + r), j);
    });
  };
}

/** Waits at all corners: less where a corner turns less. */
const waitsFor = ({ corners, relaxationS }: Course, waitS: number): Float64Array =>
  Float64Array.from(corners, (sine) => (waitS === 0 ? 0 : tenths(Math.min(MOST_WAIT_S, waitS + relaxationS * Math.log(Math.max(1e-3, sine))))));

/** Plans of a kind by their step on the grid, and the one that keeps the tolerance coarsely. */
interface Candidate {
  plan(step: number): PaceTrial;
  /** step of the grid; 0 is the slowest */
  step: number;
}

/**
 * The fastest plan that keeps a course's tolerance in the fine computation: families of plans that depend on the path alone, each as fast as it may be on a fixed grid. So a looser
 * tolerance, a tighter wire or more room never gives a slower plan.
 * @param tell called once a family
 * @returns the trial, or the least deviation that was seen where nothing keeps it, mm
 */
export function fastest(course: Course, paths: CornerMethod, tell: () => void): Trial | { leastMm: number } {
  const { pieces, corners, most, toleranceMm } = course;
  const allowed = toleranceMm * (1 - KEEP_FREE);
  const longS = (feeds: Float64Array) => pieces.reduce((sum, { longMm }, j) => sum + longMm / (feeds[j] as number), 0);
  const totalOf = ({ feeds, waits }: PaceTrial) => longS(feeds) + waits.reduce((sum, each) => sum + each, 0);
  const waited = corners.length > 0 && paths === "wait";
  // As fast as anything may be led, without a wait: nothing is faster.
  const top: PaceTrial = { feeds: Float64Array.from(most), waits: new Float64Array(corners.length) };
  const first = course.evaluate(top, "fine");
  if (first.errorMm <= toleranceMm) return first;
  let best: Trial | null = null;
  let leastMm = first.errorMm;
  const bestS = () => best?.totalS ?? Number.POSITIVE_INFINITY;
  /** The fastest of a kind of plans, from one that passes coarsely downwards, that passes finely too and is faster than what is known. */
  const take = ({ plan, step: from }: Candidate) => {
    for (let step = from; step >= 0; step--) {
      const wanted = plan(step);
      if (totalOf(wanted) >= bestS()) return;
      const trial = course.evaluate(wanted, "fine");
      leastMm = Math.min(leastMm, trial.errorMm);
      if (trial.errorMm > toleranceMm) continue;
      best = trial;
      return;
    }
  };
  const seen = new Set<string>();
  for (const window of [0, 1, 2, null]) {
    tell();
    // Where all bends are alike, so are the families.
    const bends = JSON.stringify(pieces.map((piece) => (window === null ? 1 : piece.bends[window])));
    if (seen.has(bends)) continue;
    seen.add(bends);
    const family = familyOf(course, window);
    for (const waitS of waited ? WAITS : [0]) {
      const waits = waitsFor(course, waitS);
      // What waits so long in all cannot be the fastest: longer waits neither.
      if (totalOf({ feeds: most, waits }) >= bestS()) break;
      const plan = (step: number): PaceTrial => ({ feeds: family(step / GRID), waits });
      const passes = (step: number) => course.evaluate(plan(step), "coarse").errorMm <= allowed;
      let [low, high] = [-1, GRID];
      if (passes(high)) low = high;
      else
        for (let i = 0; i < HALVINGS && high - low > 1; i++) {
          const middle = (low + high) >> 1;
          if (passes(middle)) low = middle;
          else high = middle;
        }
      if (low >= 0) take({ plan, step: low });
    }
  }
  // One feed and one wait for all, to within a ten-thousandth: nothing that a person would think of is faster.
  const plainMost = Math.max(...most);
  for (const waitS of waited ? WAITS : [0]) {
    const waits = new Float64Array(corners.length).fill(waitS);
    const plan = (share: number): PaceTrial => ({
      feeds: most.map((each, j) => Math.min(each, Math.max(course.least[j] as number, (plainMost * share) / PLAIN_SHARES))),
      waits,
    });
    for (let k = PLAIN_SHARES; k > 0; k--) {
      let [low, high] = [k, Math.min(PLAIN_SHARES, k + 1)];
      if (totalOf(plan(high)) >= bestS()) break;
      if (course.evaluate(plan(k), "coarse").errorMm > toleranceMm * (1 + 2 * KEEP_FREE)) continue;
      for (let i = 0; i < PLAIN_HALVINGS && high > low; i++) {
        const middle = (low + high) / 2;
        // What is slower than what is known need not be tried.
        if (totalOf(plan(middle)) >= bestS() || course.evaluate(plan(middle), "fine").errorMm <= toleranceMm) low = middle;
        else high = middle;
      }
      take({ plan: () => plan(low), step: 0 });
    }
  }
  if (best) return best;
  // As slow as may be, and as long waits as mean anything: the deviation is then the least.
  const slowest = course.evaluate({ feeds: course.least, waits: new Float64Array(corners.length).fill(paths === "wait" ? MOST_WAIT_S : 0) }, "fine");
  if (slowest.errorMm <= toleranceMm) return slowest;
  return { leastMm: Math.min(leastMm, slowest.errorMm) };
}
