import { JUDGEMENT } from "../constants";
import { CoreError, type Warning } from "../errors";
import { awgDiameterMm } from "../materials/gauges";
import { bracketedRoot, expandUntilPositive } from "../numerics/rootFinding";
import type { Relation } from "../provenance";
import { bareLossWPerM, HOTTEST_C } from "./bareWire";
import { type CutPair, type CutState, cutAtPower, heatInKerf } from "./cut";
import { resistanceOhmPerM, type Wire, wireTemperatureWarnings } from "./wire";

/** Copper: resistivity at 20 degC (ohm m) and its rise per kelvin. */
export const COPPER = { resistivityOhmM: 0.0172e-6, perKelvin: 0.00393 } as const;

/** What the maker plugs in. Volts and amperes as on the plate; a bench supply's are its two knobs. */
export type Supply =
  | { kind: "dc"; voltage_V: number; maxCurrent_A: number; internal_ohm?: number | undefined }
  | { kind: "bench"; voltage_V: number; current_A: number };

/** What turns the heat up and down. */
export type Control = { kind: "direct" } | { kind: "pwm"; duty: number };

export interface Leads {
  gauge_awg: number;
  /** One way, supply to wire; the current goes there and back. */
  oneWay_m: number;
  /** All joints together. */
  joint_ohm?: number | undefined;
}

export interface CircuitInput {
  wire: Wire;
  lengthM: number;
  supply: Supply;
  control: Control;
  leads?: Leads | undefined;
  springOhm?: number | undefined;
  ambientC: number;
  /** The foam on the wire, if it is cutting. Its width may not pass the wire's length. */
  cutting?: { pair: CutPair; feedMPerS: number; widthM: number; acceptedKerfM?: number | undefined } | undefined;
}

export type CircuitState = "ok" | "current-limited" | "overload" | "too-cold";

export interface CircuitAnswer {
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
  state: CircuitState;
  cut: CutState | undefined;
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
  standing: "published",
  source: "Ohm's law with the bare-wire and in-kerf heat balances",
};

export const PWM_LAW: Relation = {
  id: "pwm",
  title: "Chopped current (PWM)",
  formula: "I_rms = I_on sqrt(D); heat goes with D; the supply sees I_on",
  words: "The switch is either on or off: half the duty is half the heat, but the supply must still stand the full on-current.",
  range: "period short against the wire's warm-up; supply without a filter that would smooth it",
  standing: "published",
  source: "definition of the root mean square",
};

export const LEAD_RESISTANCE: Relation = {
  id: "leads",
  title: "Ohms of the leads",
  formula: "R = 2 l rho (1 + 0.00393 (T - 20))/A + joints",
  words: "There and back again through copper, at room temperature.",
  range: "copper leads near room temperature",
  standing: "from memory",
  source: "copper 0.0172 uohm m at 20 degC, 0.00393 per kelvin (IEC 60028 gives 0.017241 and 0.00393)",
};

/** Ohms of a pair of copper leads with their joints. See {@link LEAD_RESISTANCE}. */
export function leadsOhm(leads: Leads | undefined, ambientC: number): number {
  if (!leads) return 0;
  const diameterM = awgDiameterMm(leads.gauge_awg) / 1000;
  const area = (Math.PI * diameterM * diameterM) / 4;
  const perM = (COPPER.resistivityOhmM * (1 + COPPER.perKelvin * (ambientC - 20))) / area;
  return 2 * leads.oneWay_m * perM + (leads.joint_ohm ?? 0);
}

/** Most current the supply gives before it trips or limits, A. */
export function supplyLimitA(supply: Supply): number {
  return supply.kind === "bench" ? supply.current_A : supply.maxCurrent_A;
}

export function supplyOhm(supply: Supply): number {
  return supply.kind === "dc" ? (supply.internal_ohm ?? 0) : 0;
}

export function dutyOf(control: Control): number {
  return control.kind === "pwm" ? control.duty : 1;
}

/** Current while the switch is on, into so many ohms outside the supply. */
function onCurrent(supply: Supply, loadOhm: number): { amperes: number; limited: boolean } {
  const free = supply.voltage_V / (loadOhm + supplyOhm(supply));
  if (supply.kind === "bench" && free > supply.current_A) return { amperes: supply.current_A, limited: true };
  return { amperes: free, limited: false };
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

/**
 * Solves supply, control, leads and wire together with the wire's temperature.
 *
 * `state` is `overload` when a stiff supply would be asked for more than its plate allows (the answer is what would flow if it held),
 * `current-limited` when a bench supply's current knob rules, `too-cold` when the wire cannot do the job: in air it stays below the
 * collapse temperature (108 degC, polystyrene, when no foam is named), or in the cut the feed passes the top feed.
 */
export function solveCircuit(input: CircuitInput): CircuitAnswer {
  const { wire, supply, control, ambientC } = input;
  const duty = dutyOf(control);
  const outsideOhm = leadsOhm(input.leads, ambientC) + (input.springOhm ?? 0);
  const coldOhm = resistanceOhmPerM(wire, ambientC) * input.lengthM;
  const share = Math.sqrt(duty);

  // Solved in the bare wire's temperature: the current that holds it there is explicit, the current the supply drives is explicit.
  const surplus = (bareC: number) => {
    const wireNow = wireAt(input, bareC);
    return wireNow.currentA - onCurrent(supply, outsideOhm + wireNow.ohm).amperes * share;
  };
  let root = { x: ambientC, iterations: 0, residual: 0 };
  if (share > 0) {
    const bracket = expandUntilPositive(surplus, ambientC, 100, HOTTEST_C);
    if (!bracket) throw new CoreError("no-solution", "length_mm", "the wire would be vapour: no temperature below 8000 degC balances this supply");
    root = bracketedRoot(surplus, bracket.below, bracket.above, 1e-9);
  }
  const wireC = root.x;
  const hot = wireAt(input, wireC);
  const currentA = hot.currentA;
  const on = onCurrent(supply, outsideOhm + hot.ohm);

  const warnings: Warning[] = wireTemperatureWarnings(wire, wireC);
  const cutting = input.cutting;
  const cut = cutting && hot.kerf ? cutAtPower(cutting.pair, cutting.feedMPerS, hot.kerf.powerWPerM, cutting.acceptedKerfM) : undefined;
  const limitA = supplyLimitA(supply);
  const inrushA = supply.voltage_V / (coldOhm + outsideOhm + supplyOhm(supply));

  let state: CircuitState = "ok";
  const coolest = cutting?.pair.foam.collapseC ?? COOLEST_USEFUL_C;
  if (supply.kind === "dc" && on.amperes > limitA * (1 + 1e-9)) {
    state = "overload";
    warnings.push({
      code: "supply-overload",
      message: `the supply is rated ${limitA} A and would be asked for ${on.amperes.toFixed(2)} A: it trips, sags or burns out; the figures are what would flow if it held`,
    });
  } else if (wireC < coolest || (cutting && (!cut || cut.feedRatio >= 1))) state = "too-cold";
  else if (on.limited) state = "current-limited";
  if (supply.kind === "dc" && state !== "overload" && inrushA > limitA) {
    warnings.push({
      code: "cold-inrush",
      message: `the cold wire would draw ${inrushA.toFixed(2)} A at switch-on, above the plate's ${limitA} A: a touchy supply may trip before the wire is warm`,
    });
  }
  return {
    currentA,
    onCurrentA: on.amperes,
    wireVoltageV: currentA * hot.ohm,
    wirePowerW: currentA * currentA * hot.ohm,
    powerWPerM: (currentA * currentA * hot.ohm) / input.lengthM,
    wireC,
    hotOhm: hot.ohm,
    coldOhm,
    leadsOhm: outsideOhm,
    supplyCurrentA: on.amperes,
    inrushA,
    leadLossW: currentA * currentA * leadsOhm(input.leads, ambientC),
    state,
    cut,
    iterations: root.iterations,
    residualA: root.residual,
    warnings,
  };
}

/** Polystyrene's collapse temperature: below it nothing here is a foam cutter. */
const COOLEST_USEFUL_C = 108;

/** The knob this supply and control offer for heat, if any. */
export type HeatKnob = "duty" | "voltage" | "none";

export function heatKnob(supply: Supply, control: Control): HeatKnob {
  if (control.kind === "pwm") return "duty";
  return supply.kind === "bench" ? "voltage" : "none";
}

/** Fewest ohms this supply's plate stands: V/I. "At least", not "at most". */
export function leastOhm(supply: Supply): number {
  return supply.voltage_V / supplyLimitA(supply);
}

/** True when chopping makes the wire's voltage other than ripple-free. */
export function isChopped(control: Control): boolean {
  return control.kind === "pwm" && control.duty < 1;
}

/** Voltage above which a person may not touch the wire, by its kind of current. Source: IEC 61140 idea. */
export function touchLimitV(control: Control): number {
  return isChopped(control) ? JUDGEMENT.touchAcV : JUDGEMENT.touchDcCautionV;
}
