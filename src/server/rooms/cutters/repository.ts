import type { Design } from "@/core/cutters/design/schema";
import { foamOf } from "@/core/drawer/things";
import type { FoamSpec } from "@/core/materials/foams";
import type { Executor } from "../../kernel/db/client";
import { cutters } from "../../kernel/db/schema";
import { type DocumentPage, documentRepository, type Kept, type Unreadable } from "../../kernel/documents";
import { listDrawer } from "../drawer/repository";

/** A cutter as everything outside the repositories sees it. */
export interface Cutter extends Omit<Kept<Design>, "document"> {
  design: Design;
}

/** Cutters: listed, stored, copied and archived like every document. */
export const cutterRepository = documentRepository("cutters", cutters);
const toCutter = ({ document, ...row }: Kept<Design>): Cutter => ({ ...row, design: document });

/** Cutters last changed first; or the deleted ones that can still be brought back. One unreadable row does not hide the others. */
export async function listCutters(db: Executor, page?: DocumentPage): Promise<{ cutters: Cutter[]; unreadable: Unreadable[] }> {
  const { readable, unreadable } = await cutterRepository.list(db, page);
  return { cutters: readable.map(toCutter), unreadable };
}

export const countCutters = cutterRepository.count;
export const listNames = cutterRepository.names;

/** Every foam the maker's cutters and drawer know. */
export async function foamsInUse(db: Executor): Promise<FoamSpec[]> {
  const blocks = (await listDrawer(db)).flatMap(({ item }) =>
    item.kind === "foam" ? [{ family: item.family, density_kg_m3: Math.round(foamOf(item).densityKgM3) }] : [],
  );
  // A sheet names a handful of foams: those of the cutters last worked on.
  return [...blocks, ...(await listCutters(db, { limit: 50 })).cutters.map((cutter) => cutter.design.job.foam as FoamSpec)];
}

/** @throws ServerError `not-found`, also for a deleted one */
export const getCutter = async (db: Executor, id: string): Promise<Cutter> => toCutter(await cutterRepository.get(db, id));
export const createCutter = async (db: Executor, design: Design): Promise<Cutter> => toCutter(await cutterRepository.create(db, design));
/** Saves over a known revision. @throws ServerError `stale-revision` with the current cutter when somebody saved in between */
export const saveCutter = async (db: Executor, id: string, revision: number, design: Design): Promise<Cutter> =>
  toCutter(await cutterRepository.save(db, id, revision, design, toCutter));
/** Puts a cutter aside; {@link restoreCutter} brings it back. */
export const deleteCutter = async (db: Executor, id: string): Promise<Cutter> => toCutter(await cutterRepository.setDeleted(db, id, true));
export const restoreCutter = async (db: Executor, id: string): Promise<Cutter> => toCutter(await cutterRepository.setDeleted(db, id, false));
/** A copy under a name that is not taken. */
export const duplicateCutter = async (db: Executor, id: string): Promise<Cutter> => toCutter(await cutterRepository.duplicate(db, id));
