import { readdirSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyControl } from "../../../../../tests/helpers/anyDesign";
import { formatQuantity, type Quantity } from "../../../units/units";
import { mismatch } from "../circuit";
import { controlSchema } from "../controlSchema";
import { type Supply, sourceOf } from "../supplies";
import { CONTROL_KINDS, CONTROLS, type Control, controlOfKnob, controlRecord, knobLook, recordOf } from ".";

const show = (quantity: Quantity, value: number, decimals?: number) => formatQuantity(quantity, value, "metric", decimals);
const brick: Supply = { kind: "dc", voltage_V: 24, maxCurrent_A: 10 };
const transformer: Supply = { kind: "transformer", voltage_Vrms: 24, rating_VA: 200 };
const around = { emfV: 24, wireMm: 1000, foamMm: 400 };

describe("every control's record", () => {
  it("is in the list: a file next to the others that nobody lists is forgotten", () => {
    const files = readdirSync(import.meta.dirname)
      .filter((name) => name.endsWith(".ts") && !/^(index|record|chopper)\.ts$|\.test\.ts$/.test(name))
      .map((name) => name.replace(".ts", ""));
    expect([...CONTROL_KINDS].sort()).toEqual(files.sort());
    expect(new Set(CONTROLS.flatMap(({ knob }) => knob?.id ?? [])).size).toBe(CONTROLS.filter(({ knob }) => knob).length);
  });

  it.each(CONTROL_KINDS)("%s: starts as its own schema takes it, and says its words", (kind) => {
    const record = controlRecord(kind);
    const start = record.start(around) as Control;
    expect(controlSchema.parse(start)).toEqual(start);
    expect(() => controlSchema.parse({ ...start, stray: 1 })).toThrow();
    for (const [name, { max }] of Object.entries(record.fields)) {
      const bad = controlSchema.safeParse({ ...start, [name]: max + 1 });
      expect(bad.success, name).toBe(false);
      expect(bad.error?.issues[0]?.path).toEqual([name]);
    }
    const { own } = recordOf(start);
    for (const words of [record.title, record.words, record.called, record.sentence(own, show)]) expect(words.length).toBeGreaterThan(3);
    // What it does not fit it refuses in words that name it; what suits it passes.
    expect(mismatch(brick, start) === undefined).toBe(record.suits !== "alternating");
    expect(mismatch(transformer, start) === undefined).toBe(record.suits !== "direct");
    if (record.suits !== "any") expect(mismatch(record.suits === "direct" ? transformer : brick, start)).toContain(record.misfit);
    const { knob } = record;
    if (!knob) return;
    expect(record.fields[knob.field]).toBeDefined();
    expect(controlOfKnob(knob.id)).toBe(record);
    expect(knobLook(knob.id).name).toBe(knob.name);
    expect(knob.card(own[knob.field] as number, show)).toMatch(/\d/);
    const { min, max } = knob.range(around);
    expect(max).toBeGreaterThan(min);
  });

  it("turned fully up lets through all there is, and turned the hot way more than turned the cold way", () => {
    const load = { ohm: 6, wireOhm: 5, wireOhmAt: (c: number) => 4 * (1 + 0.001 * (c - 20)) };
    for (const record of CONTROLS) {
      const source = sourceOf(record.suits === "alternating" ? transformer : brick);
      const top = record.fullyUp(around);
      if (top) expect(record.drive(top, source, load).rmsA, record.kind).toBeCloseTo(24 / 6, record.kind === "buck" ? 1 : 6);
      const { knob } = record;
      if (!knob || record.shortens) continue;
      const { min, max } = knob.range(around);
      const at = (setting: number) => record.drive({ ...record.start(around), [knob.field]: setting }, source, load).rmsA;
      const [cold, hot] = knob.rising ? [min, max] : [max, min];
      expect(at(hot), record.kind).toBeGreaterThan(at(cold));
    }
  });

  it("set for a current drives that current, regardless of the kind, the source and the wire", () => {
    fc.assert(
      fc.property(anyControl("alternating"), fc.double({ min: 0.05, max: 0.9, noNaN: true }), (any, share) => {
        const record = controlRecord(any.kind as Control["kind"]);
        const source = sourceOf({ kind: "bench", voltage_V: 24, current_A: 20 });
        const wireOhmAt = (c: number) => 4 * (1 + 0.001 * (c - 20));
        const wireOhm = wireOhmAt(300);
        const need = { currentA: (share * 24) / (wireOhm + 0.5), outsideOhm: wireOhm + 0.5, band: 0.5, wireOhm, wireOhmAt, ambientC: 20, leastReach: 1.3 };
        const set = record.setFor(need, source);
        if ("why" in set) {
          expect(set.say()).toMatch(/too hot|falls short|overload|converter/);
          return;
        }
        const load = { ohm: need.outsideOhm, wireOhm, wireOhmAt };
        // Straight on the wire the source's own knob is what is set.
        const driven = record.drive(set.control, any.kind === "direct" ? { ...source, emfV: set.setting as number } : source, load);
        // A controller has its band: what it drives goes from all to nothing within it.
        if (any.kind === "held") expect(driven.rmsA).toBeGreaterThan(0);
        else expect(driven.rmsA).toBeCloseTo(need.currentA, 6);
        expect(set.reach).toBeGreaterThan(1);
      }),
      { numRuns: 300 },
    );
  });
});
