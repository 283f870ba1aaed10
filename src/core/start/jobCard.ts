import { resolveFoam } from "../materials/foams";
import { trim } from "../units/trim";
import { formatQuantity, type UnitSystem } from "../units/units";
import { type Answers, sheetGrams } from "./answers";
import { THINGS } from "./things";
import { EXACT_WORDS, paceFor, WANTED_WORDS } from "./wishes";

/** The questions in their order; each has its line on the job card. */
export const START_STEPS = ["foam", "block", "bench", "care"] as const;
export type StartStep = (typeof START_STEPS)[number];

/**
 * The job as a foreman would pencil it: one line for each question.
 * @param owns whether the drawer holds anything
 */
export function jobCard(answers: Answers, units: UnitSystem, owns: boolean): Readonly<Record<StartStep, string>> {
  const { foam, width_mm, thickness_mm, wanted, pieces, exact, drawer, things, mains } = answers;
  const length = (mm: number) => formatQuantity("length", mm, units);
  const what =
    wanted === "sheets"
      ? `${pieces} ${pieces === 1 ? "sheet" : "sheets"} of ${trim(formatQuantity("kerf", answers.sheet.thick_mm, units))}, about ${formatQuantity("mass", sheetGrams(answers), units, 1)} each`
      : `${WANTED_WORDS[wanted]}, ${pieces} ${pieces === 1 ? "piece" : "pieces"}`;
  const known = THINGS.filter((thing) => things.includes(thing.id)).map((thing) => thing.name);
  const from = [...(drawer && owns ? ["what is in the drawer"] : []), ...known];
  return {
    foam: `Cut ${resolveFoam(foam).name}${foam.weighed ? ", weighed" : ""}${foam.recycled ? ", partly recycled" : ""}.`,
    block: `${length(width_mm)} along the wire, ${length(thickness_mm)} thick, ${what}.`,
    bench: from.length > 0 ? `At hand: ${from.join(", ")}.` : "Nothing at hand: all of it may be bought.",
    care: `${EXACT_WORDS[exact].replace(/^./, (first) => first.toUpperCase())}, at ${formatQuantity("feed", paceFor(answers), units)}; ${mains ? "a transformer may be used" : "nothing on the mains side"}.`,
  };
}
