import { cutterMutation } from "@/app/api/cutterRoute";
import { duplicateCutter } from "@/server/repositories/cutters";

export const POST = cutterMutation(async (db, id) => Response.json({ cutter: await duplicateCutter(db, id) }, { status: 201 }));
