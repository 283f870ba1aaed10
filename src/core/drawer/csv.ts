import Papa from "papaparse";
import { delimiterOf, guardCell, unguardCell } from "../kernel/csv";
import { CoreError } from "../kernel/errors";
import { COLUMNS, cellText, itemFromCells } from "./columns";
import type { Item } from "./items";
import { MAX_CSV_CHARACTERS } from "./things";

/** Most rows a drawer file may have. */
export const MAX_CSV_ROWS = 5000;

/** The drawer as CSV: canonical units, which the column names carry; reads back as the same drawer. */
export function drawerToCsv(items: readonly Item[]): string {
  const rows = items.map((item) => COLUMNS.map((column) => (column.kinds.includes(item.kind) ? guardCell(cellText(item, column, "file")) : "")));
  return `${Papa.unparse({ fields: COLUMNS.map((column) => column.key), data: rows }, { newline: "\n" })}\n`;
}

/** One row of a file against the drawer as it is. */
export type CsvRow =
  | { line: number; status: "new"; item: Item }
  | { line: number; status: "change"; item: Item; id: string; changed: string[] }
  | { line: number; status: "same"; item: Item; id: string }
  | { line: number; status: "refused"; column: string; message: string; name: string };

export interface CsvPreview {
  rows: CsvRow[];
}

/** Names match without regard to case or the spaces round them; each kind has its own names. */
export const itemKey = (kind: string, name: string) => `${kind}\n${name.trim().toLowerCase()}`;

/** What differs between two items, by column label. */
function changedColumns(before: Item, after: Item): string[] {
  return COLUMNS.filter((column) => column.kinds.includes(after.kind) && cellText(before, column, "file") !== cellText(after, column, "file")).map(
    (column) => column.label,
  );
}

/**
 * Reads a drawer file and says row by row what taking it over would do; nothing is changed. Rows are matched to the drawer by kind and name.
 * Columns may be in any order and may be left out; comma, semicolon or tab between them.
 * @throws CoreError for a file that is no such table at all: too long, no header, an unknown column
 */
export function previewCsv(text: string, drawer: readonly { id: string; item: Item }[]): CsvPreview {
  if (text.length > MAX_CSV_CHARACTERS)
    throw new CoreError("out-of-range", "", `a drawer file has at most ${MAX_CSV_CHARACTERS} characters; this one has ${text.length}`);
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: false, delimiter: delimiterOf(text) });
  const table = parsed.data;
  const known = new Map(COLUMNS.map((column) => [column.key.toLowerCase(), column.key]));
  const header = (table[0] ?? []).map((cell) => known.get(cell.trim().toLowerCase()) ?? cell.trim());
  if (!header.includes("kind") || !header.includes("name")) {
    throw new CoreError("wrong-format", "line 1", 'the first line must name the columns, "kind" and "name" among them');
  }
  for (const [i, key] of header.entries()) {
    if (!known.has(key.toLowerCase())) {
      throw new CoreError("unknown-key", "line 1", `"${key}" (column ${i + 1}) is not a column of the drawer: use ${[...known.values()].join(", ")}`);
    }
    if (header.indexOf(key) !== i) throw new CoreError("conflict", "line 1", `the column "${key}" is there twice`);
  }
  const faults = new Map<number, string>();
  for (const error of parsed.errors) {
    // A file of one column has no delimiter to find; that is no fault.
    if (error.row !== undefined) faults.set(error.row, error.message);
  }
  const existing = new Map(drawer.map((row) => [itemKey(row.item.kind, row.item.name), row]));
  const seen = new Map<string, number>();
  const rows: CsvRow[] = [];
  for (const [i, cells] of table.entries()) {
    if (i === 0 || cells.every((cell) => cell.trim() === "")) continue;
    const line = i + 1;
    const at = (key: string) => unguardCell(cells[header.indexOf(key)] ?? "");
    const name = at("name").trim();
    const refuse = (column: string, message: string) => rows.push({ line, status: "refused", column, message, name });
    if (rows.length >= MAX_CSV_ROWS) throw new CoreError("out-of-range", `line ${line}`, `a drawer file has at most ${MAX_CSV_ROWS} rows`);
    const fault = faults.get(i);
    if (fault !== undefined) {
      // An open quotation mark swallows what follows it.
      const swallowed =
        cells
          .join("")
          .split("\n")
          .filter((each) => each.trim() !== "").length - 1;
      refuse(
        "",
        `this line cannot be read: ${fault}${swallowed > 0 ? `; it takes the ${swallowed === 1 ? "line" : `${swallowed} lines`} after it along` : ""}`,
      );
      continue;
    }
    if (cells.length > header.length) {
      refuse("", `has ${cells.length} cells where the first line names ${header.length} columns`);
      continue;
    }
    const key = itemKey(at("kind").trim().toLowerCase(), name);
    const before = existing.get(key);
    try {
      const item = itemFromCells(Object.fromEntries(header.map((column) => [column, at(column)])), before?.item);
      const first = seen.get(key);
      if (first !== undefined) throw new CoreError("conflict", "name", `"${name}" already is in line ${first}`);
      seen.set(key, line);
      const changed = before ? changedColumns(before.item, item) : [];
      if (!before) rows.push({ line, status: "new", item });
      else if (changed.length > 0) rows.push({ line, status: "change", item, id: before.id, changed });
      else rows.push({ line, status: "same", item, id: before.id });
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      refuse(error.path, error.message);
    }
  }
  return { rows };
}
