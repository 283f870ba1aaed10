import { z } from "zod";
import { MAX_CSV_CHARACTERS } from "@/core/drawer/things";
import { readJson } from "@/server/kernel/http";

const body = z.strictObject({ text: z.string() });

/** The CSV text of a request; room for the longest file whatever its letters are written as. */
export const readCsvText = async (request: Request) => (await readJson(request, body, 6 * MAX_CSV_CHARACTERS + 1024)).text;
