import { notFound } from "next/navigation";
import { z } from "zod";
import { cutterRepository } from "@/server/features/cutters/repository";
import { planRepository } from "@/server/features/plans/repository";
import { bowsOf } from "@/server/features/rigs/bows";
import { linkedDocuments } from "@/server/features/rigs/output";
import { rigRepository } from "@/server/features/rigs/repository";
import { database } from "@/server/kernel/db/client";
import { ServerError } from "@/server/kernel/errors";
import { RigDesk } from "@/ui/features/rigs/RigDesk";
import { isRigStep } from "@/ui/features/rigs/steps";

export const dynamic = "force-dynamic";

export default async function RigPage({ params }: { params: Promise<{ id: string; place?: string[] }> }) {
  const { id, place = [] } = await params;
  if (!z.uuid().safeParse(id).success || !isRigStep(place)) notFound();
  const db = await database();
  const row = await rigRepository.get(db, id).catch((error: unknown) => {
    if (error instanceof ServerError && error.code === "not-found") return null;
    throw error;
  });
  if (!row) notFound();
  const { document } = row;
  const { cutter, plan } = await linkedDocuments(db, document);
  return (
    <RigDesk
      start={row}
      cutter={cutter}
      plan={plan}
      cutters={await cutterRepository.names(db)}
      plans={await planRepository.names(db)}
      bows={await bowsOf(db, id)}
    />
  );
}
