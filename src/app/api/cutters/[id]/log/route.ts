import { z } from "zod";
import { idMutation, idQuery } from "@/app/api/idRoute";
import { entrySchema } from "@/core/log/entries";
import { readJson } from "@/server/http";
import { addEntry, listLog } from "@/server/repositories/log";

const body = z.strictObject({ entry: entrySchema });

export const GET = idQuery(async (db, id) => Response.json({ entries: await listLog(db, id) }));

export const POST = idMutation(async (db, id, request) => {
  const { entry } = await readJson(request, body);
  return Response.json({ row: await addEntry(db, id, entry) }, { status: 201 });
});
