import { describe, expect, it } from "vitest";
import { formatQuantity } from "../../units/units";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { type Design, designSchema } from "../design/schema";
import { isBlocked } from "./blocked";
import { findCures } from "./cures";
import type { Cure } from "./cureWords";
import { describeVerdict, noCut } from "./describe";
import { evaluateDesign, knobOf, withSetting } from "./evaluate";
import { blocksOf } from "./readiness";

const demo = (name: string, more: object = {}): Design => designSchema.parse({ ...DEMO_CUTTERS.find((design) => design.name === name), ...more });
const tom = () => demo("Long Tom");
const gatepost = () => demo("Gatepost");
const volts = (voltage_V: number) => demo("Long Tom", { supply: { ...tom().supply, voltage_V } });
const at = (feed_mm_s: number, of = tom()) => ({ ...of, job: { ...of.job, feed_mm_s } }) as Design;
const cure = (design: Design, knob: string): Cure => {
  const found = findCures(design).find((each) => each.knob === knob);
  if (!found) throw new Error(`no ${knob}`);
  return found;
};
const heat = (design: Design) => evaluateDesign(design).cut.powerWPerM;
/** Two hundredths inside the band's own edge: the edge itself is nobody's setting. */
const IN = 1.02;

describe("the smallest change, and no more", () => {
  it("a feed: the first tenths of a millimetre a second inside the clean feeds, from either side", () => {
    const fast = at(14);
    const { feeds } = evaluateDesign(fast);
    const slower = cure(fast, "feed").to;
    expect(slower).toBeLessThanOrEqual(feeds.to * 1000 * 0.98 + 1e-9);
    expect(slower + 0.2).toBeGreaterThan(feeds.to * 1000 * 0.98);
    const slow = at(2);
    const from = evaluateDesign(slow).feeds.from * 1000;
    const faster = cure(slow, "feed").to;
    expect(faster).toBeGreaterThanOrEqual(from * IN - 1e-9);
    expect(faster - 0.2).toBeLessThan(from * IN);
  });
  it("a knob: the first of its steps inside the clean heats, whichever way it turns", () => {
    const cases: [Design, boolean][] = [
      [volts(10.5), true],
      [volts(21), false],
      [{ ...gatepost(), control: { kind: "pwm", duty: 0.1 } } as Design, true],
      [{ ...gatepost(), control: { kind: "pwm", duty: 0.95 } } as Design, false],
      [{ ...gatepost(), control: { kind: "rheostat", ohm: 40 } } as Design, true],
      [{ ...gatepost(), control: { kind: "rheostat", ohm: 0.05 } } as Design, false],
      [{ ...gatepost(), control: { kind: "buck", voltage_V: 1.5 } } as Design, true],
    ];
    for (const [design, wantsHeat] of cases) {
      const knob = knobOf(design);
      if (!knob) throw new Error("no knob");
      const { heats } = evaluateDesign(design);
      const found = cure(design, knob.kind);
      const back = withSetting(design, found.to + (found.to > found.from ? -knob.step : knob.step));
      if (wantsHeat) {
        expect(heat(found.design)).toBeGreaterThanOrEqual(heats.from * IN * 0.999);
        expect(heat(back)).toBeLessThan(heats.from * IN * 1.001);
      } else {
        expect(heat(found.design)).toBeLessThanOrEqual(heats.to * 0.98 * 1.001);
        expect(heat(back)).toBeGreaterThan(heats.to * 0.98 * 0.999);
      }
      expect(found.to).toBeGreaterThanOrEqual(knob.min);
      expect(found.to).toBeLessThanOrEqual(knob.max);
      expect(Math.sign(found.to - found.from)).toBe(wantsHeat === knob.rising ? 1 : -1);
    }
    // A knob that cannot reach it is not offered.
    const weak = demo("Gatepost", { supply: { kind: "dc", voltage_V: 1.2, maxCurrent_A: 12 }, control: { kind: "pwm", duty: 0.5 } });
    expect(findCures(weak).some(({ knob }) => knob === "duty")).toBe(false);
  });
  it("a gauge: the nearest that is clean, thicker before thinner where both are as near, none beyond what wire is sold in", () => {
    const cold = volts(10.5);
    const found = cure(cold, "gauge");
    expect(Math.abs(found.steps as number)).toBeLessThanOrEqual(12);
    for (let i = 1; i < Math.abs(found.steps as number); i++)
      for (const steps of [i, -i]) {
        const awg = (found.design.wire as { gauge_awg: number }).gauge_awg + (found.steps as number) - steps;
        const { diameter_mm: _, ...rest } = cold.wire as { diameter_mm?: number };
        expect(evaluateDesign({ ...cold, wire: { ...rest, gauge_awg: awg } } as unknown as Design).verdict).not.toBe("clean");
      }
  });
});

describe("a verdict's words, figure by figure", () => {
  const words = (design: Design, units: "metric" | "inch" = "metric") => describeVerdict(design, evaluateDesign(design), units);
  it("clean: the heat in hand, and which of four borders is nearest in its own share", () => {
    for (const units of ["metric", "inch"] as const)
      for (const design of [tom(), at(9), at(3.6), volts(18.5), volts(12.6)]) {
        const { heats, feeds, cut, feedMPerS, verdict } = evaluateDesign(design);
        expect(verdict).toBe("clean");
        const feed = (m: number) => formatQuantity("feed", m * 1000, units, units === "metric" ? 1 : 2);
        const warm = (w: number) => formatQuantity("heat", w, units, units === "metric" ? 0 : 2);
        const borders: [number, string][] = [
          [feeds.to / feedMPerS - 1, `drags faster than ${feed(feeds.to)}`],
          [1 - feeds.from / feedMPerS, `cuts wide slower than ${feed(feeds.from)}`],
          [heats.to / cut.powerWPerM - 1, `${heats.above === "smokes" ? "smokes" : "cuts wide"} above ${warm(heats.to)}`],
          [1 - heats.from / cut.powerWPerM, `drags below ${warm(heats.from)}`],
        ];
        const [nearest] = borders.sort((a, b) => a[0] - b[0]) as [[number, string]];
        expect(words(design, units)).toEqual({
          headline: `Clean. Heat margin ${Math.round(100 * (1 - heats.from / cut.powerWPerM))} %.`,
          detail: `Nearest limit: ${nearest[1]}.`,
        });
      }
  });
  it("drags, smokes, wide: what it gets and what it wants", () => {
    const drags = volts(10.5);
    const a = evaluateDesign(drags);
    expect(words(drags)).toEqual({
      headline: "Drags at 6.5 mm/s.",
      detail: `At this heat the wire melts freely up to ${(a.feeds.to * 1000).toFixed(1)} mm/s; faster, it bows and tears. It wants ${a.heats.from.toFixed(0)} W/m here and gets ${a.cut.powerWPerM.toFixed(0)} W/m.`,
    });
    const smokes = { ...gatepost(), control: { kind: "pwm", duty: 0.95 } } as Design;
    const b = evaluateDesign(smokes);
    expect(b.verdict).toBe("smokes");
    expect(words(smokes).headline).toBe("Smokes at 3.5 mm/s.");
    expect(words(smokes).detail).toContain(`the wire runs near ${formatQuantity("temperature", b.cut.wireC, "metric")}, past the fume limit of`);
    expect(words(smokes).detail).toContain(`This feed wants ${formatQuantity("heat", b.heats.to, "metric")} at most.`);
    const wide = at(2.4);
    const c = evaluateDesign(wide);
    if (c.verdict === "wide") expect(words(wide).headline).toBe(`Cuts wide: a kerf of ${(c.cut.kerfM * 1000).toFixed(2)} mm.`);
    expect(noCut(a)).toBeNull();
  });
});

describe("one hazard lifted by one change", () => {
  const block = (design: Design, code: string) => {
    const found = blocksOf(design).find(({ caution }) => caution.code === code);
    if (!found) throw new Error(`no ${code}`);
    return found.cure;
  };
  it("a frame too weak: less pull, in the steps tried, the largest that it withstands", () => {
    const weak = demo("Long Tom", {
      frame: { kind: "c-frame", throat_mm: 300, back_mm: 1300, material: "pvc", section: { shape: "tube", diameter_mm: 20, wall_mm: 2 } },
    });
    const codes = (hot_N: number) => evaluateDesign({ ...weak, tension: { ...weak.tension, hot_N } }).cautions.map(({ code }) => code);
    if (!codes(65).includes("frame-weak")) throw new Error("this frame is not weak");
    const eased = [52, 42, 33, 23].find((hot_N) => !codes(hot_N).includes("frame-weak"));
    const cured = block(weak, "frame-weak");
    if (eased === undefined) expect(cured).toBeNull();
    else {
      expect(cured?.words).toBe(`ease the tension to ${eased}.0 N`);
      expect(cured?.design.tension).toEqual({ ...weak.tension, hot_N: eased });
    }
  });
  it("a wire that breaks hot: just under what it withstands; one that breaks cold: something that gives, with the same pull", () => {
    const hot = demo("Gatepost", { tension: { device: "weight", hot_N: 80 } });
    const withstandsN = evaluateDesign(hot).tension.hotLimits.recommendedN;
    const eased = block(hot, "breaks-hot")?.design.tension.hot_N as number;
    expect(eased).toBeLessThan(withstandsN);
    expect(eased).toBeGreaterThan(withstandsN * 0.9);
    const cold = demo("Gatepost", { wire: { alloy: "ss-304", diameter_mm: 0.41, length_mm: 420 }, tension: { device: "turnbuckle", hot_N: 25 } });
    const given = block(cold, "breaks-cold");
    expect(given?.design.tension.hot_N).toBe(25);
    expect(["spring", "weight"]).toContain(given?.design.tension.device);
    expect(given?.words).toBe(given?.design.tension.device === "spring" ? "a soft spring in its place" : "a hanging weight in its place");
  });
  it("volts that must not be touched: sixty of direct current, fifty where it is chopped already below that", () => {
    const bench = demo("Long Tom", { supply: { kind: "bench", voltage_V: 80, current_A: 0.5 } });
    expect(block(bench, "touch-voltage")).toMatchObject({ words: "a supply of 60 V", design: { supply: { voltage_V: 60 } } });
    const chopped = demo("Gatepost", { supply: { kind: "dc", voltage_V: 55, maxCurrent_A: 8 }, control: { kind: "pwm", duty: 0.02 } });
    expect(block(chopped, "touch-voltage")).toMatchObject({ words: "a supply of 50 V", design: { supply: { voltage_V: 50 } } });
  });
  it("isolation not known, a live frame, current through the spring: each by its own word, nothing else changed", () => {
    for (const [wiring, code, words, fixed] of [
      [{ isolation: "unknown" }, "isolation-unknown", "take a supply that is marked as isolated", { isolation: "isolated" }],
      [{ insulatedPost: false }, "frame-live", "insulate one post", { insulatedPost: true }],
      [{ jumper: false }, "current-through-spring", "bridge the spring with a jumper", { jumper: true }],
    ] as const) {
      const design = demo("Long Tom", { wiring: { ...tom().wiring, ...wiring } });
      expect(isBlocked(design)).toBe(true);
      const found = block(design, code);
      expect(found?.words).toBe(words);
      expect(found?.design).toEqual({ ...design, wiring: { ...design.wiring, ...fixed } });
    }
    expect(isBlocked(tom())).toBe(false);
  });
});
