import { idMutation } from "@/app/api/idRoute";
import { duplicateCutter } from "@/server/rooms/cutters/repository";

export const POST = idMutation(async (db, id) => Response.json({ cutter: await duplicateCutter(db, id) }, { status: 201 }));
