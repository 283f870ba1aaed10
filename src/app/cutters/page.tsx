import { cutterRepository } from "@/server/features/cutters/repository";
import { database } from "@/server/kernel/db/client";
import { CutterList } from "@/ui/features/list/CutterList";
import { CUTTERS_A_PAGE } from "@/ui/features/list/cuttersPage";
import { listedCutter } from "@/ui/features/list/rows";

export const dynamic = "force-dynamic";

/** Most names of archived cutters that are shown at once. */
const PUT_AWAY_SHOWN = 50;

export default async function CuttersPage({ searchParams }: { searchParams: Promise<{ page?: string; find?: string }> }) {
  const db = await database();
  const query = await searchParams;
  const find = (query.find ?? "").slice(0, 80);
  const total = await cutterRepository.count(db, { find });
  const pages = Math.max(1, Math.ceil(total / CUTTERS_A_PAGE));
  const page = Math.min(pages, Math.max(1, Number.parseInt(query.page ?? "1", 10) || 1));
  const { readable, unreadable } = await cutterRepository.list(db, { find, limit: CUTTERS_A_PAGE, offset: (page - 1) * CUTTERS_A_PAGE });
  const { readable: deleted } = await cutterRepository.list(db, { deleted: true, limit: PUT_AWAY_SHOWN });
  const deletedTotal = await cutterRepository.count(db, { deleted: true });
  const empty = total === 0 && find === "" && (await cutterRepository.count(db)) === 0;
  return (
    <CutterList
      cutters={readable.map(listedCutter)}
      deleted={deleted.map(({ id, document }) => ({ id, name: document.name }))}
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
