import { database } from "@/server/db/client";
import { listCutters } from "@/server/repositories/cutters";
import { Compare } from "@/ui/screens/Compare";

export const dynamic = "force-dynamic";

export default async function ComparePage({ searchParams }: { searchParams: Promise<{ a?: string; b?: string }> }) {
  const { cutters } = await listCutters(await database());
  const { a, b } = await searchParams;
  return <Compare cutters={cutters} a={a} b={b} />;
}
