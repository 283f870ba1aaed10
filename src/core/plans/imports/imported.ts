import { fill, offset, united } from "../../geometry/offset";
import { boundsOf, type Point, perimeter, type Region, regionArea } from "../../geometry/points";
import { CoreError, type Warning } from "../../kernel/errors";
import { endsOf } from "../shapes/record";

/** Longest file that is read, characters. */
export const MAX_DRAWING_CHARACTERS = 40_000_000;
/** Most points a drawing may have once its curves are lines. */
export const MAX_DRAWING_POINTS = 3_000_000;
/** Deepest that groups and blocks may be in one another. */
export const MOST_DEEP = 100;

/** What a bare number in a file may mean, mm each. A pixel is a 96th of an inch (CSS). */
export const UNITS_MM = { mm: 1, cm: 10, in: 25.4, px: 25.4 / 96 } as const;
export type DrawingUnit = keyof typeof UNITS_MM;

/** Something of a drawing that was not read, or perhaps not as it was meant. */
export interface ImportWarning extends Warning {
  /** share of the drawing that it concerns, by the number of things drawn: 0 to 1 */
  share: number;
}

/** What came in. */
export interface Imported {
  /** Largest first. */
  regions: Region[];
  /** joined, dropped, closed, cut out: what was done */
  notes: string[];
  warnings: ImportWarning[];
}

/** Counts points as they come, so that no file can fill the memory. */
export class PointBudget {
  private used = 0;
  take(count: number): void {
    this.used += count;
    if (this.used > MAX_DRAWING_POINTS) throw new CoreError("out-of-range", "text", `a drawing has at most ${MAX_DRAWING_POINTS} points`);
  }
}

export const requireShort = (text: string): void => {
  if (text.length > MAX_DRAWING_CHARACTERS) throw new CoreError("out-of-range", "text", `a drawing has at most ${MAX_DRAWING_CHARACTERS} characters`);
};

/** Least matter that counts as a shape, mm2: less is a speck. */
const SPECK_MM2 = 1e-4;

/** Thinner than this everywhere, a ring is a line whose stroke was widened to an outline, mm: no wire leaves so little standing. */
const RING_MM = 0.7;

/** The line along a thin ring's middle as a filled region; null for anything else. */
function ringFilled(region: Region): Region | null {
  const [hole, ...others] = region.holes;
  if (!hole || others.length > 0) return null;
  const thicknessMm = (2 * regionArea(region)) / (perimeter(region.outline) + perimeter(hole));
  if (thicknessMm > RING_MM || offset([region], -RING_MM / 2).length > 0) return null;
  const [middle, ...pieces] = offset([{ outline: region.outline, holes: [] }], -thicknessMm / 2);
  return middle && pieces.length === 0 ? middle : null;
}

/** Filled thin rings as the lines that they were drawn from, which enclose by the even-odd rule; the rest as it is. */
export function ringsAsLines(regions: readonly Region[], warnings: ImportWarning[]): Region[] {
  const filled = regions.map(ringFilled);
  const rings = filled.filter((each) => each !== null);
  if (rings.length === 0) return [...regions];
  warnings.push({
    code: "stroke-outline",
    message: `${rings.length} shapes are rings thinner than ${RING_MM} mm: strokes widened to outlines. Each is taken as one line along its middle`,
    share: rings.length / regions.length,
  });
  const solid = fill(
    rings.map(({ outline }) => outline),
    "evenodd",
  );
  const rest = regions.filter((_, i) => filled[i] === null);
  return rest.length > 0 ? united([...solid, ...rest]) : solid;
}

/** All that a drawing fills, united, largest first. @throws CoreError `no-solution` where nothing encloses anything */
export function regionsFrom(sets: readonly Region[][], notes: string[], warnings: ImportWarning[]): Imported {
  const drawn = sets.filter((set) => set.length > 0);
  const together = drawn.length > 1 ? united(drawn.flat()) : (drawn[0] ?? []);
  const regions = together.filter((region) => regionArea(region) > SPECK_MM2).sort((a, b) => regionArea(b) - regionArea(a));
  if (regions.length < together.length) notes.push(`dropped: ${together.length - regions.length} specks`);
  const thin = regions.filter((region) => ringFilled(region) !== null).length;
  if (thin > 0)
    warnings.push({
      code: "thin-ring",
      message: `${thin} of ${regions.length} shapes are rings thinner than ${RING_MM} mm: two lines so close together. No wire leaves so little standing`,
      share: thin / regions.length,
    });
  if (regions.length === 0) {
    const why = [...warnings.map(({ message }) => message), ...notes];
    throw new CoreError("no-solution", "text", `nothing in this drawing encloses anything${why.length > 0 ? `: ${why.join("; ")}` : ""}`);
  }
  return { regions, notes, warnings };
}

/** Where a piece begins and ends along x, as a section of it would be led: said with what came in, so that a drawing that is on its tail is seen. */
export function noseWords({ outline }: Region): string {
  const { nose, tail } = endsOf(outline);
  const { minX, minY } = boundsOf(outline);
  const at = ([x, y]: Point) => `${(x - minX).toFixed(1)}, ${(y - minY).toFixed(1)}`;
  const blunt = tail.upper[1] - tail.lower[1];
  return `nose found at ${at(nose)} mm, tail at ${at([tail.upper[0], (tail.upper[1] + tail.lower[1]) / 2])} mm${blunt > 0.01 ? `, ${blunt.toFixed(1)} mm thick` : ""}`;
}

export const sizeOf = ({ outline }: Region) => {
  const { minX, minY, maxX, maxY } = boundsOf(outline);
  return { widthMm: maxX - minX, heightMm: maxY - minY };
};
