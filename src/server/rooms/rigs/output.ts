import type { z } from "zod";
import type { RIGS } from "@/contract/rigs/contract";
import type { Design } from "@/core/cutters/design/schema";
import type { Plan } from "@/core/plans/plan";
import type { RigDocument } from "@/core/rigs/rig";
import type { Database } from "../../kernel/db/client";
import { ServerError } from "../../kernel/errors";
import { makeFile } from "../../kernel/madeFile";
import { getCutter } from "../cutters/repository";
import { getPlan } from "../plans/repository";
import { rigRepository } from "./repository";

const orNull = (error: unknown) => {
  if (error instanceof ServerError && error.code === "not-found") return null;
  throw error;
};

/** The cutter and the plan that a rig names, as far as they are here still. */
export async function belongings(db: Database, rig: RigDocument): Promise<{ design: Design | null; plan: Plan | null }> {
  return {
    design: rig.cutter ? await getCutter(db, rig.cutter.id).then((row) => row.design, orNull) : null,
    plan: rig.plan ? await getPlan(db, rig.plan.id).then((row) => row.plan, orNull) : null,
  };
}

/** A rig's drawing as a file. @throws CoreError where it cannot be built, ServerError `not-found` */
export async function rigFile(db: Database, id: string, wanted: z.output<typeof RIGS.drawing.question>): Promise<Response> {
  return makeFile("rig", async () => {
    const { document } = await rigRepository.get(db, id);
    return { document, ...(await belongings(db, document)), wanted };
  });
}
