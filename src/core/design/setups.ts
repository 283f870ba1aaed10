import { besidesReckoned } from "../calibration/learnt";
import {
  type Control,
  drive,
  KNOB_STEP,
  LEAST_TAP,
  mismatch,
  phaseShare,
  RHEOSTAT_END_OHM,
  type Supply,
  supplyEmfV,
  supplyLimitA,
  supplyOhm,
  touchLimitV,
} from "../models/circuit";
import type { CutState } from "../models/cut";
import { leadsOhm } from "../models/leads";
import { FUSE_HEADROOM, fuseAdvice } from "../models/powerAdvice";
import type { WireSpec } from "../models/wire";
import { formatQuantity } from "../units/units";
import { atHeat, isRefused, type ReadyWire, type Refused, refuse, type SearchJob, TENSION_SHARE } from "./readyWire";

/** Prices in the maker's own money, beside the lists searched; null where not known. A part already owned costs 0. */
export interface Prices {
  /** per metre */
  wires?: readonly (number | null)[] | undefined;
  supplies?: readonly (number | null)[] | undefined;
  controls?: Partial<Record<ControlKind, number | undefined>> | undefined;
}

export type ControlKind = Control["kind"];

export interface Candidate {
  wire: WireSpec;
  lengthM: number;
  supply: Supply;
  control: Control;
  /** The knob: duty, degrees, volts, ohms or fraction; null for a direct supply. */
  setting: number | null;
  currentA: number;
  /** at the wire */
  voltsV: number;
  cut: CutState;
  bareC: number;
  /** Share of each limit left in hand, 0 to 1. */
  margins: ReadyWire["margins"] & Record<"supply" | "fuse" | "knob", number>;
  /** Hot tension the bow was reckoned with: half the working limit, and no more than a frame is asked for. */
  tensionN: number;
  /** Next standard fuse for it, A. */
  fuseA: number;
  /** Price of wire, supply and control together, where all are known. */
  price: number | null;
  /** 0 to 100 */
  score: number;
  reasons: string[];
}

/** What a set-up asks beyond its margins: extra parts, heat thrown away, mains-side work. Points off a hundred (this project's judgement). */
export const PART_COST: Readonly<Record<ControlKind, number>> = { direct: 0, pwm: 3, buck: 4, tap: 4, clip: 4, rheostat: 8, phase: 8 };
export const SUPPLY_COST: Readonly<Record<Supply["kind"], number>> = { bench: 0, dc: 1, battery: 5, transformer: 6 };
/** Dear or scarce wire, points off (this project's judgement). */
export const ALLOY_COST: Readonly<Record<string, number>> = { "ni-superalloy": 8, "cuni-44": 3, "nicr-80-20": 1, "nicr-60-16": 1 };
/** A wire that stands less than this hot is broken by a hand or a snag: points off, rising to the most for a hair (this project's judgement). */
const FRAIL_BELOW_N = 10;
const FRAIL_POINTS = 15;
/** Weight of a margin in the score; a margin of half or more is as good as it gets. */
const MARGIN_ENOUGH = 0.5;
/** A knob should have at least this many of the steps a hand sets across the clean band. */
const KNOB_STEPS_ENOUGH = 20;
/** A transformer's taps lie far apart, however finely a share of it could be named (common practice). */
const TAP_STEPS = 5;

interface Set {
  control: Control;
  setting: number | null;
  supplyA: number;
  /** Steps of the knob, as fine as a hand sets it, across the clean band. */
  steps: number;
  /** The wire at its own heat, where the supply and not the search chose that. */
  own?: ReadyWire;
}

/** Ohms outside the supply: wire, leads and what test cuts found besides. */
function outsideOhm(supply: Supply, wire: ReadyWire, { leads, ambientC, extraOhm }: SearchJob): number {
  const besides = extraOhm ? besidesReckoned(extraOhm, leadsOhm(leads, ambientC) + supplyOhm(supply)) : 0;
  return wire.wireOhm + leadsOhm(leads, ambientC, wire.currentA) + besides;
}

/** A supply straight on the wire: what flows, flows. */
function unturned(supply: Supply, wire: ReadyWire, job: SearchJob): Set | Refused {
  const { from, to } = wire.heats;
  const emf = supplyEmfV(supply);
  const load = (at: ReadyWire) => outsideOhm(supply, at, job) + supplyOhm(supply);
  // Heat goes with the square of the current. The ohms move a little with it, so it is reckoned once more from nearby.
  const drivenFrom = (at: ReadyWire) => at.cut.powerWPerM * (emf / load(at) / at.currentA) ** 2;
  const first = drivenFrom(wire);
  const hopeless = first < 0.7 * from || first > 1.5 * to;
  const near = hopeless ? wire : atHeat(wire.spec, wire.wire, job, wire.heats, Math.min(to, Math.max(from, first)), wire);
  const heat = drivenFrom(isRefused(near) ? wire : near);
  const shown = (w: number) => formatQuantity("heat", w, job.units ?? "metric");
  if (heat < from) return refuse("too-cold", () => `no knob, and it is too cold: ${shown(heat)} of ${shown(from)} needed`);
  if (heat > to) return refuse("too-hot", () => `no knob, and it is too hot: ${shown(heat)} of ${shown(to)} at most`);
  const own = atHeat(wire.spec, wire.wire, job, wire.heats, heat, isRefused(near) ? wire : near);
  return isRefused(own) ? own : { control: { kind: "direct" }, setting: null, supplyA: own.currentA, steps: 0, own };
}

/** Sets one control on one supply to drive a wire's current, or says why not. Heat goes with the square of volts or with duty. */
function setControl(kind: ControlKind, supply: Supply, wire: ReadyWire, job: SearchJob): Set | Refused {
  const emf = supplyEmfV(supply);
  const inside = supplyOhm(supply);
  const outside = outsideOhm(supply, wire, job);
  const load = outside + inside;
  const needV = wire.currentA * load;
  const band = (wire.heats.to - wire.heats.from) / wire.cut.powerWPerM;
  const short = refuse("too-cold", () => `falls short: ${needV.toFixed(1)} V needed, ${emf.toFixed(1)} V there`, (emf / needV) ** 2);
  switch (kind) {
    case "direct": {
      if (supply.kind === "bench") {
        return needV > emf ? short : { control: { kind: "direct" }, setting: needV, supplyA: wire.currentA, steps: (needV * band) / 2 / KNOB_STEP.voltage };
      }
      return unturned(supply, wire, job);
    }
    case "pwm": {
      const on = supply.kind === "bench" ? Math.min(emf / load, supply.current_A) : emf / load;
      const duty = (wire.currentA / on) ** 2;
      if (duty > 1)
        return on < emf / load
          ? refuse("overload", () => `overload: ${wire.currentA.toFixed(1)} A asked, limited to ${on.toFixed(1)} A`, 1 / duty)
          : { ...short, ease: 1 / duty };
      return { control: { kind: "pwm", duty }, setting: duty, supplyA: on, steps: (duty * band) / KNOB_STEP.duty };
    }
    case "phase": {
      if (needV > emf) return short;
      let lo = 0;
      let hi = 180;
      for (let i = 0; i < 30; i++) {
        const mid = (lo + hi) / 2;
        if (phaseShare(mid) * emf > needV) lo = mid;
        else hi = mid;
      }
      const step = KNOB_STEP.delay / 2;
      const slope = (phaseShare(lo + step) ** 2 - phaseShare(Math.max(0, lo - step)) ** 2) / phaseShare(lo) ** 2;
      return { control: { kind: "phase", delay_deg: lo }, setting: lo, supplyA: wire.currentA, steps: band / Math.max(1e-6, Math.abs(slope)) };
    }
    case "buck": {
      const outV = wire.currentA * outside;
      const control: Control = { kind: "buck", voltage_V: outV };
      const driven = drive(supply, control, outside);
      if (driven.rmsA < wire.currentA * (1 - 1e-6))
        return refuse(
          driven.limited ? "overload" : "too-cold",
          () => `the supply gives the converter enough for ${driven.rmsA.toFixed(1)} A in the wire, and ${wire.currentA.toFixed(1)} A are needed`,
          (driven.rmsA / wire.currentA) ** 2,
        );
      return { control, setting: outV, supplyA: driven.supplyA, steps: (outV * band) / 2 / KNOB_STEP.buck };
    }
    case "rheostat": {
      const ohm = emf / wire.currentA - load;
      if (ohm < 0) return short;
      if (ohm > RHEOSTAT_END_OHM)
        return refuse("too-hot", () => `too hot: a rheostat of ${ohm.toFixed(0)} ohm would be needed, and they end near ${RHEOSTAT_END_OHM}`);
      return { control: { kind: "rheostat", ohm }, setting: ohm, supplyA: wire.currentA, steps: ((load + ohm) * band) / 2 / KNOB_STEP.rheostat };
    }
    case "tap": {
      // The winding's ohms go with the square of the turns in use: E f = I (R + r f^2), the smaller root.
      const square = emf * emf - 4 * inside * wire.currentA ** 2 * outside;
      if (square < 0) return short;
      const fraction = inside === 0 ? needV / emf : (emf - Math.sqrt(square)) / (2 * inside * wire.currentA);
      if (fraction > 1) return short;
      if (fraction < LEAST_TAP) return refuse("too-hot", () => `too hot: it would have to be turned down to ${(100 * fraction).toFixed(1)} %`);
      return {
        control: { kind: "tap", fraction },
        setting: fraction,
        supplyA: wire.currentA,
        steps: Math.min(TAP_STEPS, (fraction * band) / 2 / KNOB_STEP.fraction),
      };
    }
    case "clip":
      return refuse("mismatch", () => "a sliding clip shortens the wire; the search keeps the whole of it live");
  }
}

/** How near a wire is to breaking at a touch, 0 to 1, by the hot tension it is strung with: {@link TENSION_SHARE} of what it stands. */
export const frailty = (tensionN: number): number => clamp01(1 - tensionN / TENSION_SHARE / FRAIL_BELOW_N);

const clamp01 = (value: number) => Math.min(1, Math.max(0, value));

/** Points of a hundred from the margins alone: the lowest counts most, the mean of all next. Summed without lists: a matrix asks thousands of times. */
function scoreOf(margins: Candidate["margins"]): number {
  let least = 1;
  let sum = 0;
  let count = 0;
  for (const name in margins) {
    const counted = clamp01(margins[name as keyof Candidate["margins"]] / MARGIN_ENOUGH);
    least = Math.min(least, counted);
    sum += counted;
    count += 1;
  }
  return 55 * least + (45 * sum) / count;
}

/**
 * One wire, supply and control set for a job, with its margins and score, or why not.
 * @param price of the three together, where known
 */
export function trySetup(job: SearchJob, wire: ReadyWire, supply: Supply, kind: ControlKind, price: number | null): Candidate | Refused {
  const wrong = mismatch(supply, { kind } as Control);
  if (wrong) return refuse("mismatch", () => wrong);
  let outcome = tryHeat(job, wire, supply, kind, price);
  let at = wire;
  // A supply that gives less than asked is asked for what it can give, as long as that still cuts; a few times over, since the ohms move a little with the heat.
  for (let turn = 0; turn < 3 && isRefused(outcome) && outcome.ease !== undefined; turn++) {
    const refused = outcome;
    const heat = at.cut.powerWPerM * Math.min(1, outcome.ease) * EASED_SHARE;
    if (heat < wire.heats.from) break;
    const cooler = atHeat(wire.spec, wire.wire, job, wire.heats, heat, at);
    // The supply could drive that cut; what stands against it then is the wire's own trouble.
    if (isRefused(cooler)) return refuse(cooler.code, () => `${refused.say()}; turned down to what it gives: ${cooler.say()}`);
    at = cooler;
    outcome = tryHeat(job, cooler, supply, kind, price);
  }
  return outcome;
}

/** Of what a supply can just give, the share it is asked for. */
const EASED_SHARE = 0.99;

/** {@link trySetup} at the one heat a wire stands at. */
function tryHeat(job: SearchJob, wire: ReadyWire, supply: Supply, kind: ControlKind, price: number | null): Candidate | Refused {
  const set = setControl(kind, supply, wire, job);
  if (isRefused(set)) return set;
  const own = set.own ?? wire;
  const limitA = supplyLimitA(supply);
  // Chopped, the supply meets the whole current at any heat; a buck draws with the power, everything else with the current in the wire.
  const eased = (mostA: number) => (kind === "pwm" || set.own ? undefined : kind === "buck" ? mostA / set.supplyA : (mostA / set.supplyA) ** 2);
  if (set.supplyA > limitA) return refuse("overload", () => `overload: ${set.supplyA.toFixed(1)} A asked, ${limitA.toFixed(1)} A on the plate`, eased(limitA));
  const touchV = touchLimitV(supply, set.control);
  if (supplyEmfV(supply) > touchV) return refuse("touch", () => `touch voltage: ${supplyEmfV(supply).toFixed(0)} V on a bare wire`);
  const { fuseA, leadRatingA } = fuseAdvice(set.supplyA, job.leadGaugeAwg);
  if (fuseA === null)
    return refuse(
      "no-fuse",
      () => `no standard fuse stands ${set.supplyA.toFixed(1)} A and still spares leads of ${job.leadGaugeAwg ?? 18} AWG: thicker leads`,
      eased(leadRatingA / FUSE_HEADROOM),
    );
  // Behind a converter more flows in the leads than the fuse before it sees.
  if (own.currentA > leadRatingA)
    return refuse(
      "no-fuse",
      () => `${own.currentA.toFixed(1)} A flow in leads of ${job.leadGaugeAwg ?? 18} AWG, good for ${leadRatingA} A: thicker leads`,
      set.own ? undefined : (leadRatingA / own.currentA) ** 2,
    );
  const { drag, kerf, fumes, ignition, lag, tension } = own.margins;
  // A battery has no plate: drawing its ampere-hours in one hour is taken as its limit.
  const platedA = Number.isFinite(limitA) || supply.kind !== "battery" ? limitA : supply.capacity_Ah;
  const margins: Candidate["margins"] = {
    drag,
    kerf,
    fumes,
    ignition,
    lag,
    tension,
    fuse: clamp01(1 - set.supplyA / fuseA),
    supply: clamp01(1 - set.supplyA / platedA),
    knob: clamp01(set.steps / KNOB_STEPS_ENOUGH),
  };
  const frail = frailty(own.tensionN);
  const score = Math.max(0, scoreOf(margins) - FRAIL_POINTS * frail - PART_COST[kind] - SUPPLY_COST[supply.kind] - (ALLOY_COST[wire.wire.alloy.id] ?? 0));
  return {
    wire: wire.spec,
    lengthM: job.bowM,
    supply,
    control: set.control,
    setting: set.setting,
    currentA: own.currentA,
    voltsV: own.currentA * own.wireOhm,
    cut: own.cut,
    bareC: own.bareC,
    margins,
    tensionN: own.tensionN,
    fuseA,
    price: price,
    score,
    reasons: [],
  };
}
