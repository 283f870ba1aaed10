import type { z } from "zod";
import { apply, type Line, type Point } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import type { Tell } from "../kernel/progress";
import { cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { type TautWire, wireSurface } from "../physics/string/tautWire";
import { traceError } from "../physics/string/traceError";
import type { PlanEvaluation } from "../plans/evaluate";
import { requireFits } from "../plans/fits";
import type { PartFace } from "../plans/guide";
import type { Plan } from "../plans/plan";
import { planStations } from "../plans/planStations";
import type { Station, Stations } from "../plans/stations";
import { faceErrors } from "./face";
import { halfKerfMm, type PaceResult, paceOf } from "./pace";
import type { CornerMethod } from "./search";
import { type CutSection, type Shared, sectionsOf, sharedEndPaths } from "./sharedEndPaths";
import type { paceRowSchema } from "./twoEndsSchema";
import { type WhatIf, whatIfs } from "./whatIf";

/** Faces of a plan that are led apart, in the order its school cuts them. */
export function facesOf({ template, pace }: Plan): PartFace[] {
  if (template.faces === "single" || pace.order === "round") return ["whole"];
  if (template.faces === "flip" || pace.order === "flip") return ["upper"];
  return ["lower", "upper"];
}

/** Places between two stations at which both ends' lines are taken: enough for the curve between. */
const BETWEEN = 8;

/** What the search for a pace is asked about one face of a plan. Plain data: it crosses to a worker. */
export interface PaceJob {
  stations: Stations;
  root: Line;
  tip: Line;
  /** indexes of whole stations in those lines */
  at: number[];
  wire: TautWire;
  powerWPerM: number;
  toleranceMm: number;
  hold: "line" | "face";
  corner: CornerMethod | "best";
  kerfFeeds: { min: number; max: number };
  /** Half the kerf that the root's template allows for, mm. */
  allowedHalfMm: number;
  /** Templates are moved to share the middle's lag: the pace is the fastest that then keeps the tolerance. */
  share: boolean;
}

/** Half a kerf may differ from what the templates allow for by so much of the tolerance: the rest is the line's. */
const KERF_SHARE = 0.5;

/**
 * One face of a plan as a question about its pace.
 * @returns null where the plan has no cutter that cuts
 * @throws CoreError where the face has no stations, `conflict` where the plan does not fit its cutter
 */
export function paceJob(plan: Plan, evaluation: PlanEvaluation, face: PartFace): PaceJob | null {
  const { cutter } = evaluation;
  if (!cutter || !evaluation.root.cut) return null;
  requireFits(evaluation);
  const stations = planStations(plan, evaluation, face);
  // Densely, with every station among the places.
  const dense = planStations(
    { ...plan, stations: { ...plan.stations, count: stations.stations.filter(({ whole }) => whole).length - 1, parts: BETWEEN } },
    evaluation,
    face,
  ).stations;
  const root = dense.map((each): Point => apply(evaluation.root.place, each.root));
  const tip = dense.map((each): Point => apply(evaluation.tip.place, each.tip));
  const spanM = plan.part.span_mm / 1000;
  const product = halfKerfMm(cutter.pair, cutter.heatWPerM, 1);
  const longer = Math.max(stations.rootLengthMm, stations.tipLengthMm);
  const allowedHalf =
    plan.cut.guidance === "edge" ? evaluation.root.guideMm + plan.part.skin_mm + cutter.wireMm / 2 : evaluation.root.guideMm + plan.part.skin_mm;
  const most = plan.pace.tolerance_mm * KERF_SHARE;
  const scale = longer / stations.rootLengthMm;
  return {
    stations,
    root,
    tip,
    at: dense.flatMap(({ whole }, i) => (whole ? [i] : [])),
    wire: {
      lengthM: spanM,
      tensionN: cutter.design.tension.hot_N,
      foamFromM: 0,
      foamToM: spanM,
      referenceDragNPerM: referenceDragNPerM(cutter.pair),
      maxFeedMmS: cutAtPower(cutter.pair, evaluation.root.feedMmS / 1000, cutter.heatWPerM).maxFeedMPerS * 1000,
    },
    powerWPerM: cutter.heatWPerM,
    toleranceMm: plan.pace.tolerance_mm,
    hold: plan.pace.hold,
    corner: plan.pace.corner,
    allowedHalfMm: allowedHalf,
    share: plan.pace.share,
    // Half kerfs that the templates still fit within the tolerance; a straight cut at the plan's own feed always does.
    kerfFeeds: {
      min: (scale * product) / (allowedHalf + most),
      max: (scale * product) / Math.max(0.01, allowedHalf - most),
    },
  };
}

/** The share of the wire that a map shows, from one face of the foam to the other. */
const SHARES = 13;
const COLUMNS = 160;

/** Sections that are drawn whole, as shares of the foam. */
const SECTIONS = [1 / 6, 1 / 3, 1 / 2, 2 / 3, 5 / 6];

/** How far the line cut misses the line wanted, over the face: rows from root to tip, columns along it. */
export interface SurfaceMap {
  shares: number[];
  /** share of the face's length from its start, of each column */
  along: number[];
  /** mm, row by row */
  deviationMm: Float32Array;
  worst: { share: number; along: number; deviationMm: number };
}

/** What the wire cuts of a face that is led by given times. */
export function surfaceMap(wire: TautWire, guided: { path: Line; tipPath: Line; timesS: readonly number[] }): SurfaceMap {
  const shares = Array.from({ length: SHARES }, (_, i) => (wire.foamFromM + ((wire.foamToM - wire.foamFromM) * i) / (SHARES - 1)) / wire.lengthM);
  const surface = wireSurface(wire, guided, shares);
  const along = Array.from({ length: COLUMNS }, (_, i) => i / (COLUMNS - 1));
  const deviationMm = new Float32Array(SHARES * COLUMNS);
  let worst = { share: 0.5, along: 0, deviationMm: 0 };
  for (const [row, trace] of surface.traces.entries()) {
    const { drawnMm } = traceError(trace);
    const n = drawnMm.length;
    const run = new Float64Array(n);
    for (let i = 1; i < n; i++)
      run[i] =
        (run[i - 1] as number) +
        Math.hypot((trace.drawnX[i] as number) - (trace.drawnX[i - 1] as number), (trace.drawnY[i] as number) - (trace.drawnY[i - 1] as number));
    const total = run[n - 1] as number;
    for (let i = 0; i < n; i++) {
      const deviation = drawnMm[i] as number;
      if (Number.isNaN(deviation)) continue;
      const at = (run[i] as number) / total;
      const column = Math.round(at * (COLUMNS - 1));
      const cell = row * COLUMNS + column;
      if (deviation > (deviationMm[cell] as number)) deviationMm[cell] = deviation;
      if (deviation > worst.deviationMm) worst = { share: trace.at, along: at, deviationMm: deviation };
    }
    // Columns between two times take the one before.
    for (let c = 1; c < COLUMNS; c++) {
      const cell = row * COLUMNS + c;
      if (deviationMm[cell] === 0) deviationMm[cell] = deviationMm[cell - 1] as number;
    }
  }
  return { shares, along, deviationMm, worst };
}

/** Rows of the face's map. */
const FACE_SHARES = 7;

/** What the heat of a paced cut leaves of the face, from root to tip: by superposition at every place, so that rows are few. */
export function faceMap(
  job: Pick<PaceJob, "wire" | "powerWPerM">,
  pair: Parameters<typeof paceOf>[0]["pair"],
  guided: { path: Line; tipPath: Line; timesS: readonly number[] },
): SurfaceMap {
  const shares = Array.from(
    { length: FACE_SHARES },
    (_, i) => (job.wire.foamFromM + ((job.wire.foamToM - job.wire.foamFromM) * i) / (FACE_SHARES - 1)) / job.wire.lengthM,
  );
  const { faces } = faceErrors(pair, job.powerWPerM, wireSurface(job.wire, guided, shares), false);
  const columns = Math.max(1, ...faces.map(({ alongMm }) => alongMm.length));
  const deviationMm = new Float32Array(FACE_SHARES * columns);
  let worst = { share: 0.5, along: 0, deviationMm: 0 };
  for (const [row, { share, alongMm, deeperMm }] of faces.entries()) {
    const total = alongMm.at(-1) ?? 1;
    for (let c = 0; c < columns; c++) {
      const at = (total * c) / Math.max(1, columns - 1);
      let k = 0;
      while (k < alongMm.length - 1 && Math.abs((alongMm[k + 1] as number) - at) <= Math.abs((alongMm[k] as number) - at)) k += 1;
      const deviation = Math.abs(deeperMm[k] ?? 0);
      deviationMm[row * columns + c] = deviation;
      if (deviation > worst.deviationMm) worst = { share, along: (alongMm[k] ?? 0) / total, deviationMm: deviation };
    }
  }
  return { shares, along: Array.from({ length: columns }, (_, c) => c / Math.max(1, columns - 1)), deviationMm, worst };
}

/** One line of a pace table: what is led from one number to the next. */

export type PaceRow = z.output<typeof paceRowSchema>;

/** A pace as it is called out: from number to number. */
export function paceRows({ stations }: Stations, pace: Pick<PaceResult, "paths" | "feeds" | "timesS" | "piece" | "limits">): PaceRow[] {
  const numbers: Station[] = stations.filter(({ whole }) => whole);
  const pieces = pace.paths.pieces;
  // Pieces end at numbers; a run past a corner belongs to the number it starts from, as its wait.
  const rows: PaceRow[] = [];
  let number = 0;
  let started: PaceRow | null = null;
  let [rootMm, tipMm] = [0, 0];
  const limitAt = (mm: number) => pace.limits.find(({ fromMm, toMm }) => mm >= fromMm && mm <= toMm)?.limit ?? "drag";
  let along = 0;
  const secondsOf = (j: number) =>
    pace.piece.reduce((sum, each, i) => (each === j ? sum + (pace.timesS[i + 1] as number) - (pace.timesS[i] as number) : sum), 0);
  for (const [j, piece] of pieces.entries()) {
    const seconds = secondsOf(j);
    const longer = Math.max(piece.rootMm, piece.tipMm);
    if (piece.ear) {
      const before = rows.at(-1);
      if (started) started.seconds += seconds;
      else if (before) before.waitS += seconds;
      along += longer;
      continue;
    }
    const wait = pace.piece.reduce(
      (sum, each, i) => (each === -1 && pace.piece[i - 1] === j ? sum + (pace.timesS[i + 1] as number) - (pace.timesS[i] as number) : sum),
      0,
    );
    if (!started) {
      started = {
        from: numbers[number]?.label ?? String(number),
        to: numbers[number + 1]?.label ?? String(number + 1),
        rootFeedMmS: 0,
        tipFeedMmS: 0,
        seconds: 0,
        waitS: 0,
        limit: limitAt(along + longer / 2),
        corner: numbers[number + 1]?.at === "corner",
      };
      [rootMm, tipMm] = [0, 0];
    }
    rootMm += piece.rootMm;
    tipMm += piece.tipMm;
    // A corner between two numbers is waited at on the way.
    started.seconds += seconds + (piece.station ? 0 : wait);
    along += longer;
    if (!piece.station) continue;
    rows.push({ ...started, waitS: wait, rootFeedMmS: rootMm / started.seconds, tipFeedMmS: tipMm / started.seconds });
    started = null;
    number += 1;
  }
  return rows;
}

export interface PlanPaceResult {
  pace: PaceResult;
  rows: PaceRow[];
  map: SurfaceMap;
  /** The same face by the other ways of taking corners, where there are any. */
  others: { corner: CornerMethod; totalS: number; errorMm: number; faceErrorMm: number }[];
  cures: WhatIf[];
  mishaps: WhatIf[];
  /** The face that the heat leaves: how much deeper (or less deep) than a template can allow for, mm; fewer rows and columns than the line's map. */
  face: SurfaceMap | null;
  /** Sections across the span, from the root on, the middle one half way. */
  sections: CutSection[];
  /** The middle's lag shared at this pace: what is missed then, and how the templates are moved. */
  shared: Pick<Shared, "errorMm" | "mostMm" | "movedMm">;
}

const withShare = (job: PaceJob, pace: PaceResult) => {
  const { errorMm, mostMm, movedMm } = sharedEndPaths(job.wire, { path: pace.path, tipPath: pace.tipPath, timesS: pace.timesS });
  return { pace, shared: { errorMm, mostMm, movedMm } };
};

/** Tolerances on the unshared line that are tried, as shares of the one asked for: sharing at best halves what is missed. */
const SHARED_TRIES = [1.9, 1.6, 1.35, 1.15, 1] as const;

/** The fastest pace whose error, once it is shared, keeps the tolerance. */
function sharedPace(job: PaceJob, input: Omit<Parameters<typeof paceOf>[0], "corner">, tell?: Tell) {
  for (const share of SHARED_TRIES) {
    try {
      const found = withShare(job, paceOf({ ...input, toleranceMm: job.toleranceMm * share, corner: job.corner }, tell));
      if (found.shared.errorMm <= job.toleranceMm || share === 1) return found;
    } catch (error) {
      // What a looser tolerance cannot hold a tighter one cannot either: only the last says so.
      if (!(error instanceof CoreError) || share === 1) throw error;
    }
  }
  return withShare(job, paceOf({ ...input, corner: job.corner }, tell));
}

/** The pace of one face of a plan, its table, its map, and what each way of taking its corners would do. @param compare false leaves out the comparison */
export function planPace(job: PaceJob, pair: Parameters<typeof paceOf>[0]["pair"], tell?: Tell, compare = true): PlanPaceResult {
  const input = {
    wire: job.wire,
    pair,
    powerWPerM: job.powerWPerM,
    root: job.root,
    tip: job.tip,
    toleranceMm: job.toleranceMm,
    hold: job.hold,
    kerfFeeds: job.kerfFeeds,
    stations: job.at,
  };
  const { pace, shared } = job.share ? sharedPace(job, input, tell) : withShare(job, paceOf({ ...input, corner: job.corner }, tell));
  const others: PlanPaceResult["others"] = [];
  if (compare && (pace.paths.corners.length > 0 || pace.corner === "past")) {
    for (const corner of ["wait", "slow", "past"] as const) {
      try {
        const other = corner === pace.corner ? pace : paceOf({ ...input, corner }, tell);
        others.push({ corner, totalS: other.totalS, errorMm: other.errorMm, faceErrorMm: other.faceErrorMm });
      } catch (error) {
        // One of the ways may hold no tolerance at all: the others are listed without it.
        if (!(error instanceof CoreError) || error.code !== "no-solution") throw error;
      }
    }
  }
  return {
    pace,
    rows: paceRows(job.stations, pace),
    map: surfaceMap(job.wire, { path: pace.path, tipPath: pace.tipPath, timesS: pace.timesS }),
    others,
    face: compare ? faceMap(job, pair, pace) : null,
    sections: sectionsOf(
      job.wire,
      pace,
      pace,
      SECTIONS.map((share) => (job.wire.foamFromM + (job.wire.foamToM - job.wire.foamFromM) * share) / job.wire.lengthM),
    ),
    shared,
    ...(compare ? whatIfs(job, pair, pace) : { cures: [], mishaps: [] }),
  };
}
