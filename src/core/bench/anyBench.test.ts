import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Hand } from "@/core/bench/setup";
import { BenchWorld } from "@/core/bench/world";
import { designSchema } from "@/core/cutters/design/schema";
import { knobOf, withSetting } from "@/core/cutters/solve/evaluate";
import { anyDesign } from "../../../tests/helpers/anyDesign";
import { runs } from "../../../tests/helpers/runs";

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const hands: fc.Arbitrary<Hand> = fc.oneof(
  fc.constant({ mode: "still" as const }),
  real(0.0001, 0.05).map((mPerS) => ({ mode: "pace" as const, mPerS })),
  real(0.1, 30).map((newtons) => ({ mode: "push" as const, newtons })),
  real(0, 0.3).map((toM) => ({ mode: "lead" as const, toM })),
);
const actions = fc.array(fc.record({ hand: hands, seconds: real(0.05, 6), heat: fc.boolean(), turn: real(0, 1) }), { minLength: 1, maxLength: 8 });

describe("any design and any hand on the bench", () => {
  it("stays finite, closes its energy, and keeps the order of things: no kerf narrower than the wire's gap, no wire colder than the room, no middle before its ends", () => {
    fc.assert(
      fc.property(anyDesign, actions, fc.nat(1000), fc.boolean(), fc.boolean(), (design, script, seed, recycled, corner) => {
        const world = new BenchWorld(design, { seed, block_mm: 60, corner_mm: corner ? 30 : null, recycled });
        const { sim } = world;
        const knob = knobOf(design);
        let turned = design;
        for (const { hand, seconds, heat, turn } of script) {
          world.heat(heat);
          if (knob && turn > 0.5) {
            const to = knob.min + (turn - 0.5) * 2 * (knob.max - knob.min);
            turned = withSetting(turned, to);
            world.turn(to);
          }
          world.hand(hand);
          world.run(seconds);
        }
        const figures = [
          sim.timeS,
          sim.pathM,
          sim.forceN,
          sim.currentA,
          sim.airC,
          sim.lagM,
          ...sim.p,
          ...sim.q,
          ...sim.wireC,
          ...sim.kerfM,
          ...sim.heatWPerM,
          ...Object.values(sim.ledger),
        ];
        expect(figures.every(Number.isFinite)).toBe(true);
        expect(Math.abs(sim.energyImbalance())).toBeLessThan(1e-6);
        const d = sim.setup.pair.wire.outerDiameterM;
        const end = sim.endAt(sim.pathM);
        for (let i = 0; i < sim.n; i++) {
          expect(sim.kerfM[i]).toBeGreaterThanOrEqual(d * 0.999);
          expect(sim.wireC[i]).toBeGreaterThanOrEqual(design.ambient_C - 1e-6);
          if (!corner) expect(sim.p[i]).toBeLessThanOrEqual(end.p + 1e-9);
        }
        const report = world.report();
        for (const value of [
          report.ratio,
          report.heatWPerM,
          report.mostLagM,
          report.waitedS,
          report.cutS,
          report.face?.kerfM.mean ?? 0,
          report.face?.errorM ?? 0,
        ])
          expect(Number.isFinite(value)).toBe(true);
      }),
      { numRuns: runs(600), endOnFailure: true },
    );
  }, 60_000);

  it("more heat never cuts a narrower kerf, on the bench as in the models", () => {
    fc.assert(
      fc.property(real(1.2, 1.8), real(1.05, 1.5), real(0.002, 0.006), (amperes, more, feed) => {
        const kerf = (current: number) => {
          const design = designSchema.parse({
            format: "upwind-rod/design",
            version: 3,
            name: "any",
            kind: "bow",
            job: { foam: { family: "eps", density_kg_m3: 18 }, width_mm: 300, thickness_mm: 100, feed_mm_s: 5 },
            wire: { alloy: "nicr-80-20", diameter_mm: 0.32, length_mm: 360 },
            supply: { kind: "bench", voltage_V: 60, current_A: current },
            control: { kind: "direct" },
            tension: { device: "weight", hot_N: 25 },
          });
          const world = new BenchWorld(design, { seed: 1, block_mm: 200, corner_mm: null, recycled: false, even: true });
          world.heat(true);
          world.run(10);
          world.hand({ mode: "pace", mPerS: feed });
          world.run(0.1 / feed);
          return world.sim.kerfM[world.sim.middle] ?? 0;
        };
        expect(kerf(amperes * more)).toBeGreaterThan(kerf(amperes));
      }),
      { numRuns: 15 },
    );
  }, 30_000);
});
