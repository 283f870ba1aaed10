import { z } from "zod";
import { bounded } from "../../kernel/bounded";
import { fail, parsed, plainText } from "../../kernel/parse";
import { ALLOY_IDS } from "../../materials/alloys";
import { figure } from "../../units/figure";
import { STRAND_ENVELOPE } from "../../units/gauges";
import { LIMITS } from "../../units/limits";
import type { CustomAlloySpec, WireSpec } from "./wire";

const customAlloy = z.strictObject({
  id: z.literal("custom", { error: 'must be "custom"' }),
  name: plainText(60, "must be at most 60 characters").optional(),
  resistivity_uohm_m: figure("resistivity_uohm_m"),
  temperatureFactor: z
    .array(z.tuple([figure("temperature_C"), bounded(0.5, 10, "(factor)")]))
    .min(1, { error: "needs at least one [degC, factor] row" })
    .max(100, { error: "has room for 100 rows" })
    .refine((rows) => rows.every((row, i) => i === 0 || row[0] > (rows[i - 1] as [number, number])[0]), { error: "temperatures must rise from row to row" }),
  density_kg_m3: figure("alloyDensity_kg_m3"),
  specificHeat_J_kgK: bounded(50, 2000, "J/kgK").optional(),
  conductivity_W_mK: bounded(1, 500, "W/mK").optional(),
  expansion_1e6_per_K: bounded(0, 50, "1e-6/K").optional(),
  emissivity: bounded(0.01, 1, "").optional(),
  melts_C: bounded(200, 4000, "degC").optional(),
});

const alloySchema = z.unknown().transform((value, ctx): string | CustomAlloySpec => {
  if (value !== null && typeof value === "object") return parsed(customAlloy, value, ctx);
  if (typeof value === "string" && ALLOY_IDS.includes(value)) return value;
  fail(ctx, value === undefined ? "missing-key" : "not-one-of", `must be one of ${ALLOY_IDS.join(", ")}, or {id:"custom", ...}`);
  return z.NEVER;
});

/** The keys of a wire: alloy, one of three sizes, strands, temper or the load it breaks at, and what a meter said of it. */
export const wireFields = {
  alloy: alloySchema,
  diameter_mm: figure("diameter_mm").optional(),
  gauge_awg: figure("gauge_awg").optional(),
  gauge_swg: figure("gauge_swg")
    .int({ error: `must be a whole number from ${LIMITS.gauge_swg.min} to ${LIMITS.gauge_swg.max}` })
    .optional(),
  strands: z
    .number()
    .refine((n) => STRAND_ENVELOPE[n] !== undefined, { error: `must be one of ${Object.keys(STRAND_ENVELOPE).join(", ")}` })
    .optional(),
  temper: z.enum(["annealed", "spring"], { error: 'must be "annealed" or "spring"' }).optional(),
  measured_ohm_per_m: figure("measured_ohm_per_m").optional(),
  breaking_N: figure("breaking_N").optional(),
};
/** Refinement: exactly one size. */
export const oneSize = (wire: WireSpec, ctx: z.core.$RefinementCtx<WireSpec>) => {
  if ([wire.diameter_mm, wire.gauge_awg, wire.gauge_swg].filter((size) => size !== undefined).length !== 1) {
    fail(ctx as z.core.$RefinementCtx, "conflict", "must give exactly one of diameter_mm, gauge_awg, gauge_swg");
  }
};

export const wireSchema = z.strictObject(wireFields).superRefine(oneSize);
