import { z } from "zod";
import { idMutation, idQuery } from "@/app/api/idRoute";
import { requireHonestReady } from "@/core/design/readiness";
import { designSchema } from "@/core/design/schema";
import { readJson, revisionSchema } from "@/server/http";
import { deleteCutter, getCutter, saveCutter } from "@/server/repositories/cutters";

const body = z.strictObject({ revision: revisionSchema, design: designSchema });

export const GET = idQuery(async (db, id) => Response.json({ cutter: await getCutter(db, id) }));

export const PUT = idMutation(async (db, id, request) => {
  const { revision, design } = await readJson(request, body);
  requireHonestReady(design);
  return Response.json({ cutter: await saveCutter(db, id, revision, design) });
});

export const DELETE = idMutation(async (db, id) => Response.json({ cutter: await deleteCutter(db, id) }));
