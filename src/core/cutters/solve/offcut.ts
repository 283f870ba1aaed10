import type { Relation } from "../../kernel/provenance";
import { formatQuantity, type UnitSystem } from "../../units/units";
import type { Design } from "../design/schema";
import type { HeatCourse } from "./cutBands";
import { noCut } from "./describe";
import { type DesignEvaluation, liveMm } from "./evaluate";

export const OFFCUT: Relation = {
  id: "offcut",
  title: "A narrow offcut flatters",
  formula: "pull goes with b; bow with b(2L - b); of a short piece, bite and cold ends are the greater part",
  words:
    "A narrow piece pulls less on the wire and hardly bows it, lies on the part of the wire that its posts and bare ends keep at another heat, and is half cut by the heat stored in air. It looks better than the job will.",
  range: "same wire, heat and feed; foam in the middle",
  basis: "common practice",
  source: "statics of the taut string for pull and bow; the entry's bite; practice tests on a piece as wide as the job",
};

/** Narrower than this share of the job, a test piece flatters enough to say so (this project's judgement). */
const FLATTERS_BELOW = 0.7;

/** How much easier a narrow test piece has it than the job. */
export interface Offcut {
  /** Pull on the wire and bow of it at the job's width, times the test piece's. */
  pullTimes: number;
  bowTimes: number;
  /** Cut that the wire's stored heat makes on its own, m; null where it cannot cut in. */
  biteM: number | null;
  /** Length next to the posts that is clearly colder, m; null where not known. */
  coldEndsM: number | null;
  words: string;
}

/**
 * What a test piece of a width hides of the design's job; null where it is wide enough.
 * @param course the design's heat in time, where it is at hand
 */
export function offcutOf(design: Design, evaluation: DesignEvaluation, widthMm: number, course: HeatCourse | null, units: UnitSystem): Offcut | null {
  const job = Math.min(design.job.width_mm, liveMm(design));
  if (!(widthMm < FLATTERS_BELOW * job)) return null;
  const span = design.wire.length_mm;
  const bow = (b: number) => b * (2 * span - b);
  const pullTimes = job / widthMm;
  const bowTimes = bow(job) / bow(widthMm);
  const biteM = course?.entry?.biteM ?? null;
  const coldEndsM = course?.along?.spots.coldEndsM ?? null;
  const times = (value: number) => (value >= 10 ? value.toFixed(0) : value.toFixed(1));
  const whole =
    evaluation.lagM === null || noCut(evaluation) !== null
      ? ""
      : ` (here ${formatQuantity("kerf", evaluation.lagM * 1000, units, units === "metric" ? 1 : 2)})`;
  return {
    pullTimes,
    bowTimes,
    biteM,
    coldEndsM,
    words: `A narrow offcut flatters: at the job's width the foam pulls ${times(pullTimes)} times as hard and the wire bows ${times(bowTimes)} times as far${whole}.${
      biteM === null
        ? ""
        : ` Its first ${formatQuantity("length", biteM * 1000, units)} go by stored heat alone: judge the face after that, and measure the kerf where it has settled.`
    }`,
  };
}
