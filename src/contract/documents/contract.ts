import { z } from "zod";
import { exchange, fileText, keptFields, nothing, pageSchema, revisionSchema, unreadableRow } from "../kernel/exchange";

/**
 * The endpoints that every kind of document has.
 * @param id key of a list of rows; `one` of a single row; `payload` of the document in a row and in a request
 */
export function documentEndpoints<const Id extends string, const One extends string, const Payload extends string, Schema extends z.ZodType>(
  id: Id,
  one: One,
  payload: Payload,
  schema: Schema,
) {
  const row = z.object({ ...keptFields, [payload]: schema } as typeof keptFields & Record<Payload, Schema>);
  const single = z.object({ [one]: row } as Record<One, typeof row>);
  const rows = z.array(row);
  const list = z.object({ [id]: rows, deleted: rows, unreadable: z.array(unreadableRow) } as Record<Id | "deleted", typeof rows> & {
    unreadable: z.ZodArray<typeof unreadableRow>;
  });
  const create = z.strictObject({ [payload]: schema } as Record<Payload, Schema>);
  const save = z.strictObject({ revision: revisionSchema, [payload]: schema } as { revision: typeof revisionSchema } & Record<Payload, Schema>);
  return {
    list: exchange(pageSchema, list),
    get: exchange(nothing, single),
    create: exchange(create, single),
    save: exchange(save, single),
    remove: exchange(nothing, single),
    restore: exchange(nothing, single),
    duplicate: exchange(nothing, single),
    importFile: exchange(fileText, single),
  };
}
