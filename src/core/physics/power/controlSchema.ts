import { z } from "zod";
import { kindsError } from "../../kernel/parse";
import { kindSchema } from "../../units/fieldSchema";
import { CONTROL_KINDS, CONTROLS, type Control } from "./controls";

const members = CONTROLS.map(({ kind, fields }) => kindSchema(kind, fields, "left-out"));

/** Every control the core solves, as its record says. */
export const controlSchema = z.discriminatedUnion(
  "kind",
  members as [(typeof members)[number], ...typeof members],
  kindsError(CONTROL_KINDS.join(", ")),
) as unknown as z.ZodType<Control, Control>;
