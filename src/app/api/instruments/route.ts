import { query } from "@/server/kernel/http";
import { readInstruments } from "@/server/rooms/instruments/readings";

export const dynamic = "force-dynamic";

export const GET = query(async () => Response.json(await readInstruments(process.env)));
