import type { Point } from "../geometry/points";

export const CORNER_WAYS = ["wait", "slow", "past"] as const;
export type CornerWay = (typeof CORNER_WAYS)[number];

/** Feeds of a way's pieces, mm/s at the longer end, and waits at its corners, s. */
export interface Plan {
  feeds: Float64Array;
  waits: Float64Array;
}
/** A plan, and what it misses. */
export interface Trial extends Plan {
  totalS: number;
  errorMm: number;
  /** worst distance that each piece and each corner answers for */
  pieceMm: Float64Array;
  cornerMm: Float64Array;
  worst: { at: Point; share: number };
}

/** What a search must know of a way and of the wire that is led along it. */
export interface Course {
  /** length at the longer end, and the corner a piece lies next to */
  pieces: readonly { longMm: number; corner: number | null }[];
  corners: number;
  /** feeds allowed, piece by piece, mm/s */
  most: Float64Array;
  least: Float64Array;
  toleranceMm: number;
  /** in which what the middle lost at a corner falls to its e-th part while both ends wait, s */
  relaxationS: number;
  /** One whole cut reckoned: coarse where it is one trial of many. */
  reckon(plan: Plan, how: "coarse" | "fine"): Trial;
}

/** No hand leads steadily slower, mm/s. */
export const LEAST_MM_S = 0.2;
/** A wait longer than this is no wait but a hole, s. */
export const MOST_WAIT_S = 12;
/** A coarse trial must keep so much of the tolerance free. */
const KEEP_FREE = 0.03;
/** Rounds of making feeds equal to what they may be. */
export const ROUNDS = 14;
/** Times that a pace which misses in the fine reckoning is looked for anew, for less. */
const AGAIN = 4;
/** Waits tried with one feed, s. */
const WAITS = [0, 0.3, 0.6, 1, 1.5, 2.2, 3.2, 5, 8] as const;
/** Halvings of one feed's range. */
const HALVINGS = 6;
/** What the coarse search kept free of the tolerance is taken back: so much faster, the largest first. */
const FASTER = [1.03, 1.01] as const;
/** One wait for all corners that a person would think of, s: none of these may be quicker with one feed. */
const PLAIN_WAITS = [0, 0.5, 1, 1.5, 2, 3] as const;

const tenths = (seconds: number) => Math.max(0, Math.ceil(seconds * 10 - 1e-6) / 10);
const within = ({ most, least }: Course, feed: number, j: number) => Math.min(most[j] as number, Math.max(least[j] as number, feed));
const longOf = ({ pieces }: Course) => pieces.reduce((sum, { longMm }) => sum + longMm, 0);
/** One feed for all pieces, as far as each allows it, and one wait for all corners. */
const evenly = (course: Course, feed: number, wait: number): Plan => ({
  feeds: course.most.map((_, j) => within(course, feed, j)),
  waits: new Float64Array(course.corners).fill(wait),
});
/** Waits to try for all corners alike: none but where corners are waited at. */
const waitsOf = <T extends number>({ corners }: Course, way: CornerWay, waits: readonly T[]): readonly (T | 0)[] =>
  corners > 0 && way === "wait" ? waits : [0];

/** The best of one feed for all pieces and one wait for all corners: no answer may be slower. */
function uniformBest(course: Course, way: CornerWay, allowedMm: number): Trial | null {
  const top = Math.max(...course.most);
  const bottom = Math.max(LEAST_MM_S, ...course.least);
  const long = longOf(course);
  let best: Trial | null = null;
  for (const wait of waitsOf(course, way, WAITS)) {
    const fast = course.reckon(evenly(course, top, wait), "coarse");
    if (fast.errorMm <= allowedMm) {
      if (!best || fast.totalS < best.totalS) best = fast;
      // A longer wait is no faster.
      break;
    }
    let [low, high] = [bottom, top];
    let good: Trial | null = null;
    for (let i = 0; i < HALVINGS; i++) {
      const middle = good ? (low + high) / 2 : Math.sqrt(low * high);
      const trial = course.reckon(evenly(course, middle, wait), "coarse");
      if (trial.errorMm <= allowedMm) {
        low = middle;
        if (!good || trial.totalS < good.totalS) good = trial;
      } else high = middle;
      // No feed of this wait could beat what is known.
      if (best && (good === null || good.totalS > best.totalS) && long / high + course.corners * wait > best.totalS) break;
    }
    if (good && (!best || good.totalS < best.totalS)) best = good;
  }
  return best;
}

/** Makes every piece as fast, and every wait as short, as what it answers for allows; the fastest trial within the tolerance. */
function improved(course: Course, start: Plan, way: CornerWay, allowedMm: number, tell: () => void): Trial | null {
  let best: Trial | null = null;
  let plan = start;
  let idle = 0;
  const aim = allowedMm * 0.98;
  for (let round = 0; round < ROUNDS; round++) {
    tell();
    const trial = course.reckon(plan, "coarse");
    if (trial.errorMm <= allowedMm && (!best || trial.totalS < best.totalS * 0.999)) {
      best = trial;
      idle = 0;
    } else {
      idle += 1;
      if (best && idle >= (way === "slow" ? 8 : 4)) break;
    }
    // Bolder at first; later, smaller steps round what was found.
    const early = round < 5;
    const feeds = trial.feeds.map((feed, j) => {
      const own = trial.pieceMm[j] as number;
      const factor = own > 0 ? Math.min(1.5, Math.max(0.5, (aim / own) ** (early ? 0.7 : 0.4))) : 1.5;
      // Beside a corner that is waited at, the wait and not the feed makes good what is lost.
      const byWait = course.pieces[j]?.corner !== null && way !== "slow";
      return within(course, feed * (byWait ? Math.max(1, factor) : factor), j);
    });
    const waits = trial.waits.map((was, k) => {
      if (way !== "wait") return 0;
      // What is lost falls with time as the middle catches up: by its own relaxation, about.
      const step = course.relaxationS * Math.log(Math.max(trial.cornerMm[k] as number, aim * 0.5) / aim) * (early ? 1 : 0.6);
      return Math.min(MOST_WAIT_S, Math.max(0, was + step));
    });
    plan = { feeds, waits };
  }
  return best;
}

/** The same pace a little faster, or with shorter waits, as far as the fine reckoning allows; and never slower than one feed with one plain wait. */
function quickened(course: Course, found: Trial, way: CornerWay): Trial {
  let best = found;
  const tried = (plan: Plan): Trial | null => {
    const trial = course.reckon(plan, "fine");
    return trial.errorMm <= course.toleranceMm && trial.totalS < best.totalS ? trial : null;
  };
  for (const factor of FASTER) {
    const trial = tried({ feeds: best.feeds.map((feed, j) => within(course, feed * factor, j)), waits: best.waits });
    if (!trial) continue;
    best = trial;
    break;
  }
  if (best.waits.some((wait) => wait > 0))
    best = tried({ feeds: best.feeds, waits: best.waits.map((wait) => Math.max(0, Math.round(wait * 10 - 1) / 10)) }) ?? best;
  const long = longOf(course);
  const top = Math.max(...course.most);
  for (const wait of waitsOf(course, way, PLAIN_WAITS)) {
    const left = best.totalS - course.corners * wait;
    // Slower than this it is no gain; if that already misses, so does any faster.
    let low = left > 0 ? long / left : Number.POSITIVE_INFINITY;
    if (low >= top) continue;
    const slowest = evenly(course, low * 1.0001, wait);
    // A coarse look first: most are far from it.
    if (course.reckon(slowest, "coarse").errorMm > course.toleranceMm * (1 + 2 * KEEP_FREE)) continue;
    let kept = tried(slowest);
    if (!kept) continue;
    let high = top;
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (low + high) / 2;
      const trial = tried(evenly(course, middle, wait));
      if (trial) {
        kept = trial;
        low = middle;
      } else high = middle;
    }
    best = kept;
  }
  return best;
}

/**
 * The fastest plan that keeps a course's tolerance in the fine reckoning, found by trying.
 * @param tell called as the search goes on: once a look, and once a trial of {@link ROUNDS} from each start
 * @returns the trial, or the least error that was seen where nothing keeps it, mm
 */
export function fastest(course: Course, way: CornerWay, tell: () => void): Trial | { leastMm: number } {
  const { pieces, corners, most } = course;
  // As fast as anything may be led, without a wait: nothing is to be gained beyond that.
  const floorS = pieces.reduce((sum, { longMm }, j) => sum + longMm / (most[j] as number), 0);
  let allowed = course.toleranceMm * (1 - KEEP_FREE);
  let leastMm = Number.POSITIVE_INFINITY;
  for (let again = 0; again < AGAIN; again++) {
    tell();
    const uniform = uniformBest(course, way, allowed);
    const done = uniform !== null && uniform.totalS < floorS * 1.0001;
    const starts: Plan[] = [
      // Slowing down at corners begins there slow: what is slowest says most of the time.
      {
        feeds: most.map((each, j) => (way === "slow" && pieces[j]?.corner !== null ? within(course, each * 0.2, j) : each)),
        waits: new Float64Array(corners).fill(way === "wait" ? course.relaxationS : 0),
      },
      uniform ?? { feeds: most.map((each, j) => within(course, each * 0.4, j)), waits: new Float64Array(corners) },
    ];
    const found = [uniform, ...(done ? [] : starts).map((start) => improved(course, start, way, allowed, tell))].filter((each) => each !== null);
    const quickest = found.sort((a, b) => a.totalS - b.totalS)[0];
    if (!quickest) {
      // As slow as may be, and as long waits as mean anything: what is missed then is the least.
      const slowest = course.reckon({ feeds: course.least, waits: new Float64Array(corners).fill(way === "wait" ? MOST_WAIT_S : 0) }, "fine");
      return { leastMm: Math.min(leastMm, slowest.errorMm) };
    }
    const trial = course.reckon({ feeds: quickest.feeds, waits: quickest.waits.map(tenths) }, "fine");
    if (trial.errorMm <= course.toleranceMm) return quickened(course, trial, way);
    leastMm = Math.min(leastMm, trial.errorMm);
    allowed *= Math.min(0.98, course.toleranceMm / trial.errorMm) * 0.99;
  }
  return { leastMm };
}
