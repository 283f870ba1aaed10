import { idMutation } from "@/app/api/idRoute";
import { importLog } from "@/server/rooms/log/repository";
import { logFileText } from "../fileBody";

export const POST = idMutation(async (db, id, request) => Response.json({ rows: await importLog(db, id, await logFileText(request)) }));
