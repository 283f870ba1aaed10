import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../../tests/helpers/headless";
import { resolveFoam } from "../../materials/foams";
import { bareWireAtTemperature, bareWireDriven } from "../heat/bareWire";
import { halfKerf } from "../heat/movingLineSource";
import { massKgPerM, resistanceOhmPerM, resolveWire } from "../heat/wire";
import { type CutPair, cleanFeeds, cutAtCurrent, cutAtPower, diffusivity, heatInKerf, judgeCut, leastKerfM, movedCollapseC, referenceDragNPerM } from "./cut";
import { cornerDwell, midSpanLag } from "./lag";
import { besidesComputed, calibratedPair } from "./learnt";
import { cutBands } from "./uncertainty";
import { CUT_VERBS } from "./verbs";

type Result = Record<string, number> & { verdict: string; warnings: { code: string }[] };
const { runVerb: askFor, refusal } = headlessOf(CUT_VERBS);
const runVerb = (name: string, input: object) => askFor(name, input) as Result;
const requested = <T>(name: string, input: object) => runVerb(name, input) as unknown as T;

const wire = { alloy: "nicr-80-20", diameter_mm: 0.635 };
const pair: CutPair = { wire: resolveWire(wire), foam: resolveFoam({ family: "xps", density_kg_m3: 35 }), ambientC: 20 };
const job = { wire, foam: "xps-35", ambient_C: 20 };
const { foam } = pair;

describe("a cut by command line, in a script's own units", () => {
  it("cut: kerf by the moving line of heat, top feed where the kerf clears wire and skin, drag x/(1 - x)", () => {
    const result = runVerb("cut", { ...job, feed_mm_s: 4, power_W_per_m: 70 });
    const theta = (2 * Math.PI * foam.conductivityWMK * (foam.collapseC - 20)) / 70;
    const product = 4 * (foam.conductivityWMK / (foam.densityKgM3 * (foam.specificHeatJKgK + foam.latentJKg / (foam.collapseC - 20)))) * halfKerf(theta);
    expect(result.kerf_mm).toBeCloseTo((product / 0.004) * 1000, 9);
    const least = 0.635e-3 + 7e-6 * 35;
    expect(leastKerfM(pair)).toBeCloseTo(least, 12);
    expect(result.maxFeed_mm_s).toBeCloseTo((product / least) * 1000, 9);
    const x = 4 / (result.maxFeed_mm_s as number);
    expect(result.feedRatio).toBeCloseTo(x, 12);
    const reference = 0.015 * 0.635e-3 * foam.strength10Pa;
    expect(referenceDragNPerM(pair)).toBeCloseTo(reference, 9);
    expect(result.drag_N_per_m).toBeCloseTo((reference * x) / (1 - x), 9);
    expect(result.power_W_per_m).toBe(70);
    expect(result.wireTemperature_C).toBeCloseTo(cutAtPower(pair, 0.004, 70).wireC, 9);
    const current = runVerb("cut", { ...job, feed_mm_s: 4, current_A: 4 });
    const same = cutAtCurrent(pair, 0.004, 4);
    expect([current.kerf_mm, current.power_W_per_m]).toEqual([same.kerfM * 1000, same.powerWPerM]);
    expect(current.power_W_per_m).toBeCloseTo(16 * resistanceOhmPerM(pair.wire, current.wireTemperature_C as number), 6);
    expect(refusal("cut", { ...job, feed_mm_s: 4 })).not.toBe("was not refused");
  });

  it("cut: what is accepted as wide is asked in millimetres; past the top feed there is no drag, and no melting is said", () => {
    const kerf = runVerb("cut", { ...job, feed_mm_s: 4, power_W_per_m: 70 }).kerf_mm as number;
    expect(runVerb("cut", { ...job, feed_mm_s: 4, power_W_per_m: 70, maxKerf_mm: kerf * 1.01 }).verdict).toBe("clean");
    expect(runVerb("cut", { ...job, feed_mm_s: 4, power_W_per_m: 70, maxKerf_mm: kerf * 0.99 }).verdict).toBe("wide");
    const past = runVerb("cut", { ...job, feed_mm_s: 40, power_W_per_m: 70 });
    expect([past.drag_N_per_m, past.verdict]).toEqual([null, "drags"]);
    expect(past.warnings.map(({ code }) => code)).toEqual(expect.arrayContaining(["above-top-feed", "gap-closed"]));
    const cold = runVerb("cut", { ...job, feed_mm_s: 0.5, power_W_per_m: 0.6 });
    expect([cold.verdict, cold.warnings.map(({ code }) => code).includes("no-melt")]).toEqual(["drags", true]);
    expect(runVerb("cut", { ...job, feed_mm_s: 4, power_W_per_m: 70 })).not.toHaveProperty("warnings");
  });

  it("judges in order: drags, smokes, wide, and each at its own border", () => {
    const judge = (ratio: number, wireC: number, kerfM: number) => judgeCut(ratio, wireC, kerfM, foam, 2e-3);
    expect(judge(0.85, 200, 1e-3)).toBe("clean");
    expect(judge(0.99, 1000, 9e-3)).toBe("drags");
    expect(judge(0.2, foam.collapseC, 9e-3)).toBe("drags");
    expect(judge(0.2, foam.collapseC + 0.1, 1e-3)).toBe("clean");
    expect(judge(0.2, foam.fumeLimitC + 0.1, 9e-3)).toBe("smokes");
    expect(judge(0.2, foam.fumeLimitC, 9e-3)).toBe("wide");
    expect(judge(0.2, 200, 2e-3)).toBe("clean");
  });

  it("band: the same figures as the models', in millimetres; open upward is null", () => {
    const result = requested<Record<string, { low: number; mid: number; high: number | null }> & { cleanShare: number }>("band", {
      ...job,
      feed_mm_s: 4,
      power_W_per_m: 70,
    });
    const bands = cutBands(pair, 0.004, { powerWPerM: 70 }, 2.5e-3);
    for (const [name, band, scale] of [
      ["kerf_mm", bands.kerfM, 1000],
      ["maxFeed_mm_s", bands.maxFeedMPerS, 1000],
      ["wireTemperature_C", bands.wireC, 1],
      ["drag_N_per_m", bands.dragNPerM, 1],
      ["cleanFrom_mm_s", bands.cleanFromMPerS, 1000],
      ["cleanTo_mm_s", bands.cleanToMPerS, 1000],
    ] as const) {
      expect([name, result[name]?.mid]).toEqual([name, expect.closeTo((band?.mid as number) * scale, 9)]);
      expect(result[name]?.low).toBeCloseTo((band?.low as number) * scale, 9);
      expect((result[name]?.low as number) <= (result[name]?.mid as number)).toBe(true);
    }
    expect(result.cleanShare).toBe(bands.cleanShare);
    const fast = (runVerb("cut", { ...job, feed_mm_s: 4, power_W_per_m: 70 }).maxFeed_mm_s as number) * 0.99;
    expect(requested<typeof result>("band", { ...job, feed_mm_s: fast, power_W_per_m: 70 }).drag_N_per_m?.high).toBeNull();
    const byCurrent = requested<typeof result>("band", { ...job, feed_mm_s: 4, current_A: 4 });
    expect(byCurrent.kerf_mm?.mid).toBeCloseTo((cutBands(pair, 0.004, { currentA: 4 }, 2.5e-3).kerfM?.mid as number) * 1000, 9);
  });

  it("map: rows of heat, columns of feed, each cell the cut itself", () => {
    const map = requested<{ kerf_mm: number[][]; verdict: string[][]; maxFeed_mm_s: number[] }>("map", {
      ...job,
      power_W_per_m: [40, 80, 3],
      feed_mm_s: [2, 8, 4],
      maxKerf_mm: 1.5,
    });
    expect([map.kerf_mm.length, map.kerf_mm[0]?.length, map.maxFeed_mm_s.length]).toEqual([3, 4, 3]);
    [40, 60, 80].forEach((power, row) => {
      [2, 4, 6, 8].forEach((feed, column) => {
        const cut = cutAtPower(pair, feed / 1000, power, 1.5e-3);
        expect((map.kerf_mm[row]?.[column] as number) / (cut.kerfM * 1000)).toBeCloseTo(1, 5);
        expect(map.verdict[row]?.[column]).toBe(cut.verdict);
        expect((map.maxFeed_mm_s[row] as number) / (cut.maxFeedMPerS * 1000)).toBeCloseTo(1, 5);
      });
    });
    expect(refusal("map", { ...job, power_W_per_m: [40, 80, 0], feed_mm_s: [2, 8, 4] })).toBe("power_W_per_m.2");
    expect(refusal("map", { ...job, power_W_per_m: [40, 80, 2], feed_mm_s: [2, 8] })).toBe("feed_mm_s");
  });

  it("lag: the taut string's bow q L^2/8T, its wait, and none of either past the top feed", () => {
    const input = { ...job, span_mm: 1220, tension_N: 66.7, feed_mm_s: 4, power_W_per_m: 70 };
    const result = runVerb("lag", input);
    const cut = cutAtPower(pair, 0.004, 70);
    const bow = ((cut.dragNPerM as number) * 1.22 ** 2) / (8 * 66.7);
    expect(result.lag_mm).toBeCloseTo(bow * 1000, 9);
    const tau = (referenceDragNPerM(pair) * 1.22 ** 2) / (8 * 66.7 * cut.maxFeedMPerS);
    expect(result.relaxation_s).toBeCloseTo(tau, 9);
    expect(result.dwell_s).toBeCloseTo((bow - 0.2e-3) / cut.maxFeedMPerS + tau * Math.log(bow / 0.2e-3), 9);
    expect([result.drag_N_per_m, result.maxFeed_mm_s, result.verdict]).toEqual([cut.dragNPerM, cut.maxFeedMPerS * 1000, cut.verdict]);
    expect(result).not.toHaveProperty("time_s");
    expect(runVerb("lag", { ...input, tolerance_mm: bow * 1000 }).dwell_s).toBe(0);
    // By current the same cut.
    expect(runVerb("lag", { ...input, power_W_per_m: undefined, current_A: 4 }).drag_N_per_m).toBeCloseTo(cutAtCurrent(pair, 0.004, 4).dragNPerM as number, 9);
    const past = runVerb("lag", { ...input, feed_mm_s: 40 });
    expect([past.lag_mm, past.dwell_s, past.drag_N_per_m]).toEqual([null, null, null]);
    expect(past.relaxation_s).toBeGreaterThan(0);
    // With its course: from the bow down to what is tolerated, in about the time that is stated.
    const course = requested<{ time_s: number[]; middle_mm: number[] }>("lag", { ...input, course: true });
    expect(course.middle_mm[0]).toBeCloseTo(bow * 1000, 9);
    expect(course.middle_mm.at(-1)).toBeLessThanOrEqual(0.2);
    expect((course.time_s.at(-1) as number) / (result.dwell_s as number)).toBeGreaterThan(0.75);
    expect((course.time_s.at(-1) as number) / (result.dwell_s as number)).toBeLessThan(1.25);
    expect(runVerb("lag", { ...input, course: true, tolerance_mm: bow * 1000 + 1 })).not.toHaveProperty("time_s");
    expect(midSpanLag(100, 1, 1, 10).warnings.map(({ code }) => code)).toEqual(["lag-out-of-range"]);
    expect(midSpanLag(1, 1, 0.5, 10)).toEqual({ lagM: expect.closeTo((1 * 0.5 * 1.5) / 80, 12), warnings: [] });
    expect(cornerDwell({ lagM: 1e-3, toleranceM: 1e-3, maxFeedMPerS: 0.01, referenceDragNPerM: 1, spanM: 1, tensionN: 50 }).dwellS).toBe(0);
  });

  it("pull: the speed at which drag balances it, v = v_max F/(F + F_ref w), and back", () => {
    const input = { ...job, width_mm: 1200, power_W_per_m: 70 };
    const { maxFeedMPerS } = cutAtPower(pair, 1, 70);
    const result = runVerb("pull", { ...input, pull_N: 2.8 });
    const feed = (maxFeedMPerS * 2.8) / (2.8 + referenceDragNPerM(pair) * 1.2);
    expect(result.feed_mm_s).toBeCloseTo(feed * 1000, 9);
    expect([result.pull_N, result.maxFeed_mm_s]).toEqual([2.8, expect.closeTo(maxFeedMPerS * 1000, 9)]);
    const cut = cutAtPower(pair, feed, 70);
    expect([result.kerf_mm, result.verdict]).toEqual([expect.closeTo(cut.kerfM * 1000, 9), cut.verdict]);
    expect(runVerb("pull", { ...input, feed_mm_s: result.feed_mm_s }).pull_N).toBeCloseTo(2.8, 9);
    expect(runVerb("pull", { ...input, feed_mm_s: maxFeedMPerS * 1000 * 1.1 }).pull_N).toBeNull();
    expect(runVerb("pull", { ...input, pull_N: 0.05 }).feed_mm_s).toBeLessThan(0.1 * (result.feed_mm_s as number));
    // More pull comes closer to the top feed and never reaches it.
    expect(runVerb("pull", { ...input, pull_N: 2000 }).feed_mm_s).toBeLessThan(result.maxFeed_mm_s as number);
  });

  it("entry: the bite is the stored heat over what a metre of cut takes, in millimetres", () => {
    const result = requested<{
      kerf_mm: number[];
      time_s: number[];
      settles_s: number;
      settles_mm: number;
      bite_mm: number;
      bare_C: number;
      settled_C: number;
      settledKerf_mm: number;
      mouth_mm: number;
    }>("entry", { ...job, feed_mm_s: 4, current_A: 4 });
    const bareC = bareWireDriven(pair.wire, { currentA: 4 }, { ambientC: 20 }).temperatureC;
    const steady = heatInKerf(pair, 0.004, 4);
    expect([result.bare_C, result.settled_C]).toEqual([expect.closeTo(bareC, 9), expect.closeTo(steady.wireC, 9)]);
    const capacity = massKgPerM(pair.wire) * pair.wire.alloy.specificHeatJKgK;
    expect(result.bite_mm).toBeCloseTo(((capacity * (bareC - steady.wireC) * 0.004) / steady.powerWPerM) * 1000, 9);
    expect(result.settledKerf_mm).toBeCloseTo(cutAtPower(pair, 0.004, steady.powerWPerM).kerfM * 1000, 9);
    expect(result.mouth_mm).toBe(Math.max(...result.kerf_mm));
    expect(result.mouth_mm).toBeGreaterThan(result.settledKerf_mm);
    expect(result.kerf_mm.at(-1)).toBeCloseTo(result.settledKerf_mm, 1);
    expect(result.settles_mm).toBeCloseTo(result.settles_s * 4, 9);
    expect(result.settles_s).toBeLessThan(result.time_s.at(-1) as number);
    // Settled means within a twentieth from then on.
    result.time_s.forEach((at, i) => {
      if (at > result.settles_s + 1e-9) expect(Math.abs((result.kerf_mm[i] as number) / result.settledKerf_mm - 1)).toBeLessThanOrEqual(0.05);
    });
    expect(refusal("entry", { ...job, feed_mm_s: 60, current_A: 4 })).toBe("feed_mm_s");
  });

  const bar = { wire: { alloy: "nicr-80-20", gauge_awg: 26 }, length_mm: 720, ambient_C: 20 };
  type Along = { position_mm: number[]; temperature_C: number[]; hottest_mm: number; coldEnds_mm: number; warnings?: unknown } & Record<string, number>;

  it("axial: far from its clamps a bare wire is where air alone would have it; what it makes is what it gives", () => {
    const result = requested<Along>("axial", { ...bar, current_A: 2, cells: 200 });
    const wireHere = resolveWire({ alloy: "nicr-80-20", gauge_awg: 26 });
    const bareC = bareWireDriven(wireHere, { currentA: 2 }, { ambientC: 20 }).temperatureC;
    expect(result.temperature_C[100]).toBeCloseTo(bareC, 0);
    expect(result.hottest_C).toBeCloseTo(bareC, 0);
    expect(result.position_mm[0]).toBeGreaterThan(0);
    expect(result.position_mm.at(-1) as number).toBeLessThan(720);
    expect(
      (result.generated_W as number) /
        ((result.toAir_W as number) + (result.toFoam_W as number) + (result.toEdges_W as number) + (result.toClamps_W as number)),
    ).toBeCloseTo(1, 5);
    expect([result.toFoam_W, result.toEdges_W]).toEqual([0, 0]);
    expect(result.coldEnds_mm).toBeGreaterThan(1);
    expect(result.coldEnds_mm).toBeLessThan(150);
    // Clamps that are themselves hot leave no cold ends; a metal edge takes heat where it lies.
    const warm = requested<Along>("axial", { ...bar, current_A: 2, cells: 200, clamp_C: bareC });
    expect(Math.abs(warm.toClamps_W as number)).toBeLessThan(0.01 * (result.toClamps_W as number));
    const edged = requested<Along>("axial", { ...bar, current_A: 2, cells: 200, edges: [{ at_mm: 360, thickness_mm: 2, material: "aluminium" }] });
    expect(edged.toEdges_W).toBeGreaterThan(0.05);
    expect(edged.temperature_C[100] as number).toBeLessThan(bareC - 20);
    expect(requested<Along>("axial", { ...bar, current_A: 9 })).toHaveProperty("warnings");
    expect(result).not.toHaveProperty("warnings");
  });

  it("axial: foam from here to there, all of the wire by default; refused where it does not lie on the wire", () => {
    const foamed = { ...bar, current_A: 2, cells: 200, foam: "eps-20", feed_mm_s: 6 };
    const part = requested<Along>("axial", { ...foamed, from_mm: 60, to_mm: 660 });
    const all = requested<Along>("axial", foamed);
    expect(part.toFoam_W).toBeLessThan(all.toFoam_W as number);
    expect(all.toFoam_W).toBeGreaterThan(5);
    expect((part.toFoam_W as number) / 600).toBeCloseTo((all.toFoam_W as number) / 720, 2);
    expect(part.hottest_C).toBeGreaterThan(part.meanInFoam_C as number);
    expect(part.hottest_mm < 60 || part.hottest_mm > 660).toBe(true);
    const settled = heatInKerf(
      { wire: resolveWire({ alloy: "nicr-80-20", gauge_awg: 26 }), foam: resolveFoam({ family: "eps", density_kg_m3: 20 }), ambientC: 20 },
      0.006,
      2,
    );
    expect(part.temperature_C[100]).toBeCloseTo(settled.wireC, 0);
    expect(refusal("axial", { ...foamed, feed_mm_s: undefined })).toBe("feed_mm_s");
    expect(refusal("axial", { ...foamed, to_mm: 721 })).toBe("to_mm");
    expect(refusal("axial", { ...foamed, to_mm: 720 })).toBe("was not refused");
    expect(refusal("axial", { ...foamed, from_mm: 300, to_mm: 300 })).toBe("from_mm");
    expect(refusal("axial", { ...foamed, cells: 9 })).toBe("cells");
  });

  it("transient: books what flows, warms to where steady stands, and asks for foam where a phase is in it", () => {
    const phases = [{ seconds: 60, current_A: 2 }];
    const result = requested<{ time_s: number[]; middle_C: number[]; phaseEnd_C: number[][]; position_mm: number[] } & Record<string, number>>("transient", {
      ...bar,
      cells: 60,
      phases,
    });
    const steady = requested<Along>("axial", { ...bar, cells: 60, current_A: 2 });
    expect(result.time_s.at(-1)).toBeCloseTo(60, 6);
    expect(result.middle_C[0]).toBeCloseTo(20, 6);
    expect(result.middle_C.at(-1)).toBeCloseTo(steady.hottest_C as number, 0);
    expect(result.phaseEnd_C).toHaveLength(1);
    expect(result.position_mm[0]).toBeCloseTo(steady.position_mm[0] as number, 9);
    const given =
      (result.toAir_J as number) + (result.toFoam_J as number) + (result.toEdges_J as number) + (result.toClamps_J as number) + (result.stored_J as number);
    expect(given / (result.generated_J as number)).toBeCloseTo(1, 5);
    expect(refusal("transient", { ...bar, phases: [{ seconds: 1, current_A: 2, inFoam: true }] })).toBe("foam");
    expect(refusal("transient", { ...bar, phases: [] })).toBe("phases");
    // The foam's place is the mean of what lies in it, the wire's middle where no foam is given; kept in no more rows than are read.
    const placed = requested<typeof result & { foamPlace_C: number[] }>("transient", {
      ...bar,
      cells: 60,
      foam: "eps-20",
      feed_mm_s: 6,
      from_mm: 100,
      to_mm: 260,
      phases: [{ seconds: 3, current_A: 2, inFoam: true }],
    });
    const within = (placed.phaseEnd_C[0] as number[]).filter((_, i) => (placed.position_mm[i] as number) >= 100 && (placed.position_mm[i] as number) <= 260);
    expect(within.length).toBeGreaterThan(8);
    expect(placed.foamPlace_C.at(-1)).toBeCloseTo(within.reduce((sum, c) => sum + c, 0) / within.length, 6);
    const plain = requested<typeof placed>("transient", { ...bar, cells: 60, phases: [{ seconds: 600, current_A: 2 }] });
    expect(plain.foamPlace_C).toEqual(plain.middle_C);
    expect([plain.time_s.length > 50, plain.time_s.length < 3000]).toEqual([true, true]);
    const cutting = requested<typeof result>("transient", {
      ...bar,
      cells: 60,
      foam: "eps-20",
      feed_mm_s: 6,
      phases: [...phases, { seconds: 20, current_A: 2, inFoam: true }],
    });
    expect(cutting.toFoam_J).toBeGreaterThan(10);
    expect(cutting.phaseEnd_C).toHaveLength(2);
    expect(cutting.middle_C.at(-1) as number).toBeLessThan(result.middle_C.at(-1) as number);
  });
});

describe("a current's heat in the kerf", () => {
  it("is found in a few steps, fine wire or thick, little current or much: resistance hardly moves with heat", () => {
    for (const diameter_mm of [0.2, 0.4, 0.635, 1])
      for (const alloy of ["nicr-80-20", "ss-304"])
        for (const share of [0.3, 0.6, 1]) {
          const here = { ...pair, wire: resolveWire({ alloy, diameter_mm }) };
          const currentA = share * 8 * diameter_mm;
          const { iterations, wireC, powerWPerM } = heatInKerf(here, 0.004, currentA);
          expect(iterations).toBeLessThanOrEqual(3);
          expect(powerWPerM).toBeCloseTo(currentA ** 2 * resistanceOhmPerM(here.wire, wireC), 6);
          expect(wireC).toBeCloseTo(cutAtPower(here, 0.004, powerWPerM).wireC, 4);
        }
  });
});

describe("what is learnt of a cut", () => {
  it("shares multiply, shifts add, and the foam never gives way at or below the room", () => {
    const learnt = calibratedPair(
      { ...pair, heatShare: 0.9, dragShare: 0.02, clearanceShare: 0.8 },
      { heatShare: 0.5, collapseShiftK: 4, densityShare: 1.1, dragShare: 2, clearanceShare: 1.5 },
    );
    expect(learnt).toMatchObject({ heatShare: expect.closeTo(0.45, 12), dragShare: expect.closeTo(0.04, 12), clearanceShare: expect.closeTo(1.2, 12) });
    expect([learnt.foam.collapseC, learnt.foam.densityKgM3]).toEqual([foam.collapseC + 4, expect.closeTo(38.5, 9)]);
    const fresh = calibratedPair(pair, { heatShare: 1, collapseShiftK: 0, densityShare: 1, dragShare: 1, clearanceShare: 1 });
    expect(fresh).toMatchObject({ heatShare: 1, dragShare: 0.015, clearanceShare: 1 });
    expect(movedCollapseC(pair, -500)).toBe(21);
    expect(movedCollapseC(pair, 5)).toBe(foam.collapseC + 5);
    // In a room hotter than that the foam's own heat stands.
    expect(movedCollapseC({ foam, ambientC: foam.collapseC + 40 }, -3)).toBe(foam.collapseC);
    expect(diffusivity(learnt)).toBeLessThan(diffusivity(pair));
    // Half the heat opens what half the power would.
    expect(cutAtPower({ ...pair, heatShare: 0.5 }, 0.004, 70).kerfM).toBeCloseTo(cutAtPower(pair, 0.004, 35).kerfM, 12);
    expect([besidesComputed(0.3, 1), besidesComputed(-0.5, 1), besidesComputed(-2, 1)]).toEqual([0.3, -0.5, -0.9]);
  });

  it("a heat too small to melt has no clean feed; one that never smokes is bounded by width alone", () => {
    const little = bareWireAtTemperature(pair.wire, foam.collapseC, { ambientC: 20 }).powerWPerM;
    expect(cleanFeeds(pair, little * 0.99, 2.5e-3).to).toBe(0);
    expect(cleanFeeds(pair, little * 1.01, 2.5e-3).to).toBeGreaterThan(0);
    const smokes = bareWireAtTemperature(pair.wire, foam.fumeLimitC, { ambientC: 20 }).powerWPerM;
    expect(cleanFeeds(pair, smokes * 0.99, 2.5e-3).below).toBe("wide");
    expect(cleanFeeds(pair, smokes * 0.99, 2.5e-3).from).toBeCloseTo(cutAtPower(pair, 1, smokes * 0.99).kerfM / 2.5e-3, 9);
    const hot = cleanFeeds(pair, 400, 2.5e-3);
    expect(hot.below).toBe("smokes");
    expect(hot.from).toBeGreaterThan(cutAtPower(pair, 1, 400).kerfM / 2.5e-3);
  });
});
