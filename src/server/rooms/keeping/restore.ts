import { canonical } from "@/core/kernel/canonical";
import type { RestoreCount, RestoreMode } from "@/core/workshop/restoring";
import type { Database } from "../../kernel/db/client";
import { cutters, drawerItems, logEntries, photos, plans, rigs, workshop } from "../../kernel/db/schema";
import type { Archive } from "./archive";

type Row = { id: string };

function count(kind: RestoreCount["kind"], theirs: readonly Row[], ours: readonly Row[]): RestoreCount {
  const here = new Map(ours.map((row) => [row.id, canonical(row)]));
  let same = 0;
  let differ = 0;
  for (const row of theirs) {
    const standing = here.get(row.id);
    if (standing === undefined) continue;
    // Times are written alike on both sides: as ISO text.
    if (standing === canonical(row)) same += 1;
    else differ += 1;
  }
  const met = same + differ;
  return { kind, inArchive: theirs.length, here: ours.length, same, differ, onlyArchive: theirs.length - met, onlyHere: ours.length - met };
}

const plain = <T>(rows: T[]): T[] => JSON.parse(JSON.stringify(rows)) as T[];

/** What putting an archive back would change, kind by kind. Nothing is changed. */
export async function previewRestore(db: Pick<Database, "select">, archive: Archive): Promise<RestoreCount[]> {
  const pictures = await db.select({ id: photos.id, cutterId: photos.cutterId, type: photos.type, createdAt: photos.createdAt }).from(photos);
  return [
    count("cutters", archive.cutters, plain(await db.select().from(cutters)) as Row[]),
    count("plans", archive.plans, plain(await db.select().from(plans)) as Row[]),
    count("rigs", archive.rigs, plain(await db.select().from(rigs)) as Row[]),
    count("drawer", archive.drawer, plain(await db.select().from(drawerItems)) as Row[]),
    count("log", archive.log, plain(await db.select().from(logEntries)) as Row[]),
    count(
      "photos",
      archive.photos.map(({ bytes: _bytes, ...row }) => row),
      plain(pictures) as Row[],
    ),
  ];
}

/** Rows put in at once. */
const BATCH = 200;

/**
 * Puts an archive back in one transaction: all of it or, should anything fail, nothing.
 * @returns how many rows were put in
 */
export async function restoreArchive(db: Database, archive: Archive, mode: RestoreMode): Promise<number> {
  const when = (text: string) => new Date(text);
  const whenOr = (text: string | null) => (text === null ? null : new Date(text));
  return db.transaction(async (tx) => {
    if (mode === "replace") {
      await tx.delete(photos);
      await tx.delete(logEntries);
      await tx.delete(drawerItems);
      await tx.delete(cutters);
      await tx.delete(plans);
      await tx.delete(rigs);
      await tx.delete(workshop);
    }
    let put = 0;
    const batches = async <T>(rows: readonly T[], insert: (batch: T[]) => Promise<{ id?: string; key?: string }[]>) => {
      for (let at = 0; at < rows.length; at += BATCH) put += (await insert(rows.slice(at, at + BATCH))).length;
    };
    await batches(archive.cutters, (batch) =>
      tx
        .insert(cutters)
        .values(batch.map((row) => ({ ...row, createdAt: when(row.createdAt), updatedAt: when(row.updatedAt), deletedAt: whenOr(row.deletedAt) })))
        .onConflictDoNothing()
        .returning({ id: cutters.id }),
    );
    await batches(archive.plans, (batch) =>
      tx
        .insert(plans)
        .values(batch.map((row) => ({ ...row, createdAt: when(row.createdAt), updatedAt: when(row.updatedAt), deletedAt: whenOr(row.deletedAt) })))
        .onConflictDoNothing()
        .returning({ id: plans.id }),
    );
    await batches(archive.rigs, (batch) =>
      tx
        .insert(rigs)
        .values(batch.map((row) => ({ ...row, createdAt: when(row.createdAt), updatedAt: when(row.updatedAt), deletedAt: whenOr(row.deletedAt) })))
        .onConflictDoNothing()
        .returning({ id: rigs.id }),
    );
    await batches(archive.drawer, (batch) =>
      tx
        .insert(drawerItems)
        .values(batch.map((row) => ({ ...row, createdAt: when(row.createdAt), updatedAt: when(row.updatedAt), deletedAt: whenOr(row.deletedAt) })))
        // A thing of the same name that is here stays as it is.
        .onConflictDoNothing()
        .returning({ id: drawerItems.id }),
    );
    await batches(archive.photos, (batch) =>
      tx
        .insert(photos)
        .values(batch.map((row) => ({ ...row, createdAt: when(row.createdAt) })))
        .onConflictDoNothing()
        .returning({ id: photos.id }),
    );
    await batches(archive.log, (batch) =>
      tx
        .insert(logEntries)
        .values(batch.map((row) => ({ ...row, at: when(row.at), createdAt: when(row.createdAt) })))
        .onConflictDoNothing()
        .returning({ id: logEntries.id }),
    );
    await batches(archive.facts, (batch) =>
      tx
        .insert(workshop)
        .values(batch.map((row) => ({ ...row, at: when(row.at) })))
        .onConflictDoNothing()
        .returning({ key: workshop.key }),
    );
    return put;
  });
}
