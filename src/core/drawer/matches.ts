import type { Design } from "../design/schema";
import { reasonsOf } from "../design/search";
import { type Candidate, type ControlKind, REFUSALS, type Refusal, ready, type SearchJob, trySetup } from "../design/setups";
import { resolveFoam } from "../materials/foams";
import type { Supply } from "../models/circuit";
import { resolveWire, type WireSpec } from "../models/wire";
import { wireEnds } from "../models/wireEnds";
import { formatQuantity, type UnitSystem } from "../units/units";
import { type Item, type ItemOf, wireOf } from "./items";

/** The job of a cutter as the search knows it: its foam, width, feed and the length between its posts. */
export function jobOf(design: Design, units?: UnitSystem): SearchJob {
  return {
    foam: resolveFoam(design.job.foam),
    widthM: design.job.width_mm / 1000,
    feedMPerS: design.job.feed_mm_s / 1000,
    acceptedKerfM: design.job.maxKerf_mm / 1000,
    bowM: Math.max(design.wire.length_mm, design.job.width_mm) / 1000,
    ambientC: design.ambient_C,
    leadGaugeAwg: design.leads?.gauge_awg,
    units,
  };
}

/** A spool of the drawer for matching. */
export interface HeldWire {
  id: string;
  name: string;
  spec: WireSpec;
  /** left on it */
  lengthM: number;
  pricePerM: number | null;
}

export interface HeldSupply {
  id: string;
  name: string;
  supply: Supply;
  price: number | null;
}

/** Parts the matching works with. Owned parts cost nothing more; a price not known is null. */
export interface Holdings {
  wires: HeldWire[];
  supplies: HeldSupply[];
  /** Beside a direct connection, which needs no part. */
  controls: { kind: ControlKind; price: number | null }[];
}

/** What a drawer offers: the owned parts, or with `buyable` also those only to be had. */
export function holdingsOf(rows: readonly { id: string; item: Item }[], buyable = false): Holdings {
  const of = <K extends Item["kind"]>(kind: K) =>
    rows.filter((row): row is { id: string; item: ItemOf<K> } => row.item.kind === kind && (row.item.owned || buyable));
  const price = (item: Item) => (item.owned ? 0 : (item.price ?? null));
  const controls = new Map<ControlKind, number | null>([["direct", 0]]);
  for (const { item } of of("control")) {
    const standing = controls.get(item.control);
    const mine = price(item);
    if (standing === undefined || (mine !== null && (standing === null || mine < standing))) controls.set(item.control, mine);
  }
  return {
    wires: of("wire").map(({ id, item }) => ({
      id,
      name: item.name,
      spec: wireOf(item),
      lengthM: item.length_m,
      pricePerM: item.owned ? 0 : (item.price_per_m ?? null),
    })),
    supplies: of("supply").map(({ id, item }) => ({ id, name: item.name, supply: item.supply, price: price(item) })),
    controls: [...controls].map(([kind, own]) => ({ kind, price: own })),
  };
}

/** Best that one wire on one supply can do. */
export interface MatchCell {
  /** null where nothing is clean; then `refusal` says what comes nearest. */
  candidate: Candidate | null;
  refusal: Refusal | null;
}

const severity = new Map(REFUSALS.map((code, i) => [code, i]));

/** The refusal that stands nearest to working. */
function mildest(refusals: readonly Refusal[]): Refusal | null {
  return [...refusals].sort((a, b) => (severity.get(a.code) ?? 0) - (severity.get(b.code) ?? 0)).find((each) => each.code !== "mismatch") ?? null;
}

/** What the drawer can cut a job with: a row a wire, a column a supply, each the best over the controls at hand. */
export function matchMatrix(job: SearchJob, holdings: Holdings): MatchCell[][] {
  return holdings.wires.map((held) => {
    const prepared = ready(held.spec, job);
    const needM = wireEnds(resolveWire(held.spec), job.bowM).cutM;
    const short: Refusal | null =
      held.lengthM < needM
        ? {
            code: "short-wire",
            reason: `only ${formatQuantity("leadLength", held.lengthM, job.units ?? "metric", 2)} left of the ${formatQuantity("leadLength", needM, job.units ?? "metric", 2)} this needs with its ends`,
          }
        : null;
    return holdings.supplies.map((source): MatchCell => {
      if (short) return { candidate: null, refusal: short };
      if ("reason" in prepared) return { candidate: null, refusal: prepared };
      let best: Candidate | null = null;
      const refusals: Refusal[] = [];
      for (const control of holdings.controls) {
        const price = held.pricePerM === null || source.price === null || control.price === null ? null : held.pricePerM * needM + source.price + control.price;
        const outcome = trySetup(job, prepared, source.supply, control.kind, price);
        if ("reason" in outcome) refusals.push(outcome);
        else if (!best || outcome.score > best.score) best = outcome;
      }
      if (best) best.reasons = reasonsOf(best, job.units);
      return { candidate: best, refusal: best ? null : mildest(refusals) };
    });
  });
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
  /** Best points it brings to those jobs and to the ones already possible, summed over what stands now. */
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
  for (const row of matchMatrix(job, holdings)) for (const cell of row) best = Math.max(best, cell.candidate?.score ?? 0);
  return best;
}

/**
 * The one thing to buy: each part on offer is added to the drawer by itself, and every job tried again.
 * @returns what opens most jobs first; where it opens none, what betters them most
 */
export function oneThing(jobs: readonly { name: string; job: SearchJob }[], holdings: Holdings, offers: Holdings): Purchase[] {
  const now = jobs.map(({ job }) => bestScore(job, holdings));
  const judge = (part: Omit<Purchase, "opens" | "gain">, alone: Holdings): Purchase => {
    const opens: string[] = [];
    let gain = 0;
    for (const [i, { name, job }] of jobs.entries()) {
      const stands = now[i] as number;
      const then = bestScore(job, alone);
      if (then > 0 && stands === 0) opens.push(name);
      gain += Math.max(0, then - stands);
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
  // Gauges of one alloy are near each other: the best of them stands for the rest.
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
