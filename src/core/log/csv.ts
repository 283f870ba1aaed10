import Papa from "papaparse";
import type { LogEntry } from "./entries";

const FIELDS = [
  "cutter",
  "at",
  "kind",
  "foam",
  "width_mm",
  "wire",
  "wire_length_mm",
  "setting",
  "volts_V",
  "current_A",
  "heat_W_per_m",
  "feed_mm_s",
  "kerf_mm",
  "lag_mm",
  "face",
  "tension_N",
  "frequency_Hz",
  "how",
  "hot",
  "note",
] as const;

/** A spreadsheet would run a cell that begins so: it is written behind an apostrophe. */
const guard = (value: unknown) => (typeof value === "string" && /^[=+\-@\t\r]/.test(value) ? `'${value}` : value);

/** Log entries as CSV, canonical units in the columns' names; for reading elsewhere, one line an entry. */
export function entriesToCsv(rows: readonly { cutter: string; entry: LogEntry }[]): string {
  const data = rows.map(({ cutter, entry }) => {
    const flat: Record<string, unknown> = {
      cutter,
      ...entry,
      ...(entry.kind === "test-cut" ? { foam: `${entry.foam.family}-${entry.foam.density_kg_m3}`, wire: JSON.stringify(entry.wire) } : {}),
    };
    return FIELDS.map((field) => guard(flat[field] ?? ""));
  });
  return `${Papa.unparse({ fields: [...FIELDS], data }, { newline: "\n" })}\n`;
}
