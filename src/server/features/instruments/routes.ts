import { INSTRUMENTS } from "@/contract/instruments/contract";
import { query } from "../../kernel/http";
import { jsonResponse } from "../../kernel/route";
import { readInstruments } from "./readings";

/** What the route about instruments does. */
export const instrumentsRoutes = { read: query(async () => jsonResponse(INSTRUMENTS.read, await readInstruments(process.env))) };
