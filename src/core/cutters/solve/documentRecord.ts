import type { DocumentRecord } from "../../kernel/document";
import { DESIGN_KIND } from "../design/fileFormat";
import type { Design } from "../design/schema";
import { CUTTER_CHANGES } from "./changes";
import { requireHonestReady } from "./readiness";

export const CUTTER_DOCUMENT: DocumentRecord<Design> = {
  ...CUTTER_CHANGES,
  kind: DESIGN_KIND,
  fileExtension: "upwind",
  archivedSince: 1,
  validate: requireHonestReady,
};
