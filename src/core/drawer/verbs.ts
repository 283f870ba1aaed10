import { z } from "zod";
import { measureSupply } from "@/core/drawer/measuredSupply";
import { type Verb, verb } from "@/core/kernel/verb";
import { figure } from "@/core/units/figure";

const measureVerb = verb(
  "measure-supply",
  "A supply without a plate from two readings of a meter: its volts with nothing on it, and across a load of known ohms.",
  z.strictObject({
    open_V: z.number({ error: "must be a number of volts above 0" }).positive({ error: "must be a number of volts above 0" }),
    loaded_V: figure("voltage_V"),
    load_ohm: figure("load_ohm"),
    alternating: z.boolean({ error: "must be true or false" }).default(false),
  }),
  { open_V: 13.8, loaded_V: 12.1, load_ohm: 4.7 },
  (input) => {
    const measured = measureSupply({ openV: input.open_V, loadedV: input.loaded_V, loadOhm: input.load_ohm, alternating: input.alternating });
    return { supply: measured.supply, internal_ohm: measured.internalOhm, proven_A: measured.provenA, notes: measured.notes };
  },
);

/** The headless verbs of this room. */
export const DRAWER_VERBS: readonly Verb[] = [measureVerb];
