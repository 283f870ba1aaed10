import { notFound } from "next/navigation";
import { z } from "zod";
import { deferredEvaluationOf } from "@/core/cutters/solve/deferredEvaluation";
import { cutterRepository } from "@/server/features/cutters/repository";
import { database } from "@/server/kernel/db/client";
import { ServerError } from "@/server/kernel/errors";
import { isPlace } from "@/ui/cutter/views";
import { Desk } from "@/ui/features/desk/Desk";

export const dynamic = "force-dynamic";

export default async function CutterPage({ params }: { params: Promise<{ id: string; place?: string[] }> }) {
  const { id, place = [] } = await params;
  if (!z.uuid().safeParse(id).success || !isPlace(place)) notFound();
  try {
    const cutter = await cutterRepository.get(await database(), id);
    return <Desk cutter={cutter} deferred={deferredEvaluationOf(cutter.document)} />;
  } catch (error) {
    if (error instanceof ServerError && error.code === "not-found") notFound();
    throw error;
  }
}
