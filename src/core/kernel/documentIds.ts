/**
 * Every kind of document that a workshop stores: the id is its path in the API, its table and its part of an archive. `one` is what one is called, and the key of a single row in a response; `payload` is the key of the
 * document in a row and in a request: an outside interface. New kinds use `document`.
 */
export const DOCUMENT_NAMES = {
  cutters: { one: "cutter", payload: "design" },
  plans: { one: "plan", payload: "plan" },
  rigs: { one: "rig", payload: "rig" },
} as const;
export type DocumentId = keyof typeof DOCUMENT_NAMES;
export const DOCUMENT_IDS = Object.keys(DOCUMENT_NAMES) as [DocumentId, ...DocumentId[]];
/** One value for each kind. */
export const mapKinds = <V>(value: (id: DocumentId) => V) => Object.fromEntries(DOCUMENT_IDS.map((id) => [id, value(id)])) as { [Id in DocumentId]: V };
export const isDocumentId = (id: string): id is DocumentId => Object.hasOwn(DOCUMENT_NAMES, id);
