import { type Outline, type Point, perimeter, signedArea } from "../geometry/points";
import { CoreError } from "../kernel/errors";

/** A straight cut of a plan form: which of its edges, how long through what is left of the blank, and how far the block is turned for it. */
export interface StraightCut {
  edge: number;
  lengthMm: number;
  turnDeg: number;
  from: Point;
  to: Point;
}

/** More edges than this are no plan form for straight cuts. */
export const MOST_EDGES = 12;

/** Keeps the left side of the line from a to b of a convex outline; also the stretch of the line within it. */
function halved(outline: Outline, a: Point, b: Point): { left: Point[]; chord: [Point, Point] | null } {
  const side = ([x, y]: Point) => (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]);
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const left: Point[] = [];
  const on: Point[] = [];
  for (let i = 0; i < outline.length; i++) {
    const [p, q] = [outline[i] as Point, outline[(i + 1) % outline.length] as Point];
    const [sp, sq] = [side(p), side(q)];
    if (sp >= -1e-9 * long) left.push(p);
    if (Math.abs(sp) <= 1e-9 * long) on.push(p);
    if (sp * sq < 0 && Math.abs(sp) > 1e-9 * long && Math.abs(sq) > 1e-9 * long) {
      const t = sp / (sp - sq);
      const cross: Point = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
      left.push(cross);
      on.push(cross);
    }
  }
  const along = ([x, y]: Point) => ((x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / long;
  on.sort((p, q) => along(p) - along(q));
  const [first, last] = [on[0], on.at(-1)];
  return { left, chord: first && last && along(last) - along(first) > 1e-9 ? [first, last] : null };
}

/**
 * The order in which straight cuts free a convex plan form from its blank with the least way through foam: every set of cuts leaves one blank, so the best way to each set is kept
 * (dynamic programming over sets). Edges that lie on the blank's own side need no cut.
 * @throws CoreError `out-of-range` where the form is not convex, too many-sided, or not within the blank
 */
export function bestOrder(form: Outline, blank: Outline, field: string): { cuts: StraightCut[]; totalMm: number } {
  const outline = signedArea(form) < 0 ? [...form].reverse() : [...form];
  const n = outline.length;
  if (n < 3 || n > MOST_EDGES) throw new CoreError("out-of-range", field, `${field} must be from 3 to ${MOST_EDGES} corners`);
  const at = (i: number) => outline[(i + n) % n] as Point;
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [at(i - 1), at(i), at(i + 1)];
    if ((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]) < -1e-9 * perimeter(outline))
      throw new CoreError("out-of-range", field, `${field}: the corner at ${b[0]}, ${b[1]} goes inward: a wire that falls straight through cannot cut it`);
  }
  const left: (Point[] | undefined)[] = [];
  left[0] = [...blank];
  const best = new Float64Array(1 << n).fill(Number.POSITIVE_INFINITY);
  const last = new Int8Array(1 << n).fill(-1);
  best[0] = 0;
  for (let set = 0; set < 1 << n; set++) {
    const here = left[set];
    if (!here || !Number.isFinite(best[set] as number)) continue;
    for (let i = 0; i < n; i++) {
      if (set & (1 << i)) continue;
      const { left: rest, chord } = halved(here, at(i), at(i + 1));
      if (rest.length < 3) throw new CoreError("out-of-range", field, `${field} does not lie within its blank`);
      // A side that is the blank's own takes no cut.
      const cuts = chord && Math.abs(signedArea(rest)) < Math.abs(signedArea(here)) * (1 - 1e-9);
      const total = (best[set] as number) + (cuts && chord ? Math.hypot(chord[1][0] - chord[0][0], chord[1][1] - chord[0][1]) : 0);
      const next = set | (1 << i);
      left[next] ??= rest;
      if (total < (best[next] as number) - 1e-9) {
        best[next] = total;
        last[next] = i;
      }
    }
  }
  const order: number[] = [];
  for (let set = (1 << n) - 1; set > 0; ) {
    const i = last[set] as number;
    order.unshift(i);
    set &= ~(1 << i);
  }
  const cuts: StraightCut[] = [];
  let rest = [...blank];
  let faced = 0;
  for (const edge of order) {
    const { left: next, chord } = halved(rest, at(edge), at(edge + 1));
    const shrinks = Math.abs(signedArea(next)) < Math.abs(signedArea(rest)) * (1 - 1e-9);
    rest = next;
    if (!chord || !shrinks) continue;
    const heading = (Math.atan2(chord[1][1] - chord[0][1], chord[1][0] - chord[0][0]) * 180) / Math.PI;
    // A cut may be made from either side of its line.
    const turn = ((((heading - faced) % 180) + 270) % 180) - 90;
    faced = heading;
    cuts.push({ edge, lengthMm: Math.hypot(chord[1][0] - chord[0][0], chord[1][1] - chord[0][1]), turnDeg: turn, from: chord[0], to: chord[1] });
  }
  return { cuts, totalMm: best[(1 << n) - 1] as number };
}
