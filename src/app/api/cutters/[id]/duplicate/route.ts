import { idMutation } from "@/app/api/idRoute";
import { duplicateCutter } from "@/server/repositories/cutters";

export const POST = idMutation(async (db, id) => Response.json({ cutter: await duplicateCutter(db, id) }, { status: 201 }));
