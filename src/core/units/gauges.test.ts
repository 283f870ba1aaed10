import { describe, expect, it } from "vitest";
import { resistanceOhmPerM, resolveWire } from "@/core/physics/heat/wire";
import { leadsOhm } from "@/core/physics/power/leads";
import { awgDiameterMm, nearestAwg, swgDiameterMm } from "@/core/units/gauges";

/** Published AWG table (ASTM B258, inches to four places) with copper at 20 degC in ohm per 1000 ft (NBS Handbook 100 copper wire tables). */
const AWG_TABLE: [number, number, number][] = [
  [10, 0.1019, 0.9989],
  [14, 0.0641, 2.525],
  [18, 0.0403, 6.385],
  [20, 0.032, 10.15],
  [22, 0.0253, 16.14],
  [24, 0.0201, 25.67],
  [26, 0.0159, 40.81],
  [28, 0.0126, 64.9],
  [30, 0.01, 103.2],
  [36, 0.005, 414.8],
];

describe("wire gauges against the published tables", () => {
  it.each(AWG_TABLE)("AWG %i is %f in", (gauge, inch) => {
    expect(awgDiameterMm(gauge) / 25.4).toBeCloseTo(inch, 3);
    expect(Math.abs(awgDiameterMm(gauge) / 25.4 - inch)).toBeLessThan(6e-5);
  });

  it.each(AWG_TABLE)("copper leads of AWG %i match the copper tables within 0.6 %%", (gauge, _inch, ohmPer1000Ft) => {
    // There and back over 500 ft is 1000 ft of wire. 0.0172 against the tables' 0.017241 uohm m is 0.24 %.
    const ohm = leadsOhm({ gauge_awg: gauge, oneWay_m: 152.4 }, 20);
    expect(Math.abs(ohm / ohmPer1000Ft - 1)).toBeLessThan(0.006);
  });

  it("0000 is 0.46 in and 36 is 0.005 in by definition", () => {
    expect(awgDiameterMm(-3) / 25.4).toBeCloseTo(0.46, 4);
    expect(awgDiameterMm(36)).toBeCloseTo(0.127, 12);
  });

  it("SWG follows the BS 3737 table", () => {
    expect(swgDiameterMm(22)).toBeCloseTo(0.711, 3);
    expect(swgDiameterMm(28)).toBeCloseTo(0.376, 3);
    expect(swgDiameterMm(40)).toBeCloseTo(0.122, 3);
    expect(() => swgDiameterMm(51)).toThrow(/0 to 50/);
  });

  it("finds the gauge of each diameter again", () => {
    for (let gauge = 0; gauge <= 50; gauge++) expect(nearestAwg(awgDiameterMm(gauge))).toBe(gauge);
  });
});

describe("resistance wire", () => {
  it("0.010 in nickel-chromium is close to 7 ohm per foot (common practice)", () => {
    const ohmPerFt = resistanceOhmPerM(resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.254 }), 20) * 0.3048;
    expect(ohmPerFt).toBeGreaterThan(6.2);
    expect(ohmPerFt).toBeLessThan(7.2);
  });

  it("80/20 nickel-chromium of 650 ohm per circular-mil-foot (handbook value, from memory) is 1.08 uohm m", () => {
    // 1 ohm per circular-mil-foot = 1.66243e-9 ohm m.
    const rho = 650 * 1.66243e-9;
    const wire = resolveWire({ alloy: "nicr-80-20", gauge_awg: 30 });
    expect(resistanceOhmPerM(wire, 20) * wire.metalAreaM2).toBeCloseTo(rho, 8);
  });

  it("seven strands have seven areas in three diameters", () => {
    const one = resolveWire({ alloy: "ss-304", diameter_mm: 0.1 });
    const seven = resolveWire({ alloy: "ss-304", diameter_mm: 0.1, strands: 7 });
    expect(resistanceOhmPerM(one, 20) / resistanceOhmPerM(seven, 20)).toBeCloseTo(7, 12);
    expect(seven.outerDiameterM / one.outerDiameterM).toBe(3);
  });

  it("stainless climbs by a third by 400 degC (handbook curve, from memory)", () => {
    const wire = resolveWire({ alloy: "ss-304", diameter_mm: 0.4 });
    expect(resistanceOhmPerM(wire, 400) / resistanceOhmPerM(wire, 20)).toBeCloseTo(1.347, 6);
  });
});
