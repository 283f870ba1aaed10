import { jobOf } from "@/core/cutters/search/job";
import { holdingsOf } from "@/core/drawer/holdings";
import { matchMatrix } from "@/core/drawer/matches";
import { matchPage } from "@/core/drawer/pages";
import { cutterRepository } from "@/server/features/cutters/repository";
import { listDrawer } from "@/server/features/drawer/repository";
import { database } from "@/server/kernel/db/client";
import { Matches } from "@/ui/features/matches/Matches";

export const dynamic = "force-dynamic";

const whole = (text: string | undefined) => Math.max(0, Math.min(100_000, Number.parseInt(text ?? "1", 10) || 1) - 1);

export default async function MatchesPage({ searchParams }: { searchParams: Promise<{ cutter?: string; wires?: string; supplies?: string }> }) {
  const db = await database();
  const names = await cutterRepository.names(db);
  const drawer = await listDrawer(db);
  const query = await searchParams;
  const first = names.find((row) => row.id === query.cutter)?.id ?? names[0]?.id;
  const cutter = first ? await cutterRepository.get(db, first) : null;
  const place = { wires: whole(query.wires), supplies: whole(query.supplies) };
  // One page of the matrix, some hundreds of cells: the rest is asked for when it is looked at.
  const given = cutter ? matchMatrix(jobOf(cutter.document), matchPage(holdingsOf(drawer), place)) : [];
  return <Matches key={cutter?.id} names={names} cutter={cutter} drawer={drawer} given={given} givenAt={place} />;
}
