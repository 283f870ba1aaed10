import { z } from "zod";
import { CoreError } from "../kernel/errors";
import { fail, parsed, plainText } from "../kernel/parse";
import { figure } from "../units/figure";
import { FOAM_FAMILIES, type FoamFamilyId, type FoamSpec, forbiddenFoam, forbiddenIn, MOST_OWN_NAME, parseFoamId } from "./foams";

const familyIds = FOAM_FAMILIES.map((family) => family.id);

/** A foam family by id; a foam that must never meet a hot wire is refused by name. */
export const foamFamilySchema = z.string({ error: "is required: the foam's family" }).transform((id, ctx): FoamFamilyId => {
  const forbidden = forbiddenFoam(id);
  if (forbidden) fail(ctx, "forbidden-foam", `${forbidden.name} must never be cut with a hot wire: ${forbidden.why}`);
  else if (!familyIds.includes(id as FoamFamilyId)) fail(ctx, "not-one-of", `must be one of ${familyIds.join(", ")}`);
  return id as FoamFamilyId;
});

/** A person's own family: one named for what must never meet a hot wire is refused by that name. */
const ownFoam = z
  .strictObject({
    name: plainText(MOST_OWN_NAME, "is required: the foam's own name").trim().min(1, { error: "must be 1 to 40 characters" }),
    fumeCaution_C: figure("fume_C").optional(),
    fumeLimit_C: figure("fume_C").optional(),
  })
  .superRefine(({ name, fumeCaution_C, fumeLimit_C }, ctx) => {
    const forbidden = forbiddenIn(name);
    if (forbidden) fail(ctx as z.core.$RefinementCtx, "forbidden-foam", `${forbidden.name} must never be cut with a hot wire: ${forbidden.why}`, ["name"]);
    if (fumeCaution_C !== undefined && fumeLimit_C !== undefined && fumeCaution_C > fumeLimit_C)
      fail(ctx as z.core.$RefinementCtx, "conflict", `must be at most fumeLimit_C (${fumeLimit_C} degC)`, ["fumeCaution_C"]);
  });

/** What identifies a foam. */
export const foamNameFields = { family: foamFamilySchema, own: ownFoam.optional(), density_kg_m3: figure("density_kg_m3") };

const foamFields = {
  density_kg_m3: figure("density_kg_m3"),
  /** True when the density is of a block that was measured and weighed. */
  weighed: z.boolean({ error: "must be true or false" }).optional(),
  /** A board with recycled content: it cuts less well, and things in it stop the wire. */
  recycled: z.boolean({ error: "must be true or false" }).optional(),
  conductivity_W_mK: figure("conductivity_W_mK").optional(),
  specificHeat_J_kgK: figure("specificHeat_J_kgK").optional(),
  latent_kJ_kg: figure("latent_kJ_kg").optional(),
  collapse_C: figure("collapse_C").optional(),
  strength10_kPa: figure("strength10_kPa").optional(),
};
/** A foam by figures. */
export const foamObject = z.strictObject({
  family: foamFamilySchema,
  own: ownFoam.optional(),
  ...foamFields,
});

/** A foam by short name ("eps-20") or by figures. */
export const foamSchema = z.unknown().transform((value, ctx): FoamSpec => {
  if (typeof value !== "string") return parsed(foamObject, value, ctx);
  try {
    return parseFoamId(value);
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    fail(ctx, error.code, error.message);
    return z.NEVER;
  }
});
