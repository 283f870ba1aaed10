import type { Design } from "@/core/cutters/design/schema";
import type { DesignAnswer } from "@/core/cutters/solve/evaluate";

export interface ChooserProps {
  design: Design;
  answer: DesignAnswer;
  /** @param key names the part, so that quick changes undo as one */
  change: (next: Design, key: string) => void;
}
