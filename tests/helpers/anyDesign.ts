import fc from "fast-check";
import { type Design, designSchema } from "@/core/cutters/design/schema";
import { CUTTER_KINDS, DESIGN_VERSION, TENSION_DEVICES } from "@/core/cutters/design/vocabulary";
import { ALLOY_IDS } from "@/core/materials/alloys";
import { CONTROLS } from "@/core/physics/power/controls";
import { SUPPLIES } from "@/core/physics/power/supplies";
import type { AnySupplyRecord } from "@/core/physics/power/supplies/record";

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });

/** Every control but those that work only on the other kind of current, its figures from the ranges of its own record; a clip wants its wire, and is left out. */
export const anyControl = (not: "direct" | "alternating") =>
  fc.oneof(
    ...CONTROLS.filter((record) => record.suits !== not && !record.shortens).map(({ kind, tried }) =>
      fc.record({ kind: fc.constant(kind), ...Object.fromEntries(Object.entries(tried).map(([name, range]) => [name, real(...(range as [number, number]))])) }),
    ),
  );

/** A supply of one kind, its figures drawn as its record says. */
export const anySupplyOf = ({ kind, fields, tried }: AnySupplyRecord) =>
  fc.record({
    kind: fc.constant(kind),
    ...Object.fromEntries(
      Object.entries(tried).map(([name, range]) => {
        const [first, last] = range as readonly [number, number];
        const field = fields[name];
        if (field?.as === "choice") return [name, fc.constantFrom(...(range as readonly (string | undefined)[]))];
        return [name, field?.whole ? fc.integer({ min: first, max: last }) : real(first, last)];
      }),
    ),
  });

/** A supply of every kind that gives this current. */
const anySupply = (alternating: boolean) => fc.oneof(...SUPPLIES.filter((record) => record.alternating === alternating).map(anySupplyOf));

/** Supplies with a control that fits them. */
const powers = fc.oneof(
  fc.record({ supply: anySupply(false), control: anyControl("alternating") }),
  fc.record({ supply: anySupply(true), control: anyControl("direct") }),
);

/** Any design a maker could have on the desk: valid, sensible or not. */
export const anyDesign: fc.Arbitrary<Design> = fc
  .record({
    kind: fc.constantFrom(...CUTTER_KINDS),
    alloy: fc.constantFrom(...ALLOY_IDS),
    temper: fc.constantFrom("annealed", "spring"),
    breaking_N: fc.option(real(5, 900), { nil: undefined }),
    diameter_mm: real(0.08, 1.6),
    length_mm: real(30, 3000),
    share: real(0.05, 1.3),
    thickness_mm: real(1, 600),
    feed_mm_s: real(0.1, 40),
    foam: fc.constantFrom(
      { family: "eps", density_kg_m3: 15 },
      { family: "eps", density_kg_m3: 29, weighed: true },
      { family: "xps", density_kg_m3: 35 },
      { family: "epp", density_kg_m3: 45 },
      { family: "pe", density_kg_m3: 33 },
      { family: "xps", density_kg_m3: 29, recycled: true },
    ),
    leads: fc.option(fc.record({ gauge_awg: fc.integer({ min: 10, max: 26 }), oneWay_m: real(0.1, 6) }), { nil: undefined }),
    device: fc.constantFrom(...TENSION_DEVICES),
    hot_N: real(0.5, 200),
    // A file knows no minus nought.
    ambient_C: real(-20, 45).map((c) => c + 0),
    wiring: fc.option(
      fc.record({
        jumper: fc.boolean(),
        insulatedPost: fc.boolean(),
        switch: fc.constantFrom("foot", "hand", "none"),
        fuse_A: fc.constantFrom(null, 2, 5, 10, 30),
        isolation: fc.constantFrom("isolated", "unknown"),
      }),
      { nil: undefined },
    ),
    powers,
  })
  .map(
    ({
      kind,
      alloy,
      temper,
      breaking_N,
      diameter_mm,
      length_mm,
      share,
      thickness_mm,
      feed_mm_s,
      foam,
      leads,
      device,
      hot_N,
      ambient_C,
      wiring,
      powers: { supply, control },
    }) =>
      designSchema.parse({
        format: "upwind-rod/design",
        version: DESIGN_VERSION,
        name: "any",
        kind,
        ambient_C,
        job: { foam, width_mm: Math.max(1, length_mm * share), thickness_mm, feed_mm_s },
        wire: { alloy, temper, diameter_mm, length_mm, ...(breaking_N === undefined ? {} : { breaking_N }) },
        supply,
        control,
        ...(leads ? { leads } : {}),
        tension: { device, hot_N },
        ...(wiring ? { wiring } : {}),
      }),
  );
