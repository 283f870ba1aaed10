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
import { bounded, boundedWhole } from "../../kernel/bounded";
import { CoreError } from "../../kernel/errors";
import { plain, typedText, type ValuesOf } from "../../units/field";
import { readCoordinates } from "../imports/coordinates";
import { MAX_DRAWING_CHARACTERS } from "../imports/imported";
import { drawnFrom, shapeOf } from "./record";

const FAR = 100_000;
const place = bounded(-FAR, FAR, "mm");
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

const pointsFields = [
  typedText(
    "points_mm",
    "Points, x y in mm",
    outlineSchema as z.ZodType<Point[]>,
    [
      [0, 0],
      [200, 0],
      [150, 60],
      [40, 50],
    ],
    { hint: "one pair a line, once round", lines: "pairs" },
  ),
];
export type PointsShape = { kind: "points" } & ValuesOf<typeof pointsFields> & {
    /** within the outline or an island */
    holes_mm?: Point[][] | undefined;
    /** outlines apart from the first, such as the letters of a word */
    islands_mm?: Point[][] | undefined;
  };
export const points = shapeOf<PointsShape>(
  {
    kind: "points",
    title: "Points",
    fields: pointsFields,
    words: ({ points_mm, islands_mm = [] }) =>
      islands_mm.length > 0 ? `a drawing of ${islands_mm.length + 1} pieces` : `an outline of ${points_mm.length} points`,
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
  },
  (own) =>
    own.extend({
      holes_mm: z.array(outlineSchema).max(1000, { error: "has room for 1000 holes" }).optional(),
      islands_mm: z.array(outlineSchema).max(1000, { error: "has room for 1000 islands" }).optional(),
    }),
);

const coordinatesFields = [
  typedText(
    "text",
    "Coordinates",
    z.string({ error: "must be text" }).max(MAX_DRAWING_CHARACTERS, { error: "is too long" }),
    "Plank\n1 0\n0.5 0.06\n0 0\n0.5 -0.02\n",
    { hint: "x y a line, once round or upper then lower", lines: "text" },
  ),
];
export type CoordinatesShape = { kind: "coordinates" } & ValuesOf<typeof coordinatesFields>;
export const coordinates = shapeOf<CoordinatesShape>({
  kind: "coordinates",
  title: "Section coordinates",
  fields: coordinatesFields,
  words: ({ text }) => readCoordinates(text).title ?? "a section from its coordinates",
  needsChord: true,
  law: null,
  draw: ({ text }, chordMm) => {
    const { outline, notes, warnings } = readCoordinates(text);
    return drawnFrom(toChord(regionsOf(outline, "text"), chordMm, true), [...notes, ...warnings.map(({ message }) => message)]);
  },
  examples: [{ kind: "coordinates", text: "Plank\n1 0\n0.5 0.06\n0 0\n0.5 -0.02\n" }],
});

/** [along the axis, radius there], from one end to the other. */
const profileSchema = z
  .array(pointSchema)
  .min(2, { error: "needs at least 2 places" })
  .max(2000, { error: "has room for 2000 places" })
  .superRefine((profile, ctx) => {
    for (const [i, [along, radius]] of profile.entries()) {
      const complain = (message: string) => ctx.issues.push({ code: "custom", message, path: [i], input: undefined, params: { code: "out-of-range" } });
      if (radius < 0) complain("must have a radius of at least 0 mm");
      if (i > 0 && along < (profile[i - 1]?.[0] ?? 0)) complain("must not lie before the place above it");
    }
  });
const columnFields = [
  typedText(
    "profile_mm",
    "Along the axis and radius there, mm",
    profileSchema as z.ZodType<Point[]>,
    [
      [0, 70],
      [40, 70],
      [50, 45],
      [400, 38],
      [410, 60],
      [450, 60],
    ],
    { hint: "one pair a line, from one end to the other", lines: "pairs" },
  ),
  // Passes of the one profile, the block turned by 360 degrees over so many between them.
  plain("", "passes", "Passes", "sides of the column", [3, 90], 8, { whole: true }),
];
export type ColumnShape = { kind: "column" } & ValuesOf<typeof columnFields>;
export const column = shapeOf<ColumnShape>(
  {
    kind: "column",
    title: "Column profile",
    fields: columnFields,
    words: ({ profile_mm, passes }) => `a column of ${profile_mm.length} measures in ${passes} passes`,
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
  },
  (own) => own.extend({ passes: boundedWhole(3, 90).default(8) }),
);
