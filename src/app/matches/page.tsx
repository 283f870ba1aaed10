import { jobOf } from "@/core/design/job";
import { holdingsOf } from "@/core/drawer/holdings";
import { matchMatrix } from "@/core/drawer/matches";
import { database } from "@/server/db/client";
import { listCutters } from "@/server/repositories/cutters";
import { listDrawer } from "@/server/repositories/drawer";
import { Matches } from "@/ui/screens/Matches";

export const dynamic = "force-dynamic";

export default async function MatchesPage({ searchParams }: { searchParams: Promise<{ cutter?: string }> }) {
  const db = await database();
  const { cutters } = await listCutters(db);
  const drawer = await listDrawer(db);
  const wanted = (await searchParams).cutter;
  const first = cutters.find((row) => row.id === wanted) ?? cutters[0];
  const given = first ? matchMatrix(jobOf(first.design), holdingsOf(drawer)) : [];
  return <Matches cutters={cutters} drawer={drawer} first={first?.id} given={given} />;
}
