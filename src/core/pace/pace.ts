import { distance, type Line, lineLength, type Point } from "../geometry/points";
import { JUDGEMENT } from "../kernel/constants";
import { CoreError } from "../kernel/errors";
import type { Tell } from "../kernel/progress";
import type { Relation } from "../kernel/provenance";
import { bisect, geometricMean } from "../numerics/bisection";
import { type CutPair, cutAtPower, kerfFeedProduct } from "../physics/cut/cut";
import { cornerDwell, midSpanLag } from "../physics/cut/lag";
import { type Surface, type TautWire, type Trace, wireSurface } from "../physics/string/tautWire";
import { type TraceError, traceError } from "../physics/string/traceError";
import { type EndPaths, endPathsOf, type Timed, timed } from "./endPaths";
import { faceErrors } from "./face";
import { CORNER_METHODS, type CornerMethod, fastest, LEAST_MM_S, type PaceTrial, type Trial, WINDOWS_MM } from "./search";
import type { PACE_LIMITS } from "./twoEndsSchema";

export const PACE: Relation = {
  id: "pace",
  title: "The fastest pace that keeps a tolerance",
  formula: "least total time with the largest distance between the line drawn and the line cut within the tolerance, at the middle and both faces of the foam",
  words:
    "Straights are led as fast as the wire clears; where the line bends, or the middle must catch up at a corner, slower or with a wait. Feeds follow how much the path bends, and are found by trying: every trial is the whole cut, computed.",
  range: "one feed between two stations, waits in tenths of a second; a looser tolerance is never slower; no slower than one feed and one wait for all",
  basis: "estimate",
  source: "this project's search over its own model of the wire",
};

export const HOLDS = ["line", "face"] as const;
export type PaceHold = (typeof HOLDS)[number];

/** What bounds the feed of a stretch. */
export type PaceLimit = (typeof PACE_LIMITS)[number];

export interface PaceInput {
  wire: TautWire;
  pair: CutPair;
  powerWPerM: number;
  /** Ways of the wire's line at both ends of the wire, of as many points. */
  root: Line;
  tip: Line;
  toleranceMm: number;
  hold?: PaceHold;
  corner?: CornerMethod | "best";
  /** Feeds beyond which the kerf is not what the templates allow for, at the longer end, mm/s. */
  kerfFeeds?: { min: number; max: number } | undefined;
  /** about how long a piece of one feed is, along the longer end */
  pieceMm?: number | undefined;
  /** What leads is a machine, which goes no faster than this, mm/s; a hand otherwise. */
  fastestMmS?: number | undefined;
  /** The ends are at the end of the line until the middle has come: the wait is the last of the times. */
  endWait?: boolean;
  /** Indexes of the points between which a hand keeps one feed; corners end pieces anyway. */
  stations?: readonly number[] | undefined;
}

export interface PaceResult extends Timed {
  paths: EndPaths;
  /** of each piece's longer end, mm/s */
  feeds: number[];
  totalS: number;
  /** of the wire's line */
  errorMm: number;
  faceErrorMm: number;
  worst: { at: Point; share: number };
  corner: CornerMethod;
  waits: { at: Point; alongMm: number; waitS: number }[];
  /** What is left to cut where the ends stop. */
  end: PaceEnd;
  /** What holds where, along the longer end; neighbours that are held by the same are one. */
  limits: { fromMm: number; toMm: number; feedMmS: number; limit: PaceLimit }[];
}

/** Where the ends stop, the middle of the wire still trails them: what is left to cut, and what frees the part. */
export interface PaceEnd {
  /** from the middle, or another place of the foam, to where the ends stand, mm */
  leftMm: number;
  /** until what is left is within the tolerance, both ends standing, s in tenths */
  waitS: number;
  /** how far both ends go straight on instead, at the same feed, until the middle has come to where the line ends, mm in whole ones */
  runOutMm: number;
}

/** What is left where the ends stop, and the wait or the run-out that frees the part. */
export function endOf(
  input: Pick<PaceInput, "wire" | "toleranceMm">,
  guided: { path: readonly Point[]; tipPath: readonly Point[]; timesS: readonly number[] },
): PaceEnd {
  const { wire, toleranceMm } = input;
  const left = ({ traces }: Surface, i: number) =>
    Math.max(...traces.map(({ x, y, drawnX, drawnY }) => Math.hypot((x[i] as number) - (drawnX[i] as number), (y[i] as number) - (drawnY[i] as number))));
  const surface = wireSurface(wire, guided, heldAt(wire), FINE);
  const leftMm = left(surface, surface.timesS.length - 1);
  if (leftMm <= toleranceMm) return { leftMm, waitS: 0, runOutMm: 0 };
  // Twice what the closed form says is enough; when it is within the tolerance is read off the computed wait.
  const { dwellS } = cornerDwell({
    lagM: leftMm / 1000,
    toleranceM: toleranceMm / 1000,
    maxFeedMPerS: wire.maxFeedMmS / 1000,
    referenceDragNPerM: wire.referenceDragNPerM,
    spanM: wire.lengthM,
    tensionN: wire.tensionN,
  });
  const stopS = guided.timesS.at(-1) as number;
  const [path, tipPath] = [guided.path, guided.tipPath].map((line) => [...line, line.at(-1) as Point]) as [Point[], Point[]];
  const waited = wireSurface(wire, { path, tipPath, timesS: [...guided.timesS, stopS + 2 * dwellS + 1] }, heldAt(wire), FINE);
  const at = waited.timesS.findIndex((time, i) => time >= stopS && left(waited, i) <= toleranceMm);
  const waitS = Math.ceil(10 * ((at < 0 ? (waited.timesS.at(-1) as number) : (waited.timesS[at] as number)) - stopS) - 1e-6) / 10;
  return { leftMm, waitS, runOutMm: Math.ceil(leftMm) };
}

/** No hand leads steadily faster, mm/s (this project's judgement). */
export const HAND_MM_S = 20;
/** Trials are computed coarser than the answer: so many places of the wire, and steps of time. */
const COARSE = { nodes: 24, steps: 360 };
const FINE = { nodes: 60, steps: 1000 };
/** Least length of a piece next to a corner, mm. */
const LEAST_BESIDE_MM = 3;

/** Feeds of a way's pieces: the most that drag and a hand allow, the least that fumes and the kerf allow, at the longer end. */
function boundsOf(paths: EndPaths, input: PaceInput): { most: Float64Array; least: Float64Array; mostBy: PaceLimit[]; leastBy: PaceLimit[] } {
  const dragMost = JUDGEMENT.dragsAboveFeedRatio * input.wire.maxFeedMmS;
  const fumes = fumeFeedMmS(input.pair, input.powerWPerM);
  const n = paths.pieces.length;
  const [most, least] = [new Float64Array(n), new Float64Array(n)];
  const [mostBy, leastBy]: [PaceLimit[], PaceLimit[]] = [[], []];
  for (const [j, { rootMm, tipMm }] of paths.pieces.entries()) {
    // The slower end is the hotter one.
    const ratio = Math.min(rootMm, tipMm) / Math.max(rootMm, tipMm);
    const tops: [number, PaceLimit][] = [
      [dragMost, "drag"],
      [input.fastestMmS ?? HAND_MM_S, "hand"],
      [input.kerfFeeds?.max ?? Number.POSITIVE_INFINITY, "kerf"],
    ];
    const floors: [number, PaceLimit][] = [
      [Math.max(LEAST_MM_S, ratio > 0.02 ? fumes / ratio : 0), "fumes"],
      [input.kerfFeeds?.min ?? 0, "kerf"],
    ];
    const [top, topBy] = tops.reduce((best, each) => (each[0] < best[0] ? each : best));
    const [floor, floorBy] = floors.reduce((best, each) => (each[0] > best[0] ? each : best));
    most[j] = top;
    mostBy.push(topBy);
    // Where no feed keeps both, the wire must at least clear.
    least[j] = Math.min(floor, top);
    leastBy.push(floorBy);
  }
  return { most, least, mostBy, leastBy };
}

/** No foam smokes at a feed above this, mm/s. */
const MOST_MM_S = 200;

/** The feed below which the foam smokes, mm/s; 0 where it never does. */
export function fumeFeedMmS(pair: CutPair, powerWPerM: number): number {
  const smokes = (mmS: number) => cutAtPower(pair, mmS / 1000, powerWPerM).wireC > pair.foam.fumeLimitC;
  if (!smokes(LEAST_MM_S)) return 0;
  if (smokes(MOST_MM_S)) return MOST_MM_S;
  return bisect(smokes, LEAST_MM_S, MOST_MM_S, 40, geometricMean).high;
}

/** The places along the wire at which an answer is held: the middle of the foam and both its faces. */
export const heldAt = ({ lengthM, foamFromM, foamToM }: TautWire): number[] => [(foamFromM + foamToM) / 2 / lengthM, foamFromM / lengthM, foamToM / lengthM];

/** Times in which the ends run through the waste past a corner, and until the wire has come after them. */
function wastedTimes({ pieces }: EndPaths, { timesS, piece }: Timed, input: PaceInput): [number, number][] {
  const times: [number, number][] = [];
  for (const [i, j] of piece.entries()) {
    if (j < 0 || !pieces[j]?.ear) continue;
    const [from, to] = [timesS[i] as number, (timesS[i + 1] as number) + (2 * lagMm(input)) / input.wire.maxFeedMmS];
    const last = times.at(-1);
    if (last && last[1] >= from) last[1] = to;
    else times.push([from, to]);
  }
  return times;
}
const isWasted = (times: readonly (readonly [number, number])[], atS: number): boolean => times.some(([from, to]) => atS > from + 1e-9 && atS < to - 1e-9);

/** What a trace misses of the part: as {@link traceError}, without what is cut in the waste. */
function partError(surface: Surface, trace: Trace, wasted: readonly (readonly [number, number])[]): TraceError {
  const error = traceError(trace);
  if (wasted.length === 0) return error;
  let [errorMm, index] = [0, 0];
  for (let i = 0; i < surface.timesS.length; i++) {
    if (isWasted(wasted, surface.timesS[i] as number)) continue;
    for (const mm of [error.drawnMm[i] as number, error.cutMm[i] as number]) if (mm > errorMm) [errorMm, index] = [mm, i];
  }
  return { ...error, errorMm, worst: { x: trace.drawnX[index] as number, y: trace.drawnY[index] as number, index } };
}

/** One whole cut computed: its deviation, of the line or of the face. */
function tryOut(input: PaceInput, paths: EndPaths, { feeds, waits }: PaceTrial, how: { nodes: number; steps: number }): Trial {
  const guided = timed(paths, feeds, waits);
  const wasted = wastedTimes(paths, guided, input);
  const surface = wireSurface(input.wire, guided, heldAt(input.wire), how);
  const totalS = guided.timesS.at(-1) as number;
  let errorMm = 0;
  let worst: Trial["worst"] = { at: paths.root[0] as Point, share: 0.5 };
  for (const trace of surface.traces) {
    const error = partError(surface, trace, wasted);
    if (error.errorMm <= errorMm) continue;
    errorMm = error.errorMm;
    worst = { at: [error.worst.x, error.worst.y], share: trace.at };
  }
  if (input.hold !== "face") return { feeds, waits, totalS, errorMm, worst };
  const face = faceErrors(input.pair, input.powerWPerM, surface, true, wasted);
  return { feeds, waits, totalS, errorMm: face.errorMm, worst: face.worst ?? worst };
}

/** Bends are measured over this length, mm: a line of chords turns only at its points. */
const BEND_OVER_MM = 4;

/** How much a path bends at most within each window of each of its pieces, 1/mm, whichever end bends more. Corners count where they are slowed at; runs past them do not. */
function bendsOf(paths: EndPaths, withCorners: boolean): number[][] {
  const corners = new Set(paths.corners.map(({ index }) => index));
  const eared = new Set(paths.pieces.flatMap(({ ear, from, to }) => (ear ? Array.from({ length: to - from + 1 }, (_, k) => from + k) : [])));
  const ends = [paths.root, paths.tip].map((line) => {
    const along = [0];
    for (let i = 1; i < line.length; i++) along.push((along[i - 1] as number) + distance(line[i - 1] as Point, line[i] as Point));
    const turns = line.map((at, i) => {
      const [before, next] = [line[i - 1], line[i + 1]];
      if (!before || !next || eared.has(i) || (corners.has(i) && !withCorners)) return 0;
      const [ux, uy, vx, vy] = [at[0] - before[0], at[1] - before[1], next[0] - at[0], next[1] - at[1]];
      return Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
    });
    const total = [0];
    for (const turn of turns) total.push((total.at(-1) as number) + turn);
    const first = (mm: number) => {
      let [low, high] = [0, along.length];
      while (low < high) {
        const middle = (low + high) >> 1;
        if ((along[middle] as number) < mm) low = middle + 1;
        else high = middle;
      }
      return low;
    };
    // Turning between two places along the line, over a length.
    const bendAt = (mm: number) => ((total[first(mm + BEND_OVER_MM / 2)] as number) - (total[first(mm - BEND_OVER_MM / 2)] as number)) / BEND_OVER_MM;
    return { along, bend: along.map(bendAt), first };
  });
  return paths.pieces.map(({ from, to }) =>
    WINDOWS_MM.map((window) =>
      Math.max(
        ...ends.map(({ along, bend, first }) => {
          const [begin, end] = [first((along[from] as number) - window), first((along[to] as number) + window)];
          return Math.max(0, ...bend.slice(begin, end));
        }),
      ),
    ),
  );
}

const relaxationS = ({ wire }: PaceInput) =>
  cornerDwell({
    lagM: 1,
    toleranceM: 1,
    maxFeedMPerS: wire.maxFeedMmS / 1000,
    referenceDragNPerM: wire.referenceDragNPerM,
    spanM: wire.lengthM,
    tensionN: wire.tensionN,
  }).relaxationS;

/** How far the middle trails at the most feed: what a piece next to a corner must be long. */
function lagMm({ wire }: PaceInput): number {
  const x = JUDGEMENT.dragsAboveFeedRatio;
  return midSpanLag((wire.referenceDragNPerM * x) / (1 - x), wire.lengthM, wire.foamToM - wire.foamFromM, wire.tensionN).lagM * 1000;
}

/** Lines that run past every corner into the waste and come back on the next edge's line. */
function withEarsPast(
  root: Line,
  tip: Line,
  corners: ReadonlySet<number>,
  earMm: number,
): { root: Point[]; tip: Point[]; ears: { from: number; to: number }[] } {
  const [r, t]: [Point[], Point[]] = [[], []];
  const ears: { from: number; to: number }[] = [];
  const past = (line: Line, i: number): [Point, Point] => {
    const [a, b, c] = [line[i - 1] as Point, line[i] as Point, line[i + 1] as Point];
    const [u, v] = [Math.max(1e-9, distance(a, b)), Math.max(1e-9, distance(b, c))];
    return [
      [b[0] + ((b[0] - a[0]) / u) * earMm, b[1] + ((b[1] - a[1]) / u) * earMm],
      [b[0] - ((c[0] - b[0]) / v) * earMm, b[1] - ((c[1] - b[1]) / v) * earMm],
    ];
  };
  for (let i = 0; i < root.length; i++) {
    r.push(root[i] as Point);
    t.push(tip[i] as Point);
    if (!corners.has(i)) continue;
    const [rp, tp] = [past(root, i), past(tip, i)];
    ears.push({ from: r.length - 1, to: r.length + 2 });
    r.push(rp[0], rp[1], root[i] as Point);
    t.push(tp[0], tp[1], tip[i] as Point);
  }
  return { root: r, tip: t, ears };
}

/** The way that corners are taken, in pieces. */
function pathFor(input: PaceInput, cutPath: CornerMethod): EndPaths {
  const long = Math.max(lineLength(input.root), lineLength(input.tip));
  const pieceMm = input.pieceMm ?? Math.max(4, long / 24);
  const nearMm = Math.max(LEAST_BESIDE_MM, Math.min(2.5 * lagMm(input), pieceMm));
  const paths = endPathsOf(input.root, input.tip, pieceMm, nearMm, [], input.stations);
  if (cutPath !== "past") return paths;
  // Far enough for the middle to come past the corner before the ends turn.
  const corners = paths.corners.map(({ index }) => index);
  const eared = withEarsPast(paths.root, paths.tip, new Set(corners), Math.max(4, 1.3 * lagMm(input)));
  // Where the stations are among the points now: three more are before each that comes after a corner.
  const ends = input.stations ? paths.pieces.filter(({ station }) => station).map(({ to }) => to + 3 * corners.filter((at) => at < to).length) : [];
  return endPathsOf(eared.root, eared.tip, pieceMm, nearMm, eared.ears, ends);
}

/** Tries one way of taking corners. */
function paced(
  input: PaceInput,
  cutPath: CornerMethod,
  tell: () => void,
): { trial: Trial; paths: EndPaths; bounds: ReturnType<typeof boundsOf> } | { leastMm: number } {
  const paths = pathFor(input, cutPath);
  const bounds = boundsOf(paths, input);
  const bends = bendsOf(paths, cutPath === "slow");
  const found = fastest(
    {
      pieces: paths.pieces.map(({ rootMm, tipMm }, j) => ({ longMm: Math.max(rootMm, tipMm), bends: bends[j] as number[] })),
      corners: paths.corners.map(({ turnDeg }) => Math.sin((Math.min(180, Math.abs(turnDeg)) * Math.PI) / 360)),
      maxFeedMmS: input.wire.maxFeedMmS,
      most: bounds.most,
      least: bounds.least,
      toleranceMm: input.toleranceMm,
      relaxationS: relaxationS(input),
      evaluate: (plan, how) => tryOut(input, paths, plan, how === "coarse" ? COARSE : FINE),
    },
    cutPath,
    tell,
  );
  return "leastMm" in found ? found : { trial: found, paths, bounds };
}

/**
 * The fastest pace that holds a part to a tolerance. See {@link PACE}.
 * @throws CoreError `no-solution` where no pace does, with the least error possible and what would cure it
 */
export function paceOf(input: PaceInput, tell?: Tell): PaceResult {
  if (input.wire.maxFeedMmS <= LEAST_MM_S)
    throw new CoreError("no-solution", "power_W_per_m", "this heat makes no kerf that lets the wire through: more heat, or a thinner wire");
  // A way without a corner is led one way only.
  const bent = input.corner === "best" && endPathsOf(input.root, input.tip, Number.MAX_VALUE, LEAST_BESIDE_MM).corners.length > 0;
  const ways: readonly CornerMethod[] = bent ? CORNER_METHODS : [input.corner === "best" || input.corner === undefined ? "wait" : input.corner];
  let rounds = 0;
  const total = ways.length * (WINDOWS_MM.length + 1);
  const answers = ways.map((cutPath) => ({
    cutPath,
    found: paced(input, cutPath, () => {
      rounds += 1;
      tell?.(Math.min(0.95, rounds / total), cutPath === "wait" ? "with waits" : cutPath === "slow" ? "slowing at corners" : "past the corners");
    }),
  }));
  const good = answers.flatMap(({ cutPath, found }) => ("trial" in found ? [{ cutPath, ...found }] : [])).sort((a, b) => a.trial.totalS - b.trial.totalS)[0];
  if (!good) {
    const least = Math.min(...answers.map(({ found }) => ("leastMm" in found ? found.leastMm : Number.POSITIVE_INFINITY)));
    throw new CoreError(
      "no-solution",
      "tolerance_mm",
      `no pace holds this part to ${Number(input.toleranceMm.toFixed(3))} mm: the least error possible is ${least.toFixed(2)} mm. A tighter wire, a shorter one, less drag by more heat, or a narrower panel would.`,
    );
  }
  const { trial, paths, bounds, cutPath } = good;
  tell?.(0.96, "the face it leaves");
  const guided = timed(paths, trial.feeds, trial.waits);
  const surface = wireSurface(input.wire, guided, heldAt(input.wire), FINE);
  const wasted = wastedTimes(paths, guided, input);
  const face = faceErrors(input.pair, input.powerWPerM, surface, false, wasted);
  const line = Math.max(...surface.traces.map((trace) => partError(surface, trace, wasted).errorMm));
  const limits: PaceResult["limits"] = [];
  let along = 0;
  for (const [j, { rootMm, tipMm }] of paths.pieces.entries()) {
    const feed = trial.feeds[j] as number;
    const limit: PaceLimit =
      feed > (bounds.most[j] as number) - 0.011
        ? (bounds.mostBy[j] as PaceLimit)
        : feed < (bounds.least[j] as number) + 0.011
          ? (bounds.leastBy[j] as PaceLimit)
          : "tolerance";
    const toMm = along + Math.max(rootMm, tipMm);
    const before = limits.at(-1);
    if (before && before.limit === limit && Math.abs(before.feedMmS - feed) < 0.005) before.toMm = toMm;
    else limits.push({ fromMm: along, toMm, feedMmS: feed, limit });
    along = toMm;
  }
  const end = endOf(input, guided);
  if (input.endWait && end.waitS > 0) {
    guided.path.push(guided.path.at(-1) as Point);
    guided.tipPath.push(guided.tipPath.at(-1) as Point);
    guided.timesS.push((guided.timesS.at(-1) as number) + end.waitS);
    guided.piece.push(-1);
  }
  const waits: PaceResult["waits"] = [];
  for (const [k, { index }] of paths.corners.entries()) {
    const waitS = trial.waits[k] as number;
    if (waitS > 0) waits.push({ at: paths.root[index] as Point, alongMm: lineLength(paths.root.slice(0, index + 1)), waitS });
  }
  return {
    ...guided,
    paths,
    feeds: Array.from(trial.feeds),
    totalS: guided.timesS.at(-1) as number,
    end,
    errorMm: line,
    faceErrorMm: face.errorMm,
    worst: trial.worst,
    corner: cutPath,
    waits,
    limits,
  };
}

/** Half the steady kerf at a feed, mm. */
export const halfKerfMm = (pair: CutPair, powerWPerM: number, feedMmS: number): number => (kerfFeedProduct(pair, powerWPerM) / (feedMmS / 1000)) * 500;
