import { around } from "@/core/rigs/around";
import { balanced } from "@/core/rigs/kinds/bow";
import type { Database } from "../../kernel/db/client";
import { rigRepository } from "./repository";

/** Hand bows among the newest rigs, and what of their weight their wires carry: pull and drop ask for it. */
export async function bowsOf(db: Database, but: string): Promise<{ name: string; carriedN: number; weightN: number }[]> {
  const { readable } = await rigRepository.list(db, { limit: 100 });
  const alone = around(null, null);
  return readable.flatMap(({ id, document: { name, rig } }) => {
    if (rig.kind !== "bow" || id === but) return [];
    const { carriedN, weightN } = balanced(rig, alone);
    return [{ name, carriedN, weightN }];
  });
}
