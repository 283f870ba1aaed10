import { cutterRepository } from "@/server/features/cutters/repository";
import { database } from "@/server/kernel/db/client";
import { ServerError } from "@/server/kernel/errors";
import { Compare } from "@/ui/features/compare/Compare";

export const dynamic = "force-dynamic";

export default async function ComparePage({ searchParams }: { searchParams: Promise<{ a?: string; b?: string }> }) {
  const db = await database();
  const names = await cutterRepository.names(db);
  const { a, b } = await searchParams;
  const first = names.find((row) => row.id === a)?.id ?? names[0]?.id;
  const second = names.find((row) => row.id === b)?.id ?? names.find((row) => row.id !== first)?.id;
  const get = async (id: string | undefined) => {
    if (!id) return null;
    try {
      return await cutterRepository.get(db, id);
    } catch (error) {
      // Taken away between the list and the look.
      if (error instanceof ServerError && error.code === "not-found") return null;
      throw error;
    }
  };
  return <Compare names={names} left={await get(first)} right={await get(second)} />;
}
