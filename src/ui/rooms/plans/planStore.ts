import { type Plan, planMerger } from "@/core/plans/plan";
import { api, type PlanRow } from "../../kit/api";
import { createDocumentStore, type KeptRow, type StoreKind } from "../../kit/documentStore";

const rowOf = ({ plan, ...row }: PlanRow): KeptRow<Plan> => ({ ...row, document: plan });

/** A plan as an open document. */
const KIND: StoreKind<Plan> = {
  ...planMerger,
  key: "plan",
  table: "plans",
  settle: (wished) => ({ document: wished }),
  renamed: (plan) => ({ ...plan, name: `${plan.name.slice(0, 66)}, my version` }),
  get: (id) => api.plans.get(id).then(rowOf),
  save: (id, revision, plan, keepalive) => api.plans.save(id, revision, plan, keepalive).then(rowOf),
  create: (plan) => api.plans.create(plan),
  rowOf: (current) => rowOf(current as PlanRow),
};

export interface PlanStart {
  id: string;
  plan: Plan;
  revision: number;
  updatedAt: string;
}

/** The open plan: edits, undo, autosave with revisions, and the meeting of two tabs. */
export const createPlanStore = ({ plan, ...start }: PlanStart) => createDocumentStore(KIND, { ...start, document: plan });
