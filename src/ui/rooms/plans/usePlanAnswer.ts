import { useEffect, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import { evaluatePanels, type PanelAnswer } from "@/core/plans/panels";
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

export type Answered = { panel: PanelAnswer; fault: null } | { panel: null; fault: string };

/** Whether a plan has letters of the app's own font. */
const lettered = ({ root, tip, panels }: Plan) =>
  [root, tip, ...panels.map((panel) => panel.tip)].some((end) => end?.shape.kind === "text" && end.shape.font_file === undefined);

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
  const now = useMemo(() => ({ plan, design, panel }), [plan, design, panel]);
  const calm = useCalm(now);
  const whole = useMemo(() => (may && calm === now ? answered(calm.plan, calm.design, calm.panel, true) : null), [may, calm, now]);
  const quick = useMemo(() => (may && whole === null ? answered(plan, design, panel, false) : null), [may, whole, plan, design, panel]);
  if (fault) return { panel: null, fault };
  return whole ?? quick;
}
