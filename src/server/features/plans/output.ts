import type { z } from "zod";
import type { PLANS } from "@/contract/plans/contract";
import type { Design } from "@/core/cutters/design/schema";
import type { Plan } from "@/core/plans/plan";
import type { Database } from "../../kernel/db/client";
import { ServerError } from "../../kernel/errors";
import { makeFile } from "../../kernel/madeFile";
import { cutterRepository } from "../cutters/repository";
import { planRepository } from "./repository";

/** A plan and the cutter it is meant for, null where that is here no more. @throws ServerError `not-found` */
export async function planWithCutter(db: Database, id: string): Promise<{ plan: Plan; design: Design | null }> {
  const { document: plan } = await planRepository.get(db, id);
  const design = plan.cutter
    ? await cutterRepository.get(db, plan.cutter.id).then(
        (row) => row.document,
        (error) => {
          // A plan outlives its cutter.
          if (error instanceof ServerError && error.code === "not-found") return null;
          throw error;
        },
      )
    : null;
  return { plan, design };
}

/** A plan's templates as a file. @throws CoreError where they cannot be made, ServerError `not-found` */
export async function templatesFile(db: Database, id: string, wanted: z.output<typeof PLANS.templates.request>): Promise<Response> {
  return makeFile("templates", async () => ({ ...(await planWithCutter(db, id)), wanted }));
}

/** The cut sheet of one face of a plan. @throws CoreError where it has no pace, ServerError `not-found` */
export async function cutSheetFile(db: Database, id: string, wanted: z.output<typeof PLANS.sheet.request>): Promise<Response> {
  return makeFile("cutSheet", async () => ({ ...(await planWithCutter(db, id)), wanted }));
}
