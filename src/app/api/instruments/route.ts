import { query } from "@/server/http";
import { readInstruments } from "@/server/instruments/readings";

export const dynamic = "force-dynamic";

export const GET = query(async () => Response.json(await readInstruments(process.env)));
