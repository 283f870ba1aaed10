import { z } from "zod";
import { fail, kindsError, parsed } from "../../kernel/parse";
import { figure } from "../../units/figure";
import { LIMITS } from "../../units/limits";
import { LETHAL_SUPPLIES } from "./lethal";
import { SUPPLIES, SUPPLY_KINDS, type Supply } from "./supplies";
import type { SupplyField } from "./supplies/record";

/** A figure of a supply; volts that kill are refused by name before they are called out of range. */
function fieldSchema(field: SupplyField): z.ZodType {
  if ("oneOf" in field) return z.enum(field.oneOf as [string, ...string[]], { error: `must be one of ${field.oneOf.join(", ")}` });
  const { limit, whole, kills } = field;
  const { min, max, unit } = LIMITS[limit];
  if (whole) return figure(limit).int({ error: `must be a whole number from ${min} to ${max}` });
  if (kills === undefined) return figure(limit);
  return z.unknown().transform((value, ctx): number => {
    if (typeof value === "number" && value > max) {
      fail(ctx, "lethal", `must be a number from ${min} to ${max} ${unit}: ${kills}`);
      return z.NEVER;
    }
    return parsed(figure(limit), value, ctx);
  });
}

const member = ({ kind, fields }: (typeof SUPPLIES)[number]) =>
  z.strictObject({
    kind: z.literal(kind),
    ...Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, field.optional ? fieldSchema(field).optional() : fieldSchema(field)])),
  });
const members = SUPPLIES.map(member);
const union = z.discriminatedUnion("kind", members as [(typeof members)[number], ...typeof members], kindsError(SUPPLY_KINDS.join(", ")));

/** Every supply the core solves, as its record says; the ones that kill are refused by name first. */
export const supplySchema = z.unknown().transform((value, ctx): Supply => {
  const kind = value !== null && typeof value === "object" && "kind" in value ? value.kind : undefined;
  const why = typeof kind === "string" ? LETHAL_SUPPLIES[kind]?.why : undefined;
  if (why) {
    fail(ctx, "lethal", why, ["kind"]);
    return z.NEVER;
  }
  return parsed(union, value, ctx) as unknown as Supply;
});
