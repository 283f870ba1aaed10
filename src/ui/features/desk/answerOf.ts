import type { Design } from "@/core/cutters/design/schema";
import { type DesignAnswer, evaluateDesign } from "@/core/cutters/solve/evaluate";

const answers = new WeakMap<Design, DesignAnswer>();

/** A design's answer, worked out once however many parts of the desk ask for it. A design is never changed in place: an edit makes a new one. */
export function answerOf(design: Design): DesignAnswer {
  const known = answers.get(design);
  if (known) return known;
  const answer = evaluateDesign(design);
  answers.set(design, answer);
  return answer;
}
