import { describe, expect, it } from "vitest";
import { VERBS } from "@/cli/verbs";
import { BENCH_DEFAULTS, BenchWorld } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designSchema } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";

const bench = VERBS.find((row) => row.name === "bench");
interface Ran {
  time_s: number[];
  force_N: number[];
  air_C: number[];
  current_A: number[];
  through: boolean;
  trips: number;
  lag_mm: number;
  power_W_per_m: number;
  broken: boolean;
  energyImbalance: number;
  face: {
    overall: string;
    kerf_mm: number;
    groove_mm: number;
    error_mm: number;
    hook_mm: number | null;
    stretches: { from_mm: number; to_mm: number; face: string }[];
  } | null;
}
const run = (input: object) => bench?.run({ design: DEMO_CUTTERS[1], ...input }, "") as Ran;
const cut = (feed_mm_s: number, more: object = {}) =>
  run({
    block_mm: 60,
    steps: [
      { seconds: 10, heat: true, knob: 0.35 },
      { seconds: 90 / feed_mm_s, hand: { mode: "pace", feed_mm_s } },
    ],
    ...more,
  });

describe("the bench by command line", () => {
  it("runs a script: warms, cuts, comes out, and its energy closes; the same script twice is the same cut", () => {
    const first = cut(5);
    expect(first).toMatchObject({ through: true, trips: 0, face: { overall: "matt" } });
    expect(Math.abs(first.energyImbalance)).toBeLessThan(1e-9);
    expect(first.time_s.length).toBe(first.force_N.length);
    expect(first.time_s.every((time, i) => i === 0 || time > (first.time_s[i - 1] ?? 0))).toBe(true);
    expect(cut(5)).toEqual(first);
    expect(cut(5, { seed: 2 }).force_N).not.toEqual(first.force_N);
  });

  it("its figures in millimetres are the bench's own report of the same script", () => {
    const design = designSchema.parse(DEMO_CUTTERS[1]);
    const result = cut(9);
    const world = new BenchWorld(design, { ...BENCH_DEFAULTS, block_mm: 60 });
    world.heat(true);
    world.turn(0.35);
    world.run(10);
    world.hand({ mode: "pace", mPerS: 0.009 });
    world.run(10);
    const report = world.report();
    const face = report.face as NonNullable<typeof report.face>;
    expect(result).toMatchObject({ through: report.through, broken: report.broken, trips: report.trips });
    expect(result.lag_mm).toBeCloseTo(report.mostLagM * 1000, 9);
    expect(result.lag_mm).toBeGreaterThan(0.05);
    expect(result.power_W_per_m).toBeCloseTo(report.heatWPerM, 9);
    expect(result.face).toEqual({
      overall: face.overall,
      kerf_mm: expect.closeTo(face.kerfM.mean * 1000, 9),
      groove_mm: expect.closeTo(face.grooveM * 1000, 9),
      error_mm: expect.closeTo(face.errorM * 1000, 9),
      hook_mm: null,
      stretches: face.stretches.map(({ fromM, toM, face: look }) => ({
        from_mm: expect.closeTo(fromM * 1000, 9),
        to_mm: expect.closeTo(toM * 1000, 9),
        face: look,
      })),
    });
    expect(result.face?.kerf_mm).toBeGreaterThan(0.2);
    expect(result.face?.stretches.at(-1)?.to_mm).toBeGreaterThan(20);
  });

  it("faster trails more; a corner without a rest hooks, with one it does not", () => {
    expect(cut(9).lag_mm).toBeGreaterThan(cut(4).lag_mm);
    const cornered = (rest: number) =>
      run({
        design: { ...DEMO_CUTTERS[0], job: { ...DEMO_CUTTERS[0]?.job, foam: { family: "xps", density_kg_m3: 29 } } },
        corner_mm: 40,
        even: true,
        steps: [
          { seconds: 25, heat: true },
          { seconds: (12 + 40) / 4, hand: { mode: "pace", feed_mm_s: 4 } },
          { seconds: rest, hand: { mode: "still" } },
          { seconds: 40, hand: { mode: "pace", feed_mm_s: 4 } },
        ],
      }).face?.hook_mm ?? 99;
    expect(cornered(0.05)).toBeGreaterThan(2);
    expect(cornered(6)).toBeLessThan(0.4 * cornered(0.05));
  });

  it("a push settles where drag balances it, and cold foam does not give way", () => {
    const pushed = (knob: number) =>
      run({
        steps: [
          { seconds: 10, heat: true, knob },
          { seconds: 20, hand: { mode: "push", push_N: 0.4 } },
        ],
      });
    expect(pushed(0.4).force_N.at(-1)).toBeGreaterThanOrEqual(0);
    expect(pushed(0.4).through).toBe(true);
    expect(pushed(0).through).toBe(false);
    expect(pushed(0).force_N.at(-1)).toBeCloseTo(0.4, 1);
  });

  it.each([
    [{ steps: [] }, "out-of-range", "steps"],
    [{ steps: [{ seconds: 0 }] }, "out-of-range", "steps.0.seconds"],
    [{ steps: [{ seconds: 1, hand: { mode: "throw" } }] }, "not-one-of", "steps.0.hand.mode"],
    [{ steps: [{ seconds: 1, hand: { mode: "pace", feed_mm_s: -2 } }] }, "out-of-range", "steps.0.hand.feed_mm_s"],
    [{ steps: [{ seconds: 1, hand: { mode: "pace", push_N: 2 } }] }, "missing-key", "steps.0.hand.feed_mm_s"],
    [{ steps: [{ seconds: 3600 }, { seconds: 3600 }] }, "out-of-range", "steps"],
    [{ block_mm: 5, steps: [{ seconds: 1 }] }, "out-of-range", "block_mm"],
    [{ design: { ...DEMO_CUTTERS[1], name: "" }, steps: [{ seconds: 1 }] }, "out-of-range", "design.name"],
    [{ design: { ...DEMO_CUTTERS[1], supply: { kind: "mains" } }, steps: [{ seconds: 1 }] }, "lethal", "design.supply.kind"],
    [{ design: { ...DEMO_CUTTERS[1], control: { kind: "clip", live_mm: 400 } }, steps: [{ seconds: 1, knob: 300 }] }, "conflict", "steps.0.knob"],
  ])("refuses %j", (input, code, path) => {
    try {
      run(input);
    } catch (error) {
      expect(error).toBeInstanceOf(CoreError);
      expect(error).toMatchObject({ code, path });
      return;
    }
    throw new Error("it was taken");
  });
});
