import { resolveFoam } from "../materials/foams";
import { bareWireDriven } from "../models/bareWire";
import { type CircuitAnswer, dutyOf, type HeatKnob, heatKnob, leadsOhm, solveCircuit, supplyLimitA, supplyOhm } from "../models/circuit";
import { type CutPair, type CutState, type CutVerdict, cleanFeeds, cleanHeats, cutAtPower, type FeedWindow, type HeatWindow, wireInKerfC } from "../models/cut";
import { midSpanLag } from "../models/lag";
import { massKgPerM, resistanceOhmPerM, resolveWire, type Wire } from "../models/wire";
import { type Caution, cautionsFor } from "./cautions";
import type { Design } from "./schema";

/** What is wrong first: the wire does not reach across, the supply cannot, the wire never warms, or how the cut goes. */
export type DesignVerdict = "short-wire" | "overload" | "too-cold" | CutVerdict;

/** Heats the knob can set, W/m in the cut. */
export interface Reach {
  knob: HeatKnob;
  fromWPerM: number;
  toWPerM: number;
  /** False when no setting of the knob spares the supply. */
  supplyHolds: boolean;
}

export interface DesignAnswer {
  wire: Wire;
  pair: CutPair;
  feedMPerS: number;
  acceptedKerfM: number;
  ohmPerM: number;
  massKgPerM: number;
  circuit: CircuitAnswer;
  cut: CutState;
  lagM: number | null;
  verdict: DesignVerdict;
  feeds: FeedWindow;
  heats: HeatWindow;
  reach: Reach;
  cautions: Caution[];
}

/** Heat so small that it stands for none: the models want a positive figure. */
const NO_HEAT = 0.05;

/** The pair of wire and foam a design cuts with. */
export function pairOf(design: Design): CutPair {
  return { wire: resolveWire(design.wire), foam: resolveFoam(design.job.foam), ambientC: design.ambient_C };
}

/** Width that can be on the wire: the foam's, or all of a wire that is too short. */
function widthOnWireM(design: Design): number {
  return Math.min(design.job.width_mm, design.wire.length_mm) / 1000;
}

export function circuitOf(design: Design, pair: CutPair = pairOf(design)): CircuitAnswer {
  return solveCircuit({
    wire: pair.wire,
    lengthM: design.wire.length_mm / 1000,
    supply: design.supply,
    control: design.control,
    leads: design.leads,
    ambientC: design.ambient_C,
    cutting: {
      pair,
      feedMPerS: design.job.feed_mm_s / 1000,
      widthM: widthOnWireM(design),
      acceptedKerfM: design.job.maxKerf_mm / 1000,
    },
  });
}

function judge(design: Design, circuit: CircuitAnswer, cut: CutState, pair: CutPair): DesignVerdict {
  if (design.job.width_mm > design.wire.length_mm) return "short-wire";
  if (circuit.state === "overload") return "overload";
  if (circuit.wireC < pair.foam.collapseC) return "too-cold";
  return cut.verdict;
}

/** Just the verdict: what the search for cures asks over and over. */
export function verdictOf(design: Design): DesignVerdict {
  const pair = pairOf(design);
  const circuit = circuitOf(design, pair);
  return judge(design, circuit, circuit.cut ?? coldCut(design, pair), pair);
}

function coldCut(design: Design, pair: CutPair): CutState {
  return cutAtPower(pair, design.job.feed_mm_s / 1000, NO_HEAT, design.job.maxKerf_mm / 1000);
}

/**
 * Setting of the knob that brings a heat to the cut.
 * @param powerWPerM heat in the cut
 * @returns duty (0 to 1) or volts; may lie beyond what the supply gives: the caller clamps. null when there is no knob
 */
export function settingForHeat(design: Design, powerWPerM: number, pair: CutPair = pairOf(design)): number | null {
  const knob = heatKnob(design.supply, design.control);
  if (knob === "none") return null;
  const feedMPerS = design.job.feed_mm_s / 1000;
  const kerfM = cutAtPower(pair, feedMPerS, powerWPerM).kerfM;
  const kerfC = wireInKerfC(pair, powerWPerM, kerfM);
  const currentA = Math.sqrt(powerWPerM / resistanceOhmPerM(pair.wire, kerfC));
  const bareC = bareWireDriven(pair.wire, { currentA }, { ambientC: design.ambient_C }).temperatureC;
  const widthM = widthOnWireM(design);
  const lengthM = design.wire.length_mm / 1000;
  const wireOhm = resistanceOhmPerM(pair.wire, bareC) * (lengthM - widthM) + resistanceOhmPerM(pair.wire, kerfC) * widthM;
  const ohm = wireOhm + leadsOhm(design.leads, design.ambient_C) + supplyOhm(design.supply);
  if (knob === "voltage") return currentA * ohm;
  const on = design.supply.kind === "bench" ? Math.min(design.supply.voltage_V / ohm, design.supply.current_A) : design.supply.voltage_V / ohm;
  return (currentA / on) ** 2;
}

/** The design with its heat knob at a setting (duty or volts); the design itself when it has no knob. */
export function withSetting(design: Design, setting: number): Design {
  const knob = heatKnob(design.supply, design.control);
  if (knob === "duty") return { ...design, control: { kind: "pwm", duty: setting } };
  if (knob === "voltage" && design.supply.kind === "bench") return { ...design, supply: { ...design.supply, voltage_V: setting } };
  return design;
}

/** The knob's present setting, in its own unit. */
export function settingOf(design: Design): number | null {
  const knob = heatKnob(design.supply, design.control);
  return knob === "none" ? null : knob === "duty" ? dutyOf(design.control) : design.supply.voltage_V;
}

/** Furthest the knob goes, in its own unit. A bench supply without a plate is taken to end at its present setting. */
export function settingRange(design: Design): { min: number; max: number } | null {
  const knob = heatKnob(design.supply, design.control);
  if (knob === "none") return null;
  if (knob === "duty") return { min: 0, max: 1 };
  const plate = design.supply.kind === "bench" ? design.supply.maxVoltage_V : undefined;
  return { min: 0.1, max: Math.max(plate ?? 0, design.supply.voltage_V) };
}

function heatAt(design: Design, pair: CutPair): { heat: number; holds: boolean } {
  const circuit = circuitOf(design, pair);
  return { heat: circuit.cut?.powerWPerM ?? 0, holds: circuit.state !== "overload" };
}

function reachOf(design: Design, pair: CutPair, circuit: CircuitAnswer): Reach {
  const knob = heatKnob(design.supply, design.control);
  const range = settingRange(design);
  const present = circuit.cut?.powerWPerM ?? 0;
  if (!range) return { knob, fromWPerM: present, toWPerM: present, supplyHolds: circuit.state !== "overload" };
  const top = heatAt(withSetting(design, range.max), pair);
  // With PWM the supply meets the full on-current at any duty, so it holds everywhere or nowhere; a bench supply limits by itself.
  const holds = design.supply.kind === "bench" || circuit.onCurrentA <= supplyLimitA(design.supply) * (1 + 1e-9);
  return { knob, fromWPerM: 0, toWPerM: top.heat, supplyHolds: holds };
}

/** Everything the desk shows of a design, solved at once. */
export function evaluateDesign(design: Design): DesignAnswer {
  const pair = pairOf(design);
  const feedMPerS = design.job.feed_mm_s / 1000;
  const acceptedKerfM = design.job.maxKerf_mm / 1000;
  const circuit = circuitOf(design, pair);
  const cut = circuit.cut ?? coldCut(design, pair);
  const lag = cut.dragNPerM === null ? null : midSpanLag(cut.dragNPerM, design.wire.length_mm / 1000, widthOnWireM(design), design.tension.hot_N);
  const verdict = judge(design, circuit, cut, pair);
  return {
    wire: pair.wire,
    pair,
    feedMPerS,
    acceptedKerfM,
    ohmPerM: resistanceOhmPerM(pair.wire, design.ambient_C),
    massKgPerM: massKgPerM(pair.wire),
    circuit,
    cut,
    lagM: lag?.lagM ?? null,
    verdict,
    feeds: cleanFeeds(pair, cut.powerWPerM, acceptedKerfM),
    heats: cleanHeats(pair, feedMPerS, acceptedKerfM),
    reach: reachOf(design, pair, circuit),
    cautions: cautionsFor(design, circuit, pair),
  };
}
