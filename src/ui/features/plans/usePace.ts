import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import { facesOf, type PaceJob, type PlanPaceAnswer, paceJob } from "@/core/pace/planPace";
import type { PlanAnswer } from "@/core/plans/evaluate";
import type { Face } from "@/core/plans/guide";
import type { Plan } from "@/core/plans/plan";
import { useQuestion } from "../../kit/address";
import { useCalm } from "../../kit/useCalm";
import { useEngine } from "../../kit/useEngine";

/** Which of a plan's faces is open, kept in the address. */
export function useFace(plan: Plan): [Face, (face: Face) => void, Face[]] {
  const [asked, ask] = useQuestion("face");
  const faces = facesOf(plan);
  const face = faces.find((each) => each === asked) ?? (faces[0] as Face);
  return [face, (next) => ask(next === faces[0] ? "" : next), faces];
}

/** Paces found on this page: to call one out does not look for it again. */
const FOUND = new Map<string, PlanPaceAnswer>();

/** One face's pace, found next to the page when the hand rests. */
export function usePace(plan: Plan, answer: PlanAnswer, face: Face, wanted = true) {
  const asked = useMemo((): { job: PaceJob | null; fault: string | null } => {
    if (!wanted) return { job: null, fault: null };
    try {
      return { job: paceJob(plan, answer, face), fault: null };
    } catch (error) {
      if (error instanceof CoreError) return { job: null, fault: error.message };
      throw error;
    }
  }, [plan, answer, face, wanted]);
  const design: Design | null = answer.cutter?.design ?? null;
  const question = useMemo(() => (asked.job && design ? { job: asked.job, design } : null), [asked, design]);
  const calm = useCalm(question);
  const engine = useEngine("pace", calm, FOUND);
  return {
    job: asked.job,
    fault: asked.fault ?? (calm ? engine.fault : null),
    found: question ? engine.result : null,
    current: engine.current && calm === question,
    far: engine.far,
  };
}
