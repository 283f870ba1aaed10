import { describe, expect, it } from "vitest";
import { resolveWire } from "../../physics/heat/wire";
import { fuseAdvice } from "../../physics/power/powerAdvice";
import { awgDiameterMm } from "../../units/gauges";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { type Design, designSchema } from "../design/schema";
import { findCures } from "./cures";
import { type Cure, describeCure } from "./cureWords";
import { controlNotes, evaluateDesign, knobOf, stiffToolOf, verdictOf } from "./evaluate";
import { blocksOf } from "./readiness";

const demo = (name: string, more: object = {}): Design => designSchema.parse({ ...DEMO_CUTTERS.find((design) => design.name === name), ...more });
const tom = demo("Long Tom");
const gatepost = demo("Gatepost");
const of = (design: Design, knob: string): Cure | undefined => findCures(design).find((cure) => cure.knob === knob);
/** Every cure as it is said must be so when it is solved again. */
const honest = (design: Design) => {
  const cures = findCures(design);
  for (const cure of cures) {
    expect(verdictOf(cure.design)).toBe(cure.leaves);
    expect(describeCure(cure, "metric")).not.toMatch(/NaN|undefined/);
  }
  // A change that only replaces one fault with another is offered where nothing cures it outright.
  if (cures.some(({ leaves }) => leaves === "clean")) expect(cures.every(({ leaves }) => leaves === "clean")).toBe(true);
  return cures;
};

describe("the smallest change that fixes a design", () => {
  it("a clean design wants none", () => expect(findCures(tom)).toEqual([]));
  it("a bow that drags: slower to just inside the clean feeds, a knob up to just inside the clean heats, nearest first of the gauges", () => {
    const cold = { ...tom, supply: { ...tom.supply, voltage_V: 10.5 } } as Design;
    expect(verdictOf(cold)).toBe("drags");
    const cures = honest(cold);
    expect(cures.map(({ knob }) => knob)).toEqual(["feed", "voltage", "gauge"]);
    const [feed, knob, gauge] = cures as [Cure, Cure, Cure];
    const { feeds, heats } = evaluateDesign(cold);
    expect(feed.to).toBeLessThanOrEqual(feeds.to * 1000);
    expect(feed.to).toBeGreaterThan(feeds.to * 1000 * 0.85);
    expect(feed.from).toBe(6.5);
    const heat = evaluateDesign(knob.design).cut.powerWPerM;
    expect(heat).toBeGreaterThanOrEqual(heats.from);
    expect(heat).toBeLessThan(heats.from * 1.15);
    expect(knob.from).toBe(10.5);
    // The nearest gauge that is clean: none nearer is.
    const start = resolveWire(cold.wire).diameterM * 1000;
    expect(gauge.from).toBeCloseTo(start, 9);
    expect(gauge.to).toBeCloseTo(awgDiameterMm((gauge.design.wire as { gauge_awg: number }).gauge_awg), 9);
    expect(Math.sign(gauge.steps as number)).toBe(Math.sign(gauge.to - gauge.from));
    expect(gauge.design.wire).not.toHaveProperty("diameter_mm");
    expect(gauge.design.wire.length_mm).toBe(cold.wire.length_mm);
  });
  it("one that is too hot: faster, and the knob down to just inside the clean heats", () => {
    const hot = { ...tom, supply: { ...tom.supply, voltage_V: 21 } } as Design;
    expect(["smokes", "wide"]).toContain(verdictOf(hot));
    honest(hot);
    const { feeds, heats } = evaluateDesign(hot);
    const feed = of(hot, "feed") as Cure;
    expect(feed.to).toBeGreaterThanOrEqual(feeds.from * 1000);
    expect(feed.to).toBeLessThan(feeds.from * 1000 * 1.15 + 0.2);
    const heat = evaluateDesign((of(hot, "voltage") as Cure).design).cut.powerWPerM;
    expect(heat).toBeLessThanOrEqual(heats.to);
    expect(heat).toBeGreaterThan(heats.to * 0.85);
    // A knob that gets colder as it is turned up is turned the other way.
    const rheostat = { ...gatepost, control: { kind: "rheostat", ohm: 0.1 } } as Design;
    const rheo = honest(rheostat).find(({ knob }) => knob === knobOf(rheostat)?.kind);
    expect(rheo?.to).toBeGreaterThan(0.1);
    const little = { ...gatepost, control: { kind: "rheostat", ohm: 40 } } as Design;
    expect(honest(little).find(({ knob }) => knob === knobOf(little)?.kind)?.to).toBeLessThan(40);
  });
  it("straight on a supply: its volts, or a PWM module between; not a PWM where the supply alternates, nor up where it is too weak", () => {
    const straight = (supply: object): Design => demo("Gatepost", { supply, control: { kind: "direct" } });
    const hot = straight({ kind: "dc", voltage_V: 12, maxCurrent_A: 12 });
    const cures = honest(hot);
    const pwm = cures.find(({ knob }) => knob === "add-pwm");
    expect(pwm).toMatchObject({ from: 1, design: { control: { kind: "pwm" } } });
    expect(pwm?.to).toBeLessThan(1);
    const volts = cures.find(({ knob }) => knob === "supply-voltage");
    expect(volts?.from).toBe(12);
    expect(volts?.to).toBeLessThan(12);
    const weak = straight({ kind: "dc", voltage_V: 2.5, maxCurrent_A: 12 });
    expect(verdictOf(weak)).not.toBe("clean");
    expect(of(weak, "add-pwm")).toBeUndefined();
    expect((of(weak, "supply-voltage") as Cure).to).toBeGreaterThan(2.5);
    honest(weak);
    const iron = straight({ kind: "transformer", voltage_Vrms: 24, rating_VA: 300 });
    expect(of(iron, "add-pwm")).toBeUndefined();
  });
  it("an overloaded supply: a thinner wire or a longer one, other volts, or a supply good for what flows, to the half ampere; a chopper turned down spares it nothing", () => {
    const over = demo("Gatepost", { supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 2 }, control: { kind: "pwm", duty: 0.4 } });
    expect(verdictOf(over)).toBe("overload");
    const cures = honest(over);
    expect(cures.some(({ knob }) => knob === "duty")).toBe(false);
    const amps = cures.find(({ knob }) => knob === "supply-current");
    if (amps) {
      expect(amps.to * 2).toBe(Math.round(amps.to * 2));
      expect(amps.to).toBeGreaterThanOrEqual(evaluateDesign(over).circuit.supplyCurrentA);
    }
    const straight = demo("Gatepost", { supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 2 }, control: { kind: "direct" } });
    const found = honest(straight);
    expect(found.length).toBeGreaterThan(0);
    for (const { leaves } of found) expect(["overload", "short-wire"]).not.toContain(leaves);
    const longer = found.find(({ knob }) => knob === "length");
    if (longer) {
      expect(longer.to % 10).toBe(0);
      expect(longer.to).toBeGreaterThan(longer.from);
      // Ten millimetres less would not do.
      expect(verdictOf({ ...longer.design, wire: { ...longer.design.wire, length_mm: longer.to - 10 } })).not.toBe(longer.leaves);
    }
    const thinner = found.find(({ knob }) => knob === "gauge");
    if (thinner) expect(thinner.to).toBeLessThan(thinner.from);
  });
  it("a wire too short for the foam: the shortest that reaches, to the ten millimetres, though other trouble be left", () => {
    for (const width_mm of [500, 700, 1200]) {
      const short = demo("Gatepost", { wire: { ...gatepost.wire, length_mm: 420 }, job: { ...gatepost.job, width_mm } });
      expect(verdictOf(short)).toBe("short-wire");
      const cures = honest(short);
      expect(cures).toHaveLength(1);
      const [cure] = cures as [Cure];
      expect(cure.knob).toBe("length");
      expect(cure.from).toBe(420);
      expect(cure.to % 10).toBe(0);
      expect(cure.to).toBeGreaterThanOrEqual(width_mm);
      if (cure.leaves !== "clean") expect(verdictOf({ ...cure.design, wire: { ...cure.design.wire, length_mm: cure.to - 40 } })).toBe("short-wire");
      expect(describeCure(cure, "metric")).toBe(`a wire ${cure.to - 420} mm longer (${cure.to} mm)`);
    }
  });
});

describe("cures in words", () => {
  const say = (cure: Partial<Cure>, units: "metric" | "inch" = "metric") =>
    describeCure({ design: tom, leaves: "clean", from: 0, to: 0, ...cure } as Cure, units);
  it("by how much and to what, in the maker's units", () => {
    expect(say({ knob: "feed", from: 6.5, to: 5 })).toBe("1.5 mm/s slower (5.0 mm/s)");
    expect(say({ knob: "feed", from: 5, to: 6 })).toBe("1.0 mm/s faster (6.0 mm/s)");
    expect(say({ knob: "feed", from: 5, to: 6 }, "inch")).toMatch(/^faster: \d\.\d\d s\/in$/);
    expect(say({ knob: "feed", from: 6, to: 5 }, "inch")).toMatch(/^slower: /);
    expect(say({ knob: "gauge", steps: 1, to: 0.5 })).toBe("one gauge thicker (0.50 mm)");
    expect(say({ knob: "gauge", steps: -1, to: 0.4 })).toBe("one gauge thinner (0.40 mm)");
    expect(say({ knob: "gauge", steps: -3, to: 0.4 })).toBe("3 gauges thinner (0.40 mm)");
    expect(say({ knob: "length", from: 400, to: 450 })).toBe("a wire 50 mm longer (450 mm)");
    expect(say({ knob: "add-pwm", from: 1, to: 0.456 })).toBe("add PWM at 46 %");
    expect(say({ knob: "supply-current", from: 2, to: 5.5 })).toBe("a supply good for 5.5 A");
    expect(say({ knob: "sunshine", to: 3 })).toBe("sunshine at 3");
  });
});

describe("what a design is next to its cut", () => {
  it("a loop and a wand hold their shape by themselves, as deep and wide as their job; all else is pulled straight", () => {
    const job = { ...tom.job, width_mm: 40, thickness_mm: 25 };
    expect(stiffToolOf({ ...tom, kind: "wand", job })).toEqual({ kind: "wand", depthM: 0.04 });
    expect(stiffToolOf({ ...tom, kind: "loop", job })).toEqual({ kind: "loop", widthM: 0.04, depthM: 0.025 });
    expect(stiffToolOf({ ...tom, job })).toBeNull();
  });
  it("notes of a control are its record's own, none where it has none", () => {
    expect(controlNotes(tom)).toEqual([]);
    const held = { ...gatepost, control: { kind: "held", hold_C: 300 } } as unknown as Design;
    expect(Array.isArray(controlNotes(held))).toBe(true);
  });
});

describe("what is against ready, with the smallest change that lifts it", () => {
  const block = (design: Design, code: string) => blocksOf(design).find(({ caution }) => caution.code === code);
  it("no fuse, or too large a one: the one advised, or thicker leads where none fits them; what else is wired stays", () => {
    const large = demo("Long Tom", { wiring: { ...tom.wiring, fuse_A: 30 } });
    const { fuseA } = fuseAdvice(evaluateDesign(large).circuit.supplyCurrentA, large.leads?.gauge_awg);
    const cure = block(large, "fuse-too-large")?.cure;
    expect(cure?.words).toBe(`fit a ${fuseA} A fuse`);
    expect(cure?.design.wiring).toEqual({ ...tom.wiring, fuse_A: fuseA });
    const battery = { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 18 };
    const bare = demo("Long Tom", {
      supply: battery,
      control: { kind: "direct" },
      wiring: { ...tom.wiring, fuse_A: null },
      leads: { gauge_awg: 26, oneWay_m: 1 },
    });
    const none = block(bare, "no-fuse");
    expect(none).toBeDefined();
    if (fuseAdvice(evaluateDesign(bare).circuit.supplyCurrentA, 26).fuseA === null && none?.cure) expect(none.cure.words).toMatch(/^leads of \d+ AWG$/);
    const fitting = demo("Long Tom", { supply: battery, control: { kind: "direct" }, wiring: { ...tom.wiring, fuse_A: null } });
    expect(block(fitting, "no-fuse")?.cure?.words).toMatch(/^fit a [\d.]+ A fuse$/);
  });
});
