import { JUDGEMENT } from "../constants";
import { ALLOYS } from "../materials/alloys";
import type { Foam } from "../materials/foams";
import { STRENGTHS } from "../materials/strength";
import { bareWireDriven } from "../models/bareWire";
import { BUCK_EFFICIENCY, type Control, mismatch, phaseShare, type Supply, supplyEmfV, supplyLimitA, supplyOhm, touchLimitV } from "../models/circuit";
import { type CutPair, type CutState, cleanHeats, cutAtPower } from "../models/cut";
import { midSpanLag } from "../models/lag";
import { fuseAdvice } from "../models/powerAdvice";
import { allowableN } from "../models/tension";
import { resistanceOhmPerM, resolveWire, type Wire, type WireSpec } from "../models/wire";

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

export interface Rejected {
  wire: WireSpec;
  supply?: Supply;
  control?: ControlKind;
  reason: string;
}

export interface SearchResult {
  candidates: Candidate[];
  rejected: Rejected[];
  tried: number;
  /** Each school of wire that was asked: its best set-up, and what keeping to it costs. Best first. */
  schools: School[];
}

/** What a maker gets who keeps to one alloy. */
export interface School {
  alloy: string;
  best: Candidate | null;
  /** Points behind the best of all. */
  behind: number;
  words: string;
}

/** Thirty gauges: every American gauge from heavy bows to hair. */
export const CATALOGUE_GAUGES: readonly number[] = Array.from({ length: 30 }, (_, i) => 14 + i);

/** Every alloy in every gauge, hard-drawn where it is sold so. */
export const CATALOGUE_WIRES: readonly WireSpec[] = ALLOYS.flatMap((alloy) =>
  CATALOGUE_GAUGES.map(
    (gauge_awg): WireSpec => (STRENGTHS[alloy.id]?.spring ? { alloy: alloy.id, gauge_awg, temper: "spring" } : { alloy: alloy.id, gauge_awg }),
  ),
);

/** Ten supplies of the kinds people have (common practice). */
export const CATALOGUE_SUPPLIES: readonly Supply[] = [
  { kind: "bench", voltage_V: 30, current_A: 5 },
  { kind: "bench", voltage_V: 30, current_A: 10 },
  { kind: "dc", voltage_V: 5, maxCurrent_A: 4 },
  { kind: "dc", voltage_V: 12, maxCurrent_A: 5 },
  { kind: "dc", voltage_V: 12, maxCurrent_A: 18 },
  { kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 },
  { kind: "dc", voltage_V: 24, maxCurrent_A: 6 },
  { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 },
  { kind: "battery", chemistry: "lithium-ion", cells: 5, capacity_Ah: 4 },
  { kind: "transformer", voltage_Vrms: 24, rating_VA: 100, internal_ohm: 0.6 },
];

export const CATALOGUE_CONTROLS: readonly ControlKind[] = ["direct", "pwm", "phase", "buck", "rheostat", "tap"];

/** What a set-up asks beyond its margins: extra parts, heat thrown away, mains-side work. Points off a hundred (this project's judgement). */
const PART_COST: Readonly<Record<ControlKind, number>> = { direct: 0, pwm: 3, buck: 4, tap: 4, clip: 4, rheostat: 8, phase: 8 };
const SUPPLY_COST: Readonly<Record<Supply["kind"], number>> = { bench: 0, dc: 1, battery: 5, transformer: 6 };
/** Dear or scarce wire, points off (this project's judgement). */
const ALLOY_COST: Readonly<Record<string, number>> = { "ni-superalloy": 8, "cuni-44": 3, "nicr-80-20": 1, "nicr-60-16": 1 };
/** Weight of a margin in the score; a margin of half or more is as good as it gets. */
const MARGIN_ENOUGH = 0.5;
/** A knob should have at least this many steps of one per cent across the clean band. */
const KNOB_STEPS_ENOUGH = 20;
/** The heat asked for, as a place between the borders of dragging and of too hot: cool, as common practice asks. */
const HEAT_PLACE = 0.35;
/** Tension the search strings the wire with: share of the working limit, and the most a frame is asked for. */
const TENSION_SHARE = 0.5;
const TENSION_MOST_N = 65;

/** One wire made ready for a job: the heat it wants and what it needs for it. */
interface ReadyWire {
  spec: WireSpec;
  wire: Wire;
  cut: CutState;
  currentA: number;
  bareC: number;
  wireOhm: number;
  tensionN: number;
  heats: { from: number; to: number };
  margins: Omit<Candidate["margins"], "supply" | "fuse" | "knob">;
}

function ready(spec: WireSpec, job: SearchJob): ReadyWire | string {
  const wire = resolveWire(spec);
  const pair: CutPair = { wire, foam: job.foam, ambientC: job.ambientC };
  const heats = cleanHeats(pair, job.feedMPerS, job.acceptedKerfM);
  if (!(heats.to > heats.from * 1.05)) {
    return heats.above === "smokes"
      ? "too thin: it would smoke before it could cut at this feed"
      : "too thick for the accepted kerf: it cuts wide before it cuts freely";
  }
  return atHeat(spec, wire, job, heats, heats.from + HEAT_PLACE * (heats.to - heats.from));
}

/** A wire at a heat in its clean band, with what that heat needs and how far it stands from each limit. */
function atHeat(spec: WireSpec, wire: Wire, job: SearchJob, heats: { from: number; to: number }, heat: number): ReadyWire | string {
  const pair: CutPair = { wire, foam: job.foam, ambientC: job.ambientC };
  const cut = cutAtPower(pair, job.feedMPerS, heat, job.acceptedKerfM);
  const currentA = Math.sqrt(heat / resistanceOhmPerM(wire, cut.wireC));
  const bareC = bareWireDriven(wire, { currentA }, { ambientC: job.ambientC }).temperatureC;
  if (bareC > JUDGEMENT.glowingC) return `would glow where it is bare (${bareC.toFixed(0)} degC)`;
  const allowed = allowableN(wire, Math.max(bareC, cut.wireC)).newtons;
  const tension = Math.min(TENSION_MOST_N, TENSION_SHARE * allowed);
  const lag = cut.dragNPerM === null ? Number.POSITIVE_INFINITY : midSpanLag(cut.dragNPerM, job.bowM, job.widthM, tension).lagM;
  const lagLimit = job.bowM * JUDGEMENT.lagValidBelowSpanShare;
  if (lag > lagLimit) return `too weak: at the tension it stands hot (${tension.toFixed(1)} N) it would bow ${(lag * 1000).toFixed(0)} mm`;
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
function setControl(kind: ControlKind, supply: Supply, wire: ReadyWire): Set | string {
  const emf = supplyEmfV(supply);
  const inside = supplyOhm(supply);
  const load = wire.wireOhm + inside;
  const needV = wire.currentA * load;
  const band = (wire.heats.to - wire.heats.from) / wire.cut.powerWPerM;
  const short = `falls short: ${needV.toFixed(1)} V needed, ${emf.toFixed(1)} V there`;
  switch (kind) {
    case "direct": {
      if (supply.kind === "bench") {
        return needV > emf ? short : { control: { kind: "direct" }, setting: needV, supplyA: wire.currentA, steps: (100 * band) / 2 };
      }
      // No knob: what flows, flows. Heat goes with the square of the current; the wire's ohms move little within the clean band.
      const heat = wire.cut.powerWPerM * (emf / load / wire.currentA) ** 2;
      if (heat < wire.heats.from) return `no knob, and it is too cold: ${heat.toFixed(0)} W/m of ${wire.heats.from.toFixed(0)} needed`;
      if (heat > wire.heats.to) return `no knob, and it is too hot: ${heat.toFixed(0)} W/m of ${wire.heats.to.toFixed(0)} at most`;
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
      return "a sliding clip shortens the wire; the search keeps the whole of it live";
  }
}

const clamp01 = (value: number) => Math.min(1, Math.max(0, value));

function reasonsOf(candidate: Candidate): string[] {
  const { margins, control, supply, cut, bareC } = candidate;
  const closest = (Object.entries(margins) as [keyof Candidate["margins"], number][]).sort((a, b) => a[1] - b[1])[0];
  const reasons = [
    `kerf ${(cut.kerfM * 1000).toFixed(2)} mm at ${cut.powerWPerM.toFixed(0)} W/m, ${candidate.currentA.toFixed(2)} A and ${candidate.voltsV.toFixed(1)} V on the wire`,
  ];
  if (closest) reasons.push(`least in hand: ${closest[0]}, ${Math.round(closest[1] * 100)} %`);
  if (control.kind === "direct") reasons.push(supply.kind === "bench" ? "no part beyond the bench supply" : "no control to buy, but no knob either");
  if (control.kind === "rheostat") reasons.push("the rheostat throws its share away as heat");
  if (supply.kind === "battery") reasons.push("a battery must be fused at its terminal and fades through the job");
  if (supply.kind === "transformer") reasons.push("a transformer brings mains to the bench: local codes and a licensed electrician");
  if (bareC > 400) reasons.push(`bare stretches near ${bareC.toFixed(0)} degC`);
  return reasons;
}

/**
 * Ranks complete set-ups for a job: every wire with every supply and control that fits it.
 *
 * Score, of a hundred: the lowest margin counts most, the mean of all next, and parts, heat thrown away and mains-side work are points off. Equal scores go to fewer,
 * then safer parts. Each wire is asked for a cool heat a third of the way from dragging to too hot.
 * @returns best first; a wire that cannot do the job is rejected once, with its reason, and a supply or control per pair
 */
export function searchSetups(
  job: SearchJob,
  wires: readonly WireSpec[] = CATALOGUE_WIRES,
  supplies: readonly Supply[] = CATALOGUE_SUPPLIES,
  controls: readonly ControlKind[] = CATALOGUE_CONTROLS,
  prices: Prices = {},
): SearchResult {
  const candidates: Candidate[] = [];
  const rejected: Rejected[] = [];
  let tried = 0;
  for (const [w, spec] of wires.entries()) {
    const wire = ready(spec, job);
    if (typeof wire === "string") {
      rejected.push({ wire: spec, reason: wire });
      tried += supplies.length * controls.length;
      continue;
    }
    for (const [s, supply] of supplies.entries()) {
      for (const kind of controls) {
        tried += 1;
        const refuse = (reason: string) => rejected.push({ wire: spec, supply, control: kind, reason });
        const probe = { kind } as Control;
        const wrong = mismatch(supply, probe);
        if (wrong) continue;
        const set = setControl(kind, supply, wire);
        if (typeof set === "string") {
          refuse(set);
          continue;
        }
        const own = set.heat === undefined ? wire : atHeat(spec, wire.wire, job, wire.heats, set.heat);
        if (typeof own === "string") {
          refuse(own);
          continue;
        }
        const limitA = supplyLimitA(supply);
        if (set.supplyA > limitA) {
          refuse(`overload: ${set.supplyA.toFixed(1)} A asked, ${limitA.toFixed(1)} A on the plate`);
          continue;
        }
        const touchV = touchLimitV(supply, set.control);
        if (supplyEmfV(supply) > touchV) {
          refuse(`touch voltage: ${supplyEmfV(supply).toFixed(0)} V on a bare wire`);
          continue;
        }
        const { fuseA } = fuseAdvice(set.supplyA, job.leadGaugeAwg);
        if (fuseA === null) {
          refuse(`no standard fuse stands ${set.supplyA.toFixed(1)} A and still spares leads of ${job.leadGaugeAwg ?? 18} AWG: thicker leads`);
          continue;
        }
        const margins = {
          ...own.margins,
          fuse: clamp01(1 - set.supplyA / fuseA),
          // A battery has no plate: drawing its ampere-hours in one hour is taken as its limit.
          supply: clamp01(1 - set.supplyA / (Number.isFinite(limitA) ? limitA : supply.kind === "battery" ? supply.capacity_Ah : limitA)),
          knob: clamp01(set.steps / KNOB_STEPS_ENOUGH),
        };
        const counted = Object.values(margins).map((margin) => clamp01(margin / MARGIN_ENOUGH));
        const mean = counted.reduce((sum, margin) => sum + margin, 0) / counted.length;
        const score = Math.max(0, 55 * Math.min(...counted) + 45 * mean - PART_COST[kind] - SUPPLY_COST[supply.kind] - (ALLOY_COST[wire.wire.alloy.id] ?? 0));
        const candidate: Candidate = {
          wire: spec,
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
          price: priceOf(prices, w, s, kind, job.bowM),
          score,
          reasons: [],
        };
        candidates.push(candidate);
      }
    }
  }
  const parts = (candidate: Candidate) => PART_COST[candidate.control.kind] + SUPPLY_COST[candidate.supply.kind] + (ALLOY_COST[alloyIdOf(candidate.wire)] ?? 0);
  // Where the points tie, the cheaper set-up goes first if both prices are known, then the one with fewer and safer parts, then the thinner wire.
  candidates.sort(
    (a, b) =>
      b.score - a.score ||
      (a.price !== null && b.price !== null ? a.price - b.price : 0) ||
      parts(a) - parts(b) ||
      (b.wire.gauge_awg ?? 0) - (a.wire.gauge_awg ?? 0),
  );
  const best = candidates.slice(0, MOST_CANDIDATES);
  const schools = schoolsOf(wires, candidates, rejected);
  for (const candidate of [...best, ...schools.flatMap((school) => school.best ?? [])]) candidate.reasons = reasonsOf(candidate);
  for (let i = 0; i + 1 < best.length; i++) {
    const [here, next] = [best[i] as Candidate, best[i + 1] as Candidate];
    if (here.score - next.score < TIE_POINTS && i < MOST_TIE_WORDS) {
      const why =
        here.price !== null && next.price !== null && here.price < next.price
          ? "it is cheaper"
          : parts(here) < parts(next)
            ? "it needs fewer or safer parts"
            : null;
      here.reasons.push(why ? `as good as the next within a point; first because ${why}` : "as good as the next within a point: either will do");
    }
  }
  return { candidates: best, rejected, tried, schools };
}

/** Scores closer than this are a tie to any maker. */
const TIE_POINTS = 1;
/** Ties are only worth words near the top. */
const MOST_TIE_WORDS = 20;

const alloyIdOf = (wire: WireSpec) => (typeof wire.alloy === "string" ? wire.alloy : wire.alloy.id);

function priceOf(prices: Prices, w: number, s: number, kind: ControlKind, bowM: number): number | null {
  const wire = prices.wires?.[w];
  const supply = prices.supplies?.[s];
  const control = kind === "direct" ? 0 : prices.controls?.[kind];
  return wire == null || supply == null || control == null ? null : wire * bowM + supply + control;
}

/** Best of each alloy among the wires asked, with what keeping to it costs in the terms of the trade. */
function schoolsOf(wires: readonly WireSpec[], candidates: readonly Candidate[], rejected: readonly Rejected[]): School[] {
  const first = candidates[0];
  const schools = [...new Set(wires.map(alloyIdOf))].map((alloy): School => {
    const best = candidates.find((candidate) => alloyIdOf(candidate.wire) === alloy) ?? null;
    if (best === null || first === undefined) {
      const reasons = rejected.filter((row) => alloyIdOf(row.wire) === alloy).map((row) => row.reason.replace(/:.*| \(.*/, ""));
      const counts = new Map<string, number>();
      for (const reason of reasons) counts.set(reason, (counts.get(reason) ?? 0) + 1);
      const common = [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
      return { alloy, best: null, behind: 100, words: `no set-up works${common ? `; most often: ${common}` : ""}` };
    }
    if (best === first) return { alloy, best, behind: 0, words: "the best found" };
    const differences = [
      [best.cut.kerfM - first.cut.kerfM, 0.05e-3, (d: number) => `kerf ${(Math.abs(d) * 1000).toFixed(2)} mm ${d > 0 ? "wider" : "narrower"}`],
      [best.currentA - first.currentA, 0.15, (d: number) => `${Math.abs(d).toFixed(1)} A ${d > 0 ? "more" : "less"}`],
      [best.bareC - first.bareC, 15, (d: number) => `${Math.abs(d).toFixed(0)} K ${d > 0 ? "hotter" : "cooler"} in air`],
      [best.margins.tension - first.margins.tension, 0.08, (d: number) => `${d < 0 ? "less" : "more"} pull in hand`],
      [best.margins.lag - first.margins.lag, 0.05, (d: number) => `bows ${d < 0 ? "more" : "less"}`],
    ] as const;
    const words = differences.filter(([d, least]) => Math.abs(d) > least).map(([d, , say]) => say(d));
    return { alloy, best, behind: first.score - best.score, words: words.length > 0 ? words.slice(0, 3).join(", ") : "hardly any difference" };
  });
  return schools.sort((a, b) => a.behind - b.behind);
}

/** As many as a person could ever compare; the rest are worse than all of these. */
const MOST_CANDIDATES = 200;

/** Room at each side of the foam when no bow is named, m. */
export const HAND_BREADTH_M = 0.06;
