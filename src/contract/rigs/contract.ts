import { z } from "zod";
import { rigDocumentSchema } from "@/core/rigs/rig";
import { exchange, fileText, keptFields, nothing, pageSchema, revisionSchema, unreadableRow } from "../kernel/exchange";

/** A rig as it crosses the door. */
export const rigRow = z.object({ ...keptFields, rig: rigDocumentSchema });
export type RigRow = z.output<typeof rigRow>;

const one = z.object({ rig: rigRow });
const OUTPUTS = ["svg", "dxf", "pdf"] as const;

export const RIGS = {
  list: exchange(pageSchema, z.object({ rigs: z.array(rigRow), deleted: z.array(rigRow), unreadable: z.array(unreadableRow) })),
  get: exchange(nothing, one),
  create: exchange(z.strictObject({ rig: rigDocumentSchema }), one),
  save: exchange(z.strictObject({ revision: revisionSchema, rig: rigDocumentSchema }), one),
  remove: exchange(nothing, one),
  restore: exchange(nothing, one),
  duplicate: exchange(nothing, one),
  importFile: exchange(fileText, one),
  /** Its drawing at full size, or the build sheet with the drawing to scale. */
  drawing: exchange(
    z.strictObject({
      as: z.enum(OUTPUTS, { error: `must be one of ${OUTPUTS.join(", ")}` }),
      units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric"),
    }),
    z.unknown(),
  ),
};
