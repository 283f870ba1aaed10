import { database } from "@/server/kernel/db/client";
import { countCutters, listCutters } from "@/server/rooms/cutters/repository";
import { CutterList } from "@/ui/rooms/list/CutterList";
import { CUTTERS_A_PAGE } from "@/ui/rooms/list/cuttersPage";
import { listedCutter } from "@/ui/rooms/list/rows";

export const dynamic = "force-dynamic";

/** Most names of cutters put away that are shown at once. */
const PUT_AWAY_SHOWN = 50;

export default async function CuttersPage({ searchParams }: { searchParams: Promise<{ page?: string; find?: string }> }) {
  const db = await database();
  const asked = await searchParams;
  const find = (asked.find ?? "").slice(0, 80);
  const total = await countCutters(db, { find });
  const pages = Math.max(1, Math.ceil(total / CUTTERS_A_PAGE));
  const page = Math.min(pages, Math.max(1, Number.parseInt(asked.page ?? "1", 10) || 1));
  const { cutters, unreadable } = await listCutters(db, { find, limit: CUTTERS_A_PAGE, offset: (page - 1) * CUTTERS_A_PAGE });
  const { cutters: deleted } = await listCutters(db, { deleted: true, limit: PUT_AWAY_SHOWN });
  const deletedTotal = await countCutters(db, { deleted: true });
  const empty = total === 0 && find === "" && (await countCutters(db)) === 0;
  return (
    <CutterList
      cutters={cutters.map(listedCutter)}
      deleted={deleted.map(({ id, design }) => ({ id, name: design.name }))}
      deletedTotal={deletedTotal}
      unreadable={unreadable}
      total={total}
      page={page}
      pages={pages}
      find={find}
      empty={empty}
    />
  );
}
