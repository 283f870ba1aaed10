import fc from "fast-check";
import Papa from "papaparse";
import { describe, expect, it } from "vitest";
import { acceptedFrom, movedFigures, withCalibration } from "../calibration/accept";
import { learnFrom } from "../calibration/learn";
import { teachingCuts } from "../calibration/measured";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { exportDesign, importDesign } from "../cutters/design/fileFormat";
import { type Design, designSchema } from "../cutters/design/schema";
import { bandsOf } from "../cutters/solve/cutBands";
import { circuitOf, evaluateDesign, knobOf } from "../cutters/solve/evaluate";
import { diagnose } from "../diagnosis/diagnosis";
import { parseOrThrow } from "../kernel/parse";
import { cardRow } from "../sheets/settingCard";
import { demoLog } from "./demoLog";
import { CUT_FACES, type CutFace, type Diagnosis, ENTRY_KINDS, entrySchema, type LogEntry, type TestCut } from "./entries";
import { entriesToCsv, entriesToJson, readLogFile } from "./files";
import { photoType } from "./photo";
import { spoolUse } from "./spools";
import { feedMmPerS, press, RESET, stop, stopwatchS } from "./stopwatch";

const tom = designSchema.parse(DEMO_CUTTERS[0]);
const demo = demoLog();
const lastCut = demo.filter((entry): entry is TestCut => entry.kind === "test-cut").at(-1) as TestCut;
const named = (cutter: string, entries: readonly LogEntry[]) => entries.map((entry) => ({ cutter, entry }));

describe("the stopwatch, against a fake clock", () => {
  it("counts four seconds an inch: three laps of 25.4 mm at 4 s are 6.35 mm/s (common practice)", () => {
    let watch = press(RESET, 1000);
    expect(stopwatchS(watch, 3500)).toBe(2.5);
    for (const at of [5000, 9000, 13000]) watch = press(watch, at);
    watch = stop(watch, 14500);
    expect(stopwatchS(watch, 99999)).toBe(13.5);
    expect(feedMmPerS(watch, 25.4)).toEqual({ feed: expect.closeTo(6.35, 12), laps: 2, spread: 0 });
    // The first lap, cut by stored heat, does not count.
    const quick = stop([3000, 7000, 11000].reduce(press, press(RESET, 1000)), 12000);
    expect(feedMmPerS(quick, 25.4)).toEqual({ feed: expect.closeTo(6.35, 12), laps: 2, spread: 0 });
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
        return read !== null && read.laps === Math.max(1, laps - 1) && Math.abs(read.feed / (25000 / ms) - 1) < 1e-9 && read.spread < 1e-6;
      }),
    );
  });
});

describe("log files", () => {
  it("CSV and JSON read back as the same entries, regardless of what is in their words", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(...demo), fc.string({ maxLength: 80 })), { maxLength: 12 }), (drawn) => {
        // Different moments, so that none is another's double.
        const entries = drawn.flatMap(([entry, note], i) => {
          const parsed = entrySchema.safeParse({ ...entry, note, at: new Date(1.7e12 + i * 60000).toISOString() });
          return parsed.success ? [parsed.data] : [];
        });
        for (const text of [entriesToCsv(named("Long Tom", entries)), entriesToJson("Long Tom", entries)]) {
          const rows = readLogFile(text, []);
          expect(rows.map((row) => (row.status === "refused" ? row : row.entry))).toEqual(entries);
          expect(readLogFile(text, entries).every((row) => row.status === "known")).toBe(true);
        }
      }),
      // A note of another region's delimiters once had the file read by them.
      { numRuns: 150, examples: [[[[lastCut, " ;;"]]], [[[lastCut, "\t\t\t"]]]] },
    );
  });

  it("is read whichever of the regions' delimiters it was saved with", () => {
    const comma = entriesToCsv(named("Long Tom", [{ ...lastCut, note: "one; two" }]));
    for (const delimiter of [";", "\t"]) {
      const text = Papa.unparse(Papa.parse<string[]>(comma, { delimiter: "," }).data, { delimiter });
      expect(readLogFile(text, []).map((row) => (row.status === "refused" ? row : row.entry.note))).toEqual(["one; two"]);
    }
  });

  it("a bad row is refused by line and field, and the good ones are still there", () => {
    const csv = entriesToCsv(named("Long Tom", demo)).split("\n");
    const broken = [csv[0], csv[1], csv[2]?.replace(/,5\.5,/, ",fast,"), `${csv[3]},one,too,many`, csv[4]].join("\n");
    const rows = readLogFile(broken, []);
    expect(rows.map(({ line, status }) => [line, status])).toEqual([
      [2, "new"],
      [3, "refused"],
      [4, "refused"],
      [5, "new"],
    ]);
    expect(rows[1]).toMatchObject({ path: "feed_mm_s", message: expect.stringContaining("must be a number from") });
    const json = JSON.parse(entriesToJson("Long Tom", demo));
    json.entries[3] = { ...json.entries[3], kerf_mm: -1 };
    expect(readLogFile(JSON.stringify(json), []).filter((row) => row.status === "refused")).toMatchObject([{ line: 4, path: "kerf_mm" }]);
  });

  it("what is no log at all is refused as a whole: not JSON, a newer version, unknown columns, too long", () => {
    const refusal = (text: string) => {
      try {
        readLogFile(text, []);
      } catch (error) {
        return (error as Error).message;
      }
      throw new Error("taken");
    };
    expect(refusal("{")).toMatch(/not JSON/);
    expect(refusal('{"format":"upwind-rod/log","version":9,"entries":[]}')).toMatch(/newer program/);
    expect(refusal('{"format":"another","version":1,"entries":[]}')).toMatch(/format must be/);
    expect(refusal("kind,at,colour\n")).toMatch(/"colour" \(column 3\)/);
    expect(refusal("a,b\n1,2\n")).toMatch(/name the columns/);
    expect(refusal("x".repeat(2 ** 20 + 1))).toMatch(/at most/);
  });

  it("thousands of broken files are read or refused, never a crash", () => {
    const good = [entriesToCsv(named("Long Tom", demo)), entriesToJson("Long Tom", demo)];
    fc.assert(
      fc.property(fc.constantFrom(...good), fc.nat(6000), fc.nat(40), fc.string({ maxLength: 12 }), (text, at, cut, put) => {
        const damaged = text.slice(0, at % text.length) + put + text.slice((at % text.length) + cut);
        try {
          for (const row of readLogFile(damaged, demo)) if (row.status !== "refused") parseOrThrow(entrySchema, row.entry);
        } catch (error) {
          expect((error as Error).name).toBe("CoreError");
        }
      }),
      { numRuns: 2000 },
    );
  });

  it("pictures are known by their first bytes, not by what they claim", () => {
    expect(photoType(Uint8Array.of(0xff, 0xd8, 0xff, 0xe0))).toBe("image/jpeg");
    expect(photoType(Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0))).toBe("image/png");
    expect(photoType(new TextEncoder().encode("RIFF0000WEBPVP8 "))).toBe("image/webp");
    for (const text of ["<svg onload=alert(1)>", "RIFF0000WAVEfmt ", "GIF89a", ""]) expect(photoType(new TextEncoder().encode(text))).toBeNull();
  });

  it("a spool's use adds up, and a break counts against the wire that was on", () => {
    expect(spoolUse(demo)).toEqual([
      { spool: "Rib wire, hard-drawn", changes: 2, usedM: expect.closeTo(2.962, 9), broke: 1, cutM: expect.closeTo(12.6, 9), hotMin: 93 },
    ]);
    expect(new Set(demo.map((entry) => entry.kind))).toEqual(new Set(ENTRY_KINDS.filter((kind) => kind !== "setting")));
  });
});

describe("an accepted calibration", () => {
  const cuts = teachingCuts(tom, demo);
  const { fit, next } = learnFrom(tom, cuts);
  const taught = withCalibration(tom, acceptedFrom(fit, tom.job.foam, cuts.length, "2026-11-20T10:00:00.000Z"));

  it("moves the desk's figures the way the cuts say, narrows their bands, and is forgotten without a trace", () => {
    const moved = Object.fromEntries(movedFigures(tom, taught).map((figure) => [figure.id, figure]));
    // The demo's cuts were made with a tenth less heat in the kerf, a third more drag and ohms nobody computed.
    expect(moved.kerf?.after).toBeLessThan(0.92 * (moved.kerf?.before ?? 0));
    expect(moved.bow?.after).toBeGreaterThan(1.5 * (moved.bow?.before ?? 0));
    const width = (design: Design) => {
      const { kerfM } = bandsOf(design, evaluateDesign(design));
      return (kerfM.high - kerfM.low) / kerfM.mid;
    };
    expect(width(taught)).toBeLessThan(0.5 * width(tom));
    expect(withCalibration(taught, null)).toEqual({ ...tom, calibrations: undefined });
    expect(importDesign(exportDesign(taught))).toEqual(taught);
  });

  it("holds for its own foam only; the ohms belong to the cutter and hold for all", () => {
    const other = (design: Design): Design => ({ ...design, job: { ...design.job, foam: { family: "xps", density_kg_m3: 29 } } });
    expect(evaluateDesign(other(taught)).cut.kerfM / evaluateDesign(other(tom)).cut.kerfM).toBeGreaterThan(0.93);
    expect(circuitOf(other(taught)).currentA).toBeLessThan(circuitOf(other(tom)).currentA);
  });

  it("moves the setting card: more volts for the same cut, and says that it is calibrated", () => {
    const input = { foam: tom.job.foam, widthMm: tom.job.width_mm, ambientC: tom.ambient_C };
    const [before, after] = [cardRow(tom, input), cardRow(taught, input)];
    expect(before?.calibrated).toBe(false);
    expect(after?.calibrated).toBe(true);
    expect(after?.knob?.value).toBeGreaterThan((before?.knob?.value ?? 0) + 0.3);
    for (const row of [before, after]) {
      expect(row?.evaluation.verdict).toBe("clean");
      expect(row?.settingBand?.low).toBeLessThan(row?.knob?.value ?? 0);
      expect(row?.settingBand?.high).toBeGreaterThan(row?.knob?.value ?? 0);
    }
  });

  it("a cold room wants a little more, a wider block more volts and the wire for it", () => {
    const input = { foam: tom.job.foam, widthMm: tom.job.width_mm, ambientC: tom.ambient_C };
    const usual = cardRow(tom, input);
    expect(cardRow(tom, { ...input, ambientC: 5 })?.knob?.value).toBeGreaterThan(usual?.knob?.value ?? 0);
    const wider = cardRow(tom, { ...input, widthMm: 1500 });
    expect(wider?.longerByMm).toBe(220);
    expect(wider?.knob?.value).toBeGreaterThan((usual?.knob?.value ?? 0) * 1.1);
    expect(cardRow(tom, { ...input, foam: { family: "epp", density_kg_m3: 60 }, widthMm: 5000 })).toBeNull();
  });

  it("names a next cut that would teach", () => {
    expect(next?.after).toBeLessThan(next?.before ?? 0);
    expect(next?.feedMPerS).toBeGreaterThan(0);
  });

  it("is refused where it is not one", () => {
    const [calibration] = taught.calibrations ?? [];
    expect(() => parseOrThrow(designSchema, { ...taught, calibrations: [{ ...calibration, factor: [1, 2] }] })).toThrow(
      /calibrations.0.factor must have fifteen numbers/,
    );
    expect(() => parseOrThrow(designSchema, { ...taught, calibrations: [{ ...calibration, heatShare: 0 }] })).toThrow(/heatShare must be a number from/);
  });
});

describe("diagnosis", () => {
  const cut = (face: CutFace, change: Partial<TestCut> = {}): TestCut => ({ ...lastCut, face, ...change });
  const causes = (of: TestCut, past: readonly Diagnosis[] = []) => diagnose(tom, of, past, "metric").remedies.map((remedy) => remedy.cause);
  const tried = (fault: CutFace, cause: string, outcome: Diagnosis["outcome"]): Diagnosis => ({
    kind: "diagnosis",
    at: "2026-11-20T10:00:00.000Z",
    fault,
    cause,
    change: "x",
    outcome,
    note: "",
  });

  it("every face of the trade's table has its cause, and a right one has none", () => {
    const expected: Record<CutFace, string[]> = {
      matt: [],
      hairs: [],
      glossy: ["too hot", "too slow"],
      ridged: ["too fast", "too cold"],
      grooved: ["paused", "too hot"],
      hooked: ["slack", "too fast", "no ear", "no wait"],
      "burnt-end": ["stopped there", "too hot"],
      tapered: ["ends out of step", "pull uneven"],
      "thin-middle": ["too fast", "slack", "too cold"],
      twisted: ["chords not parallel"],
    };
    for (const face of CUT_FACES) expect(causes(cut(face))).toEqual(expected[face]);
  });

  it("reads the cut's own figures: the cause they point to comes first, and its change, made, cures it", () => {
    const hot = cut("glossy", { supply: { kind: "bench", voltage_V: 24, current_A: 8 }, heat_W_per_m: 110, current_A: undefined, feed_mm_s: 6.5 });
    const [first] = diagnose({ ...tom, supply: { ...tom.supply, voltage_V: 24 } as Design["supply"] }, hot, [], "metric").remedies;
    expect(first).toMatchObject({
      cause: "too hot",
      reading: expect.stringContaining("above the clean"),
      change: expect.stringMatching(/turn down: 24\.0 V to \d+\.\d V/),
    });
    expect(evaluateDesign(first?.design as Design).verdict).toBe("clean");
    const fast = cut("ridged", { feed_mm_s: 16, heat_W_per_m: 43.7, current_A: undefined });
    const [slower] = diagnose(tom, fast, [], "metric").remedies.filter((remedy) => remedy.cause === "too fast");
    expect(evaluateDesign(slower?.design as Design).verdict).toBe("clean");
    const cold = cut("ridged", {
      supply: { kind: "bench", voltage_V: 8, current_A: 8, maxVoltage_V: 30, maxCurrent_A: 10 },
      heat_W_per_m: 14,
      current_A: undefined,
      feed_mm_s: 6.5,
    });
    expect(causes(cold)[0]).toBe("too cold");
    expect(knobOf(diagnose(tom, cold, [], "metric").remedies[0]?.design as Design)?.value).toBeGreaterThan(8);
  });

  it("remembers: what did not help comes last, what helped comes first", () => {
    const hooked = cut("hooked");
    expect(causes(hooked, [tried("hooked", "no wait", "no help")]).at(-1)).toBe("no wait");
    expect(causes(hooked, [tried("hooked", "too fast", "helped")])[0]).toBe("too fast");
    expect(causes(hooked, [tried("glossy", "too fast", "helped")])).toEqual(causes(hooked));
    expect(diagnose(tom, hooked, [tried("hooked", "no wait", "no help")], "metric").remedies.at(-1)?.before).toBe("no help");
  });
});
