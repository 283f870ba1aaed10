import { offset, without } from "../geometry/offset";
import {
  boundsOf,
  distance,
  edges,
  heightsAt,
  type Line,
  linesOf,
  nearest,
  type Outline,
  type Point,
  perimeter,
  type Region,
  regionArea,
} from "../geometry/points";
import { TOLERANCE } from "../geometry/tolerance";
import { CoreError } from "../kernel/errors";
import type { Relation } from "../kernel/provenance";
import { withEars } from "./ears";
import type { Drawn } from "./shapes/record";

export type Guidance = "edge" | "centre";
export type PartFace = "whole" | "lower" | "upper";

export const ALLOWANCE: Relation = {
  id: "allowance",
  title: "How far the guide is outside the part",
  formula: "a = (w - d)/2 - t on an edge, w/2 - t led by its centre",
  words:
    "The wire melts a kerf wider than itself. The edge it rides on is outside the finished foam by half of what the kerf is wider; a skin that is laid on afterwards draws the foam in by its thickness.",
  range: "the kerf at that end's own feed",
  basis: "common practice",
  source: "geometry of a round wire in the middle of its kerf; workshops lose about 1 mm a face",
};

/**
 * How far a guide is outside the finished part, mm; negative is inside.
 * @param kerfMm at that end's own feed
 * @param wireMm outer diameter
 * @param skinMm laid on afterwards
 */
export const allowanceMm = (guidance: Guidance, kerfMm: number, wireMm: number, skinMm: number): number =>
  (guidance === "edge" ? (kerfMm - wireMm) / 2 : kerfMm / 2) - skinMm;

/** Where matter differs from what was drawn. */
export interface Loss {
  at: Point;
  /** farthest that the foam is from the line wanted, mm */
  depthMm: number;
  areaMm2: number;
  /** Foam left in an inner corner that the wire cannot reach into, or taken from a nose or tail too thin for the offset. */
  kind: "left" | "taken";
}

/** Shallower than this is nothing, mm. */
const SHALLOW_MM = 0.02;

/** Pieces by which what is got differs from what is wanted, each with its distance from the line wanted. */
function pieces(differing: readonly Region[], wanted: readonly Region[], got: readonly Region[], kind: Loss["kind"]): Loss[] {
  const away = (point: Point, regions: readonly Region[]) =>
    regions.flatMap(linesOf).reduce((least, line) => Math.min(least, nearest(point, line).distance), Number.POSITIVE_INFINITY);
  return differing.flatMap((piece) => {
    // A sliver along a line is the flattening's, not a loss.
    if (regionArea(piece) < 0.25 * perimeter(piece.outline) * TOLERANCE.arc * 2) return [];
    let depthMm = 0;
    let at = piece.outline[0] as Point;
    for (const point of piece.outline) {
      const deep = away(point, wanted) < TOLERANCE.arc * 2 ? away(point, got) : 0;
      if (deep > depthMm) [depthMm, at] = [deep, point];
    }
    return depthMm > SHALLOW_MM ? [{ at, depthMm, areaMm2: regionArea(piece), kind }] : [];
  });
}

/** What a round wire leaves or takes against the line wanted, when its guide is offset from the part by `off`, deepest first. `reachMm` is the kerf's half. */
export function lossesOf(wanted: readonly Region[], offMm: number, reachMm: number): Loss[] {
  const losses: Loss[] = [];
  if (reachMm > 0) {
    const left = offset(offset(wanted, reachMm), -reachMm);
    losses.push(...pieces(without(left, wanted), wanted, left, "left"));
  }
  if (offMm < 0) {
    const saved = offset(offset(wanted, offMm), -offMm);
    losses.push(...pieces(without(wanted, saved), wanted, saved, "taken"));
  }
  return losses.sort((a, b) => b.depthMm - a.depthMm);
}

/** The direction in which the matter at a corner points out: the middle of its two edges' outward normals. */
function outward(outline: Outline, at: Point): Point {
  let [x, y] = [0, 0];
  for (const [a, b] of edges(outline)) {
    const long = distance(a, b);
    if (long === 0 || nearest(at, [a, b], false).distance > TOLERANCE.same * 10) continue;
    x += (b[1] - a[1]) / long;
    y -= (b[0] - a[0]) / long;
  }
  const size = Math.hypot(x, y);
  return size > 1e-9 ? [x / size, y / size] : [-1, 0];
}

/** Part of a closed line from one place on it to another, running counter-clockwise with the line. */
function stretch(outline: Outline, from: ReturnType<typeof nearest>, to: ReturnType<typeof nearest>): Point[] {
  const points: Point[] = [from.at];
  let i = from.edge;
  const sameEdge = from.edge === to.edge && distance(outline[i] as Point, from.at) <= distance(outline[i] as Point, to.at);
  if (!sameEdge) {
    do {
      i = (i + 1) % outline.length;
      points.push(outline[i] as Point);
    } while (i !== to.edge);
  }
  points.push(to.at);
  return points.filter((point, k) => k === 0 || distance(point, points[k - 1] as Point) > TOLERANCE.same);
}

export interface GuideInput {
  face: PartFace;
  /** how far the guide is outside, negative inside */
  offMm: number;
  /** straight beyond the tail, along the chord, so that the wire never stops in the part */
  runOutMm: number;
  /** How far past sharp outer corners the guide runs; the ends of a face have none. */
  earMm?: number;
}

export interface Guide {
  /** A face's line from the nose to the end of its run-out; the closed outline, counter-clockwise, for "whole". */
  line: Line;
  /** Where a face's own line ends and its run-out begins: an index; the line's length where there is none. */
  ownPoints: number;
  /** All closed guides with their holes, for "whole". */
  regions: Region[];
}

/**
 * The line a wire is led along for one end of a part.
 * @throws CoreError `no-solution` where an inner guide vanishes
 */
export function guideOf(drawn: Drawn, ask: GuideInput): Guide {
  return guidesOf(drawn, [ask.face], ask)[0] as Guide;
}

/** The same for several faces of one end, set off once. @throws as {@link guideOf} */
export function guidesOf(drawn: Drawn, faces: readonly PartFace[], { offMm, runOutMm, earMm = 0 }: Omit<GuideInput, "face">): Guide[] {
  const plain = offset(drawn.regions, offMm).sort((a, b) => regionArea(b) - regionArea(a));
  const ends = faces.includes("whole") ? [] : [drawn.nose, drawn.tail.upper, drawn.tail.lower];
  const regions = plain.map((region, i) =>
    earMm > 0 && drawn.regions[i] ? { ...region, outline: withEars(region.outline, drawn.regions[i].outline, offMm, earMm, ends) } : region,
  );
  return faces.map((face) => faceGuide(drawn, regions, { face, offMm, runOutMm }));
}

function faceGuide(drawn: Drawn, regions: Region[], { face, offMm, runOutMm }: GuideInput): Guide {
  const main = regions[0];
  if (!main)
    throw new CoreError("no-solution", "kerf_mm", `nothing is left of this shape ${Math.abs(offMm).toFixed(2)} mm inside its outline: it is thinner than that`);
  if (face === "whole") return { line: main.outline, ownPoints: main.outline.length, regions };
  const outline = drawn.regions[0]?.outline as Outline;
  const off = (at: Point, [nx, ny]: Point): Point => [at[0] + nx * offMm, at[1] + ny * offMm];
  const start = nearest(off(drawn.nose, outward(outline, drawn.nose)), main.outline);
  const tail = drawn.tail[face];
  // The face's own last edge, and the normal on it.
  const before = faceNeighbour(outline, tail, face);
  const long = distance(before, tail);
  const along: Point = [(tail[0] - before[0]) / long, (tail[1] - before[1]) / long];
  const normal: Point = face === "upper" ? [-along[1], along[0]] : [along[1], -along[0]];
  const end = nearest(off(tail, normal), main.outline);
  const line = face === "lower" ? stretch(main.outline, start, end) : stretch(main.outline, end, start).reverse();
  const ownPoints = line.length;
  if (runOutMm > 0) {
    const last = line.at(-1) as Point;
    const reach = tail[0] + runOutMm - last[0];
    // Straight on as the face runs; where it ends upright, along the chord.
    const slope = along[0] > 0.2 ? along[1] / along[0] : 0;
    line.push([last[0] + reach, last[1] + reach * slope]);
  }
  return { line, ownPoints, regions };
}

/** The point before the tail along a face. */
function faceNeighbour(outline: Outline, tail: Point, face: "upper" | "lower"): Point {
  const at = outline.reduce((best, point, i) => (distance(point, tail) < distance(outline[best] as Point, tail) ? i : best), 0);
  const step = face === "upper" ? 1 : -1;
  for (let k = 1; k < outline.length; k++) {
    const other = outline[(at + step * k + outline.length * k) % outline.length] as Point;
    if (distance(other, tail) > TOLERANCE.gap) return other;
  }
  return outline[at] as Point;
}

/** One face of a drawn shape, from its nose to its tail. */
export function faceOf(drawn: Drawn, face: "upper" | "lower"): Line {
  return guideOf(drawn, { face, offMm: 0, runOutMm: 0 }).line;
}

/** Greatest thickness, measured upright, mm, and where along x. */
export function thickest(outline: Outline): { thicknessMm: number; at: number } {
  let best = { thicknessMm: 0, at: boundsOf(outline).minX };
  // Heights change linearly between corners: the greatest is at one of them, or along an upright edge at either end.
  for (const x of [...new Set(outline.map(([each]) => each))]) {
    const heights = heightsAt(outline, x);
    const thicknessMm = heights ? heights.upper - heights.lower : 0;
    if (thicknessMm > best.thicknessMm) best = { thicknessMm, at: x };
  }
  return best;
}
