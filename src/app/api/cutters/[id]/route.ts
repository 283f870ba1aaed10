import { z } from "zod";
import { idMutation, idQuery } from "@/app/api/idRoute";
import { designSchema } from "@/core/cutters/design/schema";
import { requireHonestReady } from "@/core/cutters/solve/readiness";
import { readJson, revisionSchema } from "@/server/kernel/http";
import { deleteCutter, getCutter, saveCutter } from "@/server/rooms/cutters/repository";

const body = z.strictObject({ revision: revisionSchema, design: designSchema });

export const GET = idQuery(async (db, id) => Response.json({ cutter: await getCutter(db, id) }));

export const PUT = idMutation(async (db, id, request) => {
  const { revision, design } = await readJson(request, body);
  requireHonestReady(design);
  return Response.json({ cutter: await saveCutter(db, id, revision, design) });
});

export const DELETE = idMutation(async (db, id) => Response.json({ cutter: await deleteCutter(db, id) }));
