import { foamOf } from "@/core/drawer/things";
import type { FoamSpec } from "@/core/materials/foams";
import type { Executor } from "../../kernel/db/client";
import { documentRepository } from "../../kernel/documents";
import { listDrawer } from "../drawer/repository";

/** Cutters: listed, stored, copied and archived like every document. */
export const cutterRepository = documentRepository("cutters");

/** Every foam the maker's cutters and drawer know. */
export async function foamsInUse(db: Executor): Promise<FoamSpec[]> {
  const blocks = (await listDrawer(db)).flatMap(({ item }) =>
    item.kind === "foam" ? [{ family: item.family, density_kg_m3: Math.round(foamOf(item).densityKgM3) }] : [],
  );
  // A sheet names a handful of foams: those of the cutters last worked on.
  return [...blocks, ...(await cutterRepository.list(db, { limit: 50 })).readable.map(({ document }) => document.job.foam as FoamSpec)];
}
