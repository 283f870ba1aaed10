import { interpolate, type Table } from "../../numerics/interpolate";
import type { CutState } from "../../physics/cut/cut";
import { besidesComputed } from "../../physics/cut/learnt";
import { resistanceOhmPerM, type WireSpec } from "../../physics/heat/wire";
import { dutyOf, mismatch, touchLimitV } from "../../physics/power/circuit";
import { type Control, type ControlKind, controlRecord, recordOf } from "../../physics/power/controls";
import type { Need } from "../../physics/power/controls/record";
import { leadsOhm } from "../../physics/power/leads";
import { FUSE_HEADROOM, fuseAdvice } from "../../physics/power/powerAdvice";
import { ownKnob, type Supply, sourceOf, supplyEmfV, supplyLimitA, supplyOhm, supplyRecordOf } from "../../physics/power/supplies";
import { formatQuantity } from "../../units/units";
import { atHeat, isRefused, type ReadyWire, type Refused, refuseWire, type SearchJob } from "./readyWire";

/** Prices in the maker's own money, next to the lists searched; null where not known. A part already owned costs 0. */
export interface Prices {
  /** per metre */
  wires?: readonly (number | null)[] | undefined;
  supplies?: readonly (number | null)[] | undefined;
  controls?: Partial<Record<ControlKind, number | undefined>> | undefined;
}

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
  /** Hot tension the bow was computed with: a share of what the wire withstands, and no more than practice pulls on such a span. */
  tensionN: number;
  /** What the wire withstands hot without harm, and what breaks it hot, N. */
  withstandsN: number;
  breaksN: number;
  /** How much hotter than chosen the knob can still go, times the heat; 1 where there is no knob. */
  reach: number;
  /** Other ways to much the same: twins of the wire, other supplies and controls for it. Best first. */
  also: Also[];
  /** Next standard fuse for it, A. */
  fuseA: number;
  /** Price of wire, supply and control together, where all are known. */
  price: number | null;
  /** 0 to 100 */
  score: number;
  reasons: string[];
}

/** A set-up folded under one that does as well or better with much the same wire. */
export interface Also {
  wire: WireSpec;
  supply: Supply;
  control: Control;
  setting: number | null;
  score: number;
}

/** What a set-up asks beyond its margins: extra parts, heat thrown away, mains-side work. Points off a hundred (this project's judgement). */
export const partCost = (kind: ControlKind): number => controlRecord(kind).cost;

/** Dear or scarce wire, points off (this project's judgement). */
export const ALLOY_COST: Readonly<Record<string, number>> = { "ni-superalloy": 8, "cuni-44": 3, "nicr-80-20": 1, "nicr-60-16": 3, "ss-316": 2 };
/**
 * Strength by span: half the points are off where a wire stands just this much hot for each metre of foam (practice pulls 55 to 80 N), or breaks just at this load:
 * 25 N on 0.3 m and 60 N on 0.8 m and more (common practice for the figures; the points are this project's judgement).
 */
const WITHSTANDS_N_PER_M = 40;
const BREAKS_N: Table = [
  [0.1, 10],
  [0.3, 25],
  [0.8, 60],
];
const WEAK_POINTS = 40;
/** Amperes cost: leads, joints and supplies grow with them, and a thinner wire that serves wants fewer. Points off for each. */
const AMPERE_POINTS = 1.5;
const FRAIL_POINTS = 30;
/** The knob must be able to go this many times hotter than chosen: 15 % in volts (common practice). */
export const LEAST_REACH = 1.3;
/** Charge at which a battery is judged: what is left after most of the job. */
const JUDGED_CHARGE = 0.2;
/** Share of a source's EMF that the wire itself must take: the rest only warms leads, windings and rheostats. */
const LEAST_WIRE_SHARE = 0.65;
/** A control this near either end of its turn is doing a simpler one's work. */
export const CONTROL_ENDS = { from: 0.05, to: 0.95 } as const;
/** Weight of a margin in the score; a margin of half or more is as good as it gets. */
const MARGIN_ENOUGH = 0.5;
/** A knob should have at least this many of the steps a hand sets across the clean band. */
const KNOB_STEPS_ENOUGH = 20;

interface Set {
  control: Control;
  /** Hottest the knob goes, times the chosen heat; 1 without a knob. */
  reach: number;
  setting: number | null;
  supplyA: number;
  /** Steps of the knob, as fine as a hand sets it, across the clean band. */
  steps: number;
  /** The wire at its own heat, where the supply and not the search chose that. */
  own?: ReadyWire;
}

/** Ohms outside the supply: wire, leads and what test cuts found besides. */
function outsideOhm(supply: Supply, wire: ReadyWire, { leads, ambientC, extraOhm }: SearchJob): number {
  const besides = extraOhm ? besidesComputed(extraOhm, leadsOhm(leads, ambientC) + supplyOhm(supply)) : 0;
  return wire.wireOhm + leadsOhm(leads, ambientC, wire.currentA) + besides;
}

/** A supply straight on the wire: what flows, flows. */
function unturned(supply: Supply, wire: ReadyWire, job: SearchJob): Set | Refused {
  const { from, to } = wire.heats;
  const emf = supplyEmfV(supply);
  const load = (at: ReadyWire) => outsideOhm(supply, at, job) + supplyOhm(supply);
  // Heat goes with the square of the current. The ohms move a little with it, so it is computed once more from nearby.
  const drivenFrom = (at: ReadyWire) => at.cut.powerWPerM * (emf / load(at) / at.currentA) ** 2;
  const first = drivenFrom(wire);
  const hopeless = first < 0.7 * from || first > 1.5 * to;
  const near = hopeless ? wire : atHeat(wire.spec, wire.wire, job, wire.heats, Math.min(to, Math.max(from, first)), wire);
  const heat = drivenFrom(isRefused(near) ? wire : near);
  const shown = (w: number) => formatQuantity("heat", w, job.units ?? "metric");
  if (heat < from) return refuseWire("too-cold", () => `no knob, and it is too cold: ${shown(heat)} of ${shown(from)} needed`);
  if (heat > to) return refuseWire("too-hot", () => `no knob, and it is too hot: ${shown(heat)} of ${shown(to)} at most`);
  const own = atHeat(wire.spec, wire.wire, job, wire.heats, heat, isRefused(near) ? wire : near);
  return isRefused(own) ? own : { control: { kind: "direct" }, setting: null, supplyA: own.currentA, steps: 0, reach: 1, own };
}

/** Sets one control on one supply to drive a wire's current, or says why not. Heat goes with the square of volts or with duty. */
function setControl(kind: ControlKind, supply: Supply, wire: ReadyWire, job: SearchJob): Set | Refused {
  if (kind === "direct" && !ownKnob(supply)) return unturned(supply, wire, job);
  const band = (wire.heats.to - wire.heats.from) / wire.cut.powerWPerM;
  const need: Need = {
    currentA: wire.currentA,
    outsideOhm: outsideOhm(supply, wire, job),
    band,
    wireOhm: wire.wireOhm,
    wireOhmAt: (temperatureC) => resistanceOhmPerM(wire.wire, temperatureC) * job.bowM,
    ambientC: job.ambientC,
    leastReach: LEAST_REACH,
  };
  const set = controlRecord(kind).setFor(need, sourceOf(supply));
  return "why" in set ? refuseWire(set.why, set.say, set.ease) : (set as Set);
}

/** Half at a figure's border, little beyond twice it, nearly all at half: no edge for a ranking to sit on. */
const shortOf = (value: number, border: number): number => 1 / (1 + (value / border) ** 4);

/** How weak a wire is for its job, 0 to 1: what it withstands hot for each metre of foam. */
const weakness = (withstandsN: number, widthM: number): number => shortOf(withstandsN / widthM, WITHSTANDS_N_PER_M);
/** How near a wire is to breaking at a touch, 0 to 1: the load it breaks at, against what such a span asks. */
export const frailty = (breaksN: number, spanM: number): number => shortOf(breaksN, interpolate(BREAKS_N, spanM).y);

const clamp01 = (value: number) => Math.min(1, Math.max(0, value));

/** Points of a hundred from the margins alone: the lowest counts most, the mean of all next. Summed without lists: a matrix asks thousands of times. */
function scoreOf(margins: Candidate["margins"]): number {
  let least = 1;
  let sum = 0;
  let count = 0;
  for (const name in margins) {
    // A fuse is the next size sold above a quarter more: how far above says nothing about the set-up.
    if (name === "fuse") continue;
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
  if (wrong) return refuseWire("mismatch", () => wrong);
  let outcome = tryHeat(job, wire, supply, kind, price);
  let at = wire;
  // A supply that gives less than asked is asked for what it can give, as long as that still cuts; a few times over, since the ohms move a little with the heat.
  for (let turn = 0; turn < 3 && isRefused(outcome) && outcome.ease !== undefined; turn++) {
    const refused = outcome;
    const heat = at.cut.powerWPerM * Math.min(1, outcome.ease) * EASED_SHARE;
    if (heat < wire.heats.from) break;
    const cooler = atHeat(wire.spec, wire.wire, job, wire.heats, heat, at);
    // The supply could drive that cut; what is against it then is the wire's own trouble.
    if (isRefused(cooler)) return refuseWire(cooler.code, () => `${refused.say()}; turned down to what it gives: ${cooler.say()}`);
    at = cooler;
    outcome = tryHeat(job, cooler, supply, kind, price);
  }
  return outcome;
}

/** Of what a supply can just give, the share it is asked for. */
const EASED_SHARE = 0.99;

/** What a maker asks of a set-up beyond that it cuts; the first demand it does not meet, or null. See the constants above. */
function demands(job: SearchJob, own: ReadyWire, supply: Supply, kind: ControlKind, set: Set): Refused | null {
  const times = (reach: number) => `${reach.toFixed(2)} times the heat`;
  const { record: source, own: basis } = supplyRecordOf(supply);
  const { charge } = source;
  if (charge) {
    const hours = charge.ampereHours(basis);
    // Chopped, it gives its on-current for its duty only: what empties it is the mean.
    const meanA = set.supplyA * dutyOf(set.control, { rmsA: own.currentA, onA: set.supplyA });
    if (meanA > hours)
      return refuseWire(
        "overload",
        () => `${meanA.toFixed(1)} A would empty this battery within the hour: it fades and warms; ${hours} A at most`,
        set.own ? undefined : goesWithHeat(kind) ? hours / meanA : (hours / meanA) ** 2,
      );
    if (charge.left(basis) > JUDGED_CHARGE) {
      // Straight on the wire nothing is turned up as it fades: there it must still cut; a knob must still reach the heat.
      const low = setControl(kind, charge.withLeft(basis, JUDGED_CHARGE) as unknown as Supply, own, job);
      if (isRefused(low)) return refuseWire("fades", () => `at ${100 * JUDGED_CHARGE} % charge it no longer gives this heat: ${low.say()}`, low.ease);
    }
  }
  if (!set.own && set.reach < LEAST_REACH) {
    return refuseWire(
      "no-reach",
      () => `hardly anything in hand: the knob reaches ${times(set.reach)} chosen, and ${LEAST_REACH} is wanted (15 % in volts)`,
      set.reach / LEAST_REACH,
    );
  }
  const { record, own: control } = recordOf(set.control);
  const outside = outsideOhm(supply, own, job);
  // A converter's output is what its wire and leads share; everything else is before them too.
  const all = outside + (record.hidesSource ? 0 : supplyOhm(supply) * record.winding(control) ** 2) + record.seriesOhm(control);
  const share = own.wireOhm / all;
  if (share < LEAST_WIRE_SHARE)
    return refuseWire(
      "wastes",
      () => `the wire takes only ${Math.round(100 * share)} % of the volts; leads, supply and rheostat warm themselves with the rest`,
    );
  return null;
}

/** How far up its turn a control stands, 0 to 1; null for one without a turn. */
export function turnOf({ control, supply, reach }: Pick<Candidate, "control" | "supply" | "reach">): number | null {
  if (control.kind === "direct") return ownKnob(supply) ? 1 / Math.sqrt(reach) : null;
  const { record, own } = recordOf(control);
  return record.turn(own, supplyEmfV(supply));
}

/** Whether what a supply gives through a control goes with the heat itself; else heat goes with its square. */
const goesWithHeat = (kind: ControlKind): boolean => controlRecord(kind).onCurrentStays || controlRecord(kind).hidesSource;

/** Of one pair's set-ups, those whose control is not at an end of its turn while a simpler control does as well. */
export function withoutEnds(found: readonly Candidate[]): { saved: Candidate[]; dropped: Candidate[] } {
  const atEnd = (each: Candidate) => {
    const turn = turnOf(each);
    return turn !== null && (turn < CONTROL_ENDS.from || turn > CONTROL_ENDS.to);
  };
  const simpler = (each: Candidate) => found.some((other) => partCost(other.control.kind) < partCost(each.control.kind) && !atEnd(other));
  const saved: Candidate[] = [];
  const dropped: Candidate[] = [];
  for (const each of found) (atEnd(each) && simpler(each) ? dropped : saved).push(each);
  return { saved, dropped };
}

/** {@link trySetup} at the one heat a wire is at. */
function tryHeat(job: SearchJob, wire: ReadyWire, supply: Supply, kind: ControlKind, price: number | null): Candidate | Refused {
  const set = setControl(kind, supply, wire, job);
  if (isRefused(set)) return set;
  const own = set.own ?? wire;
  const limitA = supplyLimitA(supply);
  // Chopped, the supply meets the whole current at any heat; a buck draws with the power, everything else with the current in the wire.
  const eased = (mostA: number) =>
    controlRecord(kind).onCurrentStays || set.own ? undefined : goesWithHeat(kind) ? mostA / set.supplyA : (mostA / set.supplyA) ** 2;
  if (set.supplyA > limitA)
    return refuseWire("overload", () => `overload: ${set.supplyA.toFixed(1)} A asked, ${limitA.toFixed(1)} A on the plate`, eased(limitA));
  const touchV = touchLimitV(supply, set.control);
  const grudge = demands(job, own, supply, kind, set);
  if (grudge) return grudge;
  if (supplyEmfV(supply) > touchV) return refuseWire("touch", () => `touch voltage: ${supplyEmfV(supply).toFixed(0)} V on a bare wire`);
  const { fuseA, leadRatingA } = fuseAdvice(set.supplyA, job.leadGaugeAwg);
  if (fuseA === null)
    return refuseWire(
      "no-fuse",
      () => `no standard fuse withstands ${set.supplyA.toFixed(1)} A and still spares leads of ${job.leadGaugeAwg ?? 18} AWG: thicker leads`,
      eased(leadRatingA / FUSE_HEADROOM),
    );
  // Behind a converter more flows in the leads than the fuse before it sees.
  if (own.currentA > leadRatingA)
    return refuseWire(
      "no-fuse",
      () => `${own.currentA.toFixed(1)} A flow in leads of ${job.leadGaugeAwg ?? 18} AWG, good for ${leadRatingA} A: thicker leads`,
      set.own ? undefined : (leadRatingA / own.currentA) ** 2,
    );
  const { drag, kerf, fumes, ignition, lag, tension } = own.margins;
  // A battery has no plate: drawing its ampere-hours in one hour is taken as its limit.
  const source = supplyRecordOf(supply);
  const platedA = source.record.charge ? source.record.charge.ampereHours(source.own) : limitA;
  const margins: Candidate["margins"] = {
    drag,
    kerf,
    fumes,
    ignition,
    lag,
    tension,
    fuse: clamp01(1 - set.supplyA / fuseA),
    // Headroom is the lesser of amperes and volts.
    supply: clamp01(Math.min(1 - set.supplyA / platedA, set.own ? 1 : 1 - 1 / Math.sqrt(set.reach))),
    knob: clamp01(set.steps / KNOB_STEPS_ENOUGH),
  };
  const weak = WEAK_POINTS * weakness(own.withstandsN, job.widthM) + FRAIL_POINTS * frailty(own.breaksN, job.bowM);
  const score = Math.max(
    0,
    scoreOf(margins) - weak - AMPERE_POINTS * own.currentA - partCost(kind) - source.record.cost - (ALLOY_COST[wire.wire.alloy.id] ?? 0),
  );
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
    withstandsN: own.withstandsN,
    breaksN: own.breaksN,
    reach: set.reach,
    also: [],
    fuseA,
    price: price,
    score,
    reasons: [],
  };
}
