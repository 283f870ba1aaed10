import { fill } from "./offset";
import { type Outline, type Point, regionArea, signedArea } from "./points";

/** Where two stretches cross properly: not at an end of either. */
function crossingAt(a: Point, b: Point, c: Point, d: Point): Point | null {
  const side = (p: Point, q: Point, r: Point) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
  const [c1, d1, a1, b1] = [side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)];
  if (!(c1 * d1 < 0 && a1 * b1 < 0)) return null;
  const share = a1 / (a1 - b1);
  return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
}

/** An outline that encloses this share less or more than its own loops say crosses itself. */
const DIFFERENT = 1e-4;

/**
 * A place where an outline crosses itself; null for one that does not. Touching and retracing are no crossings: they enclose the same.
 * @throws CoreError as {@link fill}
 */
export function crossingOf(outline: Outline): Point | null {
  const filled = fill([outline], "nonzero").reduce((sum, region) => sum + regionArea(region), 0);
  if (Math.abs(filled - Math.abs(signedArea(outline))) <= DIFFERENT * filled) return null;
  const n = outline.length;
  for (let i = 0; i < n; i++) {
    const [a, b] = [outline[i] as Point, outline[(i + 1) % n] as Point];
    const [minX, maxX, minY, maxY] = [Math.min(a[0], b[0]), Math.max(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[1], b[1])];
    for (let k = i + 2; k < n; k++) {
      const [c, d] = [outline[k] as Point, outline[(k + 1) % n] as Point];
      if (Math.max(c[0], d[0]) < minX || Math.min(c[0], d[0]) > maxX || Math.max(c[1], d[1]) < minY || Math.min(c[1], d[1]) > maxY) continue;
      const at = crossingAt(a, b, c, d);
      if (at) return at;
    }
  }
  // It winds twice about something without a proper crossing: two of its points meet there.
  return outline[0] as Point;
}
