import { and, count, desc, eq, ilike, isNotNull, isNull, like, sql } from "drizzle-orm";
import { migrateDesign } from "@/core/cutters/design/fileFormat";
import type { Design } from "@/core/cutters/design/schema";
import { DESIGN_VERSION } from "@/core/cutters/design/vocabulary";
import { foamOf } from "@/core/drawer/items";
import { CoreError } from "@/core/kernel/errors";
import type { FoamSpec } from "@/core/materials/foams";
import type { Executor } from "../../kernel/db/client";
import { cutters } from "../../kernel/db/schema";
import { ServerError } from "../../kernel/errors";
import { listDrawer } from "../drawer/repository";

/** A cutter as everything outside the repositories sees it. */
export interface Cutter {
  id: string;
  design: Design;
  revision: number;
  /** ISO times */
  updatedAt: string;
  deletedAt: string | null;
}

function toCutter(row: typeof cutters.$inferSelect): Cutter {
  return {
    id: row.id,
    design: migrateDesign(row.design),
    revision: row.revision,
    updatedAt: row.updatedAt.toISOString(),
    deletedAt: row.deletedAt?.toISOString() ?? null,
  };
}

const notFound = () => new ServerError("not-found", 404, "This cutter is not here: it may have been deleted for good.");

/** A row this program cannot read, such as one a newer program wrote: shown as it is, touched by nothing. */
export interface UnreadableCutter {
  id: string;
  name: string;
  why: string;
}

/** Which cutters a list is of. */
export interface CutterPage {
  /** Those put away and still restorable, in place of those in use. */
  deleted?: boolean;
  /** Part of the name, in any case. */
  find?: string;
  limit?: number;
  offset?: number;
}

const SPECIAL = /[\\%_]/g;
const chosen = ({ deleted, find }: CutterPage) =>
  and(
    deleted ? isNotNull(cutters.deletedAt) : isNull(cutters.deletedAt),
    find ? ilike(cutters.name, `%${find.replaceAll(SPECIAL, (sign) => `\\${sign}`)}%`) : undefined,
  );

/** Cutters last changed first; or the deleted ones that can still be brought back. One unreadable row does not hide the others. */
export async function listCutters(db: Executor, page: CutterPage = {}): Promise<{ cutters: Cutter[]; unreadable: UnreadableCutter[] }> {
  const sorted = db
    .select()
    .from(cutters)
    .where(chosen(page))
    .orderBy(desc(page.deleted ? cutters.deletedAt : cutters.updatedAt), cutters.name, cutters.id)
    .offset(page.offset ?? 0);
  const rows = await (page.limit === undefined ? sorted : sorted.limit(page.limit));
  const readable: Cutter[] = [];
  const unreadable: UnreadableCutter[] = [];
  for (const row of rows) {
    try {
      readable.push(toCutter(row));
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      unreadable.push({ id: row.id, name: row.name, why: error.message });
    }
  }
  return { cutters: readable, unreadable };
}

/** How many cutters there are; of a list, or all and the deleted ones too. */
export async function countCutters(db: Executor, page?: CutterPage): Promise<number> {
  const [row] = await db
    .select({ rows: count() })
    .from(cutters)
    .where(page && chosen(page));
  return row?.rows ?? 0;
}

/** Names of the cutters in use, last changed first: for lists to choose from. As one text, like {@link listDrawer}. */
export async function listNames(db: Executor): Promise<{ id: string; name: string }[]> {
  const { id, name, updatedAt, deletedAt } = cutters;
  const [row] = await db
    .select({ all: sql<string>`coalesce(json_agg(json_build_object('id', ${id}, 'name', ${name}) order by ${updatedAt} desc, ${name}, ${id}), '[]')::text` })
    .from(cutters)
    .where(isNull(deletedAt));
  return JSON.parse(row?.all ?? "[]") as { id: string; name: string }[];
}

/** Every foam the maker's cutters and drawer know. */
export async function foamsInUse(db: Executor): Promise<FoamSpec[]> {
  const blocks = (await listDrawer(db)).flatMap(({ item }) =>
    item.kind === "foam" ? [{ family: item.family, density_kg_m3: Math.round(foamOf(item).densityKgM3) }] : [],
  );
  // A sheet names a handful of foams: those of the cutters last worked on.
  return [...blocks, ...(await listCutters(db, { limit: 50 })).cutters.map((cutter) => cutter.design.job.foam as FoamSpec)];
}

/** @throws ServerError `not-found`, also for a deleted one */
export async function getCutter(db: Executor, id: string): Promise<Cutter> {
  const [row] = await db
    .select()
    .from(cutters)
    .where(and(eq(cutters.id, id), isNull(cutters.deletedAt)));
  if (!row) throw notFound();
  return toCutter(row);
}

export async function createCutter(db: Executor, design: Design): Promise<Cutter> {
  const [row] = await db.insert(cutters).values({ name: design.name, formatVersion: DESIGN_VERSION, design }).returning();
  return toCutter(row as typeof cutters.$inferSelect);
}

/**
 * Saves over a known revision.
 * @throws ServerError `stale-revision` with the current cutter when somebody saved in between
 */
export async function saveCutter(db: Executor, id: string, revision: number, design: Design): Promise<Cutter> {
  const [row] = await db
    .update(cutters)
    .set({ name: design.name, formatVersion: DESIGN_VERSION, design, revision: revision + 1, updatedAt: sql`now()` })
    .where(and(eq(cutters.id, id), eq(cutters.revision, revision), isNull(cutters.deletedAt)))
    .returning();
  if (row) return toCutter(row);
  const current = await getCutter(db, id);
  throw new ServerError("stale-revision", 409, "This cutter was changed elsewhere since you opened it.", { current });
}

async function setDeleted(db: Executor, id: string, deleted: boolean): Promise<Cutter> {
  const [row] = await db
    .update(cutters)
    .set({ deletedAt: deleted ? sql`now()` : null })
    .where(and(eq(cutters.id, id), deleted ? isNull(cutters.deletedAt) : isNotNull(cutters.deletedAt)))
    .returning();
  if (!row) throw notFound();
  return toCutter(row);
}

/** Puts a cutter aside; {@link restoreCutter} brings it back. */
export const deleteCutter = (db: Executor, id: string) => setDeleted(db, id, true);
export const restoreCutter = (db: Executor, id: string) => setDeleted(db, id, false);

/** A copy under a name that is not taken: "Long Tom, copy", "Long Tom, copy 2". */
export async function duplicateCutter(db: Executor, id: string): Promise<Cutter> {
  const original = await getCutter(db, id);
  const stem = original.design.name.replace(/, copy( \d+)?$/, "").slice(0, 68);
  const taken = await db
    .select({ name: cutters.name })
    .from(cutters)
    .where(and(isNull(cutters.deletedAt), like(cutters.name, `${stem.replaceAll(SPECIAL, (sign) => `\\${sign}`)}, copy%`)));
  const names = new Set(taken.map((row) => row.name));
  let name = `${stem}, copy`;
  for (let i = 2; names.has(name); i++) name = `${stem}, copy ${i}`;
  return createCutter(db, { ...original.design, name });
}
