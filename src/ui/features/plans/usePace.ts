import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import { facesOf, type PaceJob, type PlanPaceResult, paceJob } from "@/core/pace/planPace";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { PartFace } from "@/core/plans/guide";
import type { Plan } from "@/core/plans/plan";
import { useQueryParameter } from "../../kit/address";
import { useEngine } from "../../kit/useEngine";
import { useThrottled } from "../../kit/useThrottled";

/** Which of a plan's faces is open, kept in the address. */
export function useFace(plan: Plan): [PartFace, (face: PartFace) => void, PartFace[]] {
  const [requested, run] = useQueryParameter("face");
  const faces = facesOf(plan);
  const face = faces.find((each) => each === requested) ?? (faces[0] as PartFace);
  return [face, (next) => run(next === faces[0] ? "" : next), faces];
}

/** Paces found on this page: to call one out does not look for it again. */
const FOUND = new Map<string, PlanPaceResult>();

/** One face's pace, found next to the page when the hand rests. */
export function usePace(plan: Plan, evaluation: PlanEvaluation, face: PartFace, wanted = true) {
  const requested = useMemo((): { job: PaceJob | null; fault: string | null } => {
    if (!wanted) return { job: null, fault: null };
    try {
      return { job: paceJob(plan, evaluation, face), fault: null };
    } catch (error) {
      if (error instanceof CoreError) return { job: null, fault: error.message };
      throw error;
    }
  }, [plan, evaluation, face, wanted]);
  const design: Design | null = evaluation.cutter?.design ?? null;
  const question = useMemo(() => (requested.job && design ? { job: requested.job, design } : null), [requested, design]);
  const throttled = useThrottled(question);
  const engine = useEngine("pace", throttled, FOUND);
  return {
    job: requested.job,
    fault: requested.fault ?? (throttled ? engine.fault : null),
    found: question ? engine.result : null,
    current: engine.current && throttled === question,
    far: engine.far,
  };
}
