import type { Remedy } from "@/core/diagnosis/diagnosis";
import type { Diagnosis, EntryKind, LogEntry, TestCut } from "@/core/log/entries";
import { foamNamed } from "@/core/materials/foams";
import { knobWords } from "@/core/sheets/buildSheet";
import type { CardRow } from "@/core/sheets/settingCard";
import { LIMITS } from "@/core/units/limits";
import type { UnitSystem } from "@/core/units/units";
import type { LogRow } from "../../kit/api";
import { tidy } from "../../kit/tidy";

/** Rows by their dates, the newest first. */
export const newestFirst = (rows: readonly LogRow[]): LogRow[] => [...rows].sort((a, b) => (a.entry.at < b.entry.at ? 1 : -1));

/** Rows and an older page of them, each once. */
export const mergedPage = <T extends { id: string }>(all: readonly T[], page: readonly T[]): T[] => [
  ...all,
  ...page.filter((row) => !all.some((each) => each.id === row.id)),
];

/** What is shown of a log: one kind or all, between two days (ISO, both included, empty for open), and with some words in it. */
export interface LogFilter {
  kind: EntryKind | "all";
  from: string;
  to: string;
  words: string;
}

/** The rows that a filter lets through. @param wordsOf an entry as the list shows it */
export function filteredRows(rows: readonly LogRow[], { kind, from, to, words }: LogFilter, wordsOf: (entry: LogEntry) => string): LogRow[] {
  const wanted = words.trim().toLowerCase();
  return rows.filter(({ entry }) => {
    const day = entry.at.slice(0, 10);
    return (
      (kind === "all" || entry.kind === kind) &&
      (from === "" || day >= from) &&
      (to === "" || day <= to) &&
      (wanted === "" || `${wordsOf(entry)} ${entry.note}`.toLowerCase().includes(wanted))
    );
  });
}

/** The log entry of a remedy that is being tried on a cut. @param at ISO time */
export const diagnosisOf = (cut: TestCut, remedy: Remedy, at: string): Diagnosis => ({
  kind: "diagnosis",
  at,
  fault: cut.face,
  cause: remedy.cause,
  change: remedy.change.slice(0, 300),
  outcome: "untried",
  note: "",
});

/** The log entry of a row of the setting card that is used; figures outside the log's limits are left out. @param at ISO time */
export const settingEntryOf = (row: CardRow, system: UnitSystem, at: string): LogEntry => ({
  kind: "setting",
  at,
  foam: foamNamed(row.design.job.foam),
  width_mm: row.widthMm,
  setting: row.knob ? knobWords(row.knob.kind, row.knob.value, system) : "as it is",
  feed_mm_s: row.feedMmS,
  ...(row.volts >= LIMITS.voltage_V.min && row.volts <= LIMITS.voltage_V.max ? { volts_V: tidy(row.volts) } : {}),
  ...(row.currentA >= LIMITS.drivingCurrent_A.min ? { current_A: tidy(row.currentA) } : {}),
  note: "",
});
