import { z } from "zod";
import { idMutation, idQuery } from "@/app/api/idRoute";
import { parseOrThrow } from "@/core/kernel/parse";
import { entrySchema } from "@/core/log/entries";
import { readJson } from "@/server/kernel/http";
import { addEntry, LOG_PAGE, listLogWhole } from "@/server/rooms/log/repository";

const body = z.strictObject({ entry: entrySchema });

const pageSchema = z.strictObject({
  before: z.iso.datetime({ error: "must be a date and time" }).optional(),
  after: z.uuid({ error: "must be an id" }).optional(),
});

export const GET = idQuery(async (db, id, request) => {
  const { before, after } = parseOrThrow(pageSchema, Object.fromEntries(new URL(request.url).searchParams));
  const { rows, unreadable, older } = await listLogWhole(db, id, { limit: LOG_PAGE, before: before && after ? { at: before, id: after } : undefined });
  return Response.json({ entries: rows, unreadable, older });
});

export const POST = idMutation(async (db, id, request) => {
  const { entry } = await readJson(request, body);
  return Response.json({ row: await addEntry(db, id, entry) }, { status: 201 });
});
