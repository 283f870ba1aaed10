import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { designSchema } from "../cutters/design/schema";
import { evaluateDesign, pairOf, settable, verdictOf, withSetting } from "../cutters/solve/evaluate";
import type { FoamSpec } from "../materials/foams";
import { cleanHeats } from "../physics/cut/cut";
import { cardRow, designFor, distinctFoams, foamKey } from "./settingCard";

const cutters = DEMO_CUTTERS.map((each) => designSchema.parse(each));
const [tom, gate] = cutters;
if (!tom || !gate) throw new Error("no demo");
const foams: FoamSpec[] = [
  { family: "eps", density_kg_m3: 15 },
  { family: "eps", density_kg_m3: 29 },
  { family: "xps", density_kg_m3: 35 },
  { family: "epp", density_kg_m3: 30 },
  { family: "pe", density_kg_m3: 25 },
];
const asks = fc.record({
  foam: fc.constantFrom(...foams),
  widthMm: fc.double({ min: 20, max: 1500, noNaN: true }),
  ambientC: fc.double({ min: -5, max: 40, noNaN: true }),
});

describe("the setting card", () => {
  it("for any request, a line it gives is clean when set, lies in its own clean band, and its kerf in its own kerf band", () => {
    fc.assert(
      fc.property(fc.constantFrom(...cutters), asks, (design, input) => {
        const row = cardRow(design, input);
        if (!row) return;
        expect(verdictOf(row.design)).toBe("clean");
        expect(row.kerfMm).toBeGreaterThanOrEqual(row.kerfBandMm.low);
        expect(row.kerfMm).toBeLessThanOrEqual(row.kerfBandMm.high);
        if (row.knob && row.settingBand) {
          expect(row.knob.value).toBe(settable(row.knob, row.knob.value));
          expect(row.knob.value).toBeGreaterThanOrEqual(row.settingBand.low - row.knob.step);
          expect(row.knob.value).toBeLessThanOrEqual(row.settingBand.high + row.knob.step);
        }
        expect(row.design.job.width_mm).toBe(input.widthMm);
        expect(row.design.wire.length_mm).toBeGreaterThanOrEqual(input.widthMm);
      }),
      { numRuns: 150 },
    );
  });

  it("a null means it: no setting of the knob at the feeds tried is clean", () => {
    const input = { foam: { family: "epp", density_kg_m3: 60 } as FoamSpec, widthMm: 300, ambientC: 20 };
    const weak = { ...gate, supply: { kind: "dc", voltage_V: 3, maxCurrent_A: 8 } as const };
    expect(cardRow(weak, input)).toBeNull();
    for (const share of [1, 0.6, 0.33, 1.7]) {
      for (let duty = 0; duty <= 1; duty += 0.1) {
        const { design } = designFor(weak, input);
        const tried = withSetting({ ...design, job: { ...design.job, feed_mm_s: Math.round(weak.job.feed_mm_s * share * 10) / 10 } }, duty);
        expect(verdictOf(tried)).not.toBe("clean");
      }
    }
  });

  it("is about a third of the way up the clean heats: cool, but not on the border (this project's judgement)", () => {
    for (const foam of foams.slice(0, 3)) {
      const row = cardRow(tom, { foam, widthMm: tom.job.width_mm, ambientC: tom.ambient_C });
      if (!row) throw new Error("no line");
      const heats = cleanHeats(pairOf(row.design), row.feedMmS / 1000, row.design.job.maxKerf_mm / 1000);
      const place = (row.heatWPerM - heats.from) / (heats.to - heats.from);
      expect(place).toBeGreaterThan(0.3);
      expect(place).toBeLessThan(0.4);
    }
  });

  it("denser foam wants a higher knob, a colder room too, and a wider block more volts in proportion to its wire", () => {
    const knob = (foam: FoamSpec, widthMm = 1100, ambientC = 16) => cardRow(tom, { foam, widthMm, ambientC })?.knob?.value ?? Number.NaN;
    const light: FoamSpec = { family: "eps", density_kg_m3: 15 };
    const dense: FoamSpec = { family: "eps", density_kg_m3: 29 };
    expect(knob(dense)).toBeGreaterThan(knob(light));
    expect(knob(light, 1100, 0)).toBeGreaterThan(knob(light, 1100, 35));
    const longer = designFor(tom, { foam: light, widthMm: 2000, ambientC: 16 });
    expect(longer.longerByMm).toBe(720);
    expect(knob(light, 2000) / knob(light, 1100)).toBeCloseTo(2020 / 1300, 1);
  });

  it("a foam's own measured figures stay with it and go with no other", () => {
    const measured = { ...tom, job: { ...tom.job, foam: { ...tom.job.foam, collapse_C: 101, weighed: true } } };
    const same = designFor(measured, { foam: { family: "eps", density_kg_m3: 18 }, widthMm: 500, ambientC: 20 }).design;
    const other = designFor(measured, { foam: { family: "eps", density_kg_m3: 22 }, widthMm: 500, ambientC: 20 }).design;
    expect(same.job.foam).toEqual(measured.job.foam);
    expect(other.job.foam).toEqual({ family: "eps", density_kg_m3: 22 });
    expect(evaluateDesign(other).pair.foam.collapseC).toBe(108);
  });

  it("names each foam once, the first of each kept, up to a number", () => {
    const many = [...foams, ...foams, { family: "eps", density_kg_m3: 16 } as FoamSpec];
    expect(distinctFoams(many, 10).map(foamKey)).toEqual(["eps-15", "eps-29", "xps-35", "epp-30", "pe-25", "eps-16"]);
    expect(distinctFoams(many, 2)).toHaveLength(2);
  });
});
