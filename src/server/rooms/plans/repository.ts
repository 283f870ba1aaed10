import type { Plan } from "@/core/plans/plan";
import type { Executor } from "../../kernel/db/client";
import { plans } from "../../kernel/db/schema";
import { type DocumentPage, documentRepository, type Kept, type Unreadable } from "../../kernel/documents";

/** A plan as everything outside the repositories sees it. */
export interface KeptPlan extends Omit<Kept<Plan>, "document"> {
  plan: Plan;
}

/** Plans: listed, kept, copied and put away like every document. */
export const planRepository = documentRepository("plans", plans);
const toPlan = ({ document, ...row }: Kept<Plan>): KeptPlan => ({ ...row, plan: document });

/** Plans last changed first; or those put away that can still be brought back. One unreadable row does not hide the others. */
export async function listPlans(db: Executor, page?: DocumentPage): Promise<{ plans: KeptPlan[]; unreadable: Unreadable[] }> {
  const { readable, unreadable } = await planRepository.list(db, page);
  return { plans: readable.map(toPlan), unreadable };
}

export const countPlans = planRepository.count;
/** @throws ServerError `not-found`, also for one that is put away */
export const getPlan = async (db: Executor, id: string): Promise<KeptPlan> => toPlan(await planRepository.get(db, id));
export const createPlan = async (db: Executor, plan: Plan): Promise<KeptPlan> => toPlan(await planRepository.create(db, plan));
