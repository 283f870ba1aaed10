import { isRefused, REFUSALS, type ReadyWire, type Refusal, type Refused, ready, type SearchJob } from "../cutters/search/readyWire";
import { reasonsOf } from "../cutters/search/search";
import { type Candidate, trySetup, withoutEnds } from "../cutters/search/setups";
import { resolveWire, type WireSpec } from "../physics/heat/wire";
import { wireEnds } from "../physics/mechanics/wireEnds";
import type { ControlKind } from "../physics/power/controls";
import type { Supply } from "../physics/power/supplies";
import { formatQuantity } from "../units/units";
import type { HeldSupply, HeldWire, Holdings } from "./holdings";

/** Best that one wire on one supply can do, in full. */
export interface MatchCell {
  /** null where nothing is clean; then `refusal` says what comes nearest. */
  candidate: Candidate | null;
  refusal: Refusal | null;
}

/** The same as a matrix shows it: hundreds of them cross from the worker to the page at once. */
export type MatchMark =
  | { score: number; control: ControlKind; setting: number | null }
  /** null where no control at hand goes with that supply */
  | { code: Refusal["code"] | null };

const severity = new Map(REFUSALS.map((code, i) => [code, i]));
const severityOf = (refused: Refused | null) => (refused ? (severity.get(refused.code) as number) : REFUSALS.length);

interface HeldReady {
  held: HeldWire;
  wire: ReadyWire | Refused;
  needM: number;
}

/** Wire a job takes off a spool, m: the bow and its ends. */
export const takenM = (held: HeldWire, job: SearchJob): number => wireEnds(resolveWire(held.spec), job.bowM).cutM;

/** A spool made ready for a job; refused where too little is left on it. */
function readySpool(held: HeldWire, job: SearchJob): HeldReady {
  const needM = takenM(held, job);
  if (held.lengthM >= needM) return { held, wire: ready(held.spec, job), needM };
  const shown = (metres: number) => formatQuantity("leadLength", metres, job.units ?? "metric", 2);
  return { held, needM, wire: { code: "short-wire", say: () => `only ${shown(held.lengthM)} left of the ${shown(needM)} this needs with its ends` } };
}

/** The best of the controls at hand; where none does, the refusal that is nearest to working. */
function bestOf(job: SearchJob, { held, wire, needM }: HeldReady, source: HeldSupply, controls: Holdings["controls"]): Candidate | Refused | null {
  if (isRefused(wire)) return wire;
  const found: Candidate[] = [];
  let nearest: Refused | null = null;
  for (const control of controls) {
    const price = held.pricePerM === null || source.price === null || control.price === null ? null : held.pricePerM * needM + source.price + control.price;
    const outcome = trySetup(job, wire, source.supply, control.kind, price);
    if (!isRefused(outcome)) found.push(outcome);
    else if (outcome.code !== "mismatch" && severityOf(outcome) < severityOf(nearest)) nearest = outcome;
  }
  let best: Candidate | null = null;
  for (const each of found.length > 1 ? withoutEnds(found).saved : found) if (!best || each.score > best.score) best = each;
  return best ?? nearest;
}

/** What the drawer can cut a job with: a row a wire, a column a supply, each the best over the controls at hand. */
export function matchMatrix(job: SearchJob, holdings: Holdings): MatchMark[][] {
  return holdings.wires.map((held) => {
    const spool = readySpool(held, job);
    return holdings.supplies.map((source): MatchMark => {
      const best = bestOf(job, spool, source, holdings.controls);
      if (best === null || isRefused(best)) return { code: best?.code ?? null };
      return { score: best.score, control: best.control.kind, setting: best.setting };
    });
  });
}

/** One cell of {@link matchMatrix} in full, with its reasons in words. */
export function matchCell(job: SearchJob, holdings: Holdings, held: HeldWire, source: HeldSupply): MatchCell {
  const best = bestOf(job, readySpool(held, job), source, holdings.controls);
  if (best === null) return { candidate: null, refusal: null };
  if (isRefused(best)) return { candidate: null, refusal: { code: best.code, reason: best.say() } };
  return { candidate: { ...best, reasons: reasonsOf(best, job.units, [], job.widthM) }, refusal: null };
}

/** Something to buy, and what it would open. */
export interface Purchase {
  kind: "wire" | "supply" | "control";
  name: string;
  wire?: WireSpec;
  supply?: Supply;
  control?: ControlKind;
  price: number | null;
  /** Names of jobs that have no clean set-up now and would have one. */
  opens: string[];
  /** Best points it brings to those jobs and to the ones already possible, summed over what is now. */
  gain: number;
}

/** Metres of a new spool: more than any bow here. */
const NEW_SPOOL_M = 1000;
const MOST_PURCHASES = 8;
/** Points a job must gain on the mean for a purchase to be worth naming where it opens nothing. */
const WORTH_POINTS = 1;

/** Best points of a job with some parts; 0 where nothing is clean. */
function bestScore(job: SearchJob, holdings: Holdings): number {
  let best = 0;
  for (const row of matchMatrix(job, holdings)) for (const cell of row) if ("score" in cell) best = Math.max(best, cell.score);
  return best;
}

/**
 * The one thing to buy: each part on offer is added to the drawer on its own, and every job tried again.
 * @returns what opens most jobs first; where it opens none, what betters them most
 */
export function oneThing(jobs: readonly { name: string; job: SearchJob }[], holdings: Holdings, offers: Holdings): Purchase[] {
  const now = jobs.map(({ job }) => bestScore(job, holdings));
  const judge = (part: Omit<Purchase, "opens" | "gain">, alone: Holdings): Purchase => {
    const opens: string[] = [];
    let gain = 0;
    for (const [i, { name, job }] of jobs.entries()) {
      const possible = now[i] as number;
      const then = bestScore(job, alone);
      if (then > 0 && possible === 0) opens.push(name);
      gain += Math.max(0, then - possible);
    }
    return { ...part, opens, gain };
  };
  const purchases = [
    ...offers.wires.map((wire) =>
      judge({ kind: "wire", name: wire.name, wire: wire.spec, price: wire.pricePerM }, { ...holdings, wires: [{ ...wire, lengthM: NEW_SPOOL_M }] }),
    ),
    ...offers.supplies.map((supply) =>
      judge({ kind: "supply", name: supply.name, supply: supply.supply, price: supply.price }, { ...holdings, supplies: [supply] }),
    ),
    ...offers.controls
      .filter((control) => control.kind !== "direct" && !holdings.controls.some((held) => held.kind === control.kind))
      .map((control) => judge({ kind: "control", name: control.kind, control: control.kind, price: control.price }, { ...holdings, controls: [control] })),
  ];
  // Gauges of one alloy are near each other: the best of them represents the rest.
  const seen = new Set<string>();
  return purchases
    .filter((purchase) => purchase.opens.length > 0 || purchase.gain > WORTH_POINTS * jobs.length)
    .sort((a, b) => b.opens.length - a.opens.length || b.gain - a.gain || (a.price ?? Number.MAX_VALUE) - (b.price ?? Number.MAX_VALUE))
    .filter(({ kind, name, wire }) => {
      const like = name || kind !== "wire" ? `${kind} ${name}` : `wire ${JSON.stringify(wire?.alloy)}`;
      const first = kind !== "wire" || !seen.has(like);
      seen.add(like);
      return first;
    })
    .slice(0, MOST_PURCHASES);
}
