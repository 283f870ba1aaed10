import { z } from "zod";
import { leadsSchema } from "@/core/cutters/design/schema";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { resolveWire } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import type { CircuitInput } from "@/core/physics/power/circuit";
import { controlSchema } from "@/core/physics/power/controlSchema";
import { supplySchema } from "@/core/physics/power/supplySchema";
import { figure } from "@/core/units/figure";
import { ambient } from "./verb";

/** A wire on a supply, bare or cutting, as several verbs take it. */
export const drivenWire = z.strictObject({
  wire: wireSchema,
  length_mm: figure("length_mm"),
  supply: supplySchema,
  control: controlSchema,
  leads: leadsSchema.optional(),
  spring_ohm: figure("spring_ohm").optional(),
  ambient_C: ambient,
  cutting: z.strictObject({ foam: foamSchema, feed_mm_s: figure("feed_mm_s"), width_mm: figure("width_mm") }).optional(),
});
type DrivenWire = z.output<typeof drivenWire>;

/** Refinement: the foam is no wider than the wire is long. */
export function cuttingFits({ cutting, length_mm }: DrivenWire, ctx: z.core.$RefinementCtx): void {
  if (!cutting || cutting.width_mm <= length_mm) return;
  ctx.issues.push({
    code: "custom",
    message: `must be a number from 1 to length_mm (${length_mm} mm)`,
    path: ["cutting", "width_mm"],
    params: { code: "out-of-range" },
    input: undefined,
  });
}

/** The same as the solver takes it, in SI. */
export function circuitInput({ cutting, ...input }: DrivenWire): CircuitInput {
  const wire = resolveWire(input.wire);
  return {
    wire,
    lengthM: input.length_mm / 1000,
    supply: input.supply,
    control: input.control,
    leads: input.leads,
    springOhm: input.spring_ohm,
    ambientC: input.ambient_C,
    cutting: cutting && {
      pair: { wire, foam: resolveFoam(cutting.foam), ambientC: input.ambient_C },
      feedMPerS: cutting.feed_mm_s / 1000,
      widthM: cutting.width_mm / 1000,
    },
  };
}
