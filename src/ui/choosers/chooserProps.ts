import type { DesignAnswer } from "@/core/design/evaluate";
import type { Design } from "@/core/design/schema";

export interface ChooserProps {
  design: Design;
  answer: DesignAnswer;
  /** @param key names the part, so that quick changes undo as one */
  change: (next: Design, key: string) => void;
}
