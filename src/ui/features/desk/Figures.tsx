"use client";
import { memo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { noCut } from "@/core/cutters/solve/describe";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { CUT_TIME, KERF_GAP } from "@/core/physics/cut/cut";
import { BARE_WIRE_BALANCE } from "@/core/physics/heat/bareWire";
import { WIRE_RESISTANCE } from "@/core/physics/heat/wire";
import { HOT_TENSION } from "@/core/physics/mechanics/tension";
import { OHMS_LAW } from "@/core/physics/power/circuit";
import { controlRecord } from "@/core/physics/power/controls";
import { supplyEmfV } from "@/core/physics/power/supplies";
import { trim } from "@/core/units/trim";
import type { DeferredOf } from "../../kit/useDeferredEvaluation";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { figureRows } from "./figureRows";

/** The four live figures under the rod, each next to the thing it measures. */
export function LiveFigures({ design, evaluation }: { design: Design; evaluation: DesignEvaluation }) {
  const { show } = useUnits();
  const { circuit, cut, tension } = evaluation;
  const held = evaluation.verdict === "overload" ? "if it held: " : "";
  const none = noCut(evaluation);
  return (
    <div className="figures-strip">
      <div>
        <span className="live-figure num" data-figure="volts-amps">
          {show("voltage", circuit.wireVoltageV)} · {show("current", circuit.currentA)}
        </span>
        <span className="live-label">{held}on the wire, rms</span>
        <Why
          of="current"
          relation={controlRecord(design.control.kind).law ?? OHMS_LAW}
          inputs={`${show("voltage", supplyEmfV(design.supply))} into ${show("resistance", circuit.hotOhm)} of hot wire and ${show("resistance", circuit.leadsOhm)} of leads; ${show("current", circuit.onCurrentA)} while on; solved in ${circuit.iterations} steps.`}
        />
      </div>
      <div>
        <span className="live-figure num" data-figure="heat">
          {none ?? show("heat", cut.powerWPerM)}
        </span>
        <span className="live-label">{none ? "no heat in a cut" : "in the cut"}</span>
        <Why
          of="heat"
          relation={WIRE_RESISTANCE}
          inputs={
            none
              ? `${none}: there is no cut to bring heat to.`
              : `${show("current", circuit.currentA)} squared times the wire's ohms per length at ${show("temperature", cut.wireC)}.`
          }
        />
      </div>
      <div>
        <span className="live-figure num" data-figure="temperature">
          {show("temperature", circuit.wireC)} · {none ? "–" : show("temperature", cut.wireC)}
        </span>
        <span className="live-label">
          {held}in air · {none ?? "in the cut"}
        </span>
        <Why
          of="temperature in air"
          relation={BARE_WIRE_BALANCE}
          inputs={`${show("current", circuit.currentA)} in ${show("diameter", evaluation.wire.diameterM * 1000)} wire, room at ${show("temperature", design.ambient_C)}.`}
        />
        {!none && (
          <Why
            of="temperature in the cut"
            relation={KERF_GAP}
            inputs={`${show("heat", cut.powerWPerM)} across a kerf of ${show("kerf", cut.kerfM * 1000)} round ${show("diameter", evaluation.wire.outerDiameterM * 1000)} wire.`}
          />
        )}
      </div>
      <div>
        <span className="live-figure num" data-figure="tension">
          {trim(show("force", design.tension.hot_N))} · {trim(show("force", tension.coldN, tension.coldN < 100 ? 1 : 0))}
        </span>
        <span className="live-label">tension, hot · cold</span>
        <Why
          of="tension"
          relation={HOT_TENSION}
          inputs={`set to ${trim(show("force", design.tension.hot_N))} hot; the wire grows ${show("kerf", tension.growthM * 1000)} by ${show("temperature", Math.max(circuit.wireC, cut.wireC))}; this wire withstands ${show("force", tension.hotLimits.recommendedN)} there. Plucked cold it sings ${tension.pitchColdHz.toFixed(0)} Hz.`}
        />
      </div>
    </div>
  );
}

/** The parts' figures below the sentence. */
export const PartFigures = memo(function PartFigures({ design, evaluation, deferred }: { design: Design; evaluation: DesignEvaluation; deferred: DeferredOf }) {
  const { show } = useUnits();
  const cutSeconds = design.job.thickness_mm / design.job.feed_mm_s;
  return (
    <dl className="part-figures">
      {figureRows({ design, evaluation, deferred, show }).map((row) => (
        <div key={row.of} style={{ display: "contents" }}>
          <dt>{row.label}</dt>
          <dd className="num" data-figure={row.of}>
            {row.value}
          </dd>
          <dd>
            <Why of={row.of} relation={row.relation} inputs={row.inputs} />
          </dd>
        </div>
      ))}
      <dt>Time through the block</dt>
      <dd className="num">{cutSeconds >= 60 ? `${(cutSeconds / 60).toFixed(1)} min` : `${cutSeconds.toFixed(0)} s`}</dd>
      <dd>
        <Why of="cut time" relation={CUT_TIME} inputs={`${show("length", design.job.thickness_mm)} at ${show("feed", design.job.feed_mm_s)}.`} />
      </dd>
    </dl>
  );
});
