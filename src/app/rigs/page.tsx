import { database } from "@/server/kernel/db/client";
import { listNames } from "@/server/rooms/cutters/repository";
import { rigRepository } from "@/server/rooms/rigs/repository";
import { RigList } from "@/ui/rooms/rigs/RigList";

export const dynamic = "force-dynamic";

/** Rigs shown at once. */
const MOST_SHOWN = 300;

export default async function RigsPage() {
  const db = await database();
  const row = <T extends { document: unknown }>({ document, ...rest }: T) => ({ ...rest, rig: document as T["document"] });
  const { readable, unreadable } = await rigRepository.list(db, { limit: MOST_SHOWN });
  const { readable: deleted } = await rigRepository.list(db, { deleted: true, limit: 50 });
  const [cutter] = await listNames(db);
  return <RigList rigs={readable.map(row)} deleted={deleted.map(row)} unreadable={unreadable} cutter={cutter ?? null} />;
}
