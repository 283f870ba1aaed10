import { CUTTER_DOCUMENT } from "../cutters/solve/documentRecord";
import type { DocumentRecord } from "../kernel/document";
import type { DocumentId } from "../kernel/documentIds";
import { PLAN_DOCUMENT } from "../plans/documentRecord";
import { RIG_DOCUMENT } from "../rigs/documentRecord";

/** The records of all kinds. A new kind of document is added here and in `DOCUMENT_NAMES`. */
export const DOCUMENTS = {
  cutters: CUTTER_DOCUMENT,
  plans: PLAN_DOCUMENT,
  rigs: RIG_DOCUMENT,
} satisfies { readonly [Id in DocumentId]: unknown };

export type DocumentTypes = { [Id in DocumentId]: (typeof DOCUMENTS)[Id] extends DocumentRecord<infer T> ? T : never };
