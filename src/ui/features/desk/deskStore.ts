import type { Design } from "@/core/cutters/design/schema";
import { CUTTER_CHANGES } from "@/core/cutters/solve/changes";
import { api } from "../../kit/api";
import { createDocumentStore, type DocumentStart } from "../../kit/documentStore";

/** The open cutter: edits, undo, autosave with revisions, and the merge of two tabs. */
export const createDeskStore = (start: DocumentStart<Design>) => createDocumentStore(CUTTER_CHANGES, api.cutters, start);
export type DeskStore = ReturnType<typeof createDeskStore>;
