import type { FoamFamilyId } from "../materials/foams";
import { slabGrams } from "../materials/foams";

/** What a maker wants out of the foam. */
export const WANTED = ["straight", "shape", "sheets", "pockets"] as const;
export type Wanted = (typeof WANTED)[number];
/** How exact it must come out. */
export const EXACTNESS = ["rough", "fair", "fine"] as const;
export type Exactness = (typeof EXACTNESS)[number];

/** What a slicer takes, mm. */
export const SHEET_LIMITS = { thick: { min: 0.1, max: 1000 }, along: { min: 1, max: 5000 } } as const;

/** The four questions, answered: stored in the browser while they are asked, so that Back and a reload lose nothing. */
export interface Answers {
  foam: { family: FoamFamilyId; density_kg_m3: number; weighed?: boolean | undefined; recycled?: boolean | undefined };
  width_mm: number;
  thickness_mm: number;
  wanted: Wanted;
  /** Thin sheets: how thick each is, and how long the block is along the cut. */
  sheet: { thick_mm: number; along_mm: number };
  pieces: number;
  exact: Exactness;
  /** Whether the drawer counts as at hand. */
  drawer: boolean;
  /** Ticked common things, by id. */
  things: string[];
  /** Whether mains-side parts (transformer, dimmer) may be offered. */
  mains: boolean;
  /** A quicker pace, for one who has cut before. */
  brisk: boolean;
}

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
