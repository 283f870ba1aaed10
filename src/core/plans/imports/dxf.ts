import DxfParser from "dxf-parser";
import { arcPoints, arcSteps } from "../../geometry/flatten";
import { after, apply, IDENTITY, type Line, type Point, scaling, type Transform, translation, turning } from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";
import { CoreError } from "../../kernel/errors";
import type { Tell } from "../../kernel/progress";
import { type DrawingUnit, type Imported, MOST_DEEP, PointBudget, regionsFrom, requireShort, UNITS_MM } from "./imported";
import { joined } from "./joined";

/** A file's own say on its unit: $INSUNITS, mm each (the published values of the format's header variable). */
const INSUNITS: Readonly<Record<number, number>> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000, 8: 25.4e-6, 9: 25.4e-3, 10: 914.4, 13: 1e-3, 14: 100 };

interface Xy {
  x: number;
  y: number;
  bulge?: number;
}
/** What of any entity is read. */
interface Entity {
  type: string;
  vertices?: Xy[];
  shape?: boolean;
  center?: Xy;
  radius?: number;
  startAngle?: number;
  endAngle?: number;
  majorAxisEndPoint?: Xy;
  axisRatio?: number;
  controlPoints?: Xy[];
  fitPoints?: Xy[];
  knotValues?: number[];
  weights?: number[];
  degreeOfSplineCurve?: number;
  closed?: boolean;
  name?: string;
  position?: Xy;
  xScale?: number;
  yScale?: number;
  rotation?: number;
  columnCount?: number;
  rowCount?: number;
  columnSpacing?: number;
  rowSpacing?: number;
  inPaperSpace?: boolean;
  extrusionDirection?: Xy & { z?: number };
  extrusionDirectionZ?: number;
}

/** Splines with their weights, which the package's own reader leaves out. */
class WeightedSpline {
  ForEntityName = "SPLINE" as const;
  parseEntity(scanner: { next: () => { code: number; value: unknown }; isEOF: () => boolean }, start: { value: unknown }): Entity {
    const entity: Required<Pick<Entity, "type" | "controlPoints" | "fitPoints" | "knotValues" | "weights">> & Entity = {
      type: String(start.value),
      controlPoints: [],
      fitPoints: [],
      knotValues: [],
      weights: [],
    };
    let group = scanner.next();
    let into: Xy | null = null;
    while (!scanner.isEOF() && group.code !== 0) {
      const value = Number(group.value);
      if (group.code === 10 || group.code === 11) {
        into = { x: value, y: 0 };
        (group.code === 10 ? entity.controlPoints : entity.fitPoints).push(into);
      } else if (group.code === 20 || group.code === 21) {
        if (into) into.y = value;
      } else if (group.code === 40) entity.knotValues.push(value);
      else if (group.code === 41) entity.weights.push(value);
      else if (group.code === 70) entity.closed = (value & 1) !== 0;
      else if (group.code === 71) entity.degreeOfSplineCurve = value;
      group = scanner.next();
    }
    return entity;
  }
}

const point = ({ x, y }: Xy): Point => {
  if (!Number.isFinite(x) || !Number.isFinite(y)) throw new CoreError("wrong-format", "text", "a point of this drawing has no place");
  return [x, y];
};

/** A line through vertices with bulges: the tangent of a quarter of each arc's angle. */
function bulged(vertices: readonly Xy[], closed: boolean, tolerance: number): Line {
  const line: Point[] = [];
  const count = closed ? vertices.length : vertices.length - 1;
  if (vertices[0]) line.push(point(vertices[0]));
  for (let i = 0; i < count; i++) {
    const from = point(vertices[i] as Xy);
    const to = point(vertices[(i + 1) % vertices.length] as Xy);
    const bulge = vertices[i]?.bulge ?? 0;
    if (bulge === 0 || !Number.isFinite(bulge)) {
      line.push(to);
      continue;
    }
    const sweep = 4 * Math.atan(bulge);
    const chord = Math.hypot(to[0] - from[0], to[1] - from[1]);
    if (chord === 0) continue;
    // The centre stands off the chord's middle by (1 - b^2)/(4 b) of the chord, to the left for an arc that runs counter-clockwise.
    const off = (1 - bulge * bulge) / (4 * bulge);
    const centre: Point = [(from[0] + to[0]) / 2 - off * (to[1] - from[1]), (from[1] + to[1]) / 2 + off * (to[0] - from[0])];
    const radius = Math.hypot(from[0] - centre[0], from[1] - centre[1]);
    const arc = arcPoints(centre, radius, Math.atan2(from[1] - centre[1], from[0] - centre[0]), sweep, tolerance);
    line.push(...arc.slice(0, -1), to);
  }
  return line;
}

/** A rational B-spline at a parameter (de Boor), homogeneous. */
function splineAt(u: number, degree: number, knots: readonly number[], points: readonly (readonly [number, number, number])[]): Point {
  let k = degree;
  while (k < points.length - 1 && u >= (knots[k + 1] as number)) k++;
  const d = Array.from({ length: degree + 1 }, (_, j) => [...(points[k - degree + j] as readonly [number, number, number])] as [number, number, number]);
  for (let r = 1; r <= degree; r++) {
    for (let j = degree; j >= r; j--) {
      const i = k - degree + j;
      const [low, high] = [knots[i] as number, knots[i + degree - r + 1] as number];
      const share = high === low ? 0 : (u - low) / (high - low);
      const [before, here] = [d[j - 1] as [number, number, number], d[j] as [number, number, number]];
      d[j] = [0, 1, 2].map((axis) => (before[axis] as number) * (1 - share) + (here[axis] as number) * share) as [number, number, number];
    }
  }
  const [x, y, w] = d[degree] as [number, number, number];
  return [x / w, y / w];
}

function splined({ controlPoints = [], fitPoints = [], knotValues = [], weights = [], degreeOfSplineCurve = 3, closed }: Entity, tolerance: number): Line {
  if (controlPoints.length < 2) {
    const through = fitPoints.map(point);
    return closed && through.length > 2 ? [...through, through[0] as Point] : through;
  }
  const degree = Math.min(degreeOfSplineCurve, controlPoints.length - 1);
  if (!(degree >= 1 && degree <= 20) || knotValues.length < controlPoints.length + degree + 1)
    throw new CoreError("wrong-format", "text", "a spline of this drawing lacks knots");
  const points = controlPoints.map((each, i) => {
    const [x, y] = point(each);
    const w = weights.length === controlPoints.length && (weights[i] as number) > 0 ? (weights[i] as number) : 1;
    return [x * w, y * w, w] as const;
  });
  const [from, to] = [knotValues[degree] as number, knotValues[controlPoints.length] as number];
  const at = (u: number) => splineAt(Math.min(to, Math.max(from, u)), degree, knotValues, points);
  const line: Point[] = [at(from)];
  // Each stretch between knots is halved until its middle and its quarters stand close enough to the chord.
  const halve = (u0: number, p0: Point, u1: number, p1: Point, deep: number) => {
    const off = (u: number, share: number) => {
      const p = at(u);
      return Math.hypot(p[0] - (p0[0] + (p1[0] - p0[0]) * share), p[1] - (p0[1] + (p1[1] - p0[1]) * share));
    };
    const mid = (u0 + u1) / 2;
    // Measured against the even share of the chord, which is never closer than the chord itself.
    if (deep >= 12 || Math.max(off(mid, 0.5), off((u0 + mid) / 2, 0.25), off((mid + u1) / 2, 0.75)) <= tolerance) {
      line.push(p1);
      return;
    }
    const pm = at(mid);
    halve(u0, p0, mid, pm, deep + 1);
    halve(mid, pm, u1, p1, deep + 1);
  };
  const stops = [...new Set(knotValues.slice(degree, controlPoints.length + 1))];
  for (let i = 1; i < stops.length; i++) halve(stops[i - 1] as number, line.at(-1) as Point, stops[i] as number, at(stops[i] as number), 0);
  return line;
}

/** The line of one entity in its own coordinates; null for a kind that draws none. */
function lineOf(entity: Entity, tolerance: number): Line | null {
  switch (entity.type) {
    case "LINE":
      return (entity.vertices ?? []).map(point);
    case "LWPOLYLINE":
    case "POLYLINE":
      return bulged(entity.vertices ?? [], entity.shape ?? false, tolerance);
    case "CIRCLE": {
      const radius = entity.radius ?? 0;
      const centre = point(entity.center ?? { x: 0, y: 0 });
      return radius > 0 ? [[centre[0] + radius, centre[1]], ...arcPoints(centre, radius, 0, 2 * Math.PI, tolerance)] : null;
    }
    case "ARC": {
      const { radius = 0, startAngle = 0, endAngle = 0 } = entity;
      const centre = point(entity.center ?? { x: 0, y: 0 });
      if (!(radius > 0)) return null;
      let sweep = endAngle - startAngle;
      while (sweep <= 0) sweep += 2 * Math.PI;
      return [
        [centre[0] + radius * Math.cos(startAngle), centre[1] + radius * Math.sin(startAngle)],
        ...arcPoints(centre, radius, startAngle, sweep, tolerance),
      ];
    }
    case "ELLIPSE": {
      const { axisRatio = 1, startAngle = 0, endAngle = 2 * Math.PI } = entity;
      const centre = point(entity.center ?? { x: 0, y: 0 });
      const major = point(entity.majorAxisEndPoint ?? { x: 0, y: 0 });
      let sweep = endAngle - startAngle;
      while (sweep <= 1e-12) sweep += 2 * Math.PI;
      const steps = 2 * arcSteps(Math.hypot(...major) * Math.max(1, axisRatio), sweep, tolerance);
      return Array.from({ length: steps + 1 }, (_, i): Point => {
        const angle = startAngle + (sweep * i) / steps;
        const [cos, sin] = [Math.cos(angle), axisRatio * Math.sin(angle)];
        return [centre[0] + cos * major[0] - sin * major[1], centre[1] + cos * major[1] + sin * major[0]];
      });
    }
    case "SPLINE":
      return splined(entity, tolerance);
    default:
      return null;
  }
}

const spread = ([a, b, c, d]: Transform) => Math.max(Math.hypot(a, b), Math.hypot(c, d), 1e-9);

/**
 * A drawing of the exchange format (lines, polylines with bulges, arcs, circles, ellipses, splines, blocks), joined and filled: an outline within an outline is a hole.
 * @param unit what a bare number means where the file does not say
 * @param gapMm ends closer than this are joined
 * @throws CoreError `wrong-format` for a text that is no such drawing, `no-solution` where nothing closes
 */
export function readDxf(text: string, unit: DrawingUnit | undefined, gapMm: number, tell?: Tell): Imported {
  requireShort(text);
  tell?.(0, "reading");
  const parser = new DxfParser();
  parser.registerEntityHandler(WeightedSpline as never);
  let dxf: ReturnType<DxfParser["parseSync"]>;
  try {
    dxf = parser.parseSync(text);
  } catch (error) {
    if (error instanceof CoreError) throw error;
    throw new CoreError("wrong-format", "text", `this is no drawing in the exchange format: ${error instanceof Error ? error.message : String(error)}`);
  }
  if (!dxf?.entities) throw new CoreError("wrong-format", "text", "this is no drawing in the exchange format: it has no entities");
  const notes: string[] = [];
  const said = INSUNITS[Number(dxf.header?.$INSUNITS ?? 0)];
  const scale = said ?? UNITS_MM[unit ?? "mm"];
  if (said === undefined && unit === undefined) notes.push("unit: the file does not say, millimetres taken");
  const budget = new PointBudget();
  const lines: Line[] = [];
  const refused = new Map<string, number>();
  const take = (entities: readonly Entity[], transform: Transform, deep: number) => {
    if (deep > MOST_DEEP) throw new CoreError("out-of-range", "text", `blocks stand in one another more than ${MOST_DEEP} deep`);
    for (const entity of entities) {
      if (entity.inPaperSpace) continue;
      // Drawn from behind: the entity's own x runs the other way.
      const behind =
        (entity.extrusionDirectionZ ?? entity.extrusionDirection?.z ?? 1) < 0 &&
        entity.type !== "LINE" &&
        entity.type !== "ELLIPSE" &&
        entity.type !== "SPLINE";
      const placed = behind ? after(transform, scaling(-1, 1)) : transform;
      if (entity.type === "INSERT") {
        const block = dxf.blocks?.[entity.name ?? ""];
        if (!block?.entities) continue;
        const { x, y } = entity.position ?? { x: 0, y: 0 };
        const rows = Math.min(1000, Math.max(1, entity.rowCount ?? 1));
        const columns = Math.min(1000, Math.max(1, entity.columnCount ?? 1));
        for (let row = 0; row < rows; row++) {
          for (let column = 0; column < columns; column++) {
            const inner = after(
              after(translation(x, y), turning(entity.rotation ?? 0)),
              after(
                translation(column * (entity.columnSpacing ?? 0), row * (entity.rowSpacing ?? 0)),
                after(scaling(entity.xScale || 1, entity.yScale || 1), translation(-(block.position?.x ?? 0), -(block.position?.y ?? 0))),
              ),
            );
            budget.take(1);
            take(block.entities as unknown as Entity[], after(placed, inner), deep + 1);
          }
        }
        continue;
      }
      const line = lineOf(entity, TOLERANCE.flatten / spread(placed));
      if (!line) {
        refused.set(entity.type, (refused.get(entity.type) ?? 0) + 1);
        continue;
      }
      budget.take(line.length);
      lines.push(line.map((each) => apply(placed, each)));
    }
  };
  // Shares as they were measured on a file of 100,000 points.
  tell?.(0.5, "drawing its curves");
  take(dxf.entities as unknown as Entity[], after(scaling(scale), IDENTITY), 0);
  for (const [type, count] of refused) notes.push(`refused: ${count} ${type.toLowerCase()}, which draws no line`);
  tell?.(0.7, "joining ends");
  const { closed, notes: done } = joined(lines, gapMm);
  tell?.(0.85, "finding what encloses what");
  return regionsFrom([{ lines: closed, rule: "evenodd" }], [...notes, ...done]);
}
