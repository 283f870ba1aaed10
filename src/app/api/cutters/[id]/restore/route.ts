import { idMutation } from "@/app/api/idRoute";
import { restoreCutter } from "@/server/repositories/cutters";

export const POST = idMutation(async (db, id) => Response.json({ cutter: await restoreCutter(db, id) }));
