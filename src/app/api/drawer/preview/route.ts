import { readCsvText } from "@/app/api/drawer/csvBody";
import { database } from "@/server/db/client";
import { mutation } from "@/server/http";
import { previewImport } from "@/server/repositories/drawer";

export const POST = mutation(async (request) => Response.json({ rows: await previewImport(await database(), await readCsvText(request)) }));
