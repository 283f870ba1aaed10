import type { Design } from "../cutters/design/schema";
import { evaluateDesign, liveMm } from "../cutters/solve/evaluate";
import {
  after,
  apply,
  boundsOf,
  heightsAt,
  type Line,
  lineLength,
  linesOf,
  type Outline,
  type Point,
  perimeter,
  type Region,
  regionArea,
  signedArea,
  type Transform,
  transformedRegion,
  translation,
  turning,
} from "../geometry/points";
import { JUDGEMENT } from "../kernel/constants";
import { CoreError } from "../kernel/errors";
import type { Basis } from "../kernel/provenance";
import { type CutPair, type CutState, cutAtPower } from "../physics/cut/cut";
import { midSpanLag } from "../physics/cut/lag";
import { type Band, cutBands } from "../physics/cut/uncertainty";
import { type Misfit, misfitsOf, shallowThroat } from "./fits";
import { allowanceMm, type Guide, guidesOf, type Loss, lossesOf, type PartFace, thickest } from "./guide";
import { chordOf, drawEnd, withSlot } from "./place";
import type { Plan, PlanEnd } from "./plan";
import type { Drawn } from "./shapes/record";
import { leastTaper } from "./taper";

export const ENDS = ["root", "tip"] as const;
export type EndName = (typeof ENDS)[number];

/** One template: a guide to be led along, with its ramp and its run-out. Its own chord frame, mm. */
export interface Template {
  end: EndName;
  face: PartFace;
  /** Which piece of a shape of several, or hole in one, from 0. */
  piece: number;
  /** ramp, face and run-out in one line; closed for "whole" */
  line: Line;
  closed: boolean;
  /** Indexes in `line` between which it is the part's own face. */
  from: number;
  to: number;
  lengthMm: number;
}

/** One end of the part: what it is, how it is cut, what its templates are. */
export interface PlanEndEvaluation {
  drawn: Drawn;
  chordMm: number;
  /** Finished outlines where they lie in the part: x aft of the root's leading edge, y up. */
  placed: Region[];
  /** From the end's own chord frame to the part's. */
  place: Transform;
  feedMmS: number;
  cut: CutState | null;
  /** computed, or measured where somebody measured it */
  kerfMm: number;
  measured: boolean;
  band: Band | null;
  guideMm: number;
  templates: Template[];
  losses: Loss[];
}

/** Something to be said about a plan, with how far it can be trusted and what would cure it. */
export interface PlanNote {
  code: string;
  severity: "danger" | "caution" | "note";
  words: string;
  basis: Basis;
}

export interface PlanEvaluation {
  root: PlanEndEvaluation;
  tip: PlanEndEvaluation;
  /** The cutter it was answered for; null where the plan names none that is here. */
  cutter: { name: string; heatWPerM: number; wireMm: number; pair: CutPair; design: Design } | null;
  /** tip's guide over root's */
  ratio: number;
  /** below it no heat is clean at both ends; null without a cutter or where none is clean at the root */
  leastRatio: number | null;
  block: BlockSizes;
  /** How far each end's chord is turned on its template's base line, degrees, nose down: so that the base lines of all ends lie level on one bench. */
  baseDeg: { root: number; tip: number };
  /** Farthest that a template was moved to share the middle's lag, mm; left out where none was. */
  sharedMm?: number;
  volumeMm3: number;
  massG: number | null;
  notes: PlanNote[];
  /** where it does not fit its cutter: while there is one, nothing is paced, printed or run */
  misfits: Misfit[];
}

/** The blank about the part, mm: x aft, y up, z along the span. */
export interface BlockSizes {
  minX: number;
  maxX: number;
  minY: number;
  maxY: number;
  lengthMm: number;
  widthMm: number;
  /** with the trim that comes off both faces first */
  boardMm: number;
}

/** A plan without a cutter is drawn for a kerf of workshop's habit: about 1 mm lost a face. Common practice. */
const HABIT = { kerfMm: 1.6, wireMm: 0.5, feedMmS: 5 } as const;

/** A kerf this much from the one the templates were made for shows in the part, mm. */
const MOVED_MM = 0.05;

/** A face's guide with the ramp that leads in to its nose. */
function withRamp({ line, ownPoints }: Guide, face: PartFace, { ramp_deg, ramp_mm }: Plan["template"]): { line: Line; from: number; to: number } {
  const [x, y] = line[0] as Point;
  if (ramp_mm === 0) return { line, from: 0, to: ownPoints };
  // Down on to an upper face's nose, up to a lower one's.
  const rise = Math.tan((ramp_deg * Math.PI) / 180) * ramp_mm * (face === "upper" ? 1 : -1);
  return { line: [[x - ramp_mm, y + rise], ...line], from: 1, to: ownPoints + 1 };
}

interface EndInput {
  plan: Plan;
  end: EndName;
  drawn: Drawn;
  place: Transform;
  feedMmS: number;
  kerfMm: number;
  measured: boolean;
  cut: CutState | null;
  band: Band | null;
  wireMm: number;
  withLosses: boolean;
}

function answerEnd({ plan, end, drawn, place, feedMmS, kerfMm, measured, cut, band, wireMm, withLosses }: EndInput): PlanEndEvaluation {
  const guideMm = allowanceMm(plan.cut.guidance, kerfMm, wireMm, plan.part.skin_mm);
  const faces: PartFace[] = plan.template.faces === "pair" ? ["upper", "lower"] : plan.template.faces === "flip" ? ["upper"] : ["whole"];
  const guides = guidesOf(drawn, faces, { offMm: guideMm, runOutMm: plan.template.runOut_mm, earMm: plan.template.ear_mm });
  const templates = faces.flatMap((face, i): Template[] => {
    const guide = guides[i] as Guide;
    // All round, every piece has its own, and every hole in it.
    if (face === "whole")
      return guide.regions
        .flatMap(linesOf)
        .map((line, piece) => ({ end, face, piece, line, closed: true, from: 0, to: line.length, lengthMm: perimeter(line) }));
    const { line, from, to } = withRamp(guide, face, plan.template);
    return [{ end, face, piece: 0, line, closed: false, from, to, lengthMm: lineLength(line) }];
  });
  return {
    drawn,
    // A numbered section is as long as its chord, though its nose may reach a little before it.
    chordMm: (plan[end] ?? plan.root).chord_mm ?? chordOf(drawn),
    placed: drawn.regions.map((region) => transformedRegion(region, place)),
    place,
    feedMmS,
    cut,
    kerfMm,
    measured,
    band,
    guideMm,
    templates,
    losses: withLosses ? lossesOf(drawn.regions, guideMm, Math.max(0, guideMm)) : [],
  };
}

/** How long the wire's way is at an end, mm: both faces, run-ins left out, so that it does not hang on what hangs on it. */
const wayOf = ({ regions }: Drawn): number => regions.reduce((sum, { outline }) => sum + perimeter(outline), 0);

/**
 * A plan worked out for the cutter it is meant for: both ends' kerfs from the engine at their own feeds, templates, blank and what there is to say.
 * @param withLosses what is lost at noses and corners takes twice the time of all the rest: left out while a hand moves
 * @param design the cutter as it is now; null where there is none, which is answered for a workshop's habit and said so
 * @throws CoreError with the path of the field at fault where a shape cannot be drawn or led round
 */
export function evaluatePlan(plan: Plan, design: Design | null, withLosses = true): PlanEvaluation {
  const { part } = plan;
  const at = <T>(field: string, work: () => T): T => {
    try {
      return work();
    } catch (error) {
      if (error instanceof CoreError) throw new CoreError(error.code, error.path.startsWith(field) ? error.path : `${field}.${error.path}`, error.message);
      throw error;
    }
  };
  const drawn = (end: PlanEnd) => {
    const bare = drawEnd(end);
    return withSlot(bare, plan.template.spar, end.chord_mm ?? chordOf(bare));
  };
  const rootDrawn = at("root", () => drawn(plan.root));
  const tipDrawn = plan.tip ? at("tip", () => drawn(plan.tip as PlanEnd)) : rootDrawn;
  const ratio = wayOf(tipDrawn) / wayOf(rootDrawn);
  const evaluation = design ? evaluateDesign(design) : null;
  const heatWPerM = evaluation?.cut.powerWPerM ?? 0;
  const cuts = evaluation !== null && heatWPerM > 1 ? evaluation : null;
  const feed = plan.cut.feed_mm_s ?? design?.job.feed_mm_s ?? HABIT.feedMmS;
  const wireMm = evaluation ? evaluation.wire.outerDiameterM * 1000 : HABIT.wireMm;
  const tipChord = (plan.tip ?? plan.root).chord_mm ?? chordOf(tipDrawn);
  // Nose down about its share of the chord, then aft and up to where the tip is.
  const tipPlace = after(translation(part.sweep_mm, part.offset_mm), turning(part.washout_deg, [part.washoutAt * tipChord, 0]));
  const notes: PlanNote[] = [];
  const end = (name: EndName, drawn: Drawn, place: Transform, feedMmS: number): PlanEndEvaluation => {
    const state = cuts ? cutAtPower(cuts.pair, feedMmS / 1000, heatWPerM, cuts.acceptedKerfM) : null;
    const given = plan.cut[`${name}Kerf_mm`];
    const kerfMm = given ?? (state ? state.kerfM * 1000 : HABIT.kerfMm);
    const band = cuts && state ? cutBands(cuts.pair, feedMmS / 1000, { powerWPerM: heatWPerM }, cuts.acceptedKerfM, undefined, cuts.doubts).kerfM : null;
    return at(name, () => answerEnd({ plan, end: name, drawn, place, feedMmS, kerfMm, measured: given !== undefined, cut: state, band, wireMm, withLosses }));
  };
  const root = end("root", rootDrawn, [1, 0, 0, 1, 0, 0], feed);
  const tip = end("tip", tipDrawn, tipPlace, feed * ratio);
  const block = blockOf(plan, root, tip);
  // A part of one section is all of its pieces; between two sections the largest piece is ruled.
  const volumeMm3 = plan.tip ? ruledVolume(root, tip, part.span_mm) : part.span_mm * root.drawn.regions.reduce((sum, region) => sum + regionArea(region), 0);
  const leastRatio = cuts ? (leastTaper(cuts.pair, feed, cuts.acceptedKerfM)?.leastRatio ?? null) : null;
  if (!design)
    notes.push({
      code: "no-cutter",
      severity: "note",
      words: `No cutter is named: the allowance is a workshop's habit (${allowanceMm("edge", HABIT.kerfMm, HABIT.wireMm, 0).toFixed(2)} mm a face), not computed.`,
      basis: "common practice",
    });
  else if (!cuts)
    notes.push({
      code: "no-heat",
      severity: "caution",
      words: `${design.name} brings no heat to a cut as it is: its kerf cannot be computed.`,
      basis: "published",
    });
  sayEnd(root, "root", cuts?.pair ?? null, notes);
  if (plan.tip) sayEnd(tip, "tip", cuts?.pair ?? null, notes);
  if (leastRatio !== null && Math.min(ratio, 1 / ratio) < leastRatio)
    notes.push({
      code: "taper",
      severity: "caution",
      words: `The tip's way is ${ratio.toFixed(2)} of the root's: below ${leastRatio.toFixed(2)} no one heat is clean at both ends with this wire at this feed. Less heat and slower, a thinner wire, or more panels each less tapered.`,
      basis: "estimate",
    });
  notes.push(...layingNotes(plan, root, tip, block, evaluation?.pair.foam.family ?? null));
  const shallow = design ? shallowThroat(block.boardMm, design) : null;
  if (shallow && design)
    notes.push({
      code: "throat",
      severity: shallow.throatMm < block.boardMm ? "caution" : "note",
      words: `${design.name} has ${shallow.throatMm.toFixed(0)} mm from its wire to its frame, and the block is ${block.boardMm.toFixed(0)} mm thick. With weights on the block it wants ${shallow.wantedMm.toFixed(0)} mm. Hold the frame level behind the block, use thinner foam, or longer arms.`,
      basis: "common practice",
    });
  const { made } = plan;
  if (made && cuts && Math.max(Math.abs(root.kerfMm - made.rootKerf_mm), Math.abs(tip.kerfMm - made.tipKerf_mm)) > MOVED_MM)
    notes.push({
      code: "moved",
      severity: "caution",
      words: `The cutter has moved since these templates were made: the kerf was ${made.rootKerf_mm.toFixed(2)} and ${made.tipKerf_mm.toFixed(2)} mm, it is ${root.kerfMm.toFixed(2)} and ${tip.kerfMm.toFixed(2)} mm now.`,
      basis: "estimate",
    });
  return {
    root,
    tip,
    cutter: evaluation && design ? { name: design.name, heatWPerM, wireMm, pair: evaluation.pair, design } : null,
    ratio,
    leastRatio,
    block,
    baseDeg: { root: 0, tip: plan.template.base === "turned" ? part.washout_deg : 0 },
    volumeMm3,
    massG: evaluation ? volumeMm3 * 1e-6 * evaluation.pair.foam.densityKgM3 : null,
    notes,
    misfits: design ? misfitsOf(plan, design) : [],
  };
}

function blockOf({ part, blank }: Plan, root: PlanEndEvaluation, tip: PlanEndEvaluation): BlockSizes {
  const bounds = boundsOf([...root.placed, ...tip.placed].flatMap(({ outline }) => outline));
  let [minY, maxY] = [bounds.minY - blank.bottom_mm, bounds.maxY + blank.top_mm];
  if (blank.centred) {
    const [main] = root.placed;
    const fullest = main ? thickest(main.outline) : null;
    const heights = main && fullest ? heightsAt(main.outline, fullest.at) : null;
    const middle = heights ? (heights.upper + heights.lower) / 2 : (minY + maxY) / 2;
    const half = Math.max(maxY - middle, middle - minY);
    [minY, maxY] = [middle - half, middle + half];
  }
  const [minX, maxX] = [bounds.minX - blank.nose_mm, bounds.maxX + blank.tail_mm];
  return { minX, maxX, minY, maxY, lengthMm: part.span_mm, widthMm: maxX - minX, boardMm: maxY - minY + 2 * blank.trim_mm };
}

/** What a board that was pressed through a die loses off both faces first, mm (common practice). */
export const STRESS_TRIM_MM = 6;

/** How far the lowest place of the wire's way is above the block's underside, mm: ramps and run-outs count, for there the wire runs too. */
export function clearBelowMm(block: BlockSizes, ...ends: readonly PlanEndEvaluation[]): number {
  const lowest = ends.flatMap(({ templates, place }) => templates.flatMap(({ line }) => line.map((point) => apply(place, point)[1])));
  return Math.min(...lowest) - block.minY;
}

/** Which of its two faces lies down without rocking: the one whose height changes less along the chord. */
export function flatterFace({ drawn }: PlanEndEvaluation): "upper" | "lower" {
  const outline = drawn.regions[0]?.outline ?? [];
  const { minX, maxX } = boundsOf(outline);
  const heights = Array.from({ length: 19 }, (_, i) => heightsAt(outline, minX + ((i + 1) * (maxX - minX)) / 20)).filter((each) => each !== null);
  const change = (of: (each: { upper: number; lower: number }) => number) => Math.max(...heights.map(of)) - Math.min(...heights.map(of));
  return change(({ lower }) => lower) <= change(({ upper }) => upper) ? "lower" : "upper";
}

/** How far the wire's middle trails its ends in a straight stretch of this part, mm; null where it is not cut, or the part is longer than the wire. */
export function lagOf(design: Design, plan: Plan, { root, tip }: PlanEvaluation): number | null {
  const [a, b] = [root.cut?.dragNPerM ?? null, tip.cut?.dragNPerM ?? null];
  const live = liveMm(design);
  if (a === null || b === null || plan.part.span_mm > live) return null;
  return midSpanLag((a + b) / 2, live / 1000, plan.part.span_mm / 1000, design.tension.hot_N).lagM * 1000;
}

/** What there is to say about how base lines, block and passes lie. */
function layingNotes(plan: Plan, root: PlanEndEvaluation, tip: PlanEndEvaluation, block: BlockSizes, family: string | null): PlanNote[] {
  const { part, template, blank } = plan;
  const notes: PlanNote[] = [];
  if (part.washout_deg !== 0 && template.base === "chord")
    notes.push({
      code: "base-lines",
      severity: "caution",
      words: `Both base lines run along their chords: laid level on one bench they cut no washout. Turn the tip's by ${part.washout_deg.toFixed(1)} degrees when it is pinned, or have its base line turned.`,
      basis: "published",
    });
  if (part.washout_deg !== 0 && !template.twist)
    notes.push({
      code: "twist",
      severity: "danger",
      words: `The tip is turned by ${part.washout_deg.toFixed(1)} degrees: its chord does not agree with the root's, and no template is given out. Say that the twist is wanted, or take it out.`,
      basis: "common practice",
    });
  const clear = clearBelowMm(block, root, tip);
  if (clear < 0)
    notes.push({
      code: "under-block",
      severity: "caution",
      words: `The wire's way leaves the block's underside by ${(-clear).toFixed(1)} mm: it would meet the bench. More foam below, a flatter ramp, or the block on blocks.`,
      basis: "published",
    });
  if (family === "xps" && blank.trim_mm === 0)
    notes.push({
      code: "stress",
      severity: "caution",
      words: `This board was pressed through a die and bows when it is cut thin: about ${STRESS_TRIM_MM} mm off both faces first takes its stress away.`,
      basis: "common practice",
    });
  const { shape } = plan.root;
  if (shape.kind === "column") {
    const radius = Math.max(...shape.profile_mm.map(([, each]) => each));
    const corner = radius / Math.cos(Math.PI / shape.passes);
    notes.push({
      code: "passes",
      severity: "note",
      words: `${shape.passes} passes along its upper profile, the block turned ${(360 / shape.passes).toFixed(1)} degrees about its axis between them: ${shape.passes} sides, ${(corner - radius).toFixed(1)} mm fuller over its corners than a round one.`,
      basis: "published",
    });
    if (part.span_mm < 2 * radius)
      notes.push({
        code: "column-block",
        severity: "caution",
        words: `The block is ${part.span_mm.toFixed(0)} mm along the wire, the column ${(2 * radius).toFixed(0)} mm across: some of its sides would lie outside the foam.`,
        basis: "published",
      });
  }
  return notes;
}

function sayEnd({ cut, losses, guideMm }: PlanEndEvaluation, name: EndName, pair: CutPair | null, notes: PlanNote[]): void {
  if (cut && pair) {
    if (cut.feedRatio > JUDGEMENT.dragsAboveFeedRatio)
      notes.push({
        code: `${name}-drags`,
        severity: "danger",
        words: `The wire drags at the ${name}: it runs at ${(100 * cut.feedRatio).toFixed(0)} % of its top feed there. Slower, or more heat.`,
        basis: "estimate",
      });
    else if (cut.verdict === "smokes")
      notes.push({
        code: `${name}-smokes`,
        severity: "danger",
        words: `The foam smokes at the ${name}: the wire reaches ${cut.wireC.toFixed(0)} °C there. Less heat and slower, or a thinner wire.`,
        basis: "estimate",
      });
    else if (cut.verdict === "wide")
      notes.push({
        code: `${name}-wide`,
        severity: "caution",
        words: `The kerf at the ${name} is ${(cut.kerfM * 1000).toFixed(2)} mm, wider than is taken as clean: its template allows for it, its face is rougher.`,
        basis: "estimate",
      });
  }
  // Corners that mirror each other lose the same at the same distance: said once, with their number.
  const alike = new Map<string, { note: Omit<PlanNote, "words">; count: number }>();
  for (const { kind, at, depthMm } of losses) {
    const where = `${at[0].toFixed(0)} mm from the leading edge of the ${name}`;
    const [words, severity] =
      kind === "left"
        ? ([`${depthMm.toFixed(2)} mm of foam stays in an inner corner, ${where}`, "note"] as const)
        : ([
            `${depthMm.toFixed(2)} mm is lost, ${where}: it is thinner than a guide ${Math.abs(guideMm).toFixed(2)} mm inside it can follow`,
            "caution",
          ] as const);
    alike.set(words, { note: { code: `${name}-${kind}`, severity, basis: "published" }, count: (alike.get(words)?.count ?? 0) + 1 });
  }
  for (const [words, { note, count }] of [...alike].slice(0, 3)) notes.push({ ...note, words: `${words}${count > 1 ? `; in ${count} places` : ""}.` });
}

/** Points a section is cut into for the volume between two of them. */
const RULED = 400;

/** The same number of points on any outline, equally far along it from its nose. */
function evenly({ regions, nose }: Drawn, place: Transform): Point[] {
  const outline = regions[0]?.outline as Outline;
  const start = outline.reduce(
    (best, point, i) =>
      Math.hypot(point[0] - nose[0], point[1] - nose[1]) < Math.hypot((outline[best]?.[0] ?? 0) - nose[0], (outline[best]?.[1] ?? 0) - nose[1]) ? i : best,
    0,
  );
  const ring = [...outline.slice(start), ...outline.slice(0, start)];
  const total = perimeter(ring);
  const points: Point[] = [];
  let [edge, before] = [0, 0];
  for (let i = 0; i < RULED; i++) {
    const along = (total * i) / RULED;
    for (;;) {
      const [a, b] = [ring[edge] as Point, ring[(edge + 1) % ring.length] as Point];
      const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (along <= before + long || edge >= ring.length - 1) {
        const t = long === 0 ? 0 : (along - before) / long;
        points.push(apply(place, [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]));
        break;
      }
      before += long;
      edge += 1;
    }
  }
  return points;
}

/** Foam between two sections that a straight wire rules, mm3: areas of sections between are quadratic along the span, so Simpson's rule is exact. Holes are left out. */
function ruledVolume(root: PlanEndEvaluation, tip: PlanEndEvaluation, spanMm: number): number {
  const [a, b] = [evenly(root.drawn, root.place), evenly(tip.drawn, tip.place)];
  const middle = a.map((point, i): Point => [(point[0] + (b[i] as Point)[0]) / 2, (point[1] + (b[i] as Point)[1]) / 2]);
  const area = (points: Point[]) => Math.abs(signedArea(points));
  return (spanMm / 6) * (area(a) + 4 * area(middle) + area(b));
}
