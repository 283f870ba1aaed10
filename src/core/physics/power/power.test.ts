import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CELLS, type Chemistry } from "../../materials/batteries";
import { bareLossWPerM } from "../heat/bareWire";
import { massKgPerM, resistanceOhmPerM, resolveWire } from "../heat/wire";
import { type CircuitInput, solveCircuit } from "./circuit";
import { type Leads, leadHeat, leadsOhm } from "./leads";
import { batteryRun, fuseAdvice } from "./powerAdvice";
import { warmUp, warmUpOnSupply } from "./warmup";

const wire = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.4 });

describe("copper leads, by hand", () => {
  /** AWG 18 is 1.024 mm thick (ASTM B258): 0.0172 ohm mm2/m over 0.823 mm2. */
  const PER_M = 0.0172 / 0.8231;
  const leads: Leads = { gauge_awg: 18, oneWay_m: 1.5 };

  it("resist there and back, with their joints, and more as they warm", () => {
    expect(leadsOhm(undefined, 20)).toBe(0);
    expect(leadsOhm(leads, 20)).toBeCloseTo(3 * PER_M, 5);
    expect(leadsOhm({ ...leads, joint_ohm: 0.02 }, 20)).toBeCloseTo(3 * PER_M + 0.02, 5);
    expect(leadsOhm(leads, 70)).toBeCloseTo(3 * PER_M * (1 + 0.00393 * 50), 5);
    expect(leadsOhm(leads, 20, 10)).toBeGreaterThan(leadsOhm(leads, 20));
  });

  it("settle where the film over their insulation carries off what they make, at the ohms they then have", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 12, noNaN: true }), fc.double({ min: -5, max: 35, noNaN: true }), (amperes, roomC) => {
        const { leadC } = leadHeat(leads, amperes, roomC);
        const made = amperes ** 2 * PER_M * (1 + 0.00393 * (leadC - 20));
        const carried = 10 * Math.PI * (1.0237e-3 + 1.6e-3) * (leadC - roomC);
        expect(made / carried).toBeCloseTo(1, 3);
        // What the ohms are computed with is that very warmth.
        expect(leadsOhm(leads, roomC, amperes)).toBeCloseTo(3 * PER_M * (1 + 0.00393 * (leadC - 20)), 4);
      }),
    );
  });

  it("a joint adds a quarter of the joints' heat over 0.02 W/K; without a steady state the result is a runaway, and never past copper's melting", () => {
    const { leadC, jointC } = leadHeat({ ...leads, joint_ohm: 0.04 }, 5, 20);
    expect(jointC - leadC).toBeCloseTo((25 * 0.01) / 0.02, 9);
    expect(leadHeat(leads, 5, 20).jointC).toBe(leadHeat(leads, 5, 20).leadC);
    const thin: Leads = { gauge_awg: 26, oneWay_m: 1, joint_ohm: 0.5 };
    expect(leadHeat(thin, 40, 20)).toEqual({ leadC: 520, jointC: 1085 });
  });
});

describe("fuses", () => {
  it("are the next size above a quarter more than the current, at or under what the leads carry", () => {
    const rows: [amperes: number, gauge: number | undefined, fuseA: number | null, ratingA: number, enough: number | null][] = [
      [3.9, undefined, 5, 10, 22],
      [4, undefined, 7.5, 10, 20],
      [7.9, 18, 10, 10, 18],
      [8, 18, null, 10, 14],
      [8, 14, 15, 15, 14],
      [0.3, 26, 0.5, 2.2, 26],
      [0.4, 26, 1, 2.2, 26],
      [1.7, 26, null, 2.2, 24],
      [2, 25, null, 2.2, 24],
      [3, 17, 5, 10, 22],
      [1, 30, null, 1, 26],
      [0.7, 30, 1, 1, 26],
      [23, 10, 30, 30, 10],
      [25, 10, null, 30, null],
      [40, 10, null, 30, null],
    ];
    for (const [amperes, gauge, fuseA, leadRatingA, leadGaugeAwg] of rows)
      expect([amperes, gauge, fuseAdvice(amperes, gauge)]).toEqual([amperes, gauge, { fuseA, leadRatingA, leadGaugeAwg }]);
  });
});

describe("a battery run down", () => {
  const cells = (chemistry: Chemistry, more: object = {}): CircuitInput => ({
    wire,
    lengthM: 0.8,
    supply: { kind: "battery", chemistry, cells: 5, capacity_Ah: 4, internal_ohm: 0, ...more },
    control: { kind: "direct" },
    ambientC: 20,
  });

  it("lasts its ampere-hours over the current it gives: between the currents of full and empty", () => {
    const run = batteryRun(cells("lithium-ion"));
    const current = (stateOfCharge: number) => solveCircuit(cells("lithium-ion", { stateOfCharge })).currentA;
    const hours = run.runTimeS / 3600;
    expect(hours).toBeGreaterThan(4 / current(1));
    expect(hours).toBeLessThan(4 / current(0.02));
    // Capacity counts once, charge in proportion as the volts allow.
    expect(batteryRun(cells("lithium-ion", { capacity_Ah: 8 })).runTimeS / run.runTimeS).toBeCloseTo(2, 6);
    expect(batteryRun(cells("lithium-ion", { stateOfCharge: 0.5 })).runTimeS).toBeLessThan(0.55 * run.runTimeS);
    expect(run.fade).toBeLessThan(1);
    expect(run.fade).toBeGreaterThan(0.3);
  });

  it("chopped to a fifth of the time it gives a fifth of the charge for the same on-current", () => {
    const direct = batteryRun(cells("lithium-ion"));
    const chopped = batteryRun({ ...cells("lithium-ion"), control: { kind: "pwm", duty: 0.2 } });
    // Cooler, the wire's ohms are a little less: a little more than its share flows.
    expect(chopped.runTimeS / direct.runTimeS).toBeGreaterThan(4.5);
    expect(chopped.runTimeS / direct.runTimeS).toBeLessThan(5.01);
    expect(batteryRun({ ...cells("lithium-ion"), control: { kind: "pwm", duty: 0 } }).runTimeS).toBe(Number.POSITIVE_INFINITY);
  });

  it("ends at its floor where its own ohms pull the volts under it, else when it is empty; nothing else runs down", () => {
    expect(batteryRun(cells("lithium-ion")).endedBy).toBe("empty");
    const { floorV } = CELLS["lithium-ion"];
    const tired = cells("lithium-ion", { internal_ohm: 1.2, capacity_Ah: 2 });
    const ended = batteryRun(tired);
    expect(ended.endedBy).toBe("floor");
    expect(ended.runTimeS).toBeLessThan(batteryRun(cells("lithium-ion", { capacity_Ah: 2 })).runTimeS);
    const dead = batteryRun(cells("lithium-ion", { internal_ohm: 2, stateOfCharge: 0.05 }));
    expect([dead.endedBy, dead.runTimeS, dead.fade]).toEqual(["floor", 0, 1]);
    expect(floorV).toBeGreaterThan(0);
    expect(() => batteryRun({ ...cells("nimh"), supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 5 } })).toThrow(/only a battery/);
  });
});

describe("warming and cooling", () => {
  const around = { ambientC: 20 };

  it("begins as I^2 R/m c, ends where the air carries off all of it, and never overshoots", () => {
    const currentA = 2.5;
    const course = warmUp(wire, currentA, around, 60);
    expect([course.timeS[0], course.temperatureC[0]]).toEqual([0, 20]);
    expect(course.timeS.at(-1)).toBe(60);
    expect(course.timeS).toHaveLength(121);
    const quick = warmUp(wire, currentA, around, 0.01);
    const first = (currentA ** 2 * resistanceOhmPerM(wire, 20)) / (massKgPerM(wire) * wire.alloy.specificHeatJKgK);
    expect(((quick.temperatureC.at(-1) as number) - 20) / 0.01 / first).toBeCloseTo(1, 2);
    expect(course.temperatureC.at(-1)).toBeCloseTo(course.steadyC, 1);
    expect(currentA ** 2 * resistanceOhmPerM(wire, course.steadyC)).toBeCloseTo(bareLossWPerM(wire, course.steadyC, around), 5);
    for (let i = 1; i < course.temperatureC.length; i++) {
      expect(course.temperatureC[i] as number).toBeGreaterThanOrEqual((course.temperatureC[i - 1] as number) - 1e-9);
      expect(course.temperatureC[i] as number).toBeLessThanOrEqual(course.steadyC + 1e-6);
    }
  });

  it("is at 95 % of its rise when it says so", () => {
    const { timeTo95S, steadyC } = warmUp(wire, 2.5, around, 1);
    const until = warmUp(wire, 2.5, around, timeTo95S as number);
    expect(((until.temperatureC.at(-1) as number) - 20) / (steadyC - 20)).toBeCloseTo(0.95, 3);
    expect(warmUp(wire, 0, around, 1).timeTo95S).toBeNull();
  });

  it("switched off it cools for as long again, from where it was, by what the air takes", () => {
    const course = warmUp(wire, 2.5, around, 4, true);
    expect(course.timeS).toHaveLength(241);
    expect(course.timeS.at(-1)).toBe(8);
    const top = course.temperatureC[120] as number;
    expect(Math.max(...course.temperatureC)).toBe(top);
    const step = 4 / 120;
    const slope = (top - (course.temperatureC[121] as number)) / step;
    expect(slope / (bareLossWPerM(wire, top, around) / (massKgPerM(wire) * wire.alloy.specificHeatJKgK))).toBeCloseTo(1, 1);
    expect(course.temperatureC.at(-1) as number).toBeGreaterThan(20);
    for (let i = 121; i < 241; i++) expect(course.temperatureC[i] as number).toBeLessThan(course.temperatureC[i - 1] as number);
  });

  it("on a supply it settles at the circuit's own answer, and begins with more than that current where the ohms rise", () => {
    const stainless = resolveWire({ alloy: "ss-304", diameter_mm: 0.4 });
    const input: CircuitInput = {
      wire: stainless,
      lengthM: 0.6,
      supply: { kind: "dc", voltage_V: 9, maxCurrent_A: 20 },
      control: { kind: "direct" },
      ambientC: 20,
    };
    const course = warmUpOnSupply(input, 30);
    expect(course.steadyC).toBe(solveCircuit(input).wireC);
    expect(course.temperatureC.at(-1)).toBeCloseTo(course.steadyC, 0);
    // The cold rush heats it faster than its last current would.
    const late = warmUp(stainless, solveCircuit(input).currentA, around, 1);
    expect(warmUpOnSupply(input, 1).temperatureC[30] as number).toBeGreaterThan(late.temperatureC[30] as number);
  });

  it("an hour at most, and no time at all is none", () => {
    for (const seconds of [0, -1, 3601, Number.NaN]) expect(() => warmUp(wire, 2, around, seconds)).toThrow(/seconds must be a number above 0 to 3600/);
    expect(() => warmUp(wire, 2, around, 3600)).not.toThrow();
  });
});
