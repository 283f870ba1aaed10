import type { Design } from "../cutters/design/schema";
import type { CutterKind } from "../cutters/design/vocabulary";
import { adoptSetup } from "../cutters/search/adopt";
import type { SearchJob } from "../cutters/search/readyWire";
import { CATALOGUE_CONTROLS, CATALOGUE_SUPPLIES, CATALOGUE_WIRES, searchSetups, usualBowM } from "../cutters/search/search";
import type { Candidate } from "../cutters/search/setups";
import { KINDS, newDesign } from "../cutters/solve/defaults";
import { evaluateDesign } from "../cutters/solve/evaluate";
import { hazardsOf } from "../cutters/solve/readiness";
import type { Holdings } from "../drawer/holdings";
import { foamFamily, resolveFoam } from "../materials/foams";
import { resolveWire, type WireSpec } from "../physics/heat/wire";
import { touchLimitV } from "../physics/power/circuit";
import { type ControlKind, controlRecord } from "../physics/power/controls";
import { atPlate, type Supply, supplyRecordOf } from "../physics/power/supplies";
import type { UnitSystem } from "../units/units";
import type { Answers, Exactness, Wanted } from "./answers";
import { THINGS } from "./things";

/** Kerf a job of an exactness accepts, mm (this project's judgement: common practice loses about 1 mm a face and sands fine hairs). */
export const KERF_MM: Readonly<Record<Exactness, number>> = { rough: 3.5, fair: 2.5, fine: 1.6 };
/** A calm pace in foam of 20 kg/m3, mm/s, and how it falls with density and family (common practice: about four seconds an inch in light bead foam). */
const CALM_MM_S = 6;
const BRISK = 1.35;

/** Which cutter a job is for. */
export function kindFor(wanted: Wanted, widthMm: number): CutterKind {
  if (wanted === "sheets") return "slicer";
  if (wanted === "pockets") return "loop";
  if (wanted === "shape") return widthMm > 350 ? "template" : "table";
  return widthMm > 350 ? "bow" : "table";
}

/** A pace a hand can keep in this foam, mm/s. */
export function paceFor({ foam, brisk, exact }: Pick<Answers, "foam" | "brisk" | "exact">): number {
  const calm = CALM_MM_S * foamFamily(foam.family).pace * Math.sqrt(20 / foam.density_kg_m3);
  const pace = calm * (brisk ? BRISK : 1) * (exact === "fine" ? 0.85 : 1);
  return Number(Math.min(9, Math.max(1.5, pace)).toFixed(1));
}

/** Flexible leads that carry every fuse a cutter of this kind asks for, metre-long: heavier is never wrong. */
const LEADS = { gauge_awg: 14, oneWay_m: 1 } as const;

/** The job as the search takes it. */
export function startJob(answers: Answers, units?: UnitSystem): SearchJob {
  const { foam, width_mm, exact } = answers;
  return {
    foam: resolveFoam(foam),
    widthM: width_mm / 1000,
    feedMPerS: paceFor(answers) / 1000,
    acceptedKerfM: KERF_MM[exact] / 1000,
    bowM: usualBowM(width_mm / 1000),
    ambientC: 20,
    leads: LEADS,
    leadGaugeAwg: LEADS.gauge_awg,
    units,
  };
}

/** What lies at hand: the drawer if it counts, and what was ticked. */
export interface AtHand {
  wires: readonly WireSpec[];
  supplies: readonly Supply[];
  controls: readonly ControlKind[];
}

const mainsSide = (supply: Supply) => supplyRecordOf(supply).record.mainsSide;

export function atHand({ things, drawer, mains }: Answers, held: Holdings): AtHand {
  const ticked = THINGS.filter((thing) => things.includes(thing.id) && thing.refused === undefined);
  const all: AtHand = {
    wires: [...(drawer ? held.wires.map((wire) => wire.spec) : []), ...ticked.flatMap((thing) => (thing.kind === "wire" ? [thing.wire] : []))],
    supplies: [
      ...(drawer ? held.supplies.map((supply) => supply.supply) : []),
      ...ticked.flatMap((thing) => (thing.kind === "supply" ? [atPlate(thing.supply)] : [])),
    ],
    controls: [
      ...(drawer ? held.controls.map((control) => control.kind) : []),
      ...ticked.flatMap((thing) => (thing.kind === "control" ? [thing.control] : [])),
    ],
  };
  return {
    ...all,
    supplies: all.supplies.filter((supply) => mains || !mainsSide(supply)),
    controls: [...new Set<ControlKind>(["direct", ...all.controls])],
  };
}

/** Parts of a set-up that a maker may have to buy. */
export type Part = "wire" | "supply" | "control";

/** A whole cutter that would do the job. */
export interface Choice {
  design: Design;
  candidate: Candidate;
  /** Parts that are not at hand. */
  buy: Part[];
  /** The part in which it differs from the first choice; null for the first itself. */
  differs: Part | null;
  /** What would hurt: its cautions in words, worst first. */
  hurts: { danger: boolean; words: string }[];
  /** Why it is not ready as it stands; empty where it is. */
  blocked: string[];
}

const sizeOf = (wire: WireSpec) => resolveWire(wire).outerDiameterM;
/** Two wires of one alloy less than a quarter apart are the same to a hand. */
const sameWire = (a: WireSpec, b: WireSpec) => a.alloy === b.alloy && Math.abs(Math.log(sizeOf(a) / sizeOf(b))) < 0.22;
/** Supplies of one kind and much the same volts: the amps only say how much is in hand. */
const likeSupply = (a: Supply, b: Supply) => a.kind === b.kind && Math.abs(Math.log(plateV(a) / plateV(b))) < 0.1;
const sameSupply = (a: Supply, b: Supply) => JSON.stringify(a) === JSON.stringify(b);
const plateV = (supply: Supply) => {
  const { record, own } = supplyRecordOf(supply);
  return record.labelV(own);
};

/** Where two set-ups differ first, by what a maker notices first. */
function differenceOf(a: Candidate, b: Candidate): Part | null {
  if (!likeSupply(a.supply, b.supply)) return "supply";
  if (!sameWire(a.wire, b.wire)) return "wire";
  return a.control.kind === b.control.kind ? null : "control";
}

/** A found set-up as a cutter that is ready to be built: kind, job, tension, wiring and the first steps noted. */
function cutterFrom(answers: Answers, candidate: Candidate, name: string): Design {
  const kind = kindFor(answers.wanted, answers.width_mm);
  const base = newDesign(kind, name);
  const { foam, width_mm, thickness_mm, exact } = answers;
  const asked: Design = {
    ...base,
    job: { foam, width_mm, thickness_mm, feed_mm_s: paceFor(answers), maxKerf_mm: KERF_MM[exact] },
    // Strung as the search reckoned it: room for the pull this wire stands.
    tension: { device: "spring", hot_N: Math.max(1, Math.round(candidate.tensionN)), rate_N_per_mm: candidate.tensionN > 30 ? 1.2 : 0.5 },
    wire: { ...candidate.wire, length_mm: candidate.lengthM * 1000 } as Design["wire"],
    leads: LEADS,
  };
  const set = adoptSetup(asked, candidate);
  return {
    ...set,
    notes: [
      `For ${answers.pieces} ${answers.pieces === 1 ? "piece" : "pieces"}, ${WANTED_WORDS[answers.wanted]}, ${EXACT_WORDS[exact]}.`,
      "First: build it by the build sheet, wire it by the wiring drawing, string it by the tension page.",
      "Then: warm it in air, rest a piece as wide as the job on it, judge after an inch, keep the test cut in the log.",
    ].join("\n"),
  };
}

export const WANTED_WORDS: Readonly<Record<Wanted, string>> = {
  straight: "cut straight",
  shape: "cut to a shape",
  sheets: "sliced into sheets",
  pockets: "pockets and grooves",
};
export const EXACT_WORDS: Readonly<Record<Exactness, string>> = {
  rough: "a few millimetres either way",
  fair: "within about a millimetre",
  fine: "as exact as it goes",
};

export interface StartAnswer {
  /** Up to three that differ, best first. */
  choices: Choice[];
  /** True where nothing at hand serves and each choice asks for a part. */
  mustBuy: boolean;
  /** Where nothing serves at all: why, most often. */
  why: string | null;
}

/** Points that another supply may cost and still be worth showing beside another wire (this project's judgement). */
const WORTH_SEEING = 25;
/** How many choices are laid side by side. */
const CHOICES = 3;

/**
 * Three whole set-ups for a job, that differ: from what is at hand if that serves, else with the fewest parts to buy.
 * @param held what the drawer holds
 */
export function chooseSetups(answers: Answers, held: Holdings, units: UnitSystem = "metric"): StartAnswer {
  const job = startJob(answers, units);
  const have = atHand(answers, held);
  const supplies = CATALOGUE_SUPPLIES.filter((supply) => answers.mains || !mainsSide(supply)).filter((supply) => supplyTouches(supply));
  const controls = CATALOGUE_CONTROLS.filter((kind) => answers.mains || !controlRecord(kind).mainsSide);
  const owned = have.supplies.filter(supplyTouches);
  // From what needs nothing bought, to what needs one part, to what needs all: the first that give three different choices end the search.
  const rounds = [
    [have.wires, owned, have.controls],
    [CATALOGUE_WIRES, owned, have.controls],
    [have.wires, owned, controls],
    [CATALOGUE_WIRES, owned, controls],
    [have.wires, supplies, controls],
    [CATALOGUE_WIRES, supplies, controls],
  ] as const;
  const picked: Candidate[] = [];
  let why: string | null = null;
  for (const [wires, from, with_] of rounds) {
    if (picked.length >= CHOICES) break;
    if (wires.length === 0 || from.length === 0) continue;
    const { candidates, rejected } = searchSetups(job, wires, from, with_);
    why ??= rejected[0]?.reason ?? null;
    for (const each of candidates) {
      if (picked.length >= CHOICES) break;
      if (picked.every((other) => differenceOf(other, each) !== null)) picked.push(each);
    }
    // A list has one row a wire, on its best supply: where all three stand on one, the last makes room for the best on another, if that comes near.
    const [best] = picked;
    if (best && picked.length === CHOICES && picked.every((other) => likeSupply(other.supply, best.supply))) {
      const others = from.filter((supply) => !likeSupply(supply, best.supply));
      const [other] = others.length > 0 ? searchSetups(job, wires, others, with_).candidates : [];
      if (other && other.score > best.score - WORTH_SEEING) picked[CHOICES - 1] = other;
    }
  }
  const [first] = picked;
  const choices = picked.map((candidate): Choice => {
    const design = cutterFrom(answers, candidate, nameFor(answers));
    const answer = evaluateDesign(design);
    const buy: Part[] = [];
    if (!have.wires.some((wire) => sameWire(wire, candidate.wire))) buy.push("wire");
    if (!have.supplies.some((supply) => sameSupply(supply, candidate.supply))) buy.push("supply");
    if (!have.controls.includes(candidate.control.kind)) buy.push("control");
    return {
      design,
      candidate,
      buy,
      differs: first && candidate !== first ? differenceOf(first, candidate) : null,
      hurts: answer.cautions.map(({ severity, words }) => ({ danger: severity === "danger", words: words(units) })),
      blocked: hazardsOf(design, units, answer).map((block) => block.caution.words(units)),
    };
  });
  return { choices, mustBuy: choices.length > 0 && choices.every((choice) => choice.buy.length > 0), why: choices.length > 0 ? null : why };
}

/** Supplies whose volts may be touched on a bare wire. */
const supplyTouches = (supply: Supply) => ("voltage_V" in supply ? supply.voltage_V : 0) <= touchLimitV(supply, { kind: "direct" });

/** A name for the cutter made of the answers: its kind, and the foam it is for. */
export function nameFor({ wanted, width_mm, foam }: Answers): string {
  return `${KINDS[kindFor(wanted, width_mm)].name} for ${resolveFoam(foam).name}`;
}
