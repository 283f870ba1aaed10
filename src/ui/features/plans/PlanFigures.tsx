"use client";
import { MOVING_LINE_SOURCE } from "@/core/physics/heat/movingLineSource";
import { ENDS, type PlanEvaluation } from "@/core/plans/evaluate";
import { ALLOWANCE } from "@/core/plans/guide";
import type { Plan } from "@/core/plans/plan";
import { TAPER } from "@/core/plans/taper";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

/** Each end's figures side by side, each with its why. */
export function PlanFigures({ plan, evaluation }: { plan: Plan; evaluation: PlanEvaluation }) {
  const { show } = useUnits();
  const { cutter } = evaluation;
  const each = (read: (end: PlanEvaluation["root"]) => string) =>
    ENDS.map((end) => (
      <td key={end} className="num" data-end={end}>
        {read(evaluation[end])}
      </td>
    ));
  return (
    <table className="plan-figures">
      <thead>
        <tr>
          <td />
          <th scope="col">root</th>
          <th scope="col">tip</th>
          <td />
        </tr>
      </thead>
      <tbody>
        <tr data-figure="feed">
          <th scope="row">Feed</th>
          {each((end) => show("feed", end.feedMmS))}
          <td>
            <Why of="feed" relation={TAPER} inputs={`the tip's way is ${evaluation.ratio.toFixed(3)} of the root's.`} />
          </td>
        </tr>
        <tr data-figure="kerf">
          <th scope="row">Kerf</th>
          {each((end) => `${show("kerf", end.kerfMm)}${end.measured ? " measured" : ""}`)}
          <td>
            <Why
              of="kerf"
              relation={MOVING_LINE_SOURCE}
              inputs={
                cutter
                  ? `${show("heat", cutter.heatWPerM)} of ${cutter.name}, in ${cutter.pair.foam.name}.${ENDS.map((end) => (evaluation[end].band ? ` Nine times in ten at the ${end} between ${show("kerf", (evaluation[end].band?.low ?? 0) * 1000)} and ${show("kerf", (evaluation[end].band?.high ?? 0) * 1000)}.` : "")).join("")}`
                  : "no cutter is named: a workshop's habit."
              }
            />
          </td>
        </tr>
        <tr data-figure="guide">
          <th scope="row">Guide offset</th>
          {each((end) => show("kerf", end.guideMm))}
          <td>
            <Why
              of="allowance"
              relation={ALLOWANCE}
              inputs={`${plan.cut.guidance === "edge" ? "an edge" : "its centre"} is led; skin ${show("kerf", plan.part.skin_mm)}.`}
            />
          </td>
        </tr>
        <tr data-figure="wire">
          <th scope="row">Wire in the cut</th>
          {each((end) => (end.cut ? show("temperature", end.cut.wireC) : "–"))}
          <td />
        </tr>
        <tr data-figure="load">
          <th scope="row">Of its top feed</th>
          {each((end) => (end.cut ? `${Math.min(999, 100 * end.cut.feedRatio).toFixed(0)} %` : "–"))}
          <td />
        </tr>
      </tbody>
    </table>
  );
}
