import { apply, type Outline, type Point } from "@/core/geometry/points";
import type { PlanEndEvaluation, PlanEvaluation } from "@/core/plans/evaluate";

/** A point of the block, mm: along the root's chord, up, and along the span from the root. */
export type Solid = readonly [number, number, number];

/** How the block is seen, degrees: turned about its upright, and from above. */
export interface Look {
  turn: number;
  tilt: number;
}

/** A long part shows its length, a short one its face. */
export const firstLook = (spanMm: number, chordMm: number): Look => ({ turn: spanMm > chordMm ? 58 : 24, tilt: 22 });

/** A look turned by so many degrees: round and round, and from straight below to straight above. */
export const turned = ({ turn, tilt }: Look, byTurn: number, byTilt: number): Look => ({
  turn: ((turn + byTurn + 540) % 360) - 180,
  tilt: Math.min(89, Math.max(-89, tilt + byTilt)),
});

/** Lines drawn across the part from face to face. */
const RULINGS = 26;
/** Room around the drawing, px: at both sides together, and at top and foot. */
const ROOM_PX = { across: 90, upright: 96 } as const;

/** The block of a plan with its span, mm. */
export type BlockBox = Pick<PlanEvaluation["block"], "minX" | "maxX" | "minY" | "maxY"> & { spanMm: number };

const cornersOf = ({ minX, maxX, minY, maxY, spanMm }: BlockBox): Solid[] =>
  [minX, maxX].flatMap((x) => [minY, maxY].flatMap((y) => [0, spanMm].map((z): Solid => [x, y, z])));

/** The twelve edges of a block: four along the span, and four round each face. */
export function edgesOf({ minX, maxX, minY, maxY, spanMm }: BlockBox): [Solid, Solid][] {
  const xs = [minX, maxX];
  const ys = [minY, maxY];
  return [
    ...xs.flatMap((x) =>
      ys.map((y): [Solid, Solid] => [
        [x, y, 0],
        [x, y, spanMm],
      ]),
    ),
    ...[0, spanMm].flatMap((z) => [
      ...ys.map((y): [Solid, Solid] => [
        [minX, y, z],
        [maxX, y, z],
      ]),
      ...xs.map((x): [Solid, Solid] => [
        [x, minY, z],
        [x, maxY, z],
      ]),
    ]),
  ];
}

/** A view from so far that lines stay parallel, in mm: x to the right, y down, `near` larger for what is in front. At a turn of 0 the root's face is seen square on. */
export function viewOf({ turn, tilt }: Look) {
  const [a, b] = [(turn * Math.PI) / 180, (tilt * Math.PI) / 180];
  const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)];
  return ([x, y, z]: Solid): { x: number; y: number; near: number } => {
    const away = z * ca - x * sa;
    return { x: x * ca + z * sa, y: -(y * cb + away * sb), near: y * sb - away * cb };
  };
}

/** How solid points become places on a picture, px. */
export interface Projection {
  scale: number;
  place: (solid: Solid) => { x: number; y: number };
  /** an SVG path through the points */
  line: (points: readonly Solid[], closed?: boolean) => string;
  /** how near a face of the block is, at the root (0) or the tip (span): larger is nearer */
  nearness: (z: number) => number;
}

/** Fits a block into a picture of so many pixels, seen with a look. */
export function projectionOf(box: BlockBox, look: Look, size: { width: number; height: number }): Projection {
  const view = viewOf(look);
  const corners = cornersOf(box);
  const seen = corners.map(view);
  const [minX, maxX] = [Math.min(...seen.map((p) => p.x)), Math.max(...seen.map((p) => p.x))];
  const [minY, maxY] = [Math.min(...seen.map((p) => p.y)), Math.max(...seen.map((p) => p.y))];
  const scale = Math.min((size.width - ROOM_PX.across) / (maxX - minX), (size.height - ROOM_PX.upright) / (maxY - minY));
  const dx = size.width / 2 - ((minX + maxX) / 2) * scale;
  const dy = size.height / 2 + 4 - ((minY + maxY) / 2) * scale;
  const place = (solid: Solid) => {
    const { x, y } = view(solid);
    return { x: x * scale + dx, y: y * scale + dy };
  };
  const text = (solid: Solid) => {
    const { x, y } = place(solid);
    return `${x.toFixed(1)} ${y.toFixed(1)}`;
  };
  return {
    scale,
    place,
    line: (points, closed = false) => `M${points.map(text).join("L")}${closed ? "Z" : ""}`,
    nearness: (z) => corners.filter((corner) => corner[2] === z).reduce((sum, corner) => sum + view(corner).near, 0),
  };
}

/** Points of an end in its template's frame as they lie in the block, at so much of the span (mm). */
export const inBlock = (end: PlanEndEvaluation, z: number, points: readonly Point[]): Solid[] =>
  points.map((point) => {
    const [x, y] = apply(end.place, point);
    return [x, y, z];
  });

/** Equal shares of an outline's points: near enough to equal arc for a drawing. */
const spread = (outline: Outline, count: number): Point[] =>
  Array.from({ length: count }, (_, i) => outline[Math.floor((i * outline.length) / count)] as Point);

/** Lines from face to face of the part. */
export function rulingsOf({ root, tip }: PlanEvaluation, spanMm: number): [Solid, Solid][] {
  const [near, far] = [root, tip].map((end) => spread(end.placed[0]?.outline ?? [], RULINGS)) as [Point[], Point[]];
  return near.map((point, i): [Solid, Solid] => {
    const other = far[i] as Point;
    return [
      [point[0], point[1], 0],
      [other[0], other[1], spanMm],
    ];
  });
}

/** The wire on both templates at the thickest of the upper face, a little longer than the block. */
export function wireAcross({ root, tip }: PlanEvaluation, spanMm: number): [Solid, Solid] {
  const highest = (end: PlanEndEvaluation, z: number): Solid => {
    const points = end.templates[0]?.line ?? [];
    const high = points.reduce((best, point) => (point[1] > best[1] ? point : best), points[0] ?? [0, 0]);
    return inBlock(end, z, [high])[0] as Solid;
  };
  const [a, b] = [highest(root, 0), highest(tip, spanMm)];
  const at = (share: number): Solid => [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, spanMm * share];
  return [at(-0.08), at(1.08)];
}
