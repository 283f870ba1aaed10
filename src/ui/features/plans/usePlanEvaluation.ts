import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import { evaluatePanels, type PanelEvaluation } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import { useLettering } from "../../kit/useLettering";
import { useThrottled } from "../../kit/useThrottled";

export type Evaluated = { panel: PanelEvaluation; fault: null } | { panel: null; fault: string };

function evaluated(plan: Plan, design: Design | null, panel: number, withLosses: boolean): Evaluated {
  try {
    return { panel: evaluatePanels(plan, design, withLosses, panel)[panel] as PanelEvaluation, fault: null };
  } catch (error) {
    if (error instanceof CoreError) return { panel: null, fault: error.message };
    throw error;
  }
}

/**
 * One panel of the plan worked out as it is changed: everything but what is lost at once, what is lost when the hand rests.
 * @returns null while letters that it needs are still on their way
 */
export function usePlanEvaluation(plan: Plan, design: Design | null, panel: number): Evaluated | null {
  const { ready: may, fault } = useLettering(plan);
  const now = useMemo(() => ({ plan, design, panel }), [plan, design, panel]);
  const throttled = useThrottled(now);
  const whole = useMemo(() => (may && throttled === now ? evaluated(throttled.plan, throttled.design, throttled.panel, true) : null), [may, throttled, now]);
  const quick = useMemo(() => (may && whole === null ? evaluated(plan, design, panel, false) : null), [may, whole, plan, design, panel]);
  if (fault) return { panel: null, fault };
  return whole ?? quick;
}
