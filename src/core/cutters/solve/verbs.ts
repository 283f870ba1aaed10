import { DEMO_CUTTERS, DEMO_FRAME } from "@/core/cutters/design/demoCutters";
import { migrateDesign } from "@/core/cutters/design/fileFormat";
import type { Design } from "@/core/cutters/design/schema";
import { describeVerdict, noCut } from "@/core/cutters/solve/describe";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { frameOf } from "@/core/cutters/solve/frameModel";
import { knobCurve } from "@/core/cutters/solve/knobCurve";
import { limitsOf } from "@/core/cutters/solve/report";
import { CoreError } from "@/core/kernel/errors";
import { type Verb, withWarnings } from "@/core/kernel/verb";
import { cutFields } from "@/core/physics/cut/verbs";
import { pitchHz } from "@/core/physics/mechanics/tension";
import { circuitFields } from "@/core/physics/power/verbs";

/** A design file, migrated; its refusals carry the list index. */
export function designFrom(input: unknown, prefix: string): Design {
  try {
    return migrateDesign(input);
  } catch (error) {
    if (!(error instanceof CoreError) || prefix === "") throw error;
    throw new CoreError(error.code, error.path ? `${prefix}.${error.path}` : prefix, error.message);
  }
}

const solveVerb: Verb = {
  name: "solve",
  summary: "A whole design file: its circuit, cut, lag, tension and verdict, every limit with its margin, and its cautions.",
  example: DEMO_CUTTERS[0],
  run: (input, prefix) => {
    const design = designFrom(input, prefix);
    const evaluation = evaluateDesign(design);
    const words = describeVerdict(design, evaluation, "metric");
    const none = noCut(evaluation);
    return withWarnings(
      {
        ...circuitFields(evaluation.circuit),
        // Where there is no cut, the reason is in its place.
        cut: none === null ? cutFields(evaluation.cut) : null,
        ...(none === null ? {} : { noCut: none }),
        resistance_ohm_per_m: evaluation.ohmPerM,
        mass_g_per_m: evaluation.massKgPerM * 1000,
        lag_mm: evaluation.lagM === null || none !== null ? null : evaluation.lagM * 1000,
        dwell_s: none === null ? evaluation.dwellS : null,
        leads_C: evaluation.circuit.leadC,
        joints_C: evaluation.circuit.jointC,
        coldTension_N: evaluation.tension.coldN,
        growth_mm: evaluation.tension.growthM * 1000,
        allowable_N: evaluation.tension.hotLimits.recommendedN,
        tension_N: design.tension.hot_N,
        pitchHot_Hz: pitchHz(evaluation.wire, design.wire.length_mm / 1000, design.tension.hot_N),
        verdict: evaluation.verdict,
        words: `${words.headline} ${words.detail}`,
        ready: { marked: design.ready === true, blockedBy: evaluation.cautions.filter((caution) => caution.blocks).map((caution) => caution.code) },
        limits: limitsOf(design, evaluation),
        cautions: evaluation.cautions.map((caution) => ({
          code: caution.code,
          severity: caution.severity,
          message: caution.words("metric"),
          basis: caution.basis,
          source: caution.source,
        })),
      },
      evaluation.circuit.warnings,
    );
  },
};

const knobVerb: Verb = {
  name: "knob",
  summary: "A whole design file: heat in the cut and top feed over the whole range of its knob, with its clean band and coarsest step. null without a knob.",
  example: DEMO_CUTTERS[1],
  run: (input, prefix) => {
    const curve = knobCurve(designFrom(input, prefix));
    return (
      curve && {
        knob: curve.knob.kind,
        step: curve.knob.step,
        setting: curve.points.map((point) => point.setting),
        heat_W_per_m: curve.points.map((point) => point.heatWPerM),
        maxFeed_mm_s: curve.points.map((point) => point.topFeedMPerS * 1000),
        state: curve.points.map((point) => point.state),
        clean: curve.clean,
        stepsInClean: curve.stepsInClean,
        coarsest_W_per_m: curve.coarsestWPerM,
        cleanShare: curve.cleanShare,
      }
    );
  },
};

const frameVerb: Verb = {
  name: "frame",
  summary:
    "A whole design file with a frame: forces, stresses and movement of its members under the wire's tension, each against what it withstands. null without a frame.",
  example: { ...DEMO_CUTTERS[0], frame: DEMO_FRAME },
  run: (input, prefix) => {
    const design = designFrom(input, prefix);
    const evaluation = frameOf(design);
    return (
      evaluation && {
        checks: evaluation.checks.map(({ part, value, limit, unit, ok, words }) => ({ part, value, limit, unit, ok, words })),
        closes_mm: evaluation.closesM * 1000,
        rate_N_per_mm: evaluation.rateNPerM / 1000,
        ownTension_N: evaluation.ownTensionN,
      }
    );
  },
};

/** The headless verbs of this room. */
export const CUTTER_VERBS: readonly Verb[] = [solveVerb, knobVerb, frameVerb];
