import type { Design } from "../cutters/design/schema";
import type { CutterKind } from "../cutters/design/vocabulary";
import { adoptSetup } from "../cutters/search/adopt";
import type { SearchJob } from "../cutters/search/readyWire";
import { CATALOGUE_CONTROLS, CATALOGUE_SUPPLIES, CATALOGUE_WIRES, type EverySetup, everySetup, twinOf, usualBowM, withReasons } from "../cutters/search/search";
import type { Candidate } from "../cutters/search/setups";
import { KINDS, newDesign } from "../cutters/solve/defaults";
import { evaluateDesign } from "../cutters/solve/evaluate";
import { hazardsOf } from "../cutters/solve/readiness";
import type { Holdings } from "../drawer/holdings";
import { JUDGEMENT } from "../kernel/constants";
import { resolveFoam } from "../materials/foams";
import { resolveWire, type WireSpec } from "../physics/heat/wire";
import { touchLimitV } from "../physics/power/circuit";
import { type ControlKind, controlRecord } from "../physics/power/controls";
import { atPlate, type Supply, supplyRecordOf } from "../physics/power/supplies";
import { formatQuantity, type UnitSystem } from "../units/units";
import type { Answers, Exactness, Wanted } from "./answers";
import { THINGS } from "./things";
import { EXACT_WORDS, KERF_MM, paceFor, WANTED_WORDS } from "./wishes";

/** Which cutter a job is for. */
export function kindFor(wanted: Wanted, widthMm: number): CutterKind {
  if (wanted === "sheets") return "slicer";
  if (wanted === "pockets") return "loop";
  if (wanted === "shape") return widthMm > 350 ? "template" : "table";
  return widthMm > 350 ? "bow" : "table";
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
export type ChoicePart = "wire" | "supply" | "control";

/** What a choice is for: three answers differ in kind. */
export type ChoiceKind = "owned" | "slower" | "cheapest" | "best-cut" | "other";

/** A whole cutter that would do the job. */
export interface Choice {
  kind: ChoiceKind;
  design: Design;
  /** bow of the wire at mid-span in the cut, mm */
  bowMm: number;
  candidate: Candidate;
  /** Parts that are not at hand. */
  buy: ChoicePart[];
  /** class of price of what has to be bought, all of it */
  cost: "cheap" | "middling" | "dear";
  /** The part in which it differs from the first choice; null for the first itself. */
  differs: ChoicePart | null;
  /** What would hurt: its cautions in words, worst first. */
  hurts: { danger: boolean; words: string }[];
  /** Why it is not ready as it is; empty where it is. */
  blocked: string[];
}

const sizeOf = (wire: WireSpec) => resolveWire(wire).outerDiameterM;
/** Two wires of one alloy less than a quarter apart are the same to a hand. */
const sameWire = (a: WireSpec, b: WireSpec) => twinOf(a) === twinOf(b) && Math.abs(Math.log(sizeOf(a) / sizeOf(b))) < 0.22;
/** A wire at hand is the same only by alloy, size, strands and temper: one that is not drawn hard does not bear a hard one's pull. */
const sameSpool = (a: WireSpec, b: WireSpec) =>
  twinOf(a) === twinOf(b) &&
  (a.strands ?? 1) === (b.strands ?? 1) &&
  resolveWire(a).temper === resolveWire(b).temper &&
  Math.abs(Math.log(sizeOf(a) / sizeOf(b))) < 0.03;
/** Supplies of one kind and much the same volts: the amps only say how much is in hand. */
const likeSupply = (a: Supply, b: Supply) => a.kind === b.kind && Math.abs(Math.log(plateV(a) / plateV(b))) < 0.1;
const sameSupply = (a: Supply, b: Supply) => JSON.stringify(a) === JSON.stringify(b);
const plateV = (supply: Supply) => {
  const { record, own } = supplyRecordOf(supply);
  return record.labelV(own);
};

/** Where two set-ups differ first, by what a maker notices first. */
function differenceOf(a: Candidate, b: Candidate): ChoicePart | null {
  if (!likeSupply(a.supply, b.supply)) return "supply";
  if (!sameWire(a.wire, b.wire)) return "wire";
  return a.control.kind === b.control.kind ? null : "control";
}

/** A found set-up as a cutter that is ready to be built: kind, job, tension, wiring and the first steps noted. */
function cutterFrom(answers: Answers, candidate: Candidate, name: string, job: SearchJob): Design {
  const kind = kindFor(answers.wanted, answers.width_mm);
  const base = newDesign(kind, name);
  const { foam, width_mm, thickness_mm, exact } = answers;
  const requested: Design = {
    ...base,
    job: { foam, width_mm, thickness_mm, feed_mm_s: Number((job.feedMPerS * 1000).toFixed(2)), maxKerf_mm: KERF_MM[exact] },
    // Strung as the search computed it: room for the pull this wire withstands.
    tension: { device: "spring", hot_N: Math.max(1, Math.round(candidate.tensionN)), rate_N_per_mm: candidate.tensionN > 30 ? 1.2 : 0.5 },
    wire: { ...candidate.wire, length_mm: candidate.lengthM * 1000 } as Design["wire"],
    leads: LEADS,
  };
  const set = adoptSetup(requested, candidate);
  return {
    ...set,
    notes: [
      `For ${answers.pieces} ${answers.pieces === 1 ? "piece" : "pieces"}, ${WANTED_WORDS[answers.wanted]}, ${EXACT_WORDS[exact]}.`,
      "First: build it by the build sheet, wire it by the wiring drawing, string it by the tension page.",
      "Then: warm it in air, rest a piece as wide as the job on it, judge the face after the first inch, measure the kerf at the far end, log the test cut.",
    ].join("\n"),
  };
}

export interface StartResult {
  /** Up to three that differ in kind: what is owned, the cheapest, the best cut. */
  choices: Choice[];
  /** True where nothing at hand serves and each choice asks for a part. */
  mustBuy: boolean;
  /** Where nothing serves at all: why, most often. */
  why: string | null;
  /** Owned supplies that none of the choices uses, and why. */
  passedOver: { name: string; why: string }[];
}

/** How many choices are laid side by side. */
const CHOICES = 3;
/** Bow at mid-span that an exactness bears, mm: in bends the pace must slow down for more (this project's judgement). */
const BOW_MM: Readonly<Record<Exactness, number>> = { rough: 15, fair: 6, fine: 3 };

/** Points of a set-up that a shop would advise: its least margin is not near nothing, and it has a knob (this project's judgement). */
const SOUND_POINTS = 45;

/** Classes of price, cheapest first (common practice): what is owned costs nothing, a bench supply and a transformer most. */
const CONTROL_CLASS: Partial<Record<ControlKind, number>> = { direct: 0, clip: 0, pwm: 1, buck: 2, rheostat: 3, tap: 3, phase: 5 };
const SUPPLY_CLASS: Readonly<Record<Supply["kind"], number>> = { dc: 2, battery: 4, transformer: 7, bench: 8 };
/** A larger supply of a kind costs more: a class for so many watts. */
const CLASS_W = 60;
const OTHER_CONTROL = 4;
const WIRE_CLASS = 1;
const ALLOY_CLASS: Readonly<Record<string, number>> = { "ni-superalloy": 3, "ss-316": 1 };

/** Classes of price of everything that would have to be bought. */
function priceClass({ wire, supply, control }: Candidate, have: AtHand): number {
  const { record, own } = supplyRecordOf(supply);
  const watts = Number.isFinite(record.limitA(own)) ? record.labelV(own) * record.limitA(own) : 0;
  const alloy = typeof wire.alloy === "string" ? (ALLOY_CLASS[wire.alloy] ?? 0) : 0;
  return (
    (have.wires.some((each) => sameSpool(each, wire)) ? 0 : WIRE_CLASS + alloy) +
    (have.supplies.some((each) => sameSupply(each, supply)) ? 0 : SUPPLY_CLASS[supply.kind] + watts / CLASS_W) +
    (have.controls.includes(control.kind) ? 0 : (CONTROL_CLASS[control.kind] ?? OTHER_CONTROL))
  );
}

/** Up to these classes it is cheap, and neither cheap nor dear (this project's judgement). */
const COST = { cheap: 3, middling: 7 } as const;
const costOf = (price: number): Choice["cost"] => (price <= COST.cheap ? "cheap" : price <= COST.middling ? "middling" : "dear");

/** Slower paces at which an owned supply is tried that gives too little heat, as shares of the usual one: to a tenth, past which nobody waits for a cut (this project's judgement). */
const SLOWER = [0.7, 0.5, 0.35, 0.25, 0.17, 0.12, 0.1] as const;

/** Points of a set-up that is not on the edge of what its supply gives (this project's judgement). */
const SLOW_POINTS = 20;

/** What is owned at the fastest pace that it serves; null where it serves at none. */
function slowerOwned(
  job: SearchJob,
  have: AtHand,
  owned: readonly Supply[],
  controls: readonly ControlKind[],
): { candidate: Candidate; job: SearchJob; all: EverySetup } | null {
  if (owned.length === 0) return null;
  for (const share of SLOWER) {
    const calm = { ...job, feedMPerS: job.feedMPerS * share };
    const all = everySetup(calm, [...have.wires, ...CATALOGUE_WIRES], owned, controls);
    const sound = all.candidates.filter(({ score }) => score >= SLOW_POINTS);
    const [best] = sound.sort((a, b) => priceClass(a, have) - priceClass(b, have) || b.score - a.score);
    if (best) return { candidate: best, job: calm, all };
  }
  return null;
}

/** Bow of the wire at mid-span in the cut, mm. */
const bowMm = ({ margins }: Candidate, job: SearchJob): number => 1000 * (1 - margins.lag) * job.bowM * JUDGEMENT.lagValidBelowSpanShare;
/** How far a cut is from the line drawn: the bow, and what the kerf takes. */
const deviationMm = (candidate: Candidate, job: SearchJob): number => bowMm(candidate, job) + candidate.cut.kerfM * 1000;

/**
 * Three whole set-ups for a job, that differ in kind: from what is owned, the cheapest, and the best cut.
 * @param held what the drawer holds
 */
export function chooseSetups(answers: Answers, held: Holdings, units: UnitSystem = "metric"): StartResult {
  const job = startJob(answers, units);
  const have = atHand(answers, held);
  const owned = have.supplies.filter(supplyTouches);
  const sold = CATALOGUE_SUPPLIES.filter(
    (supply) => (answers.mains || !mainsSide(supply)) && supplyTouches(supply) && !owned.some((own) => sameSupply(own, supply)),
  );
  const controls = [...new Set([...have.controls, ...CATALOGUE_CONTROLS.filter((kind) => answers.mains || !controlRecord(kind).mainsSide)])];
  const all = everySetup(job, [...have.wires, ...CATALOGUE_WIRES], [...owned, ...sold], controls);
  // Clean by its margins; where some bow no more than the exactness bears, only those.
  const calm = all.candidates.filter((candidate) => bowMm(candidate, job) <= BOW_MM[answers.exact]);
  const bearable = calm.length > 0 ? calm : all.candidates;
  // With something in hand on every side, a knob among them, where there is such a one.
  const sound = bearable.filter(({ score }) => score >= SOUND_POINTS);
  const pool = (sound.length > 0 ? sound : bearable).map((candidate) => ({
    candidate,
    price: priceClass(candidate, have),
    deviation: deviationMm(candidate, job),
  }));
  type Priced = (typeof pool)[number];
  const bestBy = (from: readonly Priced[], ...by: ((each: Priced) => number)[]): Priced | undefined =>
    from.reduce<Priced | undefined>((best, each) => {
      if (!best) return each;
      for (const of of by) if (of(each) !== of(best)) return of(each) < of(best) ? each : best;
      return best;
    }, undefined);
  // Small differences of bow and kerf are none to a hand: points decide among those.
  const coarse = ({ deviation }: Priced) => Math.round(deviation * 2);
  const points = ({ candidate }: Priced) => -Math.round(candidate.score);
  const price = (each: Priced) => Math.round(each.price * 2) / 2;
  const ownedOnly = bearable
    .map((candidate) => ({ candidate, price: priceClass(candidate, have), deviation: deviationMm(candidate, job) }))
    .filter((each) => each.price === 0);
  const picked: { kind: ChoiceKind; candidate: Candidate; job: SearchJob; all: EverySetup }[] = [];
  const take = (kind: ChoiceKind, ...by: ((each: Priced) => number)[]) => {
    const from = (kind === "owned" ? ownedOnly : pool).filter(({ candidate }) => picked.every((other) => differenceOf(other.candidate, candidate) !== null));
    const found = picked.length < CHOICES ? bestBy(from, ...by) : undefined;
    if (found) picked.push({ kind, candidate: found.candidate, job, all });
  };
  const uses = (supply: Supply) => picked.some(({ candidate }) => sameSupply(candidate.supply, supply));
  take("owned", points, coarse);
  // Nothing is cheaper than what one has.
  if (picked.length === 0) take("cheapest", price, points, coarse);
  take("best-cut", coarse, price, points);
  // A supply that is there and too weak for this pace may serve at a slower one.
  const weak = owned.filter((supply) => !all.candidates.some((candidate) => sameSupply(candidate.supply, supply)));
  const triedSlower = !owned.some(uses);
  const slower = triedSlower ? slowerOwned(job, have, weak, controls) : null;
  if (slower) picked.push({ kind: "slower", ...slower });
  take("other", points, price);
  take("other", points, price);
  const [first] = picked;
  const choices = picked.map(({ kind, candidate: found, job: itsJob, all: its }): Choice => {
    const candidate = withReasons(found, its, itsJob);
    const design = cutterFrom(answers, candidate, nameFor(answers), itsJob);
    const evaluation = evaluateDesign(design);
    // As the drawing shows it; where the cut drags too much for a figure, as the search estimated it.
    const bow = evaluation.lagM === null ? bowMm(candidate, itsJob) : evaluation.lagM * 1000;
    const buy: ChoicePart[] = [];
    if (!have.wires.some((wire) => sameSpool(wire, candidate.wire))) buy.push("wire");
    if (!have.supplies.some((supply) => sameSupply(supply, candidate.supply))) buy.push("supply");
    if (!have.controls.includes(candidate.control.kind)) buy.push("control");
    return {
      kind,
      design,
      candidate,
      bowMm: bow,
      buy,
      cost: costOf(priceClass(candidate, have)),
      differs: first && found !== first.candidate ? differenceOf(first.candidate, candidate) : null,
      hurts: [
        ...(bow > BOW_MM[answers.exact]
          ? [{ danger: false, words: `At mid-span the wire bows ${bow.toFixed(0)} mm in the cut: in bends go slower, and wait at corners.` }]
          : []),
        ...evaluation.cautions.map(({ severity, words }) => ({ danger: severity === "danger", words: words(units) })),
      ],
      blocked: hazardsOf(design, units, evaluation).map((block) => block.caution.words(units)),
    };
  });
  const passedOver = [
    ...THINGS.filter((thing) => answers.things.includes(thing.id) && thing.refused !== undefined).map(({ name, refused }) => ({
      name,
      why: refused as string,
    })),
    ...namedSupplies(answers, held)
      .filter(({ supply }) => !uses(supply))
      .map(({ name, supply }) => {
        if (!owned.some((own) => sameSupply(own, supply)))
          return { name, why: "It is joined to the mains side, or gives more volts than may be touched on a bare wire." };
        if (all.candidates.some((candidate) => sameSupply(candidate.supply, supply)))
          return { name, why: "It would serve too. The choices above cost less, or deviate less." };
        const reason = all.rejected.find((row) => row.supply !== undefined && sameSupply(row.supply, supply))?.reason;
        if (reason && TOO_LITTLE.test(reason))
          return {
            name,
            why: `With no wire does it give heat enough for ${formatQuantity("feed", job.feedMPerS * 1000, units)}${triedSlower && !slower ? ", nor for a tenth of it" : ""}.`,
          };
        return { name, why: reason ? `With every wire it fails. Most often: ${reason}.` : "No wire suits it for this job." };
      }),
  ];
  return {
    choices,
    mustBuy: choices.length > 0 && choices.every((choice) => choice.buy.length > 0),
    why: choices.length > 0 ? null : (all.rejected[0]?.reason ?? null),
    passedOver,
  };
}

/** Reasons of the search that say a supply gives too little heat: they name one wire, and it is so with each. */
const TOO_LITTLE = /too cold|falls short|are needed/;

/** Owned supplies with their names: ticked ones, and the drawer's. */
function namedSupplies({ things, drawer }: Answers, held: Holdings): { name: string; supply: Supply }[] {
  return [
    ...THINGS.flatMap((thing) =>
      thing.kind === "supply" && thing.refused === undefined && things.includes(thing.id) ? [{ name: thing.name, supply: atPlate(thing.supply) }] : [],
    ),
    ...(drawer ? held.supplies.map(({ name, supply }) => ({ name, supply })) : []),
  ];
}

/** Supplies whose volts may be touched on a bare wire. */
const supplyTouches = (supply: Supply) => ("voltage_V" in supply ? supply.voltage_V : 0) <= touchLimitV(supply, { kind: "direct" });

/** A name for the cutter made of the answers: its kind, and the foam it is for. */
export function nameFor({ wanted, width_mm, foam }: Answers): string {
  return `${KINDS[kindFor(wanted, width_mm)].name} for ${resolveFoam(foam).name}`;
}
