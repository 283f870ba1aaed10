"use client";
import Slider from "@mui/material/Slider";
import type { Design } from "@/core/cutters/design/schema";
import { TENSION_RECORDS, tensionRecord } from "@/core/physics/mechanics/devices";
import { LIMITS } from "@/core/units/limits";
import { trim } from "@/core/units/trim";
import type { Quantity } from "@/core/units/units";
import { QuantityField } from "../../../kit/QuantityField";
import { Tile, TileRow } from "../../../kit/Tile";
import { tidy } from "../../../kit/tidy";
import { useUnits } from "../../../kit/useUnits";
import type { ChooserProps } from "./chooserProps";

interface FigureProps {
  quantity: Quantity;
  label: string;
  value: number;
  range: { min: number; max: number };
  /** Where a hand usually wants it: the slider's ends, canonical. */
  usual: { min: number; max: number; step: number };
  words: string;
  set: (value: number) => void;
}

/** One figure: typed with any unit, or slid. */
function FigureChooser({ quantity, label, value, range, usual, words, set }: FigureProps) {
  const { show } = useUnits();
  return (
    <div style={{ display: "grid", gap: 8, width: 320 }}>
      <QuantityField quantity={quantity} label={label} value={value} range={range} onChange={(next) => set(tidy(next))} autoFocus />
      <div style={{ padding: "0 10px" }}>
        <Slider
          aria-label={label}
          value={Math.min(usual.max, Math.max(usual.min, value))}
          min={usual.min}
          max={usual.max}
          step={usual.step}
          getAriaValueText={(next) => show(quantity, next)}
          onChange={(_, next) => set(next as number)}
        />
      </div>
      <div style={{ fontSize: 14 }}>{words}</div>
    </div>
  );
}

const setJob =
  ({ design, change }: ChooserProps, key: "width_mm" | "thickness_mm" | "feed_mm_s" | "maxKerf_mm") =>
  (value: number) =>
    change({ ...design, job: { ...design.job, [key]: value } }, key);

export const WidthChooser = (props: ChooserProps) => (
  <FigureChooser
    quantity="length"
    label="Foam along the wire"
    value={props.design.job.width_mm}
    range={LIMITS.width_mm}
    usual={{ min: 10, max: Math.max(1300, props.design.wire.length_mm), step: 10 }}
    words="Width is measured along the wire. Test on a piece as wide as the job: a narrow offcut pulls less on the wire, bows it less and is half cut by stored heat, so it flatters (common practice)."
    set={setJob(props, "width_mm")}
  />
);

export const ThicknessChooser = (props: ChooserProps) => (
  <FigureChooser
    quantity="length"
    label="Foam across the wire"
    value={props.design.job.thickness_mm}
    range={LIMITS.thickness_mm}
    usual={{ min: 1, max: 600, step: 1 }}
    words="How far the wire travels through the block. It does not change the heat; it sets how long the cut takes."
    set={setJob(props, "thickness_mm")}
  />
);

export const FeedChooser = (props: ChooserProps) => (
  <FigureChooser
    quantity="feed"
    label="Feed"
    value={props.design.job.feed_mm_s}
    range={LIMITS.feed_mm_s}
    usual={{ min: 0.5, max: 20, step: 0.1 }}
    words='Type "6 mm/s", "4 s/in" or "15 in/min". Four seconds an inch is the usual count in light bead foam (common practice).'
    set={setJob(props, "feed_mm_s")}
  />
);

export const LengthChooser = (props: ChooserProps) => (
  <FigureChooser
    quantity="length"
    label="Length between posts"
    value={props.design.wire.length_mm}
    range={LIMITS.length_mm}
    usual={{ min: 50, max: 1600, step: 10 }}
    words="Length sets the volts, never the heat for a given current. A shorter wire on fixed volts runs hotter very fast: this is how wires burn out."
    set={(length_mm) => props.change({ ...props.design, wire: { ...props.design.wire, length_mm } }, "length")}
  />
);

export const RoomChooser = (props: ChooserProps) => (
  <FigureChooser
    quantity="temperature"
    label="Room temperature"
    value={props.design.ambient_C}
    range={LIMITS.ambient_C}
    usual={{ min: -10, max: 40, step: 1 }}
    words="A cold shed takes more heat from wire and foam alike."
    set={(ambient_C) => props.change({ ...props.design, ambient_C }, "room")}
  />
);

/** What pulls the wire straight, and how hard while it is hot. */
export function TensionChooser({ design, change }: ChooserProps) {
  const { show } = useUnits();
  const { tension } = design;
  const record = tensionRecord(tension.device);
  const set = (next: Partial<Design["tension"]>) => change({ ...design, tension: { ...tension, ...next } }, "tension");
  return (
    <div style={{ display: "grid", gap: 12, width: 400 }}>
      {TENSION_RECORDS.map(({ device, name, words }) => (
        <Tile key={device} chosen={tension.device === device} onClick={() => set({ device })}>
          <strong>{name}</strong> <span style={{ fontSize: 14 }}>{words}</span>
        </Tile>
      ))}
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 12 }}>
        <QuantityField
          quantity="force"
          label="Tension while hot"
          value={tension.hot_N}
          range={LIMITS.force_N}
          onChange={(hot_N) => set({ hot_N: tidy(hot_N) })}
        />
        {record.usualRateNPerMm !== null && (
          <QuantityField
            quantity="springRate"
            label={record.rateLabel}
            value={tension.rate_N_per_mm ?? record.usualRateNPerMm}
            range={LIMITS.rate_N_per_mm}
            onChange={(rate) => set({ rate_N_per_mm: tidy(rate) })}
          />
        )}
      </div>
      <TileRow>
        {[5, 20, 40, 65, 90].map((force) => (
          <Tile key={force} chosen={tension.hot_N === force} onClick={() => set({ hot_N: force })}>
            <span className="num">{trim(show("force", force))}</span>
          </Tile>
        ))}
      </TileRow>
      <div style={{ fontSize: 14 }}>About 65 N on 0.64 mm stainless over 1.2 m; small tools hand-tight (common practice).</div>
    </div>
  );
}
