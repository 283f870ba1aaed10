import { createHash } from "node:crypto";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import Assembler from "stream-json/assembler.js";
import { parser } from "stream-json/parser.js";
import { type Entry, fromBuffer, type Options, open, type ZipFile } from "yauzl";
import { z } from "zod";
import { DOCUMENTS } from "@/core/documents/documents";
import { ITEM_KIND } from "@/core/drawer/items";
import { type AnyDocument, type DocumentKind, readDocument } from "@/core/kernel/document";
import { DOCUMENT_IDS, DOCUMENT_NAMES } from "@/core/kernel/documentIds";
import { CoreError } from "@/core/kernel/errors";
import { toCoreError } from "@/core/kernel/parse";
import { readRow } from "@/core/kernel/rowDocument";
import { ENTRY_KIND } from "@/core/log/entries";
import { photoType } from "@/core/log/photo";
import { ARCHIVE_LIMITS, type ArchivePart, BACKUP_VERSION, manifestSchema, PARTS, type PartName } from "./archiveFormat";

/** What is read of an archive, in order: the manifest, then each part's rows, then the bytes of its photographs. */
export type ArchiveItem =
  | { kind: "manifest"; made: string; version: number }
  /** at most {@link BATCH_BYTES} of rows, each checked by its kind */
  | { kind: "rows"; part: PartName; rows: Record<string, unknown>[] }
  | { kind: "photo"; sum: string; bytes: Uint8Array };

/** Rows are passed on in batches of at most so many bytes of text. */
const BATCH_BYTES = 1024 * 1024;
const MIB = 1024 * 1024;

const bad = (path: string, message: string) => new CoreError("wrong-format", path, message);
const tooLarge = (path: string, message: string) => new CoreError("out-of-range", path, message);

/** How each part's documents are read: a failure names the row. */
const CHECKS: Partial<Record<PartName, (row: Record<string, unknown>) => unknown>> = {
  ...Object.fromEntries(
    DOCUMENT_IDS.map((id) => [
      id,
      (row: Record<string, unknown>) => readDocument(DOCUMENTS[id].kind as DocumentKind<AnyDocument>, row[DOCUMENT_NAMES[id].payload]),
    ]),
  ),
  drawer: (row) => readRow(ITEM_KIND, row.item, row.formatVersion as number),
  log: (row) => readRow(ENTRY_KIND, row.entry, row.formatVersion as number),
};

function checkRow(part: ArchivePart, row: unknown, i: number, owners: ReadonlySet<unknown>): Record<string, unknown> {
  const where = `${part.name}.json[${i}]`;
  const result = part.schema.safeParse(row);
  if (!result.success) throw toCoreError(result.error, where);
  const parsed = result.data as Record<string, unknown>;
  try {
    CHECKS[part.name]?.(parsed);
  } catch (error) {
    const cause = error instanceof z.ZodError ? toCoreError(error) : error;
    if (cause instanceof CoreError) throw new CoreError(cause.code, `${where}.${cause.path}`, `${where}: ${cause.message}`);
    throw cause;
  }
  if ("cutterId" in parsed && !owners.has(parsed.cutterId)) throw bad(`${where}.cutterId`, `${where} belongs to a cutter that is not in the archive`);
  return parsed;
}

/** The zip file's own list of its parts, within the limits. */
async function openZip(source: string | Uint8Array): Promise<{ zip: ZipFile; entries: Map<string, Entry> }> {
  const options: Options = { lazyEntries: true, autoClose: false };
  try {
    const zip = await new Promise<ZipFile>((resolve, reject) => {
      const done = (error: Error | null, file?: ZipFile) => (file ? resolve(file) : reject(error));
      if (typeof source === "string") open(source, options, done);
      else fromBuffer(Buffer.from(source.buffer, source.byteOffset, source.byteLength), options, done);
    });
    const entries = new Map<string, Entry>();
    let unpacked = 0;
    await new Promise<void>((resolve, reject) => {
      zip.on("error", reject);
      zip.on("end", resolve);
      zip.on("entry", (entry: Entry) => {
        const { fileName, uncompressedSize, compressedSize } = entry;
        unpacked += uncompressedSize;
        const most = fileName.startsWith("photos/") ? ARCHIVE_LIMITS.photoBytes : ARCHIVE_LIMITS.partBytes;
        if (entries.has(fileName)) return reject(bad(fileName, `the archive has ${fileName} twice`));
        if (entries.size >= ARCHIVE_LIMITS.entries)
          return reject(tooLarge("", `the archive has more than ${ARCHIVE_LIMITS.entries} files, the most that an archive may have`));
        if (uncompressedSize > most || unpacked > ARCHIVE_LIMITS.unpackedBytes)
          return reject(
            tooLarge(
              fileName,
              `${fileName} makes the archive unpack to more than it may: ${most / MIB} MB a file, ${ARCHIVE_LIMITS.unpackedBytes / MIB} MB in all`,
            ),
          );
        if (uncompressedSize > MIB && uncompressedSize > ARCHIVE_LIMITS.ratio * Math.max(1, compressedSize))
          return reject(tooLarge(fileName, `${fileName} unpacks to more than ${ARCHIVE_LIMITS.ratio} times its packed size: a workshop's rows never do`));
        entries.set(fileName, entry);
        zip.readEntry();
      });
      zip.readEntry();
    });
    return { zip, entries };
  } catch (error) {
    if (error instanceof CoreError) throw error;
    throw bad("", "this is not an archive of a workshop, or it is cut short");
  }
}

const cannotUnpack = ({ fileName }: Entry) => bad(fileName, `${fileName} cannot be unpacked: the archive is damaged`);

/** A part's bytes as they are unpacked; `sum` is known once all of them are read. */
function openPart(zip: ZipFile, entry: Entry): { bytes: AsyncGenerator<Buffer>; sum: () => string } {
  const hash = createHash("sha256");
  async function* unpacked(): AsyncGenerator<Buffer> {
    try {
      const stream = await new Promise<Readable>((resolve, reject) => zip.openReadStream(entry, (error, opened) => (opened ? resolve(opened) : reject(error))));
      for await (const chunk of stream) {
        hash.update(chunk as Buffer);
        yield chunk as Buffer;
      }
    } catch {
      throw cannotUnpack(entry);
    }
  }
  return { bytes: unpacked(), sum: () => hash.digest("hex") };
}

async function wholePart(zip: ZipFile, entry: Entry): Promise<{ bytes: Buffer; sum: string }> {
  const { bytes, sum } = openPart(zip, entry);
  const chunks: Buffer[] = [];
  for await (const chunk of bytes) chunks.push(chunk);
  return { bytes: Buffer.concat(chunks), sum: sum() };
}

/** The values of a JSON array, one at a time, within the limits of depth and size. */
async function* arrayValues(name: string, bytes: AsyncGenerator<Buffer>): AsyncGenerator<unknown> {
  const tokens = parser.asStream({ streamValues: false });
  let failed: unknown = null;
  const reading = pipeline(bytes, tokens).catch((error: unknown) => {
    failed = error;
  });
  const assembler = new Assembler();
  let depth = 0;
  let size = 0;
  try {
    for await (const token of tokens as AsyncIterable<{ name: string; value?: string }>) {
      if (depth === 0 && token.name !== "startArray") throw bad(name, `${name} is not readable: it must be a list of rows`);
      const opens = token.name === "startArray" || token.name === "startObject";
      const closes = token.name === "endArray" || token.name === "endObject";
      if (opens) depth += 1;
      if (depth > ARCHIVE_LIMITS.depth) throw tooLarge(name, `${name} is nested deeper than ${ARCHIVE_LIMITS.depth} levels`);
      size += 4 + (token.value?.length ?? 0);
      if (size > ARCHIVE_LIMITS.rowBytes) throw tooLarge(name, `a row of ${name} is larger than ${ARCHIVE_LIMITS.rowBytes / MIB} MB`);
      if (closes) depth -= 1;
      if (opens && depth === 1) continue;
      if (closes && depth === 0) continue;
      if (depth === 1 && !closes) {
        // A plain value where a row should be: its check says so.
        yield token.value ?? null;
        continue;
      }
      assembler.consume(token as Parameters<typeof assembler.consume>[0]);
      if (closes && depth === 1) {
        size = 0;
        yield assembler.current;
      }
    }
  } catch (error) {
    if (error instanceof CoreError) throw error;
    throw bad(name, `${name} is not readable`);
  } finally {
    tokens.destroy();
    await reading;
  }
  if (failed) throw failed instanceof CoreError ? failed : bad(name, `${name} is not readable`);
}

/**
 * Reads an archive from a file, or from its bytes: each part checked against its sum, each row by its schema and by its kind. Memory holds one batch or one photograph at a time.
 * @throws CoreError `wrong-format`, `newer-format` or `out-of-range` with the part at fault
 */
export async function* readArchive(source: string | Uint8Array): AsyncGenerator<ArchiveItem> {
  const { zip, entries } = await openZip(source);
  try {
    yield* readParts(zip, entries);
  } finally {
    zip.close();
  }
}

async function* readParts(zip: ZipFile, entries: ReadonlyMap<string, Entry>): AsyncGenerator<ArchiveItem> {
  const entryOf = (name: string): Entry => {
    const entry = entries.get(name);
    if (!entry) throw bad(name, `the archive has no ${name}: it is cut short, or was not made by this program`);
    return entry;
  };
  const { bytes: manifestBytes } = await wholePart(zip, entryOf("manifest.json"));
  let json: unknown;
  try {
    json = JSON.parse(manifestBytes.toString("utf8"));
  } catch {
    throw bad("manifest.json", "manifest.json is not readable");
  }
  const parsed = manifestSchema.safeParse(json);
  if (!parsed.success) throw toCoreError(parsed.error, "manifest.json");
  const { version, made, sums } = parsed.data;
  if (version > BACKUP_VERSION) throw new CoreError("newer-format", "version", "this backup was made by a newer Upwind Rod: update this copy, then restore it");
  if (!Number.isInteger(version) || version < 1) throw bad("version", `version must be a whole number from 1 to ${BACKUP_VERSION}`);
  const damaged = (name: string) => bad(name, `${name} is not as it was written: the archive is damaged`);
  for (const name of entries.keys()) if (name !== "manifest.json" && sums[name] === undefined) throw damaged(name);
  for (const name of Object.keys(sums)) if (!entries.has(name)) throw bad(name, `${name} is missing from the archive`);
  yield { kind: "manifest", made, version };

  const owners = new Set<unknown>();
  const photos: { id: string; type: string }[] = [];
  for (const part of PARTS) {
    if (version < part.since) continue;
    const name = `${part.name}.json`;
    const { bytes: unpacked, sum } = openPart(zip, entryOf(name));
    let rows: Record<string, unknown>[] = [];
    let bytes = 0;
    let i = 0;
    for await (const value of arrayValues(name, unpacked)) {
      const row = checkRow(part, value, i, owners);
      i += 1;
      if (part.name === "cutters") owners.add(row.id);
      if (part.name === "photos") {
        const id = row.id as string;
        if (!entries.has(`photos/${id}`)) throw bad(`photos/${id}`, `photos/${id} is missing from the archive`);
        photos.push({ id, type: row.type as string });
        row.sum = sums[`photos/${id}`];
      }
      const size = JSON.stringify(row).length;
      if (rows.length > 0 && bytes + size > BATCH_BYTES) {
        yield { kind: "rows", part: part.name, rows };
        rows = [];
        bytes = 0;
      }
      rows.push(row);
      bytes += size;
    }
    if (sum() !== sums[name]) throw damaged(name);
    if (rows.length > 0) yield { kind: "rows", part: part.name, rows };
  }
  const known = new Set([...PARTS.map(({ name }) => `${name}.json`), "manifest.json", ...photos.map(({ id }) => `photos/${id}`)]);
  for (const name of entries.keys()) if (!known.has(name)) throw damaged(name);
  for (const { id, type } of photos) {
    const name = `photos/${id}`;
    const { bytes, sum } = await wholePart(zip, entryOf(name));
    if (sum !== sums[name]) throw damaged(name);
    if (photoType(bytes) !== type) throw bad(name, `${name} is not the picture it is said to be`);
    yield { kind: "photo", sum, bytes };
  }
}
