import { z } from "zod";
import { fail, kindsError, parsed } from "../../kernel/parse";
import { figure } from "../../units/figure";
import { LIMITS } from "../../units/limits";
import { DC_MAKES } from "./circuit";
import { LETHAL_SUPPLIES } from "./lethal";

const voltage = z.unknown().transform((value, ctx): number => {
  if (typeof value === "number" && value > LIMITS.voltage_V.max) {
    fail(
      ctx,
      "lethal",
      `must be a number from ${LIMITS.voltage_V.min} to ${LIMITS.voltage_V.max} V: above that the bare wire can kill, and it is refused, not computed`,
    );
    return z.NEVER;
  }
  return parsed(figure("voltage_V"), value, ctx);
});

const dcSupply = z.strictObject({
  kind: z.literal("dc"),
  voltage_V: voltage,
  maxCurrent_A: figure("maxCurrent_A"),
  internal_ohm: figure("internal_ohm").optional(),
  make: z.enum(DC_MAKES, { error: `must be one of ${DC_MAKES.join(", ")}` }).optional(),
  maxVoltage_V: voltage.optional(),
});
const benchSupply = z.strictObject({
  kind: z.literal("bench"),
  voltage_V: voltage,
  current_A: figure("maxCurrent_A"),
  maxVoltage_V: voltage.optional(),
  maxCurrent_A: figure("maxCurrent_A").optional(),
});
const batterySupply = z.strictObject({
  kind: z.literal("battery"),
  chemistry: z.enum(["lead-acid", "lithium-ion", "nimh", "alkaline"], { error: "must be one of lead-acid, lithium-ion, nimh, alkaline" }),
  cells: figure("cells").int({ error: "must be a whole number from 1 to 50" }),
  capacity_Ah: figure("capacity_Ah"),
  stateOfCharge: figure("stateOfCharge").optional(),
  internal_ohm: figure("internal_ohm").optional(),
});
const transformerSupply = z.strictObject({
  kind: z.literal("transformer"),
  voltage_Vrms: z.unknown().transform((value, ctx): number => {
    if (typeof value === "number" && value > LIMITS.voltage_Vrms.max) {
      fail(
        ctx,
        "lethal",
        `must be a number from ${LIMITS.voltage_Vrms.min} to ${LIMITS.voltage_Vrms.max} V: above that alternating current on a bare wire can kill, and it is refused, not computed`,
      );
      return z.NEVER;
    }
    return parsed(figure("voltage_Vrms"), value, ctx);
  }),
  rating_VA: figure("rating_VA"),
  internal_ohm: figure("internal_ohm").optional(),
});
/** Parses a supply with a union after refusing the ones that kill by name. */
const refusingLethal = <T extends z.ZodType>(union: T) =>
  z.unknown().transform((value, ctx): z.output<T> => {
    const kind = value !== null && typeof value === "object" && "kind" in value ? value.kind : undefined;
    const why = typeof kind === "string" ? LETHAL_SUPPLIES[kind]?.why : undefined;
    if (why) {
      fail(ctx, "lethal", why, ["kind"]);
      return z.NEVER;
    }
    return parsed(union, value, ctx);
  });

/** Every supply the core solves. */
export const supplySchema = refusingLethal(
  z.discriminatedUnion("kind", [dcSupply, benchSupply, batterySupply, transformerSupply], kindsError("dc, bench, battery, transformer")),
);
