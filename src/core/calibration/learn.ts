import type { Design } from "../cutters/design/schema";
import { evaluateDesign, pairOf } from "../cutters/solve/evaluate";
import type { TestCut } from "../log/entries";
import { cleanHeats } from "../physics/cut/cut";
import { withCalibration } from "./accept";
import { type Calibration, calibrate } from "./fit";
import { isUnsettled, settlesAfterMm, teachingCut } from "./measured";
import { type CandidateCut, type NextCut, nextCut } from "./nextCut";

/** What a cutter's test cuts of one foam teach, and which cut would teach most next. */
export interface Lessons {
  fit: Calibration;
  /** How many cuts it learnt from. */
  cuts: number;
  /** Kerfs that were measured before they had settled: left out. */
  unsettled: { at: string; measuredAtMm: number; settlesAfterMm: number }[];
  next: NextCut | null;
}

/** Feeds and heats that a next test cut could have: about the job's own, within what cuts. */
const FEED_SHARES = [0.6, 0.8, 1, 1.25, 1.5];
const HEAT_PLACES = [0.1, 0.3, 0.5, 0.7, 0.9];

/**
 * Fits the doubtful figures of the design's foam to its test cuts. Always from what was believed before any cut: an accepted calibration is not counted twice.
 * @param trusted cuts, by their place in the list, that a person has confirmed twice
 * @throws CoreError as {@link calibrate} does
 */
export function learnFrom(design: Design, cuts: readonly TestCut[], trusted: readonly number[] = []): Lessons {
  const plain = withCalibration(design, null);
  const weighed = design.job.foam.weighed === true || (cuts.length > 0 && cuts.every((cut) => cut.foam.weighed === true));
  const fit = calibrate(
    cuts.map((cut) => teachingCut(cut, design.ambient_C)),
    weighed,
    trusted,
  );
  const pair = pairOf(plain);
  const feedMPerS = design.job.feed_mm_s / 1000;
  const evaluation = evaluateDesign(plain);
  const candidates: CandidateCut[] = FEED_SHARES.flatMap((share) => {
    const heats = cleanHeats(pair, feedMPerS * share, design.job.maxKerf_mm / 1000);
    return heats.to <= heats.from
      ? []
      : HEAT_PLACES.map((place) => ({ feedMPerS: feedMPerS * share, powerWPerM: heats.from + place * (heats.to - heats.from) }));
  });
  const hold = { spanM: design.wire.length_mm / 1000, widthM: Math.min(design.job.width_mm, design.wire.length_mm) / 1000, tensionN: design.tension.hot_N };
  const job = { feedMPerS, powerWPerM: Math.max(0.5, evaluation.cut.powerWPerM) };
  const unsettled = cuts.flatMap((cut) =>
    isUnsettled(cut, design.ambient_C) ? [{ at: cut.at, measuredAtMm: cut.kerf_at_mm ?? 0, settlesAfterMm: settlesAfterMm(cut, design.ambient_C) ?? 0 }] : [],
  );
  return { fit, cuts: cuts.length, unsettled, next: nextCut(pair, fit.learnt, fit.covariance, job, hold, candidates) };
}
