import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../../tests/helpers/headless";
import { ALLOYS } from "../../materials/alloys";
import { airAt, convectionWPerM, nusseltChurchillBernstein, nusseltMorgan } from "./air";
import { bareLossWPerM, bareWireAtTemperature, bareWireDriven, radiationWPerM } from "./bareWire";
import { thetaForHalfKerf } from "./movingLineSource";
import { HEAT_VERBS } from "./verbs";
import { massKgPerM, resistanceOhmPerM, resolveWire, type WireSpec, wireTemperatureWarnings } from "./wire";
import { wireSchema } from "./wireSchema";

const own = {
  id: "custom",
  resistivity_uohm_m: 1.2,
  temperatureFactor: [
    [20, 1],
    [500, 1.1],
  ] as [number, number][],
  density_kg_m3: 8100,
} as const;
const nichrome = ALLOYS.find(({ id }) => id === "nicr-80-20");
/** Ask a verb as a script does. */
const runVerb = (name: string, input: object) => headlessOf(HEAT_VERBS).runVerb(name, input) as Record<string, number>;

describe("a wire by its name", () => {
  it("by diameter or either gauge, as the tables have them: AWG 24 is 0.511 mm, SWG 24 0.559 mm", () => {
    expect(resolveWire({ alloy: "nicr-80-20", gauge_awg: 24 }).diameterM * 1000).toBeCloseTo(0.5106, 3);
    expect(resolveWire({ alloy: "nicr-80-20", gauge_swg: 24 }).diameterM * 1000).toBeCloseTo(0.559, 3);
    for (const size of [{}, { diameter_mm: 0.5, gauge_awg: 24 }, { gauge_awg: 24, gauge_swg: 24 }]) {
      expect(() => resolveWire({ alloy: "nicr-80-20", ...size })).toThrow(expect.objectContaining({ code: "conflict", path: "wire" }));
    }
    expect(() => resolveWire({ alloy: "unobtainium", diameter_mm: 0.5 })).toThrow(expect.objectContaining({ code: "not-one-of", path: "wire.alloy" }));
    expect(() => resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.5, strands: 5.5 })).toThrow(
      expect.objectContaining({ code: "not-one-of", path: "wire.strands" }),
    );
  });

  it("strands: so many times the metal, and the smallest circle round them", () => {
    const one = resolveWire({ alloy: "ss-304", diameter_mm: 0.2 });
    const seven = resolveWire({ alloy: "ss-304", diameter_mm: 0.2, strands: 7 });
    expect(seven.metalAreaM2 / one.metalAreaM2).toBeCloseTo(7, 12);
    expect(seven.outerDiameterM / one.outerDiameterM).toBeCloseTo(3, 12);
    expect(massKgPerM(seven)).toBeCloseTo(((7 * Math.PI) / 4) * 0.2e-3 ** 2 * one.alloy.densityKgM3, 12);
    expect([one.strands, one.temper]).toEqual([1, "annealed"]);
  });

  it("ohms of a metre: rho/A, warmer by the table; as a meter said in its place", () => {
    const wire = resolveWire({ alloy: own, diameter_mm: 0.5 });
    const area = (Math.PI / 4) * 0.5e-3 ** 2;
    expect(resistanceOhmPerM(wire, 20)).toBeCloseTo(1.2e-6 / area, 9);
    expect(resistanceOhmPerM(wire, 260)).toBeCloseTo((1.05 * 1.2e-6) / area, 9);
    const measured = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.5, measured_ohm_per_m: 6.1 });
    expect(resistanceOhmPerM(measured, 20)).toBeCloseTo(6.1, 9);
    expect(measured.alloy.meltsC).toBe(nichrome?.meltsC);
    const breaks = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.5, breaking_N: 130 });
    expect(breaks.breakingPa).toBeCloseTo(130 / area, 0);
    expect(resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.5 })).not.toHaveProperty("breakingPa");
  });

  it("an alloy of one's own keeps every figure given, and takes nickel-chromium's for the rest", () => {
    const bare = resolveWire({ alloy: own, diameter_mm: 0.5 }).alloy;
    expect(bare).toMatchObject({
      name: "Custom alloy",
      shortName: "custom alloy",
      densityKgM3: 8100,
      resistivityUohmM: 1.2,
      specificHeatJKgK: nichrome?.specificHeatJKgK,
      conductivityWMK: nichrome?.conductivityWMK,
      expansionPerK: nichrome?.expansionPerK,
      emissivity: nichrome?.emissivity,
      meltsC: nichrome?.meltsC,
    });
    for (const part of ["resistivity", "temperatureFactor", "other"] as const)
      expect(bare.origin[part]).toEqual({ basis: "estimate", source: "given by the maker" });
    const whole = { ...own, name: "Old spool", specificHeat_J_kgK: 500, conductivity_W_mK: 17, expansion_1e6_per_K: 12, emissivity: 0.4, melts_C: 1200 };
    expect(resolveWire({ alloy: whole, diameter_mm: 0.5 }).alloy).toMatchObject({
      name: "Old spool",
      shortName: "Old spool",
      specificHeatJKgK: 500,
      conductivityWMK: 17,
      expansionPerK: expect.closeTo(12e-6, 15),
      emissivity: 0.4,
      meltsC: 1200,
    });
  });

  it("warns outside its table of ohms and past its melting, neither at the very ends", () => {
    const wire = resolveWire({ alloy: { ...own, melts_C: 600 }, diameter_mm: 0.5 });
    const codes = (c: number) => wireTemperatureWarnings(wire, c).map(({ code }) => code);
    expect([codes(20), codes(500), codes(260)]).toEqual([[], [], []]);
    expect([codes(19), codes(501)]).toEqual([["resistance-table-clamped"], ["resistance-table-clamped"]]);
    expect([codes(600), codes(601)]).toEqual([["resistance-table-clamped"], ["resistance-table-clamped", "wire-melts"]]);
    expect(wireTemperatureWarnings(wire, 501)[0]?.message).toMatch(/known from 20 to 500 degC; held at the end row for 501 degC/);
  });

  it.each<[string, unknown, string, RegExp]>([
    ["an alloy nobody knows", { alloy: "unobtainium", diameter_mm: 1 }, "alloy", /must be one of .*nicr-80-20/],
    ["an alloy that is a number", { alloy: 7, diameter_mm: 1 }, "alloy", /must be one of/],
    ["no alloy", { diameter_mm: 1 }, "alloy", /must be one of/],
    ["null for an alloy", { alloy: null, diameter_mm: 1 }, "alloy", /must be one of/],
    [
      "a table that falls",
      {
        alloy: {
          ...own,
          temperatureFactor: [
            [20, 1],
            [20, 1.1],
          ],
        },
        diameter_mm: 1,
      },
      "alloy.temperatureFactor",
      /must rise/,
    ],
    [
      "a table that falls at its end",
      {
        alloy: {
          ...own,
          temperatureFactor: [
            [20, 1],
            [300, 1.1],
            [200, 1.2],
          ],
        },
        diameter_mm: 1,
      },
      "alloy.temperatureFactor",
      /must rise/,
    ],
    ["an empty table", { alloy: { ...own, temperatureFactor: [] }, diameter_mm: 1 }, "alloy.temperatureFactor", /at least one/],
    ["five strands and a half", { alloy: "ss-304", diameter_mm: 1, strands: 5.5 }, "strands", /must be one of 1, 2, 3/],
    ["two sizes", { alloy: "ss-304", diameter_mm: 1, gauge_awg: 20 }, "", /exactly one/],
    ["no size", { alloy: "ss-304" }, "", /exactly one/],
    ["a broken gauge", { alloy: "ss-304", gauge_swg: 20.5 }, "gauge_swg", /whole number/],
    ["a temper nobody sells", { alloy: "ss-304", diameter_mm: 1, temper: "hot" }, "temper", /annealed/],
  ])("refuses %s by its field", (_, input, path, words) => {
    const issue = wireSchema.safeParse(input).error?.issues[0];
    expect(issue?.path.join(".")).toBe(path);
    expect(issue?.message).toMatch(words);
  });

  it("takes what the tables have, one row of ohms or many", () => {
    for (const { id } of ALLOYS) expect(wireSchema.safeParse({ alloy: id, diameter_mm: 0.4 }).success).toBe(true);
    expect(wireSchema.safeParse({ alloy: own, gauge_swg: 24, strands: 7 }).success).toBe(true);
    expect(wireSchema.safeParse({ alloy: { ...own, temperatureFactor: [[20, 1]] }, gauge_awg: 24 }).success).toBe(true);
  });
});

describe("a wire in moving air", () => {
  const wire = resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.5 });

  it("the larger of rising and blown air, each by its published correlation", () => {
    const film = airAt((300 + 20) / 2 + 273.15);
    expect(film.prandtl).toBeCloseTo((film.viscosityPaS * 3.5 * 287.05287) / film.conductivityWMK, 9);
    const rayleigh = (9.80665 * 280 * 0.5e-3 ** 3) / (((300 + 20) / 2 + 273.15) * film.kinematicM2S * film.diffusivityM2S);
    const still = convectionWPerM(0.5e-3, 300, 20);
    expect(still.rayleigh / rayleigh).toBeCloseTo(1, 6);
    expect(still.wPerM / (Math.PI * film.conductivityWMK * nusseltMorgan(rayleigh) * 280)).toBeCloseTo(1, 6);
    const reynolds = (2 * 0.5e-3) / film.kinematicM2S;
    const blown = convectionWPerM(0.5e-3, 300, 20, 2);
    expect(blown.wPerM / (Math.PI * film.conductivityWMK * nusseltChurchillBernstein(reynolds, film.prandtl) * 280)).toBeCloseTo(1, 6);
    // A breath so slight that rising air does more changes nothing.
    expect(convectionWPerM(0.5e-3, 300, 20, 1e-4)).toEqual(still);
    expect(convectionWPerM(0.5e-3, 20, 20, 2)).toEqual({ wPerM: 0, rayleigh: 0, outOfRange: false });
    expect(convectionWPerM(0.5e-3, 10, 20, 2).wPerM).toBe(0);
  });

  it("says where a correlation is used beyond its range: Ra under 1e-10 or from 1e7, and a stream of Re Pr under a fifth", () => {
    expect(convectionWPerM(0.5e-3, 300, 20).outOfRange).toBe(false);
    // Ra goes with the diameter's cube.
    const ra = (d: number) => convectionWPerM(d, 300, 20).rayleigh;
    const at = (target: number) => 0.5e-3 * Math.cbrt(target / ra(0.5e-3));
    expect(convectionWPerM(at(0.99e-10), 300, 20).outOfRange).toBe(true);
    expect(convectionWPerM(at(1.01e-10), 300, 20).outOfRange).toBe(false);
    expect(convectionWPerM(at(0.99e7), 300, 20).outOfRange).toBe(false);
    expect(convectionWPerM(at(1.01e7), 300, 20).outOfRange).toBe(true);
    const film = airAt((300 + 20) / 2 + 273.15);
    const speed = (product: number) => (product * film.kinematicM2S) / film.prandtl / 5e-6;
    expect(convectionWPerM(5e-6, 300, 20, speed(0.21)).outOfRange).toBe(false);
    expect(convectionWPerM(5e-6, 300, 20, speed(0.21)).wPerM).toBeGreaterThan(convectionWPerM(5e-6, 300, 20).wPerM);
    // A stream rules here though it is below its range: that is what the result says.
    const slow = convectionWPerM(at(0.5e-10), 300, 20, 2);
    expect(slow.outOfRange).toBe(true);
    const codes = (c: number, around = { ambientC: 20 }) =>
      bareWireAtTemperature(resolveWire({ alloy: "nicr-80-20", diameter_mm: 1e-4 }), c, around).warnings.map(({ code }) => code);
    expect(codes(300)).toContain("convection-out-of-range");
    expect(codes(20)).not.toContain("convection-out-of-range");
    expect(bareWireAtTemperature(wire, 300, { ambientC: 20 }).warnings).toEqual([]);
  });

  it("radiates by the fourth power: 0.04/m of a black one at 1000 K to nothing is 56.7 kW/m2", () => {
    expect(radiationWPerM(1 / Math.PI, 1, 1000 - 273.15, -273.15)).toBeCloseTo(56703.7, 0);
    expect(radiationWPerM(1e-3, 0.5, 300, 300)).toBe(0);
    expect(bareLossWPerM(wire, 300, { ambientC: 20 })).toBeCloseTo(
      convectionWPerM(0.5e-3, 300, 20).wPerM + radiationWPerM(0.5e-3, wire.alloy.emissivity, 300, 20),
      12,
    );
  });

  it("converges on the same heat from any first guess, and sooner from a good one", () => {
    const around = { ambientC: 20 };
    const free = bareWireDriven(wire, { currentA: 4 }, around);
    for (const near of [free.temperatureC * 1.01, free.temperatureC * 0.97, 25, 20, 5, 3000]) {
      expect(bareWireDriven(wire, { currentA: 4 }, around, near).temperatureC).toBeCloseTo(free.temperatureC, 6);
    }
    expect(bareWireDriven(wire, { currentA: 4 }, around, free.temperatureC * 1.001).iterations).toBeLessThanOrEqual(free.iterations);
    expect(bareWireDriven(wire, { powerWPerM: 0 }, around)).toMatchObject({ temperatureC: 20, currentA: 0, iterations: 0 });
    expect(bareWireAtTemperature(wire, 20, around).currentA).toBe(0);
    expect(() => bareWireAtTemperature(wire, 19.9, around)).toThrow(/at or above ambient_C \(20\)/);
    expect(() => bareWireDriven(wire, { currentA: 1e5 }, around)).toThrow(expect.objectContaining({ path: "current_A", code: "no-solution" }));
    expect(() => bareWireDriven(wire, { powerWPerM: 1e9 }, around)).toThrow(expect.objectContaining({ path: "power_W_per_m" }));
  });
});

describe("heat by command line, in a script's own units", () => {
  const wire: WireSpec = { alloy: "nicr-80-20", diameter_mm: 0.5, strands: 7 };

  it("wire: millimetres, square millimetres, grams", () => {
    const result = runVerb("wire", { wire, temperature_C: 20 });
    expect(result.diameter_mm).toBeCloseTo(0.5, 12);
    expect(result.outerDiameter_mm).toBeCloseTo(1.5, 12);
    expect(result.metalArea_mm2).toBeCloseTo(((7 * Math.PI) / 4) * 0.25, 9);
    expect(result.mass_g_per_m).toBeCloseTo((((7 * Math.PI) / 4) * 0.25 * (nichrome?.densityKgM3 as number)) / 1000, 9);
    expect(result).not.toHaveProperty("warnings");
    expect(runVerb("wire", { wire, temperature_C: 1990 })).toHaveProperty("warnings");
  });

  it("air: any one of temperature, current and heat gives the other two, and exactly one is asked", () => {
    const around = { wire, ambient_C: 20, airSpeed_m_s: 0 };
    const hot = runVerb("air", { ...around, temperature_C: 400 });
    expect(hot.power_W_per_m).toBeCloseTo((hot.convection_W_per_m as number) + (hot.radiation_W_per_m as number), 9);
    expect(runVerb("air", { ...around, current_A: hot.current_A }).temperature_C).toBeCloseTo(400, 5);
    expect(runVerb("air", { ...around, power_W_per_m: hot.power_W_per_m }).temperature_C).toBeCloseTo(400, 5);
    expect(() => runVerb("air", { ...around, temperature_C: 400, current_A: 1 })).toThrow();
    expect(() => runVerb("air", around)).toThrow();
    expect(runVerb("air", { ...around, airSpeed_m_s: 3, temperature_C: 400 }).power_W_per_m).toBeGreaterThan(hot.power_W_per_m as number);
  });
});

describe("the isotherm's inverse", () => {
  it("refuses what is no width, and holds the fast limit W Theta = sqrt(pi/2e) beyond 1e5", () => {
    for (const bad of [0, -1, Number.NaN, Number.POSITIVE_INFINITY])
      expect(() => thetaForHalfKerf(bad)).toThrow(expect.objectContaining({ code: "outside-domain", path: "W" }));
    const limit = Math.sqrt(Math.PI / (2 * Math.E));
    for (const W of [0.99e5, 1.01e5, 1e8]) expect((thetaForHalfKerf(W) * W) / limit).toBeCloseTo(1, 5);
    for (const W of [0.99, 1, 1.01]) expect(thetaForHalfKerf(W)).toBeCloseTo(0.69, 1);
  });
});
