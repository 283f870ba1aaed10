"use client";
import Slider from "@mui/material/Slider";
import type { Design } from "@/core/cutters/design/schema";
import { type DesignAnswer, knobOf, settingForHeat, withSetting } from "@/core/cutters/solve/evaluate";
import { KNOB_CURVE, type KnobCurve } from "@/core/cutters/solve/knobCurve";
import { knobLook } from "@/core/physics/power/controls";

import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";

/** Fewer steps than this across the clean stretch make a knob hard to set (this project's judgement). */
const FEW_STEPS = 8;

const TRACE = { width: 300, height: 46 } as const;

/** Heat in the cut over the knob's whole travel, on the same scale as the slider below it; the clean heats as a band. */
function KnobTrace({ curve, answer, label }: { curve: KnobCurve; answer: DesignAnswer; label: string }) {
  const { knob, points } = curve;
  const { heats } = answer;
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
}

/** The one knob that sets the heat, with the clean stretch marked on its track. */
export function Knob({ design, answer, curve, onChange }: { design: Design; answer: DesignAnswer; curve: KnobCurve | null; onChange: (next: Design) => void }) {
  const { show } = useUnits();
  const knob = knobOf(design);
  if (!knob) {
    return (
      <p style={{ margin: "4px 0 10px", fontSize: 15 }}>
        No knob: this supply heats the wire one way only. Add a control, or choose a bench supply, to turn the heat.
      </p>
    );
  }
  const look = knobLook(knob.kind);
  const words = (setting: number) => (knob.kind === "live" ? show("length", setting) : `${(setting * look.scale).toFixed(look.decimals)} ${look.unit}`);
  const span = answer.heats.to > answer.heats.from;
  // Heats beyond the knob's ends come back as its ends, or past them for duty and volts: the stretch that is both clean and on the track.
  const coldest = answer.reach.fromWPerM;
  const hottest = answer.reach.toWPerM;
  const reachable = span && answer.heats.from <= hottest && answer.heats.to >= coldest;
  const ends = [answer.heats.from, answer.heats.to].map((heat) => Math.min(knob.max, Math.max(knob.min, settingForHeat(design, heat, answer.pair) ?? 0)));
  const [from, to] = [Math.min(...ends), Math.max(...ends)];
  const share = (value: number) => `${(100 * (value - knob.min)) / (knob.max - knob.min)}%`;
  return (
    <div style={{ margin: "2px 0 10px" }}>
      <div style={{ display: "flex", justifyContent: "space-between", fontSize: 15 }}>
        <span>{look.name}</span>
        <span className="num" style={{ fontSize: 19, fontWeight: 600 }}>
          {words(knob.value)}
        </span>
      </div>
      {curve && <KnobTrace curve={curve} answer={answer} label={`${look.name}: heat in the cut over its whole range`} />}
      <div style={{ position: "relative", padding: "0 10px" }}>
        <div style={{ position: "absolute", left: 10, right: 10, top: 8, height: 22, pointerEvents: "none" }}>
          {reachable && (
            <div
              style={{
                position: "absolute",
                left: share(from),
                width: `calc(${share(to)} - ${share(from)})`,
                height: 22,
                border: "2px solid var(--graphite)",
                borderTop: 0,
                borderBottom: 0,
                background: "var(--paper-bright)",
              }}
            />
          )}
        </div>
        <Slider
          aria-label={look.name}
          value={Number((knob.value * look.scale).toFixed(3))}
          min={knob.min * look.scale}
          max={knob.max * look.scale}
          step={knob.step * look.scale}
          getAriaValueText={(value) => words(value / look.scale)}
          onChange={(_, value) => onChange(withSetting(design, Number(((value as number) / look.scale).toFixed(6))))}
        />
      </div>
      <div style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
        {reachable ? (
          <>
            clean from <span className="num">{words(from).replace(/ .*/, "")}</span> to <span className="num">{words(to)}</span>
            {answer.heats.to > hottest ? ", where the knob ends" : ""}
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
        ) : !span ? (
          "no setting is clean at this feed with this wire"
        ) : answer.heats.from > hottest ? (
          "even at its end this knob does not bring enough heat"
        ) : (
          "even turned right down this knob leaves too much heat"
        )}
      </div>
    </div>
  );
}
