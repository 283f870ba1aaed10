import { Clipper, Clipper64, ClipperOffset, ClipType, EndType, FillRule, JoinType, type Path64, PathType, type PolyPath64, PolyTree64 } from "clipper2-ts";
import { counterClockwise, linesOf, type Outline, type Point, type Region } from "./points";
import { TOLERANCE } from "./tolerance";

const STEPS = TOLERANCE.stepsPerMm;
const toPath = (outline: readonly Point[]): Path64 => outline.map(([x, y]) => ({ x: Math.round(x * STEPS), y: Math.round(y * STEPS) }));
const toOutline = (path: Path64): Outline => path.map(({ x, y }) => [x / STEPS, y / STEPS] as const);

/** Outer lines counter-clockwise with their holes clockwise; an island in a hole is a region of its own. */
function regionsOf(tree: PolyTree64): Region[] {
  const regions: Region[] = [];
  const children = (node: PolyPath64) => Array.from({ length: node.count }, (_, i) => node.child(i));
  const take = (node: PolyPath64) => {
    if (node.polygon) {
      regions.push({
        outline: counterClockwise(toOutline(node.polygon)),
        holes: children(node).map((hole) => [...counterClockwise(toOutline(hole.polygon ?? []))].reverse()),
      });
    }
    for (const hole of children(node)) for (const island of children(hole)) take(island);
  };
  for (const each of children(tree)) take(each);
  return regions;
}

export type Rule = "nonzero" | "evenodd";

/** Matter that closed lines enclose by a fill rule. Which way they run matters for "nonzero" only. */
export function fill(lines: readonly Outline[], rule: Rule): Region[] {
  const tree = new PolyTree64();
  const clipper = new Clipper64();
  clipper.addPaths(
    lines.map((line) => toPath(line)),
    PathType.Subject,
    false,
  );
  clipper.execute(ClipType.Union, rule === "nonzero" ? FillRule.NonZero : FillRule.EvenOdd, tree);
  return regionsOf(tree);
}

function combined(kind: ClipType, subject: readonly Region[], clip: readonly Region[]): Region[] {
  const tree = new PolyTree64();
  const clipper = new Clipper64();
  clipper.addPaths(subject.flatMap(linesOf).map(toPath), PathType.Subject, false);
  clipper.addPaths(clip.flatMap(linesOf).map(toPath), PathType.Clip, false);
  clipper.execute(kind, FillRule.NonZero, tree);
  return regionsOf(tree);
}

/** All of several regions in one, and what of the first lies outside the second. */
export const united = (regions: readonly Region[]): Region[] => combined(ClipType.Union, regions, []);
export const without = (regions: readonly Region[], taken: readonly Region[]): Region[] => combined(ClipType.Difference, regions, taken);
export const common = (regions: readonly Region[], others: readonly Region[]): Region[] => combined(ClipType.Intersection, regions, others);

/** Whether a line turns so little at every point that a sharp join, so far out, stands off the round one by less than the arcs' tolerance: it then takes one point instead of two. */
function isGentle(line: Outline, distanceMm: number): boolean {
  // A sharp join reaches to distance/cos(turn/2).
  const leastCosHalf = distanceMm / (distanceMm + TOLERANCE.arc / 2);
  const leastCos = 2 * leastCosHalf * leastCosHalf - 1;
  const n = line.length;
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [line[(i + n - 1) % n] as Point, line[i] as Point, line[(i + 1) % n] as Point];
    const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
    if (ux * vx + uy * vy < leastCos * Math.sqrt((ux * ux + uy * uy) * (vx * vx + vy * vy))) return false;
  }
  return true;
}

/**
 * Regions grown (positive) or shrunk by a distance, round joins.
 * @param distanceMm what is left may be nothing, or fall in pieces
 * @param joins "round" as a wire makes them, or "sharp" where a corner is to stay a corner
 */
export function offset(regions: readonly Region[], distanceMm: number, joins: "round" | "sharp" = "round"): Region[] {
  if (distanceMm === 0) return [...regions];
  const tree = new PolyTree64();
  const worker = new ClipperOffset(20, TOLERANCE.arc * STEPS);
  // Points that say nothing cost the most: every one of them would get a round corner.
  const lines = regions.flatMap(linesOf).map(thinned);
  const round = joins === "round" && !lines.every((line) => isGentle(line, Math.abs(distanceMm)));
  worker.addPaths(lines.map(toPath), round ? JoinType.Round : JoinType.Miter, EndType.Polygon);
  worker.execute(distanceMm * STEPS, tree);
  if (!round) return regionsOf(tree);
  // Every corner got points of its own: those that stand on a straight line say nothing.
  return regionsOf(tree).map(({ outline, holes }) => ({ outline: thinned(outline), holes: holes.map(thinned) }));
}

/** An outline without the points that lie within half the arcs' tolerance of a line through their neighbours. */
const thinned = (outline: Outline): Outline => simplified(outline, TOLERANCE.arc / 2);

/** An outline by fewer points, none of those left out farther off it than so many mm. */
export const simplified = (outline: Outline, withinMm: number): Outline => toOutline(Clipper.simplifyPath(toPath(outline), withinMm * STEPS, true));
