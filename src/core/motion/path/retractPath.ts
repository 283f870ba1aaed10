import TinyQueue from "tinyqueue";
import { distance, type Line, type Point } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";

export const RETRACT_PATH: Relation = {
  id: "way-out",
  title: "Out of the foam after a stop",
  formula: "the shortest way along lines already cut, from where the wire is to where it came in",
  words: "Only where it has cut is there room for the wire: it is led back along its own kerf, warm, so that it neither drags nor cuts again.",
  range: "the block has not moved, no steps were lost",
  basis: "published",
  source: "shortest path (Dijkstra 1959) over the lines cut; common practice is to draw back along the kerf",
};

export interface RetractPath {
  near: Point[];
  /** of the far end, where it goes its own way */
  far: Point[] | null;
  lengthMm: number;
}

/** Places nearer than this are one, mm. */
const SAME_MM = 1e-3;

/**
 * The way back to where the wire came in, along what it has cut so far.
 * @param near and far points it has passed, in order, the last where it is; `far` null where both ends go alike
 */
export function retractPath(near: Line, far: Line | null): RetractPath {
  const key = (i: number) =>
    [near[i], far?.[i]]
      .flatMap((point) => point ?? [])
      .map((value) => Math.round(value / SAME_MM))
      .join();
  const node = new Map<string, number>();
  const points: number[] = [];
  const next: Map<number, number>[] = [];
  const own = near.map((_, i) => {
    const name = key(i);
    const known = node.get(name);
    if (known !== undefined) return known;
    node.set(name, points.length);
    points.push(i);
    next.push(new Map());
    return points.length - 1;
  });
  const long = (i: number, k: number) => Math.max(distance(near[i] as Point, near[k] as Point), far ? distance(far[i] as Point, far[k] as Point) : 0);
  for (let i = 1; i < own.length; i++) {
    const [a, b] = [own[i - 1] as number, own[i] as number];
    if (a === b) continue;
    const mm = long(i - 1, i);
    (next[a] as Map<number, number>).set(b, mm);
    (next[b] as Map<number, number>).set(a, mm);
  }
  // From where it came in, so that each place's next step out is what it was reached from.
  const best = new Float64Array(points.length).fill(Number.POSITIVE_INFINITY);
  const out = new Int32Array(points.length).fill(-1);
  const done = new Uint8Array(points.length);
  const start = own[0] ?? 0;
  best[start] = 0;
  const nearestFirst = new TinyQueue<[number, number]>([[0, start]], (a, b) => a[0] - b[0]);
  for (let reached = nearestFirst.pop(); reached; reached = nearestFirst.pop()) {
    const [, at] = reached;
    if (done[at]) continue;
    done[at] = 1;
    for (const [other, mm] of next[at] as Map<number, number>) {
      const sum = (best[at] as number) + mm;
      if (sum >= (best[other] as number)) continue;
      best[other] = sum;
      out[other] = at;
      nearestFirst.push([sum, other]);
    }
  }
  const indexes: number[] = [];
  for (let at = own.at(-1) ?? -1; at >= 0; at = out[at] as number) indexes.push(points[at] as number);
  return {
    near: indexes.map((i) => near[i] as Point),
    far: far && indexes.map((i) => far[i] as Point),
    lengthMm: best[own.at(-1) ?? 0] ?? 0,
  };
}
