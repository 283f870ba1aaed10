import { z } from "zod";
import { idMutation } from "@/app/api/idRoute";
import { itemSchema } from "@/core/drawer/items";
import { readJson, revisionSchema } from "@/server/kernel/http";
import { removeItem, saveItem } from "@/server/rooms/drawer/repository";

const body = z.strictObject({ revision: revisionSchema, item: itemSchema });

export const PUT = idMutation(async (db, id, request) => {
  const { revision, item } = await readJson(request, body);
  return Response.json({ row: await saveItem(db, id, revision, item) });
});

export const DELETE = idMutation(async (db, id) => {
  await removeItem(db, id);
  return Response.json({});
});
