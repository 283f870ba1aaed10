import { z } from "zod";
import { importDesign } from "@/core/cutters/design/fileFormat";
import { MAX_FILE_CHARACTERS } from "@/core/cutters/design/vocabulary";
import { requireHonestReady } from "@/core/cutters/solve/readiness";
import { database } from "@/server/kernel/db/client";
import { mutation, readJson } from "@/server/kernel/http";
import { createCutter } from "@/server/rooms/cutters/repository";

const body = z.strictObject({ text: z.string() });

/** Takes the text of a design file; JSON escapes may double its size on the way. */
export const POST = mutation(async (request) => {
  const { text } = await readJson(request, body, 4 * MAX_FILE_CHARACTERS);
  const design = importDesign(text);
  requireHonestReady(design);
  return Response.json({ cutter: await createCutter(await database(), design) }, { status: 201 });
});
