import { JUDGEMENT } from "../constants";
import type { Warning } from "../errors";
import type { Relation } from "../provenance";

export const LAG: Relation = {
  id: "lag",
  title: "Bow of the wire in the cut",
  formula: "s = F' b (2L - b)/(8 T); with foam as wide as the span, F' L^2/(8 T)",
  words: "Drag bends a taut wire as a string bends under an even load: twice the span, four times the bow; twice the tension, half.",
  range: "bow below 1/20 of the span; foam in the middle",
  standing: "published",
  source: "statics of the taut string; the drag that loads it is an estimate",
};

/**
 * Mid-span bow of the wire, m.
 * @param dragNPerM load on each metre in the foam
 * @param widthM foam width, centred, at most the span
 */
export function midSpanLag(dragNPerM: number, spanM: number, widthM: number, tensionN: number): { lagM: number; warnings: Warning[] } {
  const lagM = (dragNPerM * widthM * (2 * spanM - widthM)) / (8 * tensionN);
  const warnings: Warning[] = [];
  if (lagM > spanM * JUDGEMENT.lagValidBelowSpanShare) {
    warnings.push({ code: "lag-out-of-range", message: "the bow is past a twentieth of the span: the taut-string figure is only a lower bound" });
  }
  return { lagM, warnings };
}
