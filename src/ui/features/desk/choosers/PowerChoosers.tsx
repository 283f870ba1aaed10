"use client";
import Slider from "@mui/material/Slider";
import { type ReactNode, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { aroundOf, controlNotes } from "@/core/cutters/solve/evaluate";
import { mismatch } from "@/core/physics/power/circuit";
import { COMMON_SUPPLIES } from "@/core/physics/power/common";
import { CONTROLS, recordOf } from "@/core/physics/power/controls";
import { LETHAL_SUPPLIES } from "@/core/physics/power/lethal";
import { atPlate, type Supply, supplyEmfV, supplyLimitA, supplyRecordOf } from "@/core/physics/power/supplies";
import { LIMITS } from "@/core/units/limits";
import { trim } from "@/core/units/trim";
import { MeasureSupply } from "../../../cutter/MeasureSupply";
import { ChoiceInput, NumberInput } from "../../../kit/FieldForm";
import { QuantityField } from "../../../kit/QuantityField";
import { Tile, TileRow } from "../../../kit/Tile";
import { tidy } from "../../../kit/tidy";
import { useUnits } from "../../../kit/useUnits";
import type { ChooserProps } from "./chooserProps";

/** What people have (common practice), by its plate. */
const HEAP = COMMON_SUPPLIES.filter(
  ({ refused, supply }, i) => refused === undefined && COMMON_SUPPLIES.findIndex((other) => JSON.stringify(other.supply) === JSON.stringify(supply)) === i,
);

/** A supply with a knob of its own is the same wherever the knob is. */
const same = (a: Supply, b: Supply) => {
  const { record, own } = supplyRecordOf(a);
  return a.kind === b.kind && record.same(own, { ...b });
};

/** The control kept if it can work on the supply, otherwise none. */
const fitting = (supply: Design["supply"], control: Design["control"]): Design["control"] => (mismatch(supply, control) ? { kind: "direct" } : control);

/** The figures of a supply as its record asks for them, each with the range it may have. */
function SupplyFields({ supply, set }: { supply: Design["supply"]; set: (next: Design["supply"]) => void }) {
  const { record, own } = supplyRecordOf(supply);
  const put = (field: string, value: unknown) => set({ ...supply, [field]: value } as Design["supply"]);
  const note = record.note(own);
  return (
    <>
      {Object.entries(record.fields).map(([key, field]) =>
        field.as === "choice" && !field.optional ? (
          <div key={key} style={{ gridColumn: "1 / -1" }}>
            <ChoiceInput options={field.options} value={own[key]} onChange={(next) => put(key, next)} />
          </div>
        ) : null,
      )}
      {record.asks(own).map(({ key, value, scale = 1, noughtIsNone, ...field }) => (
        <NumberInput key={key} field={field} value={value} onChange={(next) => put(key, noughtIsNone && next === 0 ? undefined : tidy(next / scale))} />
      ))}
      {note && <div style={{ fontSize: 14, alignSelf: "center" }}>{note}</div>}
    </>
  );
}

/** What is plugged in, chosen by its plate. */
export function SupplyChooser({ design, evaluation, change }: ChooserProps) {
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
          <Tile key={row.id} chosen={same(supply, row.supply)} width={112} onClick={() => !same(supply, row.supply) && set(row.supply)}>
            <div className="num" style={{ fontSize: 15 }}>
              {supplyRecordOf(atPlate(row.supply))
                .record.plate(supplyRecordOf(atPlate(row.supply)).own, show)
                .map((line) => (
                  <div key={line}>{line}</div>
                ))}
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
            <span className="num">{show("current", evaluation.circuit.supplyCurrentA)}</span>.
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

/** The figure of a control's knob, typed in its own unit; a share in per cent, with a slider where that helps. */
function KnobField({ design, set }: { design: Design; set: (next: Design["control"]) => void }) {
  const { record, own } = recordOf(design.control);
  const { knob } = record;
  if (!knob) return null;
  const value = own[knob.field] as number;
  const { min = 0, max = 1, unit = "" } = record.fields[knob.field] ?? {};
  const take = (next: number) => set({ ...design.control, [knob.field]: next } as Design["control"]);
  const share = knob.quantity === "duty" ? 100 : 1;
  const field = (
    <NumberInput
      field={{
        label: knob.label,
        ...(knob.quantity ? { quantity: knob.quantity } : { unit }),
        min: min * share,
        max: record.shortens ? design.wire.length_mm : max * share,
      }}
      value={value * share}
      onChange={(typed) => take(tidy(typed / share))}
    />
  );
  if (!knob.slider) return field;
  return (
    <div style={{ display: "grid", gridTemplateColumns: "1fr 120px", gap: 20, alignItems: "center", paddingLeft: 8 }}>
      <Slider
        aria-label={`${knob.label} in per cent`}
        value={Math.round(value * share)}
        min={0}
        max={share}
        onChange={(_, next) => take((next as number) / share)}
      />
      {field}
    </div>
  );
}

/** What turns the heat up and down; controls that cannot work on this supply say why. */
export function ControlChooser({ design, change }: ChooserProps) {
  const { control } = design;
  const set = (next: Design["control"]) => change({ ...design, control: next }, "control");
  const fits: ReactNode[] = [];
  const misfits: string[] = [];
  for (const row of CONTROLS) {
    const kind = row.kind as Design["control"]["kind"];
    const trouble = mismatch(design.supply, { kind });
    if (trouble) {
      misfits.push(`${row.title}: ${trouble.replace(/^control\.kind \w+ /, "")}`);
      continue;
    }
    fits.push(
      <Tile
        key={kind}
        chosen={control.kind === kind}
        onClick={() => control.kind !== kind && set(row.start(aroundOf(design)) as unknown as Design["control"])}
        width={190}
      >
        <strong>{row.title}</strong>
        <div style={{ fontSize: 13 }}>{row.words}</div>
      </Tile>,
    );
  }
  return (
    <div style={{ display: "grid", gap: 12 }}>
      <TileRow>{fits}</TileRow>
      <KnobField design={design} set={set} />
      {controlNotes(design).map((note) => (
        <div key={note} style={{ fontSize: 14, color: "var(--graphite-soft)" }}>
          {note}
        </div>
      ))}
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
