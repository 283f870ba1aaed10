import { knobOf, settable, withSetting } from "./evaluate";
import type { Design } from "./schema";
import type { Candidate } from "./setups";

const tidy = (value: number) => Number(value.toPrecision(6));

/**
 * The design with a found set-up on it: wire, supply, control and setting. Job, leads, device, name and notes stay.
 * The setting is the nearest one a hand can set; the pull is eased where the new wire would not stand the old one.
 */
export function adoptSetup(design: Design, candidate: Pick<Candidate, "wire" | "lengthM" | "supply" | "control" | "setting" | "tensionN">): Design {
  const { wire, supply, control, setting } = candidate;
  const bench = supply.kind === "bench";
  const taken: Design = {
    ...design,
    wire: { ...wire, length_mm: tidy(candidate.lengthM * 1000) } as Design["wire"],
    supply: bench
      ? {
          kind: "bench",
          voltage_V: tidy(control.kind === "direct" && setting !== null ? setting : supply.voltage_V),
          current_A: supply.current_A,
          maxVoltage_V: supply.voltage_V,
          maxCurrent_A: supply.current_A,
        }
      : (supply as Design["supply"]),
    control,
    tension: { ...design.tension, hot_N: tidy(Math.min(design.tension.hot_N, Math.max(1, Math.floor(candidate.tensionN)))) },
  };
  const knob = knobOf(taken);
  return knob ? withSetting(taken, settable(knob, knob.value)) : taken;
}
