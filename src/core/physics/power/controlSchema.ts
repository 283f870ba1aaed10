import { z } from "zod";
import { kindsError } from "../../kernel/parse";
import { figure } from "../../units/figure";

const directControl = z.strictObject({ kind: z.literal("direct") });
const pwmControl = z.strictObject({ kind: z.literal("pwm"), duty: figure("duty") });
/** Every control the core solves. */
export const controlSchema = z.discriminatedUnion(
  "kind",
  [
    directControl,
    pwmControl,
    z.strictObject({ kind: z.literal("phase"), delay_deg: figure("delay_deg") }),
    z.strictObject({ kind: z.literal("buck"), voltage_V: figure("voltage_V"), efficiency: figure("efficiency").optional() }),
    z.strictObject({ kind: z.literal("rheostat"), ohm: figure("rheostat_ohm") }),
    z.strictObject({ kind: z.literal("tap"), fraction: figure("fraction") }),
    z.strictObject({ kind: z.literal("clip"), live_mm: figure("length_mm") }),
  ],
  kindsError("direct, pwm, phase, buck, rheostat, tap, clip"),
);
