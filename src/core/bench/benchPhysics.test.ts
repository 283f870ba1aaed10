import { Solver } from "odex";
import { describe, expect, it } from "vitest";
import { EVEN } from "@/core/bench/grain";
import type { BenchSetup } from "@/core/bench/setup";
import { BenchSimulator, START_GAP_M } from "@/core/bench/simulator";
import { BENCH_DEFAULTS, BenchWorld } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { type Design, designSchema } from "@/core/cutters/design/schema";
import { bareLossWPerM } from "@/core/physics/heat/bareWire";
import { massKgPerM, resistanceOhmPerM } from "@/core/physics/heat/wire";

const tom = designSchema.parse(DEMO_CUTTERS[0]);
const even = { ...BENCH_DEFAULTS, even: true };
/** Long Tom held at a current, its foam all but as wide as the wire. */
const held = (amperes: number, change: Partial<Design> = {}): Design => ({
  ...tom,
  supply: { kind: "bench", voltage_V: 60, current_A: amperes },
  leads: undefined,
  tension: { device: "weight", hot_N: 60 },
  job: { ...tom.job, width_mm: 1270, foam: { family: "xps", density_kg_m3: 29 } },
  ...change,
});

describe("the bench against outside references", () => {
  it("warms as an outside high-order integrator (Gragg-Bulirsch-Stoer) makes the same lumped balance warm, within 1 K", () => {
    const { setup } = new BenchWorld(held(4), even).sim;
    const { wire } = setup.pair;
    const capacity = massKgPerM(wire) * wire.alloy.specificHeatJKgK;
    const solver = new Solver(1);
    solver.absoluteTolerance = 1e-9;
    solver.relativeTolerance = 1e-9;
    const rate = (_t: number, [c = 0]: number[]) => [
      (16 * resistanceOhmPerM(wire, c) - bareLossWPerM(wire, Math.max(c, tom.ambient_C), { ambientC: tom.ambient_C })) / capacity,
    ];
    const sim = new BenchSimulator(setup);
    sim.heatOn = true;
    sim.setCircuit({ supply: { kind: "bench", voltage_V: 1000, current_A: 4 }, control: { kind: "direct" } });
    let last = tom.ambient_C;
    for (let t = 1; t <= 12; t++) {
      last = solver.solve(rate, t - 1, [last], t).y[0] as number;
      sim.run(1);
      expect(Math.abs(sim.airC - last)).toBeLessThan(1);
    }
    expect(last).toBeGreaterThan(200);
  });

  it("under an even load it hangs in a parabola: y = F' x(L - x)/2T (statics of the taut string), within 4 %", () => {
    const world = new BenchWorld(held(4.2), { ...even, block_mm: 500 });
    world.heat(true);
    world.run(20);
    world.hand({ mode: "pace", mPerS: 0.004 });
    world.run((START_GAP_M + 0.3) / 0.004);
    const { sim } = world;
    const end = sim.endAt(sim.pathM).p;
    const bow = (i: number) => end - (sim.p[i] ?? 0);
    const middle = bow(sim.middle);
    expect(middle).toBeGreaterThan(0.002);
    const spanM = 1.3;
    for (let i = 0; i < sim.n; i++) {
      const x = sim.xM[i] ?? 0;
      expect(Math.abs(bow(i) - (middle * 4 * x * (spanM - x)) / spanM ** 2) / middle).toBeLessThan(0.04);
    }
    // And its ends carry the whole load: slope times tension, both sides.
    expect(sim.forceN / ((8 * 60 * middle) / spanM)).toBeCloseTo(1, 1);
  });

  it("a small bow at rest dies away as the string's first mode: exp(-pi^2 T v_max t/(F_ref L^2)) (heat equation of the linear drag), within 12 %", () => {
    const world = new BenchWorld(held(4.2), { ...even, block_mm: 500 });
    world.heat(true);
    world.run(25);
    world.hand({ mode: "pace", mPerS: 0.0006 });
    world.run((START_GAP_M + 0.06) / 0.0006);
    const { sim } = world;
    world.hand({ mode: "still" });
    world.run(0.3); // higher modes are gone, the gap has hardly opened
    const [first, top] = [sim.lagM, sim.topFeedOf(sim.middle)];
    const seconds = 0.25;
    world.run(seconds);
    const reference = 0.015 * sim.setup.pair.wire.outerDiameterM * sim.setup.pair.foam.strength10Pa;
    const rate = (Math.PI ** 2 * 60 * top) / (reference * 1.3 ** 2);
    expect(first).toBeLessThan(0.001); // small: the drag law is a straight line here
    const measured = Math.log(first / sim.lagM) / seconds;
    // The load is small but not nothing: v = v_max F/(F + F_ref) is a little slower than its straight line.
    const slower = 1 + (8 * 60 * first) / 1.3 ** 2 / reference;
    expect(Math.abs((measured * slower) / rate - 1)).toBeLessThan(0.12);
  });

  it("a rest opens the kerf as the root of time", () => {
    const world = new BenchWorld(held(4), even);
    world.heat(true);
    world.run(20);
    world.hand({ mode: "pace", mPerS: 0.006 });
    world.run((START_GAP_M + 0.05) / 0.006);
    world.hand({ mode: "still" });
    world.run(60); // long enough for the wire to have its own heat again
    const kerfAfter = (seconds: number) => {
      world.run(seconds);
      return (world.sim.kerfM[world.sim.middle] ?? 0) ** 2;
    };
    const [a, b, c] = [kerfAfter(0.01), kerfAfter(4), kerfAfter(4)];
    expect((c - b) / (b - a)).toBeCloseTo(1, 1); // the square grows evenly
  });

  it("a battery gives up the charge that its current takes: ampere-seconds counted, chopped current by its duty", () => {
    for (const duty of [1, 0.4]) {
      const design: Design = {
        ...held(4),
        supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 2, stateOfCharge: 0.9, internal_ohm: 0.05 },
        control: duty === 1 ? { kind: "direct" } : { kind: "pwm", duty },
      };
      const world = new BenchWorld(design, even);
      world.heat(true);
      let taken = 0;
      for (let i = 0; i < 3000; i++) {
        world.run(0.02);
        // rms while on is the on-current; mean is rms times the root of the duty.
        taken += world.sim.currentA * Math.sqrt(duty) * 0.02;
      }
      const supply = world.sim.supplyNow;
      const used = supply.kind === "battery" ? 0.9 - (supply.stateOfCharge ?? 0) : 0;
      expect((used * 2 * 3600) / taken).toBeCloseTo(1, 2);
    }
  });

  it("no grain, no heat, no hand: nothing moves, nothing warms, nothing is used", () => {
    const { setup } = new BenchWorld(tom, even).sim;
    const still: BenchSetup = { ...setup, grain: EVEN };
    const sim = new BenchSimulator(still);
    sim.run(30);
    expect(sim.pathM).toBe(0);
    expect(sim.forceN).toBe(0);
    expect([...sim.wireC].every((c) => c === tom.ambient_C)).toBe(true);
    expect(sim.ledger).toEqual({ generated: 0, toAir: 0, toFoam: 0 });
    expect(sim.tracks.middle).toEqual([]);
  });
});
