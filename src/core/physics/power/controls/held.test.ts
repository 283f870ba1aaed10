import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { resolveFoam } from "../../../materials/foams";
import { bareWireAtTemperature } from "../../heat/bareWire";
import { resistanceOhmPerM, resolveWire } from "../../heat/wire";
import { type CircuitInput, solveCircuit } from "../circuit";
import { degreesAPercent, tellingAlloys } from "./held";

const stainless = resolveWire({ alloy: "ss-304", diameter_mm: 0.64 });
const base: CircuitInput = {
  wire: stainless,
  lengthM: 1,
  supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 20 },
  control: { kind: "held", hold_C: 300 },
  ambientC: 20,
};
const cutting = { pair: { wire: stainless, foam: resolveFoam({ family: "eps", density_kg_m3: 20 }), ambientC: 20 }, feedMPerS: 0.004, widthM: 0.8 };

describe("a controller that holds the wire by its ohms", () => {
  it("holds a bare wire where it is asked to, with the current that the heat balance gives", () => {
    for (const hold_C of [150, 300, 450]) {
      const result = solveCircuit({ ...base, control: { kind: "held", hold_C } });
      expect(result.wireC).toBeCloseTo(hold_C, -0.5);
      expect(result.currentA / bareWireAtTemperature(stainless, hold_C, { ambientC: 20 }).currentA).toBeCloseTo(1, 1);
      // The supply meets the full on-current: volts over ohms.
      expect(result.onCurrentA).toBeCloseTo(24 / result.hotOhm, 6);
      expect(result.currentA).toBeLessThan(result.onCurrentA);
    }
  });

  it("in the foam keeps the mean: the middle runs cooler, and the bare ends hotter than asked", () => {
    const result = solveCircuit({ ...base, cutting });
    expect(result.hotOhm / resistanceOhmPerM(stainless, 300)).toBeCloseTo(1, 2);
    expect(result.wireC).toBeGreaterThan(320);
    expect(result.cut?.wireC).toBeLessThan(300);
    // A knob left alone does otherwise: its bare ends stay as hot as they were, near enough.
    const duty = (solveCircuit(base).currentA / solveCircuit(base).onCurrentA) ** 2;
    expect(solveCircuit({ ...base, control: { kind: "pwm", duty }, cutting }).wireC).toBeLessThan(result.wireC);
  });

  it("can give no more than all of it: on a weak supply it is full on", () => {
    const weak = { ...base, supply: { kind: "dc", voltage_V: 4, maxCurrent_A: 20 } as const };
    const all = solveCircuit({ ...weak, control: { kind: "direct" } });
    expect(all.wireC).toBeLessThan(300);
    expect(solveCircuit(weak).currentA).toBeCloseTo(all.currentA, 9);
  });

  it("is never hotter than straight on the wire, nor than asked", () => {
    fc.assert(
      fc.property(fc.double({ min: 80, max: 600, noNaN: true }), fc.double({ min: 2, max: 40, noNaN: true }), (hold_C, voltage_V) => {
        const supply = { kind: "dc", voltage_V, maxCurrent_A: 100 } as const;
        const saved = solveCircuit({ ...base, supply, control: { kind: "held", hold_C }, untilItMelts: true });
        expect(saved.wireC).toBeLessThan(hold_C + 4);
        expect(saved.wireC).toBeLessThan(solveCircuit({ ...base, supply, control: { kind: "direct" }, untilItMelts: true }).wireC + 1e-6);
      }),
      { numRuns: 100 },
    );
  });

  it("gives one per cent of reading in degrees: closed form for ohms that rise straight, and stainless long before nickel-chromium", () => {
    const alpha = 0.004;
    const straight = resolveWire({
      alloy: {
        id: "custom",
        resistivity_uohm_m: 0.1,
        temperatureFactor: [
          [20, 1],
          [1020, 1 + 1000 * alpha],
        ],
        density_kg_m3: 8000,
      },
      diameter_mm: 0.5,
    });
    for (const c of [100, 300, 500]) expect(degreesAPercent(straight, c)).toBeCloseTo((0.01 * (1 + alpha * (c - 20))) / alpha, 6);
    const at = Object.fromEntries(tellingAlloys(300).map(({ alloy, degC }) => [alloy, degC]));
    expect(at["ss-304"]).toBeGreaterThan(8);
    expect(at["ss-304"]).toBeLessThan(20);
    expect(at["nicr-80-20"] as number).toBeGreaterThan(4 * (at["ss-304"] as number));
    expect(tellingAlloys(300)[0]?.degC).toBeLessThanOrEqual(at["ss-304"] as number);
  });
});
