import { distance, type Line, type Point } from "../../geometry/points";

/** Fewer points than this make no arc. */
const LEAST_POINTS = 4;
/** Turning by more than this in one arc leaves its end ill-defined: it is broken in two, radians. */
const MOST_TURN = 1.9 * Math.PI;
/** Flatter than this is as good as straight, mm. */
const MOST_RADIUS_MM = 5000;

export interface ProgramArc {
  /** index of its last point */
  to: number;
  centre: Point;
  clockwise: boolean;
  lengthMm: number;
}

function circleOf(a: Point, b: Point, c: Point): { centre: Point; radius: number } | null {
  const [bx, by, cx, cy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
  const d = 2 * (bx * cy - by * cx);
  if (Math.abs(d) < 1e-9) return null;
  const [b2, c2] = [bx * bx + by * by, cx * cx + cy * cy];
  const [ux, uy] = [(cy * b2 - by * c2) / d, (bx * c2 - cx * b2) / d];
  return { centre: [a[0] + ux, a[1] + uy], radius: Math.hypot(ux, uy) };
}

/**
 * The longest arc that begins at a point of a line and leaves it nowhere by more than so much.
 * @param until index it may not go beyond
 * @returns null where too few points lie on one circle
 */
export function arcFrom(line: Line, from: number, until: number, withinMm: number): ProgramArc | null {
  const first = line[from] as Point;
  let best: ProgramArc | null = null;
  for (let to = from + LEAST_POINTS - 1; to <= until; to++) {
    const circle = circleOf(first, line[(from + to) >> 1] as Point, line[to] as Point);
    if (!circle || circle.radius > MOST_RADIUS_MM) break;
    const { centre, radius } = circle;
    const angle = (p: Point) => Math.atan2(p[1] - centre[1], p[0] - centre[0]);
    let [turn, sense, good] = [0, 0, true];
    for (let i = from; i <= to && good; i++) {
      const p = line[i] as Point;
      if (Math.abs(distance(p, centre) - radius) > withinMm) good = false;
      if (i === from) continue;
      const q = line[i - 1] as Point;
      let step = angle(p) - angle(q);
      if (step > Math.PI) step -= 2 * Math.PI;
      if (step < -Math.PI) step += 2 * Math.PI;
      // Round one way only, and nowhere farther from its chord than it may be.
      if (sense !== 0 && Math.sign(step) !== sense) good = false;
      sense = Math.sign(step);
      if (radius * (1 - Math.cos(step / 2)) > withinMm) good = false;
      turn += step;
    }
    if (!good || Math.abs(turn) > MOST_TURN) break;
    best = { to, centre, clockwise: turn < 0, lengthMm: Math.abs(turn) * radius };
  }
  return best;
}
