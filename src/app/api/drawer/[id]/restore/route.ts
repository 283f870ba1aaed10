import { idMutation } from "@/app/api/idRoute";
import { restoreItem } from "@/server/repositories/drawer";

export const POST = idMutation(async (db, id) => Response.json({ row: await restoreItem(db, id) }));
