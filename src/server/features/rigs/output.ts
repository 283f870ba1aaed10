import type { z } from "zod";
import type { RIGS } from "@/contract/rigs/contract";
import type { Design } from "@/core/cutters/design/schema";
import type { StoredDocument } from "@/core/kernel/document";
import type { Plan } from "@/core/plans/plan";
import type { RigDocument } from "@/core/rigs/rig";
import type { Database } from "../../kernel/db/client";
import { ServerError } from "../../kernel/errors";
import { makeFile } from "../../kernel/madeFile";
import { cutterRepository } from "../cutters/repository";
import { planRepository } from "../plans/repository";
import { rigRepository } from "./repository";

const orNull = (error: unknown) => {
  if (error instanceof ServerError && error.code === "not-found") return null;
  throw error;
};

/** The cutter and the plan that a rig names, as far as they are here still. */
export async function linkedDocuments(db: Database, rig: RigDocument): Promise<{ cutter: StoredDocument<Design> | null; plan: StoredDocument<Plan> | null }> {
  return {
    cutter: rig.cutter ? await cutterRepository.get(db, rig.cutter.id).catch(orNull) : null,
    plan: rig.plan ? await planRepository.get(db, rig.plan.id).catch(orNull) : null,
  };
}

/** A rig's drawing as a file. @throws CoreError where it cannot be built, ServerError `not-found` */
export async function rigFile(db: Database, id: string, wanted: z.output<typeof RIGS.drawing.request>): Promise<Response> {
  return makeFile("rig", async () => {
    const { document } = await rigRepository.get(db, id);
    const { cutter, plan } = await linkedDocuments(db, document);
    return { document, design: cutter?.document ?? null, plan: plan?.document ?? null, wanted };
  });
}
