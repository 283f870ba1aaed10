import { readCsvText } from "@/app/api/drawer/csvBody";
import { database } from "@/server/kernel/db/client";
import { mutation } from "@/server/kernel/http";
import { importDrawer } from "@/server/rooms/drawer/repository";

export const POST = mutation(async (request) => Response.json({ rows: await importDrawer(await database(), await readCsvText(request)) }));
