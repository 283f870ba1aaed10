import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { entrySchema } from "@/core/log/entries";
import { afterStoring, MEASURE_NAMES, newDraft, readMeasures, testCutOf } from "./testCutDraft";

const design = designSchema.parse(DEMO_CUTTERS[0]);
const cutter = { design, evaluation: evaluateDesign(design), asSet: "bench supply at 9 V" };
const at = "2026-11-24T10:00:00.000Z";
const draft = { ...newDraft(design), face: "matt" as const };
const texts = (more: object) => ({ ...draft.texts, ...more });

describe("figures measured at a cut", () => {
  it("are read in the workshop's units, and empty ones are left out", () => {
    expect(readMeasures(texts({ kerf: "1.4", volts: "8.5" }), "metric")).toEqual({ measured: { kerf: 1.4, volts: 8.5 }, faults: {} });
    expect(readMeasures(texts({ lag: "0.1" }), "inch").measured.lag).toBeCloseTo(2.54, 6);
    expect(readMeasures(texts({ lag: "0.1 in" }), "metric").measured.lag).toBeCloseTo(2.54, 6);
  });

  it.each(MEASURE_NAMES)("%s: what cannot be read, or is out of range, is a fault of its own field", (name) => {
    for (const text of ["a lot", "-1", "1e9"]) {
      const { measured, faults } = readMeasures(texts({ [name]: text }), "metric");
      expect(Object.keys(faults)).toEqual([name]);
      expect(measured).toEqual({});
    }
  });
});

describe("the log entry of a test cut", () => {
  it("is valid, holds the cutter as it is set, and leaves out what was not measured", () => {
    const cut = testCutOf(cutter, draft, {}, { at });
    expect(entrySchema.parse(cut)).toEqual(cut);
    expect(cut).toMatchObject({ face: "matt", feed_mm_s: design.job.feed_mm_s, setting: "bench supply at 9 V", wire_length_mm: design.wire.length_mm });
    for (const key of ["kerf_mm", "kerf_at_mm", "lag_mm", "current_A", "volts_V", "photo", "block"]) expect(cut).not.toHaveProperty(key);
  });

  it("a place of measuring without a kerf says nothing", () => {
    expect(testCutOf(cutter, draft, { at: 50 }, { at })).not.toHaveProperty("kerf_at_mm");
    expect(testCutOf(cutter, draft, { kerf: 1.5, at: 50 }, { at })).toMatchObject({ kerf_mm: 1.5, kerf_at_mm: 50 });
  });

  it("a block of the drawer brings its own weighed density", () => {
    const block = { name: "Offcut", family: design.job.foam.family, block_length_mm: 500, block_width_mm: 100, block_thickness_mm: 100, mass_g: 125 };
    const cut = testCutOf(cutter, { ...draft, block: "Offcut" }, {}, { block, at });
    expect(cut.block).toBe("Offcut");
    expect(cut.foam).toMatchObject({ density_kg_m3: 25, weighed: true });
  });

  it("the next cut keeps feed, width and block, and forgets what was measured and judged", () => {
    const full = { ...draft, widthMm: 321, block: "Offcut", note: "n", setting: "x", texts: texts({ kerf: "1" }) };
    expect(afterStoring(full)).toMatchObject({ widthMm: 321, block: "Offcut", note: "", setting: null, face: null, texts: texts({}) });
  });
});
