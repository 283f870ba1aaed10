import { notFound } from "next/navigation";
import { z } from "zod";
import { boardsOf } from "@/core/plans/cutList";
import { cutterRepository } from "@/server/features/cutters/repository";
import { listDrawer } from "@/server/features/drawer/repository";
import { planRepository } from "@/server/features/plans/repository";
import { framesOf } from "@/server/features/rigs/frames";
import { database } from "@/server/kernel/db/client";
import { ServerError } from "@/server/kernel/errors";
import { PlanDesk } from "@/ui/features/plans/PlanDesk";
import { isStep } from "@/ui/features/plans/steps";

export const dynamic = "force-dynamic";

const orNull = (error: unknown) => {
  if (error instanceof ServerError && error.code === "not-found") return null;
  throw error;
};

export default async function PlanPage({ params }: { params: Promise<{ id: string; place?: string[] }> }) {
  const { id, place = [] } = await params;
  if (!z.uuid().safeParse(id).success || !isStep(place)) notFound();
  const db = await database();
  const row = await planRepository.get(db, id).catch(orNull);
  if (!row) notFound();
  // A plan outlives its cutter: it then is without one.
  const cutter = row.document.cutter ? await cutterRepository.get(db, row.document.cutter.id).catch(orNull) : null;
  return (
    <PlanDesk
      start={row}
      cutter={cutter}
      cutters={await cutterRepository.names(db)}
      frames={await framesOf(db, row.id)}
      boards={boardsOf((await listDrawer(db)).map(({ item }) => item))}
    />
  );
}
