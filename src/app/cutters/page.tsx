import { database } from "@/server/db/client";
import { listCutters } from "@/server/repositories/cutters";
import { CutterList } from "@/ui/screens/CutterList";

export const dynamic = "force-dynamic";

export default async function CuttersPage() {
  const db = await database();
  return <CutterList cutters={await listCutters(db)} deleted={await listCutters(db, { deleted: true })} />;
}
