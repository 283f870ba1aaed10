import { INSTRUMENTS } from "@/contract/instruments/contract";
import { told } from "../../kernel/door";
import { query } from "../../kernel/http";
import { readInstruments } from "./readings";

/** What the route about instruments does. */
export const instrumentsDoor = { read: query(async () => told(INSTRUMENTS.read, await readInstruments(process.env))) };
