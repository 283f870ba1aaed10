"use client";
import Slider from "@mui/material/Slider";
import TextField from "@mui/material/TextField";
import { type ReactNode, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CELLS, type Chemistry } from "@/core/materials/batteries";
import { type Control, type DcMake, mismatch, ownKnob, type Supply, supplyEmfV, supplyLimitA } from "@/core/physics/power/circuit";
import { LETHAL_SUPPLIES } from "@/core/physics/power/lethal";
import { LIMITS } from "@/core/units/limits";
import { MeasureSupply } from "../../../cutter/MeasureSupply";
import { QuantityField } from "../../../kit/QuantityField";
import { Tile, TileRow } from "../../../kit/Tile";
import { tidy } from "../../../kit/tidy";
import { trim } from "../../../kit/trim";
import { useUnits } from "../../../kit/useUnits";
import type { ChooserProps } from "./chooserProps";

/** What people find in the heap (common practice). */
const HEAP: readonly { name: string; plate: [string, string]; supply: Design["supply"] }[] = [
  { name: "small brick", plate: ["5 V DC", "4 A"], supply: { kind: "dc", voltage_V: 5, maxCurrent_A: 4 } },
  { name: "9 V block", plate: ["9 V DC", "1 A"], supply: { kind: "dc", voltage_V: 9, maxCurrent_A: 1, internal_ohm: 1.6 } },
  { name: "wall brick", plate: ["12 V DC", "5 A"], supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 } },
  { name: "computer supply rail", plate: ["12 V DC", "18 A"], supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 18, make: "computer" } },
  { name: "laptop brick", plate: ["19 V DC", "4.7 A"], supply: { kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 } },
  { name: "machine supply", plate: ["24 V DC", "6 A"], supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 6 } },
  { name: "train supply, old", plate: ["0–16 V", "1.5 A"], supply: { kind: "dc", voltage_V: 8, maxCurrent_A: 1.5, maxVoltage_V: 16, make: "train" } },
  { name: "train supply, new", plate: ["0–18 V", "2 A"], supply: { kind: "dc", voltage_V: 8, maxCurrent_A: 2, maxVoltage_V: 18, make: "train-modern" } },
  { name: "bench supply", plate: ["0–30 V", "0–10 A"], supply: { kind: "bench", voltage_V: 12, current_A: 10, maxVoltage_V: 30, maxCurrent_A: 10 } },
  { name: "car battery", plate: ["12 V", "40 Ah"], supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 } },
  { name: "tool battery", plate: ["18 V", "4 Ah"], supply: { kind: "battery", chemistry: "lithium-ion", cells: 5, capacity_Ah: 4 } },
  { name: "transformer", plate: ["24 V AC", "100 VA"], supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 100, internal_ohm: 0.6 } },
];

/** A supply with a knob of its own is the same wherever the knob stands. */
const same = (a: Supply, b: Supply) =>
  a.kind === b.kind && (a.kind === "bench" || (a.kind === "dc" && b.kind === "dc" && ownKnob(a) ? a.make === b.make : JSON.stringify(a) === JSON.stringify(b)));

/** What to know of a supply with ways of its own (common practice). */
const MAKE_NOTES: Readonly<Record<DcMake, string>> = {
  computer: "Its power-on line must be held to ground, or nothing comes out: see Wiring, with its standby and power-good lamps.",
  train: "An older make sags where a wire asks too much. Its own knob turns the heat.",
  "train-modern": "A newer make takes a cold wire for a short circuit and cuts out.",
  "hot-knife": "As measured: it is known to stand no more than it was tried with.",
};

/** The control kept if it can work on the supply, otherwise none. */
const fitting = (supply: Design["supply"], control: Design["control"]): Design["control"] => (mismatch(supply, control) ? { kind: "direct" } : control);

/** The figures of one kind of supply, each with the range it may have. */
function SupplyFields({ supply, set }: { supply: Design["supply"]; set: (next: Design["supply"]) => void }) {
  const ohms = (value: number | undefined, take: (ohm: number | undefined) => void, label: string) => (
    <QuantityField
      quantity="resistance"
      label={label}
      value={value ?? 0}
      range={LIMITS.internal_ohm}
      onChange={(ohm) => take(ohm === 0 ? undefined : tidy(ohm))}
    />
  );
  switch (supply.kind) {
    case "dc":
      return (
        <>
          <QuantityField
            quantity="voltage"
            label={ownKnob(supply) ? "Volts, as the knob stands" : "Volts on the plate"}
            value={supply.voltage_V}
            range={{ min: LIMITS.voltage_V.min, max: (ownKnob(supply) && supply.maxVoltage_V) || LIMITS.voltage_V.max }}
            onChange={(v) => set({ ...supply, voltage_V: tidy(v) })}
          />
          <QuantityField
            quantity="current"
            label="Amperes on the plate"
            value={supply.maxCurrent_A}
            range={LIMITS.maxCurrent_A}
            onChange={(a) => set({ ...supply, maxCurrent_A: tidy(a) })}
          />
          {ohms(supply.internal_ohm, (internal_ohm) => set({ ...supply, internal_ohm }), "Ohms inside (0 if stiff)")}
          {supply.make && <div style={{ fontSize: 14, alignSelf: "center" }}>{MAKE_NOTES[supply.make]}</div>}
        </>
      );
    case "bench":
      return (
        <>
          <QuantityField
            quantity="voltage"
            label="Volts knob"
            value={supply.voltage_V}
            range={{ min: LIMITS.voltage_V.min, max: supply.maxVoltage_V ?? LIMITS.voltage_V.max }}
            onChange={(v) => set({ ...supply, voltage_V: tidy(v) })}
          />
          <QuantityField
            quantity="current"
            label="Amperes knob"
            value={supply.current_A}
            range={{ min: LIMITS.maxCurrent_A.min, max: supply.maxCurrent_A ?? LIMITS.maxCurrent_A.max }}
            onChange={(a) => set({ ...supply, current_A: tidy(a) })}
          />
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
      );
    case "battery":
      return (
        <>
          <div style={{ gridColumn: "1 / -1" }}>
            <TileRow>
              {(Object.keys(CELLS) as Chemistry[]).map((chemistry) => (
                <Tile key={chemistry} chosen={supply.chemistry === chemistry} onClick={() => set({ ...supply, chemistry })}>
                  {chemistry}
                </Tile>
              ))}
            </TileRow>
          </div>
          <CountField label="Cells in series" value={supply.cells} {...LIMITS.cells} whole onChange={(cells) => set({ ...supply, cells })} />
          <CountField label="Ampere-hours" value={supply.capacity_Ah} {...LIMITS.capacity_Ah} onChange={(capacity_Ah) => set({ ...supply, capacity_Ah })} />
          <QuantityField
            quantity="duty"
            label="Charge left"
            value={(supply.stateOfCharge ?? 1) * 100}
            range={{ min: 0, max: 100 }}
            onChange={(percent) => set({ ...supply, stateOfCharge: tidy(percent / 100) })}
          />
          {ohms(supply.internal_ohm, (internal_ohm) => set({ ...supply, internal_ohm }), "Ohms inside (0: by size)")}
        </>
      );
    case "transformer":
      return (
        <>
          <QuantityField
            quantity="voltage"
            label="Volts AC on the plate"
            value={supply.voltage_Vrms}
            range={LIMITS.voltage_Vrms}
            onChange={(v) => set({ ...supply, voltage_Vrms: tidy(v) })}
          />
          <CountField
            label="Volt-amperes on the plate"
            value={supply.rating_VA}
            {...LIMITS.rating_VA}
            onChange={(rating_VA) => set({ ...supply, rating_VA })}
          />
          {ohms(supply.internal_ohm, (internal_ohm) => set({ ...supply, internal_ohm }), "Ohms of the winding")}
        </>
      );
  }
}

/** A plain number without units people would mix up. */
function CountField({
  label,
  value,
  min,
  max,
  unit,
  whole,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  unit: string;
  whole?: boolean;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const number = text === null ? value : Number(text.replace(",", "."));
  const bad = text !== null && (text.trim() === "" || !(number >= min && number <= max) || (whole === true && !Number.isInteger(number)));
  return (
    <TextField
      label={label}
      size="small"
      fullWidth
      value={text ?? String(value)}
      error={bad}
      helperText={bad ? `${label.toLowerCase()} must be a ${whole ? "whole " : ""}number from ${min} to ${max}` : unit}
      onChange={(event) => {
        setText(event.target.value);
        const next = Number(event.target.value.replace(",", "."));
        if (event.target.value.trim() !== "" && next >= min && next <= max && (!whole || Number.isInteger(next))) onChange(next);
      }}
      onBlur={() => setText(null)}
      slotProps={{ htmlInput: { className: "num", inputMode: "decimal" } }}
    />
  );
}

/** What is plugged in, chosen by its plate. */
export function SupplyChooser({ design, answer, change }: ChooserProps) {
  const { show } = useUnits();
  const [refused, setRefused] = useState<string | null>(null);
  const { supply } = design;
  const set = (next: Design["supply"]) => {
    setRefused(null);
    change({ ...design, supply: next, control: fitting(next, design.control) }, "supply");
  };
  const limitA = supplyLimitA(supply);
  const emf = supplyEmfV(supply);
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <TileRow>
        {HEAP.map((row) => (
          <Tile key={row.name} chosen={same(supply, row.supply)} width={112} onClick={() => !same(supply, row.supply) && set(row.supply)}>
            <div className="num" style={{ fontSize: 15 }}>
              {row.plate[0]}
              <br />
              {row.plate[1]}
            </div>
            <div style={{ fontSize: 12.5 }}>{row.name}</div>
          </Tile>
        ))}
      </TileRow>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 12 }}>
        <SupplyFields key={supply.kind} supply={supply} set={set} />
      </div>
      <div style={{ fontSize: 14 }}>
        {Number.isFinite(limitA) ? (
          <>
            Power on the plate: <span className="num">{trim(show("voltage", emf))}</span> × <span className="num">{trim(show("current", limitA))}</span> ={" "}
            <span className="num">{Math.round(emf * limitA)} W</span>
          </>
        ) : (
          <>
            At rest <span className="num">{show("voltage", emf)}</span>; this wire draws{" "}
            <span className="num">{show("current", answer.circuit.supplyCurrentA)}</span>.
          </>
        )}
      </div>
      <MeasureSupply onTake={set} />
      <fieldset style={{ border: "1px solid var(--line)", margin: 0 }}>
        <legend>Never on a wire</legend>
        {refused && (
          <p role="alert" style={{ margin: "0 0 8px" }}>
            <strong>Refused.</strong> {LETHAL_SUPPLIES[refused]?.why}
          </p>
        )}
        <TileRow>
          {Object.entries(LETHAL_SUPPLIES).map(([id, row]) => (
            <Tile key={id} chosen={refused === id} onClick={() => setRefused(id)}>
              <span style={{ textDecoration: "line-through", fontSize: 14 }}>{row.name}</span>
              <span className="visually-hidden">, refused</span>
            </Tile>
          ))}
        </TileRow>
      </fieldset>
    </div>
  );
}

/** Every control, what it is for, and the setting it starts from on a design. */
const CONTROLS: readonly { kind: Control["kind"]; name: string; words: string; start: (design: Design) => Design["control"] }[] = [
  { kind: "direct", name: "No control", words: "the supply straight on the wire; a bench supply's own knobs serve", start: () => ({ kind: "direct" }) },
  {
    kind: "pwm",
    name: "PWM control",
    words: "chops the current: heat goes with duty, the supply still meets the full on-current",
    start: () => ({ kind: "pwm", duty: 1 }),
  },
  {
    kind: "buck",
    name: "Buck converter",
    words: "steps the volts down smoothly and draws less than it gives",
    start: (design) => ({ kind: "buck", voltage_V: tidy(Math.min(LIMITS.voltage_V.max, supplyEmfV(design.supply) / 2)) }),
  },
  { kind: "rheostat", name: "Rheostat", words: "simple, and throws its share away as heat", start: () => ({ kind: "rheostat", ohm: 2 }) },
  { kind: "clip", name: "Sliding clip", words: "changes the live length of the wire", start: (design) => ({ kind: "clip", live_mm: design.wire.length_mm }) },
  {
    kind: "phase",
    name: "Dimmer",
    words: "chops each half-wave ahead of a transformer: coarse in the middle of its turn",
    start: () => ({ kind: "phase", delay_deg: 90 }),
  },
  { kind: "tap", name: "Winding tap", words: "a few fixed steps of a transformer's volts", start: () => ({ kind: "tap", fraction: 0.5 }) },
];

/** What turns the heat up and down; controls that cannot work on this supply say why. */
export function ControlChooser({ design, change }: ChooserProps) {
  const { control } = design;
  const set = (next: Design["control"]) => change({ ...design, control: next }, "control");
  const fits: ReactNode[] = [];
  const misfits: string[] = [];
  for (const row of CONTROLS) {
    const trouble = mismatch(design.supply, row.start(design));
    if (trouble) {
      misfits.push(`${row.name}: ${trouble.replace(/^control\.kind \w+ /, "")}`);
      continue;
    }
    fits.push(
      <Tile key={row.kind} chosen={control.kind === row.kind} onClick={() => control.kind !== row.kind && set(row.start(design))} width={190}>
        <strong>{row.name}</strong>
        <div style={{ fontSize: 13 }}>{row.words}</div>
      </Tile>,
    );
  }
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <TileRow>{fits}</TileRow>
      {control.kind === "pwm" && (
        <div style={{ display: "grid", gridTemplateColumns: "1fr 120px", gap: 20, alignItems: "center", paddingLeft: 8 }}>
          <Slider
            aria-label="Duty in per cent"
            value={Math.round(control.duty * 100)}
            min={0}
            max={100}
            onChange={(_, value) => set({ kind: "pwm", duty: (value as number) / 100 })}
          />
          <QuantityField
            quantity="duty"
            label="Duty"
            value={control.duty * 100}
            range={{ min: 0, max: 100 }}
            onChange={(percent) => set({ kind: "pwm", duty: tidy(percent / 100) })}
          />
        </div>
      )}
      {control.kind === "buck" && (
        <QuantityField
          quantity="voltage"
          label="Volts out"
          value={control.voltage_V}
          range={LIMITS.voltage_V}
          onChange={(v) => set({ ...control, voltage_V: tidy(v) })}
        />
      )}
      {control.kind === "rheostat" && (
        <QuantityField
          quantity="resistance"
          label="Ohms in series"
          value={control.ohm}
          range={LIMITS.rheostat_ohm}
          onChange={(ohm) => set({ kind: "rheostat", ohm: tidy(ohm) })}
        />
      )}
      {control.kind === "clip" && (
        <QuantityField
          quantity="length"
          label="Live wire"
          value={control.live_mm}
          range={{ min: LIMITS.length_mm.min, max: design.wire.length_mm }}
          onChange={(live_mm) => set({ kind: "clip", live_mm: tidy(live_mm) })}
        />
      )}
      {control.kind === "phase" && (
        <CountField label="Delay angle" value={control.delay_deg} {...LIMITS.delay_deg} onChange={(delay_deg) => set({ kind: "phase", delay_deg })} />
      )}
      {control.kind === "tap" && (
        <QuantityField
          quantity="duty"
          label="Share of the winding"
          value={control.fraction * 100}
          range={{ min: 1, max: 100 }}
          onChange={(percent) => set({ kind: "tap", fraction: tidy(percent / 100) })}
        />
      )}
      {misfits.length > 0 && <div style={{ fontSize: 13.5, color: "var(--graphite-soft)" }}>Not on this supply: {misfits.join("; ")}.</div>}
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
