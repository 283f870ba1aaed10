import type { DocumentRecord } from "../kernel/document";
import { RIG_KIND, type RigDocument, rigMerger } from "./rig";

export const RIG_DOCUMENT: DocumentRecord<RigDocument> = {
  id: "rigs",
  kind: RIG_KIND,
  fileExtension: "upwind-rig",
  archivedSince: 3,
  merger: rigMerger,
};
