import { distance, type Outline, type Point } from "../geometry/points";
import { CORNER_DEG, TOLERANCE } from "../geometry/tolerance";

/** A sharp outer corner: where, and the directions of its two edges. */
export interface Corner {
  at: Point;
  index: number;
  /** Turning there, degrees: positive at an outer corner of a counter-clockwise outline. */
  turnDeg: number;
  /** unit vectors along the edge before and the edge after */
  before: Point;
  after: Point;
}

/** Corners of a closed line: every place where it turns by more than 30 degrees at once. */
export function cornersOf(outline: Outline, leastDeg = CORNER_DEG): Corner[] {
  const n = outline.length;
  const found: Corner[] = [];
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [outline[(i + n - 1) % n] as Point, outline[i] as Point, outline[(i + 1) % n] as Point];
    const [u, v] = [distance(a, b), distance(b, c)];
    if (u < TOLERANCE.same || v < TOLERANCE.same) continue;
    const before: Point = [(b[0] - a[0]) / u, (b[1] - a[1]) / u];
    const after: Point = [(c[0] - b[0]) / v, (c[1] - b[1]) / v];
    const turnDeg = (Math.atan2(before[0] * after[1] - before[1] * after[0], before[0] * after[0] + before[1] * after[1]) * 180) / Math.PI;
    if (Math.abs(turnDeg) > leastDeg) found.push({ at: b, index: i, turnDeg, before, after });
  }
  return found;
}

/**
 * A closed guide that runs straight past the sharp outer corners of the part into the waste and comes back on the next edge's line, instead of turning round them:
 * the wire's middle, which comes later, is then past the corner before the ends turn. Common practice.
 * @param guide counter-clockwise, `offMm` outside `outline` with round joins
 * @param earMm how far past
 * @param but corners to be left alone, such as a face's own ends
 */
export function withEars(guide: Outline, outline: Outline, offMm: number, earMm: number, but: readonly Point[] = []): Outline {
  if (earMm === 0 || offMm < 0) return guide;
  let eared = guide;
  for (const { at, before, after, turnDeg } of cornersOf(outline)) {
    if (turnDeg < 0 || but.some((point) => distance(point, at) < TOLERANCE.gap)) continue;
    // The round join about this corner: all of the guide that is offset from it by no more than the offset.
    const near = eared.map((point) => distance(point, at) < offMm + 10 * TOLERANCE.arc);
    const first = near.findIndex((is, i) => is && !near[(i + eared.length - 1) % eared.length]);
    if (first < 0) continue;
    let count = 0;
    while (count < eared.length && near[(first + count) % eared.length]) count += 1;
    const rest = Array.from({ length: eared.length - count }, (_, i) => eared[(first + count + i) % eared.length] as Point);
    const past: Point = [at[0] + before[1] * offMm + before[0] * earMm, at[1] - before[0] * offMm + before[1] * earMm];
    const back: Point = [at[0] + after[1] * offMm - after[0] * earMm, at[1] - after[0] * offMm - after[1] * earMm];
    eared = [past, back, ...rest];
  }
  return eared;
}
