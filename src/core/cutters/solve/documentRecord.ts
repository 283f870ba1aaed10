import type { DocumentRecord } from "../../kernel/document";
import { DESIGN_KIND } from "../design/fileFormat";
import { designMerger } from "../design/merge";
import type { Design } from "../design/schema";
import { isBlocked } from "./blocked";
import { keepIfValid } from "./evaluate";
import { requireHonestReady } from "./readiness";

export const CUTTER_DOCUMENT: DocumentRecord<Design> = {
  id: "cutters",
  kind: DESIGN_KIND,
  fileExtension: "upwind",
  archivedSince: 1,
  merger: designMerger,
  normalise: (wished) => {
    const valid = keepIfValid(wished);
    // A ready mark does not outlive the safety it was given for.
    return valid.ready === true && isBlocked(valid)
      ? { document: { ...valid, ready: undefined }, notice: "No longer marked ready: this change brings a hazard." }
      : { document: valid };
  },
  validate: requireHonestReady,
};
