import { z } from "zod";
import { parseOrThrow } from "@/core/design/schema";
import { database } from "@/server/db/client";
import { mutation } from "@/server/http";
import { removeEntry } from "@/server/repositories/log";

const paramsSchema = z.strictObject({ id: z.uuid({ error: "must be an id" }), entry: z.uuid({ error: "must be an id" }) });

export const DELETE = mutation(async (_request, context: { params: Promise<{ id: string; entry: string }> }) => {
  const { id, entry } = parseOrThrow(paramsSchema, await context.params);
  await removeEntry(await database(), id, entry);
  return Response.json({});
});
