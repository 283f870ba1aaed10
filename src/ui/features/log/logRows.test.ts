import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { demoLog } from "@/core/log/demoLog";
import { entrySchema, type TestCut } from "@/core/log/entries";
import { cardRow } from "@/core/sheets/settingCard";
import type { LogRow } from "../../kit/api";
import { diagnosisOf, filteredRows, type LogFilter, mergedPage, newestFirst, settingEntryOf } from "./logRows";

const entries = demoLog();
const rows = entries.map((entry, i): LogRow => ({ id: String(i), entry, revision: 1, changedBy: null }) as LogRow);
const all: LogFilter = { kind: "all", from: "", to: "", words: "" };
const shown = (filter: Partial<LogFilter>) => filteredRows(rows, { ...all, ...filter }, (entry) => entry.kind);
const at = "2026-11-24T10:00:00.000Z";

describe("rows of a log", () => {
  it("come newest first", () => {
    const dates = newestFirst(rows).map(({ entry }) => entry.at);
    expect(dates).toEqual([...dates].sort().reverse());
    expect(dates).toHaveLength(rows.length);
  });

  it("an older page adds what is not there yet", () => {
    expect(mergedPage(rows.slice(0, 3), rows.slice(2, 5))).toEqual(rows.slice(0, 5));
  });

  it("are filtered by kind, by days, both included, and by words in any case", () => {
    expect(shown({})).toEqual(rows);
    expect(new Set(shown({ kind: "test-cut" }).map(({ entry }) => entry.kind))).toEqual(new Set(["test-cut"]));
    const day = (rows[2] as LogRow).entry.at.slice(0, 10);
    expect(shown({ from: day, to: day })).toEqual(rows.filter(({ entry }) => entry.at.startsWith(day)));
    expect(shown({ from: "9999-01-01" })).toEqual([]);
    const noted = rows.find(({ entry }) => entry.note.length > 3) as LogRow;
    expect(shown({ words: ` ${noted.entry.note.toUpperCase()} ` })).toContain(noted);
    expect(shown({ words: "no such words" })).toEqual([]);
  });
});

describe("entries that the desk writes", () => {
  const design = designSchema.parse(DEMO_CUTTERS[0]);

  it("a remedy that is tried is a valid diagnosis of its cut, however long its words", () => {
    const cut = entries.find((entry): entry is TestCut => entry.kind === "test-cut") as TestCut;
    const entry = diagnosisOf(cut, { cause: "paused", change: "x".repeat(400) } as never, at);
    expect(entrySchema.parse(entry)).toMatchObject({ fault: cut.face, outcome: "untried" });
  });

  it("a row of the setting card is a valid entry; volts beyond the log's limits are left out", () => {
    const row = cardRow(design, { foam: design.job.foam, widthMm: design.job.width_mm, ambientC: 20 });
    if (!row) throw new Error("no row");
    expect(entrySchema.parse(settingEntryOf(row, "metric", at))).toMatchObject({ kind: "setting", feed_mm_s: row.feedMmS });
    expect(settingEntryOf({ ...row, volts: 1e6 }, "metric", at)).not.toHaveProperty("volts_V");
    expect(settingEntryOf({ ...row, knob: null } as never, "metric", at)).toMatchObject({ setting: "as it is" });
  });
});
