import { z } from "zod";
import { designSchema } from "@/core/cutters/design/schema";
import { requireHonestReady } from "@/core/cutters/solve/readiness";
import { parseOrThrow } from "@/core/kernel/parse";
import { database } from "@/server/kernel/db/client";
import { mutation, query, readJson } from "@/server/kernel/http";
import { createCutter, listCutters } from "@/server/rooms/cutters/repository";

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
