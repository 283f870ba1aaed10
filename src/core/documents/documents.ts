import { DESIGN_KIND } from "../cutters/design/fileFormat";
import type { Design } from "../cutters/design/schema";
import { requireHonestReady } from "../cutters/solve/readiness";
import type { DocumentKind } from "../kernel/document";
import type { DocumentId } from "../kernel/documentIds";
import { PLAN_KIND, type Plan } from "../plans/plan";
import { RIG_DOCUMENT, type RigDocument } from "../rigs/rig";

/** What every document says of itself. */
export interface AnyDocument {
  format: string;
  version: number;
  name: string;
}

/** Everything that the server derives of one kind of document: routes, table, archive part, checks. */
export interface DocumentRecord<T extends AnyDocument> {
  /** Format, schema and upgrades. */
  kind: DocumentKind<T>;
  /** Key that holds the document in a response, in a request and in its table: an outside interface. New kinds use `document`. */
  payload: string;
  /** Of its files, before `.json`. */
  fileExtension: string;
  /** First version of archives that has it. */
  archivedSince: number;
  /** What a document must satisfy beyond its schema before it is stored. @throws CoreError with the path of the field at fault */
  validate?: (document: T) => void;
}

export interface DocumentTypes {
  cutters: Design;
  plans: Plan;
  rigs: RigDocument;
}

/** The records of all kinds. A new kind of document is added here and in `DocumentTypes`. */
export const DOCUMENTS: { readonly [Id in DocumentId]: DocumentRecord<DocumentTypes[Id]> } = {
  cutters: { kind: DESIGN_KIND, payload: "design", fileExtension: "upwind", archivedSince: 1, validate: requireHonestReady },
  plans: { kind: PLAN_KIND, payload: "plan", fileExtension: "upwind-plan", archivedSince: 2 },
  rigs: { kind: RIG_DOCUMENT, payload: "rig", fileExtension: "upwind-rig", archivedSince: 3 },
};
