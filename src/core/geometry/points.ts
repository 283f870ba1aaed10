import { TOLERANCE } from "./tolerance";

/** Millimetres: x along the chord, y up. */
export type Point = readonly [number, number];
/** A closed line without its first point repeated, counter-clockwise where it bounds matter. */
export type Outline = readonly Point[];
/** An open line. */
export type Line = readonly Point[];
/** Matter inside an outline, less its holes (clockwise). */
export interface Region {
  outline: Outline;
  holes: readonly Outline[];
}

export interface Bounds {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

export const distance = (a: Point, b: Point): number => Math.hypot(b[0] - a[0], b[1] - a[1]);
export const lerp = (a: Point, b: Point, share: number): Point => [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];

/** Neighbours along a closed line, each with the one after it. */
export function* edges(outline: Outline): Generator<[Point, Point]> {
  for (let i = 0; i < outline.length; i++) yield [outline[i] as Point, outline[(i + 1) % outline.length] as Point];
}

/** Signed area, mm2: positive counter-clockwise (the shoelace formula). */
export function signedArea(outline: Outline): number {
  let twice = 0;
  let a = outline.at(-1) ?? [0, 0];
  for (const b of outline) {
    twice += a[0] * b[1] - b[0] * a[1];
    a = b;
  }
  return twice / 2;
}

/** Matter of a region, mm2. */
export const regionArea = ({ outline, holes }: Region): number =>
  Math.abs(signedArea(outline)) - holes.reduce((sum, hole) => sum + Math.abs(signedArea(hole)), 0);

export function perimeter(outline: Outline): number {
  let sum = 0;
  let a = outline.at(-1) ?? [0, 0];
  for (const b of outline) {
    sum += distance(a, b);
    a = b;
  }
  return sum;
}

export function lineLength(line: Line): number {
  let sum = 0;
  for (let i = 1; i < line.length; i++) sum += distance(line[i - 1] as Point, line[i] as Point);
  return sum;
}

export function boundsOf(points: Iterable<Point>): Bounds {
  const bounds = { minX: Number.POSITIVE_INFINITY, minY: Number.POSITIVE_INFINITY, maxX: Number.NEGATIVE_INFINITY, maxY: Number.NEGATIVE_INFINITY };
  for (const [x, y] of points) {
    if (x < bounds.minX) bounds.minX = x;
    if (x > bounds.maxX) bounds.maxX = x;
    if (y < bounds.minY) bounds.minY = y;
    if (y > bounds.maxY) bounds.maxY = y;
  }
  return bounds;
}

/** The same outline running counter-clockwise. */
export const counterClockwise = (outline: Outline): Outline => (signedArea(outline) < 0 ? [...outline].reverse() : outline);

/** Without points that are on the one before them, the last on the first included. */
export function withoutDoubles(points: readonly Point[], closed = true, within: number = TOLERANCE.same): Point[] {
  const saved: Point[] = [];
  for (const point of points) {
    const last = saved.at(-1);
    if (!last || distance(last, point) > within) saved.push(point);
  }
  while (closed && saved.length > 1 && distance(saved[0] as Point, saved.at(-1) as Point) <= within) saved.pop();
  return saved;
}

/** A placing in the plane: x' = a x + c y + e, y' = b x + d y + f. */
export type Transform = readonly [a: number, b: number, c: number, d: number, e: number, f: number];
export const IDENTITY: Transform = [1, 0, 0, 1, 0, 0];
export const apply = ([a, b, c, d, e, f]: Transform, [x, y]: Point): Point => [a * x + c * y + e, b * x + d * y + f];
/** First `inner`, then `outer`. */
export const after = (outer: Transform, inner: Transform): Transform => {
  const [a, b, c, d] = outer;
  const [e, f] = apply(outer, [inner[4], inner[5]]);
  return [a * inner[0] + c * inner[1], b * inner[0] + d * inner[1], a * inner[2] + c * inner[3], b * inner[2] + d * inner[3], e, f];
};
export const translation = (x: number, y: number): Transform => [1, 0, 0, 1, x, y];
export const scaling = (x: number, y = x): Transform => [x, 0, 0, y, 0, 0];
/** Counter-clockwise by so many degrees about a point. */
export function turning(degrees: number, [x, y]: Point = [0, 0]): Transform {
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return [cos, sin, -sin, cos, x - cos * x + sin * y, y - sin * x - cos * y];
}
/** Points moved; an outline that a mirror turned over runs counter-clockwise again. */
export function transformed(outline: Outline, transform: Transform): Outline {
  const moved = outline.map((point) => apply(transform, point));
  return transform[0] * transform[3] - transform[1] * transform[2] < 0 ? moved.reverse() : moved;
}

/** The same of a region, its holes still running the other way. */
export const transformedRegion = ({ outline, holes }: Region, transform: Transform): Region => ({
  outline: transformed(outline, transform),
  holes: holes.map((hole) => transformed(hole, transform)),
});
/** A region's lines, outer one first. */
export const linesOf = ({ outline, holes }: Region): Outline[] => [outline, ...holes];

/** Whether a point lies within an outline, by crossings to its right; the edge itself may be either. */
export function isInside([x, y]: Point, outline: Outline): boolean {
  let inside = false;
  for (const [a, b] of edges(outline)) {
    if (a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])) inside = !inside;
  }
  return inside;
}

/** Heights at which a vertical line meets an outline, lowest first; null where it misses. */
export function heightsAt(outline: Outline, x: number): { lower: number; upper: number } | null {
  let lower = Number.POSITIVE_INFINITY;
  let upper = Number.NEGATIVE_INFINITY;
  for (const [a, b] of edges(outline)) {
    if (Math.min(a[0], b[0]) > x || Math.max(a[0], b[0]) < x) continue;
    const ends = a[0] === b[0] ? [a[1], b[1]] : [a[1] + ((x - a[0]) / (b[0] - a[0])) * (b[1] - a[1])];
    for (const y of ends) {
      lower = Math.min(lower, y);
      upper = Math.max(upper, y);
    }
  }
  return lower <= upper ? { lower, upper } : null;
}

/** The nearest place of a line or outline to a point, and how far it is. */
export function nearest(point: Point, line: readonly Point[], closed = true): { at: Point; distance: number; edge: number } {
  const [px, py] = point;
  const last = closed ? line.length : line.length - 1;
  let [x, y] = line[0] as Point;
  // Squares are compared, and a point is made of the best only: this is asked for millions of edges.
  let best = (px - x) ** 2 + (py - y) ** 2;
  let edge = 0;
  for (let i = 0; i < last; i++) {
    const [ax, ay] = line[i] as Point;
    const [bx, by] = line[i + 1 === line.length ? 0 : i + 1] as Point;
    const [ux, uy] = [bx - ax, by - ay];
    const length2 = ux * ux + uy * uy;
    const along = length2 === 0 ? 0 : ((px - ax) * ux + (py - ay) * uy) / length2;
    const share = Math.min(1, Math.max(0, along));
    const [qx, qy] = [ax + ux * share, ay + uy * share];
    const away = (px - qx) * (px - qx) + (py - qy) * (py - qy);
    if (away < best) {
      best = away;
      edge = i;
      x = qx;
      y = qy;
    }
  }
  return { at: [x, y], distance: Math.sqrt(best), edge };
}
