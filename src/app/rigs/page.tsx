import { database } from "@/server/kernel/db/client";
import { listCutters } from "@/server/rooms/cutters/repository";
import { planRepository } from "@/server/rooms/plans/repository";
import { rigRepository } from "@/server/rooms/rigs/repository";
import { RigList } from "@/ui/rooms/rigs/RigList";

export const dynamic = "force-dynamic";

/** Rigs shown at once. */
const MOST_SHOWN = 300;

export default async function RigsPage({ searchParams }: { searchParams: Promise<{ plan?: string }> }) {
  const db = await database();
  const row = <T extends { document: unknown }>({ document, ...rest }: T) => ({ ...rest, rig: document as T["document"] });
  const { readable, unreadable } = await rigRepository.list(db, { limit: MOST_SHOWN });
  const { readable: deleted } = await rigRepository.list(db, { deleted: true, limit: 50 });
  const [cutter] = (await listCutters(db, { limit: 1 })).cutters;
  // A plan sends its maker here: what is made then is meant for it.
  const asked = (await searchParams).plan;
  const plan = asked ? ((await planRepository.names(db)).find(({ id }) => id === asked) ?? null) : null;
  return (
    <RigList
      plan={plan}
      rigs={readable.map(row)}
      deleted={deleted.map(row)}
      unreadable={unreadable}
      cutter={cutter?.design ? { id: cutter.id, name: cutter.design.name, job: cutter.design.job } : null}
    />
  );
}
