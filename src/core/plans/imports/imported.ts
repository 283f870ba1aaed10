import type { Rule } from "../../geometry/offset";
import { fill, united } from "../../geometry/offset";
import { boundsOf, type Outline, type Point, type Region, regionArea } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { endsOf } from "../shapes/record";

/** Longest file that is read, characters. */
export const MAX_DRAWING_CHARACTERS = 40_000_000;
/** Most points a drawing may have once its curves are lines. */
export const MAX_DRAWING_POINTS = 3_000_000;
/** Deepest that groups and blocks may stand in one another. */
export const MOST_DEEP = 100;

/** What a bare number in a file may mean, mm each. A pixel is a 96th of an inch (CSS). */
export const UNITS_MM = { mm: 1, cm: 10, in: 25.4, px: 25.4 / 96 } as const;
export type DrawingUnit = keyof typeof UNITS_MM;

/** What came in. */
export interface Imported {
  /** Largest first. */
  regions: Region[];
  /** joined, dropped, closed, refused: what was done and what was not taken */
  notes: string[];
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

/** Closed lines, each set with its fill rule, as regions largest first. @throws CoreError `no-solution` where nothing encloses anything */
export function regionsFrom(sets: readonly { lines: readonly Outline[]; rule: Rule }[], notes: string[]): Imported {
  const each = sets.flatMap(({ lines, rule }) => fill(lines, rule));
  const all = sets.length > 1 ? united(each) : each;
  const regions = all.filter((region) => regionArea(region) > SPECK_MM2).sort((a, b) => regionArea(b) - regionArea(a));
  if (regions.length < all.length) notes.push(`dropped: ${all.length - regions.length} specks`);
  if (regions.length === 0)
    throw new CoreError("no-solution", "text", `nothing in this drawing encloses anything${notes.length > 0 ? `: ${notes.join("; ")}` : ""}`);
  return { regions, notes };
}

/** Where a piece begins and ends along x, as a section of it would be led: said with what came in, so that a drawing that stands on its tail is seen. */
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
