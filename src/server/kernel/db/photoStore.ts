import { createHash, randomUUID } from "node:crypto";
import { eq, like, sql } from "drizzle-orm";
import type { Database } from "./opened";
import { photoBytes } from "./schema";

type Executor = Pick<Database, "execute" | "update" | "delete">;

/**
 * Bytes travel to and from the engine as base64 in pieces of this many bytes. A whole photograph of 4 MB as one parameter kept the embedded engine, and with it the thread that serves pages, busy for two seconds; a
 * piece takes about 40 ms.
 */
const PIECE_BYTES = 512 * 1024;
/** Pieces of a photograph that is being stored are rows of the same table: what a broken-off one leaves behind is swept with all bytes that nothing names. */
const PIECE = "piece-";

export const sumOf = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

const base64 = (bytes: Uint8Array) => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("base64");

/** Stores the bytes of a photograph under their sum. Bytes that are here already are only marked as wanted, so that nothing sweeps them away. */
export async function storeBytes(db: Executor, sum: string, bytes: Uint8Array): Promise<void> {
  const here = await db.update(photoBytes).set({ createdAt: sql`now()` }).where(eq(photoBytes.sum, sum)).returning({ sum: photoBytes.sum });
  if (here.length > 0) return;
  if (bytes.length <= PIECE_BYTES) {
    await db.execute(sql`insert into photo_bytes (sum, bytes) values (${sum}, decode(${base64(bytes)}, 'base64')) on conflict do nothing`);
    return;
  }
  const own = `${PIECE}${randomUUID()}-`;
  for (let at = 0, n = 0; at < bytes.length; at += PIECE_BYTES, n++)
    await db.execute(
      sql`insert into photo_bytes (sum, bytes) values (${own + String(n).padStart(6, "0")}, decode(${base64(bytes.subarray(at, at + PIECE_BYTES))}, 'base64'))`,
    );
  await db.execute(
    sql`insert into photo_bytes (sum, bytes) select ${sum}::text, string_agg(bytes, ''::bytea order by sum) from photo_bytes where sum like ${`${own}%`} on conflict do nothing`,
  );
  await db.delete(photoBytes).where(like(photoBytes.sum, `${own}%`));
}

/** The bytes of a photograph by their sum; null where they are not here. */
export async function readPhotoBytes(db: Pick<Database, "execute">, sum: string): Promise<Uint8Array | null> {
  const pieces: Buffer[] = [];
  for (let at = 0; ; at += PIECE_BYTES) {
    const { rows } = (await db.execute(
      sql`select encode(substring(bytes from ${at + 1} for ${PIECE_BYTES}), 'base64') as piece, octet_length(bytes) as length from photo_bytes where sum = ${sum}`,
    )) as unknown as { rows: { piece: string; length: number }[] };
    const [row] = rows;
    if (!row) return null;
    pieces.push(Buffer.from(row.piece, "base64"));
    if (at + PIECE_BYTES >= row.length) return new Uint8Array(Buffer.concat(pieces));
  }
}
