import { z } from "zod";
import { requireHonestReady } from "@/core/design/readiness";
import { designSchema } from "@/core/design/schema";
import { database } from "@/server/db/client";
import { mutation, query, readJson } from "@/server/http";
import { createCutter, listCutters } from "@/server/repositories/cutters";

export const GET = query(async () => {
  const db = await database();
  const { cutters } = await listCutters(db);
  const { cutters: deleted } = await listCutters(db, { deleted: true });
  return Response.json({ cutters, deleted });
});

const body = z.strictObject({ design: designSchema });

export const POST = mutation(async (request) => {
  const { design } = await readJson(request, body);
  requireHonestReady(design);
  return Response.json({ cutter: await createCutter(await database(), design) }, { status: 201 });
});
