import type { DocumentRecord } from "../../kernel/document";
import { designMerger } from "../design/merge";
import type { Design } from "../design/schema";
import { isBlocked } from "./blocked";
import { keepIfValid } from "./evaluate";

/** How cutters change and are merged: what a page needs of their record, without the schema that reads files. */
export const CUTTER_CHANGES: Pick<DocumentRecord<Design>, "id" | "merger" | "normalise"> = {
  id: "cutters",
  merger: designMerger,
  normalise: (wished) => {
    const valid = keepIfValid(wished);
    // A ready mark does not outlive the safety it was given for.
    return valid.ready === true && isBlocked(valid)
      ? { document: { ...valid, ready: undefined }, notice: "No longer marked ready: this change brings a hazard." }
      : { document: valid };
  },
};
