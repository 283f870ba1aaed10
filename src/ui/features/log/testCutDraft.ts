import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { foamOf } from "@/core/drawer/things";
import type { CutFace, TestCut } from "@/core/log/entries";
import { testCut } from "@/core/log/testCut";
import { foamNamed } from "@/core/materials/foams";
import { LIMITS, type LimitName } from "@/core/units/limits";
import { parseQuantity } from "@/core/units/parseQuantity";
import type { Quantity, UnitSystem } from "@/core/units/units";
import { tidy } from "../../kit/tidy";

/** Figures that may be measured at a cut. */
export const MEASURES = {
  kerf: { label: "Kerf by calliper", quantity: "kerf", range: "kerf_mm" },
  at: { label: "Kerf measured after", quantity: "length", range: "width_mm" },
  lag: { label: "Bow by rule", quantity: "kerf", range: "lag_mm" },
  current: { label: "Amps while cutting", quantity: "current", range: "drivingCurrent_A" },
  volts: { label: "Volts on the wire", quantity: "voltage", range: "voltage_V" },
} as const satisfies Record<string, { label: string; quantity: Quantity; range: LimitName }>;
export type Measure = keyof typeof MEASURES;
export const MEASURE_NAMES = Object.keys(MEASURES) as Measure[];

/** A test cut as it is being filled in. */
export interface TestCutDraft {
  feedMmPerS: number;
  /** null until a person has chosen one: a face nobody chose is none */
  face: CutFace | null;
  /** true once it was to be stored without a face */
  unjudged: boolean;
  texts: Record<Measure, string>;
  faults: Partial<Record<Measure, string>>;
  widthMm: number;
  /** as the knob says; null while it is as the desk has it */
  setting: string | null;
  /** name of a block in the drawer; empty for the desk's foam */
  block: string;
  note: string;
  photo: File | null;
}

const NONE: Record<Measure, string> = { kerf: "", at: "", lag: "", current: "", volts: "" };

/** An empty draft for a cutter. */
export const newDraft = ({ job }: Design): TestCutDraft => ({
  feedMmPerS: job.feed_mm_s,
  face: null,
  unjudged: false,
  texts: NONE,
  faults: {},
  widthMm: job.width_mm,
  setting: null,
  block: "",
  note: "",
  photo: null,
});

/** What the next cut of the same kind begins with: feed, width and block stay, what was measured and judged does not. */
export const afterStoring = (draft: TestCutDraft): TestCutDraft => ({ ...draft, texts: NONE, note: "", setting: null, face: null, photo: null });

/** Reads the typed figures. @returns those that were given, in their own units (mm, A, V), and what is wrong with the others by field */
export function readMeasures(texts: TestCutDraft["texts"], system: UnitSystem): { measured: Partial<Record<Measure, number>>; faults: TestCutDraft["faults"] } {
  const measured: Partial<Record<Measure, number>> = {};
  const faults: TestCutDraft["faults"] = {};
  for (const name of MEASURE_NAMES) {
    if (texts[name].trim() === "") continue;
    const { quantity, range } = MEASURES[name];
    const parsed = parseQuantity(quantity, texts[name], system, LIMITS[range]);
    if (parsed.ok) measured[name] = tidy(parsed.value);
    else faults[name] = parsed.message;
  }
  return { measured, faults };
}

/** The log entry of a cut: the cutter as it is set, the foam it was made in, and what was measured. @param block the drawer's block, where one was named @param at ISO time */
export function testCutOf(
  { design, evaluation, asSet }: { design: Design; evaluation: DesignEvaluation; asSet: string },
  draft: TestCutDraft & { face: CutFace },
  measured: Partial<Record<Measure, number>>,
  { block, photoId, at }: { block?: (Parameters<typeof foamOf>[0] & { name: string }) | undefined; photoId?: string | undefined; at: string },
): TestCut {
  const weighed = block ? foamOf(block) : null;
  return testCut(design, evaluation.cut.powerWPerM, {
    at,
    ...(weighed
      ? { foam: { ...foamNamed(design.job.foam), density_kg_m3: tidy(weighed.densityKgM3), ...(weighed.weighed ? { weighed: true as const } : {}) } }
      : {}),
    block: block?.name,
    width_mm: draft.widthMm,
    setting: (draft.setting ?? asSet).trim().slice(0, 60),
    volts_V: measured.volts,
    current_A: measured.current,
    feed_mm_s: draft.feedMmPerS,
    kerf_mm: measured.kerf,
    kerf_at_mm: measured.kerf === undefined ? undefined : measured.at,
    lag_mm: measured.lag,
    face: draft.face,
    photo: photoId,
    note: draft.note.trim(),
  });
}
