import type { Line, Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";

export const CARRIAGES: Relation = {
  id: "carriages",
  title: "Where the carriages are",
  formula: "left = R - (Q - R) a/s, right = Q + (Q - R) b/s, b = W - a - s",
  words: "The wire is straight: what it does at the block's two faces says what it does at both carriages, farther out on each side.",
  range: "a taut wire",
  basis: "published",
  source: "similar triangles",
};

/** How the block is between the carriages, mm. */
export interface CarriageLayout {
  /** carriage to carriage */
  lengthMm: number;
  /** left carriage to the block's near face */
  toBlockMm: number;
  /** near face to far face */
  spanMm: number;
}

const between = (p: Point, q: Point, t: number): Point => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];

/** Carriages' ways for ways at the block's faces. */
export function carriagesOf({ lengthMm, toBlockMm, spanMm }: CarriageLayout, root: Line, tip: Line): { left: Point[]; right: Point[] } {
  const beyond = lengthMm - toBlockMm - spanMm;
  return {
    left: root.map((point, i) => between(point, tip[i] as Point, -toBlockMm / spanMm)),
    right: root.map((point, i) => between(point, tip[i] as Point, 1 + beyond / spanMm)),
  };
}

/** The ways at the block's faces of carriages' ways: the other way round. */
export function carriageFaces({ lengthMm, toBlockMm, spanMm }: CarriageLayout, left: Line, right: Line): { root: Point[]; tip: Point[] } {
  return {
    root: left.map((point, i) => between(point, right[i] as Point, toBlockMm / lengthMm)),
    tip: left.map((point, i) => between(point, right[i] as Point, (toBlockMm + spanMm) / lengthMm)),
  };
}

/** @throws CoreError `out-of-range` that names the point, the carriage and the axis where a way leaves its travel */
export function requireTravel(
  lines: readonly { name: string; axes: readonly [string, string]; line: Line }[],
  travelMm: readonly (readonly [number, number])[],
): void {
  for (const { name, axes, line } of lines)
    for (const [i, point] of line.entries())
      for (const k of [0, 1] as const) {
        const [least, most] = travelMm[k] ?? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
        if (point[k] < least - 1e-9 || point[k] > most + 1e-9)
          throw new CoreError(
            "out-of-range",
            `path_mm.${i}`,
            `at point ${i} the ${name} would be at ${axes[k]}${point[k].toFixed(3)}, outside its travel from ${least} to ${most} mm: move the block, or turn the part`,
          );
      }
}

/** The widest the wire is stretched, mm beyond the carriages' own distance, and where. */
export function widestStretch(lengthMm: number, left: Line, right: Line): { mm: number; at: number } {
  let best = { mm: 0, at: 0 };
  for (const [i, [x, y]] of left.entries()) {
    const [u, v] = right[i] as Point;
    const mm = Math.hypot(lengthMm, u - x, v - y) - lengthMm;
    if (mm > best.mm) best = { mm, at: i };
  }
  return best;
}
