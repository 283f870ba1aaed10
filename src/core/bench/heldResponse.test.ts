import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import { evaluateDesign } from "../cutters/solve/evaluate";
import { heldResponse } from "./heldResponse";

const gatepost = DEMO_CUTTERS[1] as Design;
const holder = (alloy: string, hold_C: number, feed_mm_s = 8): Design =>
  designSchema.parse({
    ...gatepost,
    wire: { alloy, diameter_mm: 0.41, length_mm: 420 },
    control: { kind: "held", hold_C },
    job: { ...gatepost.job, feed_mm_s },
  });

describe("a held temperature on the bench", () => {
  it("takes the foam with more duty, brings its mean back within a second, and lets the bare ends run hotter than asked", () => {
    for (const hold of [300, 360]) {
      const seen = heldResponse(holder("ss-304", hold));
      expect(Math.abs(seen.airC - hold)).toBeLessThan(2);
      expect(Math.abs(seen.cutC - hold)).toBeLessThan(2);
      expect(seen.cutDuty).toBeGreaterThan(1.15 * seen.airDuty);
      expect(seen.lowestC).toBeLessThan(hold - 3);
      expect(seen.settlesS).toBeLessThan(1);
      expect(seen.endsC).toBeGreaterThan(hold + 10);
    }
  });

  it("settles where the desk's own engine says", () => {
    const design = holder("ss-304", 340);
    const { circuit } = evaluateDesign(design);
    const seen = heldResponse(design);
    expect(seen.endsC / circuit.wireC).toBeCloseTo(1, 1);
    expect(seen.cutDuty / (circuit.currentA / circuit.onCurrentA) ** 2).toBeCloseTo(1, 1);
  });

  it("warns of a wire whose ohms hardly tell, and not of one whose ohms do", () => {
    const codes = (design: Design) => evaluateDesign(design).cautions.map((caution) => caution.code);
    expect(codes(holder("cuni-44", 320))).toContain("held-blind");
    expect(codes(holder("nicr-80-20", 320))).toContain("held-blind");
    expect(codes(holder("ss-304", 320))).not.toContain("held-blind");
  });

  it("is asked of nothing that holds no temperature", () => {
    expect(() => heldResponse(gatepost)).toThrow(/control.kind must be held/);
  });
});
