import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { refusal } from "../../../../tests/helpers/headless";
import { CoreError } from "../../kernel/errors";
import { mismatch } from "../../physics/power/circuit";
import { findCures } from "../solve/cures";
import { describeCure } from "../solve/cureWords";
import { KINDS, newDesign } from "../solve/defaults";
import { describeVerdict } from "../solve/describe";
import { evaluateDesign, keepIfValid, knobOf, settable, settingForHeat, verdictOf, withSetting } from "../solve/evaluate";
import { DEMO_CUTTERS } from "./demoCutters";
import { exportDesign, importDesign } from "./fileFormat";
import { mergeDesigns, sameDesign } from "./merge";
import { type Design, designSchema } from "./schema";
import { CUTTER_KINDS, MAX_FILE_CHARACTERS } from "./vocabulary";

const demo = (name: string) => DEMO_CUTTERS.find((design) => design.name === name) as Design;

describe("verdicts", () => {
  it("the demo's cutters differ in kind and verdict", () => {
    expect(new Set(DEMO_CUTTERS.map((design) => design.kind)).size).toBe(5);
    expect(DEMO_CUTTERS.map((design) => [design.name, verdictOf(design)])).toEqual([
      ["Long Tom", "clean"],
      ["Gatepost", "smokes"],
      ["Thimble", "clean"],
      ["Marionette", "drags"],
      ["Limpet", "overload"],
    ]);
  });

  it("a new cutter of every kind starts clean, with no danger", () => {
    for (const kind of CUTTER_KINDS) {
      const evaluation = evaluateDesign(newDesign(kind));
      expect([kind, evaluation.verdict]).toEqual([kind, "clean"]);
      expect(evaluation.cautions.filter((caution) => caution.severity === "danger")).toEqual([]);
      expect(KINDS[kind].words.length).toBeGreaterThan(10);
    }
  });

  it("says how much heat is in hand and what is nearest", () => {
    const words = describeVerdict(demo("Long Tom"), evaluateDesign(demo("Long Tom")), "metric");
    expect(words.headline).toMatch(/^Clean\. Heat margin \d+ %\.$/);
    expect(words.detail).toMatch(/^Nearest limit: /);
    for (const design of DEMO_CUTTERS) {
      for (const system of ["metric", "inch"] as const)
        expect(describeVerdict(design, evaluateDesign(design), system).detail).not.toMatch(/NaN|undefined|Infinity/);
    }
  });

  it("a foam wider than the wire is said, with the longer wire that cures it", () => {
    const design: Design = { ...demo("Long Tom"), job: { ...demo("Long Tom").job, width_mm: 1400 } };
    expect(verdictOf(design)).toBe("short-wire");
    expect(findCures(design)[0]).toMatchObject({ knob: "length", from: 1300 });
  });
});

describe("cures", () => {
  const troubled = fc
    .record({
      kind: fc.constantFrom(...CUTTER_KINDS),
      gauge_awg: fc.integer({ min: 20, max: 34 }),
      feed: fc.integer({ min: 5, max: 300 }),
      volts: fc.integer({ min: 3, max: 36 }),
      duty: fc.integer({ min: 5, max: 100 }),
      bench: fc.boolean(),
      family: fc.constantFrom("eps" as const, "xps" as const, "epp" as const, "pe" as const),
    })
    .map(({ kind, gauge_awg, feed, volts, duty, bench, family }): Design => {
      const start = newDesign(kind);
      return {
        ...start,
        job: { ...start.job, foam: { family, density_kg_m3: 30 }, feed_mm_s: feed / 10 },
        wire: { alloy: "nicr-80-20", gauge_awg, length_mm: start.wire.length_mm },
        supply: bench
          ? { kind: "bench", voltage_V: volts, current_A: 8, maxVoltage_V: 36, maxCurrent_A: 10 }
          : { kind: "dc", voltage_V: volts, maxCurrent_A: 6 },
        control: bench ? { kind: "direct" } : { kind: "pwm", duty: duty / 100 },
      };
    });

  it("every cure, solved again, is what it says; a clean design is offered none", () => {
    fc.assert(
      fc.property(troubled, (design) => {
        const verdict = verdictOf(design);
        const cures = findCures(design);
        if (verdict === "clean") expect(cures).toEqual([]);
        for (const cure of cures) {
          expect(verdictOf(cure.design)).toBe(cure.leaves);
          expect(cure.leaves).not.toBe(verdict);
          expect(designSchema.safeParse(cure.design).success).toBe(true);
          expect(describeCure(cure, "metric")).not.toMatch(/NaN|undefined/);
        }
      }),
      { numRuns: 80 },
    );
  });

  it("a cure is the smallest: one step back on its knob is not clean", () => {
    const hot = demo("Gatepost");
    for (const cure of findCures(hot)) {
      if (cure.knob === "feed") expect(verdictOf({ ...hot, job: { ...hot.job, feed_mm_s: cure.to - 0.3 } })).not.toBe("clean");
      if (cure.knob === "duty") expect(verdictOf(withSetting(hot, cure.to + 0.03))).not.toBe("clean");
      if (cure.knob === "gauge") {
        const { gauge_awg, ...rest } = cure.design.wire;
        expect(verdictOf({ ...hot, wire: { ...rest, gauge_awg: (gauge_awg as number) - 1 } })).not.toBe("clean");
      }
    }
    expect(findCures(hot).map((cure) => cure.knob)).toEqual(["feed", "duty", "gauge"]);
  });

  it("speaks plainly", () => {
    const words = findCures(demo("Gatepost")).map((cure) => describeCure(cure, "metric"));
    expect(words[0]).toMatch(/^\d+\.\d mm\/s faster \(\d+\.\d mm\/s\)$/);
    expect(words[1]).toMatch(/^duty down to \d+ %$/);
    expect(words[2]).toMatch(/gauges thinner/);
  });
});

describe("the knob", () => {
  it("set for a heat brings that heat", () => {
    for (const name of ["Long Tom", "Gatepost", "Marionette"]) {
      const design = demo(name);
      const setting = settingForHeat(design, 30) as number;
      expect(evaluateDesign(withSetting(design, setting)).cut.powerWPerM).toBeCloseTo(30, 4);
    }
    expect(settingForHeat(demo("Thimble"), 30)).toBeNull();
  });
});

describe("every supply with every control that fits it", () => {
  const supplies: Design["supply"][] = [
    { kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 },
    { kind: "bench", voltage_V: 20, current_A: 5, maxVoltage_V: 30, maxCurrent_A: 5 },
    { kind: "battery", chemistry: "lithium-ion", cells: 5, capacity_Ah: 4 },
    { kind: "transformer", voltage_Vrms: 24, rating_VA: 100, internal_ohm: 0.6 },
  ];
  const controls: Design["control"][] = [
    { kind: "direct" },
    { kind: "pwm", duty: 0.4 },
    { kind: "phase", delay_deg: 100 },
    { kind: "buck", voltage_V: 9 },
    { kind: "rheostat", ohm: 4 },
    { kind: "tap", fraction: 0.6 },
    { kind: "clip", live_mm: 700 },
  ];
  const combos = supplies.flatMap((supply) =>
    controls.filter((control) => mismatch(supply, control) === undefined).map((control) => ({ ...newDesign("bow"), supply, control })),
  );

  it("is solved, described and cured, and its knob set for a heat brings that heat or stops at its end", () => {
    expect(combos).toHaveLength(20);
    for (const design of combos) {
      const evaluation = evaluateDesign(designSchema.parse(design));
      expect(describeVerdict(design, evaluation, "metric").detail).not.toMatch(/NaN|undefined|Infinity/);
      for (const cure of findCures(design)) expect(verdictOf(cure.design)).toBe(cure.leaves);
      const knob = knobOf(design);
      if (!knob) continue;
      const goal = (evaluation.reach.fromWPerM + evaluation.reach.toWPerM) / 2;
      const set = withSetting(design, settingForHeat(design, goal) as number);
      expect(Math.abs(evaluateDesign(set).cut.powerWPerM / goal - 1)).toBeLessThan(0.01);
      const hotter = withSetting(design, settable(knob, knob.value + (knob.rising ? knob.step : -knob.step)));
      expect(evaluateDesign(hotter).cut.powerWPerM).toBeGreaterThanOrEqual(evaluation.cut.powerWPerM - 1e-9);
    }
  });

  it("a dimmer on direct current and a clip beyond the wire are refused by path; shortening the wire moves the clip", () => {
    const dimmer = designSchema.safeParse({ ...newDesign("bow"), control: { kind: "phase", delay_deg: 90 } });
    expect(dimmer.error?.issues[0]?.path).toEqual(["control", "kind"]);
    const clip = designSchema.safeParse({ ...newDesign("bow"), control: { kind: "clip", live_mm: 900 } });
    expect(clip.error?.issues[0]?.path).toEqual(["control", "live_mm"]);
    expect(keepIfValid({ ...newDesign("bow"), control: { kind: "clip", live_mm: 900 } }).control).toEqual({ kind: "clip", live_mm: 720 });
  });
});

describe("cautions", () => {
  const codes = (design: Design) => evaluateDesign(design).cautions.map((caution) => caution.code);

  it("cover overload, glow and too few ohms, each with words and a source", () => {
    expect(codes(demo("Limpet"))).toEqual(expect.arrayContaining(["overload", "glowing", "above-self-ignition", "under-wire"]));
    for (const caution of evaluateDesign(demo("Limpet")).cautions) {
      expect(caution.source.length).toBeGreaterThan(5);
      expect(caution.words("inch")).not.toMatch(/NaN|undefined|°C/);
    }
  });

  it("flash ignition and self-ignition differ by foam", () => {
    const at = (duty: number) => codes(withSetting(demo("Gatepost"), duty));
    expect(at(0.3)).not.toContain("above-flash-ignition");
    expect(at(0.7)).toContain("above-flash-ignition");
    expect(at(0.95)).toContain("above-self-ignition");
  });

  it("touch voltage: chopped from 50 V, direct from 60 V", () => {
    const at = (voltage_V: number, duty?: number): Design => ({
      ...demo("Long Tom"),
      wire: { alloy: "nicr-80-20", gauge_awg: 30, length_mm: 3000 },
      supply: { kind: "dc", voltage_V, maxCurrent_A: 5 },
      control: duty === undefined ? { kind: "direct" } : { kind: "pwm", duty },
    });
    expect(codes(at(55))).not.toContain("touch-voltage");
    expect(codes(at(55, 0.5))).toContain("touch-voltage");
    expect(codes(at(70))).toContain("touch-voltage");
  });
});

describe("the file", () => {
  it("comes back the same", () => {
    for (const design of [...DEMO_CUTTERS, ...CUTTER_KINDS.map((kind) => newDesign(kind))])
      expect(importDesign(exportDesign(design))).toEqual(designSchema.parse(design));
  });

  const edited = (change: (value: Record<string, never>) => unknown) => {
    const value = JSON.parse(exportDesign(demo("Long Tom")));
    return JSON.stringify(change(value) ?? value);
  };

  it.each([
    ["unknown key", (v: never) => Object.assign((v as Design).job, { colour: "red" }), "unknown-key", "job.colour"],
    ["missing figure", (v: never) => void delete (v as { job: Partial<Design["job"]> }).job.feed_mm_s, "missing-key", "job.feed_mm_s"],
    ["absurd figure", (v: never) => void Object.assign((v as Design).wire, { length_mm: 1e9 }), "out-of-range", "wire.length_mm"],
    ["text for a number", (v: never) => void Object.assign((v as Design).job, { width_mm: "600" }), "wrong-type", "job.width_mm"],
    ["two sizes", (v: never) => void Object.assign((v as Design).wire, { gauge_awg: 24 }), "conflict", "wire"],
    ["forbidden foam", (v: never) => void Object.assign((v as Design).job.foam, { family: "pvc" }), "forbidden-foam", "job.foam.family"],
    ["mains", (v: never) => void Object.assign(v, { supply: { kind: "mains", voltage_V: 230 } }), "lethal", "supply.kind"],
    ["lethal volts", (v: never) => void Object.assign((v as Design).supply, { voltage_V: 230 }), "lethal", "supply.voltage_V"],
    ["other format", (v: never) => void Object.assign(v, { format: "somebody/else" }), "wrong-format", "format"],
    ["newer version", (v: never) => void Object.assign(v, { version: 7 }), "newer-format", "version"],
  ])("refuses %s by path", (_name, change, code, path) => {
    const error = refusal(() => importDesign(edited((value) => void change(value as never))));
    expect([error.code, error.path]).toEqual([code, path]);
    expect(error.message.length).toBeGreaterThan(10);
  });

  it("refuses what is not JSON and what is too large, and never crashes on a mangled file", () => {
    expect(refusal(() => importDesign("{")).code).toBe("bad-json");
    expect(refusal(() => importDesign(" ".repeat(MAX_FILE_CHARACTERS + 1))).code).toBe("out-of-range");
    const text = exportDesign(demo("Marionette"));
    fc.assert(
      fc.property(fc.nat(text.length - 1), fc.string({ maxLength: 3 }), fc.nat(40), (at, put, cut) => {
        const mangled = text.slice(0, at) + put + text.slice(at + cut);
        try {
          designSchema.parse(importDesign(mangled));
        } catch (error) {
          expect(error).toBeInstanceOf(CoreError);
        }
      }),
      { numRuns: 1500 },
    );
  });
});

describe("two tabs", () => {
  const base = demo("Long Tom");
  const faster: Design = { ...base, job: { ...base.job, feed_mm_s: 7 } };
  const longer: Design = { ...base, wire: { ...base.wire, length_mm: 1400 } };
  const thinner: Design = { ...base, wire: { alloy: "ss-304", diameter_mm: 0.5, length_mm: 1300 } };

  it("changes of different parts join, whichever saved first", () => {
    const one = mergeDesigns(base, faster, longer);
    const other = mergeDesigns(base, longer, faster);
    expect(one.clashes).toEqual([]);
    expect(sameDesign(one.merged, other.merged)).toBe(true);
    expect(one.merged).toMatchObject({ job: { feed_mm_s: 7 }, wire: { length_mm: 1400 } });
    expect(one.theirs).toEqual(["wire length"]);
    expect(mergeDesigns(base, thinner, longer).merged.wire).toEqual({ alloy: "ss-304", diameter_mm: 0.5, length_mm: 1400 });
  });

  it("changes of one part clash by name, and neither is lost", () => {
    const slower: Design = { ...base, job: { ...base.job, feed_mm_s: 3, width_mm: 900 } };
    const merge = mergeDesigns(base, slower, faster);
    expect(merge.clashes).toEqual(["feed"]);
    expect(merge.merged.job).toMatchObject({ feed_mm_s: 7, width_mm: 900 });
    expect(merge.withMine.job).toMatchObject({ feed_mm_s: 3, width_mm: 900 });
  });

  it("the same change twice is no clash", () => {
    expect(mergeDesigns(base, faster, { ...faster }).clashes).toEqual([]);
  });
});
