import { resolveFoam, sameFoam } from "../../materials/foams";
import { bracketedRoot } from "../../numerics/rootFinding";
import {
  type CutPair,
  type CutState,
  type CutVerdict,
  cleanFeeds,
  cleanHeats,
  cutAtPower,
  type FeedWindow,
  type HeatWindow,
  referenceDragNPerM,
  wireInKerfC,
} from "../../physics/cut/cut";
import { cornerDwell, midSpanLag } from "../../physics/cut/lag";
import { besidesComputed, calibratedPair } from "../../physics/cut/learnt";
import { DOUBTS, type Doubts, RECYCLED_DOUBTS, WEIGHED_DENSITY_SHARE } from "../../physics/cut/uncertainty";
import { bareWireDriven } from "../../physics/heat/bareWire";
import { massKgPerM, resistanceOhmPerM, resolveWire, type Wire } from "../../physics/heat/wire";
import { tensionRecord } from "../../physics/mechanics/devices";
import { type StiffTool, stiffBowM } from "../../physics/mechanics/stiffBow";
import { solveTension, type TensionDeviceModel, type TensionResult } from "../../physics/mechanics/tension";
import { type CircuitInput, type CircuitResult, solveCircuit, turnsOwnVolts } from "../../physics/power/circuit";
import { controlRecord, ownVolts, recordOf } from "../../physics/power/controls";
import { leadsOhm } from "../../physics/power/leads";
import { atVolts, sourceOf, supplyEmfV, supplyOhm, supplyRecordOf } from "../../physics/power/supplies";
import type { AcceptedCalibration, Design } from "../design/schema";
import { type Caution, cautionsFor } from "./cautions";

/** What is wrong first: the wire does not reach across, the supply cannot, the wire never warms, or how the cut goes. */
export type DesignVerdict = "short-wire" | "overload" | "too-cold" | CutVerdict;

/** Heats the knob can set, W/m in the cut. */
export interface Reach {
  /** as {@link Knob.kind}, or "none" */
  knob: string;
  fromWPerM: number;
  toWPerM: number;
  /** False when no setting of the knob spares the supply. */
  supplyHolds: boolean;
}

export interface DesignEvaluation {
  wire: Wire;
  pair: CutPair;
  feedMPerS: number;
  acceptedKerfM: number;
  ohmPerM: number;
  massKgPerM: number;
  circuit: CircuitResult;
  cut: CutState;
  lagM: number | null;
  /** Wait at a corner until the middle is within the usual tolerance; null where the wire cannot keep up. */
  dwellS: number | null;
  tension: TensionResult;
  /** How well its inputs are known. */
  doubts: Doubts;
  verdict: DesignVerdict;
  feeds: FeedWindow;
  heats: HeatWindow;
  reach: Reach;
  cautions: Caution[];
}

/** Heat so small that it counts as none: the models want a positive figure. */
const NO_HEAT = 0.05;

/** The design with its clip kept on its wire: shortening the wire moves the clip along. */
export function keepIfValid(design: Design): Design {
  const { control, wire } = design;
  const { knob, shortens } = controlRecord(control.kind);
  return shortens && knob && liveMm(design) > wire.length_mm
    ? { ...design, control: { ...control, [knob.field]: wire.length_mm } as Design["control"] }
    : design;
}

/** What test cuts taught about the design's foam; undefined where nothing was accepted. */
export function calibrationOf(design: Design): AcceptedCalibration | undefined {
  const { foam } = design.job;
  return design.calibrations?.find((each) => sameFoam(each.foam, foam));
}

/** Ohms outside the wire that the newest calibration of any foam found, as it found them: they belong to the cutter. */
export function learntOhm(design: Design): number {
  const newest = [...(design.calibrations ?? [])].sort((a, b) => (a.at < b.at ? 1 : -1))[0];
  return newest?.extra_ohm ?? 0;
}

function extraOhm(design: Design): number {
  return besidesComputed(learntOhm(design), leadsOhm(design.leads, design.ambient_C) + supplyOhm(design.supply));
}

/** The pair of wire and foam a design cuts with, as its test cuts taught it. */
export function pairOf(design: Design): CutPair {
  const pair = { wire: resolveWire(design.wire), foam: resolveFoam(design.job.foam), ambientC: design.ambient_C };
  const learnt = calibrationOf(design);
  return learnt ? calibratedPair(pair, { ...learnt, collapseShiftK: learnt.collapseShift_K }) : pair;
}

/** Length of wire that current flows in: all of it, or up to the clip. */
export function liveMm(design: Design): number {
  const { record, own } = recordOf(design.control);
  return record.liveMm(own, design.wire.length_mm);
}

/** Width that can be on the wire: the foam's, or all of a wire that is too short. */
export function widthOnWireM(design: Design): number {
  return Math.min(design.job.width_mm, liveMm(design)) / 1000;
}

/** The circuit of a design as the models take it. */
export function circuitInput(design: Design, pair: CutPair): CircuitInput {
  return {
    wire: pair.wire,
    lengthM: design.wire.length_mm / 1000,
    supply: design.supply,
    control: design.control,
    leads: design.leads,
    ...(design.calibrations ? { springOhm: extraOhm(design) } : {}),
    ambientC: design.ambient_C,
    untilItMelts: true,
    cutting: {
      pair,
      feedMPerS: design.job.feed_mm_s / 1000,
      widthM: widthOnWireM(design),
      acceptedKerfM: design.job.maxKerf_mm / 1000,
    },
  };
}

export function circuitOf(design: Design, pair: CutPair = pairOf(design)): CircuitResult {
  return solveCircuit(circuitInput(design, pair));
}

function judge(design: Design, circuit: CircuitResult, cut: CutState, pair: CutPair): DesignVerdict {
  if (design.job.width_mm > liveMm(design)) return "short-wire";
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

/** The knob of a design: where it is, how far it goes, how finely a hand sets it, and which way is hotter. Own units: duty and fraction 0 to 1, V, degrees, ohm, mm, degC. */
export interface KnobState {
  /** as a control's record names its knob, or "voltage" */
  kind: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** True when a higher setting is hotter. */
  rising: boolean;
}

/** What a design's control is chosen beside. */
export const aroundOf = ({ supply, wire, job }: Design) => ({ emfV: supplyEmfV(supply), wireMm: wire.length_mm, foamMm: job.width_mm });

/** What is to be known of the design's control on its wire. */
export function controlNotes(design: Design): string[] {
  const { record, own } = recordOf(design.control);
  return record.notes?.(own, pairOf(design).wire) ?? [];
}

/** The design's heat knob, or null where the heat cannot be turned. */
export function knobOf(design: Design): KnobState | null {
  const { supply, control } = design;
  if (turnsOwnVolts(supply, control)) {
    const value = supplyEmfV(supply);
    // A knob without a plate is taken to end at its present setting.
    const source = supplyRecordOf(supply);
    const most = Math.max(source.record.mostV(source.own), value);
    return { kind: ownVolts.id, value, min: 0.1, max: most, step: ownVolts.step, rising: ownVolts.rising };
  }
  const { record, own } = recordOf(control);
  const { knob } = record;
  return knob && { kind: knob.id, value: own[knob.field] as number, ...knob.range(aroundOf(design)), step: knob.step, rising: knob.rising };
}

/** The design with its heat knob at a setting, in the knob's own unit; the design itself when it has none. */
export function withSetting(design: Design, setting: number): Design {
  const { supply, control } = design;
  if (turnsOwnVolts(supply, control)) return { ...design, supply: atVolts(supply, setting) ?? supply };
  const { knob } = controlRecord(control.kind);
  return knob ? keepIfValid({ ...design, control: { ...control, [knob.field]: setting } as Design["control"] }) : design;
}

/** The knob's setting nearest to a wish that a hand can set, inside its range. */
export function settable(knob: KnobState, wish: number): number {
  const rounded = Number((Math.round(wish / knob.step) * knob.step).toFixed(6));
  return Math.min(knob.max, Math.max(knob.min, rounded));
}

function heatAt(design: Design, pair: CutPair): number {
  return circuitOf(design, pair).cut?.powerWPerM ?? 0;
}

/**
 * Setting of the knob that brings a heat to the cut.
 * @param powerWPerM heat in the cut
 * @returns in the knob's own unit; duty and bench volts may lie beyond what the supply gives (the caller clamps), other knobs stop at their ends. null when there is no knob
 */
export function settingForHeat(design: Design, powerWPerM: number, pair: CutPair = pairOf(design)): number | null {
  const knob = knobOf(design);
  if (!knob) return null;
  if (knob.kind !== "duty" && knob.kind !== "voltage") {
    const surplus = (setting: number) => heatAt(withSetting(design, setting), pair) - powerWPerM;
    const [cold, hot] = knob.rising ? [knob.min, knob.max] : [knob.max, knob.min];
    if (surplus(cold) >= 0) return cold;
    if (surplus(hot) <= 0) return hot;
    return bracketedRoot(surplus, knob.min, knob.max, knob.step / 1000).x;
  }
  const feedMPerS = design.job.feed_mm_s / 1000;
  const kerfM = cutAtPower(pair, feedMPerS, powerWPerM).kerfM;
  const kerfC = wireInKerfC(pair, powerWPerM, kerfM);
  const currentA = Math.sqrt(powerWPerM / resistanceOhmPerM(pair.wire, kerfC));
  const bareC = bareWireDriven(pair.wire, { currentA }, { ambientC: design.ambient_C }).temperatureC;
  const widthM = widthOnWireM(design);
  const lengthM = design.wire.length_mm / 1000;
  const wireOhm = resistanceOhmPerM(pair.wire, bareC) * (lengthM - widthM) + resistanceOhmPerM(pair.wire, kerfC) * widthM;
  const ohm = wireOhm + leadsOhm(design.leads, design.ambient_C, currentA) + supplyOhm(design.supply) + extraOhm(design);
  if (knob.kind === "voltage") return currentA * ohm;
  const free = supplyEmfV(design.supply) / ohm;
  return (currentA / Math.min(free, sourceOf(design.supply).holdsA)) ** 2;
}

function reachOf(design: Design, pair: CutPair, circuit: CircuitResult): Reach {
  const knob = knobOf(design);
  const present = circuit.cut?.powerWPerM ?? 0;
  if (!knob) return { knob: "none", fromWPerM: present, toWPerM: present, supplyHolds: circuit.state !== "overload" };
  const [cold, hot] = knob.rising ? [knob.min, knob.max] : [knob.max, knob.min];
  // Chopped, the supply meets the full on-current at any duty, so it holds everywhere or nowhere; any other knob turned down spares it.
  const stands = controlRecord(design.control.kind).onCurrentStays;
  const coldest = circuitOf(withSetting(design, stands ? knob.value : cold), pair);
  return {
    knob: knob.kind,
    fromWPerM: knob.kind === "duty" ? 0 : ((stands ? circuitOf(withSetting(design, cold), pair) : coldest).cut?.powerWPerM ?? 0),
    toWPerM: heatAt(withSetting(design, hot), pair),
    supplyHolds: coldest.state !== "overload",
  };
}

/** Bow left at the end of a corner's wait, m: what a hand's width of template hides. */
export const CORNER_TOLERANCE_M = 0.0002;

/** The design's tension device as the tension model knows it; a turnbuckle gives nothing. */
export function tensionDevice({ tension }: Design): TensionDeviceModel {
  const { model, usualRateNPerMm } = tensionRecord(tension.device);
  return model(tension.rate_N_per_mm ?? usualRateNPerMm ?? 0);
}

/** How well this design's inputs are known. */
function doubtsOf(design: Design): Doubts {
  const learnt = calibrationOf(design);
  const { weighed, recycled } = design.job.foam;
  return {
    ...DOUBTS,
    ...(recycled ? RECYCLED_DOUBTS : {}),
    ...(weighed ? { densityShare: WEIGHED_DENSITY_SHARE } : {}),
    ...(learnt ? { learnt: learnt.factor } : {}),
  };
}

/** The tool that holds its shape by its own stiffness, where the design is one: nothing pulls a loop or a wand straight. */
export function stiffToolOf(design: Design): StiffTool | null {
  const depthM = design.job.thickness_mm / 1000;
  if (design.kind === "wand") return { kind: "wand", depthM: design.job.width_mm / 1000 };
  return design.kind === "loop" ? { kind: "loop", widthM: design.job.width_mm / 1000, depthM } : null;
}

/** Everything the desk shows of a design, solved at once. */
export function evaluateDesign(design: Design): DesignEvaluation {
  const pair = pairOf(design);
  const feedMPerS = design.job.feed_mm_s / 1000;
  const acceptedKerfM = design.job.maxKerf_mm / 1000;
  const circuit = circuitOf(design, pair);
  const cut = circuit.cut ?? coldCut(design, pair);
  const stiff = stiffToolOf(design);
  const lag =
    cut.dragNPerM === null
      ? null
      : stiff
        ? { lagM: stiffBowM(stiff, pair.wire, cut.dragNPerM) }
        : midSpanLag(cut.dragNPerM, design.wire.length_mm / 1000, widthOnWireM(design), design.tension.hot_N);
  const verdict = judge(design, circuit, cut, pair);
  const dwell =
    lag === null
      ? null
      : stiff
        ? 0
        : cornerDwell({
            lagM: lag.lagM,
            toleranceM: CORNER_TOLERANCE_M,
            maxFeedMPerS: cut.maxFeedMPerS,
            referenceDragNPerM: referenceDragNPerM(pair),
            spanM: design.wire.length_mm / 1000,
            tensionN: design.tension.hot_N,
          }).dwellS;
  // Growth and strength go by the hottest the wire gets: bare, waiting for foam.
  const tension = solveTension({
    wire: pair.wire,
    spanM: design.wire.length_mm / 1000,
    hotC: Math.max(design.ambient_C, circuit.wireC, cut.wireC),
    ambientC: design.ambient_C,
    set: { hotN: design.tension.hot_N },
    device: tensionDevice(design),
  });
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
    dwellS: dwell,
    tension,
    doubts: doubtsOf(design),
    verdict,
    feeds: cleanFeeds(pair, cut.powerWPerM, acceptedKerfM),
    heats: cleanHeats(pair, feedMPerS, acceptedKerfM),
    reach: reachOf(design, pair, circuit),
    cautions: cautionsFor(design, circuit, pair, tension),
  };
}
