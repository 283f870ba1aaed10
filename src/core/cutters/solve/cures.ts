import { JUDGEMENT } from "../../kernel/constants";
import { toDecimals } from "../../numerics/round";
import { cleanFeeds, cleanHeats } from "../../physics/cut/cut";
import { resolveWire } from "../../physics/heat/wire";
import { controlRecord } from "../../physics/power/controls";
import { atVolts, ownKnob, supplyEmfV, supplyOhm, supplyRecordOf } from "../../physics/power/supplies";
import { awgDiameterMm, nearestAwg } from "../../units/gauges";
import { LIMITS } from "../../units/limits";
import type { Design } from "../design/schema";
import type { Cure } from "./cureWords";
import { circuitOf, type DesignVerdict, knobOf, pairOf, settingForHeat, verdictOf, withSetting } from "./evaluate";

const roundUp = (value: number, step: number) => Math.ceil(value / step - 1e-9) * step;
const roundDown = (value: number, step: number) => Math.floor(value / step + 1e-9) * step;
const tidy = (value: number) => toDecimals(value, 6);

/** How many steps beyond the computed border a cure may walk before giving up: heat and feed pull on each other a little. */
const WALK = 12;

/** Whole gauges a cure may move either way: beyond it another cutter is meant. */
const MOST_GAUGES = 14;

/** First design on a walk that ends the trouble cleanly. */
function walk(start: number, step: number, count: number, make: (value: number) => Design | null): { value: number; design: Design } | null {
  for (let i = 0; i < count; i++) {
    const value = tidy(start + i * step);
    const design = make(value);
    if (design && verdictOf(design) === "clean") return { value, design };
  }
  return null;
}

function cureByFeed(design: Design): Cure | null {
  const pair = pairOf(design);
  const cut = circuitOf(design, pair).cut;
  if (!cut) return null;
  const step = JUDGEMENT.feedStepMmPerS;
  const window = cleanFeeds(pair, cut.powerWPerM, design.job.maxKerf_mm / 1000);
  const from = design.job.feed_mm_s;
  const slow = window.to * 1000 * (1 - JUDGEMENT.cureHeadroom);
  const fast = window.from * 1000 * (1 + JUDGEMENT.cureHeadroom);
  const make = (feed: number) => (feed >= LIMITS.feed_mm_s.min && feed <= LIMITS.feed_mm_s.max ? { ...design, job: { ...design.job, feed_mm_s: feed } } : null);
  const found = from > slow ? walk(roundDown(slow, step), -step, WALK, make) : walk(roundUp(fast, step), step, WALK, make);
  return found && { knob: "feed", from, to: found.value, design: found.design, leaves: "clean" };
}

function cureByKnob(design: Design): Cure | null {
  const knob = knobOf(design);
  if (!knob) return null;
  const pair = pairOf(design);
  const heats = cleanHeats(pair, design.job.feed_mm_s / 1000, design.job.maxKerf_mm / 1000);
  const now = circuitOf(design, pair).cut?.powerWPerM ?? 0;
  const make = (setting: number) => (setting >= knob.min && setting <= knob.max ? withSetting(design, setting) : null);
  const hotter = now < heats.from;
  const goal = settingForHeat(design, hotter ? heats.from * (1 + JUDGEMENT.cureHeadroom) : heats.to * (1 - JUDGEMENT.cureHeadroom), pair);
  if (goal === null) return null;
  // Round and walk into the clean band, whichever way the knob turns.
  const up = hotter === knob.rising;
  const found = up ? walk(roundUp(goal, knob.step), knob.step, WALK, make) : walk(roundDown(goal, knob.step), -knob.step, WALK, make);
  return found && { knob: knob.kind, from: knob.value, to: found.value, design: found.design, leaves: "clean" };
}

function withGauge(design: Design, awg: number): Design {
  const { diameter_mm: _d, gauge_awg: _a, gauge_swg: _s, ...rest } = design.wire;
  return { ...design, wire: { ...rest, gauge_awg: awg } };
}

/** Nearest whole gauge, thinner or thicker, that meets a condition. */
function gaugeCure(design: Design, good: (verdict: DesignVerdict) => boolean): Cure | null {
  const diameterMm = resolveWire(design.wire).diameterM * 1000;
  const start = nearestAwg(diameterMm);
  for (let i = 1; i <= MOST_GAUGES; i++) {
    for (const steps of [i, -i]) {
      const awg = start - steps;
      if (awg < 10 || awg > 44) continue;
      const tried = withGauge(design, awg);
      const leaves = verdictOf(tried);
      if (good(leaves)) return { knob: "gauge", from: diameterMm, to: awgDiameterMm(awg), steps, design: tried, leaves };
    }
  }
  return null;
}

/** Shortest longer wire (10 mm steps, up to three times as long) that meets a condition. */
function lengthCure(design: Design, good: (verdict: DesignVerdict) => boolean): Cure | null {
  const from = design.wire.length_mm;
  const step = 10;
  const first = roundUp(Math.max(from + 1, design.job.width_mm + 20), step);
  const last = Math.min(3 * Math.max(from, design.job.width_mm), LIMITS.length_mm.max);
  const make = (length: number): Design => ({ ...design, wire: { ...design.wire, length_mm: length } });
  // The verdict changes once along the length, so halve instead of walking hundreds of steps.
  let lo = 0;
  let hi = Math.floor((last - first) / step);
  if (hi < 0 || !good(verdictOf(make(first + hi * step)))) {
    return hi >= 0 && good(verdictOf(make(first))) ? { knob: "length", from, to: first, design: make(first), leaves: verdictOf(make(first)) } : null;
  }
  while (lo < hi) {
    const mid = Math.floor((lo + hi) / 2);
    if (good(verdictOf(make(first + mid * step)))) hi = mid;
    else lo = mid + 1;
  }
  const to = first + lo * step;
  return { knob: "length", from, to, design: make(to), leaves: verdictOf(make(to)) };
}

function cureBySupplyCurrent(design: Design): Cure | null {
  const { record, own } = supplyRecordOf(design.supply);
  if (!record.cutsOut || !record.atLimit) return null;
  const circuit = circuitOf(design);
  // Rounded up to the half ampere that plates are sold in.
  const to = roundUp(Math.max(circuit.supplyCurrentA, circuit.inrushA), 0.5);
  const tried: Design = { ...design, supply: record.atLimit(own, to) as unknown as Design["supply"] };
  return { knob: "supply-current", from: record.limitA(own), to, design: tried, leaves: verdictOf(tried) };
}

/** Smallest change of a fixed supply's volts. */
function cureBySupplyVoltage(design: Design): Cure | null {
  if (design.control.kind !== "direct" || ownKnob(design.supply) || !supplyRecordOf(design.supply).record.atVolts) return null;
  const { supply } = design;
  const pair = pairOf(design);
  const feedMPerS = design.job.feed_mm_s / 1000;
  const heats = cleanHeats(pair, feedMPerS, design.job.maxKerf_mm / 1000);
  const asBench: Design = { ...design, supply: { kind: "bench", voltage_V: supplyEmfV(supply), current_A: LIMITS.maxCurrent_A.max } };
  const now = circuitOf(design, pair).cut?.powerWPerM ?? 0;
  const up = now < heats.from;
  const goal = settingForHeat(asBench, up ? heats.from * (1 + JUDGEMENT.cureHeadroom) : heats.to * (1 - JUDGEMENT.cureHeadroom), pair);
  if (goal === null) return null;
  const volts = goal + supplyOhm(supply) * (up ? 1 : 0);
  const step = JUDGEMENT.voltageStepV;
  const make = (value: number): Design | null => {
    const at = value >= 0.5 && value <= JUDGEMENT.touchAcV ? atVolts(supply, value) : null;
    return at && { ...design, supply: at };
  };
  const found = up ? walk(roundUp(volts, step), step, WALK, make) : walk(roundDown(volts, step), -step, WALK, make);
  return found && { knob: "supply-voltage", from: supplyEmfV(supply), to: found.value, design: found.design, leaves: "clean" };
}

function cureByAddingPwm(design: Design): Cure | null {
  if (design.control.kind !== "direct" || supplyRecordOf(design.supply).record.alternating) return null;
  const base: Design = { ...design, control: { kind: "pwm", duty: 1 } };
  const cure = cureByKnob(base);
  return cure && cure.to < 1 ? { ...cure, knob: "add-pwm", from: 1 } : null;
}

const isClean = (verdict: DesignVerdict) => verdict === "clean";

/**
 * The smallest single changes that fix a design, most useful first. Each was solved again: `leaves` is its true verdict.
 * Changes of the setting come before changes of parts; a change that only swaps one trouble for another is given
 * only where nothing cures it outright, and says what is left.
 * @returns empty for a clean design
 */
export function findCures(design: Design): Cure[] {
  const verdict = verdictOf(design);
  if (verdict === "clean") return [];
  const cures: (Cure | null)[] = [];
  if (verdict === "short-wire") {
    cures.push(lengthCure(design, isClean) ?? lengthCure(design, (v) => v !== "short-wire"));
  } else if (verdict === "overload") {
    const held = (v: DesignVerdict) => v !== "overload" && v !== "short-wire";
    cures.push(
      // PWM turned down leaves the on-current as it was; any other knob spares the supply.
      controlRecord(design.control.kind).onCurrentStays ? null : cureByKnob(design),
      gaugeCure(design, isClean) ?? gaugeCure(design, held),
      lengthCure(design, isClean) ?? lengthCure(design, held),
      cureBySupplyVoltage(design),
      cureBySupplyCurrent(design),
    );
  } else {
    cures.push(cureByFeed(design), cureByKnob(design), cureByAddingPwm(design), gaugeCure(design, isClean), cureBySupplyVoltage(design));
  }
  const found = cures.filter((cure) => cure !== null);
  const clean = found.filter((cure) => isClean(cure.leaves));
  return clean.length > 0 ? clean : found;
}
