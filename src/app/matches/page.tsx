import { database } from "@/server/db/client";
import { listCutters } from "@/server/repositories/cutters";
import { listDrawer } from "@/server/repositories/drawer";
import { Matches } from "@/ui/screens/Matches";

export const dynamic = "force-dynamic";

export default async function MatchesPage({ searchParams }: { searchParams: Promise<{ cutter?: string }> }) {
  const db = await database();
  const { cutters } = await listCutters(db);
  return <Matches cutters={cutters} drawer={await listDrawer(db)} first={(await searchParams).cutter} />;
}
