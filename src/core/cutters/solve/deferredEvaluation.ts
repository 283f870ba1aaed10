import type { CutBands } from "../../physics/cut/uncertainty";
import type { BatteryRun } from "../../physics/power/powerAdvice";
import type { Design } from "../design/schema";
import { findCures } from "./cures";
import type { Cure } from "./cureWords";
import { bandsOf, batteryRunOf, type HeatCourse, heatCourseOf } from "./cutBands";
import { type DesignEvaluation, evaluateDesign } from "./evaluate";
import { type KnobCurve, knobCurve } from "./knobCurve";

/** What may come a moment after the figures: many solutions each, so they are worked out next to the page and not within a frame. Plain data, fit to cross to a worker. */
export interface DeferredEvaluation {
  course: HeatCourse;
  bands: CutBands;
  curve: KnobCurve | null;
  run: BatteryRun | null;
  /** Smallest single changes that fix it; empty for a clean one. */
  cures: Cure[];
}

/** Everything about a design that takes longer than a frame. @throws CoreError as `evaluateDesign` does */
export function deferredEvaluationOf(design: Design, evaluation: DesignEvaluation = evaluateDesign(design)): DeferredEvaluation {
  return {
    course: heatCourseOf(design, evaluation),
    bands: bandsOf(design, evaluation),
    curve: knobCurve(design),
    run: batteryRunOf(design),
    cures: findCures(design),
  };
}
