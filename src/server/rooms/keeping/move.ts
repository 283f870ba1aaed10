import { createHash } from "node:crypto";
import { canonical } from "@/core/kernel/canonical";
import type { Database, Opened } from "../../kernel/db/opened";
import { ServerError } from "../../kernel/errors";
import { type Archive, packWorkshop, readArchive } from "./archive";
import { restoreArchive } from "./restore";

/** How many rows of a kind a workshop has, and what they come to. */
export interface Weighed {
  kind: string;
  rows: number;
  /** SHA-256 of all of them, in the order of their ids */
  sum: string;
}

/** Everything a database holds, of one moment, read through the archive's own checks. */
export async function everythingIn(db: Database): Promise<Archive> {
  const chunks: Uint8Array[] = [];
  await db.transaction(
    async (tx) => {
      for await (const chunk of packWorkshop(tx, new Date().toISOString())) chunks.push(chunk);
    },
    { isolationLevel: "repeatable read", accessMode: "read only" },
  );
  return readArchive(new Uint8Array(Buffer.concat(chunks)));
}

const KINDS = ["cutters", "plans", "rigs", "drawer", "log", "photos", "facts"] as const;

/** Counts and checksums of an archive, kind by kind: two workshops are equal where these are. */
export function weigh(archive: Archive): Weighed[] {
  return KINDS.map((kind) => {
    const keyOf = (row: { id?: string; key?: string }) => row.id ?? row.key ?? "";
    const rows = [...(archive[kind] as readonly { id?: string; key?: string }[])].sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1));
    const hash = createHash("sha256");
    for (const row of rows) {
      const { bytes, ...rest } = row as { bytes?: Uint8Array } & Record<string, unknown>;
      hash.update(canonical(rest));
      if (bytes) hash.update(bytes);
    }
    return { kind, rows: rows.length, sum: hash.digest("hex") };
  });
}

/**
 * Copies everything from one workshop into an empty other, and reads it back.
 * @returns what both now come to
 * @throws ServerError where the other is not empty, or does not come to the same: then nothing stays in it
 */
export async function moveWorkshop(from: Opened, to: Opened): Promise<Weighed[]> {
  const before = await everythingIn(to.db);
  if (KINDS.some((kind) => kind !== "facts" && before[kind].length > 0))
    throw new ServerError("data-folder-in-use", 409, "The workshop to move into is not empty: nothing was changed. Choose an empty one.");
  const archive = await everythingIn(from.db);
  await restoreArchive(to.db, archive, "replace");
  const [ours, theirs] = [weigh(archive), weigh(await everythingIn(to.db))];
  if (canonical(ours) !== canonical(theirs)) {
    await restoreArchive(to.db, before, "replace");
    throw new ServerError("data-damaged", 500, "What arrived does not come to the same as what was sent: the other workshop was emptied again.");
  }
  return theirs;
}
