import { z } from "zod";
import { designSchema } from "@/core/cutters/design/schema";
import { exchange, fileText, idSchema, nothing, revisionSchema, unreadableRow } from "../kernel/exchange";

/** A cutter as it crosses the door. */
export const cutterRow = z.object({
  id: idSchema,
  design: designSchema,
  revision: revisionSchema,
  updatedAt: z.iso.datetime(),
  deletedAt: z.iso.datetime().nullable(),
});
export type CutterRow = z.output<typeof cutterRow>;

const one = z.object({ cutter: cutterRow });

/** Page of a list, in the address. */
const page = z.strictObject({
  limit: z.coerce.number().int().min(1).max(2000).default(200),
  offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
});

export const CUTTERS = {
  list: exchange(page, z.object({ cutters: z.array(cutterRow), deleted: z.array(cutterRow), unreadable: z.array(unreadableRow) })),
  get: exchange(nothing, one),
  create: exchange(z.strictObject({ design: designSchema }), one),
  save: exchange(z.strictObject({ revision: revisionSchema, design: designSchema }), one),
  remove: exchange(nothing, one),
  restore: exchange(nothing, one),
  duplicate: exchange(nothing, one),
  importFile: exchange(fileText, one),
  sheet: exchange(z.strictObject({ units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric") }), z.unknown()),
};
