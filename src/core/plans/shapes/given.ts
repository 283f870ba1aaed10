import { z } from "zod";
import { fill } from "../../geometry/offset";
import {
  after,
  boundsOf,
  type Outline,
  type Point,
  type Region,
  regionArea,
  scaling,
  transformedRegion,
  translation,
  withoutDoubles,
} from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { readCoordinates } from "../imports/coordinates";
import { MAX_DRAWING_CHARACTERS } from "../imports/imported";
import { drawnFrom, type ShapeRecord } from "./record";

const FAR = 100_000;
const place = z
  .number({ error: `must be a number from -${FAR} to ${FAR} mm` })
  .min(-FAR, { error: `must be a number from -${FAR} to ${FAR} mm` })
  .max(FAR, { error: `must be a number from -${FAR} to ${FAR} mm` });
export const pointSchema = z.tuple([place, place], { error: "must be [x, y] in mm" });
export const outlineSchema = z
  .array(pointSchema, { error: "must be a list of [x, y]" })
  .min(3, { error: "needs at least 3 points" })
  .max(100_000, { error: "has room for 100000 points" });

/** An outline that may cross itself or run clockwise, as matter: what it encloses. */
function regionsOf(outline: Outline, field: string): Region[] {
  const regions = fill([withoutDoubles(outline)], "nonzero").sort((a, b) => regionArea(b) - regionArea(a));
  if (regions.length === 0) throw new CoreError("no-solution", field, `${field} enclose nothing`);
  return regions;
}

/** Moved so that it begins at x = 0, and scaled to a chord where one is asked for. */
export function toChord(regions: readonly Region[], chordMm: number | undefined, move: boolean): Region[] {
  if (chordMm === undefined && !move) return [...regions];
  const { minX, maxX } = boundsOf(regions.flatMap(({ outline }) => outline));
  const scale = chordMm === undefined ? 1 : chordMm / (maxX - minX);
  return regions.map((region) => transformedRegion(region, after(scaling(scale), translation(-minX, 0))));
}

export interface PointsShape {
  kind: "points";
  points_mm: Point[];
  /** within the outline or an island */
  holes_mm?: Point[][] | undefined;
  /** outlines apart from the first, such as the letters of a word */
  islands_mm?: Point[][] | undefined;
}
export const points: ShapeRecord<PointsShape> = {
  kind: "points",
  title: "Points",
  words: ({ points_mm, islands_mm = [] }) =>
    islands_mm.length > 0 ? `a drawing of ${islands_mm.length + 1} pieces` : `an outline of ${points_mm.length} points`,
  schema: z.strictObject({
    kind: z.literal("points"),
    points_mm: outlineSchema,
    holes_mm: z.array(outlineSchema).max(1000, { error: "has room for 1000 holes" }).optional(),
    islands_mm: z.array(outlineSchema).max(1000, { error: "has room for 1000 islands" }).optional(),
  }) as z.ZodType<PointsShape>,
  fields: [{ key: "points_mm", as: "pairs", label: "Points, x y in mm", hint: "one pair a line, once round" }],
  start: () => ({
    kind: "points",
    points_mm: [
      [0, 0],
      [200, 0],
      [150, 60],
      [40, 50],
    ],
  }),
  needsChord: false,
  law: null,
  draw: ({ points_mm, holes_mm = [], islands_mm = [] }, chordMm) => {
    const bare = [regionsOf(points_mm, "points_mm"), ...islands_mm.map((island, i) => regionsOf(island, `islands_mm.${i}`))].flat();
    const regions =
      holes_mm.length + islands_mm.length === 0
        ? bare
        : fill([...bare.map(({ outline }) => outline), ...holes_mm], "evenodd").sort((a, b) => regionArea(b) - regionArea(a));
    return drawnFrom(toChord(regions, chordMm, chordMm !== undefined));
  },
  examples: [
    {
      kind: "points",
      points_mm: [
        [0, 0],
        [200, 0],
        [150, 60],
      ],
    },
  ],
};

export interface CoordinatesShape {
  kind: "coordinates";
  text: string;
}
export const coordinates: ShapeRecord<CoordinatesShape> = {
  kind: "coordinates",
  title: "Section coordinates",
  words: ({ text }) => readCoordinates(text).title ?? "a section from its coordinates",
  schema: z.strictObject({
    kind: z.literal("coordinates"),
    text: z.string({ error: "must be text" }).max(MAX_DRAWING_CHARACTERS, { error: "is too long" }),
  }),
  fields: [{ key: "text", as: "long", label: "Coordinates", hint: "x y a line, once round or upper then lower" }],
  start: () => ({ kind: "coordinates", text: "Plank\n1 0\n0.5 0.06\n0 0\n0.5 -0.02\n" }),
  needsChord: true,
  law: null,
  draw: ({ text }, chordMm) => {
    const { outline, notes, warnings } = readCoordinates(text);
    return drawnFrom(toChord(regionsOf(outline, "text"), chordMm, true), [...notes, ...warnings.map(({ message }) => message)]);
  },
  examples: [{ kind: "coordinates", text: "Plank\n1 0\n0.5 0.06\n0 0\n0.5 -0.02\n" }],
};

export interface ColumnShape {
  kind: "column";
  /** [along the axis, radius there], from one end to the other */
  profile_mm: Point[];
  /** Passes of the one profile, the block turned by 360 degrees over so many between them: so many sides. */
  passes: number;
}
/** Sides a column may be given. */
const PASSES = { min: 3, max: 90 } as const;
export const column: ShapeRecord<ColumnShape> = {
  kind: "column",
  title: "Column profile",
  words: ({ profile_mm, passes }) => `a column of ${profile_mm.length} measures in ${passes} passes`,
  schema: z
    .strictObject({
      kind: z.literal("column"),
      profile_mm: z.array(pointSchema).min(2, { error: "needs at least 2 places" }).max(2000, { error: "has room for 2000 places" }),
      passes: z
        .number({ error: `must be a whole number from ${PASSES.min} to ${PASSES.max}` })
        .int({ error: `must be a whole number from ${PASSES.min} to ${PASSES.max}` })
        .min(PASSES.min, { error: `must be a whole number from ${PASSES.min} to ${PASSES.max}` })
        .max(PASSES.max, { error: `must be a whole number from ${PASSES.min} to ${PASSES.max}` })
        .default(8),
    })
    .superRefine(({ profile_mm }, ctx) => {
      for (const [i, [along, radius]] of profile_mm.entries()) {
        const complain = (message: string) =>
          ctx.issues.push({ code: "custom", message, path: ["profile_mm", i], input: undefined, params: { code: "out-of-range" } });
        if (radius < 0) complain("must have a radius of at least 0 mm");
        if (i > 0 && along < (profile_mm[i - 1]?.[0] ?? 0)) complain("must not lie before the place above it");
      }
    }) as z.ZodType<ColumnShape>,
  fields: [
    { key: "profile_mm", as: "pairs", label: "Along the axis and radius there, mm", hint: "one pair a line, from one end to the other" },
    { key: "passes", as: "number", label: "Passes", unit: "sides of the column", ...PASSES, whole: true },
  ],
  start: () => ({
    kind: "column",
    passes: 8,
    profile_mm: [
      [0, 70],
      [40, 70],
      [50, 45],
      [400, 38],
      [410, 60],
      [450, 60],
    ],
  }),
  needsChord: false,
  law: null,
  draw: ({ profile_mm }, chordMm) => {
    const there = [...profile_mm].reverse();
    return drawnFrom(toChord(regionsOf([...there, ...profile_mm.map(([along, radius]): Point => [along, -radius])], "profile_mm"), chordMm, true));
  },
  examples: [
    {
      kind: "column",
      passes: 6,
      profile_mm: [
        [0, 70],
        [400, 40],
      ],
    },
  ],
};
