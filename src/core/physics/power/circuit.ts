import { JUDGEMENT } from "../../kernel/constants";
import { CoreError, type Warning } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { foamFamily } from "../../materials/foams";
import { bracketedRoot, expandUntilPositive } from "../../numerics/rootFinding";
import { type CutPair, type CutState, cutAtPower, heatInKerf } from "../cut/cut";
import { bareLossWPerM, HOTTEST_C } from "../heat/bareWire";
import { resistanceOhmPerM, type Wire, wireTemperatureWarnings } from "../heat/wire";
import { type Control, type ControlKind, controlRecord, recordOf } from "./controls";
import type { WireDrive, WireLoad } from "./controls/record";
import { type Leads, leadHeat, leadsOhm } from "./leads";
import { ownKnob, type Supply, sourceOf, supplyEmfV, supplyLimitA, supplyRecordOf } from "./supplies";

export interface CircuitInput {
  wire: Wire;
  lengthM: number;
  supply: Supply;
  control: Control;
  leads?: Leads | undefined;
  springOhm?: number | undefined;
  /** Answer for a wire at its melting point, as an overload with a warning, where no temperature balances the supply; refuse otherwise. */
  untilItMelts?: boolean | undefined;
  ambientC: number;
  /** The foam on the wire, if it is cutting. Its width may not pass the wire's length. */
  cutting?: { pair: CutPair; feedMPerS: number; widthM: number; acceptedKerfM?: number | undefined } | undefined;
}

export type CircuitState = "ok" | "current-limited" | "overload" | "too-cold";

export interface CircuitResult {
  /** rms in the wire */
  currentA: number;
  /** while the switch is on; equals currentA without PWM */
  onCurrentA: number;
  wireVoltageV: number;
  wirePowerW: number;
  /** mean over the whole wire */
  powerWPerM: number;
  /** bare, in air */
  wireC: number;
  hotOhm: number;
  coldOhm: number;
  leadsOhm: number;
  /** what the supply must stand */
  supplyCurrentA: number;
  /** rush into the cold wire */
  inrushA: number;
  leadLossW: number;
  /** copper of the leads, and each joint */
  leadC: number;
  jointC: number;
  /** heat in a rheostat or converter */
  controlLossW: number;
  state: CircuitState;
  cut: CutState | undefined;
  /** Temperature at which the foam gives way; polystyrene's where none is named. */
  collapseC: number;
  iterations: number;
  residualA: number;
  warnings: Warning[];
}

export const OHMS_LAW: Relation = {
  id: "circuit",
  title: "Current in the wire",
  formula: "I = V/(R_supply + R_leads + R_spring + R'(T) L), T from the heat that I itself makes",
  words: "The wire's heat changes its ohms, and its ohms change the current: both are solved together.",
  range: "direct current; steady heat",
  basis: "published",
  source: "Ohm's law with the bare-wire and in-kerf heat balances",
};

/** Share of the time that the supply meets the full on-current. */
export function dutyOf(control: Control, driven: { rmsA: number; onA: number }): number {
  const { record, own } = recordOf(control);
  return record.duty(own, driven);
}

/** Why a control cannot work on a supply, or undefined. */
export function mismatch(supply: Supply, control: { kind: ControlKind }): string | undefined {
  const { suits, misfit } = controlRecord(control.kind);
  const fits = suits === "any" || (suits === "alternating") === supplyRecordOf(supply).record.alternating;
  return fits ? undefined : `control.kind ${control.kind} ${misfit}`;
}

/** Currents of a supply and control that fit each other, into a load. */
export function drive(supply: Supply, control: Control, load: WireLoad): WireDrive {
  const { record, own } = recordOf(control);
  return record.drive(own, sourceOf(supply), load);
}

/** The wire with its bare part at a temperature: the rms current that holds it there, and its ohms along bare and cutting lengths. */
function wireAt(input: CircuitInput, bareC: number) {
  const bareOhmPerM = resistanceOhmPerM(input.wire, bareC);
  const currentA = Math.sqrt(bareLossWPerM(input.wire, bareC, input) / bareOhmPerM);
  const { cutting } = input;
  if (!cutting || currentA === 0) return { currentA, ohm: bareOhmPerM * input.lengthM, kerf: undefined };
  const kerf = heatInKerf(cutting.pair, cutting.feedMPerS, currentA);
  const ohm = bareOhmPerM * (input.lengthM - cutting.widthM) + resistanceOhmPerM(input.wire, kerf.wireC) * cutting.widthM;
  return { currentA, ohm, kerf };
}

/** The input with its wire cut down to what a sliding clip leaves live. */
function withLiveLength(input: CircuitInput): CircuitInput {
  const liveM = liveLengthM(input.control, input.lengthM);
  if (liveM === input.lengthM) return input;
  if (liveM > input.lengthM)
    throw new CoreError("out-of-range", "control.live_mm", `control.live_mm must be at most the wire's length (${input.lengthM * 1000} mm)`);
  if (input.cutting && input.cutting.widthM > liveM)
    throw new CoreError("out-of-range", "control.live_mm", `control.live_mm must be at least the foam's width (${input.cutting.widthM * 1000} mm)`);
  return { ...input, lengthM: liveM };
}

/** Length of wire that a control leaves live. */
export function liveLengthM(control: Control, lengthM: number): number {
  const { record, own } = recordOf(control);
  const wireMm = lengthM * 1000;
  const liveMm = record.liveMm(own, wireMm);
  return liveMm === wireMm ? lengthM : liveMm / 1000;
}

/**
 * Solves supply, control, leads and wire together with the wire's temperature.
 *
 * `state` is `overload` when a stiff supply would be asked for more than its plate allows (the answer is what would flow if it held),
 * `current-limited` when a bench supply's current knob rules, `too-cold` when the wire cannot do the job: in air it stays below the
 * collapse temperature (108 degC, polystyrene, when no foam is named), or in the cut the feed passes the top feed.
 */
export function solveCircuit(whole: CircuitInput): CircuitResult {
  const input = withLiveLength(whole);
  const { wire, supply, control, ambientC } = input;
  const source = supplyRecordOf(supply);
  const trouble = mismatch(supply, control);
  if (trouble) throw new CoreError("conflict", "control.kind", trouble);
  const outside = (currentA: number) => leadsOhm(input.leads, ambientC, currentA) + (input.springOhm ?? 0);
  const coldOhm = resistanceOhmPerM(wire, ambientC) * input.lengthM;

  const wireOhmAt = (temperatureC: number) => resistanceOhmPerM(wire, temperatureC) * input.lengthM;
  const load = (besideOhm: number, wireOhm: number): WireLoad => ({ ohm: besideOhm + wireOhm, wireOhm, wireOhmAt });

  // Solved in the bare wire's temperature: the current that holds it there is explicit, the current the supply drives is explicit.
  const surplus = (bareC: number) => {
    const wireNow = wireAt(input, bareC);
    return wireNow.currentA - drive(supply, control, load(outside(wireNow.currentA), wireNow.ohm)).rmsA;
  };
  let root = { x: ambientC, iterations: 0, residual: 0 };
  let melts = false;
  if (drive(supply, control, load(outside(0), coldOhm)).rmsA > 0) {
    const bracket = expandUntilPositive(surplus, ambientC, 100, HOTTEST_C);
    if (bracket) root = bracketedRoot(surplus, bracket.below, bracket.above, 1e-9);
    else if (input.untilItMelts) {
      melts = true;
      root = { x: wire.alloy.meltsC, iterations: 0, residual: surplus(wire.alloy.meltsC) };
    } else throw new CoreError("no-solution", "length_mm", "the wire would be vapour: no temperature below 8000 degC balances this supply");
  }
  const wireC = root.x;
  const hot = wireAt(input, wireC);
  const currentA = hot.currentA;
  const outsideOhm = outside(currentA);
  const driven = drive(supply, control, load(outsideOhm, hot.ohm));

  const warnings: Warning[] = wireTemperatureWarnings(wire, wireC);
  const cutting = input.cutting;
  const cut = cutting && hot.kerf ? cutAtPower(cutting.pair, cutting.feedMPerS, hot.kerf.powerWPerM, cutting.acceptedKerfM) : undefined;
  const limitA = supplyLimitA(supply);
  const inrushA = coldRush(supply, control, load(outside(0), coldOhm));

  if (melts) {
    warnings.push({
      code: "melts",
      message: "the supply drives far more into this wire than it can shed: it melts at once; the figures are those of the moment it melts",
    });
  }
  let state: CircuitState = "ok";
  const coolest = cutting?.pair.foam.collapseC ?? COOLEST_USEFUL_C;
  if (melts) state = "overload";
  else if (!source.record.holdsLimit && driven.supplyA > limitA * (1 + 1e-9)) {
    state = "overload";
    warnings.push({
      code: "supply-overload",
      message: `the supply is rated ${limitA} A and would be asked for ${driven.supplyA.toFixed(2)} A: it trips, sags or burns out; the figures are what would flow if it held`,
    });
  } else if (source.record.tripsOnRush(source.own) && inrushA > limitA * (1 + 1e-9)) {
    state = "overload";
    warnings.push({
      code: "trips-cold",
      message: `this make takes the cold wire for a short circuit: it would draw ${inrushA.toFixed(2)} A at switch-on, above the plate's ${limitA} A, and never starts`,
    });
  } else if (wireC < coolest || (cutting && (!cut || cut.feedRatio >= 1))) state = "too-cold";
  else if (driven.limited) state = "current-limited";
  if (!source.record.holdsLimit && state !== "overload" && inrushA > limitA) {
    warnings.push({
      code: "cold-inrush",
      message: `the cold wire would draw ${inrushA.toFixed(2)} A at switch-on, above the plate's ${limitA} A: a touchy supply may trip before the wire is warm`,
    });
  }
  return {
    currentA,
    onCurrentA: driven.onA,
    wireVoltageV: currentA * hot.ohm,
    wirePowerW: currentA * currentA * hot.ohm,
    powerWPerM: (currentA * currentA * hot.ohm) / input.lengthM,
    wireC,
    hotOhm: hot.ohm,
    coldOhm,
    leadsOhm: outsideOhm,
    supplyCurrentA: driven.supplyA,
    controlLossW: driven.controlLossW,
    inrushA,
    leadLossW: currentA * currentA * leadsOhm(input.leads, ambientC, currentA),
    ...(input.leads ? leadHeat(input.leads, currentA, ambientC) : { leadC: ambientC, jointC: ambientC }),
    state,
    cut,
    collapseC: coolest,
    iterations: root.iterations,
    residualA: root.residual,
    warnings,
  };
}

/**
 * Current through the whole wire, rms A, while all of it sits at one temperature: what drives a warm-up before any foam.
 * @throws CoreError as {@link solveCircuit} does for a control that does not fit its supply
 */
export function currentAtWireC(whole: CircuitInput, wireC: number): number {
  const input = withLiveLength({ ...whole, cutting: undefined });
  const trouble = mismatch(input.supply, input.control);
  if (trouble) throw new CoreError("conflict", "control.kind", trouble);
  return driveInto(input, resistanceOhmPerM(input.wire, wireC) * input.lengthM).rmsA;
}

/**
 * What supply and control drive into a wire of so many ohms at this moment: rms amperes in the wire, amperes while the switch is on, amperes out of the supply.
 * Leads warm far slower than the wire: they are taken as cold as the room.
 */
export function driveInto(input: CircuitInput, wireOhm: number): { rmsA: number; onA: number; supplyA: number } {
  return drive(input.supply, input.control, {
    ohm: leadsOhm(input.leads, input.ambientC) + (input.springOhm ?? 0) + wireOhm,
    wireOhm,
    wireOhmAt: (temperatureC) => resistanceOhmPerM(input.wire, temperatureC) * input.lengthM,
  });
}

/** The circuit in the first moment, wire and leads at room temperature: amperes in the wire while the switch is on, and out of the supply. */
export function coldCircuit(whole: CircuitInput): { wireA: number; supplyA: number } {
  const input = withLiveLength({ ...whole, cutting: undefined });
  const driven = driveInto(input, resistanceOhmPerM(input.wire, input.ambientC) * input.lengthM);
  return { wireA: driven.onA, supplyA: driven.supplyA };
}

/** Current the supply meets in the first moment, with the wire cold. */
function coldRush(supply: Supply, control: Control, coldLoad: WireLoad): number {
  return supplyRecordOf(supply).record.holdsLimit ? supplyEmfV(supply) / coldLoad.ohm : drive(supply, control, coldLoad).supplyA;
}

/** Polystyrene's collapse temperature: below it nothing here is a foam cutter. */
const COOLEST_USEFUL_C = foamFamily("eps").collapseC;

/** True where the supply's own volts are what sets the heat. */
export const turnsOwnVolts = (supply: Supply, control: Control): boolean => ownKnob(supply) && control.kind === "direct";

/** Fewest ohms this supply's plate stands: V/I. "At least", not "at most". */
export function leastOhm(supply: Supply): number {
  return supplyEmfV(supply) / supplyLimitA(supply);
}

/** True when the wire's voltage is alternating or chopped: the lower touch limit holds. */
export function isAlternating(supply: Supply, control: Control): boolean {
  const { record, own } = recordOf(control);
  return supplyRecordOf(supply).record.alternating || record.chops(own);
}

/** Voltage above which a person may not touch the wire, by its kind of current. Source: IEC 61140 idea. */
export function touchLimitV(supply: Supply, control: Control): number {
  return isAlternating(supply, control) ? JUDGEMENT.touchAcV : JUDGEMENT.touchDcCautionV;
}
