import type { CutBands } from "../../physics/cut/uncertainty";
import type { BatteryRun } from "../../physics/power/powerAdvice";
import type { Design } from "../design/schema";
import { bandsOf, batteryRunOf, type HeatCourse, heatCourseOf } from "./beside";
import { findCures } from "./cures";
import type { Cure } from "./cureWords";
import { type DesignAnswer, evaluateDesign } from "./evaluate";
import { type KnobCurve, knobCurve } from "./knobCurve";

/** What may come a moment after the figures: many solutions each, so they are worked out next to the page and not within a frame. Plain data, fit to cross to a worker. */
export interface LateAnswer {
  course: HeatCourse;
  bands: CutBands;
  curve: KnobCurve | null;
  run: BatteryRun | null;
  /** Smallest single changes that fix it; empty for a clean one. */
  cures: Cure[];
}

/** Everything about a design that takes longer than a frame. @throws CoreError as `evaluateDesign` does */
export function lateAnswerOf(design: Design, answer: DesignAnswer = evaluateDesign(design)): LateAnswer {
  return {
    course: heatCourseOf(design, answer),
    bands: bandsOf(design, answer),
    curve: knobCurve(design),
    run: batteryRunOf(design),
    cures: findCures(design),
  };
}
