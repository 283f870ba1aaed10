import { Clipper, Clipper64, ClipperOffset, ClipType, EndType, FillRule, JoinType, type Path64, PathType, type PolyPath64, PolyTree64 } from "clipper2-ts";
import { checked, type Mirror, mirrored } from "./checked";
import { edgesWithin } from "./edgeIndex";
import { counterClockwise, type Line, linesOf, type Outline, type Point, perimeter, type Region, signedArea } from "./points";
import { type Difference, differenceOf, scanlinesOf, spansOn } from "./scanline";
import { type GridPoint, withoutSpikes, withSharedPoints } from "./spikes";
import { TOLERANCE } from "./tolerance";

const STEPS = TOLERANCE.stepsPerMm;
const toGrid = (outline: readonly Point[]): Path64 => outline.map(([x, y]) => ({ x: Math.round(x * STEPS), y: Math.round(y * STEPS) }));
const toOutline = (path: Path64): Outline => path.map(({ x, y }) => [x / STEPS, y / STEPS] as const);
const toPoint = ({ x, y }: GridPoint): Point => [x / STEPS, y / STEPS];

/** Outer lines counter-clockwise with their holes clockwise; an island in a hole is a region of its own. */
function regionsOf(tree: PolyTree64, mirror: Mirror): Region[] {
  const regions: Region[] = [];
  const children = (node: PolyPath64) => Array.from({ length: node.count }, (_, i) => node.child(i));
  const outlineOf = (path: Path64 | null) => counterClockwise(toOutline(mirrored(path ?? [], mirror)));
  const take = (node: PolyPath64) => {
    if (node.polygon) regions.push({ outline: outlineOf(node.polygon), holes: children(node).map((hole) => [...outlineOf(hole.polygon)].reverse()) });
    for (const hole of children(node)) for (const island of children(hole)) take(island);
  };
  for (const each of children(tree)) take(each);
  return regions;
}

/** Material that an operation may lose or add by rounding: mm2 for each mm of its lines. */
const ROUNDING_MM = 20 / STEPS;

export type Rule = "nonzero" | "evenodd";
const FILL = { nonzero: FillRule.NonZero, evenodd: FillRule.EvenOdd } as const;
const isFilled = { nonzero: (winding: number) => winding !== 0, evenodd: (winding: number) => winding % 2 !== 0 } as const;

/** A boolean operation of the clipping library, checked on scanlines. */
function clipped(kind: ClipType, subject: readonly Path64[], clip: readonly Path64[], rule: Rule, isMaterial: (subject: boolean, clip: boolean) => boolean) {
  const sets = [subject, clip];
  const clean = sets.map((paths) =>
    withSharedPoints(paths)
      .map((path) => withoutSpikes(path))
      .filter((path) => path.length > 2),
  );
  const scanlines = scanlinesOf(sets.flat());
  const wanted = spansOn(scanlines, sets, ([a = 0, b = 0]) => isMaterial(isFilled[rule](a), isFilled[rule](b)));
  const allowed = ROUNDING_MM * STEPS * sets.flat().reduce((sum, path) => sum + lengthOf(path), 0);
  return checked(
    (mirror) => {
      const tree = new PolyTree64();
      const clipper = new Clipper64();
      for (const [i, type] of [PathType.Subject, PathType.Clip].entries())
        clipper.addPaths(
          (clean[i] as Path64[]).map((path) => mirrored(path, mirror)),
          type,
          false,
        );
      clipper.execute(kind, FILL[rule], tree);
      return regionsOf(tree, mirror);
    },
    (result) => {
      const found = differenceOf(scanlines, wanted, materialOn(scanlines, result));
      return found.area > allowed ? found : null;
    },
  );
}

const lengthOf = (path: Path64): number => perimeter(path.map(({ x, y }) => [x, y]));
/** Material of regions on scanlines. */
const materialOn = (scanlines: ReturnType<typeof scanlinesOf>, regions: readonly Region[]) =>
  spansOn(scanlines, [regions.flatMap(linesOf).map(toGrid)], ([winding = 0]) => winding !== 0);

/** Material that closed lines enclose by a fill rule. Which way they run matters for "nonzero" only. @throws CoreError `no-solution` where some would be lost */
export const fill = (lines: readonly Outline[], rule: Rule): Region[] => clipped(ClipType.Union, lines.map(toGrid), [], rule, (subject) => subject);

const combined = (kind: ClipType, subject: readonly Region[], clip: readonly Region[], isMaterial: (subject: boolean, clip: boolean) => boolean) =>
  clipped(kind, subject.flatMap(linesOf).map(toGrid), clip.flatMap(linesOf).map(toGrid), "nonzero", isMaterial);

/** All of several regions in one. @throws CoreError as {@link fill} */
export const united = (regions: readonly Region[]): Region[] => combined(ClipType.Union, regions, [], (subject) => subject);
/** What of some regions lies outside others. @throws CoreError as {@link fill} */
export const without = (regions: readonly Region[], taken: readonly Region[]): Region[] =>
  combined(ClipType.Difference, regions, taken, (subject, clip) => subject && !clip);
/** What lies in both. @throws CoreError as {@link fill} */
export const common = (regions: readonly Region[], others: readonly Region[]): Region[] =>
  combined(ClipType.Intersection, regions, others, (subject, clip) => subject && clip);

/** Whether a line turns so little at every point that a sharp join, so far out, is offset from the round one by less than the arcs' tolerance: it then takes one point instead of two. */
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
 * @param distanceMm what is left may be nothing, or separate pieces
 * @param joins "round" as a wire makes them, or "sharp" where a corner is to stay a corner
 * @throws CoreError `no-solution` where material would be lost that lies farther than the distance from every line
 */
export function offset(regions: readonly Region[], distanceMm: number, joins: "round" | "sharp" = "round"): Region[] {
  if (distanceMm === 0) return [...regions];
  // Points that say nothing cost the most: every one of them would get a round corner.
  const lines = regions.flatMap(linesOf).map(thinned);
  const round = joins === "round" && !lines.every((line) => isGentle(line, Math.abs(distanceMm)));
  const paths = lines.map((line) => withoutSpikes(toGrid(line))).filter((path) => path.length > 2);
  return checked(
    (mirror) => {
      const tree = new PolyTree64();
      const worker = new ClipperOffset(20, TOLERANCE.arc * STEPS);
      worker.addPaths(
        paths.map((path) => mirrored(path, mirror)),
        round ? JoinType.Round : JoinType.Miter,
        EndType.Polygon,
      );
      worker.execute(distanceMm * STEPS, tree);
      const result = regionsOf(tree, mirror);
      // Every corner got points of its own: those that lie on a straight line say nothing.
      return round ? result.map(({ outline, holes }) => ({ outline: thinned(outline), holes: holes.map(thinned) })) : result;
    },
    (result) => offsetFault(regions, paths, distanceMm, result, round),
  );
}

/** An open line widened to an outline, as a stroke so wide draws it: round corners, its ends square across or round. */
export function widened(line: Line, widthMm: number, roundEnds: boolean): Region[] {
  const tree = new PolyTree64();
  const worker = new ClipperOffset(20, TOLERANCE.arc * STEPS);
  worker.addPaths([toGrid(line)], JoinType.Round, roundEnds ? EndType.Round : EndType.Butt);
  worker.execute((widthMm / 2) * STEPS, tree);
  return regionsOf(tree, { x: 1, y: 1 });
}

/** Deviation that an offset may have: the arcs' tolerance where it is drawn, and again where its points are thinned. */
const OFFSET_DEVIATION_MM = 4 * TOLERANCE.arc;

/**
 * What an offset loses or adds: grown, it holds all that was there, and adds nothing farther away than its distance; shrunk, the other way round.
 * Where sharp corners are wanted, material farther away belongs to a corner.
 */
function offsetFault(regions: readonly Region[], paths: readonly Path64[], distanceMm: number, result: readonly Region[], round: boolean): Difference | null {
  const lines = regions.flatMap(linesOf);
  const scanlines = scanlinesOf(paths);
  const before = spansOn(scanlines, [paths], ([winding = 0]) => winding !== 0);
  const isNear = edgesWithin(lines, Math.abs(distanceMm) + OFFSET_DEVIATION_MM);
  const grown = distanceMm > 0;
  const found = differenceOf(scanlines, before, materialOn(scanlines, result), (middle, missing) => missing === grown || (round && !isNear(toPoint(middle))));
  const length = lines.reduce((sum, line) => sum + perimeter(line), 0);
  return found.area > Math.max(OFFSET_DEVIATION_MM, ROUNDING_MM) * length * STEPS ** 2 ? found : null;
}

/** An outline without the points that lie within half the arcs' tolerance of a line through their neighbours. */
const thinned = (outline: Outline): Outline => simplified(outline, TOLERANCE.arc / 2);

/**
 * An outline by fewer points, none of those left out farther off it than so many mm. Its area stays as it was within that tolerance; an outline that would
 * lose more stays as it is.
 */
export function simplified(outline: Outline, withinMm: number): Outline {
  const fewer = toOutline(Clipper.simplifyPath(toGrid(outline), withinMm * STEPS, true));
  return Math.abs(signedArea(fewer) - signedArea(outline)) <= 2 * withinMm * perimeter(outline) ? fewer : outline;
}
