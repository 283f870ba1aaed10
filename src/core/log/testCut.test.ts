import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { LIMITS } from "../units/limits";
import { entrySchema } from "./entries";
import { testCut } from "./testCut";

const made = { at: "2026-11-24T10:00:00.000Z", width_mm: 300, feed_mm_s: 5, face: "matt" as const, note: "" };

describe("a test cut of a cutter", () => {
  it.each(DEMO_CUTTERS.map((each) => [each.name, designSchema.parse(each)] as const))("%s: is a valid entry with the cutter as it is set", (_name, design) => {
    const cut = testCut(design, 44.123456, { ...made, kerf_mm: 1.5 });
    expect(entrySchema.parse(cut)).toEqual(cut);
    const { length_mm, ...wire } = design.wire;
    expect(cut).toMatchObject({ wire, wire_length_mm: length_mm, tension_N: design.tension.hot_N, heat_W_per_m: 44.123, kerf_mm: 1.5, width_mm: 300 });
    expect(cut.foam.weighed ?? false).toBe(design.job.foam.weighed ?? false);
  });

  it("what was not measured is left out, and so is a heat that no log takes", () => {
    const design = designSchema.parse(DEMO_CUTTERS[0]);
    for (const heat of [undefined, 0, LIMITS.power_W_per_m.max * 2]) expect(testCut(design, heat, made)).not.toHaveProperty("heat_W_per_m");
    for (const key of ["kerf_mm", "lag_mm", "photo"]) expect(testCut(design, 44, { ...made, [key]: undefined })).not.toHaveProperty(key);
  });
});
