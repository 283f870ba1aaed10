import { createHash } from "node:crypto";
import { closeSync, createReadStream, existsSync, fsyncSync, openSync, readFileSync, rmSync, writeSync } from "node:fs";
import path from "node:path";
import { createInterface } from "node:readline";
import { Zip, ZipDeflate, ZipPassThrough } from "fflate";
import { WRITTEN_BY } from "@/core/kernel/version";
import { BACKUP_FORMAT, BACKUP_VERSION, PARTS } from "./archiveFormat";

/** Text is handed to the packer in pieces of about so many bytes. */
const SLICE_BYTES = 256 * 1024;

/** A photograph's file in a snapshot's folder. */
export const photoFile = (folder: string, id: string): string => path.join(folder, "photos", id);

/**
 * Packs a snapshot's folder into one zip file, and brings it to the disk. Equal workshops make equal archives, but for the moment they were made. Blocks: run it in a worker thread where a server is running.
 * @param made ISO time
 */
export async function packSnapshot({ folder, file, made }: { folder: string; file: string; made: string }): Promise<void> {
  const descriptor = openSync(file, "w");
  let failed: Error | null = null;
  const zip = new Zip((error, chunk) => {
    if (error) failed = error;
    else for (let at = 0; at < chunk.length; ) at += writeSync(descriptor, chunk, at);
  });
  const sums: Record<string, string> = {};
  /** Adds one file to the archive, a piece at a time. */
  const begin = (name: string, packed: boolean) => {
    const hash = createHash("sha256");
    const entry = packed ? new ZipDeflate(name, { level: 3 }) : new ZipPassThrough(name);
    // The same moment for all, so that equal workshops make equal archives.
    entry.mtime = new Date(made);
    zip.add(entry);
    return {
      push: (bytes: Uint8Array) => {
        hash.update(bytes);
        entry.push(bytes);
        if (failed) throw failed;
      },
      end: () => {
        entry.push(new Uint8Array(0), true);
        if (name !== "manifest.json") sums[name] = hash.digest("hex");
        if (failed) throw failed;
      },
    };
  };
  const addWhole = (name: string, bytes: Uint8Array, packed: boolean) => {
    const { push, end } = begin(name, packed);
    push(bytes);
    end();
  };
  try {
    const photos: string[] = [];
    for (const { name } of PARTS) {
      const { push, end } = begin(`${name}.json`, true);
      let pending = "";
      let rows = 0;
      const lines = createInterface({ input: createReadStream(path.join(folder, `${name}.jsonl`)), crlfDelay: Number.POSITIVE_INFINITY });
      for await (const line of lines) {
        pending += rows === 0 ? `[\n${line}` : `,\n${line}`;
        rows += 1;
        if (name === "photos") photos.push((JSON.parse(line) as { id: string }).id);
        if (pending.length > SLICE_BYTES) {
          push(Buffer.from(pending));
          pending = "";
        }
      }
      push(Buffer.from(rows === 0 ? "[]\n" : `${pending}\n]\n`));
      end();
    }
    for (const id of photos) if (existsSync(photoFile(folder, id))) addWhole(`photos/${id}`, readFileSync(photoFile(folder, id)), false);
    const manifest = { format: BACKUP_FORMAT, version: BACKUP_VERSION, writtenBy: WRITTEN_BY, made, sums };
    addWhole("manifest.json", Buffer.from(`${JSON.stringify(manifest, null, 1)}\n`), true);
    zip.end();
    if (failed) throw failed;
    fsyncSync(descriptor);
  } catch (error) {
    rmSync(file, { force: true });
    throw error;
  } finally {
    closeSync(descriptor);
  }
}
