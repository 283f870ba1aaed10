/** Steps of a plan after the part itself, by their word in the address. Read by pages on the server too. */
export const PLAN_STEPS = ["ends", "templates", "pace", "blank", "out", "cut", "finish", "practice"] as const;
export type PlanStep = "part" | (typeof PLAN_STEPS)[number];
export const STEP_WORDS: Readonly<Record<PlanStep, string>> = {
  part: "Part",
  ends: "Ends",
  templates: "Templates",
  pace: "Pace",
  blank: "Blank",
  out: "Export",
  cut: "Pacer",
  finish: "Finish",
  practice: "Practice",
};

/** Whether an address's words after the plan lead anywhere. */
export const isStep = (place: readonly string[]): boolean =>
  place.length === 0 || (place.length === 1 && (PLAN_STEPS as readonly string[]).includes(place[0] as string));
