import type { Design } from "../cutters/design/schema";
import { evaluateDesign } from "../cutters/solve/evaluate";
import type { CutFace, TestCut } from "../log/entries";
import { testCut } from "../log/testCut";
import type { PlanEvaluation } from "../plans/evaluate";
import { thickest } from "../plans/guide";
import type { Plan } from "../plans/plan";
import type { Stations } from "../plans/stations";
import { halfKerfMm } from "./pace";

/** What a calliper says of a part that was cut, mm; what was not measured is left out. */
export interface Measured {
  root?: number | undefined;
  middle?: number | undefined;
  tip?: number | undefined;
  /** of a straight stretch of the offcut */
  kerf?: number | undefined;
  /** how far the middle trailed, as the mark of a stop shows it */
  hook?: number | undefined;
}

/**
 * The root's feed as it was really led, mm/s: the middle one of those from number to number, so that a pause or a wait at a corner, in which nothing is led, does not make the whole slow.
 * Where the stations have changed since, the mean without the pauses.
 */
export function guidedFeedMmS({ stations, rootLengthMm }: Pick<Stations, "stations" | "rootLengthMm">, run: Plan["runs"][number]): number | null {
  const numbers = stations.filter(({ whole }) => whole);
  const total = run.real_s.reduce((sum, each) => sum + each, 0) - run.pauses_s;
  if (total <= 0) return null;
  if (numbers.length !== run.real_s.length + 1) return rootLengthMm / total;
  const feeds = run.real_s
    .flatMap((seconds, i) => (seconds > 0 ? [((numbers[i + 1]?.rootAlongMm ?? 0) - (numbers[i]?.rootAlongMm ?? 0)) / seconds] : []))
    .sort((a, b) => a - b);
  return feeds[feeds.length >> 1] ?? null;
}

/** Thickness wanted and thickness foretold at the fullest place, mm: what the kerf at the feed that was led leaves of what the templates allow for, on both faces. */
export interface Foretold {
  place: "root" | "middle" | "tip";
  wantedMm: number;
  foretoldMm: number;
}

/**
 * @param rootFeedMmS mean feed at the root as it was really led; the tip's goes with it
 */
export function foretold({ part }: Plan, { root, tip, cutter }: PlanEvaluation, rootFeedMmS: number): Foretold[] {
  const full = (end: PlanEvaluation["root"]) => thickest(end.drawn.regions[0]?.outline ?? []).thicknessMm - 2 * part.skin_mm;
  // A face more or less of half a kerf on both faces.
  const off = (end: PlanEvaluation["root"], feed: number) => (cutter ? end.kerfMm - 2 * halfKerfMm(cutter.pair, cutter.heatWPerM, feed) : 0);
  const [a, b] = [off(root, rootFeedMmS), off(tip, (rootFeedMmS * tip.feedMmS) / root.feedMmS)];
  const [wantedRoot, wantedTip] = [full(root), full(tip)];
  return [
    { place: "root", wantedMm: wantedRoot, foretoldMm: wantedRoot + a },
    { place: "middle", wantedMm: (wantedRoot + wantedTip) / 2, foretoldMm: (wantedRoot + wantedTip + a + b) / 2 },
    { place: "tip", wantedMm: wantedTip, foretoldMm: wantedTip + b },
  ];
}

/** The kerf computed from a thickness, mm: the templates allowed for one, and both faces together lack what it was wider. */
export const kerfOfThickness = (allowedMm: number, wantedMm: number, measuredMm: number): number => allowedMm + wantedMm - measuredMm;

/**
 * A cut part as one more test cut of its cutter: its kerf measured in the offcut, or computed from the thickness at the root.
 * @returns null where nothing was measured that teaches
 */
export function measuredCut(
  plan: Plan,
  evaluation: PlanEvaluation,
  design: Design,
  measured: Measured,
  look: { face: CutFace; rootFeedMmS: number; at: string },
): TestCut | null {
  const [rootPlace] = foretold(plan, evaluation, look.rootFeedMmS);
  const kerf =
    measured.kerf ?? (measured.root === undefined || !rootPlace ? undefined : kerfOfThickness(evaluation.root.kerfMm, rootPlace.wantedMm, measured.root));
  if (kerf === undefined && measured.hook === undefined) return null;
  const tidy = (mm: number) => Math.round(mm * 1000) / 1000;
  return testCut(design, evaluateDesign(design).cut.powerWPerM, {
    at: look.at,
    width_mm: plan.part.span_mm,
    feed_mm_s: tidy(look.rootFeedMmS),
    kerf_mm: kerf === undefined ? undefined : tidy(kerf),
    lag_mm: measured.hook === undefined ? undefined : tidy(measured.hook),
    face: look.face,
    note: `${plan.name}: ${(["root", "middle", "tip"] as const).flatMap((place) => (measured[place] === undefined ? [] : [`${place} ${measured[place]} mm`])).join(", ")}`.slice(
      0,
      500,
    ),
  });
}
