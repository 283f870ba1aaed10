import { z } from "zod";
import { DOCUMENTS } from "@/core/documents/documents";
import { DOCUMENT_IDS, DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";

export const BACKUP_FORMAT = "upwind-rod/backup";
/** Version 2 added plans, version 3 rigs, version 4 who changed what. Phrases, members and sessions are in no version: archives are handed to others. */
export const BACKUP_VERSION = 4;

const MIB = 1024 * 1024;
/** What an archive from outside may be. Anything larger is refused with the limit as a figure. */
export const ARCHIVE_LIMITS = {
  /** of the file itself, bytes */
  fileBytes: 512 * MIB,
  /** of all its parts unpacked, bytes */
  unpackedBytes: 1024 * MIB,
  /** of one part that is JSON, unpacked, bytes */
  partBytes: 256 * MIB,
  /** of a photograph, bytes */
  photoBytes: 16 * MIB,
  /** Unpacked to packed size of a part above 1 MiB. Rows differ from each other by their ids, so real archives stay below 40. */
  ratio: 200,
  /** files in the archive */
  entries: 100_000,
  /** nesting of a row's JSON */
  depth: 64,
  /** of one row as text, bytes */
  rowBytes: 16 * MIB,
} as const;

/** PostgreSQL has no year 0. */
const time = z.iso
  .datetime({ offset: true, error: "must be a date and time" })
  .refine((text) => !text.startsWith("0000"), { error: "must be a date and time" });
const id = z.uuid({ error: "must be an id" });
const revision = z.int({ error: "must be a whole number" }).min(1).max(2_000_000_000);
const document = z.record(z.string(), z.unknown(), { error: "must be a document" });
/** Archives before version 4 knew nobody by name. */
const changedBy = z.string().max(200).nullable().default(null);
const formatVersion = z.number().int().min(1).max(1_000_000);
/** Archives before row versions had none. */
const laterVersion = formatVersion.default(1);

const documentRow = { id, name: z.string().max(400), formatVersion, revision, createdAt: time, updatedAt: time, changedBy, deletedAt: time.nullable() };
const drawerRow = z.strictObject({
  ...documentRow,
  kind: z.string().max(40),
  nameKey: z.string().max(500),
  item: document,
  formatVersion: laterVersion,
});
const logRow = z.strictObject({
  id,
  cutterId: id,
  kind: z.string().max(40),
  at: time,
  entry: document,
  formatVersion: laterVersion,
  revision,
  changedBy,
  createdAt: time,
});
const photoRow = z.strictObject({ id, cutterId: id, type: z.string().max(40), createdAt: time });
const factRow = z.strictObject({ key: z.string().max(200), value: z.string().max(10_000), at: time });

export const manifestSchema = z.strictObject({
  format: z.literal(BACKUP_FORMAT, { error: `must be "${BACKUP_FORMAT}"` }),
  version: z.number({ error: "must be a number" }),
  writtenBy: z.string().max(100).optional(),
  made: time,
  /** SHA-256 of every other file in the archive, hexadecimal. */
  sums: z.record(z.string(), z.string()),
});

export type PartName = DocumentId | "drawer" | "log" | "facts" | "photos";

/** One kind of rows in an archive: a file of it, and the table that it comes from and goes to. */
export interface ArchivePart {
  name: PartName;
  table: string;
  key: "id" | "key";
  schema: z.ZodObject;
  /** first version of archives that has it */
  since: number;
  /** key of the table's `document` in the archive */
  payload?: string;
}

/** In the order in which a restore inserts them: a row comes after the rows that it names. */
export const PARTS: readonly ArchivePart[] = [
  ...DOCUMENT_IDS.map((name): ArchivePart => {
    const { archivedSince } = DOCUMENTS[name];
    const { payload } = DOCUMENT_NAMES[name];
    return { name, table: name, key: "id", schema: z.strictObject({ ...documentRow, [payload]: document }), since: archivedSince, payload };
  }),
  { name: "drawer", table: "drawer_items", key: "id", schema: drawerRow, since: 1 },
  { name: "log", table: "log_entries", key: "id", schema: logRow, since: 1 },
  { name: "facts", table: "workshop", key: "key", schema: factRow, since: 1 },
  { name: "photos", table: "photos", key: "id", schema: photoRow, since: 1 },
];

const camel = (name: string) => name.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase());
const snake = (name: string) => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** Columns that hold a time: the database writes them with "+00:00" at the end, an archive with "Z". */
const isTime = (name: string) => name === "at" || name.endsWith("At");

/** A table's row as an archive writes it, its keys in the order of the part's schema. What an older table lacks is as that column began. */
export function rowToArchive({ schema, payload = "document" }: ArchivePart, row: Readonly<Record<string, unknown>>): Record<string, unknown> {
  const own = Object.fromEntries(Object.entries(row).map(([name, value]) => [camel(name), value]));
  return Object.fromEntries(
    Object.keys(schema.shape).map((name) => {
      const value = own[name] ?? (name === payload ? own.document : null) ?? (name === "revision" || name === "formatVersion" ? 1 : null);
      if (!isTime(name) || value === null) return [name, value];
      return [name, value instanceof Date ? value.toISOString() : String(value).replace(/\+00(:00)?$/, "Z")];
    }),
  );
}

/** An archive's row as its table has it. */
export const rowToTable = ({ payload }: ArchivePart, row: Readonly<Record<string, unknown>>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(row).map(([name, value]) => [name === payload ? "document" : snake(name), value]));
