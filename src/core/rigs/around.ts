import type { Design } from "../cutters/design/schema";
import { type DesignEvaluation, evaluateDesign } from "../cutters/solve/evaluate";
import { type CutPair, cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { evaluatePlan, type PlanEvaluation } from "../plans/evaluate";
import type { Plan } from "../plans/plan";

/** What a rig is among: the cutter that hangs in it, and the plan it cuts. */
export interface RigSurroundings {
  cutter: { design: Design; evaluation: DesignEvaluation; pair: CutPair; heatWPerM: number } | null;
  plan: { plan: Plan; evaluation: PlanEvaluation } | null;
  cut: Cut;
}

/** The cut a rig computes with. */
export interface Cut {
  /** of the cutter; false where it is the workshop's habit */
  computed: boolean;
  wireMm: number;
  feedMmS: number;
  kerfMm: number;
  /** on each metre in the foam at that feed */
  dragNPerM: number;
  referenceDragNPerM: number;
  maxFeedMmS: number;
  tensionN: number;
}

/** Without a cutter: a thin wire in light board, about 1 mm lost a face, drag as 2.5 to 3 N on 1.2 m (common practice). */
const HABIT: Cut = { computed: false, wireMm: 0.5, feedMmS: 5, kerfMm: 1.6, dragNPerM: 2.2, referenceDragNPerM: 2.2, maxFeedMmS: 10, tensionN: 60 };

/** At or over the top feed drag has no figure: what it is a little below that represents it. */
const NEAR_TOP = 0.98;

export function around(design: Design | null, plan: Plan | null): RigSurroundings {
  const answered = plan ? { plan, evaluation: evaluatePlan(plan, design, false) } : null;
  if (!design) return { cutter: null, plan: answered, cut: HABIT };
  const evaluation = evaluateDesign(design);
  const { pair, cut } = evaluation;
  const x = Math.min(NEAR_TOP, cut.feedRatio);
  const ref = referenceDragNPerM(pair);
  return {
    cutter: { design, evaluation, pair, heatWPerM: cut.powerWPerM },
    plan: answered,
    cut: {
      computed: true,
      wireMm: pair.wire.outerDiameterM * 1000,
      feedMmS: design.job.feed_mm_s,
      kerfMm: cut.kerfM * 1000,
      dragNPerM: cut.dragNPerM ?? (ref * x) / (1 - x),
      referenceDragNPerM: ref,
      maxFeedMmS: cut.maxFeedMPerS * 1000,
      tensionN: design.tension.hot_N,
    },
  };
}

/** Kerf at another feed of the same heat, mm: as the feed's inverse. */
export const kerfAt = ({ kerfMm, feedMmS }: Cut, mmS: number): number => (kerfMm * feedMmS) / mmS;

/** Drag at another feed of the same heat, N/m; null at or over the top feed. */
export function dragAt({ referenceDragNPerM: ref, maxFeedMmS }: Cut, mmS: number): number | null {
  const x = mmS / maxFeedMmS;
  return x < 1 ? (ref * x) / (1 - x) : null;
}

/** The feed at which drag comes to so much, mm/s; none under no pull. */
export const feedUnder = ({ referenceDragNPerM: ref, maxFeedMmS }: Cut, dragNPerM: number): number =>
  dragNPerM <= 0 ? 0 : (maxFeedMmS * dragNPerM) / (dragNPerM + ref);

/** The top feed at another heat, mm/s; the cutter's own without one. */
export const topFeedAt = ({ cutter, cut }: RigSurroundings, powerWPerM: number): number =>
  cutter ? cutAtPower(cutter.pair, Math.max(0.05, cut.feedMmS) / 1000, powerWPerM).maxFeedMPerS * 1000 : cut.maxFeedMmS;
