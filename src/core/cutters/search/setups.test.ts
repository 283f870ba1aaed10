import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CoreError } from "../../kernel/errors";
import { parseOrThrow } from "../../kernel/parse";
import { parseFoamId, resolveFoam } from "../../materials/foams";
import { cutAtCurrent } from "../../physics/cut/cut";
import { resolveWire } from "../../physics/heat/wire";
import { solveCircuit } from "../../physics/power/circuit";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { migrateDesign } from "../design/fileFormat";
import { type Design, designSchema } from "../design/schema";
import { evaluateDesign, knobOf, settingForHeat, withSetting } from "../solve/evaluate";
import { knobCurve } from "../solve/knobCurve";
import { searchSetups } from "./search";

const [longTom, gatepost, , marionette] = DEMO_CUTTERS as [Design, Design, Design, Design];
const transformer: Design["supply"] = { kind: "transformer", voltage_Vrms: 24, rating_VA: 150, internal_ohm: 0.4 };
const KNOBBED: readonly Design[] = [
  longTom,
  gatepost,
  { ...gatepost, control: { kind: "buck", voltage_V: 7 } },
  { ...gatepost, control: { kind: "rheostat", ohm: 2.2 } },
  { ...gatepost, control: { kind: "clip", live_mm: 400 } },
  { ...gatepost, supply: transformer, control: { kind: "phase", delay_deg: 110 } },
  { ...gatepost, supply: transformer, control: { kind: "tap", fraction: 0.4 } },
  { ...marionette, supply: { kind: "battery", chemistry: "lead-acid", cells: 12, capacity_Ah: 7 }, control: { kind: "pwm", duty: 0.5 } },
];

describe("the knob", () => {
  it("solving a solved set-up returns itself: the heat it gives asks for the setting it has", () => {
    for (const design of KNOBBED) {
      const knob = knobOf(design);
      const evaluation = evaluateDesign(design);
      const back = settingForHeat(design, evaluation.cut.powerWPerM) as number;
      expect(Math.abs(back - (knob?.value as number)) / (knob?.value as number), design.control.kind).toBeLessThan(1e-4);
      const again = evaluateDesign(withSetting(design, back));
      expect(again.cut.powerWPerM / evaluation.cut.powerWPerM).toBeCloseTo(1, 4);
    }
  });

  it("its curve runs one way, passes through the present setting and marks the clean band the heats name", () => {
    for (const design of KNOBBED) {
      const curve = knobCurve(design);
      if (!curve) throw new Error("no curve");
      const heats = curve.points.map((point) => point.heatWPerM);
      for (let i = 1; i < heats.length; i++) {
        const step = (heats[i] as number) - (heats[i - 1] as number);
        expect(curve.knob.rising ? step : -step).toBeGreaterThan(-1e-6);
      }
      const { heats: wanted } = evaluateDesign(design);
      if (!curve.clean) continue;
      for (const setting of [curve.clean.from, curve.clean.to]) {
        const heat = evaluateDesign(withSetting(design, setting)).cut.powerWPerM;
        expect(heat).toBeGreaterThan(wanted.from * 0.93);
        expect(heat).toBeLessThan(wanted.to * 1.07);
      }
      expect(curve.stepsInClean).toBeGreaterThan(0);
      expect(curve.coarsestWPerM).toBeGreaterThan(0);
    }
    expect(knobCurve({ ...gatepost, control: { kind: "direct" } })).toBeNull();
  });
});

describe("physics runs one way", () => {
  const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const wire = resolveWire({ alloy: "nicr-80-20", gauge_awg: 26 });
  const pair = { wire, foam: resolveFoam(parseFoamId("eps-20")), ambientC: 20 };
  const volts = (lengthM: number) =>
    solveCircuit({ wire, lengthM, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 50 }, control: { kind: "direct" }, ambientC: 20 });

  it("more current never cools; a longer wire on fixed volts never heats; faster never widens the kerf", () => {
    fc.assert(
      fc.property(real(0.2, 4), real(0.001, 1), real(0.5, 20), real(0.1, 5), (amps, more, feed, faster) => {
        const [low, high] = [cutAtCurrent(pair, feed / 1000, amps), cutAtCurrent(pair, feed / 1000, amps + more)];
        expect(high.wireC).toBeGreaterThanOrEqual(low.wireC);
        expect(high.kerfM).toBeGreaterThanOrEqual(low.kerfM);
        expect(cutAtCurrent(pair, (feed + faster) / 1000, amps).kerfM).toBeLessThanOrEqual(low.kerfM * (1 + 1e-9));
      }),
      { numRuns: 400 },
    );
    fc.assert(
      fc.property(real(0.2, 3), real(0.001, 1), (lengthM, longer) => volts(lengthM + longer).wireC <= volts(lengthM).wireC + 1e-9),
      { numRuns: 200 },
    );
  });
});

describe("refusals", () => {
  /** Every number in a design, by path. */
  const numbers = (value: unknown, path: (string | number)[] = []): (string | number)[][] =>
    typeof value === "number"
      ? [path]
      : value && typeof value === "object"
        ? Object.entries(value).flatMap(([key, item]) => numbers(item, [...path, key]))
        : [];
  const put = (design: Design, path: (string | number)[], value: unknown): unknown => {
    const copy = structuredClone(design) as unknown as Record<string, unknown>;
    let at: Record<string, unknown> = copy;
    for (const step of path.slice(0, -1)) at = at[step] as Record<string, unknown>;
    at[path.at(-1) as string] = value;
    return copy;
  };
  const corrupt = fc.constantFrom<unknown>(Number.NaN, Number.POSITIVE_INFINITY, -1e9, 1e12, "12", null, true, [], {});

  it("every design with one spoilt figure is refused, by the figure's own name", () => {
    fc.assert(
      fc.property(fc.constantFrom(...KNOBBED), fc.nat(), corrupt, (design, pick, bad) => {
        // A fuse may be none: that is no spoilt figure.
        const paths = numbers(design).filter((path) => path[0] !== "version" && path.at(-1) !== "fuse_A");
        const path = paths[pick % paths.length] as (string | number)[];
        try {
          migrateDesign(put(design, path, bad));
        } catch (error) {
          if (!(error instanceof CoreError)) throw error;
          // Spoiling a wire's one size may be said of the wire as a whole.
          expect(path.join(".").startsWith(error.path) && error.path !== "").toBe(true);
          expect(error.message.length).toBeGreaterThan(10);
          return;
        }
        throw new Error(`${path.join(".")} = ${String(bad)} was let through`);
      }),
      { numRuns: 2500 },
    );
  });

  it("every design with an unknown key anywhere is refused, naming it", () => {
    const objects = (value: unknown, path: string[] = []): string[][] =>
      value && typeof value === "object" ? [path, ...Object.entries(value).flatMap(([key, item]) => objects(item, [...path, key]))] : [];
    for (const design of KNOBBED) {
      for (const path of objects(design)) {
        const bad = put(design, [...path, "surprise"], 1);
        expect(() => parseOrThrow(designSchema, bad), path.join(".")).toThrow(/surprise is not a known key/);
      }
    }
  });
});

describe("schools and prices", () => {
  const job = { foam: resolveFoam(parseFoamId("xps-35")), widthM: 0.6, feedMPerS: 0.004, acceptedKerfM: 0.0025, bowM: 0.72, ambientC: 20 };

  it("says what keeping to each alloy costs, the best first and behind by nothing", () => {
    const { schools, candidates } = searchSetups(job);
    expect(schools).toHaveLength(7);
    expect(schools[0]?.best?.wire).toEqual(candidates[0]?.wire);
    schools.forEach((school, i) => {
      expect(school.behind).toBeGreaterThanOrEqual(schools[i - 1]?.behind ?? 0);
      expect(school.words.length).toBeGreaterThan(5);
      if (school.best) {
        const alone = searchSetups(job, [school.best.wire]);
        expect(alone.candidates[0]?.score).toBe(Math.round(school.best.score));
      }
    });
  });

  it("where points tie the cheaper goes first and says so; without a price none is made up", () => {
    const supplies = [
      { kind: "bench", voltage_V: 30, current_A: 5 },
      { kind: "bench", voltage_V: 30, current_A: 5 },
    ] as const;
    const wires = [{ alloy: "nicr-80-20", gauge_awg: 26 }];
    const priced = searchSetups(job, wires, supplies, ["direct"], { wires: [2], supplies: [80, 30] });
    // One row for the wire: the cheaper supply heads it.
    expect(priced.candidates.map((candidate) => candidate.price)).toEqual([2 * 0.72 + 30]);
    expect(priced.candidates[0]?.also).toHaveLength(1);
    expect(searchSetups(job, wires, supplies, ["direct"]).candidates.map((candidate) => candidate.price)).toEqual([null]);
  });

  it("leads too thin for any fuse rule a set-up out, and say so", () => {
    const thin = searchSetups(
      { ...job, leadGaugeAwg: 26 },
      [{ alloy: "nicr-80-20", gauge_awg: 22 }],
      [{ kind: "bench", voltage_V: 30, current_A: 10 }],
      ["direct"],
    );
    expect(thin.candidates).toEqual([]);
    expect(thin.rejected[0]?.reason).toMatch(/thicker leads/);
  });
});
