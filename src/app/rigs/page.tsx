import type { Design } from "@/core/cutters/design/schema";
import { rigJobOf } from "@/core/rigs/record";
import { type Database, database } from "@/server/kernel/db/client";
import { getCutter, listCutters, listNames } from "@/server/rooms/cutters/repository";
import { planRepository } from "@/server/rooms/plans/repository";
import { rigRepository } from "@/server/rooms/rigs/repository";
import { RigList } from "@/ui/rooms/rigs/RigList";

export const dynamic = "force-dynamic";

/** Rigs shown at once. */
const MOST_SHOWN = 300;

/** The cutter of a plan, where it names one that is here; otherwise the one last worked on. */
async function cutterFor(db: Database, plan: string | null): Promise<{ id: string; design: Design } | null> {
  const named = plan === null ? null : (await planRepository.get(db, plan)).document.cutter;
  if (named && (await listNames(db)).some(({ id }) => id === named.id)) return getCutter(db, named.id);
  return (await listCutters(db, { limit: 1 })).cutters[0] ?? null;
}

export default async function RigsPage({ searchParams }: { searchParams: Promise<{ plan?: string }> }) {
  const db = await database();
  const row = <T extends { document: unknown }>({ document, ...rest }: T) => ({ ...rest, rig: document as T["document"] });
  const { readable, unreadable } = await rigRepository.list(db, { limit: MOST_SHOWN });
  const { readable: deleted } = await rigRepository.list(db, { deleted: true, limit: 50 });
  // A plan sends its maker here: what is made then is meant for it.
  const asked = (await searchParams).plan;
  const plan = asked ? ((await planRepository.names(db)).find(({ id }) => id === asked) ?? null) : null;
  const cutter = await cutterFor(db, plan?.id ?? null);
  return (
    <RigList
      plan={plan}
      rigs={readable.map(row)}
      deleted={deleted.map(row)}
      unreadable={unreadable}
      cutter={cutter && { id: cutter.id, name: cutter.design.name, job: rigJobOf(cutter.design) }}
    />
  );
}
