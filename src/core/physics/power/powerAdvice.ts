import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { type CircuitInput, dutyOf, solveCircuit } from "./circuit";
import { type Supply, supplyEmfV, supplyOhm, supplyRecordOf } from "./supplies";

/** A battery's run at this set-up: how long to its floor or empty, and how the heat fades on the way. */
export interface BatteryRun {
  runTimeS: number;
  /** heat per metre at the end against the start */
  fade: number;
  endedBy: "floor" | "empty";
}

const RUN_STEPS = 40;

/**
 * Follows a battery from its charge down, in forty even steps of charge.
 * @throws CoreError `conflict` when the supply is no battery
 */
export function batteryRun(input: CircuitInput): BatteryRun {
  const { supply } = input;
  const { record, own } = supplyRecordOf(supply);
  const { charge: store } = record;
  if (!store) throw new CoreError("conflict", "supply.kind", "only a battery runs down");
  const start = store.left(own);
  const step = start / RUN_STEPS;
  let seconds = 0;
  let first = 0;
  let last = 0;
  for (let i = 0; i < RUN_STEPS; i++) {
    const charge = start - (i + 0.5) * step;
    const now = store.withLeft(own, charge) as unknown as Supply;
    const result = solveCircuit({ ...input, supply: now });
    if (i === 0) first = result.powerWPerM;
    if (supplyEmfV(now) - result.supplyCurrentA * supplyOhm(now) < store.floorV(own)) {
      return { runTimeS: seconds, fade: first > 0 ? (last || first) / first : 1, endedBy: "floor" };
    }
    last = result.powerWPerM;
    // PWM takes its current in pulses: the charge drawn goes with the duty.
    const mean = result.supplyCurrentA * dutyOf(input.control, { rmsA: result.currentA, onA: result.onCurrentA });
    seconds += mean > 0 ? (step * store.ampereHours(own) * 3600) / mean : Number.POSITIVE_INFINITY;
  }
  return { runTimeS: seconds, fade: first > 0 ? last / first : 1, endedBy: "empty" };
}

/** A fuse is the next size above this many times the working current. */
export const FUSE_HEADROOM = 1.25;
/** Blade and glass fuse sizes sold everywhere, A. */
const FUSE_SIZES = [0.5, 1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40] as const;
/** Current copper leads of a gauge carry in free air, A; from memory of chassis-wiring tables, kept low. */
const LEAD_RATING: Readonly<Record<number, number>> = { 10: 30, 12: 20, 14: 15, 16: 13, 18: 10, 20: 7.5, 22: 5, 24: 3.5, 26: 2.2 };

/** The gauges of that table, thickest first, and thinnest first: asked for thousands of times in a search. */
const RATED = Object.keys(LEAD_RATING).map(Number);
const RATED_THINNEST_FIRST = [...RATED].reverse();

export const FUSE_RULE: Relation = {
  id: "fuse",
  title: "Fuse for the working current",
  formula: "next standard size above 1.25 I, at or under the lead's rating",
  words: "Large enough not to blow in normal work, small enough to go before the leads do.",
  range: "direct or alternating extra-low voltage; copper leads in free air",
  basis: "common practice",
  source: "workshop rule; lead ratings from memory of chassis-wiring tables, kept low; local electrical codes rule",
};

export const BATTERY_RUN: Relation = {
  id: "battery-run",
  title: "How long a battery lasts",
  formula: "sum of capacity steps over mean current, until empty or EMF - I R reaches the floor",
  words: "The battery is followed down its charge in forty steps; the wire cools a little as the volts fade.",
  range: "good cells at room temperature, one unbroken run",
  basis: "from memory",
  source: "cell volts, floors and internal ohms from memory of battery handbooks; charge balance",
};

/** Fuse and leads for a working current. */
export interface FuseAdvice {
  /** null when no standard size fits between the current and the lead's rating */
  fuseA: number | null;
  leadRatingA: number;
  /** Thinnest usual lead that carries the fuse this current wants. */
  leadGaugeAwg: number | null;
}

/**
 * Next standard fuse above 1.25 times the working current, at or under the lead's rating (common practice; local electrical codes rule).
 * @param gaugeAwg leads in use; 18 when not said
 */
export function fuseAdvice(workingA: number, gaugeAwg = 18): FuseAdvice {
  const wanted = FUSE_SIZES.find((size) => size > FUSE_HEADROOM * workingA) ?? null;
  // A gauge between the table's rows is rated as the next thinner one.
  const row = RATED.find((gauge) => gauge >= gaugeAwg);
  const leadRatingA = row === undefined ? 1 : (LEAD_RATING[row] as number);
  const enough = wanted === null ? undefined : RATED_THINNEST_FIRST.find((gauge) => (LEAD_RATING[gauge] as number) >= wanted);
  return { fuseA: wanted !== null && wanted <= leadRatingA ? wanted : null, leadRatingA, leadGaugeAwg: enough ?? null };
}
