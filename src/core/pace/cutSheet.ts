import { evaluateDesign, knobOf, liveMm } from "../cutters/solve/evaluate";
import { boundsOf, distance, type Point } from "../geometry/points";
import type { Drawing } from "../kernel/drawing";
import { clearBelowMm, flatterFace, type PlanEvaluation } from "../plans/evaluate";
import { type PartFace, thickest } from "../plans/guide";
import { stationMarks } from "../plans/outputs/templates";
import type { Plan } from "../plans/plan";
import { knobWords } from "../sheets/buildSheet";
import { formatQuantity, type Quantity, type UnitSystem } from "../units/units";
import type { PaceEnd, PaceResult } from "./pace";
import type { PaceRow } from "./planPace";

/** One printable page for one face: everything that two people need at the bow. */
export interface CutSheet {
  title: string;
  face: string;
  setUp: [what: string, value: string][];
  /** Both templates of the face with their numbers, to one scale. */
  templates: Drawing;
  block: string[];
  rows: { to: string; seconds: string; root: string; tip: string; wait: string }[];
  total: string;
  cautions: string[];
  afterwards: string[];
}

const FACES: Readonly<Record<PartFace, string>> = { upper: "upper face", lower: "lower face", whole: "all round" };
/** What each school asks of the block (common practice). */
const ORDERS: Readonly<Record<Plan["pace"]["order"], string>> = {
  "lower first": "Lower face first, then the upper; the piece stays lying in its bed.",
  round: "One pass round the nose; the offcut stays in one piece about the part.",
  flip: "One face, then the block turned over on the same template.",
};

/** Room for numbers about an edge, and between the two templates, mm of the drawing. */
const ROOM_MM = 7;
const MOST_HIGH_MM = 62;
/** How far from its edge a number stands that is outside, mm of the drawing. */
const ABOUT_MM = 3.4;

/** The two edges that the wire is led along, numbered, one under the other. */
function templatesDrawn(plan: Plan, evaluation: PlanEvaluation, face: PartFace, widthMm: number): Drawing {
  const shapes: Drawing["shapes"][number][] = [];
  const ends = (["root", "tip"] as const).map((end) => {
    const template = evaluation[end].templates.find((each) => each.face === face) ?? evaluation[end].templates[0];
    return { end, template, line: template?.line ?? [] };
  });
  const sizes = ends.map(({ line }) => boundsOf(line));
  const wide = Math.max(...sizes.map(({ minX, maxX }) => maxX - minX));
  const high = sizes.reduce((sum, { minY, maxY }) => sum + maxY - minY, 0);
  const scale = Math.min((widthMm - 20) / wide, (MOST_HIGH_MM - 4 * ROOM_MM) / Math.max(1, high));
  let top = ROOM_MM;
  for (const [i, { end, template, line }] of ends.entries()) {
    const { minX, minY, maxY } = sizes[i] as (typeof sizes)[number];
    const at = ([x, y]: Point): Point => [18 + (x - minX) * scale, top + (maxY - y) * scale];
    const path = (points: readonly Point[]) =>
      `M${points
        .map(at)
        .map(([x, y]) => `${x.toFixed(2)} ${y.toFixed(2)}`)
        .join("L")}`;
    shapes.push({ kind: "path", d: path(line) + (template?.closed ? "Z" : ""), stroke: "graphite", width: 0.9 });
    shapes.push({ kind: "text", x: 0, y: top + ((maxY - minY) * scale) / 2 + 1, text: end, size: 3.2, bold: true });
    const marks = template ? stationMarks(plan, evaluation, template) : [];
    const apart = marks.filter(({ label }) => label !== null);
    const every = Math.max(1, Math.ceil(apart.length / 24));
    for (const mark of marks) shapes.push({ kind: "path", d: path(mark.line), stroke: "graphite", width: 0.4 });
    for (const [k, { text, label, line: mark }] of apart.entries()) {
      if (k % every !== 0 || label === null) continue;
      const look = { kind: "text", text: label, size: 2.6, mono: true } as const;
      if (!template?.closed) {
        const [x, y] = at(text);
        shapes.push({ ...look, x, y: y + 1.5, anchor: "middle" });
        continue;
      }
      // Drawn small, both edges' numbers would meet within a part that goes all round: they are about it, next to it where it is upright.
      const [on, within] = mark.map(at) as [Point, Point];
      const long = distance(on, within) || 1;
      const [outX, outY] = [(on[0] - within[0]) / long, (on[1] - within[1]) / long];
      const beside = Math.abs(outX) > 0.5;
      shapes.push({
        ...look,
        x: on[0] + outX * (beside ? ABOUT_MM / 2 : ABOUT_MM),
        y: on[1] + outY * ABOUT_MM + 0.9,
        anchor: beside ? (outX > 0 ? "start" : "end") : "middle",
      });
    }
    top += (maxY - minY) * scale + 2 * ROOM_MM;
  }
  return { title: "templates", width: widthMm, height: top, shapes };
}

/** What to do at the last number, where the middle of the wire still has to come. */
function endWords({ leftMm, waitS, runOutMm }: PaceEnd, { template, pace }: Plan, show: (quantity: Quantity, value: number) => string): string[] {
  if (leftMm <= pace.tolerance_mm) return [];
  const short = template.runOut_mm < runOutMm;
  return [
    `At the last number the middle is ${show("length", leftMm)} behind. Go on at the same pace for ${show("length", runOutMm)}${short ? ` (the templates' run-out is ${show("length", template.runOut_mm)}: then wait ${waitS.toFixed(1)} s, heat on)` : ", along the run-out"}.`,
  ];
}

/** What is set before a cut, and what a meter then reads at the wire. */
export function heatToSet({ design, heatWPerM }: NonNullable<PlanEvaluation["cutter"]>, units: UnitSystem): [what: string, value: string][] {
  const { circuit } = evaluateDesign(design);
  const knob = knobOf(design);
  return [
    ["knob", knob ? knobWords(knob.kind, knob.value, units) : "none: as it is wired"],
    ["at the wire", `${circuit.wireVoltageV.toFixed(1)} V, ${circuit.currentA.toFixed(2)} A, ${formatQuantity("heat", heatWPerM, units)}`],
  ];
}

/**
 * @param evaluation of the panel that is cut
 * @param warmUpS until the wire is within a twentieth of its heat, where that is known
 */
export function cutSheetOf(
  plan: Plan,
  evaluation: PlanEvaluation,
  face: PartFace,
  { pace, rows }: { pace: Pick<PaceResult, "totalS" | "errorMm" | "faceErrorMm" | "corner" | "end">; rows: readonly PaceRow[] },
  warmUpS: number | null,
  units: UnitSystem,
): CutSheet {
  const show = (quantity: Quantity, value: number) => formatQuantity(quantity, value, units);
  const { cutter, block } = evaluation;
  const setUp: CutSheet["setUp"] = [];
  if (cutter) {
    const { design } = cutter;
    setUp.push(
      ["cutter", cutter.name],
      ["wire", `${show("diameter", cutter.wireMm)}, ${show("length", liveMm(design))} live`],
      ...heatToSet(cutter, units),
      ["tension", `${show("force", design.tension.hot_N)} hot`],
      ["warm-up", warmUpS === null ? "until it smokes no more on a scrap" : `wait ${Math.max(1, Math.ceil(warmUpS))} s, then try it on a scrap`],
    );
  }
  setUp.push([
    "templates stand",
    `${show("kerf", Math.abs(evaluation.root.guideMm))} and ${show("kerf", Math.abs(evaluation.tip.guideMm))} ${evaluation.root.guideMm < 0 ? "inside" : "outside"}`,
  ]);
  const clear = clearBelowMm(block, evaluation.root, evaluation.tip);
  const full = (end: PlanEvaluation["root"]) => thickest(end.drawn.regions[0]?.outline ?? []).thicknessMm;
  const middle = boundsOf([...evaluation.root.placed, ...evaluation.tip.placed].flatMap(({ outline }) => outline));
  return {
    title: plan.name,
    face: FACES[face],
    setUp,
    templates: templatesDrawn(plan, evaluation, face, 180),
    block: [
      `${show("length", block.lengthMm)} × ${show("length", block.widthMm)} × ${show("length", block.boardMm)}${plan.blank.trim_mm > 0 ? `, ${show("length", plan.blank.trim_mm)} trimmed off both faces first` : ""}`,
      `${flatterFace(evaluation.root) === "lower" ? "Lower" : "Upper"} side down; part from ${show("length", middle.minX - block.minX)} behind the block's front edge.`,
      ORDERS[face === "whole" ? "round" : plan.template.faces === "flip" ? "flip" : plan.pace.order],
      `Weights on the offcut above, behind the wire's way. The wire passes ${show("length", Math.max(0, clear))} above the bench.`,
    ],
    rows: rows.map((row) => ({
      to: row.to,
      seconds: row.seconds.toFixed(1),
      root: show("feed", row.rootFeedMmS),
      tip: show("feed", row.tipFeedMmS),
      wait: row.waitS > 0 ? `${row.waitS.toFixed(1)} s` : "",
    })),
    total: `${pace.totalS.toFixed(0)} s in all. The face deviates by ${show("kerf", pace.faceErrorMm)} at most, the line by ${show("kerf", pace.errorMm)} (estimates).`,
    cautions: [
      ...evaluation.notes.filter(({ severity }) => severity !== "note").map(({ words }) => words),
      "Extraction or open doors; nobody in the wire's line; the switch opens when let go.",
      "If anything stops, lift the wire into the waste or switch off: a stop burns a groove.",
    ],
    afterwards: [
      ...endWords(pace.end, plan, show),
      `Calliper at the thickest: root ${show("length", full(evaluation.root))}, tip ${show("length", full(evaluation.tip))}${plan.tip ? `, half way ${show("length", (full(evaluation.root) + full(evaluation.tip)) / 2)}` : ""}.`,
      "Middle thinner than both ends: slower, then a tighter wire. One end thick: that hand ran.",
      "Kerf in a straight stretch of the offcut; hook at corners; ridges where the feed changed.",
    ],
  };
}
