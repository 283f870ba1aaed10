import type { Design } from "@/core/cutters/design/schema";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";

export interface ChooserProps {
  design: Design;
  evaluation: DesignEvaluation;
  /** @param key names the part, so that quick changes undo as one */
  change: (next: Design, key: string) => void;
}
