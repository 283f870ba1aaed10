import { describe, expect, it } from "vitest";
import { airAt, airConductivity, airConductivityAndSlope, nusseltChurchillBernstein, nusseltChurchillChu, nusseltMorgan } from "@/core/physics/heat/air";
import { bareLossWPerM, bareWireAtTemperature, bareWireDriven } from "@/core/physics/heat/bareWire";
import { resolveWire } from "@/core/physics/heat/wire";

const wire = (gauge_awg: number, alloy = "nicr-80-20") => resolveWire({ alloy, gauge_awg });
const still = { ambientC: 20 };

describe("air", () => {
  it("matches the US Standard Atmosphere 1976 at sea level (288.15 K)", () => {
    const air = airAt(288.15);
    expect(air.densityKgM3).toBeCloseTo(1.225, 3);
    expect(air.viscosityPaS).toBeCloseTo(1.7894e-5, 8);
    expect(air.conductivityWMK).toBeCloseTo(0.025326, 5);
  });

  it("matches handbook air at 500 K within 2 % (viscosity 2.70e-5, conductivity 0.0407; from memory)", () => {
    const air = airAt(500);
    expect(Math.abs(air.viscosityPaS / 2.7e-5 - 1)).toBeLessThan(0.02);
    expect(Math.abs(air.conductivityWMK / 0.0407 - 1)).toBeLessThan(0.025);
  });

  it("gives the slope of its conductivity", () => {
    for (const kelvin of [250, 400, 900]) {
      const numeric = (airConductivity(kelvin + 0.01) - airConductivity(kelvin - 0.01)) / 0.02;
      expect(Math.abs(airConductivityAndSlope(kelvin).slope / numeric - 1)).toBeLessThan(1e-6);
    }
  });
});

describe("free and forced convection", () => {
  it("Morgan's pieces join within 3 % and agree with Churchill & Chu (1975) within 35 % for thin wires", () => {
    for (const joint of [1e-2, 1e2, 1e4]) expect(Math.abs(nusseltMorgan(joint * 1.0001) / nusseltMorgan(joint * 0.9999) - 1)).toBeLessThan(0.05);
    for (let ra = 1e-4; ra < 1e6; ra *= 3) expect(Math.abs(nusseltMorgan(ra) / nusseltChurchillChu(ra, 0.7) - 1)).toBeLessThan(0.35);
  });

  it("Churchill & Bernstein gives 15.93 at Re 1000, Pr 0.7 (evaluated by hand from the paper's equation)", () => {
    expect(nusseltChurchillBernstein(1000, 0.7)).toBeCloseTo(15.93, 1);
  });
});

/** Amperes to hold straight nickel-chromium at 204, 316, 427, 538, 649 degC in air of 20 degC: independent calculation (project physics notes). */
const CURRENTS: [number, number[]][] = [
  [20, [3.56, 4.86, 6.13, 7.46, 8.91]],
  [26, [1.48, 2.0, 2.49, 2.99, 3.53]],
  [30, [0.83, 1.11, 1.38, 1.64, 1.92]],
];
const TEMPERATURES = [204, 316, 427, 538, 649];

describe("current against temperature of straight nickel-chromium wire", () => {
  it.each(CURRENTS)("AWG %i", (gauge, currents) => {
    TEMPERATURES.forEach((c, i) => {
      const amperes = bareWireAtTemperature(wire(gauge), c, still).currentA;
      expect(Math.abs(amperes - (currents[i] as number))).toBeLessThan(0.0056);
    });
  });

  it("behaves as the wire sellers' table of straight 80/20 wire does (400 to 1200 degF, from memory, good to a quarter)", () => {
    // From memory of the commonly reprinted table: AWG 26 near 1.8, 2.2 and 2.7 A at 600, 800 and 1000 degF.
    for (const [c, amperes] of [
      [316, 1.8],
      [427, 2.2],
      [538, 2.7],
    ] as const) {
      expect(Math.abs(bareWireAtTemperature(wire(26), c, still).currentA / amperes - 1)).toBeLessThan(0.25);
    }
  });

  it("finds the temperature again from current and from heat", () => {
    for (const c of [40, 204, 650, 1100]) {
      const there = bareWireAtTemperature(wire(26), c, still);
      expect(bareWireDriven(wire(26), { currentA: there.currentA }, still).temperatureC).toBeCloseTo(c, 5);
      expect(bareWireDriven(wire(26), { powerWPerM: there.powerWPerM }, still).temperatureC).toBeCloseTo(c, 5);
      expect(there.convectionWPerM + there.radiationWPerM).toBeCloseTo(there.powerWPerM, 12);
    }
  });

  it("never cools with more current, and a draught never heats", () => {
    let last = 20;
    for (let amperes = 0; amperes < 6; amperes += 0.25) {
      const state = bareWireDriven(wire(26, "ss-304"), { currentA: amperes }, still);
      expect(state.temperatureC).toBeGreaterThanOrEqual(last);
      expect(bareWireDriven(wire(26, "ss-304"), { currentA: amperes }, { ambientC: 20, airSpeedMPerS: 0.8 }).temperatureC).toBeLessThanOrEqual(
        state.temperatureC + 1e-9,
      );
      last = state.temperatureC;
    }
  });

  it("answers and warns beyond the resistance table and past melting, and refuses a wire colder than the room", () => {
    expect(bareWireAtTemperature(wire(26), 1200, still).warnings.map((w) => w.code)).toEqual(["resistance-table-clamped"]);
    expect(bareWireAtTemperature(wire(26), 1450, still).warnings.map((w) => w.code)).toContain("wire-melts");
    expect(() => bareWireAtTemperature(wire(26), 10, still)).toThrow(/at or above/);
    expect(bareLossWPerM(wire(26), 20, still)).toBe(0);
  });
});
