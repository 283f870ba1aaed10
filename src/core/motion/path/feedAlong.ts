import { distance, type Line, lerp, type Point } from "../../geometry/points";
import { CORNER_DEG } from "../../geometry/tolerance";
import type { Relation } from "../../kernel/provenance";
import { bisect } from "../../numerics/bisection";

export const FEED_ALONG: Relation = {
  id: "feed-along",
  title: "Feed along one path",
  formula:
    "on a curve of radius R the middle's bow m keeps R - sqrt(R^2 - m^2) within the tolerance, and v^2/R within the acceleration; at a corner the least of a wait, of slowing down, and of an ear",
  words:
    "The middle of the wire comes later than its ends and cuts curves short: the tighter the curve, the slower. At a corner it must catch up: standing, creeping round, or by running straight past into the waste and coming back, whichever takes least time.",
  range: "both ends alike; bow small compared with the wire; checked afterwards by the whole wire's own computation",
  basis: "estimate",
  source: "the bow that trails a turning line in steady state; this project's choice among the three",
};

export interface FeedLimits {
  /** the machine's fastest, and what the wire clears, mm/s */
  mostMmS: number;
  accelerationMmS2: number;
  toleranceMm: number;
  /** bow of the middle in a straight cut, by feed */
  lagMm: (mmS: number) => number;
  /** time in which the middle catches up from a bow to the tolerance, s */
  catchUpS: (lagMm: number) => number;
  /** whether the wire may go straight from one place to another through waste alone; null: no ears */
  free: ((from: Point, to: Point) => boolean) | null;
}

export interface FedPath {
  path: Point[];
  /** as commanded: each move at its own feed, waits as points that are twice */
  timesS: number[];
  waits: { at: Point; waitS: number }[];
  ears: Line[];
  /** with the carriages' own speeding up and slowing down, s */
  runS: number;
  /** of each move, mm/s; 0 for a wait */
  feeds: number[];
}

/** The length within which a corner turns, mm: a corner half a kerf off is an arc of half a kerf. */
const CORNER_MM = 2;
/** No slower than this is led, mm/s. */
const LEAST_MM_S = 0.3;
/** Past a corner the bow needs so many times its own length to have settled again. */
const SETTLES = 3;

interface Corner {
  first: number;
  last: number;
  /** where half of it is turned: there the middle is waited for, or it would cut the round of the corner off */
  apex: number;
  before: Point;
  after: Point;
}

const unit = (a: Point, b: Point): Point => {
  const mm = distance(a, b) || 1;
  return [(b[0] - a[0]) / mm, (b[1] - a[1]) / mm];
};

/** Turning at each point of a line, radians. */
function turns(path: Line): number[] {
  return path.map((b, i) => {
    const [a, c] = [path[i - 1], path[i + 1]];
    if (!a || !c) return 0;
    const [u, v] = [unit(a, b), unit(b, c)];
    return Math.atan2(u[0] * v[1] - u[1] * v[0], u[0] * v[0] + u[1] * v[1]);
  });
}

/** Runs of points within {@link CORNER_MM} that turn by more than a corner together. */
function cornersAlong(path: Line, turn: readonly number[]): Corner[] {
  const found: Corner[] = [];
  let i = 1;
  while (i < path.length - 1) {
    let [sum, mm, k] = [turn[i] as number, 0, i];
    let best = { last: i, sum: Math.abs(sum) };
    while (k + 1 < path.length - 1 && mm + distance(path[k] as Point, path[k + 1] as Point) <= CORNER_MM) {
      mm += distance(path[k] as Point, path[k + 1] as Point);
      k += 1;
      sum += turn[k] as number;
      if (Math.abs(sum) > best.sum) best = { last: k, sum: Math.abs(sum) };
    }
    if (best.sum > (CORNER_DEG * Math.PI) / 180 && Math.abs(turn[i] as number) > 1e-3) {
      let [half, apex] = [0, i];
      for (; apex < best.last; apex++) {
        half += Math.abs(turn[apex] as number);
        if (half >= best.sum / 2 - 1e-9) break;
      }
      found.push({
        first: i,
        last: best.last,
        apex,
        before: unit(path[i - 1] as Point, path[i] as Point),
        after: unit(path[best.last] as Point, path[best.last + 1] as Point),
      });
      i = best.last + 1;
    } else i += 1;
  }
  return found;
}

/** The fastest feed whose bow is within so much. */
function feedOfLag(limits: FeedLimits, lag: number): number {
  if (limits.lagMm(limits.mostMmS) <= lag) return limits.mostMmS;
  if (limits.lagMm(LEAST_MM_S) >= lag) return LEAST_MM_S;
  return bisect((mmS) => limits.lagMm(mmS) <= lag, LEAST_MM_S, limits.mostMmS, 40).low;
}

/** Seconds of a move that enters and leaves at given feeds and runs at most at another between. */
function trapezoidS(mm: number, entry: number, exit: number, most: number, a: number): number {
  const top = Math.min(most, Math.sqrt((2 * a * mm + entry ** 2 + exit ** 2) / 2));
  const ramps = (2 * top ** 2 - entry ** 2 - exit ** 2) / (2 * a);
  return (top - entry) / a + (top - exit) / a + Math.max(0, mm - ramps) / Math.max(top, 1e-9);
}

/** Time of a line of moves with acceleration: as fast as each may be, never faster than what it can still slow down from. Stops where the feed is 0 and at both ends. */
export const runTimeS = (path: Line, feeds: readonly number[], waitsS: readonly number[], a: number, corner: readonly boolean[]): number =>
  runTimesS(path, feeds, waitsS, a, corner).at(-1) ?? 0;

/** As {@link runTimeS}, the time at which each point is passed, s. */
export function runTimesS(path: Line, feeds: readonly number[], waitsS: readonly number[], a: number, corner: readonly boolean[]): Float64Array {
  const n = path.length;
  const speed = new Float64Array(n);
  const long = (i: number) => distance(path[i] as Point, path[i + 1] as Point);
  for (let i = 1; i < n - 1; i++) speed[i] = corner[i] ? 0 : Math.min(feeds[i - 1] as number, feeds[i] as number);
  for (let i = 1; i < n; i++) speed[i] = Math.min(speed[i] as number, Math.sqrt((speed[i - 1] as number) ** 2 + 2 * a * long(i - 1)));
  for (let i = n - 2; i >= 0; i--) speed[i] = Math.min(speed[i] as number, Math.sqrt((speed[i + 1] as number) ** 2 + 2 * a * long(i)));
  const times = new Float64Array(n);
  for (let i = 0; i + 1 < n; i++) {
    const mm = long(i);
    times[i + 1] =
      (times[i] as number) + (mm < 1e-12 ? (waitsS[i] as number) : trapezoidS(mm, speed[i] as number, speed[i + 1] as number, feeds[i] as number, a));
  }
  return times;
}

/** A line with points put in so that every corner has one where its bow has settled again, before and after it. */
function split(path: Line, every: number): Point[] {
  const out: Point[] = [path[0] as Point];
  for (let i = 1; i < path.length; i++) {
    const [a, b] = [path[i - 1] as Point, path[i] as Point];
    const mm = distance(a, b);
    // Long straights get a point near either end: what slows down for a corner does so there only.
    if (mm > 4 * every) for (const t of [every / mm, 1 - every / mm]) out.push(lerp(a, b, t));
    out.push(b);
  }
  return out;
}

/** Feeds, waits and ears along one path. See {@link FEED_ALONG} */
export function feedAlong(line: Line, limits: FeedLimits): FedPath {
  const { mostMmS, toleranceMm, accelerationMmS2 } = limits;
  const fullLag = limits.lagMm(mostMmS);
  const settleMm = Math.max(2, SETTLES * fullLag);
  const path = split(line, settleMm);
  const turn = turns(path);
  const n = path.length;
  const long = (i: number) => distance(path[i] as Point, path[i + 1] as Point);
  const corners = cornersAlong(path, turn);
  const atCorner = new Set(corners.flatMap(({ first, last }) => Array.from({ length: last - first + 1 }, (_, k) => first + k)));
  // Curves: by the radius at each point, where it is no corner.
  const own = new Float64Array(Math.max(0, n - 1)).fill(mostMmS);
  for (let i = 1; i < n - 1; i++) {
    const theta = Math.abs(turn[i] as number);
    if (atCorner.has(i) || theta < 1e-4) continue;
    const radius = (long(i - 1) + long(i)) / 2 / theta;
    const lag = radius > toleranceMm ? Math.sqrt(2 * radius * toleranceMm - toleranceMm ** 2) : radius;
    const feed = Math.max(LEAST_MM_S, Math.min(feedOfLag(limits, lag), Math.sqrt(accelerationMmS2 * radius)));
    own[i - 1] = Math.min(own[i - 1] as number, feed);
    own[i] = Math.min(own[i] as number, feed);
  }
  const creep = feedOfLag(limits, toleranceMm);
  const waitAfter = new Map<number, number>();
  const earAt = new Map<number, { upTo: number; line: Point[] }>();
  for (const corner of corners) {
    const { first, last, apex, before, after } = corner;
    const arrives = own[first - 1] as number;
    const lag = limits.lagMm(arrives);
    if (lag <= toleranceMm) continue;
    const waitS = limits.catchUpS(lag);
    const slowS = settleMm * (1 / creep - 1 / arrives);
    const past = lag + toleranceMm;
    const [p, q] = [path[first] as Point, path[last] as Point];
    const out: Point = [p[0] + before[0] * past, p[1] + before[1] * past];
    const back: Point = [q[0] - after[0] * past, q[1] - after[1] * past];
    const earMm = past + distance(out, back) + past;
    const earS = earMm / arrives;
    const { free } = limits;
    if (earS < waitS && earS < slowS && free?.(p, out) && free(out, back) && free(back, q)) earAt.set(first, { upTo: last, line: [out, back] });
    else if (slowS < waitS) {
      for (const step of [-1, 1]) {
        let mm = 0;
        for (let i = step < 0 ? first - 1 : last; i >= 0 && i < n - 1 && mm < settleMm; i += step) {
          own[i] = Math.min(own[i] as number, creep);
          mm += long(i);
        }
      }
    } else waitAfter.set(apex, waitS);
  }
  const out: FedPath = { path: [], timesS: [], waits: [], ears: [], runS: 0, feeds: [] };
  const waitsS: number[] = [];
  const sharp: boolean[] = [];
  let at = 0;
  const go = (point: Point, feed: number, stops: boolean) => {
    const last = out.path.at(-1);
    if (last) {
      const mm = distance(last, point);
      if (mm < 1e-9) {
        if (stops) sharp[sharp.length - 1] = true;
        return;
      }
      at += mm / feed;
      out.feeds.push(feed);
      waitsS.push(0);
    }
    out.path.push(point);
    out.timesS.push(at);
    sharp.push(stops);
  };
  for (let i = 0; i < n; i++) {
    const feed = own[Math.max(0, i - 1)] as number;
    const ear = earAt.get(i);
    go(path[i] as Point, feed, atCorner.has(i));
    if (ear) {
      const run = own[i - 1] as number;
      for (const point of ear.line) go(point, run, true);
      go(path[ear.upTo] as Point, run, false);
      out.ears.push([path[i] as Point, ...ear.line, path[ear.upTo] as Point]);
      i = ear.upTo;
    }
    const waitS = waitAfter.get(i);
    if (waitS !== undefined) {
      const point = path[i] as Point;
      at += waitS;
      out.path.push(point);
      out.timesS.push(at);
      out.feeds.push(0);
      waitsS.push(waitS);
      sharp.push(true);
      out.waits.push({ at: point, waitS });
    }
  }
  out.runS = runTimeS(out.path, out.feeds, waitsS, accelerationMmS2, sharp);
  return out;
}
