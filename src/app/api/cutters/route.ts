import { z } from "zod";
import { requireHonestReady } from "@/core/design/readiness";
import { designSchema, parseOrThrow } from "@/core/design/schema";
import { database } from "@/server/db/client";
import { mutation, query, readJson } from "@/server/http";
import { createCutter, listCutters } from "@/server/repositories/cutters";

const pageSchema = z.strictObject({
  limit: z.coerce.number().int().min(1).max(2000).default(200),
  offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
});

export const GET = query(async (request: Request) => {
  const db = await database();
  const page = parseOrThrow(pageSchema, Object.fromEntries(new URL(request.url).searchParams));
  const { cutters } = await listCutters(db, page);
  const { cutters: deleted } = await listCutters(db, { ...page, deleted: true });
  return Response.json({ cutters, deleted });
});

const body = z.strictObject({ design: designSchema });

export const POST = mutation(async (request) => {
  const { design } = await readJson(request, body);
  requireHonestReady(design);
  return Response.json({ cutter: await createCutter(await database(), design) }, { status: 201 });
});
