"use client";
import { useMemo } from "react";
import { facesOf } from "@/core/pace/planPace";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import type { PartFace } from "@/core/plans/guide";
import type { Plan } from "@/core/plans/plan";
import { useQueryParameter } from "../../kit/address";
import { Tile } from "../../kit/Tile";
import { PlanDrawing } from "./PlanDrawing";
import type { Look } from "./planView";
import { usePace } from "./usePace";

/** The block as it is planned, and, where asked, the part that will come out over the part wanted. */
export function ComesOut(props: { plan: Plan; evaluation: PlanEvaluation; look: Look; onLook: (look: Look) => void }) {
  const [requested, run] = useQueryParameter("shows");
  const out = requested === "out";
  return (
    <>
      {out ? <Cut {...props} /> : <PlanDrawing {...props} />}
      {props.evaluation.cutter && (
        <p className="plan-shows">
          <Tile chosen={out} onClick={() => run(out ? "" : "out")}>
            what will come out, over what is wanted
          </Tile>
        </p>
      )}
    </>
  );
}

/** Both faces' paces found, and what the wire misses of each at them. */
function Cut({ plan, evaluation, look, onLook }: { plan: Plan; evaluation: PlanEvaluation; look: Look; onLook: (look: Look) => void }) {
  const faces = facesOf(plan);
  const first = usePace(plan, evaluation, faces[0] as PartFace);
  const second = usePace(plan, evaluation, (faces[1] ?? faces[0]) as PartFace, faces.length > 1);
  const sections = useMemo(
    () => [first.current ? first.found : null, second.current ? second.found : null].flatMap((found) => found?.sections ?? []),
    [first.current, first.found, second.current, second.found],
  );
  const fault = first.fault ?? second.fault;
  const waiting = !fault && !(first.current && (faces.length === 1 || second.current));
  return (
    <PlanDrawing
      plan={plan}
      evaluation={evaluation}
      look={look}
      onLook={onLook}
      cut={sections}
      cutWords={fault ? `What comes out is not known: ${fault}` : waiting ? "Looking for the pace…" : null}
    />
  );
}
