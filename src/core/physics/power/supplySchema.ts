import { z } from "zod";
import { fail, kindsError, parsed } from "../../kernel/parse";
import { kindSchema } from "../../units/fieldSchema";
import { LETHAL_SUPPLIES } from "./lethal";
import { SUPPLIES, SUPPLY_KINDS, type Supply } from "./supplies";

const members = SUPPLIES.map(({ kind, fields }) => kindSchema(kind, fields, "left-out"));
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
