import type { DocumentRecord } from "../kernel/document";
import { PLAN_KIND, type Plan, planMerger } from "./plan";

export const PLAN_DOCUMENT: DocumentRecord<Plan> = {
  id: "plans",
  kind: PLAN_KIND,
  fileExtension: "upwind-plan",
  archivedSince: 2,
  merger: planMerger,
};
