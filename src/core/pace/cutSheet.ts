import { evaluateDesign, knobOf, liveMm } from "../cutters/solve/evaluate";
import { boundsOf } from "../geometry/points";
import { clearBelowMm, flatterFace, type PlanAnswer } from "../plans/evaluate";
import { type Face, thickest } from "../plans/guide";
import type { Plan } from "../plans/plan";
import { knobWords } from "../sheets/buildSheet";
import { formatQuantity, type Quantity, type UnitSystem } from "../units/units";
import type { PaceAnswer } from "./pace";
import type { PaceRow } from "./planPace";

/** One printable page for one face: everything that two people need at the bow. */
export interface CutSheet {
  title: string;
  face: string;
  setUp: [what: string, value: string][];
  block: string[];
  rows: { to: string; seconds: string; root: string; tip: string; wait: string }[];
  total: string;
  cautions: string[];
  afterwards: string[];
}

const FACES: Readonly<Record<Face, string>> = { upper: "upper face", lower: "lower face", whole: "all round" };
/** What each school asks of the block (common practice). */
const ORDERS: Readonly<Record<Plan["pace"]["order"], string>> = {
  "lower first": "Lower face first, then the upper; the piece stays lying in its bed.",
  round: "One pass round the nose; the offcut stays in one piece about the part.",
  flip: "One face, then the block turned over on the same template.",
};

/**
 * @param answer of the panel that is cut
 * @param warmUpS until the wire is within a twentieth of its heat, where that can be told
 */
export function cutSheet(
  plan: Plan,
  answer: PlanAnswer,
  face: Face,
  { pace, rows }: { pace: Pick<PaceAnswer, "totalS" | "errorMm" | "faceErrorMm" | "corner">; rows: readonly PaceRow[] },
  warmUpS: number | null,
  units: UnitSystem,
): CutSheet {
  const show = (quantity: Quantity, value: number) => formatQuantity(quantity, value, units);
  const { cutter, block } = answer;
  const setUp: CutSheet["setUp"] = [];
  if (cutter) {
    const { design } = cutter;
    const solved = evaluateDesign(design);
    const knob = knobOf(design);
    setUp.push(
      ["cutter", cutter.name],
      ["wire", `${show("diameter", cutter.wireMm)}, ${show("length", liveMm(design))} live`],
      ["knob", knob ? knobWords(knob.kind, knob.value, units) : "none: as it is wired"],
      ["at the wire", `${solved.circuit.wireVoltageV.toFixed(1)} V, ${solved.circuit.currentA.toFixed(2)} A, ${show("power", cutter.heatWPerM)}`],
      ["tension", `${show("force", design.tension.hot_N)} hot`],
      ["warm-up", warmUpS === null ? "until it smokes no more on a scrap" : `wait ${Math.max(1, Math.ceil(warmUpS))} s, then try it on a scrap`],
    );
  }
  setUp.push([
    "templates stand",
    `${show("kerf", Math.abs(answer.root.guideMm))} and ${show("kerf", Math.abs(answer.tip.guideMm))} ${answer.root.guideMm < 0 ? "inside" : "outside"}`,
  ]);
  const clear = clearBelowMm(block, answer.root, answer.tip);
  const full = (end: PlanAnswer["root"]) => thickest(end.drawn.regions[0]?.outline ?? []).thicknessMm;
  const middle = boundsOf([...answer.root.placed, ...answer.tip.placed].flatMap(({ outline }) => outline));
  return {
    title: plan.name,
    face: FACES[face],
    setUp,
    block: [
      `${show("length", block.lengthMm)} × ${show("length", block.widthMm)} × ${show("length", block.boardMm)}${plan.blank.trim_mm > 0 ? `, ${show("length", plan.blank.trim_mm)} trimmed off both faces first` : ""}`,
      `${flatterFace(answer.root) === "lower" ? "Lower" : "Upper"} side down; part from ${show("length", middle.minX - block.minX)} behind the block's front edge.`,
      ORDERS[plan.pace.order],
      `Weights on the offcut above, behind the wire's way. The wire passes ${show("length", Math.max(0, clear))} above the bench.`,
    ],
    rows: rows.map((row) => ({
      to: row.to,
      seconds: row.seconds.toFixed(1),
      root: show("feed", row.rootFeedMmS),
      tip: show("feed", row.tipFeedMmS),
      wait: row.waitS > 0 ? `${row.waitS.toFixed(1)} s` : "",
    })),
    total: `${pace.totalS.toFixed(0)} s in all; the line holds to ${show("kerf", pace.errorMm)}, the face to ${show("kerf", pace.faceErrorMm)} (estimates)`,
    cautions: [
      ...answer.notes.filter(({ severity }) => severity !== "note").map(({ words }) => words),
      "Extraction or open doors; nobody in the wire's line; the switch opens when let go.",
      "If anything stops, lift the wire into the waste or switch off: a stop burns a groove.",
    ],
    afterwards: [
      `Calliper at the thickest: root ${show("length", full(answer.root))}, tip ${show("length", full(answer.tip))}${plan.tip ? `, half way ${show("length", (full(answer.root) + full(answer.tip)) / 2)}` : ""}.`,
      "Middle thinner than both ends: slower, then a tighter wire. One end thick: that hand ran.",
      "Kerf in a straight stretch of the offcut; hook at corners; ridges where the feed changed.",
    ],
  };
}
