"use client";
import Slider from "@mui/material/Slider";
import { type DesignAnswer, settingForHeat, settingOf, settingRange, withSetting } from "@/core/design/evaluate";
import type { Design } from "@/core/design/schema";
import { heatKnob } from "@/core/models/circuit";
import { useUnits } from "../hooks/useUnits";

/** The one knob that sets the heat, with the clean stretch marked on its track. */
export function Knob({ design, answer, onChange }: { design: Design; answer: DesignAnswer; onChange: (next: Design) => void }) {
  const { show } = useUnits();
  const setting = settingOf(design);
  const range = settingRange(design);
  if (setting === null || !range) {
    return (
      <p style={{ margin: "4px 0 10px", fontSize: 15 }}>
        No knob: this supply heats the wire one way only. Add a PWM control, or choose a bench supply, to turn the heat.
      </p>
    );
  }
  const duty = heatKnob(design.supply, design.control) === "duty";
  const scale = duty ? 100 : 1;
  const unit = duty ? "%" : "V";
  const clamp = (value: number) => Math.min(range.max, Math.max(range.min, value)) * scale;
  const clean = answer.heats.to > answer.heats.from ? [answer.heats.from, answer.heats.to].map((heat) => settingForHeat(design, heat, answer.pair) ?? 0) : null;
  const reachable = clean !== null && (clean[0] as number) <= range.max;
  const [from, to] = reachable ? clean.map(clamp) : [0, 0];
  const share = (value: number) => `${(100 * (value - range.min * scale)) / ((range.max - range.min) * scale)}%`;
  return (
    <div style={{ margin: "2px 0 10px" }}>
      <div style={{ display: "flex", justifyContent: "space-between", fontSize: 15 }}>
        <span>{duty ? "PWM duty" : "Volts knob"}</span>
        <span className="num" style={{ fontSize: 19, fontWeight: 600 }}>
          {duty ? `${Math.round(setting * 100)} %` : show("voltage", setting)}
        </span>
      </div>
      <div style={{ position: "relative", padding: "0 10px" }}>
        <div style={{ position: "absolute", left: 10, right: 10, top: 8, height: 22, pointerEvents: "none" }}>
          {reachable && (
            <div
              style={{
                position: "absolute",
                left: share(from as number),
                width: `calc(${share(to as number)} - ${share(from as number)})`,
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
          aria-label={duty ? "PWM duty" : "Volts knob"}
          value={setting * scale}
          min={range.min * scale}
          max={range.max * scale}
          step={duty ? 1 : 0.1}
          getAriaValueText={(value) => `${value.toFixed(duty ? 0 : 1)} ${unit}`}
          onChange={(_, value) => onChange(withSetting(design, (value as number) / scale))}
        />
      </div>
      <div style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
        {reachable ? (
          <>
            clean from <span className="num">{(from as number).toFixed(duty ? 0 : 1)}</span> to{" "}
            <span className="num">{(to as number).toFixed(duty ? 0 : 1)}</span> {unit}
            {(clean[1] as number) > range.max ? ", where the knob ends" : ""}
          </>
        ) : clean ? (
          "even at its end this knob does not bring enough heat"
        ) : (
          "no setting is clean at this feed with this wire"
        )}
      </div>
    </div>
  );
}
