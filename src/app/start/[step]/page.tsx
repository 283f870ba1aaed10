import { notFound } from "next/navigation";
import { START_STEPS } from "@/core/start/jobCard";
import { listDrawer } from "@/server/features/drawer/repository";
import { database } from "@/server/kernel/db/client";
import { Start } from "@/ui/features/start/Start";

export const dynamic = "force-dynamic";

/** One of the foreman's questions, or the answer. */
export default async function StartPage({ params }: { params: Promise<{ step: string }> }) {
  const { step } = await params;
  const known = ([...START_STEPS, "answer"] as const).find((each) => each === step);
  if (!known) notFound();
  return <Start step={known} drawer={await listDrawer(await database())} />;
}
