import type { Relation } from "../../kernel/provenance";
import { cleanHeats, kerfFeedProduct, leastKerfM } from "../../physics/cut/cut";
import type { CircuitState } from "../../physics/power/circuit";
import type { Design } from "../design/schema";
import { circuitOf, type KnobState, knobOf, pairOf, withSetting } from "./evaluate";

export const KNOB_CURVE: Relation = {
  id: "knob-curve",
  title: "What the knob does",
  formula: "the whole set-up solved at each setting: heat in the cut, top feed, state of the supply",
  words: "Some knobs do most of their work in a small part of their turn; where the curve is steep, a hair's breadth changes the cut.",
  range: "this design, steady heat",
  basis: "published",
  source: "circuit and cut solved together at each setting",
};

export interface KnobPoint {
  setting: number;
  /** heat in the cut */
  heatWPerM: number;
  topFeedMPerS: number;
  state: CircuitState;
}

export interface KnobCurve {
  knob: KnobState;
  /** From the knob's least setting to its most. */
  points: KnobPoint[];
  /** Settings between which the cut is clean; null where none is. */
  clean: { from: number; to: number } | null;
  /** Turns of one step across the clean band. */
  stepsInClean: number;
  /** Steepest change of heat from one step to the next within the clean band (over the whole knob when none), W/m. */
  coarsestWPerM: number;
  /** Share of the knob's travel that is clean. */
  cleanShare: number;
}

const POINTS = 49;

/**
 * The design solved over the whole range of its knob.
 * @returns null where the heat cannot be turned
 */
export function knobCurve(design: Design): KnobCurve | null {
  const knob = knobOf(design);
  if (!knob || knob.max <= knob.min) return null;
  const pair = pairOf(design);
  const heats = cleanHeats(pair, design.job.feed_mm_s / 1000, design.job.maxKerf_mm / 1000);
  const at = (setting: number): KnobPoint => {
    const evaluation = circuitOf(withSetting(design, setting), pair);
    const heatWPerM = evaluation.cut?.powerWPerM ?? 0;
    const topFeedMPerS = heatWPerM > 0 ? kerfFeedProduct(pair, heatWPerM) / leastKerfM(pair) : 0;
    return { setting, heatWPerM, topFeedMPerS, state: evaluation.state };
  };
  const points = Array.from({ length: POINTS }, (_, i) => at(knob.min + ((knob.max - knob.min) * i) / (POINTS - 1)));
  const slope = (i: number) => {
    const [a, b] = [points[i] as KnobPoint, points[i + 1] as KnobPoint];
    return (Math.abs(b.heatWPerM - a.heatWPerM) / (b.setting - a.setting)) * knob.step;
  };
  // Crossings of the clean band's two heats, read off the curve between its points.
  const inside: number[] = [];
  const coarse: number[] = [];
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i] as KnobPoint, points[i + 1] as KnobPoint];
    const [low, high] = [Math.min(a.heatWPerM, b.heatWPerM), Math.max(a.heatWPerM, b.heatWPerM)];
    if (high < heats.from || low > heats.to) continue;
    const where = (heat: number) =>
      a.heatWPerM === b.heatWPerM ? a.setting : a.setting + ((heat - a.heatWPerM) / (b.heatWPerM - a.heatWPerM)) * (b.setting - a.setting);
    inside.push(where(Math.max(low, heats.from)), where(Math.min(high, heats.to)));
    coarse.push(slope(i));
  }
  const clean = heats.to > heats.from && inside.length > 0 ? { from: Math.min(...inside), to: Math.max(...inside) } : null;
  const span = clean ? clean.to - clean.from : 0;
  return {
    knob,
    points,
    clean,
    stepsInClean: span / knob.step,
    coarsestWPerM: Math.max(...(clean ? coarse : points.slice(1).map((_, i) => slope(i)))),
    cleanShare: span / (knob.max - knob.min),
  };
}
