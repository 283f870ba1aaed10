import { z } from "zod";
import { bounded } from "../kernel/bounded";
import { foamFamilySchema } from "../materials/foamSchema";
import { figure } from "../units/figure";
import { type Answers, EXACTNESS, SHEET_LIMITS, WANTED } from "./answers";

const size = ({ min, max }: { min: number; max: number }) => bounded(min, max, "mm");
const yesNo = z.boolean({ error: "must be true or false" });

/** {@link Answers} as they are read back. */
export const answersSchema: z.ZodType<Answers> = z.strictObject({
  foam: z.strictObject({ family: foamFamilySchema, density_kg_m3: figure("density_kg_m3"), weighed: yesNo.optional(), recycled: yesNo.optional() }),
  width_mm: figure("width_mm"),
  thickness_mm: figure("thickness_mm"),
  wanted: z.enum(WANTED, { error: `must be one of ${WANTED.join(", ")}` }),
  sheet: z.strictObject({ thick_mm: size(SHEET_LIMITS.thick), along_mm: size(SHEET_LIMITS.along) }),
  pieces: figure("pieces").int({ error: "must be a whole number" }),
  exact: z.enum(EXACTNESS, { error: `must be one of ${EXACTNESS.join(", ")}` }),
  drawer: yesNo,
  things: z.array(z.string().max(40)).max(60),
  mains: yesNo,
  brisk: yesNo,
});
