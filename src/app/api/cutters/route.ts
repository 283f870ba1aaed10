import { z } from "zod";
import { designSchema } from "@/core/design/schema";
import { database } from "@/server/db/client";
import { mutation, query, readJson } from "@/server/http";
import { createCutter, listCutters } from "@/server/repositories/cutters";

export const GET = query(async () => {
  const db = await database();
  return Response.json({ cutters: await listCutters(db), deleted: await listCutters(db, { deleted: true }) });
});

const body = z.strictObject({ design: designSchema });

export const POST = mutation(async (request) => {
  const { design } = await readJson(request, body);
  return Response.json({ cutter: await createCutter(await database(), design) }, { status: 201 });
});
