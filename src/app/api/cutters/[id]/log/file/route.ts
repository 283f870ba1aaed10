import { z } from "zod";
import { idQuery } from "@/app/api/idRoute";
import { fileStem } from "@/core/kernel/fileStem";
import { parseOrThrow } from "@/core/kernel/parse";
import { exportLog } from "@/server/rooms/log/repository";

const asked = z.strictObject({ format: z.enum(["csv", "json"], { error: "must be csv or json" }).default("json") });

/** The whole log: CSV, or JSON with its pictures. */
export const GET = idQuery(async (db, id, request) => {
  const { format } = parseOrThrow(asked, Object.fromEntries(new URL(request.url).searchParams));
  const { name, text } = await exportLog(db, id, format);
  return new Response(text, {
    headers: {
      "content-type": format === "csv" ? "text/csv; charset=utf-8" : "application/json",
      "content-disposition": `attachment; filename="${fileStem(name)}-log.${format}"`,
      "cache-control": "no-store",
    },
  });
});
