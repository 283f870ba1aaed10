import { apply, type Line, type Point } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import { paceJob } from "../pace/planPace";
import type { TautWire } from "../physics/string/tautWire";
import { deviationOf } from "../physics/string/traceError";
import type { PartFace } from "../plans/guide";
import { type Cut, feedUnder, type RigSurroundings } from "./around";
import { haulN } from "./sums";

/** Steeper than this a level thread does not lead a wire: it is led by hand there, degrees. */
export const STEEPEST_DEG = 80;

/** A stretch of the way from one number to the next. */
export interface HaulStretch {
  to: string;
  /** at the root, mm */
  fromMm: number;
  toMm: number;
  slopeDeg: number;
}

/** A face as it is hauled: numbers, slopes, and the ways of both ends. */
export interface HauledFace {
  stretches: HaulStretch[];
  rootMm: number;
  tipMm: number;
  spanM: number;
  /** null where the face is on its own, without a plan */
  paths: { root: Line; tip: Line; wire: TautWire; at: readonly number[] } | null;
}

const slopeOf = (a: Point, b: Point): number => (Math.atan2(b[1] - a[1], Math.abs(b[0] - a[0])) * 180) / Math.PI;

/** Faces that were asked for before: a slider asks for the same one again. */
const known = new WeakMap<RigSurroundings, Map<PartFace, HauledFace>>();

/** A face of the plan next to the rig, number by number; null without one. @throws CoreError where the plan has no such face */
export function faceOfPlan(around: RigSurroundings, face: PartFace): HauledFace | null {
  if (!around.plan) return null;
  const faces = known.get(around) ?? new Map<PartFace, HauledFace>();
  known.set(around, faces);
  const found = faces.get(face) ?? hauledFace(around.plan, face);
  faces.set(face, found);
  return found;
}

function hauledFace(plan: NonNullable<RigSurroundings["plan"]>, face: PartFace): HauledFace {
  const job = paceJob(plan.plan, plan.evaluation, face);
  if (!job) throw new CoreError("no-solution", "", "the plan's cutter does not cut: its heat is too little for a kerf");
  const whole = job.stations.stations.filter(({ whole: is }) => is);
  const placed = (end: "root" | "tip", at: Point) => apply(plan.evaluation[end].place, at);
  return {
    stretches: whole.slice(1).map((here, i): HaulStretch => {
      const before = whole[i] as (typeof whole)[number];
      // One pull for both ends: the mean of their slopes.
      const slopes = (["root", "tip"] as const).map((end) => slopeOf(placed(end, before[end]), placed(end, here[end])));
      return { to: here.label, fromMm: before.rootAlongMm, toMm: here.rootAlongMm, slopeDeg: ((slopes[0] as number) + (slopes[1] as number)) / 2 };
    }),
    rootMm: job.stations.rootLengthMm,
    tipMm: job.stations.tipLengthMm,
    spanM: plan.plan.part.span_mm / 1000,
    paths: { root: job.root, tip: job.tip, wire: job.wire, at: job.at },
  };
}

/** A straight edge of one slope, ten numbers long. */
export function straightFace(lengthMm: number, tipMm: number, widthMm: number, slopeDeg: number): HauledFace {
  return {
    stretches: Array.from({ length: 10 }, (_, i) => ({ to: String(i + 1), fromMm: (lengthMm * i) / 10, toMm: (lengthMm * (i + 1)) / 10, slopeDeg })),
    rootMm: lengthMm,
    tipMm,
    spanM: widthMm / 1000,
    paths: null,
  };
}

/** How a weight becomes a pull at a share of the way: newtons of level pull on the wire, both ends together, for so many hung. */
export type Lever = (share: number) => (hungN: number) => number;

export interface HaulRow extends HaulStretch {
  /** level pull that the wanted feed takes, N; null where the wire clears no such feed */
  pullN: number | null;
  /** to be hung for it, of the weights owned; negative pull is held back by hand */
  hungN: number;
  /** feed it then runs at, mm/s */
  feedMmS: number;
  heldBack: boolean;
  /** runs faster than wanted with nothing hung: the arm alone pulls too hard */
  tooMuch: boolean;
  byHand: boolean;
}

/** Every sum that some of the weights make, lightest first, and none at all. */
export function sumsOf(weightsN: readonly number[]): number[] {
  let sums = [0];
  for (const weight of weightsN) sums = [...sums, ...sums.map((sum) => sum + weight)];
  return [...new Set(sums.map((sum) => Math.round(sum * 1000) / 1000))].sort((a, b) => a - b);
}

/** Faster than wanted by this much counts as running away (this project's judgement). */
const TOO_MUCH = 1.25;

/** Level pull that is left for drag, N over the whole width, of a pull on a slope. */
const forDrag = (pullN: number, carriedN: number, slopeDeg: number): number => {
  const phi = (slopeDeg * Math.PI) / 180;
  return pullN * Math.cos(phi) - carriedN * Math.sin(phi);
};

/** Feed that a pull on a slope runs at, mm/s. */
export const feedOn = (cut: Cut, spanM: number, pullN: number, carriedN: number, slopeDeg: number): number =>
  feedUnder(cut, forDrag(pullN, carriedN, slopeDeg) / spanM);

/** What to hang from number to number for one wanted feed, of the weights that are owned. */
export function haulRows(
  face: HauledFace,
  {
    cut,
    feedMmS,
    dragNPerM,
    carriedN,
    weightsN,
    lever,
  }: { cut: Cut; feedMmS: number; dragNPerM: number | null; carriedN: number; weightsN: readonly number[]; lever: Lever },
): HaulRow[] {
  const sums = sumsOf(weightsN);
  return face.stretches.map((stretch): HaulRow => {
    const share = (stretch.fromMm + stretch.toMm) / 2 / face.rootMm;
    const byHand = Math.abs(stretch.slopeDeg) > STEEPEST_DEG;
    const pullN = dragNPerM === null || byHand ? null : haulN(dragNPerM, face.spanM, carriedN, stretch.slopeDeg);
    const pullOf = lever(share);
    const run = (hung: number) => feedOn(cut, face.spanM, pullOf(hung), carriedN, stretch.slopeDeg);
    const off = (hung: number) => Math.abs(run(hung) - feedMmS);
    const hungN = byHand ? 0 : sums.reduce((best, each) => (off(each) < off(best) ? each : best), 0);
    return {
      ...stretch,
      pullN,
      hungN,
      feedMmS: byHand ? feedMmS : run(hungN),
      heldBack: pullN !== null && pullN < 0,
      tooMuch: !byHand && hungN === 0 && run(0) > feedMmS * TOO_MUCH,
      byHand,
    };
  });
}

export interface FixedRun {
  rows: { to: string; feedMmS: number; seconds: number }[];
  totalS: number;
  /** the number it comes to rest before; null where it runs through */
  stallsBefore: string | null;
  /** what the wire misses of the face, mm; null without a plan, and where it stalls */
  deviationMm: number | null;
}

/** Coarse enough for every movement of a slider. */
const TRIED = { nodes: 24, steps: 360 };

/** The speed the wire runs at under one weight that stays, as a pace, and what it then misses. @param feedTopMmS no faster than this: a hand brakes it */
export function fixedRun(face: HauledFace, ask: { cut: Cut; carriedN: number; hungN: number; lever: Lever; feedTopMmS: number }): FixedRun {
  const rows: FixedRun["rows"] = [];
  let stallsBefore: string | null = null;
  for (const { to, fromMm, toMm, slopeDeg } of face.stretches) {
    const share = (fromMm + toMm) / 2 / face.rootMm;
    const steep = Math.abs(slopeDeg) > STEEPEST_DEG;
    const feedMmS = steep ? ask.feedTopMmS : Math.min(ask.feedTopMmS, feedOn(ask.cut, face.spanM, ask.lever(share)(ask.hungN), ask.carriedN, slopeDeg));
    if (feedMmS < LEAST_FEED_MM_S) {
      stallsBefore = to;
      break;
    }
    rows.push({ to, feedMmS, seconds: (toMm - fromMm) / feedMmS });
  }
  const totalS = rows.reduce((sum, { seconds }) => sum + seconds, 0);
  return { rows, totalS, stallsBefore, deviationMm: stallsBefore === null && face.paths ? deviationBy(face.paths, rows) : null };
}

/** Slower than this it counts as stopped, mm/s. */
const LEAST_FEED_MM_S = 0.05;

function deviationBy({ root, tip, wire, at }: NonNullable<HauledFace["paths"]>, rows: FixedRun["rows"]): number {
  const timesS = [0];
  for (let i = 1, row = 0; i < root.length; i++) {
    while (row < rows.length - 1 && i > (at[row + 1] ?? Number.POSITIVE_INFINITY)) row += 1;
    const long = Math.hypot((root[i] as Point)[0] - (root[i - 1] as Point)[0], (root[i] as Point)[1] - (root[i - 1] as Point)[1]);
    timesS.push((timesS.at(-1) as number) + long / (rows[row]?.feedMmS ?? 1));
  }
  const paths = { path: [...root], tipPath: [...tip], timesS };
  return deviationOf(wire, paths, paths, TRIED);
}
