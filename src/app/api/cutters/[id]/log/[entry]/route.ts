import { z } from "zod";
import { parseOrThrow } from "@/core/kernel/parse";
import { entrySchema } from "@/core/log/entries";
import { database } from "@/server/kernel/db/client";
import { mutation, readJson, revisionSchema } from "@/server/kernel/http";
import { removeEntry, saveEntry } from "@/server/rooms/log/repository";

const paramsSchema = z.strictObject({ id: z.uuid({ error: "must be an id" }), entry: z.uuid({ error: "must be an id" }) });
const body = z.strictObject({ revision: revisionSchema, entry: entrySchema });

interface Context {
  params: Promise<{ id: string; entry: string }>;
}

export const PUT = mutation(async (request, context: Context) => {
  const { id, entry } = parseOrThrow(paramsSchema, await context.params);
  const { revision, entry: next } = await readJson(request, body);
  return Response.json({ row: await saveEntry(await database(), id, entry, revision, next) });
});

export const DELETE = mutation(async (_request, context: Context) => {
  const { id, entry } = parseOrThrow(paramsSchema, await context.params);
  await removeEntry(await database(), id, entry);
  return Response.json({});
});
