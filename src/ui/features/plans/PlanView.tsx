"use client";
import Alert from "@mui/material/Alert";
import { useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import type { Board } from "@/core/plans/cutList";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import type { FinishedRun } from "@/core/plans/runRecord";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { BlankView } from "./BlankView";
import { ComesOut } from "./ComesOut";
import { CutView } from "./CutView";
import { EndsView } from "./EndsView";
import { FinishView } from "./FinishView";
import { FlatTemplates } from "./FlatTemplates";
import { Loupe } from "./Loupe";
import { OutView } from "./OutView";
import { PaceView } from "./PaceView";
import { PlanWindow } from "./PlanWindow";
import { PracticeView } from "./PracticeView";
import { firstLook } from "./planView";
import type { PlanStep } from "./steps";

/**
 * The view of a plan's open step.
 * @param shown the open panel as a plan of its own; `plan` is the whole
 * @param motors the name of the frame that cuts it, null where hands do
 */
export function PlanView({
  id,
  step,
  plan,
  shown,
  panel,
  evaluation,
  fault,
  design,
  cutterEvaluation,
  boards,
  motors,
  change,
  onMade,
  onRun,
}: {
  id: string;
  step: PlanStep;
  plan: Plan;
  shown: Plan;
  panel: number;
  evaluation: PlanEvaluation | null;
  fault: string | null;
  design: Design | null;
  cutterEvaluation: DesignEvaluation | null;
  boards: readonly Board[];
  motors: string | null;
  change: (next: Plan, key?: string) => void;
  onMade: (evaluation: PlanEvaluation) => Promise<boolean>;
  onRun: (run: FinishedRun, evaluation: PlanEvaluation) => Promise<void>;
}) {
  const [look, setLook] = useState(() => firstLook(plan.part.span_mm, plan.root.chord_mm ?? 1000));
  const widest = evaluation ? Math.max(evaluation.root.kerfMm, evaluation.tip.kerfMm) + 2 * shown.part.skin_mm : 1;
  return (
    <>
      {fault && (
        <Alert severity="error" role="alert">
          This cannot be drawn: {fault}
        </Alert>
      )}
      {evaluation && step === "part" && (
        <>
          <InstrumentBoundary name="the drawing">
            <ComesOut plan={shown} evaluation={evaluation} look={look} onLook={setLook} />
          </InstrumentBoundary>
          <div className="plan-instruments">
            {evaluation.cutter &&
              (shown.tip ? (["root", "tip"] as const) : (["root"] as const)).map((end) => (
                <Loupe key={end} name={end} end={evaluation[end]} plan={shown} wireMm={evaluation.cutter?.wireMm ?? 0.5} pxPerMm={112 / widest} />
              ))}
            {cutterEvaluation && (
              <InstrumentBoundary name="the cutting window">
                <PlanWindow plan={evaluation} cutter={cutterEvaluation} oneEnd={shown.tip === null} />
              </InstrumentBoundary>
            )}
          </div>
        </>
      )}
      {evaluation && step === "ends" && <EndsView plan={shown} evaluation={evaluation} onChange={change} />}
      {motors !== null && (step === "templates" || step === "out") && (
        <Alert severity="info" sx={{ mb: 1 }}>
          The motors of {motors} cut this plan: templates are only for cutting it by hand.
        </Alert>
      )}
      {evaluation && step === "templates" && <FlatTemplates plan={shown} evaluation={evaluation} />}
      {evaluation && step === "pace" && (
        <PaceView
          plan={shown}
          evaluation={evaluation}
          onChange={change}
          onCut={() => {
            const face = new URLSearchParams(window.location.search).get("face");
            window.history.pushState(
              null,
              "",
              `/plans/${id}/cut?${new URLSearchParams({ ...(panel > 0 ? { panel: String(panel + 1) } : {}), ...(face ? { face } : {}) })}`,
            );
          }}
          sheet={`/api/plans/${id}/sheet?panel=${panel + 1}`}
        />
      )}
      {evaluation && step === "cut" && (
        <CutView id={id} plan={shown} panel={panel} evaluation={evaluation} onClose={() => window.history.back()} onDone={(run) => onRun(run, evaluation)} />
      )}
      {evaluation && step === "practice" && <PracticeView plan={shown} evaluation={evaluation} />}
      {evaluation && step === "finish" && <FinishView plan={shown} evaluation={evaluation} onChange={change} />}
      {evaluation && step === "blank" && (
        <InstrumentBoundary name="the blank">
          <BlankView plan={shown} evaluation={evaluation} boards={boards} whole={plan} design={design} onChange={change} />
        </InstrumentBoundary>
      )}
      {/* Another panel than the one that is shown may be one that cannot be drawn. */}
      {evaluation && step === "out" && (
        <InstrumentBoundary name="what is given out">
          <OutView id={id} plan={plan} design={design} onMade={onMade} />
        </InstrumentBoundary>
      )}
    </>
  );
}
