import { z } from "zod";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import { endpoint, fileText, nothing, pageSchema, revisionSchema, storedFields, unreadableRow } from "../kernel/endpoint";

/** The endpoints that every kind of document has. */
export function documentEndpoints<const Id extends DocumentId, Schema extends z.ZodType>(id: Id, schema: Schema) {
  type One = (typeof DOCUMENT_NAMES)[Id]["one"];
  type Payload = (typeof DOCUMENT_NAMES)[Id]["payload"];
  const { one, payload } = DOCUMENT_NAMES[id];
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
