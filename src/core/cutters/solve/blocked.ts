import type { Design } from "../design/schema";
import { type DesignAnswer, evaluateDesign } from "./evaluate";

export const blocking = (answer: DesignAnswer) => answer.cautions.filter((caution) => caution.blocks);

/** True while a hazard keeps this design from being ready. Quicker than `blocksOf` of readiness.ts. */
export function isBlocked(design: Design): boolean {
  return blocking(evaluateDesign(design)).length > 0;
}
