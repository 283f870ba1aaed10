import { z } from "zod";
import { parseOrThrow } from "@/core/kernel/parse";
import { query } from "@/server/kernel/http";
import { readBackup } from "@/server/rooms/keeping/store";

const paramsSchema = z.strictObject({ name: z.string().max(100) });

export const GET = query(async (_request, context: { params: Promise<{ name: string }> }) => {
  const { name } = parseOrThrow(paramsSchema, await context.params);
  return new Response(Buffer.from(readBackup(name)), {
    headers: { "content-type": "application/zip", "content-disposition": `attachment; filename="${name}"`, "cache-control": "no-store" },
  });
});
