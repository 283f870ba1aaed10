import { idMutation } from "@/app/api/idRoute";
import { restoreCutter } from "@/server/rooms/cutters/repository";

export const POST = idMutation(async (db, id) => Response.json({ cutter: await restoreCutter(db, id) }));
