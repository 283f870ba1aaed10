import { readCsvText } from "@/app/api/drawer/csvBody";
import { database } from "@/server/db/client";
import { mutation } from "@/server/http";
import { importDrawer } from "@/server/repositories/drawer";

export const POST = mutation(async (request) => Response.json({ rows: await importDrawer(await database(), await readCsvText(request)) }));
