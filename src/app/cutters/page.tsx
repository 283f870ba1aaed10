import { database } from "@/server/db/client";
import { listCutters } from "@/server/repositories/cutters";
import { CutterList } from "@/ui/screens/CutterList";

export const dynamic = "force-dynamic";

export default async function CuttersPage() {
  const db = await database();
  const { cutters, unreadable } = await listCutters(db);
  const { cutters: deleted } = await listCutters(db, { deleted: true });
  return <CutterList cutters={cutters} deleted={deleted} unreadable={unreadable} />;
}
