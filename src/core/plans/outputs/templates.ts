import { apply, boundsOf, distance, type Line, linesOf, nearest, type Outline, type Point, turning } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import type { EndName, PlanEvaluation, Template } from "../evaluate";
import { ENDS } from "../evaluate";
import { requireFits } from "../fits";
import type { PanelEvaluation } from "../panels";
import { drawEnd, slotOf } from "../place";
import type { Plan } from "../plan";
import { planStations } from "../planStations";
import { shapeRecord } from "../shapes";
import type { Station } from "../stations";
import type { OutDrawing, OutLine, OutText } from "./drawing";

/** Depth of a template's body below the lowest place of its edge, and how far its pins are above its base, mm. */
const BODY_MM = 32;
const PIN_UP_MM = 10;
const PIN_MM = 3;
/** Room between two templates on a drawing, mm. */
const APART_MM = 14;
const LETTER_MM = 4;

export const TEMPLATE_FACE_WORDS = { whole: "all round", lower: "lower face", upper: "upper face" } as const;
export const MATERIAL_WORDS = { metal: "thin metal", laminate: "plastic laminate", plywood: "plywood", card: "card" } as const;

const circle = ([x, y]: Point, radius: number): Outline =>
  Array.from({ length: 24 }, (_, i) => [x + radius * Math.cos((i * Math.PI) / 12), y + radius * Math.sin((i * Math.PI) / 12)] as const);

/** A template's words: whose it is, which way it travels, what it is made of, how far its guide is offset. */
export function templateWords(plan: Plan, evaluation: PlanEvaluation, { end, face }: Pick<Template, "end" | "face">): string[] {
  const here = evaluation[end];
  const { shape } = plan[end] ?? plan.root;
  const off = here.guideMm;
  return [
    `${plan.name}: ${end}, ${TEMPLATE_FACE_WORDS[face]}`,
    `${shapeRecord(shape.kind).words(shape)}, ${here.chordMm.toFixed(1)} mm; nose to tail`,
    `${plan.cut.guidance === "edge" ? "edge" : "line"} withstands ${Math.abs(off).toFixed(2)} mm ${off < 0 ? "inside" : "outside"} the part (kerf ${here.kerfMm.toFixed(2)} mm${here.measured ? ", measured" : ""}${plan.part.skin_mm > 0 ? `, skin ${plan.part.skin_mm} mm` : ""})`,
    `${MATERIAL_WORDS[plan.template.material]}, ${plan.template.thickness_mm} mm${plan.part.hands === "one" ? "" : "; this side out for the left part, turned over for the right"}`,
    ...(evaluation.sharedMm === undefined
      ? []
      : [`moved by up to ${evaluation.sharedMm.toFixed(2)} mm to share the middle's lag: for the plan's own pace only`]),
  ];
}

/** How long the marks are that are square to the edge, mm: numbers, halves, other parts. */
const MARK_MM = { whole: 6, half: 4, part: 2.5 } as const;
const MARK_LETTER_MM = 3.2;

interface Mark {
  line: [Point, Point];
  text: Point;
  label: string | null;
}

/**
 * Numbered marks of a template: short lines square to its edge, into its body, numbers at whole ones. None is within a spar's slot.
 * A plan whose numbers do not go round its corners has none; its pace says why.
 */
export function stationMarks(plan: Plan, evaluation: PlanEvaluation, template: Template): Mark[] {
  const here = evaluation[template.end];
  const main = here.drawn.regions[0]?.outline;
  if (template.piece > 0 || !main) return [];
  let stations: Station[];
  try {
    ({ stations } = planStations(plan, evaluation, template.face));
  } catch (error) {
    if (error instanceof CoreError) return [];
    throw error;
  }
  const { spar } = plan.template;
  const bare = spar?.as === "slot" ? slotOf(spar, drawEnd(plan[template.end] ?? plan.root).regions[0]?.outline ?? main, here.chordMm) : null;
  const own = template.closed ? template.line : template.line.slice(template.from, template.to);
  const marks = stations.flatMap(({ root, tip, label, whole }): Mark[] => {
    const { at, edge } = nearest(template.end === "root" ? root : tip, own, template.closed);
    const slotted =
      bare &&
      at[0] > bare.minX &&
      at[0] < bare.maxX &&
      Math.abs(at[1] - bare.mouth) < Math.abs(bare.floor - bare.mouth) + 2 &&
      (spar?.face === "lower" ? at[1] < bare.floor + 1 : at[1] > bare.floor - 1);
    if (slotted) return [];
    const [a, b] = [own[edge] as Point, own[(edge + 1) % own.length] as Point];
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    // Into the body: down from an open edge, inwards on one that goes all round.
    let inward: Point = [-(b[1] - a[1]) / long, (b[0] - a[0]) / long];
    if (!template.closed && inward[1] > 0) inward = [-inward[0], -inward[1]];
    const mm = whole ? MARK_MM.whole : / 1\/2$/.test(label) ? MARK_MM.half : MARK_MM.part;
    const end: Point = [at[0] + inward[0] * mm, at[1] + inward[1] * mm];
    return [{ line: [at, end], text: [end[0] + inward[0] * 2 - 1, end[1] + inward[1] * 2 - MARK_LETTER_MM / 2], label: whole ? label : null }];
  });
  return template.closed ? numbersApart(marks) : marks;
}

/**
 * Numbers of a way that goes all round, none written over another: those of one place, as the first and the last, next to each other; those of two edges of a slim part each at its own edge.
 */
function numbersApart(marks: readonly Mark[]): Mark[] {
  const written: Mark[] = [];
  for (const mark of marks) {
    const there = mark.label === null ? undefined : written.find(({ label, line }) => label !== null && distance(line[0], mark.line[0]) < MARK_LETTER_MM / 4);
    if (there) there.label = `${there.label}, ${mark.label}`;
    written.push(there ? { ...mark, label: null } : { ...mark });
  }
  const numbers = written.filter(({ label }) => label !== null);
  const crowded = numbers.filter((mark) => numbers.some((other) => other !== mark && distance(other.text, mark.text) < 2 * MARK_LETTER_MM));
  for (const mark of crowded) {
    const [at, end] = mark.line;
    // Clear of the edge by what its letters are high.
    const share = (0.8 * MARK_LETTER_MM) / distance(at, end);
    mark.text = [at[0] + (end[0] - at[0]) * share, at[1] + (end[1] - at[1]) * share - MARK_LETTER_MM / 2];
  }
  return written;
}

/** Templates of an end that are drawn apart: all pieces of one that goes all round are one drawing. */
export const sheetsOf = (evaluation: PlanEvaluation, end: EndName): Template[] => evaluation[end].templates.filter((template) => template.piece === 0);

/** One template on its own, in its end's own chord frame: its edge, its body with pins and base line, the part it makes, and its words. */
export function templateDrawing(plan: Plan, evaluation: PlanEvaluation, template: Template): OutDrawing {
  const here = evaluation[template.end];
  const lines: OutLine[] = [];
  const texts: OutText[] = [];
  const add = (layer: string, points: Line, closed: boolean) => lines.push({ layer, points, closed });
  const lie = turning(evaluation.baseDeg[template.end], [plan.part.washoutAt * evaluation[template.end].chordMm, 0]);
  const laid = (line: Line): Line => (evaluation.baseDeg[template.end] === 0 ? line : line.map((point) => apply(lie, point)));
  for (const each of here.drawn.regions.flatMap(linesOf)) add("finished part", laid(each), true);
  // Both faces of an end have one base, so that their pins are the same holes in the foam.
  const { minY } = boundsOf(here.templates.flatMap(({ line }) => laid(line)));
  const base = minY - BODY_MM;
  const own = (template.closed ? here.templates : [template]).map(({ line }) => laid(line));
  const { minX, maxX } = boundsOf(own.flat());
  if (template.closed) for (const line of own) add("guide", line, true);
  else {
    const line = own[0] as Line;
    const [first, last] = [line[0] as Point, line.at(-1) as Point];
    add("guide", line, false);
    add("body", [first, [first[0], base], [last[0], base], last], false);
  }
  add(
    "base line",
    [
      [minX, base + PIN_UP_MM * 2],
      [maxX, base + PIN_UP_MM * 2],
    ],
    false,
  );
  for (const pin of plan.template.pins) add("pins", circle([pin * here.chordMm, base + PIN_UP_MM], PIN_MM / 2), true);
  const { spar } = plan.template;
  const main = here.drawn.regions[0]?.outline;
  if (spar?.as === "mark" && main && (template.face === "whole" || template.face === spar.face)) {
    // Where the spar rests: its two sides, drawn down from the face.
    const slot = slotOf(spar, main, here.chordMm);
    if (slot)
      for (const x of [slot.minX, slot.maxX])
        add(
          "spar",
          laid([
            [x, slot.mouth],
            [x, slot.floor],
          ]),
          false,
        );
  }
  for (const mark of stationMarks(plan, evaluation, template)) {
    add("stations", laid(mark.line), false);
    if (mark.label) texts.push({ layer: "stations", at: laid([mark.text])[0] as Point, heightMm: MARK_LETTER_MM, text: mark.label });
  }
  // The wire's way, nose to tail.
  const arrow: Point = [minX + (maxX - minX) * 0.62, base + PIN_UP_MM];
  add("travel", [[arrow[0] - 16, arrow[1]], arrow, [arrow[0] - 4, arrow[1] + 2], arrow, [arrow[0] - 4, arrow[1] - 2]], false);
  for (const [i, text] of templateWords(plan, evaluation, template).entries())
    texts.push({ layer: "words", at: [minX + 2, base - 6 - i * LETTER_MM * 1.5], heightMm: LETTER_MM, text });
  return { title: `${plan.name}: ${template.end}, ${TEMPLATE_FACE_WORDS[template.face]}`, lines, texts };
}

const moved = (drawing: OutDrawing, [dx, dy]: Point): OutDrawing => ({
  ...drawing,
  lines: drawing.lines.map((line) => ({ ...line, points: line.points.map(([x, y]): Point => [x + dx, y + dy]) })),
  texts: drawing.texts.map((text) => ({ ...text, at: [text.at[0] + dx, text.at[1] + dy] as const })),
});

/** Which panel a template belongs to, where there are several: at a joint it serves the next one's root too. */
function titled(drawing: OutDrawing, at: number, of: number, end: EndName): OutDrawing {
  if (of === 1) return drawing;
  const words = `panel ${at + 1} of ${of}${end === "tip" && at + 1 < of ? `, and the root of panel ${at + 2}` : ""}`;
  const first = drawing.texts.find(({ layer }) => layer === "words");
  return {
    ...drawing,
    title: `${drawing.title}, ${words}`,
    texts: drawing.texts.map((text) => (text === first ? { ...text, text: `${text.text}, ${words}` } : text)),
  };
}

/** Refuses templates that would cut a twist no one asked for, or that the plan's cutter cannot cut. @throws CoreError `no-solution`, `conflict` */
export function requireExportable(panels: readonly PanelEvaluation[]): void {
  for (const { evaluation } of panels) requireFits(evaluation);
  const turned = panels.find(({ plan }) => plan.part.washout_deg !== 0 && !plan.template.twist);
  if (turned)
    throw new CoreError(
      "no-solution",
      "template.twist",
      `the tip is turned by ${turned.plan.part.washout_deg.toFixed(1)} degrees to the root: say that the twist is wanted, or take it out`,
    );
}

/** All templates asked for, one below the other, none over another: of each joint between two panels one. */
export function templatesDrawing(panels: readonly PanelEvaluation[], ends: readonly EndName[] = ENDS): OutDrawing {
  const all = panels.flatMap(({ plan, evaluation }, at) =>
    ends
      .filter((end) => (end === "root" ? at === 0 : plan.tip !== null))
      .flatMap((end) => sheetsOf(evaluation, end).map((template) => titled(templateDrawing(plan, evaluation, template), at, panels.length, end))),
  );
  let y = 0;
  const placed = all.map((drawing) => {
    const bounds = boundsOf([...drawing.lines.flatMap(({ points }) => points), ...drawing.texts.map(({ at }) => at)]);
    const put = moved(drawing, [-bounds.minX, y - bounds.maxY]);
    y -= bounds.maxY - bounds.minY + APART_MM;
    return put;
  });
  return { title: panels[0]?.plan.name ?? "", lines: placed.flatMap(({ lines }) => lines), texts: placed.flatMap(({ texts }) => texts) };
}
