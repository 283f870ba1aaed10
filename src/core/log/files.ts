import Papa from "papaparse";
import { z } from "zod";
import { canonical } from "../kernel/canonical";
import { delimiterOf, guardCell, unguardCell } from "../kernel/csv";
import { CoreError } from "../kernel/errors";
import { plainText, toCoreError } from "../kernel/parse";
import { WRITTEN_BY } from "../kernel/version";
import { entrySchema, type LogEntry } from "./entries";
import { PHOTO_TYPES, type PhotoType } from "./photo";

export const LOG_FORMAT = "upwind-rod/log";
/** 2: pictures travel along. */
const LOG_VERSION = 2;
/** Most characters and entries a log file may have. */
export const MAX_LOG_CHARACTERS = 1024 * 1024;
export const MAX_LOG_ENTRIES = 5000;
/** Most characters a log file may have with its pictures, which are in it as text. */
export const MAX_LOG_FILE_CHARACTERS = 64 * 1024 * 1024;

/** A picture inside a log file, by the id its entry names. */
export interface FilePicture {
  type: PhotoType;
  base64: string;
}

/** Columns of the CSV in order, and how a cell is written: as words, a figure, yes or no, or JSON as in a design. */
const COLUMNS = {
  cutter: "text",
  at: "text",
  kind: "text",
  foam: "json",
  block: "text",
  width_mm: "number",
  wire: "json",
  wire_length_mm: "number",
  supply: "json",
  control: "json",
  leads: "json",
  ambient_C: "number",
  setting: "text",
  volts_V: "number",
  current_A: "number",
  heat_W_per_m: "number",
  feed_mm_s: "number",
  kerf_mm: "number",
  kerf_at_mm: "number",
  lag_mm: "number",
  face: "text",
  photo: "text",
  tension_N: "number",
  frequency_Hz: "number",
  how: "text",
  hot: "boolean",
  why: "text",
  spool: "text",
  cut_mm: "number",
  pieces: "number",
  cut_m: "number",
  hot_min: "number",
  fault: "text",
  cause: "text",
  rig: "text",
  name: "text",
  figures: "json",
  part: "text",
  done: "json",
  change: "text",
  outcome: "text",
  note: "text",
} as const satisfies Record<string, "text" | "number" | "json" | "boolean">;
type Column = keyof typeof COLUMNS;
const FIELDS = Object.keys(COLUMNS) as Column[];

/** Log entries as CSV, canonical units in the columns' names; reads back as the same entries. */
export function entriesToCsv(rows: readonly { cutter: string; entry: LogEntry }[]): string {
  const data = rows.map(({ cutter, entry }) => {
    const flat: Record<string, unknown> = { cutter, ...entry };
    return FIELDS.map((field) => {
      const value = flat[field];
      if (value === undefined) return "";
      if (COLUMNS[field] === "json") return JSON.stringify(value);
      return COLUMNS[field] === "text" ? guardCell(String(value)) : String(value);
    });
  });
  return `${Papa.unparse({ fields: FIELDS, data }, { newline: "\n" })}\n`;
}

/** A cutter's log as JSON, with the pictures that are given. */
export function entriesToJson(cutter: string, entries: readonly LogEntry[], pictures: Readonly<Record<string, FilePicture>> = {}): string {
  return `${JSON.stringify({ format: LOG_FORMAT, version: LOG_VERSION, writtenBy: WRITTEN_BY, cutter, entries, pictures }, null, 2)}\n`;
}

/** One entry of a file, or why it was not taken. `line` is the line of a CSV, the number of the entry in JSON. `picture` is the id in the file of one that came with it. */
export type LogFileRow =
  | { line: number; status: "new" | "known"; entry: LogEntry; picture?: string }
  | { line: number; status: "refused"; path: string; message: string };

function judged(value: unknown, line: number, present: Map<string, number>, pictures: Readonly<Record<string, FilePicture>>): LogFileRow {
  const parsed = entrySchema.safeParse(value);
  if (!parsed.success) {
    const { path, message } = toCoreError(parsed.error);
    return { line, status: "refused", path, message };
  }
  const { photo, ...entry } = parsed.data as LogEntry & { photo?: string };
  const key = canonical(entry);
  // Entries alike are entries each: as many are known as are there, and the next one is new.
  const left = present.get(key) ?? 0;
  if (left > 0) present.set(key, left - 1);
  return { line, status: left > 0 ? "known" : "new", entry: entry as LogEntry, ...(photo !== undefined && pictures[photo] ? { picture: photo } : {}) };
}

const envelope = z.strictObject({
  format: z.literal(LOG_FORMAT, { error: `must be "${LOG_FORMAT}"` }),
  version: z.number({ error: "must be a number" }),
  writtenBy: plainText(100, "must be text").optional(),
  cutter: plainText(400, "must be text").optional(),
  pictures: z
    .record(
      z.uuid({ error: "must be named by an id" }),
      z.strictObject({ type: z.enum(PHOTO_TYPES, { error: `must be one of ${PHOTO_TYPES.join(", ")}` }), base64: z.base64({ error: "must be base64" }) }),
    )
    .default({}),
  entries: z.array(z.unknown(), { error: "must be a list of entries" }).max(MAX_LOG_ENTRIES, { error: `has room for ${MAX_LOG_ENTRIES} entries` }),
});

function readJson(text: string): { rows: FileEntry[]; pictures: Record<string, FilePicture> } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new CoreError("bad-json", "", `the file is not JSON: ${(error as Error).message}`);
  }
  const parsed = envelope.safeParse(value);
  if (!parsed.success) throw toCoreError(parsed.error);
  if (parsed.data.version > LOG_VERSION)
    throw new CoreError("newer-format", "version", `this log was written by a newer program (version ${parsed.data.version}): update to read it`);
  if (parsed.data.version !== 1 && parsed.data.version !== LOG_VERSION) throw new CoreError("wrong-format", "version", `version must be 1 or ${LOG_VERSION}`);
  return { rows: parsed.data.entries.map((entry, i) => ({ line: i + 1, value: entry })), pictures: parsed.data.pictures };
}

/** A cell as its column wants it; a cell that cannot be read is left as it is for the schema to refuse by name. */
function cellValue(column: Column, text: string): unknown {
  switch (COLUMNS[column]) {
    case "number":
      return text.trim() !== "" && Number.isFinite(Number(text)) ? Number(text) : text;
    case "boolean":
      return text === "true" ? true : text === "false" ? false : text;
    case "json":
      try {
        return JSON.parse(text);
      } catch {
        return text;
      }
    default:
      return unguardCell(text);
  }
}

interface FileEntry {
  line: number;
  value: unknown;
}

function readCsv(text: string): FileEntry[] {
  const parsed = Papa.parse<string[]>(text, { skipEmptyLines: false, delimiter: delimiterOf(text) });
  const [header = [], ...rows] = parsed.data;
  const columns = header.map((cell) => cell.trim());
  if (!columns.includes("kind") || !columns.includes("at"))
    throw new CoreError("wrong-format", "line 1", 'the first line must name the columns, "kind" and "at" among them');
  for (const [i, column] of columns.entries()) {
    if (!(column in COLUMNS)) throw new CoreError("unknown-key", "line 1", `"${column}" (column ${i + 1}) is not a column of a log: use ${FIELDS.join(", ")}`);
    if (columns.indexOf(column) !== i) throw new CoreError("conflict", "line 1", `the column "${column}" is there twice`);
  }
  const faults = new Map(parsed.errors.map((error) => [error.row, error.message]));
  return rows.flatMap((cells, i): FileEntry[] => {
    if (cells.every((cell) => cell.trim() === "")) return [];
    const fault = faults.get(i + 1);
    if (fault !== undefined || cells.length > columns.length)
      return [{ line: i + 2, value: fault ?? `has ${cells.length} cells where the first line names ${columns.length} columns` }];
    const value: Record<string, unknown> = {};
    for (const [k, column] of columns.entries()) {
      const cell = cells[k] ?? "";
      // The cutter's name is for readers: entries go to the cutter they are brought to.
      if (column !== "cutter" && cell !== "") value[column] = cellValue(column as Column, cell);
    }
    return [{ line: i + 2, value }];
  });
}

/**
 * Reads a log file, JSON or CSV, against a log as it is: which entries are new, which are known already, and which cannot be taken and why. Nothing is changed.
 * @throws CoreError for a file that is no log at all: too long, not JSON nor such a table, a newer version
 */
export function readLogFile(text: string, present: readonly LogEntry[]): LogFileRow[] {
  return readLogWithPictures(text, present).rows;
}

/** The same, with the pictures that came along. */
export function readLogWithPictures(text: string, present: readonly LogEntry[]): { rows: LogFileRow[]; pictures: Record<string, FilePicture> } {
  const plain = text.replace(/^\uFEFF/, "");
  const json = plain.trimStart().startsWith("{");
  const most = json ? MAX_LOG_FILE_CHARACTERS : MAX_LOG_CHARACTERS;
  if (text.length > most) throw new CoreError("out-of-range", "", `a log file has at most ${most} characters; this one has ${text.length}`);
  const { rows, pictures } = json ? readJson(plain) : { rows: readCsv(plain), pictures: {} };
  if (rows.length > MAX_LOG_ENTRIES) throw new CoreError("out-of-range", "", `a log file has at most ${MAX_LOG_ENTRIES} entries`);
  const known = new Map<string, number>();
  for (const key of present.map(canonical)) known.set(key, (known.get(key) ?? 0) + 1);
  return {
    rows: rows.map(({ line, value }) =>
      typeof value === "string" ? { line, status: "refused", path: "", message: value } : judged(value, line, known, pictures),
    ),
    pictures,
  };
}
