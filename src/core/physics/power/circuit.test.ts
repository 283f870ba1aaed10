import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseFoamId, resolveFoam } from "../../materials/foams";
import { bareWireDriven } from "../heat/bareWire";
import { resistanceOhmPerM, resolveWire } from "../heat/wire";
import { type CircuitInput, leastOhm, solveCircuit } from "./circuit";
import { leadsOhm } from "./leads";

const wire = resolveWire({ alloy: "nicr-80-20", gauge_awg: 26 });
const base: CircuitInput = { wire, lengthM: 0.7, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 }, control: { kind: "direct" }, ambientC: 20 };

describe("circuit", () => {
  it("obeys Ohm's law and the bare wire's balance at once", () => {
    const result = solveCircuit({
      ...base,
      leads: { gauge_awg: 18, oneWay_m: 1.5, joint_ohm: 0.02 },
      springOhm: 0.1,
      supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5, internal_ohm: 0.3 },
    });
    const outside = leadsOhm({ gauge_awg: 18, oneWay_m: 1.5, joint_ohm: 0.02 }, 20, result.currentA) + 0.1 + 0.3;
    expect(result.currentA * (result.hotOhm + outside)).toBeCloseTo(12, 7);
    expect(bareWireDriven(wire, { currentA: result.currentA }, { ambientC: 20 }).temperatureC).toBeCloseTo(result.wireC, 5);
    expect(result.wirePowerW).toBeCloseTo(result.wireVoltageV * result.currentA, 9);
    expect(Math.abs(result.residualA)).toBeLessThan(1e-7);
    expect(result.iterations).toBeLessThan(30);
    expect(result.state).toBe("ok");
  });

  it("twice the length needs twice the volts for the same current (common practice)", () => {
    const short = solveCircuit(base);
    const long = solveCircuit({ ...base, lengthM: 1.4, supply: { kind: "dc", voltage_V: 24, maxCurrent_A: 5 } });
    expect(long.currentA).toBeCloseTo(short.currentA, 8);
    expect(long.wireC).toBeCloseTo(short.wireC, 6);
  });

  it("a longer wire on fixed volts never heats, and more volts never cool", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 3, noNaN: true }), fc.double({ min: 3, max: 40, noNaN: true }), (lengthM, voltage_V) => {
        const here = solveCircuit({ ...base, lengthM, supply: { kind: "dc", voltage_V, maxCurrent_A: 5 } });
        const longer = solveCircuit({ ...base, lengthM: lengthM * 1.05, supply: { kind: "dc", voltage_V, maxCurrent_A: 5 } });
        const more = solveCircuit({ ...base, lengthM, supply: { kind: "dc", voltage_V: voltage_V * 1.05, maxCurrent_A: 5 } });
        expect(longer.wireC).toBeLessThan(here.wireC);
        expect(more.wireC).toBeGreaterThan(here.wireC);
      }),
      { numRuns: 60 },
    );
  });

  it("12 V limited to 6 A wants at least 2 ohm; below that the supply is overloaded (common practice)", () => {
    const supply = { kind: "dc", voltage_V: 12, maxCurrent_A: 6 } as const;
    expect(leastOhm(supply)).toBe(2);
    const perM = resistanceOhmPerM(wire, 20);
    expect(solveCircuit({ ...base, supply, lengthM: 1.8 / perM }).state).toBe("overload");
    expect(solveCircuit({ ...base, supply, lengthM: 2.2 / perM }).state).toBe("ok");
  });

  it("PWM: heat goes with duty, rms with its root, and the supply still meets the on-current", () => {
    const steady = resolveWire({ alloy: { id: "custom", resistivity_uohm_m: 1, temperatureFactor: [[20, 1]], density_kg_m3: 8000 }, diameter_mm: 0.4 });
    const full = solveCircuit({ ...base, wire: steady });
    const third = solveCircuit({ ...base, wire: steady, control: { kind: "pwm", duty: 1 / 3 } });
    expect(third.wirePowerW / full.wirePowerW).toBeCloseTo(1 / 3, 7);
    expect(third.currentA / full.currentA).toBeCloseTo(Math.sqrt(1 / 3), 7);
    expect(third.supplyCurrentA).toBeCloseTo(full.supplyCurrentA, 7);
    const tight = { kind: "dc", voltage_V: 12, maxCurrent_A: full.supplyCurrentA * 0.9 } as const;
    expect(solveCircuit({ ...base, wire: steady, supply: tight, control: { kind: "pwm", duty: 0.1 } }).state).toBe("overload");
  });

  it("a bench supply gives the lower of its two knobs and says which rules", () => {
    const byVolts = solveCircuit({ ...base, supply: { kind: "bench", voltage_V: 12, current_A: 5 } });
    const byAmps = solveCircuit({ ...base, supply: { kind: "bench", voltage_V: 30, current_A: 1.5 } });
    expect(byVolts.state).toBe("ok");
    expect(byVolts.currentA).toBeCloseTo(solveCircuit(base).currentA, 9);
    expect(byAmps.state).toBe("current-limited");
    expect(byAmps.currentA).toBeCloseTo(1.5, 9);
  });

  it("zero duty is a cold wire, not a fault", () => {
    const off = solveCircuit({ ...base, control: { kind: "pwm", duty: 0 } });
    expect(off).toMatchObject({ currentA: 0, wireC: 20, state: "too-cold" });
  });

  it("warns of the cold rush a stainless wire makes", () => {
    const stainless = resolveWire({ alloy: "ss-304", diameter_mm: 0.4 });
    const hot = solveCircuit({ ...base, wire: stainless, lengthM: 0.5 });
    const result = solveCircuit({ ...base, wire: stainless, lengthM: 0.5, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: hot.supplyCurrentA * 1.02 } });
    expect(result.state).toBe("ok");
    expect(result.inrushA).toBeGreaterThan(result.supplyCurrentA * 1.2);
    expect(result.warnings.map((warning) => warning.code)).toContain("cold-inrush");
  });

  it("counts the cooler length in the foam", () => {
    const stainless = resolveWire({ alloy: "ss-304", diameter_mm: 0.4 });
    const pair = { wire: stainless, foam: resolveFoam(parseFoamId("eps-20")), ambientC: 20 };
    const air = solveCircuit({ ...base, wire: stainless, lengthM: 0.8 });
    const cutting = solveCircuit({ ...base, wire: stainless, lengthM: 0.8, cutting: { pair, feedMPerS: 0.006, widthM: 0.6 } });
    expect(cutting.currentA).toBeGreaterThan(air.currentA);
    const bare = resistanceOhmPerM(stainless, cutting.wireC) * 0.2;
    const inFoam = resistanceOhmPerM(stainless, cutting.cut?.wireC as number) * 0.6;
    expect(cutting.hotOhm).toBeCloseTo(bare + inFoam, 6);
  });

  it("is too cold when the wire cannot melt its way", () => {
    const pair = { wire, foam: resolveFoam(parseFoamId("xps-35")), ambientC: 20 };
    const weak = solveCircuit({ ...base, supply: { kind: "dc", voltage_V: 6, maxCurrent_A: 5 }, cutting: { pair, feedMPerS: 0.02, widthM: 0.6 } });
    expect(weak.state).toBe("too-cold");
  });
});
