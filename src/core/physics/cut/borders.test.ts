import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { type Design, designSchema } from "@/core/cutters/design/schema";
import { evaluateDesign, settingForHeat, withSetting } from "@/core/cutters/solve/evaluate";
import { JUDGEMENT } from "@/core/kernel/constants";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { cutAtPower } from "@/core/physics/cut/cut";
import { axisValue, computeCutMap, MAP_VERDICTS } from "@/core/physics/cut/cutMap";
import { resolveWire, type WireSpec } from "@/core/physics/heat/wire";
import { wireEnds } from "@/core/physics/mechanics/wireEnds";
import { fuseAdvice } from "@/core/physics/power/powerAdvice";

const demo = (name: string): Design => designSchema.parse(DEMO_CUTTERS.find((design) => design.name === name));
const codes = (design: Design) => evaluateDesign(design).cautions.map((caution) => caution.code);

/** The same cutter with its bare wire at a temperature, found by halving its volts. */
function bareAt(wantedC: number): Design {
  const tom = demo("Long Tom");
  let [low, high] = [1, 60];
  for (let i = 0; i < 60; i++) {
    const mid = (low + high) / 2;
    if (evaluateDesign({ ...tom, supply: { kind: "bench", voltage_V: mid, current_A: 60 } }).circuit.wireC < wantedC) low = mid;
    else high = mid;
  }
  return { ...tom, supply: { kind: "bench", voltage_V: (low + high) / 2, current_A: 60 } };
}

describe("cautions appear at their borders and not before", () => {
  const foam = resolveFoam(demo("Long Tom").job.foam);
  it.each([
    ["above-flash-ignition", foam.flashIgnitionC],
    ["above-self-ignition", foam.selfIgnitionC],
    ["glowing", JUDGEMENT.glowingC],
  ])("%s at %d degC of the bare wire", (code, borderC) => {
    expect(codes(bareAt(borderC - 2))).not.toContain(code);
    expect(codes(bareAt(borderC + 2))).toContain(code);
  });

  it("flash ignition gives way to self-ignition: never both", () => {
    for (let c = 300; c < 640; c += 10) {
      const both = codes(bareAt(c)).filter((code) => code === "above-flash-ignition" || code === "above-self-ignition");
      expect(both.length).toBeLessThanOrEqual(1);
    }
  });

  it("touch: 60 V of smooth direct current and 50 V chopped or alternating are the borders (IEC 61140 ideas, kept low for damp)", () => {
    const at = (supply: Design["supply"], control: Design["control"] = { kind: "direct" }) => codes({ ...demo("Long Tom"), supply, control });
    expect(at({ kind: "dc", voltage_V: 59.9, maxCurrent_A: 20 })).not.toContain("touch-voltage");
    expect(at({ kind: "dc", voltage_V: 60.1, maxCurrent_A: 20 })).toContain("touch-voltage");
    expect(at({ kind: "dc", voltage_V: 49.9, maxCurrent_A: 20 }, { kind: "pwm", duty: 0.2 })).not.toContain("touch-voltage");
    expect(at({ kind: "dc", voltage_V: 50.1, maxCurrent_A: 20 }, { kind: "pwm", duty: 0.2 })).toContain("touch-voltage");
  });

  it("each device and supply has the caution that goes with it, even where all else is right", () => {
    const tom = demo("Long Tom");
    const held = (device: Design["tension"]["device"]) => codes({ ...tom, tension: { device, hot_N: 30 } });
    expect(held("weight").filter((code) => /turnbuckle|band/.test(code))).toEqual([]);
    expect(held("turnbuckle").length).toBeGreaterThan(held("weight").length);
    expect(held("band").length).toBeGreaterThan(held("weight").length);
    const battery = codes({ ...tom, supply: { kind: "battery", chemistry: "lithium-ion", cells: 4, capacity_Ah: 10 } });
    expect(battery.some((code) => code.includes("battery"))).toBe(true);
  });
});

describe("fuses and leads", () => {
  it("for any current: above a quarter more than it, at or under the leads, the next size and no larger (common practice)", () => {
    const sizes = [0.5, 1, 2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40];
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 35, noNaN: true }), fc.integer({ min: 10, max: 26 }), (amperes, gauge) => {
        const { fuseA, leadRatingA, leadGaugeAwg } = fuseAdvice(amperes, gauge);
        if (fuseA !== null) {
          expect(fuseA).toBeGreaterThan(1.25 * amperes);
          expect(fuseA).toBeLessThanOrEqual(leadRatingA);
          expect(sizes.filter((size) => size > 1.25 * amperes)[0]).toBe(fuseA);
        }
        if (leadGaugeAwg !== null) expect(fuseAdvice(amperes, leadGaugeAwg).fuseA).not.toBeNull();
      }),
    );
    // 18-20 AWG for 3-5 A short runs (common practice).
    expect(fuseAdvice(4, 18).fuseA).toBe(7.5);
    expect(fuseAdvice(5, 20).fuseA).toBe(7.5);
    expect(fuseAdvice(8, 20).fuseA).toBeNull();
  });
});

describe("wire ends", () => {
  it("thicker and harder wire wants wider bends and more wire; the cut is the span and two ends", () => {
    const ends = (spec: WireSpec, span = 1) => wireEnds(resolveWire(spec), span);
    const soft = ends({ alloy: "nicr-80-20", diameter_mm: 0.5 });
    const hard = ends({ alloy: "ss-304", diameter_mm: 0.5, temper: "spring" });
    const thick = ends({ alloy: "nicr-80-20", diameter_mm: 0.9 });
    expect(hard.bendRadiusM).toBeGreaterThan(soft.bendRadiusM);
    expect(thick.bendRadiusM / soft.bendRadiusM).toBeCloseTo(0.9 / 0.5, 9);
    for (const each of [soft, hard, thick]) expect(each.cutM).toBeCloseTo(1 + 2 * each.endM, 12);
    expect(ends({ alloy: "ss-304", diameter_mm: 0.2, strands: 7 }).advice.join(" ")).toMatch(/crimp a sleeve/i);
    expect(ends({ alloy: "fecral", diameter_mm: 0.4 }).advice.join(" ")).toMatch(/brittle/);
    expect(ends({ alloy: "nicr-80-20", diameter_mm: 0.16 }).advice.join(" ")).toMatch(/kinks/);
  });
});

describe("a map of cuts", () => {
  const pair = { wire: resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.405 }), foam: resolveFoam(parseFoamId("eps-18")), ambientC: 20 };

  it("each cell is the cut at its heat and feed: kerf, wire, share of the top feed and verdict", () => {
    const [heat, feed] = [
      { from: 5, to: 95, count: 7 },
      { from: 0.001, to: 0.019, count: 8 },
    ];
    const map = computeCutMap(pair, heat, feed, 0.0025);
    for (let row = 0; row < heat.count; row++)
      for (let column = 0; column < feed.count; column++) {
        const cut = cutAtPower(pair, axisValue(feed, column), axisValue(heat, row), 0.0025);
        const at = row * feed.count + column;
        expect((map.kerf[at] as number) / cut.kerfM).toBeCloseTo(1, 9);
        expect(map.wireC[at]).toBeCloseTo(cut.wireC, 3);
        expect(map.feedRatio[at]).toBeCloseTo(cut.feedRatio, 9);
        expect(MAP_VERDICTS[map.verdict[at] as number]).toBe(cut.verdict);
        expect((map.maxFeed[row] as number) / cut.maxFeedMPerS).toBeCloseTo(1, 9);
      }
  });
  it("its cells are the cuts one by one, and four times the cells are the same map drawn finer", () => {
    const coarse = computeCutMap(pair, { from: 10, to: 90, count: 5 }, { from: 0.002, to: 0.018, count: 5 }, 0.0025);
    const fine = computeCutMap(pair, { from: 10, to: 90, count: 9 }, { from: 0.002, to: 0.018, count: 9 }, 0.0025);
    for (let i = 0; i < 5; i++) for (let j = 0; j < 5; j++) expect(fine.kerf[2 * i * 9 + 2 * j]).toBeCloseTo(coarse.kerf[i * 5 + j] ?? 0, 12);
  });
});

describe("a knob set for a heat", () => {
  it.each(["Long Tom", "Gatepost", "Marionette"])("%s: asked for any heat it can reach, gives that heat back", (name) => {
    const design = demo(name);
    const { reach } = evaluateDesign(design);
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 0.9, noNaN: true }), (share) => {
        const wanted = Math.max(2, reach.fromWPerM + share * (Math.min(reach.toWPerM, 120) - reach.fromWPerM));
        const setting = settingForHeat(design, wanted);
        if (setting === null) throw new Error("no knob");
        expect(evaluateDesign(withSetting(design, setting)).cut.powerWPerM / wanted).toBeCloseTo(1, 2);
      }),
      { numRuns: 25 },
    );
  });
});
