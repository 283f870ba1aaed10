import type { Design } from "../cutters/design/schema";
import { describeVerdict, noCut } from "../cutters/solve/describe";
import { type DesignEvaluation, evaluateDesign, type KnobState, knobOf } from "../cutters/solve/evaluate";
import { blocksOf } from "../cutters/solve/readiness";
import type { Item } from "../drawer/items";
import { wireOf } from "../drawer/things";
import type { Drawing, Ink, Shape } from "../kernel/drawing";
import { alloyById } from "../materials/alloys";
import { type FoamSpec, resolveFoam } from "../materials/foams";
import { temperWords } from "../materials/temper";
import { resolveWire } from "../physics/heat/wire";
import { tensionRecord } from "../physics/mechanics/devices";
import { wireEnds } from "../physics/mechanics/wireEnds";
import { controlRecord, knobLook } from "../physics/power/controls";
import { fuseAdvice } from "../physics/power/powerAdvice";
import { supplyRecordOf } from "../physics/power/supplies";
import { formatQuantity, type UnitSystem } from "../units/units";
import { schematicOf, type WiringNote } from "./schematic";
import { cardRow, distinctFoams } from "./settingCard";

/** One line of the parts list. */
export interface SheetPart {
  part: string;
  words: string;
  /** The drawer's own name for it where it is there, or what is missing. */
  drawer: string;
  inDrawer: boolean;
  /** In the maker's own money; null where not known. */
  price: number | null;
}

/** One foam's setting on the card. */
export interface SheetSetting {
  foam: string;
  feed: string;
  /** null where this set-up cuts it cleanly at no setting */
  setting: string | null;
  kerf: string;
}

/** Everything on the build sheet, in the maker's units. */
export interface BuildSheet {
  name: string;
  kind: string;
  verdict: string;
  detail: string;
  ready: boolean;
  blocks: string[];
  rod: Drawing;
  wiring: Drawing;
  wiringNotes: WiringNote[];
  figures: { label: string; value: string }[];
  parts: SheetPart[];
  /** Sum of the known prices of what is not in the drawer, and whether any price is missing. */
  toBuy: { sum: number; unknown: number; words: string };
  settings: SheetSetting[];
  cautions: { severity: string; words: string }[];
  checklist: string[];
}

function toBuyOf(missing: readonly SheetPart[]): BuildSheet["toBuy"] {
  const sum = missing.reduce((total, part) => total + (part.price ?? 0), 0);
  const unknown = missing.filter((part) => part.price === null).length;
  const parts = `${unknown} ${unknown === 1 ? "part" : "parts"} of unknown price`;
  const money = `${Number(sum.toFixed(2))} in your own money`;
  if (missing.length === 0) return { sum, unknown, words: "Nothing to buy but small parts: the rest is in the drawer." };
  if (unknown === missing.length) return { sum, unknown, words: `To buy: ${parts}.` };
  return { sum, unknown, words: `To buy: ${money}${unknown > 0 ? `, and ${parts}` : ""}.` };
}

const KIND_WORDS: Readonly<Record<Design["kind"], string>> = {
  bow: "Hand bow",
  table: "Table cutter",
  drop: "Drop board",
  template: "Template bow",
  slicer: "Thin-sheet slicer",
  frame: "Motorised frame",
  loop: "Hand loop",
  wand: "Wand",
};

/** Before the plug goes in (common practice). */
export const CHECKLIST: readonly string[] = [
  "Wire straight, both ends locked; no kink; nobody in its line",
  "Glasses on, sleeves down, glove on the pulling hand",
  "Jumper round the spring, or leads on the wire itself",
  "Insulated post sound; frame touches no lead and no socket shell",
  "Fuse of the right size fitted; joints tight and cool",
  "Foam known for what it is: no polyurethane, no PVC, no foil",
  "Doors open or extraction at the wire; water or extinguisher at hand",
  "Knob right down before switching on; foot or hand switch opens when let go",
  "A test piece as wide as the job, at least an inch long",
];

const INK_BY_C: readonly [number, Ink][] = [
  [120, "soft"],
  [260, "straw"],
  [400, "amber"],
];

/** The rod to scale across the page: wire, posts, foam, with the scale named. Drawing units are millimetres of paper. */
function rodDrawing(design: Design, evaluation: DesignEvaluation, units: UnitSystem, widthMm: number): Drawing {
  const { wire, job } = design;
  const room = widthMm - 16;
  // A whole-number scale that fits, as drawings have.
  const scales = [1, 2, 2.5, 5, 10, 20, 25, 50, 100, 200];
  const scale = scales.find((each) => wire.length_mm / each <= room) ?? wire.length_mm / room;
  const length = wire.length_mm / scale;
  const left = (widthMm - length) / 2;
  const y = 17;
  const foam = Math.min(job.width_mm, wire.length_mm) / scale;
  const high = Math.min(22, Math.max(3, job.thickness_mm / scale));
  const inkOf = (c: number): Ink => INK_BY_C.find(([below]) => c < below)?.[1] ?? "ember";
  const foamLeft = left + (length - foam) / 2;
  const shapes: Shape[] = [
    { kind: "path", d: `M${foamLeft} ${y - high / 2}h${foam}v${high}h${-foam}z`, stroke: "soft", width: 0.3 },
    { kind: "path", d: `M${left} ${y}H${foamLeft}M${foamLeft + foam} ${y}H${left + length}`, stroke: inkOf(evaluation.circuit.wireC), width: 0.9 },
    { kind: "path", d: `M${foamLeft} ${y}h${foam}`, stroke: inkOf(evaluation.cut.wireC), width: 0.9 },
    { kind: "path", d: `M${left} ${y - 8}v16M${left + length} ${y - 8}v16`, width: 1.4 },
    { kind: "path", d: `M${left} 33v4m0 -2h${length}m0 -2v4`, stroke: "soft", width: 0.25 },
    {
      kind: "text",
      x: widthMm / 2,
      y: 32.5,
      text: `${formatQuantity("length", wire.length_mm, units)} between posts, scale 1 : ${Number(scale.toFixed(1))}`,
      size: 3,
      anchor: "middle",
      ink: "soft",
    },
    {
      kind: "text",
      x: widthMm / 2,
      y: 3.2,
      text: `${resolveFoam(job.foam).name}, ${formatQuantity("length", job.width_mm, units)} wide, ${formatQuantity("length", job.thickness_mm, units)} thick`,
      size: 3.2,
      anchor: "middle",
    },
  ];
  return { title: `${design.name}, to scale`, width: widthMm, height: 38, shapes };
}

/** A knob's setting as a card says it. */
export const knobWords = (kind: KnobState["kind"], value: number, units: UnitSystem): string =>
  knobLook(kind).card(value, (quantity, figure, decimals) => formatQuantity(quantity, figure, units, decimals));

/** The knob for one foam on this set-up, at its own feed or the nearest that cuts cleanly. */
export function settingFor(design: Design, foam: FoamSpec, units: UnitSystem): SheetSetting {
  const name = resolveFoam(foam).name;
  const row = cardRow(design, { foam, widthMm: design.job.width_mm, ambientC: design.ambient_C });
  if (!row) return { foam: name, feed: "", setting: null, kerf: "" };
  return {
    foam: name,
    feed: formatQuantity("feed", row.feedMmS, units),
    setting: row.knob ? knobWords(row.knob.kind, row.knob.value, units) : "as it is",
    kerf: formatQuantity("kerf", row.kerfMm, units, units === "metric" ? 1 : 3),
  };
}

/** The set-up as it is: a clean one is not given a second setting for the same foam and feed. */
function settingAsSet(design: Design, { cut }: DesignEvaluation, units: UnitSystem): SheetSetting {
  const knob = knobOf(design);
  return {
    foam: resolveFoam(design.job.foam as FoamSpec).name,
    feed: formatQuantity("feed", design.job.feed_mm_s, units),
    setting: knob ? knobWords(knob.kind, knob.value, units) : "as it is",
    kerf: formatQuantity("kerf", cut.kerfM * 1000, units, units === "metric" ? 1 : 3),
  };
}

const near = (a: number, b: number, share: number) => Math.abs(a - b) <= share * Math.max(Math.abs(a), Math.abs(b));

function partsOf(design: Design, evaluation: DesignEvaluation, drawer: readonly Item[], units: UnitSystem): SheetPart[] {
  const { supply, control, leads, tension } = design;
  const wire = evaluation.wire;
  const needM = wireEnds(wire, design.wire.length_mm / 1000).cutM;
  const find = <K extends Item["kind"]>(kind: K, fits: (item: Extract<Item, { kind: K }>) => boolean) =>
    drawer
      .filter((item): item is Extract<Item, { kind: K }> => item.kind === kind)
      .filter(fits)
      .sort((a, b) => Number(b.owned) - Number(a.owned))[0];
  const line = (part: string, words: string, item: Item | undefined, price: number | null, missing = "to get"): SheetPart => ({
    part,
    words,
    drawer: item?.owned ? item.name : item ? `${item.name}, to buy` : missing,
    inDrawer: item?.owned ?? false,
    price: item?.owned ? 0 : price,
  });
  const spool = find("wire", (item) => {
    const theirs = resolveWire(wireOf(item));
    return (
      theirs.alloy.id === wire.alloy.id && near(theirs.diameterM, wire.diameterM, 0.02) && theirs.strands === wire.strands && theirs.temper === wire.temper
    );
  });
  const enough = spool && spool.length_m >= needM;
  const wanted = supplyRecordOf(supply);
  const source = find("supply", (item) => item.supply.kind === supply.kind && wanted.record.serves({ ...item.supply }, wanted.own));
  const rows = [
    line(
      "Wire",
      `${formatQuantity("diameter", wire.diameterM * 1000, units)} ${wire.strands > 1 ? `${wire.strands}-strand ` : ""}${alloyById(wire.alloy.id)?.shortName ?? wire.alloy.shortName}${temperWords(design.wire) === "" ? "" : `, ${temperWords(design.wire)}`}: cut ${formatQuantity("length", needM * 1000, units)} with its ends`,
      enough ? spool : undefined,
      spool?.price_per_m === undefined ? null : spool.price_per_m * needM,
      spool ? `${spool.name}: only ${formatQuantity("leadLength", spool.length_m, units)} left` : "to get",
    ),
    line("Supply", wanted.record.part(wanted.own), source, source?.price ?? null),
  ];
  const { part } = controlRecord(control.kind);
  if (part !== null) {
    const held = find("control", (item) => item.control === control.kind && (item.max_A ?? Number.POSITIVE_INFINITY) >= evaluation.circuit.onCurrentA);
    rows.push(line("Control", `${part}, carrying ${formatQuantity("current", evaluation.circuit.onCurrentA, units, 1)} or more`, held, held?.price ?? null));
  }
  if (leads) {
    const held = find("lead", (item) => item.gauge_awg <= leads.gauge_awg && item.length_m >= 2 * leads.oneWay_m);
    rows.push(
      line("Leads", `${formatQuantity("leadLength", 2 * leads.oneWay_m, units)} of ${leads.gauge_awg} AWG copper, there and back`, held, held?.price ?? null),
    );
  }
  const { fuseA, leadGaugeAwg } = fuseAdvice(evaluation.circuit.supplyCurrentA, leads?.gauge_awg);
  const fuse = design.wiring?.fuse_A ?? fuseA;
  const fuses = fuse === null ? undefined : find("fuse", (item) => item.rating_A === fuse && item.count > 0);
  rows.push(
    line(
      "Fuse",
      fuse === null ? `none fits these leads${leadGaugeAwg === null ? "" : `: take ${leadGaugeAwg} AWG`}` : `${fuse} A, at ${wanted.record.fusedAt}`,
      fuses,
      fuses?.price ?? null,
    ),
  );
  const device = tensionRecord(tension.device);
  const held = find("tensioner", (item) => item.device === tension.device && device.serves(item, tension, (a, b) => near(a, b, 0.15)));
  const deviceWords = device.part(tension, evaluation.tension.travelM * 1000, (quantity, value) => formatQuantity(quantity, value, units));
  rows.push(
    line(
      "Tension",
      `${deviceWords}; ${formatQuantity("force", tension.hot_N, units)} hot, ${formatQuantity("force", evaluation.tension.coldN, units)} cold`,
      held,
      held?.price ?? null,
    ),
  );
  rows.push({
    part: "Small parts",
    words: "two crimped eyelets, strain relief, switch, insulator for one post, two washers a side",
    drawer: "",
    inDrawer: true,
    price: 0,
  });
  return rows;
}

/**
 * The build sheet of a design.
 * @param drawer what the maker owns or can buy
 * @param foams foams the maker uses in addition to this design's, such as those in the drawer and of other cutters
 */
export function buildSheet(design: Design, drawer: readonly Item[], foams: readonly FoamSpec[], units: UnitSystem, pageWidthMm = 180): BuildSheet {
  const evaluation = evaluateDesign(design);
  const words = describeVerdict(design, evaluation, units);
  const { drawing, notes } = schematicOf(design, evaluation, units);
  const blocks = blocksOf(design, units, evaluation);
  const parts = partsOf(design, evaluation, drawer, units);
  const missing = parts.filter((part) => !part.inDrawer);
  const own = design.job.foam as FoamSpec;
  const settings = distinctFoams([own, ...foams], 9).map((foam) =>
    foam === own && evaluation.verdict === "clean" ? settingAsSet(design, evaluation, units) : settingFor(design, foam, units),
  );
  const { circuit, cut, tension } = evaluation;
  const none = noCut(evaluation);
  return {
    name: design.name,
    kind: KIND_WORDS[design.kind],
    verdict: words.headline,
    detail: words.detail,
    ready: design.ready === true && blocks.length === 0,
    blocks: blocks.map((block) => block.caution.words(units)),
    rod: rodDrawing(design, evaluation, units, pageWidthMm),
    wiring: drawing,
    wiringNotes: notes,
    figures: [
      { label: "heat in the cut", value: none ?? formatQuantity("heat", cut.powerWPerM, units) },
      { label: "on the wire", value: `${formatQuantity("voltage", circuit.wireVoltageV, units)}, ${formatQuantity("current", circuit.currentA, units)}` },
      {
        label: "in air, in the cut",
        value: `${formatQuantity("temperature", circuit.wireC, units)}, ${none ?? formatQuantity("temperature", cut.wireC, units)}`,
      },
      { label: "feed, kerf", value: `${formatQuantity("feed", design.job.feed_mm_s, units)}, ${none ?? formatQuantity("kerf", cut.kerfM * 1000, units)}` },
      { label: "wire, cold and hot", value: `${formatQuantity("resistance", circuit.coldOhm, units)}, ${formatQuantity("resistance", circuit.hotOhm, units)}` },
      { label: "tension, hot and cold", value: `${formatQuantity("force", tension.hotN, units, 1)}, ${formatQuantity("force", tension.coldN, units, 1)}` },
      { label: "wire grows", value: formatQuantity("kerf", tension.growthM * 1000, units) },
      { label: "plucked cold", value: `${tension.pitchColdHz.toFixed(0)} Hz` },
    ],
    parts,
    toBuy: toBuyOf(missing),
    settings,
    cautions: evaluation.cautions.map((caution) => ({ severity: caution.severity, words: caution.words(units) })),
    checklist: [...CHECKLIST],
  };
}
