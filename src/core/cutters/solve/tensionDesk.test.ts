import { describe, expect, it } from "vitest";
import { pitchHz, wireStiffnessNPerM } from "../../physics/mechanics/tension";
import { wireEnds } from "../../physics/mechanics/wireEnds";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { type Design, designSchema } from "../design/schema";
import { findCures } from "./cures";
import { evaluateDesign, verdictOf } from "./evaluate";
import { tensionDeskOf } from "./tensionDesk";

const tom = designSchema.parse(DEMO_CUTTERS.find(({ name }) => name === "Long Tom"));
const spring = { device: "spring", hot_N: 65, rate_N_per_mm: 2.4, initial_N: 8, rest_mm: 95, travel_mm: 60 } as const;
const desk = (tension: Design["tension"], units: "metric" | "inch" = "metric") => {
  const design = { ...tom, tension };
  const evaluation = evaluateDesign(design);
  return { evaluation, ...tensionDeskOf(design, evaluation, units) };
};
const how = (list: { how: string; words: string }[]) => list.map((each) => each.how);
const words = (list: { how: string; words: string }[], kind: string) => list.find((each) => each.how === kind)?.words ?? "";

describe("what to set at the tension desk", () => {
  it("a spring: stretched by what it pulls beyond its winding, over its rate; what is left of its usable stretch", () => {
    const set = desk(spring);
    const { coldN, hotN } = set.evaluation.tension;
    expect(set.rateNPerM).toBe(2400);
    expect(set.stretchHotM).toBeCloseTo((65 - 8) / 2400, 12);
    expect(set.stretchColdM).toBeCloseTo((coldN - 8) / 2400, 12);
    expect(set.travelLeftM).toBeCloseTo(0.06 - (coldN - 8) / 2400, 12);
    expect(set.ofLimit).toBeCloseTo(hotN / set.evaluation.tension.hotLimits.recommendedN, 12);
    expect([how(set.setCold), how(set.setHot)]).toEqual([
      ["spring", "weight", "pitch"],
      ["spring", "weight", "pitch"],
    ]);
    const stretch = (65 - 8) / 2.4;
    expect(words(set.setHot, "spring")).toBe(`adjust until the spring measures ${(95 + stretch).toFixed(1)} mm (${stretch.toFixed(1)} mm beyond its rest)`);
    expect(words(set.setHot, "weight")).toMatch(/^hang 65\.0 N \(6\.63 kg\) on the wire's end over a pulley/);
    expect(words(set.setCold, "weight")).toContain(`hang ${coldN.toFixed(1)} N (${(coldN / 9.80665).toFixed(2)} kg)`);
    expect(words(set.setHot, "pitch")).toBe(`pluck it: ${pitchHz(set.evaluation.wire, 1.3, 65).toFixed(0)} Hz, heat on, in air: mind the wire`);
    expect(words(set.setCold, "pitch")).toBe(`pluck it: ${pitchHz(set.evaluation.wire, 1.3, coldN).toFixed(0)} Hz`);
    expect(set.ends).toEqual(wireEnds(set.evaluation.wire, 1.3));
    // Work of a spring wound with F0: (T^2 - F0^2)/2k; of the wire T^2/2k.
    expect(set.energy.deviceJ).toBeCloseTo((coldN ** 2 - 8 ** 2) / (2 * 2400), 12);
    expect(set.energy.wireJ).toBeCloseTo(coldN ** 2 / (2 * wireStiffnessNPerM(set.evaluation.wire, 1.3)), 12);
    expect([set.pitchColdHz, set.pitchHotHz]).toEqual([set.evaluation.tension.pitchColdHz, set.evaluation.tension.pitchHotHz]);
  });

  it("without its rest, how much longer; without its usable stretch, nothing; in inches", () => {
    const set = desk({ ...spring, rest_mm: undefined, travel_mm: undefined, initial_N: undefined });
    expect(words(set.setHot, "spring")).toBe(`adjust until the spring is ${(65 / 2.4).toFixed(1)} mm longer than at rest`);
    expect(set.travelLeftM).toBeNull();
    expect(words(desk(spring, "inch").setHot, "spring")).toMatch(/measures 4\.\d\d in \(0\.9\d in beyond its rest\)/);
    expect(words(desk(spring, "inch").setHot, "weight")).toMatch(/^hang 14\.6 lb/);
  });

  it("a weight has no rate and no stretch; an arm gives by its rate and is not measured as a spring", () => {
    const weight = desk({ device: "weight", hot_N: 65 });
    expect([weight.rateNPerM, weight.stretchColdM, weight.stretchHotM, weight.travelLeftM, weight.energy.deviceJ]).toEqual([null, null, null, null, 0]);
    expect(how(weight.setHot)).toEqual(["weight", "pitch"]);
    const arm = desk({ device: "arm", hot_N: 65, rate_N_per_mm: 3 });
    expect(arm.rateNPerM).toBe(3000);
    expect(arm.stretchHotM).toBeCloseTo(65 / 3000, 12);
    expect(how(arm.setCold)).toEqual(["weight", "pitch"]);
    expect(desk({ device: "turnbuckle", hot_N: 10 }).rateNPerM).toBeNull();
  });
});

describe("cures", () => {
  const at = (job: Partial<Design["job"]>, more: Partial<Design> = {}): Design => ({ ...tom, ...more, job: { ...tom.job, ...job } });
  const cured = (design: Design) => findCures(design).map(({ knob, from, to, leaves }) => ({ knob, from, to, leaves }));

  it("by feed: on the near side of the clean window, a step within it; every cure named is clean", () => {
    const fast = at({ feed_mm_s: 14 });
    const slow = findCures(fast).find(({ knob }) => knob === "feed");
    const window = evaluateDesign(fast).feeds;
    expect(slow?.from).toBe(14);
    expect(slow?.to).toBeLessThanOrEqual(window.to * 1000);
    expect(slow?.to).toBeGreaterThan(window.to * 1000 * 0.85);
    const tooSlow = at({ feed_mm_s: window.from * 1000 * 0.7 });
    const up = findCures(tooSlow).find(({ knob }) => knob === "feed");
    expect(up?.to).toBeGreaterThanOrEqual(evaluateDesign(tooSlow).feeds.from * 1000);
    expect(up?.to).toBeLessThan(evaluateDesign(tooSlow).feeds.from * 1000 * 1.2);
    for (const design of [fast, tooSlow])
      for (const cure of findCures(design)) expect([cure.knob, verdictOf(cure.design), cure.leaves]).toEqual([cure.knob, "clean", "clean"]);
  });

  it("by its knob, down where it is too hot and up where it drags, and never past its plate", () => {
    const hot = at({}, { supply: { kind: "bench", voltage_V: 22, current_A: 30 } });
    const down = cured(hot).find(({ knob }) => /volt/.test(knob) || knob === "voltage");
    expect(down?.to).toBeLessThan(22);
    const drags = at({ feed_mm_s: 12 }, { supply: { kind: "bench", voltage_V: 12, current_A: 30, maxVoltage_V: 30 } });
    const up = cured(drags).find(({ knob }) => knob === down?.knob);
    expect(up?.to).toBeGreaterThan(12);
    expect(up?.to).toBeLessThanOrEqual(30);
    const capped = at({ feed_mm_s: 12 }, { supply: { kind: "bench", voltage_V: 12, current_A: 30, maxVoltage_V: 12.2 } });
    expect(cured(capped).find(({ knob }) => knob === down?.knob)).toBeUndefined();
  });

  it("a brick straight on the wire: other volts, or a chopper put between where it is too hot, not where it is too cold", () => {
    const brick = (voltage_V: number): Design => at({}, { supply: { kind: "dc", voltage_V, maxCurrent_A: 30 }, control: { kind: "direct" } });
    const hot = findCures(brick(24));
    const chopped = hot.find(({ knob }) => knob === "add-pwm");
    expect(chopped).toMatchObject({ from: 1, leaves: "clean" });
    expect(chopped?.to).toBeLessThan(1);
    expect(chopped?.design.control).toEqual({ kind: "pwm", duty: chopped?.to });
    const volts = hot.find(({ knob }) => knob === "supply-voltage");
    expect([volts?.from, (volts?.to as number) < 24]).toEqual([24, true]);
    const cold = findCures(brick(8));
    expect(cold.find(({ knob }) => knob === "add-pwm")).toBeUndefined();
    expect(cold.find(({ knob }) => knob === "supply-voltage")?.to).toBeGreaterThan(8);
    // Alternating current is not chopped so.
    expect(
      findCures(at({}, { supply: { kind: "transformer", voltage_Vrms: 24, rating_VA: 700 }, control: { kind: "direct" } })).map(({ knob }) => knob),
    ).not.toContain("add-pwm");
  });

  it("overload: a longer or thinner wire, a stronger supply to the half ampere; where nothing cures outright, what is left is said", () => {
    const over = at({}, { supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 3 }, control: { kind: "direct" } });
    const { circuit } = evaluateDesign(over);
    const cures = findCures(over);
    const clean = cures.some(({ leaves }) => leaves === "clean");
    for (const cure of cures) {
      expect([cure.knob, cure.leaves]).toEqual([cure.knob, verdictOf(cure.design)]);
      if (clean) expect(cure.leaves).toBe("clean");
    }
    const stronger = cures.find(({ knob }) => knob === "supply-current");
    expect(stronger).toMatchObject({ from: 3, to: Math.ceil(Math.max(circuit.supplyCurrentA, circuit.inrushA) * 2) / 2 });
    // PWM turned down leaves the on-current as it was.
    const chopped = findCures({ ...over, control: { kind: "pwm", duty: 0.5 } });
    expect(chopped.map(({ knob }) => knob)).not.toContain("duty");
    const short = findCures(at({ width_mm: 1500 }));
    expect(short[0]).toMatchObject({ knob: "length", from: 1300 });
    expect((short[0]?.to as number) % 10).toBe(0);
    expect(short[0]?.to).toBeGreaterThanOrEqual(1520);
  });
});
