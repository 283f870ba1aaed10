import { RIG_DOCUMENT } from "@/core/rigs/documentRecord";
import type { RigDocument } from "@/core/rigs/rig";
import { api } from "../../kit/api";
import { createDocumentStore, type DocumentStart } from "../../kit/documentStore";

/** The open rig: edits, undo, autosave with revisions, and the merge of two tabs. */
export const createRigStore = (start: DocumentStart<RigDocument>) => createDocumentStore(RIG_DOCUMENT, api.rigs, start);
