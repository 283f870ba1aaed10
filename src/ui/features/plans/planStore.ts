import { PLAN_DOCUMENT } from "@/core/plans/documentRecord";
import type { Plan } from "@/core/plans/plan";
import { api } from "../../kit/api";
import { createDocumentStore, type DocumentStart } from "../../kit/documentStore";

/** The open plan: edits, undo, autosave with revisions, and the merge of two tabs. */
export const createPlanStore = (start: DocumentStart<Plan>) => createDocumentStore(PLAN_DOCUMENT, api.plans, start);
