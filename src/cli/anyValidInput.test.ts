import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { runVerb } from "@/cli/verbs";
import { CoreError } from "@/core/kernel/errors";
import { ALLOY_IDS } from "@/core/materials/alloys";
import { anyControl } from "../../tests/helpers/anyDesign";

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const wire = fc.record({
  alloy: fc.constantFrom(...ALLOY_IDS),
  diameter_mm: real(0.05, 2),
  strands: fc.constantFrom(1, 3, 7),
  temper: fc.constantFrom("annealed", "spring"),
});
const foam = fc.constantFrom("eps-12", "eps-20", "eps-64", "xps-25", "xps-48", "epp-20", "epp-60", "pe-25", "pe-45");
const ambient_C = real(-40, 60);
const dcControls = anyControl("alternating");
const dcSupply = fc.oneof(
  fc.record({ kind: fc.constant("dc"), voltage_V: real(0.5, 60), maxCurrent_A: real(0.1, 30), internal_ohm: real(0, 3) }),
  fc.record({ kind: fc.constant("bench"), voltage_V: real(0.5, 60), current_A: real(0.1, 20) }),
  fc.record({
    kind: fc.constant("battery"),
    chemistry: fc.constantFrom("lead-acid", "lithium-ion", "nimh", "alkaline"),
    cells: fc.integer({ min: 1, max: 12 }),
    capacity_Ah: real(0.3, 100),
    stateOfCharge: real(0, 1),
  }),
);
const acSupply = fc.record({ kind: fc.constant("transformer"), voltage_Vrms: real(1, 48), rating_VA: real(5, 500), internal_ohm: real(0, 3) });
const acControls = anyControl("direct");
const powered = <T extends object>(rest: fc.Arbitrary<T>) =>
  fc
    .tuple(rest, fc.boolean(), real(0.1, 3000), real(0.05, 10))
    .map(([input, byPower, power_W_per_m, current_A]) => ({ ...input, ...(byPower ? { power_W_per_m } : { current_A }) }));

const INPUTS: Record<string, [fc.Arbitrary<unknown>, number]> = {
  air: [powered(fc.record({ wire, ambient_C, airSpeed_m_s: fc.constantFrom(0, 0.5, 3) })), 600],
  cut: [powered(fc.record({ wire, foam, ambient_C, feed_mm_s: real(0.05, 200) })), 1500],
  circuit: [
    fc
      .tuple(
        wire,
        real(20, 3000),
        fc.oneof(fc.tuple(dcSupply, dcControls), fc.tuple(acSupply, acControls)),
        fc.boolean(),
        foam,
        real(0.2, 40),
        real(0.05, 1),
        ambient_C,
      )
      .map(([w, length_mm, [supply, control], cutting, f, feed_mm_s, share, ambient]) => ({
        wire: w,
        length_mm,
        supply,
        control,
        ambient_C: ambient,
        leads: { gauge_awg: 18, oneWay_m: 1 },
        ...(cutting ? { cutting: { foam: f, feed_mm_s, width_mm: Math.max(1, length_mm * share) } } : {}),
      })),
    1200,
  ],
  lag: [powered(fc.record({ wire, foam, ambient_C, span_mm: real(50, 3000), tension_N: real(0.5, 300), feed_mm_s: real(0.1, 60) })), 800],
  tension: [
    fc.record({
      wire,
      span_mm: real(20, 4000),
      hot_C: real(60, 900),
      ambient_C,
      cold_N: real(0, 500),
      device: fc.oneof(
        fc.constant({ kind: "weight" }),
        fc.constant({ kind: "rigid" }),
        real(0.01, 100).map((rate_N_per_mm) => ({ kind: "spring", rate_N_per_mm })),
      ),
    }),
    600,
  ],
  warmup: [fc.record({ wire, current_A: real(0, 4), ambient_C, seconds: real(0.1, 60) }), 60],
  axial: [
    fc.record({ wire, length_mm: real(60, 2000), current_A: real(0, 4), ambient_C, foam, feed_mm_s: real(0.5, 20), cells: fc.constantFrom(50, 201) }),
    250,
  ],
};

describe("any valid input", () => {
  it.each(Object.entries(INPUTS))("%s answers with finite figures, or refuses by a stable code", (verb, [inputs, numRuns]) => {
    fc.assert(
      fc.property(inputs, (input) => {
        let text: string;
        try {
          text = JSON.stringify(runVerb(verb, input), (_key, value) => {
            if (typeof value === "number" && !Number.isFinite(value)) throw new Error(`a figure is ${value}`);
            return value;
          });
        } catch (error) {
          // A current that would boil the wire has no steady state: said, not computed.
          if (error instanceof CoreError && error.code === "no-solution") return;
          throw error;
        }
        expect(text.length).toBeGreaterThan(10);
      }),
      { numRuns },
    );
  });
});
