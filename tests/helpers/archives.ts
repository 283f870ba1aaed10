import type { RestoreCount, RestoreMode } from "@/core/workshop/restoring";
import { PARTS, type PartName, rowToArchive } from "@/server/features/backups/archiveFormat";
import { readArchive } from "@/server/features/backups/archiveReader";
import { readTables } from "@/server/features/backups/archiveWriter";
import { type Weighed, weigh, weighWorkshop } from "@/server/features/backups/move";
import { compareStaged, dropStaged, restoreStaged, stageArchive } from "@/server/features/backups/staging";
import type { Database } from "@/server/kernel/db/client";

type Row = Record<string, unknown> & { id: string; name: string };

/** An archive that was read to its end. */
export interface WholeArchive extends Record<PartName, Row[]> {
  made: string;
  /** bytes of photographs, in the order of the photographs */
  bytes: Uint8Array[];
}

/** Reads all of an archive: for tests that look into one. */
export async function readWhole(source: string | Uint8Array): Promise<WholeArchive> {
  const whole = { made: "", bytes: [], ...Object.fromEntries(PARTS.map(({ name }) => [name, []])) } as unknown as WholeArchive;
  for await (const item of readArchive(source)) {
    if (item.kind === "manifest") whole.made = item.made;
    else if (item.kind === "photo") whole.bytes.push(new Uint8Array(item.bytes));
    else whole[item.part].push(...(item.rows as Row[]));
  }
  return whole;
}

/** Counts and checksums of an archive, as those of a workshop are computed. */
export async function weighArchive(source: string | Uint8Array): Promise<Weighed[]> {
  async function* rows() {
    for await (const item of readArchive(source)) if (item.kind === "rows") for (const row of item.rows) yield { part: item.part, row };
  }
  return weigh(rows());
}

/** Restores an archive's bytes into a workshop. */
export async function restoreInto(db: Database, source: string | Uint8Array, mode: RestoreMode = "replace"): Promise<number> {
  const staged = await stageArchive(db, readArchive(source), true);
  try {
    return await restoreStaged(db, staged, mode);
  } finally {
    await dropStaged(db, staged.id);
  }
}

/** What restoring an archive would change, by part. */
export async function compareWith(db: Database, source: string | Uint8Array): Promise<RestoreCount[]> {
  const staged = await stageArchive(db, readArchive(source), false);
  try {
    return await compareStaged(db, staged);
  } finally {
    await dropStaged(db, staged.id);
  }
}

/** Everything in a workshop as text, to compare with another. */
export async function everything(db: Database): Promise<string> {
  const rows: unknown[] = [];
  for await (const { part, row } of readTables(db)) rows.push([part.name, rowToArchive(part, row)]);
  return JSON.stringify([rows, await weighWorkshop(db)]);
}
