import Flatbush from "flatbush";
import { nearest, type Outline, type Point } from "./points";

type Edge = readonly [Point, Point];

const edgesOf = (outline: Outline): Edge[] => outline.map((from, i) => [from, outline[(i + 1) % outline.length] as Point]);

function indexOf(edges: readonly Edge[]): Flatbush {
  const index = new Flatbush(edges.length);
  for (const [[ax, ay], [bx, by]] of edges) index.add(Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by));
  index.finish();
  return index;
}

/** Looks at every edge whose box comes as near to a point as that, mm. */
const around = (index: Flatbush, [x, y]: Point, mm: number, look: (edge: number) => void): void => {
  index.search(x - mm, y - mm, x + mm, y + mm, (i) => {
    look(i);
    return false;
  });
};

/**
 * Whether points lie within a distance of any edge of some outlines: for very many points.
 * @param withinMm distance, mm
 */
export function edgesWithin(outlines: readonly Outline[], withinMm: number): (point: Point) => boolean {
  const edges = outlines.flatMap(edgesOf);
  if (edges.length === 0) return () => false;
  const index = indexOf(edges);
  return (point) => {
    let found = false;
    around(index, point, withinMm, (i) => {
      found ||= nearest(point, edges[i] as Edge, false).distance <= withinMm;
    });
    return found;
  };
}

/**
 * The nearest place of one closed line to very many points, as `nearest` of points.ts finds it for one.
 * @param line of at least two points
 */
export function nearestOn(line: Outline): (point: Point) => { at: Point; distance: number; edge: number } {
  const edges = edgesOf(line);
  const index = indexOf(edges);
  const onEdge = (point: Point, edge: number) => ({ ...nearest(point, edges[edge] as Edge, false), edge });
  return (point) => {
    // Nothing is nearer than an edge of the nearest box, but what lies as near itself.
    let best = onEdge(point, index.neighbors(point[0], point[1], 1)[0] as number);
    around(index, point, best.distance, (i) => {
      const found = onEdge(point, i);
      if (found.distance < best.distance || (found.distance === best.distance && i < best.edge)) best = found;
    });
    return best;
  };
}
