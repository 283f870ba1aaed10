import { z } from "zod";
import { designSchema } from "@/core/cutters/design/schema";
import { exchange, fileText, keptFields, nothing, pageSchema, revisionSchema, unreadableRow } from "../kernel/exchange";

/** A cutter as it crosses the door. */
export const cutterRow = z.object({ ...keptFields, design: designSchema });
export type CutterRow = z.output<typeof cutterRow>;

const one = z.object({ cutter: cutterRow });

export const CUTTERS = {
  list: exchange(pageSchema, z.object({ cutters: z.array(cutterRow), deleted: z.array(cutterRow), unreadable: z.array(unreadableRow) })),
  get: exchange(nothing, one),
  create: exchange(z.strictObject({ design: designSchema }), one),
  save: exchange(z.strictObject({ revision: revisionSchema, design: designSchema }), one),
  remove: exchange(nothing, one),
  restore: exchange(nothing, one),
  duplicate: exchange(nothing, one),
  importFile: exchange(fileText, one),
  sheet: exchange(z.strictObject({ units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric") }), z.unknown()),
};
