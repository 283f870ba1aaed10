import { idQuery } from "@/app/api/idRoute";
import { exportDesign } from "@/core/design/fileFormat";
import { getCutter } from "@/server/repositories/cutters";

/** A file name any system takes: letters, digits and dashes of the cutter's name. */
function fileName(name: string): string {
  const stem = name
    .normalize("NFKD")
    .replaceAll(/[^A-Za-z0-9]+/g, "-")
    .replaceAll(/^-+|-+$/g, "")
    .toLowerCase();
  return `${stem || "cutter"}.upwind.json`;
}

export const GET = idQuery(async (db, id) => {
  const { design } = await getCutter(db, id);
  return new Response(exportDesign(design), {
    headers: { "content-type": "application/json; charset=utf-8", "content-disposition": `attachment; filename="${fileName(design.name)}"` },
  });
});
