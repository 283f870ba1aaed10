"use client";
import Popover from "@mui/material/Popover";
import type { ReactNode } from "react";
import { BASES, FACES, GUIDANCE, HANDS, MATERIALS, type Plan, type PlanEnd, SPARS } from "@/core/plans/plan";
import { shapeRecord } from "@/core/plans/shapes";
import { LIMITS } from "@/core/units/limits";
import { CountField } from "../../kit/CountField";
import { OptionalQuantity } from "../../kit/OptionalQuantity";
import { QuantityField } from "../../kit/QuantityField";
import { Tile, TileRow } from "../../kit/Tile";
import { ImportShape } from "./ImportShape";
import type { PlanPart } from "./PlanSentence";
import { ShapeFields } from "./ShapeFields";

export interface PlanChooserProps {
  plan: Plan;
  /** Which of a part's panels it is, from 0. */
  panel: number;
  cutters: readonly { id: string; name: string }[];
  change: (plan: Plan, key?: string) => void;
}

const TITLES: Readonly<Record<PlanPart, string>> = {
  root: "What at the root?",
  tip: "What at the tip?",
  span: "How long?",
  lie: "How does the tip lie to the root?",
  skin: "What is laid on it?",
  hands: "How many?",
  cutter: "Which cutter?",
  feed: "How fast at the root?",
  kerf: "What is led, and how wide is the cut?",
  template: "Which templates?",
  blank: "How much foam round it?",
};
const FACE_WORDS = { pair: "an upper and a lower", single: "one all round", flip: "one face, to be flipped" } as const;
/** What each is good for (common practice). */
const MATERIAL_WORDS = {
  metal: "lasts, and draws heat from the wire at its edge",
  laminate: "smooth, files easily, withstands the heat",
  plywood: "cheap; sand its edge and wax it, it chars",
  card: "for one cut, behind thin foam",
} as const;

function EndChooser({ end, onChange }: { end: PlanEnd; onChange: (end: PlanEnd) => void }) {
  return (
    <div className="plan-fields">
      <ShapeFields
        shape={end.shape}
        onChange={(shape) => {
          // A shape measured by its chord begins with the one that was; one of its own size keeps that.
          const needs = shapeRecord(shape.kind).needsChord;
          const kindChanged = shape.kind !== end.shape.kind;
          const { chord_mm, ...rest } = end;
          onChange(kindChanged && !needs ? { ...rest, shape } : { ...end, shape, ...(needs && chord_mm === undefined ? { chord_mm: 200 } : {}) });
        }}
      />
      <ImportShape
        onTake={(shape, widthMm) => {
          const { chord_mm, ...rest } = end;
          onChange({ ...rest, shape, ...(widthMm === undefined ? { chord_mm: chord_mm ?? 200 } : {}) });
        }}
      />
      <div className="plan-pair">
        {shapeRecord(end.shape.kind).needsChord ? (
          <QuantityField
            quantity="length"
            label="Chord"
            value={end.chord_mm ?? 200}
            range={LIMITS.chord_mm}
            onChange={(chord_mm) => onChange({ ...end, chord_mm })}
          />
        ) : (
          <OptionalQuantity
            quantity="length"
            label="Length along x"
            value={end.chord_mm}
            range={LIMITS.chord_mm}
            hint="empty: its own size"
            onChange={(chord_mm) => {
              const { chord_mm: _gone, ...rest } = end;
              onChange(chord_mm === undefined ? rest : { ...end, chord_mm });
            }}
          />
        )}
        <CountField label="Times as thick" value={end.thickness} min={0.1} max={5} unit=" " onChange={(thickness) => onChange({ ...end, thickness })} />
      </div>
      <div className="plan-pair">
        <CountField
          label="Turned"
          value={end.turn_deg}
          min={-180}
          max={180}
          unit="degrees, nose up to the left"
          onChange={(turn_deg) => onChange({ ...end, turn_deg })}
        />
        <QuantityField quantity="length" label="Moved aft" value={end.x_mm} range={{ min: -5000, max: 5000 }} onChange={(x_mm) => onChange({ ...end, x_mm })} />
        <QuantityField quantity="length" label="Moved up" value={end.y_mm} range={{ min: -5000, max: 5000 }} onChange={(y_mm) => onChange({ ...end, y_mm })} />
      </div>
    </div>
  );
}

type Spar = Plan["template"]["spar"];
const FIRST_SPAR: NonNullable<Spar> = { as: "slot", face: "lower", at: 0.3, width_mm: 6, depth_mm: 6 };

/** A slot that the wire cuts for a spar, or a mark where one rests, at the same share of both chords. */
function SparFields({ spar, onChange }: { spar: Spar; onChange: (spar: Spar) => void }) {
  return (
    <>
      <TileRow>
        <Tile chosen={spar === null} onClick={() => onChange(null)}>
          no spar
        </Tile>
        {SPARS.map((as) => (
          <Tile key={as} chosen={spar?.as === as} onClick={() => onChange({ ...(spar ?? FIRST_SPAR), as })}>
            {as === "slot" ? "a slot for a spar" : "a mark where a spar rests"}
          </Tile>
        ))}
      </TileRow>
      {spar && (
        <>
          <TileRow>
            {(["upper", "lower"] as const).map((face) => (
              <Tile key={face} chosen={spar.face === face} onClick={() => onChange({ ...spar, face })}>
                in the {face} face
              </Tile>
            ))}
          </TileRow>
          <div className="plan-pair">
            <CountField label="At" value={spar.at} min={0} max={1} unit="share of the chord" onChange={(at) => onChange({ ...spar, at })} />
            <QuantityField
              quantity="length"
              label="Wide"
              value={spar.width_mm}
              range={{ min: 0.5, max: 200 }}
              onChange={(width_mm) => onChange({ ...spar, width_mm })}
            />
            <QuantityField
              quantity="length"
              label="Deep"
              value={spar.depth_mm}
              range={{ min: 0.5, max: 500 }}
              onChange={(depth_mm) => onChange({ ...spar, depth_mm })}
            />
          </div>
        </>
      )}
    </>
  );
}

/** The small chooser of one part of a plan, in place. */
export function PlanChooser({
  part,
  anchor,
  onClose,
  ...props
}: PlanChooserProps & { part: PlanPart | null; anchor: HTMLElement | null; onClose: () => void }) {
  return (
    <Popover
      open={part !== null && anchor !== null}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      slotProps={{
        paper: {
          sx: { p: 2, maxWidth: 560, width: part === "root" || part === "tip" ? 560 : 380, maxHeight: "max(420px, calc(100vh - 206px))" },
          role: "dialog",
          "aria-label": part ? TITLES[part] : undefined,
        },
      }}
    >
      {part && (
        <>
          <h2 style={{ margin: "0 0 10px", fontSize: 20 }}>{TITLES[part]}</h2>
          {body(part, props)}
        </>
      )}
    </Popover>
  );
}

function body(part: PlanPart, { plan, panel, cutters, change }: PlanChooserProps): ReactNode {
  const setPart = (next: Partial<Plan["part"]>) => change({ ...plan, part: { ...plan.part, ...next } }, part);
  const setCut = (next: Partial<Plan["cut"]>) => change({ ...plan, cut: { ...plan.cut, ...next } }, part);
  const setTemplate = (next: Partial<Plan["template"]>) => change({ ...plan, template: { ...plan.template, ...next } }, part);
  const setBlank = (next: Partial<Plan["blank"]>) => change({ ...plan, blank: { ...plan.blank, ...next } }, part);
  const mm = (label: string, value: number, range: { min: number; max: number }, set: (value: number) => void, quantity: "length" | "kerf" = "length") => (
    <QuantityField key={label} quantity={quantity} label={label} value={value} range={range} onChange={set} />
  );
  switch (part) {
    case "root":
      return <EndChooser end={plan.root} onChange={(root) => change({ ...plan, root }, part)} />;
    case "tip":
      return (
        <>
          <TileRow>
            <Tile chosen={plan.tip === null} onClick={() => change({ ...plan, tip: null }, part)}>
              the same as the root
            </Tile>
            <Tile
              chosen={plan.tip !== null}
              onClick={() =>
                plan.tip === null &&
                change({ ...plan, tip: { ...plan.root, ...(plan.root.chord_mm ? { chord_mm: Math.round(plan.root.chord_mm * 0.7) } : {}) } }, part)
              }
            >
              of its own
            </Tile>
          </TileRow>
          {plan.tip && <EndChooser end={plan.tip} onChange={(tip) => change({ ...plan, tip }, part)} />}
        </>
      );
    case "span":
      return mm("Length between the ends", plan.part.span_mm, { min: 1, max: 10_000 }, (span_mm) => setPart({ span_mm }));
    case "lie":
      return (
        <div className="plan-fields">
          {mm("Swept back", plan.part.sweep_mm, { min: -5000, max: 5000 }, (sweep_mm) => setPart({ sweep_mm }))}
          {mm("Raised", plan.part.offset_mm, { min: -5000, max: 5000 }, (offset_mm) => setPart({ offset_mm }))}
          <CountField
            label="Washout"
            value={plan.part.washout_deg}
            min={-45}
            max={45}
            unit="degrees, tip nose down"
            onChange={(washout_deg) => setPart({ washout_deg })}
          />
          <CountField
            label="Turned about"
            value={plan.part.washoutAt}
            min={0}
            max={1}
            unit="share of the tip's chord"
            onChange={(washoutAt) => setPart({ washoutAt })}
          />
          <TileRow>
            {BASES.map((base) => (
              <Tile key={base} chosen={plan.template.base === base} onClick={() => setTemplate({ base })}>
                {base === "turned" ? "tip's base line turned by it" : "base lines along the chords"}
              </Tile>
            ))}
          </TileRow>
          <TileRow>
            <Tile chosen={plan.template.twist} onClick={() => setTemplate({ twist: !plan.template.twist })}>
              the twist is wanted
            </Tile>
          </TileRow>
        </div>
      );
    case "skin":
      return mm("Thickness of the skin, each face", plan.part.skin_mm, { min: 0, max: 50 }, (skin_mm) => setPart({ skin_mm }), "kerf");
    case "hands":
      return (
        <TileRow>
          {HANDS.map((hands) => (
            <Tile key={hands} chosen={plan.part.hands === hands} onClick={() => setPart({ hands })}>
              {hands === "one" ? "one" : "left and right, mirrored"}
            </Tile>
          ))}
        </TileRow>
      );
    case "cutter":
      return (
        <TileRow>
          {cutters.map((cutter) => (
            <Tile key={cutter.id} chosen={plan.cutter?.id === cutter.id} onClick={() => change({ ...plan, cutter }, part)}>
              {cutter.name}
            </Tile>
          ))}
          <Tile chosen={plan.cutter === null} onClick={() => change({ ...plan, cutter: null }, part)}>
            none yet
          </Tile>
        </TileRow>
      );
    case "feed":
      if (panel > 0)
        return (
          <p style={{ margin: 0 }}>
            This panel's root is cut as the tip of the one before it, so that the joint's one template fits both. Set the feed at the first panel's root.
          </p>
        );
      return (
        <OptionalQuantity
          quantity="feed"
          label="Feed at the root"
          value={plan.cut.feed_mm_s ?? undefined}
          range={LIMITS.feed_mm_s}
          hint="empty: the cutter's own"
          onChange={(feed) => setCut({ feed_mm_s: feed ?? null })}
        />
      );
    case "kerf": {
      const kerf = (label: string, key: "rootKerf_mm" | "tipKerf_mm") => (
        <OptionalQuantity
          quantity="kerf"
          label={label}
          value={plan.cut[key]}
          range={LIMITS.maxKerf_mm}
          hint="empty: as computed"
          onChange={(value) => {
            const { [key]: _gone, ...rest } = plan.cut;
            change({ ...plan, cut: value === undefined ? rest : { ...plan.cut, [key]: value } }, part);
          }}
        />
      );
      return (
        <div className="plan-fields">
          <TileRow>
            {GUIDANCE.map((guidance) => (
              <Tile key={guidance} chosen={plan.cut.guidance === guidance} onClick={() => setCut({ guidance })}>
                {guidance === "edge" ? "the wire rides on an edge" : "the wire's centre is led"}
              </Tile>
            ))}
          </TileRow>
          {kerf("Kerf measured at the root", "rootKerf_mm")}
          {kerf("Kerf measured at the tip", "tipKerf_mm")}
        </div>
      );
    }
    case "template":
      return (
        <div className="plan-fields">
          <TileRow>
            {FACES.map((faces) => (
              <Tile key={faces} chosen={plan.template.faces === faces} onClick={() => setTemplate({ faces })}>
                {FACE_WORDS[faces]}
              </Tile>
            ))}
          </TileRow>
          <TileRow>
            {MATERIALS.map((material) => (
              <Tile key={material} chosen={plan.template.material === material} onClick={() => setTemplate({ material })} width={250}>
                {material}
                <br />
                <span style={{ fontSize: 13 }}>{MATERIAL_WORDS[material]}</span>
              </Tile>
            ))}
          </TileRow>
          {mm("Thickness", plan.template.thickness_mm, { min: 0.1, max: 30 }, (thickness_mm) => setTemplate({ thickness_mm }), "kerf")}
          <CountField label="Ramp" value={plan.template.ramp_deg} min={-60} max={60} unit="degrees" onChange={(ramp_deg) => setTemplate({ ramp_deg })} />
          {mm("Ramp's length", plan.template.ramp_mm, { min: 0, max: 500 }, (ramp_mm) => setTemplate({ ramp_mm }))}
          {mm("Past sharp outer corners (an ear), 0 for none", plan.template.ear_mm, { min: 0, max: 100 }, (ear_mm) => setTemplate({ ear_mm }))}
          <SparFields spar={plan.template.spar} onChange={(spar) => setTemplate({ spar })} />
          {mm("Run-out beyond the tail", plan.template.runOut_mm, { min: 0, max: 500 }, (runOut_mm) => setTemplate({ runOut_mm }))}
        </div>
      );
    case "blank":
      return (
        <div className="plan-fields">
          {mm("Before the nose", plan.blank.nose_mm, { min: 0, max: 500 }, (nose_mm) => setBlank({ nose_mm }))}
          {mm("Behind the tail", plan.blank.tail_mm, { min: 0, max: 500 }, (tail_mm) => setBlank({ tail_mm }))}
          {mm("Above", plan.blank.top_mm, { min: 0, max: 500 }, (top_mm) => setBlank({ top_mm }))}
          {mm("Below", plan.blank.bottom_mm, { min: 0, max: 500 }, (bottom_mm) => setBlank({ bottom_mm }))}
          <TileRow>
            <Tile chosen={plan.blank.centred} onClick={() => setBlank({ centred: !plan.blank.centred })}>
              thickest part in the middle of the height
            </Tile>
          </TileRow>
          {mm("Trim off both faces first", plan.blank.trim_mm, { min: 0, max: 50 }, (trim_mm) => setBlank({ trim_mm }))}
          <p style={{ margin: 0, fontSize: 14 }}>Extruded board bows when it is cut thin: about 6 mm off both faces takes its stress away (common practice).</p>
        </div>
      );
  }
}
