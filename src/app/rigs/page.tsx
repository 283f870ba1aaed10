import type { Design } from "@/core/cutters/design/schema";
import type { StoredDocument } from "@/core/kernel/document";
import { rigJobOf } from "@/core/rigs/record";
import { cutterRepository } from "@/server/features/cutters/repository";
import { planRepository } from "@/server/features/plans/repository";
import { rigRepository } from "@/server/features/rigs/repository";
import { type Database, database } from "@/server/kernel/db/client";
import { RigList } from "@/ui/features/rigs/RigList";

export const dynamic = "force-dynamic";

/** Rigs shown at once. */
const MOST_SHOWN = 300;

/** The cutter of a plan, where it names one that is here; otherwise the one last worked on. */
async function cutterFor(db: Database, plan: string | null): Promise<StoredDocument<Design> | null> {
  const named = plan === null ? null : (await planRepository.get(db, plan)).document.cutter;
  if (named && (await cutterRepository.names(db)).some(({ id }) => id === named.id)) return cutterRepository.get(db, named.id);
  return (await cutterRepository.list(db, { limit: 1 })).readable[0] ?? null;
}

export default async function RigsPage({ searchParams }: { searchParams: Promise<{ plan?: string }> }) {
  const db = await database();
  const { readable: rigs, unreadable } = await rigRepository.list(db, { limit: MOST_SHOWN });
  const { readable: deleted } = await rigRepository.list(db, { deleted: true, limit: 50 });
  // A plan sends its maker here: what is made then is meant for it.
  const query = (await searchParams).plan;
  const plan = query ? ((await planRepository.names(db)).find(({ id }) => id === query) ?? null) : null;
  const cutter = await cutterFor(db, plan?.id ?? null);
  return (
    <RigList
      plan={plan}
      rigs={rigs}
      deleted={deleted}
      unreadable={unreadable}
      cutter={cutter && { id: cutter.id, name: cutter.document.name, job: rigJobOf(cutter.document) }}
    />
  );
}
