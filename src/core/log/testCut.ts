import type { Design } from "../cutters/design/schema";
import { foamNamed } from "../materials/foams";
import { LIMITS } from "../units/limits";
import type { TestCut } from "./entries";

type Made = Pick<TestCut, "at" | "width_mm" | "feed_mm_s" | "face" | "note"> & Partial<Omit<TestCut, "kind" | "heat_W_per_m">>;

/**
 * A test cut as an entry of its cutter's log: wire, supply, control, leads, tension and foam as the cutter has them, and what was made and measured.
 * @param heatWPerM heat in the cut by the models; left out where it is beyond what a log takes
 * @param made what is given here replaces the cutter's own; undefined figures are left out
 */
export function testCut(design: Design, heatWPerM: number | undefined, made: Made): TestCut {
  const { length_mm, ...wire } = design.wire;
  const { supply, control, leads, job } = design;
  const { min, max } = LIMITS.power_W_per_m;
  const given = Object.fromEntries(Object.entries(made).filter(([, value]) => value !== undefined)) as Made;
  return {
    kind: "test-cut",
    foam: { ...foamNamed(job.foam), ...(job.foam.weighed ? { weighed: true } : {}) },
    wire,
    wire_length_mm: length_mm,
    supply,
    control,
    ...(leads ? { leads } : {}),
    ambient_C: design.ambient_C,
    tension_N: design.tension.hot_N,
    setting: "",
    ...(heatWPerM !== undefined && heatWPerM >= min && heatWPerM <= max ? { heat_W_per_m: Number(heatWPerM.toPrecision(5)) } : {}),
    ...given,
  };
}
