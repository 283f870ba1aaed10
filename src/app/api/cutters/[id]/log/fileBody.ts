import { z } from "zod";
import { MAX_LOG_FILE_CHARACTERS } from "@/core/log/files";
import { readJson } from "@/server/kernel/http";

const body = z.strictObject({ text: z.string() });

/** The text of a log file out of a request; JSON escapes may double its size on the way. */
export const logFileText = async (request: Request): Promise<string> => (await readJson(request, body, 2 * MAX_LOG_FILE_CHARACTERS)).text;
