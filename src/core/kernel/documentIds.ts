/** Every kind of document that a workshop stores: the id is its path in the API, its table and its part of an archive; the value is what one is called. */
export const DOCUMENT_NAMES = { cutters: "cutter", plans: "plan", rigs: "rig" } as const;
export type DocumentId = keyof typeof DOCUMENT_NAMES;
export const DOCUMENT_IDS = Object.keys(DOCUMENT_NAMES) as [DocumentId, ...DocumentId[]];
export const isDocumentId = (id: string): id is DocumentId => Object.hasOwn(DOCUMENT_NAMES, id);
