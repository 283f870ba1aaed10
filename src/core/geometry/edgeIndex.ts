import Flatbush from "flatbush";
import { nearest, type Outline, type Point } from "./points";

/**
 * Whether points lie within a distance of any edge of some outlines: for very many points.
 * @param withinMm distance, mm
 */
export function edgesWithin(outlines: readonly Outline[], withinMm: number): (point: Point) => boolean {
  const edges = outlines.flatMap((outline) => outline.map((from, i): [Point, Point] => [from, outline[(i + 1) % outline.length] as Point]));
  if (edges.length === 0) return () => false;
  const index = new Flatbush(edges.length);
  for (const [[ax, ay], [bx, by]] of edges) index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
  index.finish();
  return (point) => {
    const [x, y] = point;
    let found = false;
    index.search(x - withinMm, y - withinMm, x + withinMm, y + withinMm, (i) => {
      found ||= nearest(point, edges[i] as [Point, Point], false).distance <= withinMm;
      return false;
    });
    return found;
  };
}
