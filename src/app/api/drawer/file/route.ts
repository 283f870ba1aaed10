import { database } from "@/server/db/client";
import { query } from "@/server/http";
import { exportDrawer } from "@/server/repositories/drawer";

export const GET = query(
  async () =>
    new Response(await exportDrawer(await database()), {
      headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="drawer.csv"' },
    }),
);
