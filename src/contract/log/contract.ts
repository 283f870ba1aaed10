import { z } from "zod";
import { entrySchema } from "@/core/log/entries";
import { endpoint, fileText, idSchema, nothing, revisionSchema, unreadableRow } from "../kernel/endpoint";

/** A log entry as the API carries it. */
export const logRow = z.object({ id: idSchema, entry: entrySchema, revision: revisionSchema, changedBy: z.string().nullable().default(null) });
export type LogRow = z.output<typeof logRow>;

/** What a line of a log file would become, or why it is not taken. */
const fileRow = z.discriminatedUnion("status", [
  z.object({ line: z.int(), status: z.enum(["new", "known"]), entry: entrySchema, picture: z.string().optional() }),
  z.object({ line: z.int(), status: z.literal("refused"), path: z.string(), message: z.string() }),
]);
const one = z.object({ row: logRow });
const rows = z.object({ rows: z.array(fileRow) });

export const LOG = {
  list: endpoint(
    z.strictObject({
      before: z.iso.datetime({ error: "must be a date and time" }).optional(),
      after: idSchema.optional(),
    }),
    z.object({ entries: z.array(logRow), unreadable: z.array(unreadableRow), older: z.boolean() }),
  ),
  /** `id` is chosen by a page that may have to send it again: it is kept once. */
  add: endpoint(z.strictObject({ entry: entrySchema, id: idSchema.optional() }), one),
  save: endpoint(z.strictObject({ revision: revisionSchema, entry: entrySchema }), one),
  remove: endpoint(nothing, z.object({})),
  preview: endpoint(fileText, rows),
  importFile: endpoint(fileText, rows),
  addPhoto: endpoint(nothing, z.object({ id: idSchema })),
  file: endpoint(z.strictObject({ format: z.enum(["csv", "json"], { error: "must be csv or json" }).default("json") }), z.unknown()),
};
