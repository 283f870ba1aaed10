import { z } from "zod";
import { bounded } from "../kernel/bounded";
import { foamFamilySchema } from "../materials/foamSchema";
import { slabGrams } from "../materials/foams";
import { figure } from "../units/figure";

/** What a maker wants out of the foam. */
export const WANTED = ["straight", "shape", "sheets", "pockets"] as const;
export type Wanted = (typeof WANTED)[number];
/** How exact it must come out. */
export const EXACTNESS = ["rough", "fair", "fine"] as const;
export type Exactness = (typeof EXACTNESS)[number];

/** What a slicer takes, mm. */
export const SHEET_LIMITS = { thick: { min: 0.1, max: 1000 }, along: { min: 1, max: 5000 } } as const;

const size = ({ min, max }: { min: number; max: number }) => bounded(min, max, "mm");
const yesNo = z.boolean({ error: "must be true or false" });

/** A foreman's four questions, answered: kept in the browser while they are asked, so that Back and a reload lose nothing. */
export const answersSchema = z.strictObject({
  foam: z.strictObject({ family: foamFamilySchema, density_kg_m3: figure("density_kg_m3"), weighed: yesNo.optional(), recycled: yesNo.optional() }),
  width_mm: figure("width_mm"),
  thickness_mm: figure("thickness_mm"),
  wanted: z.enum(WANTED, { error: `must be one of ${WANTED.join(", ")}` }),
  /** Thin sheets: how thick each is, and how long the block is along the cut. */
  sheet: z.strictObject({ thick_mm: size(SHEET_LIMITS.thick), along_mm: size(SHEET_LIMITS.along) }),
  pieces: figure("pieces").int({ error: "must be a whole number" }),
  exact: z.enum(EXACTNESS, { error: `must be one of ${EXACTNESS.join(", ")}` }),
  /** Whether the drawer counts as at hand. */
  drawer: yesNo,
  /** Ticked common things, by id. */
  things: z.array(z.string().max(40)).max(60),
  /** Whether mains-side parts (transformer, dimmer) may be offered. */
  mains: yesNo,
  /** A quicker pace, for one who has cut before. */
  brisk: yesNo,
});
export type Answers = z.output<typeof answersSchema>;

/** What one sheet weighs, g. */
export const sheetGrams = ({ sheet, width_mm, foam }: Pick<Answers, "sheet" | "width_mm" | "foam">): number =>
  slabGrams(sheet.along_mm, width_mm, sheet.thick_mm, foam.density_kg_m3);

/** Where a newcomer begins: light bead foam, a block a forearm wide. */
export const FIRST_ANSWERS: Answers = {
  foam: { family: "eps", density_kg_m3: 20 },
  width_mm: 400,
  thickness_mm: 75,
  wanted: "straight",
  sheet: { thick_mm: 2, along_mm: 300 },
  pieces: 4,
  exact: "fair",
  drawer: true,
  things: [],
  mains: false,
  brisk: false,
};
