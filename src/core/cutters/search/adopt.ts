import { toDigits } from "../../numerics/round";
import { supplyRecordOf } from "../../physics/power/supplies";
import type { Design } from "../design/schema";
import { knobOf, settable, verdictOf, withSetting } from "../solve/evaluate";
import type { Candidate } from "./setups";

const tidy = (value: number) => toDigits(value, 6);

/**
 * The design with a found set-up on it: wire, supply, control and setting. Job, leads, device, name and notes stay.
 * The setting is the nearest one a hand can set, the step next to it where only that is clean; the pull is eased where the new wire would not withstand the old one.
 */
export function adoptSetup(design: Design, candidate: Pick<Candidate, "wire" | "lengthM" | "supply" | "control" | "setting" | "tensionN">): Design {
  const { wire, supply, control, setting } = candidate;
  const source = supplyRecordOf(supply);
  const volts = control.kind === "direct" && setting !== null ? tidy(setting) : null;
  const taken: Design = {
    ...design,
    // Rounding must not leave the wire a hair shorter than the foam.
    wire: { ...wire, length_mm: Math.max(tidy(candidate.lengthM * 1000), design.job.width_mm) } as Design["wire"],
    supply: source.record.turnedTo(source.own, volts) as unknown as Design["supply"],
    control,
    tension: { ...design.tension, hot_N: tidy(Math.min(design.tension.hot_N, Math.max(1, Math.floor(candidate.tensionN)))) },
  };
  const knob = knobOf(taken);
  if (!knob) return taken;
  // The nearest step may lie just outside a narrow clean band that the next one meets.
  const steps = [0, 1, -1].map((off) => withSetting(taken, settable(knob, knob.value + off * knob.step)));
  return steps.find((tried) => verdictOf(tried) === "clean") ?? (steps[0] as Design);
}
