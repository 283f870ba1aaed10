import { ALLOYS } from "../materials/alloys";
import { STRENGTHS } from "../materials/strength";
import type { Supply } from "../models/circuit";
import type { WireSpec } from "../models/wire";
import { formatQuantity, type UnitSystem } from "../units/units";

import { isRefused, type Refusal, ready, type SearchJob, TENSION_SHARE } from "./readyWire";
import { ALLOY_COST, type Candidate, type ControlKind, frailty, PART_COST, type Prices, SUPPLY_COST, trySetup } from "./setups";

export interface Rejected extends Refusal {
  wire: WireSpec;
  supply?: Supply;
  control?: ControlKind;
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

/** What speaks for and against a found set-up, in words. */
export function reasonsOf(candidate: Candidate, units: UnitSystem = "metric"): string[] {
  const { margins, control, supply, cut, bareC } = candidate;
  const closest = (Object.entries(margins) as [keyof Candidate["margins"], number][]).sort((a, b) => a[1] - b[1])[0];
  const reasons = [
    `kerf ${formatQuantity("kerf", cut.kerfM * 1000, units)} at ${formatQuantity("heat", cut.powerWPerM, units)}, ${candidate.currentA.toFixed(2)} A and ${candidate.voltsV.toFixed(1)} V on the wire`,
  ];
  if (closest) reasons.push(`least in hand: ${closest[0]}, ${Math.round(closest[1] * 100)} %`);
  if (control.kind === "direct") reasons.push(supply.kind === "bench" ? "no part beyond the bench supply" : "no control to buy, but no knob either");
  if (control.kind === "rheostat") reasons.push("the rheostat throws its share away as heat");
  if (supply.kind === "battery") reasons.push("a battery must be fused at its terminal and fades through the job");
  if (supply.kind === "transformer") reasons.push("a transformer brings mains to the bench: local codes and a licensed electrician");
  if (frailty(candidate.tensionN) > 0.2) reasons.push(`breaks easily: it stands ${formatQuantity("force", candidate.tensionN / TENSION_SHARE, units, 1)} hot`);
  if (margins.ignition === 0) reasons.push("bare stretches pass the temperature at which this foam's vapour lights by itself: switched on in foam only");
  else if (bareC > 400) reasons.push(`bare stretches near ${formatQuantity("temperature", bareC, units)}`);
  return reasons;
}

/**
 * Ranks complete set-ups for a job: every wire with every supply and control that fits it.
 *
 * Score, of a hundred: the lowest margin counts most, the mean of all next, and parts, heat thrown away, mains-side work and a wire that breaks at a touch are points off. Equal scores go to fewer,
 * then safer parts. Each wire is asked for a cool heat a third of the way from dragging to too hot; where a supply cannot give that, or the wire would glow or bow, for another in its clean band.
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
    if (isRefused(wire)) {
      rejected.push({ wire: spec, code: wire.code, reason: wire.say() });
      tried += supplies.length * controls.length;
      continue;
    }
    for (const [s, supply] of supplies.entries()) {
      for (const kind of controls) {
        tried += 1;
        const outcome = trySetup(job, wire, supply, kind, priceOf(prices, w, s, kind, job.bowM));
        if (!isRefused(outcome)) candidates.push(outcome);
        else if (outcome.code !== "mismatch") rejected.push({ wire: spec, supply, control: kind, code: outcome.code, reason: outcome.say() });
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
  const schools = schoolsOf(wires, candidates, rejected, job.units ?? "metric");
  for (const candidate of [...best, ...schools.flatMap((school) => school.best ?? [])]) candidate.reasons = reasonsOf(candidate, job.units);
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
function schoolsOf(wires: readonly WireSpec[], candidates: readonly Candidate[], rejected: readonly Rejected[], units: UnitSystem): School[] {
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

/** As many as a person could ever compare; the rest are worse than all of these. */
const MOST_CANDIDATES = 200;

/** Room at each side of the foam when no bow is named, m. */
export const HAND_BREADTH_M = 0.06;
