import { ALLOYS } from "../../materials/alloys";
import { STRENGTHS } from "../../materials/strength";
import { resolveWire, type WireSpec } from "../../physics/heat/wire";
import { CONTROLS, type ControlKind, controlRecord } from "../../physics/power/controls";
import { type Supply, supplyRecordOf } from "../../physics/power/supplies";
import { formatQuantity, type UnitSystem } from "../../units/units";

import { isRefused, type ReadyWire, type Refusal, type Refused, ready, type SearchJob } from "./readyWire";
import { ALLOY_COST, type Candidate, CONTROL_ENDS, frailty, type Prices, partCost, trySetup, turnOf, withoutEnds } from "./setups";

/** Set-ups refused for one reason: the first of them, and how many there were. */
export interface Rejected extends Refusal {
  wire: WireSpec;
  supply?: Supply;
  control?: ControlKind;
  count: number;
}

export interface SearchResult {
  /** One a wire, its twins and its other supplies and controls folded under it. */
  candidates: Candidate[];
  /** Grouped by reason, most first; the rest are few. */
  rejected: Rejected[];
  tried: number;
  /** How many set-ups work, folded ones counted. */
  works: number;
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

/** Strands of seven-strand stainless leader and cable, mm each (common practice). */
const LEADER_STRANDS_MM = [0.1, 0.12, 0.15, 0.18, 0.22, 0.28] as const;

/** Every alloy in every gauge, hard-drawn where it is sold so; and seven-strand stainless. */
export const CATALOGUE_WIRES: readonly WireSpec[] = [
  ...ALLOYS.flatMap((alloy) =>
    CATALOGUE_GAUGES.map(
      (gauge_awg): WireSpec => (STRENGTHS[alloy.id]?.spring ? { alloy: alloy.id, gauge_awg, temper: "spring" } : { alloy: alloy.id, gauge_awg }),
    ),
  ),
  ...LEADER_STRANDS_MM.map((diameter_mm): WireSpec => ({ alloy: "ss-304", diameter_mm, strands: 7, temper: "spring" })),
];

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

export const CATALOGUE_CONTROLS: readonly ControlKind[] = CONTROLS.filter((record) => record.searched).map((record) => record.kind as ControlKind);

const MARGIN_PRICE: Readonly<Record<keyof Candidate["margins"], string>> = {
  drag: "of the heat before it drags",
  kerf: "of the accepted kerf",
  fumes: "to the fume limit",
  ignition: "to the vapour's self-ignition, where the wire is bare",
  lag: "of the bow it may have",
  tension: "of the pull it withstands",
  supply: "of the supply's amperes and volts",
  fuse: "of the fuse",
  knob: "of the fineness a knob should have",
};

/** How a reason begins that says where a set-up has the least in reserve. */
export const LEAST_TO_SPARE = "least to spare: ";

/** What speaks for and against a found set-up, in words: what it does, why this size, the pull it withstands, how far the knob can go, what it gives up. */
export function reasonsOf(candidate: Candidate, units: UnitSystem = "metric", sizes: readonly string[] = [], widthM?: number): string[] {
  const { margins, control, supply, cut, bareC } = candidate;
  const closest = (Object.entries(margins) as [keyof Candidate["margins"], number][]).sort((a, b) => a[1] - b[1])[0];
  const force = (newtons: number) => formatQuantity("force", newtons, units, newtons < 20 ? 1 : 0);
  const reasons = [
    `kerf ${formatQuantity("kerf", cut.kerfM * 1000, units)} at ${formatQuantity("heat", cut.powerWPerM, units)}, ${candidate.currentA.toFixed(2)} A and ${candidate.voltsV.toFixed(1)} V on the wire`,
    ...sizes,
    `withstands ${force(candidate.withstandsN)} hot${widthM === undefined ? "" : ` (${force(candidate.withstandsN / widthM)} a metre of foam)`}`,
    candidate.setting === null
      ? "no knob: what the supply gives is what there is"
      : `the knob can still go to ${candidate.reach >= 10 ? "ten times and more" : `${candidate.reach.toFixed(1)} times`} this heat`,
  ];
  if (closest) reasons.push(`${LEAST_TO_SPARE}${Math.round(closest[1] * 100)} % ${MARGIN_PRICE[closest[0]]}`);
  const source = supplyRecordOf(supply).record;
  if (control.kind === "direct" && source.praise) reasons.push(source.praise);
  for (const reservation of [controlRecord(control.kind).reservation, source.reservation]) if (reservation) reasons.push(reservation);
  if (frailty(candidate.breaksN, candidate.lengthM) > 0.3) reasons.push(`breaks easily: it parts at ${force(candidate.breaksN)} hot`);
  if (margins.ignition === 0) reasons.push("bare stretches pass the temperature at which this foam's vapour lights on its own: switched on in foam only");
  else if (bareC > 400) reasons.push(`bare stretches near ${formatQuantity("temperature", bareC, units)}`);
  return reasons;
}

/** Alloys that are each other's twin in the cut: what one does the other does. */
const TWINS: Readonly<Record<string, string>> = {
  "ss-304": "stainless",
  "ss-316": "stainless",
  "nicr-80-20": "nickel-chromium",
  "nicr-60-16": "nickel-chromium",
};

/** What an alloy is in the cut: its own name, or that of its twins. */
export const twinOf = (wire: WireSpec): string => TWINS[alloyIdOf(wire)] ?? alloyIdOf(wire);

/** Wires with the same key are one row: twin alloys of one size and strand. */
function rowKey(spec: WireSpec): string {
  const { outerDiameterM, strands } = resolveWire(spec);
  const alloy = alloyIdOf(spec);
  return `${TWINS[alloy] ?? alloy} ${(outerDiameterM * 1e5).toFixed(0)} ${strands}`;
}

/** Strengths are compared in steps of a quarter, and only up to what practice pulls: less is no difference to a hand, and more is none to the cut. */
const strengthStep = ({ withstandsN, lengthM }: Candidate) => Math.round(Math.log(Math.min(withstandsN, PRACTICE_N_PER_M * lengthM)) / Math.log(1.25));
const PRACTICE_N_PER_M = 80;

/** How far a knob is from the middle of its turn; no knob is as far as can be. */
const offMiddle = (candidate: Candidate) => Math.abs((turnOf(candidate) ?? 1) - 0.5);

const isHard = (spec: WireSpec) => (spec.temper === "spring" ? 1 : 0);
const partsOf = (candidate: Candidate) =>
  partCost(candidate.control.kind) + supplyRecordOf(candidate.supply).record.cost + (ALLOY_COST[alloyIdOf(candidate.wire)] ?? 0);

/** Best first. Points that round to the same go to the hard-drawn wire, then the stronger, then the knob nearer its middle, then the cheaper, then fewer and safer parts. */
function inOrder(a: Candidate, b: Candidate): number {
  return (
    Math.round(b.score / TIE_POINTS) - Math.round(a.score / TIE_POINTS) ||
    isHard(b.wire) - isHard(a.wire) ||
    strengthStep(b) - strengthStep(a) ||
    (a.price !== null && b.price !== null ? a.price - b.price : 0) ||
    Math.round(10 * offMiddle(a)) - Math.round(10 * offMiddle(b)) ||
    partsOf(a) - partsOf(b) ||
    b.score - a.score
  );
}

/** Folds candidates, best first, to one a wire; the others are under it. */
function folded(candidates: readonly Candidate[]): Candidate[] {
  const rows = new Map<string, Candidate>();
  for (const each of candidates) {
    const key = rowKey(each.wire);
    const first = rows.get(key);
    // Points are whole: less is a tie, and is in the order ties have.
    if (!first) rows.set(key, { ...each, score: Math.round(each.score / TIE_POINTS) * TIE_POINTS, also: [] });
    else if (first.also.length < MOST_ALSO) {
      const { wire, supply, control, setting, score } = each;
      first.also.push({ wire, supply, control, setting, score });
    }
  }
  return [...rows.values()];
}

/** As many twins as are worth naming. */
const MOST_ALSO = 5;
/** Among the first so many rows, so many different sizes or supplies: a maker wants choices that differ. */
const FIRST = 10;
const DIFFERENT = 4;

/** Rows reordered, as little as it takes, so that the first ten hold at least four sizes or four supplies, where there are as many. */
function varied(rows: readonly Candidate[]): Candidate[] {
  const size = (each: Candidate) => resolveWire(each.wire).outerDiameterM.toFixed(6);
  const supply = (each: Candidate) => JSON.stringify(each.supply);
  const head = rows.slice(0, FIRST);
  const tail = rows.slice(FIRST);
  const kinds = (of: (each: Candidate) => string) => new Set(head.map(of));
  while (kinds(size).size < DIFFERENT && kinds(supply).size < DIFFERENT && tail.length > 0) {
    const at = tail.findIndex((each) => !kinds(size).has(size(each)) || !kinds(supply).has(supply(each)));
    if (at < 0) break;
    // The last row whose like is above it gives way.
    let out = head.length - 1;
    while (out > 0 && !head.some((other, k) => k < out && size(other) === size(head[out] as Candidate))) out -= 1;
    if (out === 0) break;
    const [fresh] = tail.splice(at, 1);
    const [old] = head.splice(out, 1);
    head.push(fresh as Candidate);
    tail.unshift(old as Candidate);
  }
  // Moved rows find their place by points again.
  return [...head.sort(inOrder), ...tail.sort(inOrder)];
}

/** Groups refusals by what they say, figures left out, most first. */
function grouped(rejected: readonly Omit<Rejected, "count">[]): Rejected[] {
  const groups = new Map<string, Rejected>();
  for (const each of rejected) {
    const key = `${each.code} ${each.reason.replace(/[\d.]+/g, "#")}`;
    const group = groups.get(key);
    if (group) group.count += 1;
    else groups.set(key, { ...each, count: 1 });
  }
  return [...groups.values()].sort((a, b) => b.count - a.count).slice(0, MOST_REJECTED);
}
const MOST_REJECTED = 40;

/** All set-ups of a search, best first, unfolded; what was refused, and each wire made ready. */
export interface EverySetup {
  candidates: Candidate[];
  rejected: Omit<Rejected, "count">[];
  tried: number;
  readied: ReadonlyMap<WireSpec, ReadyWire | Refused>;
}

/** Every wire with every supply and control that fits it. */
export function everySetup(
  job: SearchJob,
  wires: readonly WireSpec[],
  supplies: readonly Supply[],
  controls: readonly ControlKind[],
  prices: Prices = {},
): EverySetup {
  const candidates: Candidate[] = [];
  const rejected: Omit<Rejected, "count">[] = [];
  const readied = new Map<WireSpec, ReadyWire | Refused>();
  let tried = 0;
  for (const [w, spec] of wires.entries()) {
    const wire = ready(spec, job);
    readied.set(spec, wire);
    if (isRefused(wire)) {
      rejected.push({ wire: spec, code: wire.code, reason: wire.say() });
      tried += supplies.length * controls.length;
      continue;
    }
    for (const [s, supply] of supplies.entries()) {
      const found: Candidate[] = [];
      for (const kind of controls) {
        tried += 1;
        const outcome = trySetup(job, wire, supply, kind, priceOf(prices, w, s, kind, job.bowM));
        if (!isRefused(outcome)) found.push(outcome);
        else if (outcome.code !== "mismatch") rejected.push({ wire: spec, supply, control: kind, code: outcome.code, reason: outcome.say() });
      }
      const { saved, dropped } = withoutEnds(found);
      candidates.push(...saved);
      for (const each of dropped)
        rejected.push({
          wire: spec,
          supply,
          control: each.control.kind,
          code: "at-its-end",
          reason: `it would be ${(turnOf(each) ?? 0) > CONTROL_ENDS.to ? "hard up" : "hardly open"} at the end of its turn, where a simpler control serves`,
        });
    }
  }
  return { candidates: candidates.sort(inOrder), rejected, tried, readied };
}

/** Writes why a set-up is worth having into it. */
export function withReasons(candidate: Candidate, { readied }: Pick<EverySetup, "readied">, job: SearchJob): Candidate {
  const units = job.units ?? "metric";
  return { ...candidate, reasons: reasonsOf(candidate, units, sizeReasons(candidate, readied, units), job.widthM) };
}

/**
 * Ranks complete set-ups for a job: every wire with every supply and control that fits it.
 *
 * Score, of a hundred: the lowest margin counts most, the mean of all next; a wire weak for its span, parts, heat thrown away and mains-side work are points off. Each wire is asked for a cool heat a third
 * of the way from dragging to too hot; where a supply cannot give that with something in hand, or the wire would glow or bow, for another in its clean band.
 * @returns one row a wire, best first, twins folded; refusals grouped by reason
 */
export function searchSetups(
  job: SearchJob,
  wires: readonly WireSpec[] = CATALOGUE_WIRES,
  supplies: readonly Supply[] = CATALOGUE_SUPPLIES,
  controls: readonly ControlKind[] = CATALOGUE_CONTROLS,
  prices: Prices = {},
): SearchResult {
  const { candidates, rejected, tried, readied } = everySetup(job, wires, supplies, controls, prices);
  const best = varied(folded(candidates)).slice(0, MOST_CANDIDATES);
  const units = job.units ?? "metric";
  const schools = schoolsOf(wires, candidates, rejected, units);
  for (const candidate of [...best, ...schools.flatMap((school) => school.best ?? [])])
    candidate.reasons = reasonsOf(candidate, units, sizeReasons(candidate, readied, units), job.widthM);
  for (let i = 0; i + 1 < best.length && i < MOST_TIE_WORDS; i++) {
    const [here, next] = [best[i] as Candidate, best[i + 1] as Candidate];
    if (Math.abs(here.score - next.score) >= TIE_POINTS) continue;
    const why =
      isHard(here.wire) > isHard(next.wire)
        ? "it is hard-drawn"
        : strengthStep(here) > strengthStep(next)
          ? "it is stronger"
          : here.price !== null && next.price !== null && here.price < next.price
            ? "it is cheaper"
            : offMiddle(here) + 0.05 < offMiddle(next)
              ? "its knob is nearer the middle"
              : partsOf(here) < partsOf(next)
                ? "it needs fewer or safer parts"
                : null;
    here.reasons.push(why ? `as good as the next within a point; first because ${why}` : "as good as the next within a point: either will do");
  }
  return { candidates: best, rejected: grouped(rejected), tried, works: candidates.length, schools };
}

/** Why this size and not the next: what is against the same wire one size thinner, and one thicker. */
function sizeReasons(candidate: Candidate, readied: ReadonlyMap<WireSpec, ReadyWire | Refused>, units: UnitSystem): string[] {
  const own = resolveWire(candidate.wire);
  const kin = [...readied]
    .filter(([spec]) => alloyIdOf(spec) === alloyIdOf(candidate.wire) && (spec.strands ?? 1) === own.strands && spec.temper === candidate.wire.temper)
    .map(([spec, wire]) => ({ wire, diameterM: resolveWire(spec).outerDiameterM }))
    .sort((a, b) => a.diameterM - b.diameterM);
  const thinner = kin.filter(({ diameterM }) => diameterM < own.outerDiameterM * 0.97).at(-1);
  const thicker = kin.find(({ diameterM }) => diameterM > own.outerDiameterM * 1.03);
  const size = (metres: number) => formatQuantity("diameter", metres * 1000, units, units === "metric" ? 2 : undefined);
  const force = (newtons: number) => formatQuantity("force", newtons, units, newtons < 20 ? 1 : 0);
  const reasons: string[] = [];
  if (thinner)
    reasons.push(
      `thinner (${size(thinner.diameterM)}) ${isRefused(thinner.wire) ? `is refused: ${thinner.wire.say()}` : `withstands ${force(thinner.wire.withstandsN)} in place of ${force(candidate.withstandsN)}`}`,
    );
  if (thicker)
    reasons.push(
      `thicker (${size(thicker.diameterM)}) ${isRefused(thicker.wire) ? `is refused: ${thicker.wire.say()}` : `wants ${thicker.wire.currentA.toFixed(1)} A in place of ${candidate.currentA.toFixed(1)}`}`,
    );
  return reasons;
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
function schoolsOf(wires: readonly WireSpec[], candidates: readonly Candidate[], rejected: readonly Omit<Rejected, "count">[], units: UnitSystem): School[] {
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
      [best.cut.kerfM - first.cut.kerfM, 0.05e-3, (d: number) => `kerf ${formatQuantity("kerf", Math.abs(d) * 1000, units)} ${d > 0 ? "wider" : "narrower"}`],
      [best.currentA - first.currentA, 0.15, (d: number) => `${Math.abs(d).toFixed(1)} A ${d > 0 ? "more" : "less"}`],
      [
        best.bareC - first.bareC,
        15,
        (d: number) => `${units === "metric" ? `${Math.abs(d).toFixed(0)} K` : `${(Math.abs(d) * 1.8).toFixed(0)} °F`} ${d > 0 ? "hotter" : "cooler"} in air`,
      ],
      [best.margins.tension - first.margins.tension, 0.08, (d: number) => `${d < 0 ? "less" : "more"} pull in hand`],
      [best.margins.lag - first.margins.lag, 0.05, (d: number) => `bows ${d < 0 ? "more" : "less"}`],
    ] as const;
    const words = differences.filter(([d, least]) => Math.abs(d) > least).map(([d, , say]) => say(d));
    return { alloy, best, behind: first.score - best.score, words: words.length > 0 ? words.slice(0, 3).join(", ") : "hardly any difference" };
  });
  return schools.sort((a, b) => a.behind - b.behind);
}

/** As many wires as a person could ever compare; the rest are worse than all of these. */
const MOST_CANDIDATES = 40;

/** Room at each side of the foam when no bow is named, m. */
const HAND_BREADTH_M = 0.06;
/** Small tools are closer: at each side a share of the foam's width, where that is less. */
const SMALL_TOOL_SHARE = 0.25;

/** Length between posts for a foam's width, where no bow is named, m. */
export const usualBowM = (widthM: number): number => widthM + 2 * Math.min(HAND_BREADTH_M, SMALL_TOOL_SHARE * widthM);
