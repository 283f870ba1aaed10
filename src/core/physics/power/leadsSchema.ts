import { z } from "zod";
import { figure } from "../../units/figure";

/** Copper from the supply to the wire: its gauge, its length one way and what its joints add. */
export const leadsSchema = z.strictObject({
  gauge_awg: figure("leadGauge_awg"),
  oneWay_m: figure("oneWay_m"),
  joint_ohm: figure("joint_ohm").optional(),
});
