"use client";
import Slider from "@mui/material/Slider";
import { memo, useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { type DesignEvaluation, type KnobState as KnobValue, knobOf, settingForHeat } from "@/core/cutters/solve/evaluate";
import { KNOB_CURVE, type KnobCurve } from "@/core/cutters/solve/knobCurve";
import { knobLook } from "@/core/physics/power/controls";

import { type Units, useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

/** Fewer steps than this across the clean stretch make a knob hard to set (this project's judgement). */
const FEW_STEPS = 8;

const TRACE = { width: 300, height: 46 } as const;

/** Heat in the cut over the knob's whole travel, on the same scale as the slider below it; the clean heats as a band. */
const KnobTrace = memo(function KnobTrace({ curve, evaluation, label }: { curve: KnobCurve; evaluation: DesignEvaluation; label: string }) {
  const { knob, points } = curve;
  const { heats } = evaluation;
  const top = Math.max(1, ...points.map((point) => point.heatWPerM));
  const x = (setting: number) => (TRACE.width * (setting - knob.min)) / (knob.max - knob.min);
  const y = (heat: number) => TRACE.height - 1 - (Math.min(heat, top) / top) * (TRACE.height - 3);
  const held = points.filter((point) => point.state !== "overload");
  const line = (some: typeof points) =>
    some.length > 1 ? `M${some.map((point) => `${x(point.setting).toFixed(1)} ${y(point.heatWPerM).toFixed(1)}`).join("L")}` : "";
  return (
    <div style={{ padding: "0 10px" }}>
      <svg
        viewBox={`0 0 ${TRACE.width} ${TRACE.height}`}
        preserveAspectRatio="none"
        style={{ display: "block", width: "100%", height: TRACE.height }}
        role="img"
        aria-label={label}
      >
        {heats.to > heats.from && heats.from < top && (
          <rect x={0} width={TRACE.width} y={y(heats.to)} height={Math.max(1, y(heats.from) - y(heats.to))} fill="var(--paper-bright)" stroke="var(--line)" />
        )}
        <path d={line(points)} fill="none" stroke="var(--graphite-soft)" strokeWidth={1.5} strokeDasharray="3 4" vectorEffect="non-scaling-stroke" />
        <path d={line(held)} fill="none" stroke="var(--amber)" strokeWidth={2.4} vectorEffect="non-scaling-stroke" />
        <path d={`M${x(knob.value)} 0V${TRACE.height}`} stroke="var(--graphite)" strokeWidth={1} vectorEffect="non-scaling-stroke" />
      </svg>
    </div>
  );
});

/** Where on the knob's travel a cut is clean. */
function stretchOf(design: Design, evaluation: DesignEvaluation) {
  const knob = knobOf(design);
  if (!knob) return null;
  const { heats, reach, pair } = evaluation;
  const span = heats.to > heats.from;
  // Heats beyond the knob's ends come back as its ends, or past them for duty and volts: the stretch that is both clean and on the track.
  const reachable = span && heats.from <= reach.toWPerM && heats.to >= reach.fromWPerM;
  const ends = [heats.from, heats.to].map((heat) => Math.min(knob.max, Math.max(knob.min, settingForHeat(design, heat, pair) ?? 0)));
  return {
    reachable,
    from: Math.min(...ends),
    to: Math.max(...ends),
    endsThere: heats.to > reach.toWPerM,
    none: !span
      ? "no setting is clean at this feed with this wire"
      : heats.from > reach.toWPerM
        ? "even at its end this knob does not bring enough heat"
        : "even turned right down this knob leaves too much heat",
  };
}

/** The slider itself: drawn again only when its own setting moves. */
const Thumb = memo(function Thumb({ kind, value, min, max, step, onSet }: Omit<KnobValue, "rising"> & { onSet: (setting: number) => void }) {
  const { show } = useUnits();
  const look = knobLook(kind);
  return (
    <Slider
      aria-label={look.name}
      value={Number((value * look.scale).toFixed(3))}
      min={min * look.scale}
      max={max * look.scale}
      step={step * look.scale}
      getAriaValueText={(shown) => knobWords(kind, shown / look.scale, show)}
      onChange={(_, shown) => onSet(Number(((shown as number) / look.scale).toFixed(6)))}
    />
  );
});

function knobWords(kind: string, setting: number, show: Units["show"]): string {
  const look = knobLook(kind);
  return kind === "live" ? show("length", setting) : `${(setting * look.scale).toFixed(look.decimals)} ${look.unit}`;
}

/** The one knob that sets the heat, with the clean stretch marked on its track. The thumb follows the hand, the rest is read and comes in steps. */
export const Knob = memo(function Knob({
  design,
  throttled,
  curve,
  onSet,
}: {
  design: Design;
  throttled: { design: Design; evaluation: DesignEvaluation };
  curve: KnobCurve | null;
  onSet: (setting: number) => void;
}) {
  const { show } = useUnits();
  const stretch = useMemo(() => stretchOf(throttled.design, throttled.evaluation), [throttled.design, throttled.evaluation]);
  const knob = knobOf(design);
  if (!knob) {
    return (
      <p style={{ margin: "4px 0 10px", fontSize: 15 }}>
        No knob: this supply heats the wire one way only. Add a control, or choose a bench supply, to turn the heat.
      </p>
    );
  }
  const look = knobLook(knob.kind);
  const words = (setting: number) => knobWords(knob.kind, setting, show);
  const share = (value: number) => `${(100 * (value - knob.min)) / (knob.max - knob.min)}%`;
  return (
    <div style={{ margin: "2px 0 10px" }}>
      <div style={{ display: "flex", justifyContent: "space-between", fontSize: 15 }}>
        <span>{look.name}</span>
        <span className="num" style={{ fontSize: 19, fontWeight: 600 }}>
          {words(knob.value)}
        </span>
      </div>
      {curve && <KnobTrace curve={curve} evaluation={throttled.evaluation} label={`${look.name}: heat in the cut over its whole range`} />}
      <div style={{ position: "relative", padding: "0 10px" }}>
        <div style={{ position: "absolute", left: 10, right: 10, top: 8, height: 22, pointerEvents: "none" }}>
          {stretch?.reachable && (
            <div className="clean-stretch" style={{ left: share(stretch.from), width: `calc(${share(stretch.to)} - ${share(stretch.from)})` }} />
          )}
        </div>
        <Thumb kind={knob.kind} value={knob.value} min={knob.min} max={knob.max} step={knob.step} onSet={onSet} />
      </div>
      {stretch && (
        <div style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
          {stretch.reachable ? (
            <>
              clean from <span className="num">{words(stretch.from).replace(/ .*/, "")}</span> to <span className="num">{words(stretch.to)}</span>
              {stretch.endsThere ? ", where the knob ends" : ""}
              {curve?.clean && (
                <>
                  ; one step there is up to <span className="num">{show("heat", curve.coarsestWPerM, 1)}</span>
                  {curve.stepsInClean < FEW_STEPS && ", a coarse knob for this job"}{" "}
                  <Why
                    of="knob"
                    relation={KNOB_CURVE}
                    inputs={`${Math.floor(curve.stepsInClean)} steps of ${(curve.knob.step * look.scale).toFixed(look.decimals)} ${look.unit} lie in the clean stretch, ${Math.round(100 * curve.cleanShare)} % of its travel.`}
                  />
                </>
              )}
            </>
          ) : (
            stretch.none
          )}
        </div>
      )}
    </div>
  );
});
