import type { Design } from "@/core/cutters/design/schema";
import { type DesignEvaluation, evaluateDesign } from "@/core/cutters/solve/evaluate";

const answers = new WeakMap<Design, DesignEvaluation>();

/** A design's answer, worked out once however many parts of the desk ask for it. A design is never changed in place: an edit makes a new one. */
export function evaluationOf(design: Design): DesignEvaluation {
  const known = answers.get(design);
  if (known) return known;
  const evaluation = evaluateDesign(design);
  answers.set(design, evaluation);
  return evaluation;
}
