"use client";
import Slider from "@mui/material/Slider";
import { useState } from "react";
import { LIMITS } from "@/core/design/limits";
import { type Design, LETHAL_SUPPLIES } from "@/core/design/schema";
import { useUnits } from "../hooks/useUnits";
import { QuantityField } from "../parts/QuantityField";
import { trim } from "../parts/words";
import type { ChooserProps } from "./chooserProps";
import { Tile, TileRow } from "./Tile";

/** Plates people find in the heap (common practice). */
const PLATES: readonly { name: string; voltage_V: number; maxCurrent_A: number; internal_ohm?: number }[] = [
  { name: "small brick", voltage_V: 5, maxCurrent_A: 4 },
  { name: "9 V block", voltage_V: 9, maxCurrent_A: 1, internal_ohm: 1.6 },
  { name: "wall brick", voltage_V: 12, maxCurrent_A: 5 },
  { name: "computer supply rail", voltage_V: 12, maxCurrent_A: 18 },
  { name: "laptop brick", voltage_V: 19, maxCurrent_A: 4.7 },
  { name: "machine supply", voltage_V: 24, maxCurrent_A: 6 },
];

const tidy = (value: number) => Number(value.toFixed(4));

/** What is plugged in, chosen by its plate. */
export function SupplyChooser({ design, change }: ChooserProps) {
  const { show } = useUnits();
  const [refused, setRefused] = useState<string | null>(null);
  const { supply } = design;
  const set = (next: Design["supply"]) => {
    setRefused(null);
    change({ ...design, supply: next }, "supply");
  };
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <TileRow>
        {PLATES.map((plate) => (
          <Tile
            key={plate.name}
            chosen={supply.kind === "dc" && supply.voltage_V === plate.voltage_V && supply.maxCurrent_A === plate.maxCurrent_A}
            width={112}
            onClick={() => set({ kind: "dc", voltage_V: plate.voltage_V, maxCurrent_A: plate.maxCurrent_A, internal_ohm: plate.internal_ohm })}
          >
            <div className="num" style={{ fontSize: 15 }}>
              {plate.voltage_V} V DC
              <br />
              {plate.maxCurrent_A} A
            </div>
            <div style={{ fontSize: 12.5 }}>{plate.name}</div>
          </Tile>
        ))}
        <Tile
          chosen={supply.kind === "bench"}
          width={112}
          onClick={() =>
            supply.kind !== "bench" && set({ kind: "bench", voltage_V: Math.min(30, supply.voltage_V), current_A: 10, maxVoltage_V: 30, maxCurrent_A: 10 })
          }
        >
          <div className="num" style={{ fontSize: 15 }}>
            0–30 V
            <br />
            0–10 A
          </div>
          <div style={{ fontSize: 12.5 }}>bench supply</div>
        </Tile>
      </TileRow>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 12 }}>
        <QuantityField
          quantity="voltage"
          label={supply.kind === "bench" ? "Volts knob" : "Volts on the plate"}
          value={supply.voltage_V}
          range={supply.kind === "bench" ? { min: 0.1, max: supply.maxVoltage_V ?? LIMITS.voltage_V.max } : LIMITS.voltage_V}
          onChange={(voltage_V) => set({ ...supply, voltage_V: tidy(voltage_V) })}
        />
        {supply.kind === "dc" ? (
          <QuantityField
            quantity="current"
            label="Amperes on the plate"
            value={supply.maxCurrent_A}
            range={LIMITS.maxCurrent_A}
            onChange={(a) => set({ ...supply, maxCurrent_A: tidy(a) })}
          />
        ) : (
          <QuantityField
            quantity="current"
            label="Amperes knob"
            value={supply.current_A}
            range={{ min: LIMITS.maxCurrent_A.min, max: supply.maxCurrent_A ?? LIMITS.maxCurrent_A.max }}
            onChange={(a) => set({ ...supply, current_A: tidy(a) })}
          />
        )}
        {supply.kind === "dc" ? (
          <QuantityField
            quantity="resistance"
            label="Ohms inside (0 if stiff)"
            value={supply.internal_ohm ?? 0}
            range={LIMITS.internal_ohm}
            onChange={(ohm) => set({ ...supply, internal_ohm: ohm === 0 ? undefined : tidy(ohm) })}
          />
        ) : (
          <>
            <QuantityField
              quantity="voltage"
              label="Plate: most volts"
              value={supply.maxVoltage_V ?? supply.voltage_V}
              range={LIMITS.voltage_V}
              onChange={(v) => set({ ...supply, maxVoltage_V: tidy(v) })}
            />
            <QuantityField
              quantity="current"
              label="Plate: most amperes"
              value={supply.maxCurrent_A ?? supply.current_A}
              range={LIMITS.maxCurrent_A}
              onChange={(a) => set({ ...supply, maxCurrent_A: tidy(a) })}
            />
          </>
        )}
      </div>
      <div style={{ fontSize: 14 }}>
        Power on the plate: <span className="num">{trim(show("voltage", supply.voltage_V))}</span> ×{" "}
        <span className="num">{trim(show("current", supply.kind === "dc" ? supply.maxCurrent_A : supply.current_A))}</span> ={" "}
        <span className="num">{Math.round(supply.voltage_V * (supply.kind === "dc" ? supply.maxCurrent_A : supply.current_A))} W</span>
      </div>
      <fieldset style={{ border: "1px solid var(--line)", margin: 0 }}>
        <legend>Never on a wire</legend>
        <TileRow>
          {Object.entries(LETHAL_SUPPLIES).map(([id, row]) => (
            <Tile key={id} chosen={refused === id} onClick={() => setRefused(id)}>
              <span style={{ textDecoration: "line-through", fontSize: 14 }}>{row.name}</span>
              <span className="visually-hidden">, refused</span>
            </Tile>
          ))}
        </TileRow>
        {refused && (
          <p role="alert" style={{ margin: "8px 0 0" }}>
            <strong>Refused.</strong> {LETHAL_SUPPLIES[refused]?.why}
          </p>
        )}
      </fieldset>
    </div>
  );
}

/** What turns the heat up and down. */
export function ControlChooser({ design, change }: ChooserProps) {
  const { control } = design;
  const duty = control.kind === "pwm" ? control.duty : 1;
  const set = (next: Design["control"]) => change({ ...design, control: next }, "control");
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <TileRow>
        <Tile chosen={control.kind === "direct"} onClick={() => set({ kind: "direct" })} width={190}>
          <strong>No control</strong>
          <div style={{ fontSize: 13 }}>the supply straight on the wire; a bench supply's own knobs serve</div>
        </Tile>
        <Tile chosen={control.kind === "pwm"} onClick={() => control.kind !== "pwm" && set({ kind: "pwm", duty: 1 })} width={190}>
          <strong>PWM control</strong>
          <div style={{ fontSize: 13 }}>chops the current: heat goes with duty, the supply still meets the full on-current</div>
        </Tile>
      </TileRow>
      {control.kind === "pwm" && (
        <div style={{ display: "grid", gridTemplateColumns: "1fr 120px", gap: 20, alignItems: "center", paddingLeft: 8 }}>
          <Slider
            aria-label="Duty in per cent"
            value={Math.round(duty * 100)}
            min={0}
            max={100}
            onChange={(_, value) => set({ kind: "pwm", duty: (value as number) / 100 })}
          />
          <QuantityField
            quantity="duty"
            label="Duty"
            value={duty * 100}
            range={{ min: 0, max: 100 }}
            onChange={(percent) => set({ kind: "pwm", duty: tidy(percent / 100) })}
          />
        </div>
      )}
    </div>
  );
}

export function LeadsChooser({ design, change }: ChooserProps) {
  const leads = design.leads;
  const set = (next: Design["leads"]) => change({ ...design, leads: next }, "leads");
  const now = leads ?? { gauge_awg: 18, oneWay_m: 1 };
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <TileRow>
        {[12, 14, 16, 18, 20, 22].map((gauge) => (
          <Tile key={gauge} chosen={leads?.gauge_awg === gauge} onClick={() => set({ ...now, gauge_awg: gauge })}>
            <span className="num">{gauge} AWG</span>
          </Tile>
        ))}
      </TileRow>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 12 }}>
        <QuantityField
          quantity="leadLength"
          label="Length, one way"
          value={now.oneWay_m}
          range={LIMITS.oneWay_m}
          onChange={(oneWay_m) => set({ ...now, oneWay_m: tidy(oneWay_m) })}
        />
        <QuantityField
          quantity="resistance"
          label="All joints together"
          value={now.joint_ohm ?? 0}
          range={LIMITS.joint_ohm}
          onChange={(joint_ohm) => set({ ...now, joint_ohm: tidy(joint_ohm) })}
        />
      </div>
      <div style={{ fontSize: 14 }}>18 to 20 AWG serves 3 to 5 A over short runs; thicker for more (common practice).</div>
    </div>
  );
}
