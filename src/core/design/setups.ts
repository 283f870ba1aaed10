import { JUDGEMENT } from "../constants";
import type { Foam } from "../materials/foams";
import { bareWireDriven } from "../models/bareWire";
import { BUCK_EFFICIENCY, type Control, mismatch, phaseShare, type Supply, supplyEmfV, supplyLimitA, supplyOhm, touchLimitV } from "../models/circuit";
import { type CutPair, type CutState, cleanHeats, cutAtPower } from "../models/cut";
import { midSpanLag } from "../models/lag";
import { fuseAdvice } from "../models/powerAdvice";
import { allowableN } from "../models/tension";
import { resistanceOhmPerM, resolveWire, type Wire, type WireSpec } from "../models/wire";
import { formatQuantity, type UnitSystem } from "../units/units";

/** What is to be cut. SI but for the names. */
export interface SearchJob {
  foam: Foam;
  widthM: number;
  feedMPerS: number;
  acceptedKerfM: number;
  /** Length between posts; the foam's width and a hand's breadth if not given. */
  bowM: number;
  ambientC: number;
  /** Leads the maker has, by gauge; 18 when not said. */
  leadGaugeAwg?: number | undefined;
  /** Units of the words in reasons; metric when not said. */
  units?: UnitSystem | undefined;
}

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
  margins: Record<"supply" | "fuse" | "drag" | "kerf" | "fumes" | "ignition" | "lag" | "tension" | "knob", number>;
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

/** What stands against a set-up, worst last. */
export const REFUSALS = ["mismatch", "short-wire", "bows", "too-cold", "too-hot", "wide", "smokes", "no-fuse", "overload", "touch", "glows"] as const;

/** Why a set-up is refused. */
export interface Refusal {
  code: (typeof REFUSALS)[number];
  reason: string;
}

/** A refusal whose words are made only when they are read: a matrix tries thousands of set-ups and shows a few. */
export interface Refused {
  code: Refusal["code"];
  say: () => string;
}

const refuse = (code: Refusal["code"], say: () => string): Refused => ({ code, say });

/** Whether a try was refused. */
export const isRefused = (outcome: object): outcome is Refused => "say" in outcome;

/** What a set-up asks beyond its margins: extra parts, heat thrown away, mains-side work. Points off a hundred (this project's judgement). */
export const PART_COST: Readonly<Record<ControlKind, number>> = { direct: 0, pwm: 3, buck: 4, tap: 4, clip: 4, rheostat: 8, phase: 8 };
export const SUPPLY_COST: Readonly<Record<Supply["kind"], number>> = { bench: 0, dc: 1, battery: 5, transformer: 6 };
/** Dear or scarce wire, points off (this project's judgement). */
export const ALLOY_COST: Readonly<Record<string, number>> = { "ni-superalloy": 8, "cuni-44": 3, "nicr-80-20": 1, "nicr-60-16": 1 };
/** Weight of a margin in the score; a margin of half or more is as good as it gets. */
const MARGIN_ENOUGH = 0.5;
/** A knob should have at least this many steps of one per cent across the clean band. */
const KNOB_STEPS_ENOUGH = 20;
/** The heat asked for, as a place between the borders of dragging and of too hot: cool, as common practice asks. */
const HEAT_PLACE = 0.35;
/** Where else it looks in that band when the usual heat will not do. */
const COOLER_PLACES = [0.2, 0.1, 0.03] as const;
const HOTTER_PLACES = [0.6, 0.85] as const;
/** Tension the search strings the wire with: share of the working limit, and the most a frame is asked for. */
const TENSION_SHARE = 0.5;
const TENSION_MOST_N = 65;

/** One wire made ready for a job: the heat it wants and what it needs for it. */
export interface ReadyWire {
  spec: WireSpec;
  wire: Wire;
  cut: CutState;
  currentA: number;
  bareC: number;
  wireOhm: number;
  tensionN: number;
  heats: { from: number; to: number };
  margins: Omit<Candidate["margins"], "supply" | "fuse" | "knob">;
  /** Filled in when first asked for. */
  cooler?: readonly ReadyWire[];
}

/** A wire made ready for a job, or why it cannot do it whatever drives it. */
export function ready(spec: WireSpec, job: SearchJob): ReadyWire | Refused {
  const wire = resolveWire(spec);
  const pair: CutPair = { wire, foam: job.foam, ambientC: job.ambientC };
  const heats = cleanHeats(pair, job.feedMPerS, job.acceptedKerfM);
  if (!(heats.to > heats.from * 1.05)) {
    return heats.above === "smokes"
      ? refuse("smokes", () => "too thin: it would smoke before it could cut at this feed")
      : refuse("wide", () => "too thick for the accepted kerf: it cuts wide before it cuts freely");
  }
  const at = (place: number) => atHeat(spec, wire, job, heats, heats.from + place * (heats.to - heats.from));
  const usual = at(HEAT_PLACE);
  if (!isRefused(usual)) return usual;
  // A wire that glows may do so no longer when run cooler; one that bows is dragged less when hotter.
  for (const place of usual.code === "glows" ? COOLER_PLACES : HOTTER_PLACES) {
    const other = at(place);
    if (!isRefused(other)) return other;
  }
  return usual;
}

/** The same wire at the cooler places of its clean band, hottest first: for a supply that cannot give the usual heat. Worked out once a wire. */
function coolerOf(ready: ReadyWire, job: SearchJob): readonly ReadyWire[] {
  ready.cooler ??= COOLER_PLACES.flatMap((place) => {
    const { from, to } = ready.heats;
    const heat = from + place * (to - from);
    const other = heat < ready.cut.powerWPerM ? atHeat(ready.spec, ready.wire, job, ready.heats, heat) : null;
    return other && !isRefused(other) ? [other] : [];
  });
  return ready.cooler;
}

/** A wire at a heat in its clean band, with what that heat needs and how far it stands from each limit. */
function atHeat(spec: WireSpec, wire: Wire, job: SearchJob, heats: { from: number; to: number }, heat: number): ReadyWire | Refused {
  const pair: CutPair = { wire, foam: job.foam, ambientC: job.ambientC };
  const cut = cutAtPower(pair, job.feedMPerS, heat, job.acceptedKerfM);
  const currentA = Math.sqrt(heat / resistanceOhmPerM(wire, cut.wireC));
  const bareC = bareWireDriven(wire, { currentA }, { ambientC: job.ambientC }).temperatureC;
  if (bareC > JUDGEMENT.glowingC) return refuse("glows", () => `would glow where it is bare (${formatQuantity("temperature", bareC, job.units ?? "metric")})`);
  const allowed = allowableN(wire, Math.max(bareC, cut.wireC)).newtons;
  const tension = Math.min(TENSION_MOST_N, TENSION_SHARE * allowed);
  const lag = cut.dragNPerM === null ? Number.POSITIVE_INFINITY : midSpanLag(cut.dragNPerM, job.bowM, job.widthM, tension).lagM;
  const lagLimit = job.bowM * JUDGEMENT.lagValidBelowSpanShare;
  if (lag > lagLimit)
    return refuse(
      "bows",
      () =>
        `too weak: at the tension it stands hot (${formatQuantity("force", tension, job.units ?? "metric", 1)}) it would bow ${formatQuantity("kerf", lag * 1000, job.units ?? "metric", job.units === "inch" ? 2 : 0)}`,
    );
  return {
    spec,
    wire,
    cut,
    currentA,
    bareC,
    wireOhm: resistanceOhmPerM(wire, bareC) * (job.bowM - job.widthM) + resistanceOhmPerM(wire, cut.wireC) * job.widthM,
    tensionN: tension,
    heats,
    margins: {
      drag: 1 - heats.from / heat,
      kerf: 1 - cut.kerfM / job.acceptedKerfM,
      fumes: 1 - cut.wireC / job.foam.fumeLimitC,
      ignition: Math.max(0, 1 - bareC / job.foam.selfIgnitionC),
      lag: 1 - lag / lagLimit,
      tension: 1 - tension / allowed,
    },
  };
}

interface Set {
  control: Control;
  setting: number | null;
  supplyA: number;
  /** One-per-cent steps of the knob across the clean band. */
  steps: number;
  /** W/m, where the supply and not the search chose it */
  heat?: number;
}

/** Sets one control on one supply to drive a wire's current, or says why not. Heat goes with the square of volts or with duty. */
function setControl(kind: ControlKind, supply: Supply, wire: ReadyWire, units: UnitSystem): Set | Refused {
  const emf = supplyEmfV(supply);
  const inside = supplyOhm(supply);
  const load = wire.wireOhm + inside;
  const needV = wire.currentA * load;
  const band = (wire.heats.to - wire.heats.from) / wire.cut.powerWPerM;
  const short = refuse("too-cold", () => `falls short: ${needV.toFixed(1)} V needed, ${emf.toFixed(1)} V there`);
  switch (kind) {
    case "direct": {
      if (supply.kind === "bench") {
        return needV > emf ? short : { control: { kind: "direct" }, setting: needV, supplyA: wire.currentA, steps: (100 * band) / 2 };
      }
      // No knob: what flows, flows. Heat goes with the square of the current; the wire's ohms move little within the clean band.
      const heat = wire.cut.powerWPerM * (emf / load / wire.currentA) ** 2;
      if (heat < wire.heats.from)
        return refuse(
          "too-cold",
          () => `no knob, and it is too cold: ${formatQuantity("heat", heat, units)} of ${formatQuantity("heat", wire.heats.from, units)} needed`,
        );
      if (heat > wire.heats.to)
        return refuse(
          "too-hot",
          () => `no knob, and it is too hot: ${formatQuantity("heat", heat, units)} of ${formatQuantity("heat", wire.heats.to, units)} at most`,
        );
      return { control: { kind: "direct" }, setting: null, supplyA: emf / load, steps: 0, heat };
    }
    case "pwm": {
      const on = supply.kind === "bench" ? Math.min(emf / load, supply.current_A) : emf / load;
      const duty = (wire.currentA / on) ** 2;
      if (duty > 1) return short;
      return { control: { kind: "pwm", duty }, setting: duty, supplyA: on, steps: 100 * duty * band };
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
      const slope = (phaseShare(lo + 0.9) ** 2 - phaseShare(Math.max(0, lo - 0.9)) ** 2) / phaseShare(lo) ** 2;
      return { control: { kind: "phase", delay_deg: lo }, setting: lo, supplyA: wire.currentA, steps: band / Math.max(1e-6, Math.abs(slope)) };
    }
    case "buck": {
      const outV = wire.currentA * wire.wireOhm;
      const drawn = (wire.currentA * outV) / BUCK_EFFICIENCY / emf;
      if (outV > emf - drawn * inside) return short;
      return { control: { kind: "buck", voltage_V: outV }, setting: outV, supplyA: drawn, steps: (100 * band) / 2 };
    }
    case "rheostat": {
      const ohm = emf / wire.currentA - load;
      if (ohm < 0) return short;
      return { control: { kind: "rheostat", ohm }, setting: ohm, supplyA: wire.currentA, steps: (100 * band * ohm) / (2 * (load + ohm)) };
    }
    case "tap": {
      const fraction = needV / emf;
      if (fraction > 1) return short;
      return { control: { kind: "tap", fraction }, setting: fraction, supplyA: wire.currentA, steps: 5 };
    }
    case "clip":
      return refuse("mismatch", () => "a sliding clip shortens the wire; the search keeps the whole of it live");
  }
}

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
  const usual = tryHeat(job, wire, supply, kind, price);
  if (!isRefused(usual) || !EASED_BY_COOLER.has(usual.code)) return usual;
  for (const cooler of coolerOf(wire, job)) {
    const other = tryHeat(job, cooler, supply, kind, price);
    if (!isRefused(other)) return other;
  }
  return usual;
}

/** Refusals that less heat may lift: the supply falls short or is asked for too much. */
const EASED_BY_COOLER: ReadonlySet<Refusal["code"]> = new Set(["too-cold", "overload", "no-fuse"]);

/** {@link trySetup} at the one heat a wire stands at. */
function tryHeat(job: SearchJob, wire: ReadyWire, supply: Supply, kind: ControlKind, price: number | null): Candidate | Refused {
  const set = setControl(kind, supply, wire, job.units ?? "metric");
  if (isRefused(set)) return set;
  const own = set.heat === undefined ? wire : atHeat(wire.spec, wire.wire, job, wire.heats, set.heat);
  if (isRefused(own)) return own;
  const limitA = supplyLimitA(supply);
  if (set.supplyA > limitA) return refuse("overload", () => `overload: ${set.supplyA.toFixed(1)} A asked, ${limitA.toFixed(1)} A on the plate`);
  const touchV = touchLimitV(supply, set.control);
  if (supplyEmfV(supply) > touchV) return refuse("touch", () => `touch voltage: ${supplyEmfV(supply).toFixed(0)} V on a bare wire`);
  const { fuseA } = fuseAdvice(set.supplyA, job.leadGaugeAwg);
  if (fuseA === null)
    return refuse(
      "no-fuse",
      () => `no standard fuse stands ${set.supplyA.toFixed(1)} A and still spares leads of ${job.leadGaugeAwg ?? 18} AWG: thicker leads`,
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
  const score = Math.max(0, scoreOf(margins) - PART_COST[kind] - SUPPLY_COST[supply.kind] - (ALLOY_COST[wire.wire.alloy.id] ?? 0));
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
