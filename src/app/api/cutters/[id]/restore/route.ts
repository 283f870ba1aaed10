import { cutterMutation } from "@/app/api/cutterRoute";
import { restoreCutter } from "@/server/repositories/cutters";

export const POST = cutterMutation(async (db, id) => Response.json({ cutter: await restoreCutter(db, id) }));
