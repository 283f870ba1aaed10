"use client";
import { useEffect, useState } from "react";
import type { PaceJob, PlanPaceResult } from "@/core/pace/planPace";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import type { FinishedRun } from "@/core/plans/runRecord";
import { seen } from "../../kit/lastSeen";
import { Pacer } from "./Pacer";
import { FACE_NAMES } from "./PaceView";
import { useFace, usePace } from "./usePace";

/** The pacer over the whole page, once the pace is found. */
export function CutView({
  id,
  plan,
  panel,
  evaluation,
  onClose,
  onDone,
}: {
  id: string;
  plan: Plan;
  panel: number;
  evaluation: PlanEvaluation;
  onClose: () => void;
  onDone: (run: FinishedRun) => Promise<void>;
}) {
  const [face] = useFace(plan);
  const { job, fault, found, current, far } = usePace(plan, evaluation, face);
  // A cut goes on by the pace it began with, even if the plan changes meanwhile, for instance when it is marked as cut.
  const [held, setHeld] = useState<{ face: string; rows: PlanPaceResult["rows"]; job: PaceJob } | null>(null);
  useEffect(() => {
    if (found && current && job) setHeld((before) => (before?.face === face ? before : { face, rows: found.rows, job }));
  }, [found, current, face, job]);
  useEffect(() => {
    if (held) seen({ pace: { name: plan.name, face: FACE_NAMES[face], rows: held.rows, parts: plan.stations.parts } });
  }, [held, plan.name, face, plan.stations.parts]);
  if (held?.face === face)
    return (
      <Pacer
        key={face}
        plan={plan}
        evaluation={evaluation}
        face={face}
        rows={held.rows}
        job={held.job}
        storeKey={`pacer ${id} ${panel} ${face}`}
        onClose={onClose}
        onDone={onDone}
      />
    );
  return (
    <section className="pacer" aria-label="Pacer">
      <header>
        <button type="button" onClick={onClose}>
          Back
        </button>
      </header>
      <p style={{ padding: 20, fontSize: 22 }} role="status">
        {fault ??
          (evaluation.cutter
            ? `Looking for the fastest pace${far ? `: ${far.doing}` : ""}…`
            : "Name the cutter this is meant for: without it there is no pace to call.")}
      </p>
    </section>
  );
}
