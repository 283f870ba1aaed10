import { cleanHeats } from "../../physics/cut/cut";
import { pullLimits } from "../../physics/mechanics/tension";
import type { Design } from "../design/schema";
import { type CutterKind, DESIGN_FORMAT, DESIGN_VERSION } from "../design/vocabulary";
import { circuitOf, pairOf, settingForHeat } from "./evaluate";

interface KindRow {
  name: string;
  words: string;
  length_mm: number;
  width_mm: number;
  thickness_mm: number;
  gauge_awg: number;
  voltage_V: number;
  maxCurrent_A: number;
  hot_N: number;
}

/** What people call each kind, and the span, foam, wire and supply a new one starts from (this project's own starting points). */
export const KINDS: Readonly<Record<CutterKind, KindRow>> = {
  bow: {
    name: "Hand bow",
    words: "a wire strung across a frame, carried through the foam",
    length_mm: 720,
    width_mm: 600,
    thickness_mm: 75,
    gauge_awg: 26,
    voltage_V: 19,
    maxCurrent_A: 4.7,
    hot_N: 40,
  },
  table: {
    name: "Table cutter",
    words: "an upright wire through a table, foam pushed past a fence",
    length_mm: 350,
    width_mm: 250,
    thickness_mm: 400,
    gauge_awg: 28,
    voltage_V: 12,
    maxCurrent_A: 5,
    hot_N: 15,
  },
  drop: {
    name: "Drop board",
    words: "the bow sinks through the foam by its own weight",
    length_mm: 720,
    width_mm: 600,
    thickness_mm: 100,
    gauge_awg: 26,
    voltage_V: 19,
    maxCurrent_A: 4.7,
    hot_N: 40,
  },
  template: {
    name: "Template bow",
    words: "a bow led along templates, pulled by hand or weight",
    length_mm: 1200,
    width_mm: 1000,
    thickness_mm: 100,
    gauge_awg: 24,
    voltage_V: 24,
    maxCurrent_A: 6,
    hot_N: 60,
  },
  slicer: {
    name: "Thin-sheet slicer",
    words: "a wire held just above a flat board",
    length_mm: 260,
    width_mm: 200,
    thickness_mm: 3,
    gauge_awg: 32,
    voltage_V: 12,
    maxCurrent_A: 2,
    hot_N: 8,
  },
  frame: {
    name: "Motorised frame",
    words: "motors lead the wire along a drawn path",
    length_mm: 900,
    width_mm: 700,
    thickness_mm: 100,
    gauge_awg: 26,
    voltage_V: 24,
    maxCurrent_A: 5,
    hot_N: 40,
  },
  loop: {
    name: "Hand loop",
    words: "a short bent wire for pockets and grooves",
    length_mm: 110,
    width_mm: 40,
    thickness_mm: 20,
    gauge_awg: 28,
    voltage_V: 5,
    maxCurrent_A: 4,
    hot_N: 5,
  },
  wand: {
    name: "Wand",
    words: "a straight hot wire on a handle, for holes",
    length_mm: 130,
    width_mm: 60,
    thickness_mm: 60,
    gauge_awg: 28,
    voltage_V: 5,
    maxCurrent_A: 4,
    hot_N: 5,
  },
};

/** A cool start: this much above the heat at which it would begin to drag. */
const HEAT_ABOVE_DRAG = 1.6;

/** A sound starting point of a kind in light bead foam, its duty set a safe step above dragging. */
export function newDesign(kind: CutterKind = "bow", name = "New cutter"): Design {
  const row = KINDS[kind];
  const design: Design = {
    format: DESIGN_FORMAT,
    version: DESIGN_VERSION,
    name,
    kind,
    notes: "",
    ambient_C: 20,
    job: { foam: { family: "eps", density_kg_m3: 20 }, width_mm: row.width_mm, thickness_mm: row.thickness_mm, feed_mm_s: 6, maxKerf_mm: 2.5 },
    wire: { alloy: "nicr-80-20", gauge_awg: row.gauge_awg, length_mm: row.length_mm },
    supply: { kind: "dc", voltage_V: row.voltage_V, maxCurrent_A: row.maxCurrent_A },
    control: { kind: "pwm", duty: 0.5 },
    leads: { gauge_awg: 18, oneWay_m: 1 },
    tension: { device: "spring", hot_N: row.hot_N, rate_N_per_mm: 1.2 },
  };
  const pair = pairOf(design);
  const heat = cleanHeats(pair, design.job.feed_mm_s / 1000, design.job.maxKerf_mm / 1000).from * HEAT_ABOVE_DRAG;
  const duty = settingForHeat(design, heat, pair) ?? 0.5;
  const set: Design = { ...design, control: { kind: "pwm", duty: Math.min(1, Math.round(duty * 100) / 100) } };
  // Thin wires do not withstand the pull that their kind of cutter would like.
  const withstandsN = pullLimits(pair.wire, circuitOf(set, pair).wireC).recommendedN;
  return { ...set, tension: { ...set.tension, hot_N: Math.min(row.hot_N, Math.max(1, Math.floor(withstandsN))) } };
}
