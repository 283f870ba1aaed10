import { z } from "zod";
import { idQuery } from "@/app/api/idRoute";
import { fileStem } from "@/core/kernel/fileStem";
import { parseOrThrow } from "@/core/kernel/parse";
import { buildSheet } from "@/core/sheets/buildSheet";
import { foamsInUse, getCutter } from "@/server/rooms/cutters/repository";
import { listDrawer } from "@/server/rooms/drawer/repository";
import { sheetPdf } from "@/server/rooms/sheets/sheetPdf";

const query = z.strictObject({ units: z.enum(["metric", "inch"], { error: "must be metric or inch" }).default("metric") });

export const GET = idQuery(async (db, id, request) => {
  const { units } = parseOrThrow(query, Object.fromEntries(new URL(request.url).searchParams));
  const { design } = await getCutter(db, id);
  const drawer = (await listDrawer(db)).map((row) => row.item);
  const pdf = await sheetPdf(buildSheet(design, drawer, await foamsInUse(db), units), units, new Date().toISOString().slice(0, 10));
  return new Response(Buffer.from(pdf), {
    headers: { "content-type": "application/pdf", "content-disposition": `attachment; filename="${fileStem(design.name)}-build-sheet.pdf"` },
  });
});
