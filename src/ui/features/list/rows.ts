import type { Design } from "@/core/cutters/design/schema";
import type { CutterKind } from "@/core/cutters/design/vocabulary";
import { KINDS } from "@/core/cutters/solve/defaults";
import { describeVerdict, VERDICT_WORD } from "@/core/cutters/solve/describe";
import { type DesignVerdict, evaluateDesign } from "@/core/cutters/solve/evaluate";
import type { StoredDocument } from "@/core/kernel/document";
import { trim } from "@/core/units/trim";
import { formatQuantity, type Quantity, type UnitSystem } from "@/core/units/units";
import { wireWords } from "../../cutter/words";

/** A cutter as the list shows it, in either units: solved where the list is made, so that a browser need not bring the physics along. */
export interface ListedCutter {
  id: string;
  name: string;
  kind: CutterKind;
  changedBy: string | null;
  verdict: DesignVerdict;
  verdictWord: string;
  said: Record<UnitSystem, { line: string; detail: string }>;
}

export function listedCutter({ id, document: design, changedBy }: Pick<StoredDocument<Design>, "id" | "document" | "changedBy">): ListedCutter {
  const evaluation = evaluateDesign(design);
  const said = (system: UnitSystem) => {
    const show = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, system, decimals);
    return {
      line: `${KINDS[design.kind].name}: ${evaluation.pair.foam.name}, ${trim(show("length", design.job.width_mm))} wide at ${trim(show("feed", design.job.feed_mm_s))}, ${wireWords(design, show)}`,
      detail: describeVerdict(design, evaluation, system).detail,
    };
  };
  return {
    id,
    name: design.name,
    kind: design.kind,
    changedBy,
    verdict: evaluation.verdict,
    verdictWord: VERDICT_WORD[evaluation.verdict],
    said: { metric: said("metric"), inch: said("inch") },
  };
}
