import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseQuantity } from "./parseQuantity";
import { formatNumber, QUANTITIES, type Quantity, unitOf } from "./units";

const value = (quantity: Quantity, text: string, system: "metric" | "inch" = "metric") => {
  const parsed = parseQuantity(quantity, text, system);
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.value;
};

describe("typed quantities", () => {
  it.each([
    ["diameter", "24 awg", 0.51056],
    ["diameter", "AWG24", 0.51056],
    ["diameter", "22 swg", 0.7112],
    ["diameter", "0.016 in", 0.4064],
    ["diameter", "16 thou", 0.4064],
    ["diameter", "0,4", 0.4],
    ["feed", "4 s/in", 6.35],
    ["feed", "15 in/min", 6.35],
    ["feed", "6", 6],
    ["density", "1 lb/ft3", 16.01846],
    ["density", "2 pcf", 32.03693],
    ["force", "15 lbf", 66.72332],
    ["force", "2 kg", 19.6133],
    ["force", "10 oz", 2.78014],
    ["length", "3/4 in", 19.05],
    ["length", '1 1/2"', 38.1],
    ["length", "60cm", 600],
    ["temperature", "68 °F", 20],
    ["heat", "1 W/cm", 100],
    ["duty", "34 %", 34],
    ["current", "850 mA", 0.85],
  ] as const)("%s %s", (quantity, text, expected) => {
    expect(value(quantity, text)).toBeCloseTo(expected, 4);
  });

  it("takes a bare number in the chosen system's unit, upside down for seconds an inch", () => {
    expect(value("feed", "4", "inch")).toBeCloseTo(6.35, 9);
    expect(value("length", "10", "inch")).toBe(254);
  });

  it("names the quantity, the unit at fault and the allowed range", () => {
    const say = (quantity: Quantity, text: string, system: "metric" | "inch" = "metric") => {
      const parsed = parseQuantity(quantity, text, system, { min: 0.05, max: 500 });
      return parsed.ok ? "" : parsed.message;
    };
    expect(say("feed", "900 mm/s")).toBe("feed must be from 0.05 mm/s to 500 mm/s");
    expect(say("feed", "900 mm/s", "inch")).toContain("from 0.0508 s/in to 508 s/in");
    expect(say("feed", "6 furlongs")).toContain('"furlongs" is not a unit of feed');
    expect(say("length", "wide")).toContain("is not a length");
    expect(say("length", "")).toContain("type a length");
    expect(say("diameter", "99 awg")).toContain("-3 to 56");
  });

  it("reads back what it writes, in every unit of every quantity", () => {
    const quantities = Object.keys(QUANTITIES) as Quantity[];
    fc.assert(
      fc.property(fc.constantFrom(...quantities), fc.double({ min: 0.01, max: 9000, noNaN: true }), fc.nat(), (quantity, number, pick) => {
        const units = QUANTITIES[quantity].units;
        const unit = units[pick % units.length] as (typeof units)[number];
        const parsed = parseQuantity(quantity, `${number} ${unit.symbol}`, "metric");
        expect(parsed.ok && Math.abs(parsed.value / unit.toCanonical(number) - 1)).toBeLessThan(1e-12);
      }),
    );
  });

  it("never throws and never gives a figure that is not finite", () => {
    fc.assert(
      fc.property(fc.constantFrom(...(Object.keys(QUANTITIES) as Quantity[])), fc.string(), (quantity, text) => {
        const parsed = parseQuantity(quantity, text, "inch", { min: 0, max: 1e6 });
        if (parsed.ok) expect(Number.isFinite(parsed.value)).toBe(true);
        else expect(parsed.message.length).toBeGreaterThan(5);
      }),
      { numRuns: 500 },
    );
  });

  it("shows no negative zero", () => {
    expect(formatNumber("length", -0.0001, "metric")).toBe("0");
    expect(unitOf("feed", "inch").symbol).toBe("s/in");
  });
});
