import type { Design } from "../design/schema";
import { type DesignEvaluation, evaluateDesign } from "./evaluate";

export const blocking = (evaluation: DesignEvaluation) => evaluation.cautions.filter((caution) => caution.blocks);

/** True while a hazard keeps this design from being ready. Quicker than `blocksOf` of readiness.ts. */
export function isBlocked(design: Design): boolean {
  return blocking(evaluateDesign(design)).length > 0;
}
