"use client";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import type { Design } from "@/core/cutters/design/schema";
import { FRAMING, FRAMING_IDS, type FramingId, type MemberSection } from "@/core/materials/framing";
import { BENDING, BOW_SAW, EULER, type FrameResult } from "@/core/physics/mechanics/frame";
import { LIMITS } from "@/core/units/limits";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { tidy } from "../../kit/tidy";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { FrameDrawing } from "./FrameDrawing";

type DesignFrame = NonNullable<Design["frame"]>;

const KIND_WORDS: Readonly<Record<DesignFrame["kind"], string>> = {
  "bow-saw": "bow saw",
  "c-frame": "C-frame",
  "table-arm": "table arm",
  "camber-tube": "cambered tube",
};

/** Sound frames to start from, for a wire of some length (this project's own). */
function startFrame(kind: DesignFrame["kind"], spanMm: number): DesignFrame {
  switch (kind) {
    case "bow-saw":
      return {
        kind,
        wire_arm_mm: 220,
        cable_arm_mm: 220,
        arm_material: "timber",
        arm: { shape: "bar", width_mm: 22, depth_mm: 40 },
        spreader_mm: spanMm,
        spreader_material: "timber",
        spreader: { shape: "bar", width_mm: 28, depth_mm: 34 },
        ends: "pinned",
      };
    case "c-frame":
      return { kind, throat_mm: 250, back_mm: spanMm, material: "steel", section: { shape: "tube", diameter_mm: 25, wall_mm: 2 } };
    case "table-arm":
      return { kind, arm_mm: 400, material: "timber", section: { shape: "bar", width_mm: 40, depth_mm: 60 } };
    case "camber-tube":
      return { kind, span_mm: spanMm, rise_mm: 120, material: "glass-fibre", section: { shape: "tube", diameter_mm: 12, wall_mm: 2 } };
  }
}

function MaterialField({ label, value, onChange }: { label: string; value: FramingId; onChange: (next: FramingId) => void }) {
  return (
    <TextField select size="small" label={label} value={value} onChange={(event) => onChange(event.target.value as FramingId)} helperText=" ">
      {FRAMING_IDS.map((id) => (
        <MenuItem key={id} value={id}>
          {FRAMING[id].name}
        </MenuItem>
      ))}
    </TextField>
  );
}

const SHAPES: Record<MemberSection["shape"], { words: string; start: MemberSection }> = {
  bar: { words: "bar", start: { shape: "bar", width_mm: 25, depth_mm: 40 } },
  rod: { words: "round rod", start: { shape: "rod", diameter_mm: 12 } },
  tube: { words: "tube", start: { shape: "tube", diameter_mm: 25, wall_mm: 2 } },
};

function SectionFields({ label, value, onChange }: { label: string; value: MemberSection; onChange: (next: MemberSection) => void }) {
  const size = (name: string, key: string, mm: number) => (
    <QuantityField
      key={key}
      quantity="length"
      label={name}
      value={mm}
      decimals={1}
      range={LIMITS.sectionSize_mm}
      onChange={(next) => onChange({ ...value, [key]: tidy(next) } as MemberSection)}
    />
  );
  return (
    <>
      <TextField
        select
        size="small"
        label={`${label}: shape`}
        value={value.shape}
        onChange={(event) => onChange(SHAPES[event.target.value as MemberSection["shape"]].start)}
        helperText=" "
      >
        {(Object.keys(SHAPES) as MemberSection["shape"][]).map((shape) => (
          <MenuItem key={shape} value={shape}>
            {SHAPES[shape].words}
          </MenuItem>
        ))}
      </TextField>
      {value.shape === "bar" && [size(`${label}: width`, "width_mm", value.width_mm), size(`${label}: depth, in the bend`, "depth_mm", value.depth_mm)]}
      {value.shape === "rod" && size(`${label}: diameter`, "diameter_mm", value.diameter_mm)}
      {value.shape === "tube" && [size(`${label}: diameter`, "diameter_mm", value.diameter_mm), size(`${label}: wall`, "wall_mm", value.wall_mm)]}
    </>
  );
}

/** The frame's figures and what each member says to the wire's pull. */
export function FrameEditor({
  design,
  frame,
  tensionN,
  onChange,
}: {
  design: Design;
  frame: FrameResult | null;
  /** the pull the frame was solved for: cold, when it is hardest */
  tensionN: number;
  onChange: (next: Design, key: string) => void;
}) {
  const { show } = useUnits();
  const mine = design.frame;
  const set = (next: DesignFrame) => onChange({ ...design, frame: next }, "frame");
  const size = (label: string, value: number, put: (mm: number) => DesignFrame) => (
    <QuantityField quantity="length" label={label} value={value} range={LIMITS.frameSize_mm} onChange={(mm) => set(put(tidy(mm)))} />
  );
  return (
    <section aria-label="Frame" style={{ display: "grid", gridTemplateColumns: "minmax(300px, 420px) minmax(280px, 1fr)", gap: 26 }} className="two-up">
      <div>
        <TileRow>
          {(Object.keys(KIND_WORDS) as DesignFrame["kind"][]).map((kind) => (
            <Tile key={kind} chosen={mine?.kind === kind} onClick={() => set(startFrame(kind, design.wire.length_mm))}>
              {KIND_WORDS[kind]}
            </Tile>
          ))}
        </TileRow>
        {!mine && <p>Say what holds the wire, and its forces, bends and buckling follow.</p>}
        {mine && (
          <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "6px 12px", marginTop: 12 }}>
            {mine.kind === "bow-saw" && (
              <>
                {size("Pivot to wire", mine.wire_arm_mm, (wire_arm_mm) => ({ ...mine, wire_arm_mm }))}
                {size("Pivot to cable", mine.cable_arm_mm, (cable_arm_mm) => ({ ...mine, cable_arm_mm }))}
                <MaterialField label="Arms" value={mine.arm_material} onChange={(arm_material) => set({ ...mine, arm_material })} />
                <SectionFields label="Arm" value={mine.arm} onChange={(arm) => set({ ...mine, arm })} />
                {size("Spreader, length", mine.spreader_mm, (spreader_mm) => ({ ...mine, spreader_mm }))}
                <MaterialField label="Spreader" value={mine.spreader_material} onChange={(spreader_material) => set({ ...mine, spreader_material })} />
                <SectionFields label="Spreader" value={mine.spreader} onChange={(spreader) => set({ ...mine, spreader })} />
                <TextField
                  select
                  size="small"
                  label="Spreader's ends"
                  value={mine.ends}
                  onChange={(event) => set({ ...mine, ends: event.target.value as typeof mine.ends })}
                  helperText=" "
                >
                  <MenuItem value="pinned">pinned, free to turn</MenuItem>
                  <MenuItem value="one fixed">one held fast</MenuItem>
                  <MenuItem value="fixed">both held fast</MenuItem>
                </TextField>
              </>
            )}
            {mine.kind === "c-frame" && (
              <>
                {size("Throat, wire to back", mine.throat_mm, (throat_mm) => ({ ...mine, throat_mm }))}
                {size("Back, length", mine.back_mm, (back_mm) => ({ ...mine, back_mm }))}
              </>
            )}
            {mine.kind === "table-arm" && size("Arm, length", mine.arm_mm, (arm_mm) => ({ ...mine, arm_mm }))}
            {mine.kind === "camber-tube" && (
              <>
                {size("Span, end to end", mine.span_mm, (span_mm) => ({ ...mine, span_mm }))}
                {size("Rise in the middle", mine.rise_mm, (rise_mm) => ({ ...mine, rise_mm }))}
              </>
            )}
            {mine.kind !== "bow-saw" && (
              <>
                <MaterialField label="Material" value={mine.material} onChange={(material) => set({ ...mine, material })} />
                <SectionFields label="Member" value={mine.section} onChange={(section) => set({ ...mine, section })} />
              </>
            )}
          </div>
        )}
      </div>
      {frame && (
        <div role="status">
          <InstrumentBoundary name="the frame">
            <FrameDrawing design={design} frame={frame} tensionN={tensionN} />
          </InstrumentBoundary>
          {frame.checks.map((check) => (
            <p
              key={check.part}
              data-check={check.part}
              data-ok={check.ok}
              style={{ margin: "0 0 10px", borderLeft: `5px solid var(--${check.ok ? "cool" : "ember"})`, paddingLeft: 10 }}
            >
              {!check.ok && <strong>Not enough. </strong>}
              {check.words.charAt(0).toUpperCase() + check.words.slice(1)}.{" "}
              <Why
                of={check.part}
                relation={check.part === "spreader" ? EULER : check.part === "cable" ? BOW_SAW : BENDING}
                inputs={`${show("force", tensionN, 1)} of wire, cold.`}
              />
            </p>
          ))}
          <p style={{ fontSize: 15 }}>
            The frame itself gives <span className="num">{show("springRate", frame.rateNPerM / 1000)}</span>:{" "}
            {frame.rateNPerM < 5000 ? "soft enough to help the spring" : "stiff, so the device must do the giving"}.
          </p>
        </div>
      )}
    </section>
  );
}
