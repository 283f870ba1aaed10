import { createHash } from "node:crypto";
import { rmSync } from "node:fs";
import { sql } from "drizzle-orm";
import { canonical } from "@/core/kernel/canonical";
import type { Database, Opened } from "../../kernel/db/opened";
import { ServerError } from "../../kernel/errors";
import { writeTemporary } from "./archiveFiles";
import { PARTS, type PartName, rowToArchive } from "./archiveFormat";
import { readArchive } from "./archiveReader";
import { readTables } from "./archiveWriter";
import { dropStaged, restoreStaged, stageArchive } from "./staging";

/** How many rows of a part a workshop has, and their checksum. */
export interface Weighed {
  kind: PartName;
  rows: number;
  /** SHA-256 of all of them, in the order of their keys */
  sum: string;
}

/** Counts and checksums of rows, part by part: two workshops are equal where these are. @param rows of each part in the order of their keys, as an archive writes them */
export async function weigh(rows: AsyncIterable<{ part: PartName; row: Readonly<Record<string, unknown>> }>): Promise<Weighed[]> {
  const found = new Map(PARTS.map(({ name }) => [name, { rows: 0, hash: createHash("sha256") }]));
  for await (const { part, row } of rows) {
    const weighed = found.get(part) as { rows: number; hash: ReturnType<typeof createHash> };
    weighed.rows += 1;
    weighed.hash.update(canonical(row));
  }
  return [...found].map(([kind, { rows: many, hash }]) => ({ kind, rows: many, sum: hash.digest("hex") }));
}

/** Counts and checksums of a workshop. The sums of photographs are computed from the bytes that are stored. */
export async function weighWorkshop(db: Database): Promise<Weighed[]> {
  const { rows } = (await db.execute(sql`select sum, encode(sha256(bytes), 'hex') as found from photo_bytes`)) as unknown as {
    rows: { sum: string; found: string }[];
  };
  const sums = new Map(rows.map(({ sum, found }) => [sum, found]));
  async function* all() {
    for await (const { part, row } of readTables(db))
      yield { part: part.name, row: { ...rowToArchive(part, row), ...(part.name === "photos" ? { sum: sums.get(row.sum as string) } : {}) } };
  }
  return weigh(all());
}

/** Restores an archive's file into a workshop, in place of everything in it. */
export async function replaceWith(db: Database, file: string): Promise<number> {
  const staged = await stageArchive(db, readArchive(file), true);
  try {
    return await restoreStaged(db, staged, "replace");
  } finally {
    await dropStaged(db, staged.id);
  }
}

/**
 * Copies everything from one workshop into an empty other, and reads it back.
 * @returns the counts and checksums of both
 * @throws ServerError where the other is not empty, or is not equal afterwards: then it is as it was
 */
export async function moveWorkshop(from: Opened, to: Opened): Promise<Weighed[]> {
  if ((await weighWorkshop(to.db)).some(({ kind, rows }) => kind !== "facts" && rows > 0))
    throw new ServerError("data-folder-in-use", 409, "The workshop to move into is not empty: nothing was changed. Choose an empty one.");
  const before = await writeTemporary(to.db);
  const file = await writeTemporary(from.db);
  try {
    await replaceWith(to.db, file);
    const [ours, theirs] = [await weighWorkshop(from.db), await weighWorkshop(to.db)];
    if (canonical(ours) !== canonical(theirs)) {
      await replaceWith(to.db, before);
      throw new ServerError("data-damaged", 500, "What arrived is not equal to what was sent: the other workshop was emptied again.");
    }
    return theirs;
  } finally {
    for (const each of [file, before]) rmSync(each, { force: true });
  }
}
