"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import type { FrameRig } from "@/core/rigs/frame/fields";
import { travelMisfits } from "@/core/rigs/frame/travel";

/** A motorised frame that names the plan. */
export interface PlanFrame {
  id: string;
  name: string;
  rig: FrameRig;
}

/** Where a plan does not fit its cutter, or a frame that cuts it, with what would put it right. */
export function PlanMisfits({
  plan,
  evaluation,
  frames,
  cutterId,
  onChange,
  onOtherCutter,
}: {
  plan: Plan;
  evaluation: PlanEvaluation;
  frames: readonly PlanFrame[];
  cutterId: string | null;
  onChange: (plan: Plan, key: string) => void;
  onOtherCutter: () => void;
}) {
  const onFrames = frames.flatMap((frame) => travelMisfits(frame.rig, plan, evaluation).map((misfit) => ({ frame, misfit })));
  return (
    <>
      {evaluation.misfits.map(({ code, words, cures }) => (
        <Alert key={code} severity="error" role="alert" data-misfit={code} sx={{ my: 1 }}>
          {words}
          <div className="misfit-cures">
            {cures.map((cure) => (
              <Button
                key={cure.words}
                size="small"
                variant="outlined"
                {...(cure.open === "cutter" && cutterId ? { href: `/cutters/${cutterId}` } : {})}
                onClick={cure.plan ? () => onChange(cure.plan as Plan, code) : cure.open === "other-cutter" ? onOtherCutter : undefined}
              >
                {cure.words}
              </Button>
            ))}
          </div>
        </Alert>
      ))}
      {onFrames.map(({ frame, misfit: { code, axis, words, cures } }) => (
        <Alert key={`${frame.id} ${code} ${axis}`} severity="warning" data-misfit={code} sx={{ my: 1 }}>
          On {frame.name}: {words}
          <div className="misfit-cures">
            {cures.map(({ words: label, plan: changed }) =>
              changed ? (
                <Button key={label} size="small" variant="outlined" onClick={() => onChange(changed, code)}>
                  {label}
                </Button>
              ) : (
                <Button key={label} size="small" variant="outlined" href={`/rigs/${frame.id}/program`}>
                  {label}: open the frame
                </Button>
              ),
            )}
          </div>
        </Alert>
      ))}
    </>
  );
}
