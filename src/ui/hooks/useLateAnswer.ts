import { useDeferredValue, useMemo } from "react";
import { bandsOf, batteryRunOf, type DesignAnswer, type HeatCourse, heatCourseOf } from "@/core/design/evaluate";
import { type KnobCurve, knobCurve } from "@/core/design/knobCurve";
import type { Design } from "@/core/design/schema";
import type { BatteryRun } from "@/core/models/powerAdvice";
import type { CutBands } from "@/core/models/uncertainty";

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
