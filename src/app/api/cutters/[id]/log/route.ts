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
  const { rows, unreadable, seen } = await listLogWhole(db, id, { limit: LOG_PAGE + 1, before: before && after ? { at: before, id: after } : undefined });
  // One more than a page was asked for, to tell whether there are more: it is kept back.
  return Response.json({ entries: seen > LOG_PAGE ? rows.slice(0, LOG_PAGE - unreadable.length) : rows, unreadable, older: seen > LOG_PAGE });
});

export const POST = idMutation(async (db, id, request) => {
  const { entry } = await readJson(request, body);
  return Response.json({ row: await addEntry(db, id, entry) }, { status: 201 });
});
