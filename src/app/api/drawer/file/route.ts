import { database } from "@/server/kernel/db/client";
import { query } from "@/server/kernel/http";
import { exportDrawer } from "@/server/rooms/drawer/repository";

export const GET = query(
  async () =>
    new Response(await exportDrawer(await database()), {
      headers: { "content-type": "text/csv; charset=utf-8", "content-disposition": 'attachment; filename="drawer.csv"' },
    }),
);
