import type { Design } from "../cutters/design/schema";
import { CUTTER_DOCUMENT } from "../cutters/solve/documentRecord";
import type { DocumentRecord } from "../kernel/document";
import type { DocumentId } from "../kernel/documentIds";
import { PLAN_DOCUMENT } from "../plans/documentRecord";
import type { Plan } from "../plans/plan";
import { RIG_DOCUMENT } from "../rigs/documentRecord";
import type { RigDocument } from "../rigs/rig";

export interface DocumentTypes {
  cutters: Design;
  plans: Plan;
  rigs: RigDocument;
}

/** The records of all kinds. A new kind of document is added here, in `DocumentTypes` and in `DOCUMENT_NAMES`. */
export const DOCUMENTS: { readonly [Id in DocumentId]: DocumentRecord<DocumentTypes[Id]> } = {
  cutters: CUTTER_DOCUMENT,
  plans: PLAN_DOCUMENT,
  rigs: RIG_DOCUMENT,
};
