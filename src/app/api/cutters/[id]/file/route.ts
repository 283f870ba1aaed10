import { idQuery } from "@/app/api/idRoute";
import { exportDesign } from "@/core/cutters/design/fileFormat";
import { fileStem } from "@/core/kernel/fileStem";
import { getCutter } from "@/server/rooms/cutters/repository";

export const GET = idQuery(async (db, id) => {
  const { design } = await getCutter(db, id);
  return new Response(exportDesign(design), {
    headers: { "content-type": "application/json; charset=utf-8", "content-disposition": `attachment; filename="${fileStem(design.name)}.upwind.json"` },
  });
});
