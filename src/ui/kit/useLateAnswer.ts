import { useDeferredValue, useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { bandsOf, batteryRunOf, type DesignAnswer, type HeatCourse, heatCourseOf } from "@/core/cutters/solve/evaluate";
import { type KnobCurve, knobCurve } from "@/core/cutters/solve/knobCurve";
import type { CutBands } from "@/core/physics/cut/uncertainty";
import type { BatteryRun } from "@/core/physics/power/powerAdvice";

/** What may come a moment after the figures: many solutions each, worked out once the hand rests. */
export interface LateAnswer {
  /** What these figures are of: a design that is no longer the open one while a hand is moving. */
  of: Design;
  course: HeatCourse;
  bands: CutBands;
  curve: KnobCurve | null;
  run: BatteryRun | null;
}

export function useLateAnswer(design: Design, answer: DesignAnswer): LateAnswer {
  const now = useMemo(() => ({ design, answer }), [design, answer]);
  const late = useDeferredValue(now);
  return useMemo(
    () => ({
      of: late.design,
      course: heatCourseOf(late.design, late.answer),
      bands: bandsOf(late.design, late.answer),
      curve: knobCurve(late.design),
      run: batteryRunOf(late.design),
    }),
    [late],
  );
}
