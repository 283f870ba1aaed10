import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import { evaluatePanels, type PanelAnswer } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import { useCalm } from "../../kit/useCalm";
import { useLettering } from "../../kit/useLettering";

export type Answered = { panel: PanelAnswer; fault: null } | { panel: null; fault: string };

function answered(plan: Plan, design: Design | null, panel: number, withLosses: boolean): Answered {
  try {
    return { panel: evaluatePanels(plan, design, withLosses, panel)[panel] as PanelAnswer, fault: null };
  } catch (error) {
    if (error instanceof CoreError) return { panel: null, fault: error.message };
    throw error;
  }
}

/**
 * One panel of the plan worked out as it is changed: everything but what is lost at once, what is lost when the hand rests.
 * @returns null while letters that it needs are still on their way
 */
export function usePlanAnswer(plan: Plan, design: Design | null, panel: number): Answered | null {
  const { ready: may, fault } = useLettering(plan);
  const now = useMemo(() => ({ plan, design, panel }), [plan, design, panel]);
  const calm = useCalm(now);
  const whole = useMemo(() => (may && calm === now ? answered(calm.plan, calm.design, calm.panel, true) : null), [may, calm, now]);
  const quick = useMemo(() => (may && whole === null ? answered(plan, design, panel, false) : null), [may, whole, plan, design, panel]);
  if (fault) return { panel: null, fault };
  return whole ?? quick;
}
