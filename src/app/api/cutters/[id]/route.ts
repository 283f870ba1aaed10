import { z } from "zod";
import { cutterMutation, cutterQuery } from "@/app/api/cutterRoute";
import { designSchema } from "@/core/design/schema";
import { readJson } from "@/server/http";
import { deleteCutter, getCutter, saveCutter } from "@/server/repositories/cutters";

const body = z.strictObject({ revision: z.int().min(1), design: designSchema });

export const GET = cutterQuery(async (db, id) => Response.json({ cutter: await getCutter(db, id) }));

export const PUT = cutterMutation(async (db, id, request) => {
  const { revision, design } = await readJson(request, body);
  return Response.json({ cutter: await saveCutter(db, id, revision, design) });
});

export const DELETE = cutterMutation(async (db, id) => Response.json({ cutter: await deleteCutter(db, id) }));
