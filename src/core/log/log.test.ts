import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { parseOrThrow } from "../design/schema";
import { entriesToCsv } from "./csv";
import { entrySchema, type LogEntry } from "./entries";
import { elapsedS, feedMmPerS, press, RESET, stop } from "./stopwatch";

const cut: LogEntry = {
  kind: "test-cut",
  at: "2026-11-23T10:00:00Z",
  foam: { family: "eps", density_kg_m3: 18 },
  width_mm: 600,
  wire: { alloy: "nicr-80-20", gauge_awg: 26 },
  wire_length_mm: 720,
  setting: "PWM 34 %",
  feed_mm_s: 6.35,
  kerf_mm: 1.4,
  face: "matt",
  note: '=SUM(A1), "quoted"\nand two lines',
};

describe("the stopwatch, against a fake clock", () => {
  it("counts four seconds an inch: three laps of 25.4 mm at 4 s are 6.35 mm/s (common practice)", () => {
    let watch = press(RESET, 1000);
    expect(elapsedS(watch, 3500)).toBe(2.5);
    for (const at of [5000, 9000, 13000]) watch = press(watch, at);
    watch = stop(watch, 14500);
    expect(elapsedS(watch, 99999)).toBe(13.5);
    expect(feedMmPerS(watch, 25.4)).toEqual({ feed: expect.closeTo(6.35, 12), laps: 3, spread: 0 });
  });

  it("without laps the whole way counts; before anything there is nothing; a press after a stop begins afresh", () => {
    expect(feedMmPerS(RESET, 100)).toBeNull();
    expect(feedMmPerS(press(RESET, 0), 100)).toBeNull();
    const whole = stop(press(RESET, 500), 20500);
    expect(feedMmPerS(whole, 100)?.feed).toBeCloseTo(5, 12);
    expect(press(whole, 30000)).toEqual({ startedMs: 30000, lapsMs: [], stoppedMs: null });
    expect(stop(RESET, 5)).toBe(RESET);
  });

  it("any even laps give their feed, however many and whenever begun", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30 }), fc.integer({ min: 1, max: 60000 }), fc.integer({ min: 0, max: 1e9 }), (laps, ms, start) => {
        let watch = press(RESET, start);
        for (let i = 1; i <= laps; i++) watch = press(watch, start + i * ms);
        const read = feedMmPerS(watch, 25);
        expect(read?.feed).toBeCloseTo(25000 / ms, 6);
        expect(read?.spread).toBeLessThan(1e-6);
      }),
    );
  });
});

describe("entries", () => {
  it("a test cut keeps exactly, and a bad one is refused by its field", () => {
    expect(parseOrThrow(entrySchema, cut)).toEqual(cut);
    for (const [key, bad] of [
      ["face", "shiny"],
      ["feed_mm_s", 0],
      ["kerf_mm", -1],
      ["at", "yesterday"],
      ["surprise", 1],
    ] as const) {
      expect(() => parseOrThrow(entrySchema, { ...cut, [key]: bad }), key).toThrow(new RegExp(key));
    }
    expect(() => parseOrThrow(entrySchema, { ...cut, foam: { family: "pvc", density_kg_m3: 40 } })).toThrow(/never be cut/);
  });

  it("leaves as CSV that no spreadsheet runs, a line an entry", () => {
    const text = entriesToCsv([{ cutter: DEMO_CUTTERS[0]?.name ?? "", entry: cut }]);
    const [head, ...rest] = text.trim().split("\n");
    expect(head).toMatch(/^cutter,at,kind,/);
    expect(rest.join("\n")).toContain('"\'=SUM(A1), ""quoted""\nand two lines"');
  });
});
