import { idMutation } from "@/app/api/idRoute";
import { restoreItem } from "@/server/rooms/drawer/repository";

export const POST = idMutation(async (db, id) => Response.json({ row: await restoreItem(db, id) }));
