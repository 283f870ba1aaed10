import { distance, type Line, lerp, type Point } from "../geometry/points";
import type { LessonText } from "../kernel/lesson";
import type { Relation } from "../kernel/provenance";
import type { CutPair } from "../physics/cut/cut";
import { waitReach } from "../physics/string/reach";
import { type Trace, wireSurface } from "../physics/string/tautWire";
import { traceError } from "../physics/string/traceError";
import { newPlan, type Plan } from "../plans/plan";
import { halfKerfMm } from "./pace";
import type { PaceJob } from "./planPace";

export const PRACTICE: Relation = {
  id: "practice",
  title: "What two hands cut",
  formula: "the wire's surface for the ways both hands really went, against the lines wanted",
  words:
    "Both hands' places are taken down as they are led; the wire between them is then computed as it would be in foam, and the face is judged at root, middle and tip.",
  range: "the wire as the plan's cutter has it; foam that is even",
  basis: "estimate",
  source: "this project's model of the wire",
};

/** Where both hands are at a time, counted in numbers from the start. */
export interface HandsAt {
  atS: number;
  root: number;
  tip: number;
}

/** The place of a hand that has come so many numbers along a line whose numbers are at some of its points. */
export function placeAt(line: Line, at: readonly number[], numbers: number): Point {
  const last = at.length - 1;
  const k = Math.min(last - 1, Math.max(0, Math.floor(numbers)));
  const [from, to] = [at[k] as number, at[k + 1] as number];
  const share = Math.min(1, Math.max(0, numbers - k));
  // Evenly along the line from number to number; points between do not matter.
  let whole = 0;
  for (let i = from; i < to; i++) whole += distance(line[i] as Point, line[i + 1] as Point);
  let left = share * whole;
  for (let i = from; i < to; i++) {
    const long = distance(line[i] as Point, line[i + 1] as Point);
    if (left <= long) return lerp(line[i] as Point, line[i + 1] as Point, long === 0 ? 0 : left / long);
    left -= long;
  }
  return line[to] as Point;
}

export interface Score {
  seconds: number;
  /** largest miss of the lines wanted: in the middle, and at the worse of both ends' faces */
  middleMm: number;
  /** how far one hand ran ahead of the other at most, numbers, and which */
  aheadNumbers: number;
  ahead: "root" | "tip" | null;
  /** the longest stop of both hands, s, and what it burned deeper than the kerf, mm */
  stopS: number;
  stopMm: number;
  /** thinner (positive) on this face than the templates allow for, at the root, mm: by the kerf of the feed that was led */
  thinnerMm: number;
  held: boolean;
  words: string;
}

/** Moving slower than this is standing still, numbers a second. */
const STILL = 0.02;
const EVEN_STEPS = 320;
/** One hand this far ahead is seen in the face, numbers. */
const AHEAD_SEEN = 0.25;
const STOP_SEEN_S = 0.6;

const handsAt = (samples: readonly HandsAt[], atS: number): HandsAt => {
  let i = 0;
  while (i < samples.length - 2 && (samples[i + 1] as HandsAt).atS <= atS) i += 1;
  const [a, b] = [samples[i] as HandsAt, samples[i + 1] as HandsAt];
  const t = b.atS > a.atS ? Math.min(1, Math.max(0, (atS - a.atS) / (b.atS - a.atS))) : 1;
  return { atS, root: a.root + (b.root - a.root) * t, tip: a.tip + (b.tip - a.tip) * t };
};

/**
 * What a face came out like that two hands led round.
 * @param samples at least two, times rising, numbers never falling, up to the last number at both ends
 */
export function scoreOf(job: PaceJob, pair: CutPair, samples: readonly HandsAt[]): Score {
  const seconds = (samples.at(-1) as HandsAt).atS - (samples[0] as HandsAt).atS;
  const from = (samples[0] as HandsAt).atS;
  const even = Array.from({ length: EVEN_STEPS + 1 }, (_, i) => handsAt(samples, from + (seconds * i) / EVEN_STEPS));
  const guided = {
    path: even.map(({ root }) => placeAt(job.root, job.at, root)),
    tipPath: even.map(({ tip }) => placeAt(job.tip, job.at, tip)),
    timesS: even.map(({ atS }) => atS - from),
  };
  // The line wanted in the middle: both hands at the same number all along.
  const numbers = job.at.length - 1;
  const wanted = Array.from({ length: EVEN_STEPS + 1 }, (_, i) => (numbers * i) / EVEN_STEPS);
  const [trace] = wireSurface(job.wire, guided, [0.5]).traces;
  const own = trace as Trace;
  const lines = wanted.map((n) => [placeAt(job.root, job.at, n), placeAt(job.tip, job.at, n)] as const);
  const drawnX = Float64Array.from(lines, ([a, b]) => (a[0] + b[0]) / 2);
  const drawnY = Float64Array.from(lines, ([a, b]) => (a[1] + b[1]) / 2);
  const size = Math.min(own.x.length, drawnX.length);
  const pick = (of: Float64Array) => Float64Array.from({ length: size }, (_, i) => of[Math.round((i * (of.length - 1)) / (size - 1))] as number);
  const middleMm = traceError({ at: 0.5, x: pick(own.x), y: pick(own.y), drawnX: pick(drawnX), drawnY: pick(drawnY) }).errorMm;
  let [aheadNumbers, ahead, stopS, still]: [number, Score["ahead"], number, number] = [0, null, 0, 0];
  for (const [i, { root, tip, atS }] of even.entries()) {
    if (Math.abs(root - tip) > aheadNumbers) [aheadNumbers, ahead] = [Math.abs(root - tip), root > tip ? "root" : "tip"];
    if (i === 0) continue;
    const before = even[i - 1] as HandsAt;
    const dt = atS - before.atS;
    still = Math.max(root - before.root, tip - before.tip) < STILL * dt ? still + dt : 0;
    stopS = Math.max(stopS, still);
  }
  const rootMm = job.stations.rootLengthMm;
  const feed = rootMm / Math.max(0.1, seconds);
  const reach = waitReach(pair, job.powerWPerM, Math.min(feed * 1.2, job.wire.maxFeedMmS * 0.85), stopS);
  const stopMm = stopS > STOP_SEEN_S ? Math.max(0, reach.radiusMm - reach.halfKerfMm) : 0;
  const allowed = job.allowedHalfMm;
  const thinnerMm = halfKerfMm(pair, job.powerWPerM, feed) - allowed;
  const held = middleMm <= job.toleranceMm && stopMm <= job.toleranceMm && Math.abs(thinnerMm) <= job.toleranceMm;
  const words = held
    ? `Held: everything within ${job.toleranceMm.toFixed(2)} mm.`
    : stopMm > Math.max(middleMm, Math.abs(thinnerMm))
      ? `Both hands stopped for ${stopS.toFixed(1)} s: a groove ${stopMm.toFixed(1)} mm deep. Plan where to rest: in the waste.`
      : Math.abs(thinnerMm) > middleMm
        ? thinnerMm > 0
          ? `Too slow: the face comes out ${thinnerMm.toFixed(2)} mm too thin, for a slow wire melts a wider kerf.`
          : `Too fast: the face comes out ${(-thinnerMm).toFixed(2)} mm too thick.`
        : aheadNumbers > AHEAD_SEEN
          ? `The ${ahead} ran ${aheadNumbers.toFixed(1)} numbers ahead: the middle is off by ${middleMm.toFixed(2)} mm. Call the numbers aloud.`
          : `The middle is off by ${middleMm.toFixed(2)} mm: it came late round a bend. Slower there, or wait at the corner.`;
  return { seconds, middleMm, aheadNumbers, ahead, stopS, stopMm, thinnerMm, held, words };
}

/** Hands that keep a pace to the letter: what practice is held against. */
export function perfectHands(rows: readonly { seconds: number; waitS: number }[]): HandsAt[] {
  const samples: HandsAt[] = [{ atS: 0, root: 0, tip: 0 }];
  let now = 0;
  for (const [i, { seconds, waitS }] of rows.entries()) {
    now += seconds;
    samples.push({ atS: now, root: i + 1, tip: i + 1 });
    if (waitS > 0) {
      now += waitS;
      samples.push({ atS: now, root: i + 1, tip: i + 1 });
    }
  }
  return samples;
}

export interface PracticeLesson extends LessonText {
  face: "upper" | "lower" | "whole";
  plan: (cutter: Plan["cutter"]) => Plan;
}

const taper = (cutter: Plan["cutter"], name: string) =>
  newPlan(
    name,
    {
      root: { shape: { kind: "naca4", code: "2415" }, chord_mm: 160 },
      tip: { shape: { kind: "naca4", code: "0012" }, chord_mm: 90 },
      part: { span_mm: 800 },
      stations: { count: 6 },
      pace: { tolerance_mm: 0.5 },
    },
    cutter,
  );
const corner = (cutter: Plan["cutter"], ear: boolean) =>
  newPlan(
    "A corner",
    {
      root: { shape: { kind: "rounded", ratio: 0.5, radius_mm: 0 }, chord_mm: 90 },
      part: { span_mm: 900 },
      stations: { count: 6 },
      template: { faces: "flip", ear_mm: ear ? 12 : 0 },
      pace: { tolerance_mm: 0.5, corner: ear ? "past" : "wait", order: "flip" },
    },
    cutter,
  );

/** What is learnt at the bow in this order (common practice). */
export const PRACTICE_LESSONS: readonly PracticeLesson[] = [
  {
    id: "taper",
    title: "Keep pace on a taper",
    brief: "The root has nearly twice the tip's way, and both must pass every number together. Watch the numbers, not the other hand.",
    face: "upper",
    plan: (cutter) => taper(cutter, "A taper"),
  },
  {
    id: "corner",
    title: "A corner, waited at",
    brief: "Stop both ends at the corner until the middle has come. It does not show at the ends; the time is on the bar.",
    face: "upper",
    plan: (cutter) => corner(cutter, false),
  },
  {
    id: "ear",
    title: "The same corner with an ear",
    brief: "Run on past the corner into the waste, and come back on the next edge's line: no heat is left in the part.",
    face: "upper",
    plan: (cutter) => corner(cutter, true),
  },
  {
    id: "second-face",
    title: "The second face",
    brief: "The lower face is cut and lies in its bed; now the upper, at the same pace to the second. Tired hands go slower, and the part comes out thinner.",
    face: "lower",
    plan: (cutter) => taper(cutter, "The second face"),
  },
];
