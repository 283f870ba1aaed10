import { useEffect, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import { evaluatePlan, type PlanAnswer } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import { knowFont, OWN_FONT } from "@/core/plans/shapes/text";
import { useCalm } from "../../kit/useCalm";

let lettering: Promise<void> | null = null;
/** The app's own lettering, fetched once by the page that first draws letters. */
const fetchLettering = () => {
  lettering ??= fetch("/api/lettering")
    .then((response) => (response.ok ? response.arrayBuffer() : Promise.reject(new Error(`the lettering did not come: ${response.status}`))))
    .then((bytes) => knowFont(OWN_FONT, () => bytes))
    .catch((error) => {
      // Asked for again by whoever needs it next.
      lettering = null;
      throw error;
    });
  return lettering;
};

export type Answered = { answer: PlanAnswer; fault: null } | { answer: null; fault: string };

const lettered = (plan: Plan) => plan.root.shape.kind === "text" || plan.tip?.shape.kind === "text";

function answered(plan: Plan, design: Design | null, withLosses: boolean): Answered {
  try {
    return { answer: evaluatePlan(plan, design, withLosses), fault: null };
  } catch (error) {
    if (error instanceof CoreError) return { answer: null, fault: error.message };
    throw error;
  }
}

/**
 * The plan worked out as it is changed: everything but what is lost at once, what is lost when the hand rests.
 * @returns null while letters that it needs are still on their way
 */
export function usePlanAnswer(plan: Plan, design: Design | null): Answered | null {
  const needs = lettered(plan);
  const [ready, setReady] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (needs)
      fetchLettering().then(
        () => setReady(true),
        (error: Error) => setFault(error.message),
      );
  }, [needs]);
  const may = !needs || ready;
  const now = useMemo(() => ({ plan, design }), [plan, design]);
  const calm = useCalm(now);
  const whole = useMemo(() => (may && calm === now ? answered(calm.plan, calm.design, true) : null), [may, calm, now]);
  const quick = useMemo(() => (may && whole === null ? answered(plan, design, false) : null), [may, whole, plan, design]);
  if (fault) return { answer: null, fault };
  return whole ?? quick;
}
