import { z } from "zod";
import { kindsError } from "../../kernel/parse";
import { figure } from "../../units/figure";
import { CONTROL_KINDS, CONTROLS, type Control } from "./controls";

const member = ({ kind, fields }: (typeof CONTROLS)[number]) =>
  z.strictObject({
    kind: z.literal(kind),
    ...Object.fromEntries(Object.entries(fields).map(([name, { limit, optional }]) => [name, optional ? figure(limit).optional() : figure(limit)])),
  });
const members = CONTROLS.map(member);

/** Every control the core solves, as its record says. */
export const controlSchema = z.discriminatedUnion(
  "kind",
  members as [(typeof members)[number], ...typeof members],
  kindsError(CONTROL_KINDS.join(", ")),
) as unknown as z.ZodType<Control, Control>;
