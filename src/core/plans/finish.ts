import { boundsOf, heightsAt } from "../geometry/points";
import type { Finishing } from "../log/entries";
import type { Quantity } from "../units/units";
import { type PlanEvaluation, STRESS_TRIM_MM } from "./evaluate";
import { thickest } from "./guide";
import type { Plan } from "./plan";

type Show = (quantity: Quantity, value: number, decimals?: number) => string;

/** One thing to do with a cut part. */
export interface FinishStep {
  id: Finishing;
  words: string;
  basis: "common practice" | "from memory" | "computed";
}

/** A pressed board moves overnight after it is cut, h (from memory). */
const REST_H = 12;
/** A tail thinner than this breaks in the hand, mm (this project's judgement), looked at so far before its end, of the chord. */
const TAIL = { leastMm: 1.5, at: 0.02 } as const;

/** How long a part rests before it is measured again, h: as the plan says, or as its foam wants. */
export const restHours = ({ finish }: Plan, { cutter }: Pick<PlanEvaluation, "cutter">): number =>
  finish.rest_h ?? (cutter?.design.job.foam.family === "xps" ? REST_H : 0);

/** Thickness of an end close before its tail, mm. */
function tailMm({ drawn }: PlanEvaluation["root"]): number {
  const outline = drawn.regions[0]?.outline ?? [];
  const { minX, maxX } = boundsOf(outline);
  const heights = heightsAt(outline, maxX - TAIL.at * (maxX - minX));
  return heights ? heights.upper - heights.lower : 0;
}

/** What is done with a part before and after its cut, in its order. Common practice where nothing else is said. */
export function finishSteps(plan: Plan, evaluation: PlanEvaluation, show: Show): FinishStep[] {
  const { part, finish, blank, template, panels, tip } = plan;
  const pressed = evaluation.cutter?.design.job.foam.family === "xps";
  const ends = tip ? (["root", "tip"] as const) : (["root"] as const);
  const full = (end: "root" | "tip") => thickest(evaluation[end].drawn.regions[0]?.outline ?? []).thicknessMm;
  const thick = (lessMm: number) => ends.map((end) => `${end} ${show("length", full(end) - lessMm, 1)}`).join(", ");
  const thinTail = Math.min(...ends.map((end) => tailMm(evaluation[end])));
  const restH = restHours(plan, evaluation);
  const glued = [...(panels.length > 0 ? ["the panels"] : []), ...(template.spar ? ["the spar"] : []), ...(part.skin_mm > 0 ? ["the skin"] : [])];
  const steps: (FinishStep | null)[] = [
    pressed || blank.trim_mm > 0
      ? {
          id: "stress",
          words: `Before the cut: trim ${show("length", blank.trim_mm || STRESS_TRIM_MM)} off both faces of the board, and turn it over between the two faces of the part.`,
          basis: "common practice",
        }
      : null,
    {
      id: "cool",
      words: "Support the freed piece and switch the heat off. Let it cool for some seconds, then lift it out and look.",
      basis: "common practice",
    },
    {
      id: "hairs",
      words: `Sand the hairs off lightly with about ${finish.grit} grit. Otherwise glue, paint and skin hold only to the hairs.`,
      basis: "common practice",
    },
    {
      id: "lines",
      words: "Sand the lines where the wire waited. Fill a burnt spot where it will be hidden; otherwise cut again.",
      basis: "common practice",
    },
    thinTail < TAIL.leastMm
      ? {
          id: "tail",
          words: `The tail is ${show("length", thinTail, 1)} thick close before its end: trim it to a thickness that holds.`,
          basis: "computed",
        }
      : null,
    ends.some((end) => evaluation[end].losses.length > 0)
      ? { id: "nose", words: "Round by hand what is too sharp for the wire: the plan marks where.", basis: "common practice" }
      : null,
    {
      id: "check",
      words: `Hold it against its template, and measure at the thickest: ${thick(2 * part.skin_mm)}${part.skin_mm > 0 ? " before the skin" : ""}.`,
      basis: "computed",
    },
    glued.length > 0 || finish.glue !== ""
      ? {
          id: "glue",
          words: `Glue ${glued.join(" and ") || "it"}${finish.glue ? ` with ${finish.glue}` : ""}. Try glue and paint on a scrap first: solvents dissolve polystyrene.`,
          basis: "from memory",
        }
      : null,
    part.skin_mm > 0
      ? {
          id: "skin",
          words: `Lay ${finish.skin || "the skin"} on, ${show("kerf", part.skin_mm)} on each face. Then it measures ${thick(0)}.`,
          basis: "computed",
        }
      : null,
    restH > 0
      ? {
          id: "rest",
          words: `Store it flat and let it rest ${restH} h, then measure again: a pressed board goes on moving after the cut.`,
          basis: "from memory",
        }
      : null,
  ];
  return steps.filter((step) => step !== null);
}
