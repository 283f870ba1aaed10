import DxfParser from "dxf-parser";
import { nearestOn } from "../../geometry/edgeIndex";
import { arcPoints, arcSteps } from "../../geometry/flatten";
import { fill } from "../../geometry/offset";
import {
  after,
  apply,
  type Bounds,
  boundsOf,
  distance,
  IDENTITY,
  type Line,
  type Outline,
  type Point,
  scaling,
  type Transform,
  translation,
  turning,
  withoutDoubles,
} from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";
import { CoreError } from "../../kernel/errors";
import type { Tell } from "../../kernel/progress";
import { splineCurvatures, splineValue } from "../../numerics/cubicSpline";
import { type Entity, HatchReader, SplineReader, type Xy } from "./dxfEntities";
import { type DrawingUnit, type Imported, type ImportWarning, MOST_DEEP, PointBudget, regionsFrom, requireShort, UNITS_MM } from "./imported";
import { joined, many } from "./joined";

/** A file's own say on its unit: $INSUNITS, mm each (the published values of the format's header variable). */
const INSUNITS: Readonly<Record<number, number>> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000, 8: 25.4e-6, 9: 25.4e-3, 10: 914.4, 13: 1e-3, 14: 100 };

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
    // The centre is offset from the chord's middle by (1 - b^2)/(4 b) of the chord, to the left for an arc that runs counter-clockwise.
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

/** Points repeated beyond either end of a closed spline, so that it is as smooth there as elsewhere. */
const AROUND = 6;

/** A cubic spline through points, by the lengths between them: what drawing programs draw where a file has the points alone. */
function throughPoints(points: readonly Point[], closed: boolean, startTangent: Xy | undefined, endTangent: Xy | undefined, tolerance: number): Line {
  const own = withoutDoubles(points, closed);
  if (own.length < 3) return own;
  const around = closed ? Math.min(AROUND, own.length) : 0;
  const all = [...own.slice(own.length - around), ...own, ...own.slice(0, around + (closed ? 1 : 0))];
  const at = [0];
  for (let i = 1; i < all.length; i++) at.push((at[i - 1] as number) + distance(all[i - 1] as Point, all[i] as Point));
  const unit = (tangent: Xy | undefined, axis: "x" | "y") => {
    const long = tangent ? Math.hypot(tangent.x, tangent.y) : 0;
    return tangent && long > 0 && !closed ? tangent[axis] / long : undefined;
  };
  const axes = (["x", "y"] as const).map((axis, k) => {
    const values = all.map((each) => each[k] as number);
    return { values, curvatures: splineCurvatures(at, values, unit(startTangent, axis), unit(endTangent, axis)) };
  });
  const line: Point[] = [all[around] as Point];
  for (let i = around; i < around + own.length - (closed ? 0 : 1); i++) {
    const h = (at[i + 1] as number) - (at[i] as number);
    // The chords of so many equal steps are within the tolerance: a chord of h/n deviates by at most h^2/(8 n^2) times the second derivative.
    const bend = Math.max(...[i, i + 1].map((k) => Math.hypot(...axes.map(({ curvatures }) => curvatures[k] as number))));
    const steps = Math.min(2000, Math.max(1, Math.ceil(h * Math.sqrt(bend / (8 * tolerance)))));
    for (let k = 1; k <= steps; k++) {
      const [x, y] = axes.map(({ values, curvatures }) => splineValue(at, values, curvatures, i, k / steps));
      line.push([x as number, y as number]);
    }
  }
  return line;
}

function splined(
  { controlPoints = [], fitPoints = [], knotValues = [], weights = [], degreeOfSplineCurve = 3, closed, startTangent, endTangent }: Entity,
  tolerance: number,
): Line {
  if (controlPoints.length < 2) return throughPoints(fitPoints.map(point), closed === true, startTangent, endTangent, tolerance);
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
  // Each stretch between knots is halved until its middle and its quarters are close enough to the chord.
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

/** Entities that draw nothing on purpose: no warning. */
const SILENT = new Set(["POINT", "VIEWPORT", "ATTDEF", "ATTRIB", "SEQEND"]);

/** Lines that run along other lines everywhere: a hatch over an outline that is drawn already. */
function liesAlong(loop: Outline, outlines: readonly { bounds: Bounds; nearest: ReturnType<typeof nearestOn> }[], gapMm: number): boolean {
  const own = boundsOf(loop);
  const near = outlines.filter(
    ({ bounds }) => bounds.minX <= own.maxX + gapMm && own.minX <= bounds.maxX + gapMm && bounds.minY <= own.maxY + gapMm && own.minY <= bounds.maxY + gapMm,
  );
  return near.length > 0 && loop.every((at) => near.some(({ nearest }) => nearest(at).distance <= gapMm));
}

/**
 * A drawing of the exchange format (lines, polylines with bulges, arcs, circles, ellipses, splines, hatches, blocks), joined and filled: an outline within an outline is a hole.
 * What its own file hides (layers off or frozen, invisible entities, the layer of definition points) is left out, with a warning.
 * @param unit what a bare number means where the file does not say
 * @param gapMm ends closer than this are joined
 * @throws CoreError `wrong-format` for a text that is no such drawing, `no-solution` where nothing closes
 */
export function readDxf(text: string, unit: DrawingUnit | undefined, gapMm: number, tell?: Tell): Imported {
  requireShort(text);
  tell?.(0, "reading");
  const parser = new DxfParser();
  parser.registerEntityHandler(SplineReader as never);
  parser.registerEntityHandler(HatchReader as never);
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
  const reader = new DxfReader(dxf as unknown as DxfFile);
  // Shares as they were measured on a file of 100,000 points.
  tell?.(0.5, "drawing its curves");
  reader.take(dxf.entities as unknown as Entity[], after(scaling(scale), IDENTITY), 0);
  tell?.(0.7, "joining ends");
  const { closed, open, notes: done } = joined(reader.lines, gapMm);
  notes.push(...done);
  const outlines = closed.map((outline) => ({ bounds: boundsOf(outline), nearest: nearestOn(outline) }));
  const loops = reader.hatches.map((paths) => paths.flatMap((lines) => joined(lines, gapMm).closed));
  const alone = loops.filter((each) => each.length > 0 && !each.every((loop) => liesAlong(loop, outlines, Math.max(gapMm, 10 * TOLERANCE.flatten))));
  if (alone.length < loops.length) notes.push(`dropped: ${loops.length - alone.length} hatches whose boundaries are drawn already, or enclose nothing`);
  const warnings = reader.warnings();
  if (open.length > 0)
    warnings.push({
      code: "open-line",
      message: `${many(open.length, "line")} not imported: nothing is enclosed, and the ends are more than ${gapMm} mm apart`,
      share: open.length / (open.length + closed.length),
    });
  tell?.(0.85, "finding what encloses what");
  return regionsFrom([fill(closed, "evenodd"), ...alone.map((each) => fill(each, "evenodd"))], notes, warnings);
}

interface DxfFile {
  tables?: { layer?: { layers?: Record<string, { visible?: boolean; frozen?: boolean }> } };
  blocks?: Record<string, { entities?: Entity[]; position?: Xy }>;
}

/** Takes the lines of a drawing's entities, those in blocks included. */
class DxfReader {
  readonly lines: Line[] = [];
  readonly hatches: Line[][][] = [];
  private readonly budget = new PointBudget();
  private readonly unread = new Map<string, number>();
  private count = 0;
  private hidden = 0;
  private readonly hiddenBy = new Set<string>();

  constructor(private readonly file: DxfFile) {}

  /** Why an entity is not shown; null for one that is. */
  private whyHidden({ layer = "0", visible }: Entity): string | null {
    if (visible === false) return "entities set invisible";
    if (layer.toLowerCase() === "defpoints") return "the layer of definition points";
    const { visible: on, frozen } = this.file.tables?.layer?.layers?.[layer] ?? {};
    return on === false ? `layer ${layer}, which is off` : frozen ? `layer ${layer}, which is frozen` : null;
  }

  take(entities: readonly Entity[], transform: Transform, deep: number): void {
    if (deep > MOST_DEEP) throw new CoreError("out-of-range", "text", `blocks are nested more than ${MOST_DEEP} deep`);
    for (const entity of entities) {
      if (entity.inPaperSpace) continue;
      this.count += 1;
      const why = this.whyHidden(entity);
      if (why !== null) {
        this.hidden += 1;
        this.hiddenBy.add(why);
        continue;
      }
      // Drawn from behind: the entity's own x runs the other way.
      const behind =
        (entity.extrusionDirectionZ ?? entity.extrusionDirection?.z ?? 1) < 0 &&
        entity.type !== "LINE" &&
        entity.type !== "ELLIPSE" &&
        entity.type !== "SPLINE";
      const placed = behind ? after(transform, scaling(-1, 1)) : transform;
      if (entity.type === "INSERT") this.insert(entity, placed, deep);
      else if (entity.type === "HATCH") this.hatches.push((entity.paths ?? []).map((path) => path.flatMap((edge) => this.lineOf(edge, placed) ?? [])));
      else {
        const line = this.lineOf(entity, placed);
        if (line) this.lines.push(...line);
        else if (!SILENT.has(entity.type)) this.refuse(entity.type.toLowerCase());
      }
    }
  }

  private refuse(what: string): void {
    this.unread.set(what, (this.unread.get(what) ?? 0) + 1);
  }

  /** An entity's line in the drawing, in a list of one; null for a kind that draws none. */
  private lineOf(entity: Entity, placed: Transform): [Line] | null {
    const line = lineOf(entity, TOLERANCE.flatten / spread(placed));
    if (!line) return null;
    this.budget.take(line.length);
    return [line.map((each) => apply(placed, each))];
  }

  private insert(entity: Entity, placed: Transform, deep: number): void {
    const block = this.file.blocks?.[entity.name ?? ""];
    if (!block?.entities) {
      this.refuse(`block ${entity.name ?? "without a name"}, which is not in the file`);
      return;
    }
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
        this.budget.take(1);
        this.take(block.entities, after(placed, inner), deep + 1);
      }
    }
  }

  /** What was not read, and what the file hides. */
  warnings(): ImportWarning[] {
    const warnings: ImportWarning[] = [...this.unread].map(([what, count]) => ({
      code: "unread",
      message: `${count} ${what} not read`,
      share: count / this.count,
    }));
    if (this.hidden > 0)
      warnings.push({
        code: "hidden",
        message: `${many(this.hidden, "entity", "entities")} hidden in the file and not imported: ${[...this.hiddenBy].join("; ")}`,
        share: this.hidden / this.count,
      });
    return warnings;
  }
}
