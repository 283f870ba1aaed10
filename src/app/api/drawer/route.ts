import { z } from "zod";
import { itemSchema } from "@/core/drawer/items";
import { database } from "@/server/kernel/db/client";
import { mutation, query, readJson } from "@/server/kernel/http";
import { addItem, listDrawerWhole } from "@/server/rooms/drawer/repository";

export const GET = query(async () => {
  const { rows, unreadable } = await listDrawerWhole(await database());
  return Response.json({ items: rows, unreadable });
});

const body = z.strictObject({ item: itemSchema });

export const POST = mutation(async (request) => {
  const { item } = await readJson(request, body);
  return Response.json({ row: await addItem(await database(), item) }, { status: 201 });
});
