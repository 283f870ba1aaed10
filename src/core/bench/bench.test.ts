import { describe, expect, it } from "vitest";
import { grainAt, grainOf } from "@/core/bench/grain";
import { stationaryGrowthM2PerS } from "@/core/bench/meltWidth";
import { BenchSimulator, START_GAP_M } from "@/core/bench/simulator";
import { BENCH_DEFAULTS, BenchWorld } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { type Design, designSchema } from "@/core/cutters/design/schema";
import { circuitInput, evaluateDesign, pairOf } from "@/core/cutters/solve/evaluate";
import { parseFoamId, resolveFoam } from "@/core/materials/foams";
import { exponentialIntegral1 } from "@/core/numerics/exponentialIntegral";
import { referenceDragNPerM } from "@/core/physics/cut/cut";
import { enterFoam } from "@/core/physics/cut/entry";
import { cornerOnGrid, pulledFeed } from "@/core/physics/cut/lag";
import { resolveWire } from "@/core/physics/heat/wire";
import { warmUpOnSupply } from "@/core/physics/power/warmup";

const demo = (name: string): Design => designSchema.parse(DEMO_CUTTERS.find((design) => design.name === name));
/** A bow held at a current, so that the engine's own figures are known exactly. */
const held = (change: Partial<Design["job"]> = {}, amperes = 4): Design => {
  const tom = demo("Long Tom");
  return { ...tom, job: { ...tom.job, ...change }, supply: { kind: "bench", voltage_V: 60, current_A: amperes }, leads: undefined };
};
const even = { ...BENCH_DEFAULTS, even: true };
const run = (world: BenchWorld, warmS: number, feedMmS: number, pathMm: number) => {
  world.heat(true);
  world.run(warmS);
  world.hand({ mode: "pace", mPerS: feedMmS / 1000 });
  world.run((START_GAP_M * 1000 + pathMm) / feedMmS);
};

describe("the exponential integral", () => {
  it("is Abramowitz & Stegun's table 5.1", () => {
    for (const [x, value] of [
      [0.1, 1.822923958],
      [0.5, 0.559773595],
      [1, 0.219383934],
      [2, 0.04890051071],
      [10, 4.15696893e-6],
    ] as const)
      expect(Math.abs(exponentialIntegral1(x) / value - 1)).toBeLessThan(2e-9);
  });
});

describe("the bench against the engine's own offline solutions", () => {
  it("a wire at rest opens its groove as the standing line source does: E1(w^2/16at) = 4 pi k (Tc-T0)/q' (Carslaw & Jaeger 10.4)", () => {
    const pair = { wire: resolveWire({ alloy: "nicr-80-20", diameter_mm: 0.5 }), foam: resolveFoam(parseFoamId("xps-35")), ambientC: 20 };
    const { foam } = pair;
    const a = foam.conductivityWMK / (foam.densityKgM3 * foam.specificHeatJKgK);
    for (const power of [5, 20, 60, 150]) {
      const square = stationaryGrowthM2PerS(pair, power) * 3;
      const rise = (power / (4 * Math.PI * foam.conductivityWMK)) * exponentialIntegral1(square / 16 / (a * 3)); // w^2/4 = r^2
      expect(rise).toBeCloseTo(foam.collapseC - pair.ambientC, 6);
    }
  });

  it.each(["Long Tom", "Gatepost", "Thimble"])(
    "%s: after a while it cuts as the desk says: heat, kerf, temperature, bow, drag and current within 3 % (bow and drag 6 %)",
    (name) => {
      const design = demo(name);
      const evaluation = evaluateDesign(design);
      const world = new BenchWorld(design, { ...even, block_mm: 400 });
      run(world, 25, design.job.feed_mm_s, 320);
      const { sim } = world;
      const near = (mine: number, theirs: number, within = 0.03) => expect(Math.abs(mine / theirs - 1)).toBeLessThan(within);
      near(sim.heatWPerM[sim.middle] ?? 0, evaluation.cut.powerWPerM);
      near(sim.kerfM[sim.middle] ?? 0, evaluation.cut.kerfM);
      near((sim.wireC[sim.middle] ?? 0) + 273.15, evaluation.cut.wireC + 273.15);
      near(sim.currentA, evaluation.circuit.currentA);
      near(sim.lagM, evaluation.lagM ?? 0, 0.06);
      near(sim.forceN, ((evaluation.cut.dragNPerM ?? 0) * design.job.width_mm) / 1000, 0.06);
    },
  );

  it("warms as the engine's warm-up on the same supply: 95 % of the rise within 3 % of its time", () => {
    const design = demo("Gatepost");
    const { cutting: _, ...bare } = circuitInput(design, pairOf(design));
    const offline = warmUpOnSupply(bare, 10);
    const sim = new BenchSimulator({ ...new BenchWorld(design, even).sim.setup });
    sim.heatOn = true;
    const goal = design.ambient_C + 0.95 * (offline.steadyC - design.ambient_C);
    while (sim.airC < goal && sim.timeS < 60) sim.run(0.02);
    expect(Math.abs(sim.timeS / (offline.timeTo95S ?? 0) - 1)).toBeLessThan(0.03);
  });

  it("closes its energy through warming, entry, cutting, a pause, leaving and cooling to 1e-9", () => {
    const world = new BenchWorld(demo("Long Tom"), { ...BENCH_DEFAULTS, block_mm: 60 });
    run(world, 10, 6, 25);
    world.hand({ mode: "still" });
    world.run(5);
    world.hand({ mode: "pace", mPerS: 0.006 });
    world.run(15);
    world.heat(false);
    world.run(20);
    expect(world.sim.through).toBe(true);
    expect(world.sim.ledger.toFoam).toBeGreaterThan(10);
    expect(Math.abs(world.sim.energyImbalance())).toBeLessThan(1e-9);
  });

  it("the entry bites wide and settles where the engine's entry does, within 6 mm", () => {
    const design: Design = {
      ...held({ foam: { family: "eps", density_kg_m3: 18 }, feed_mm_s: 6, width_mm: 300 }, 1.1),
      wire: { alloy: "nicr-80-20", diameter_mm: 0.28, length_mm: 340 },
      tension: { device: "weight", hot_N: 25 },
    };
    const offline = enterFoam(pairOf(design), 0.006, 1.1);
    const world = new BenchWorld(design, even);
    run(world, 15, 6, 40);
    const track = world.sim.tracks.edge;
    const mouth = Math.max(...track.map((row) => row.kerfM));
    expect(mouth).toBeGreaterThan(1.1 * offline.settledKerfM);
    expect(mouth).toBeLessThan(1.3 * offline.mouthM);
    const settled = track.filter((row) => Math.abs(row.kerfM / offline.settledKerfM - 1) > 0.05).at(-1)?.p ?? 0;
    expect(Math.abs(settled - (offline.settlesM ?? 0))).toBeLessThan(0.006);
  });

  it("at a corner, the middle catches up as the engine's corner on a grid does, but slower: the widening gap starves it of heat for a moment; common practice waits two to three seconds", () => {
    const design = {
      ...held({ foam: { family: "xps", density_kg_m3: 29 }, width_mm: 1290, feed_mm_s: 3.4 }, 4),
      tension: { device: "weight" as const, hot_N: 60 },
    };
    const world = new BenchWorld(design, { ...even, block_mm: 400 });
    run(world, 20, 3.4, 250);
    const { sim } = world;
    const lagM = sim.lagM;
    world.hand({ mode: "still" });
    const started = sim.timeS;
    while (sim.lagM > 0.0005 && sim.timeS < started + 30) world.run(0.02);
    const offline = cornerOnGrid({
      lagM,
      toleranceM: 0.0005,
      maxFeedMPerS: evaluateDesign(design).cut.maxFeedMPerS,
      referenceDragNPerM: referenceDragNPerM(pairOf(design)),
      spanM: 1.3,
      tensionN: 60,
      points: 21,
    });
    const theirs = offline.timeS.at(-1) ?? 0;
    expect(theirs).toBeGreaterThan(0.5);
    const mine = sim.timeS - started;
    expect(mine / theirs).toBeGreaterThan(0.95);
    expect(mine / theirs).toBeLessThan(1.35);
    expect(mine).toBeGreaterThan(1);
    expect(mine).toBeLessThan(8);
  });

  it("a pause burns a groove the face shows; going too fast tears it; too hot glosses it", () => {
    const face = (feedMmS: number, amperes: number, pauseS = 0) => {
      const world = new BenchWorld(held({ feed_mm_s: feedMmS, width_mm: 400 }, amperes), { ...even, block_mm: 220 });
      run(world, 20, feedMmS, 45);
      world.hand({ mode: "still" });
      world.run(pauseS || 0.01);
      world.hand({ mode: "pace", mPerS: feedMmS / 1000 });
      for (let t = 0; t < 90 && !world.sim.through; t += 0.5) world.run(0.5);
      return world.report().face;
    };
    expect(face(6, 4)?.overall).toBe("matt");
    const paused = face(6, 4, 3);
    expect(paused?.overall).toBe("grooved");
    expect(paused?.grooveM).toBeGreaterThan(2e-4);
    expect(face(14, 4)?.overall).toBe("ridged");
    expect(face(2, 5.5)?.overall).toBe("glossy");
  });

  it("under a push it settles at the engine's pulled speed: v = v_max F/(F + F_ref w), within 5 %", () => {
    for (const newtons of [0.3, 1, 3]) {
      const design = held({ foam: { family: "xps", density_kg_m3: 29 }, width_mm: 600 }, 4);
      const world = new BenchWorld(design, { ...even, block_mm: 300 });
      world.heat(true);
      world.run(20);
      world.hand({ mode: "push", newtons });
      for (let t = 0; t < 200 && (world.sim.p[world.sim.middle] ?? 0) < 0.2; t += 0.5) world.run(0.5);
      const { sim } = world;
      expect(Math.abs(sim.forceN / newtons - 1)).toBeLessThan(0.05);
      const offline = pulledFeed(newtons, sim.topFeedOf(sim.middle), referenceDragNPerM(pairOf(design)), 0.6);
      expect(Math.abs(sim.middleFeedMPerS / offline - 1)).toBeLessThan(0.05);
    }
  });

  it("a stretch that is asked twice goes twice the same, another block differs, and beads average out", () => {
    const kerfs = (seed: number) => {
      const world = new BenchWorld(demo("Long Tom"), { ...BENCH_DEFAULTS, seed });
      run(world, 5, 6, 30);
      return world.sim.tracks.middle.map((row) => row.kerfM);
    };
    expect(kerfs(4)).toEqual(kerfs(4));
    expect(kerfs(4)).not.toEqual(kerfs(5));
    const grain = grainOf("eps", 9);
    let sum = 0;
    for (let i = 0; i < 20_000; i++) sum += grainAt(grain, i * 0.0041, (i % 97) * 0.0043, 0);
    expect(sum / 20_000).toBeCloseTo(1, 2);
  });

  it("recycled board stops the wire where even board lets it pass", () => {
    const most = (recycled: boolean) => {
      const world = new BenchWorld(demo("Long Tom"), { ...BENCH_DEFAULTS, recycled, seed: 2 });
      run(world, 20, 6, 120);
      return Math.max(...world.sim.traces.forceN);
    };
    expect(most(true)).toBeGreaterThan(1.3 * most(false));
  });

  it("a plate that is asked for too much hiccups; a wire with too much current breaks", () => {
    const gate = demo("Gatepost");
    const tripping = new BenchWorld({ ...gate, supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 1 } }, even);
    tripping.heat(true);
    tripping.run(8);
    expect(tripping.notes.trips).toBeGreaterThan(2);
    const burning = new BenchWorld({ ...gate, supply: { kind: "bench", voltage_V: 60, current_A: 12 }, control: { kind: "direct" } }, even);
    burning.heat(true);
    burning.run(20);
    expect(burning.sim.broken).toBe(true);
    expect(burning.sim.currentA).toBe(0);
  });
});
