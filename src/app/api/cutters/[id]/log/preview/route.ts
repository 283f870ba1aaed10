import { idMutation } from "@/app/api/idRoute";
import { previewLog } from "@/server/rooms/log/repository";
import { logFileText } from "../fileBody";

export const POST = idMutation(async (db, id, request) => Response.json({ rows: await previewLog(db, id, await logFileText(request)) }));
