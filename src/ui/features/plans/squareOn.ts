import type { Bounds, Point } from "@/core/geometry/points";

/** Room around the outline, px. */
const ROOM_PX = 56;

/** An outline seen square on: mm (x aft, y up) to px (y down) and back. */
export interface SquareOn {
  px: (mm: Point) => Point;
  mm: (px: Point) => Point;
  /** an SVG path of a line in mm */
  path: (line: readonly Point[], closed: boolean) => string;
}

/** Fits bounds (mm) into a picture (px), centred, at one scale both ways. */
export function squareOn({ minX, minY, maxX, maxY }: Bounds, width: number, height: number): SquareOn {
  const scale = Math.min((width - 2 * ROOM_PX) / Math.max(1, maxX - minX), (height - 2 * ROOM_PX) / Math.max(1, maxY - minY));
  const left = (width - (maxX - minX) * scale) / 2;
  const top = (height - (maxY - minY) * scale) / 2;
  const px = ([x, y]: Point): Point => [left + (x - minX) * scale, top + (maxY - y) * scale];
  return {
    px,
    mm: ([x, y]) => [minX + (x - left) / scale, maxY - (y - top) / scale],
    path: (line, closed) =>
      `M${line
        .map(px)
        .map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`)
        .join("L")}${closed ? "Z" : ""}`,
  };
}

/** Which of some places is nearest, no farther than so many px; null where none is. */
export function nearestWithin<T>(items: readonly T[], placeOf: (item: T) => Point, to: Point, withinPx: number): T | null {
  let best: { item: T; px: number } | null = null;
  for (const item of items) {
    const [x, y] = placeOf(item);
    const px = Math.hypot(x - to[0], y - to[1]);
    if (px <= withinPx && (best === null || px < best.px)) best = { item, px };
  }
  return best?.item ?? null;
}
