import { z } from "zod";
import { endpoint, fileText, nothing, pageSchema, revisionSchema, storedFields, unreadableRow } from "../kernel/endpoint";

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
  const row = z.object({ ...storedFields, [payload]: schema } as typeof storedFields & Record<Payload, Schema>);
  const single = z.object({ [one]: row } as Record<One, typeof row>);
  const rows = z.array(row);
  const list = z.object({ [id]: rows, deleted: rows, unreadable: z.array(unreadableRow) } as Record<Id | "deleted", typeof rows> & {
    unreadable: z.ZodArray<typeof unreadableRow>;
  });
  const create = z.strictObject({ [payload]: schema } as Record<Payload, Schema>);
  const save = z.strictObject({ revision: revisionSchema, [payload]: schema } as { revision: typeof revisionSchema } & Record<Payload, Schema>);
  return {
    list: endpoint(pageSchema, list),
    get: endpoint(nothing, single),
    create: endpoint(create, single),
    save: endpoint(save, single),
    remove: endpoint(nothing, single),
    restore: endpoint(nothing, single),
    duplicate: endpoint(nothing, single),
    importFile: endpoint(fileText, single),
  };
}
