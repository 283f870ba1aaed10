import { after, apply, boundsOf, lerp, type Point, scaling, type Transform, translation, turning } from "../geometry/points";
import { drawEnd } from "./place";
import type { PlanEnd } from "./plan";
import type { ColumnShape, PointsShape } from "./shapes/given";

/** A place of an end's outline that a hand can move, in the end's own chord frame, mm. */
export interface Handle {
  id: string;
  label: string;
  at: Point;
  /** The ways it can go. */
  axes: "x" | "y" | "xy";
}

/** More points than this are no use as handles. */
export const MOST_HANDLES = 400;
/** Least size that a handle makes of anything, mm. */
const LEAST_MM = 1;
const THICKNESS = { min: 0.1, max: 5 } as const;
const FAR_MM = 5000;

const held = (value: number, min: number, max: number) => Math.min(max, Math.max(min, value));
/** Whole micrometres: what a hand means, not the last digit of a screen's arithmetic. */
const neat = (value: number) => Math.round(value * 1000) / 1000;

type ShapeOfPoints = PointsShape | ColumnShape;
const ofPoints = ({ shape }: PlanEnd): ShapeOfPoints | null => (shape.kind === "points" || shape.kind === "column" ? shape : null);
const rawPoints = (shape: ShapeOfPoints): readonly Point[] => (shape.kind === "points" ? shape.points_mm : shape.profile_mm);

/** How an end's given points come to lie where they are drawn; the end's own position is left out. */
function placing({ chord_mm, thickness, turn_deg }: PlanEnd, shape: ShapeOfPoints): Transform {
  const whole: readonly Point[] =
    shape.kind === "points"
      ? [...shape.points_mm, ...(shape.islands_mm ?? []).flat()]
      : [...shape.profile_mm, ...shape.profile_mm.map(([along, radius]): Point => [along, -radius])];
  // Points of their own size stay where they are until they are turned; all else begins at 0.
  const own = shape.kind === "points" && chord_mm === undefined;
  const first = after(turning(turn_deg), translation(own ? 0 : -boundsOf(whole).minX, 0));
  const { minX, maxX } = boundsOf(whole.map((point) => apply(first, point)));
  const scale = chord_mm === undefined ? 1 : chord_mm / (maxX - minX);
  return after(scaling(scale, scale * thickness), after(translation(own && turn_deg === 0 ? 0 : -minX, 0), first));
}

/** The same end with chord, thickness and turning gone into its points: from then on a point lies where its figures say. Ends of other shapes stay as they are. */
export function normalised(end: PlanEnd): PlanEnd {
  const shape = ofPoints(end);
  if (!shape || (shape.kind === "column" && end.turn_deg !== 0)) return end;
  const by = placing(end, shape);
  const { chord_mm: _chord, ...rest } = { ...end, thickness: 1, turn_deg: 0 };
  const put = (points: readonly Point[]) => points.map((point): Point => apply(by, point));
  return {
    ...rest,
    shape:
      shape.kind === "points"
        ? {
            ...shape,
            points_mm: put(shape.points_mm),
            ...(shape.holes_mm ? { holes_mm: shape.holes_mm.map(put) } : {}),
            ...(shape.islands_mm ? { islands_mm: shape.islands_mm.map(put) } : {}),
          }
        : { ...shape, profile_mm: put(shape.profile_mm) },
  };
}

/**
 * What of an end can be moved: its nose (where it lies), its tail (its chord), its highest place (its thickness), and the points of an outline or a profile that was given by points.
 * @throws CoreError where the end cannot be drawn
 */
export function handlesOf(end: PlanEnd): Handle[] {
  const { regions, nose, tail } = drawEnd(end);
  const { outline = [] } = regions[0] ?? {};
  const top = outline.reduce((best, point) => (point[1] > best[1] ? point : best), outline[0] ?? [0, 0]);
  const handles: Handle[] = [
    { id: "nose", label: "where it lies", at: nose, axes: "xy" },
    { id: "tail", label: "its chord", at: [tail.upper[0], (tail.upper[1] + tail.lower[1]) / 2], axes: "x" },
    { id: "top", label: "its thickness", at: top, axes: "y" },
  ];
  const shape = ofPoints(end);
  if (shape && rawPoints(shape).length <= MOST_HANDLES && !(shape.kind === "column" && end.turn_deg !== 0)) {
    const points = rawPoints(ofPoints(normalised(end)) as ShapeOfPoints);
    const first = shape.kind === "column" ? (points[0]?.[0] ?? 0) : 0;
    for (const [i, [x, y]] of points.entries())
      handles.push({ id: `point ${i}`, label: `point ${i + 1} of ${points.length}`, at: [x - first + end.x_mm, y + end.y_mm], axes: "xy" });
  }
  return handles;
}

/** A column's places in their order, none before the one above it or below its axis. */
function heldPlace(profile: readonly Point[], i: number, [along, radius]: Point): Point {
  return [held(along, profile[i - 1]?.[0] ?? Number.NEGATIVE_INFINITY, profile[i + 1]?.[0] ?? Number.POSITIVE_INFINITY), Math.max(0, radius)];
}

/** The end with a handle moved to a place of its chord frame, as far as it can go that way. An id that it has not changes nothing. */
export function withHandle(end: PlanEnd, id: string, to: Point): PlanEnd {
  const handle = handlesOf(end).find((each) => each.id === id);
  if (!handle) return end;
  const [dx, dy] = [to[0] - handle.at[0], to[1] - handle.at[1]];
  if (id === "nose") return { ...end, x_mm: neat(held(end.x_mm + dx, -FAR_MM, FAR_MM)), y_mm: neat(held(end.y_mm + dy, -FAR_MM, FAR_MM)) };
  if (id === "tail") {
    const { minX, maxX } = boundsOf(drawEnd(end).regions.flatMap(({ outline }) => outline));
    return { ...end, chord_mm: neat(held((end.chord_mm ?? maxX - minX) + dx, LEAST_MM, FAR_MM)) };
  }
  if (id === "top") {
    const was = handle.at[1] - end.y_mm;
    if (was <= 0) return end;
    return { ...end, thickness: neat(held((end.thickness * (was + dy)) / was, THICKNESS.min, THICKNESS.max)) };
  }
  const flat = normalised(end);
  const shape = ofPoints(flat) as ShapeOfPoints;
  const index = Number(id.slice("point ".length));
  const points = [...rawPoints(shape)];
  const [x, y] = points[index] as Point;
  const next: Point = [neat(x + dx), neat(y + dy)];
  points[index] = shape.kind === "column" ? heldPlace(points, index, next) : next;
  return { ...flat, shape: shape.kind === "points" ? { ...shape, points_mm: points } : { ...shape, profile_mm: points } };
}

/** Least points that an outline and a profile keep. */
const LEAST_POINTS = { points: 3, column: 2 } as const;

/** The end with one more point, half way from this one to the next. */
export function withPointAfter(end: PlanEnd, index: number): PlanEnd {
  const flat = normalised(end);
  const shape = ofPoints(flat);
  if (!shape) return end;
  const points = rawPoints(shape);
  const [here, next] = [points[index], shape.kind === "points" ? points[(index + 1) % points.length] : (points[index + 1] ?? points[index - 1])];
  if (!here || !next) return end;
  const at = shape.kind === "column" && index === points.length - 1 ? index : index + 1;
  const more = [...points.slice(0, at), lerp(here, next, 0.5), ...points.slice(at)];
  return { ...flat, shape: shape.kind === "points" ? { ...shape, points_mm: more } : { ...shape, profile_mm: more } };
}

/** The end without one of its points; as it is where it has no more than it needs. */
export function withoutPoint(end: PlanEnd, index: number): PlanEnd {
  const flat = normalised(end);
  const shape = ofPoints(flat);
  if (!shape || rawPoints(shape).length <= LEAST_POINTS[shape.kind]) return end;
  const fewer = rawPoints(shape).filter((_, i) => i !== index);
  return { ...flat, shape: shape.kind === "points" ? { ...shape, points_mm: fewer } : { ...shape, profile_mm: fewer } };
}
