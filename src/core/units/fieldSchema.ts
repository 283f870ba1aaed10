import { z } from "zod";
import { bounded, boundedWhole } from "../kernel/bounded";
import { fail, parsed, plainText } from "../kernel/parse";
import type { Allowed } from "./field";
import type { Quantity } from "./units";

/** The unit a quantity is stored in, for messages. */
const STORED: Partial<Record<Quantity, string>> = {
  length: "mm",
  diameter: "mm",
  kerf: "mm",
  feed: "mm/s",
  force: "N",
  angle: "degrees",
  springRate: "N/mm",
  mass: "g",
};

/** A figure's schema, before it may be left empty. Figures that kill are refused by name before they are called out of range. */
function bareSchema(field: Allowed): z.ZodType {
  switch (field.as) {
    case "number": {
      const { min, max, unit, quantity, whole, kills } = field;
      if (whole) return boundedWhole(min, max);
      const own = bounded(min, max, unit ?? (quantity ? (STORED[quantity] ?? "") : ""));
      if (kills === undefined) return own;
      return z.unknown().transform((value, ctx): number => {
        if (typeof value === "number" && value > max) {
          fail(ctx, "lethal", `must be a number from ${min} to ${max} ${unit}: ${kills}`);
          return z.NEVER;
        }
        return parsed(own, value, ctx);
      });
    }
    case "choice":
      return z.enum(field.options.map(([value]) => value) as [string, ...string[]], {
        error: `must be one of ${field.options.map(([value]) => value).join(", ")}`,
      });
    case "word": {
      const error = `must be ${field.least === 0 ? `at most ${field.most}` : `${field.least} to ${field.most}`} characters`;
      return plainText(field.most, error).min(field.least, { error });
    }
    case "switch":
      return z.boolean({ error: "must be true or false" });
    case "numbers":
      return z
        .array(bounded(field.min, field.max, STORED[field.quantity] ?? ""), { error: "must be a list of numbers" })
        .max(field.most, { error: `has room for ${field.most}` });
    case "rows":
      return z
        .array(
          z.tuple(field.columns.map(({ min, max }) => bounded(min, max, "")) as [z.ZodNumber, ...z.ZodNumber[]], {
            error: `must be ${field.columns.length} numbers each`,
          }),
          { error: "must be a list" },
        )
        .max(field.most, { error: `has room for ${field.most}` });
    case "text":
    case "font":
      return field.schema;
  }
}
const mayBeEmpty = (field: Allowed) => "optional" in field && field.optional === true;

/** The schema of a kind whose keys may hold what is allowed; `empty` is how a document says that a figure is not given. */
export const kindSchema = (kind: string, fields: Readonly<Record<string, Allowed>>, empty: "left-out" | "null") =>
  z.strictObject({
    kind: z.literal(kind),
    ...Object.fromEntries(
      Object.entries(fields).map(([key, field]) => {
        const own = bareSchema(field);
        return [key, !mayBeEmpty(field) ? own : empty === "null" ? own.nullable() : own.optional()];
      }),
    ),
  });
