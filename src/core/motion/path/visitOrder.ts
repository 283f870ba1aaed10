import { boundsOf, distance, lineLength, nearest, type Outline, type Point } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";

export const VISIT_ORDER: Relation = {
  id: "visit-order",
  title: "Order of the islands",
  formula: "nearest neighbour first, then 2-opt until no exchange of two links shortens the round",
  words:
    "Where islands are small and far apart, going round them in one tour is shorter than going out and back along every link: both are computed and the shorter is taken.",
  range: "a few hundred islands; within some per cent of the best",
  basis: "published",
  source: "2-opt (Croes 1958) from a nearest-neighbour tour, distances between the islands' middles",
};

/**
 * An order in which to visit places, from a start and back to it.
 * @returns indexes of the places
 */
export function visitOrder(places: readonly Point[], start: Point): number[] {
  const n = places.length;
  if (n < 2) return places.map((_, i) => i);
  const all = [start, ...places];
  const d = (a: number, b: number) => distance(all[a] as Point, all[b] as Point);
  // From the start always to the nearest that is left.
  const tour = [0];
  const left = new Set(places.map((_, i) => i + 1));
  while (left.size > 0) {
    const here = tour.at(-1) as number;
    let next = -1;
    for (const i of left) if (next < 0 || d(here, i) < d(here, next)) next = i;
    left.delete(next);
    tour.push(next);
  }
  const at = (i: number) => tour[i % (n + 1)] as number;
  for (let better = true, rounds = 0; better && rounds < 200; rounds++) {
    better = false;
    for (let i = 0; i < n; i++)
      for (let k = i + 2; k <= n; k++) {
        if (i === 0 && k === n) continue;
        const [a, b, c, e] = [at(i), at(i + 1), at(k), at(k + 1)];
        if (d(a, b) + d(c, e) <= d(a, c) + d(b, e) + 1e-9) continue;
        for (let [p, q] = [i + 1, k]; p < q; p++, q--) [tour[p], tour[q]] = [tour[q] as number, tour[p] as number];
        better = true;
      }
    // A place taken out and put between two others (or-opt of one): what exchanges of links cannot reach.
    for (let i = 1; i <= n; i++) {
      const [a, b, c] = [at(i - 1), at(i), at(i + 1)];
      const saved = d(a, b) + d(b, c) - d(a, c);
      let best = { gain: 1e-9, k: -1 };
      for (let k = 0; k <= n; k++) {
        if (k === i || k === i - 1) continue;
        const [p, q] = [at(k), at(k + 1)];
        const gain = saved - (d(p, b) + d(b, q) - d(p, q));
        if (gain > best.gain) best = { gain, k };
      }
      if (best.k < 0) continue;
      const after = at(best.k);
      tour.splice(i, 1);
      tour.splice(tour.indexOf(after) + 1, 0, b);
      better = true;
    }
  }
  return tour.slice(1).map((i) => i - 1);
}

/** The middle of an outline's box: what an order of islands goes by. */
export function middleOf(outline: Outline): Point {
  const { minX, maxX, minY, maxY } = boundsOf(outline);
  return [(minX + maxX) / 2, (minY + maxY) / 2];
}

/** The shorter way along a closed line from one place on it to another. */
export function alongLoop(loop: Outline, from: Point, to: Point): Point[] {
  const n = loop.length;
  const where = (point: Point) => {
    const { edge, at } = nearest(point, loop);
    return { edge, along: distance(loop[edge] as Point, at) };
  };
  const [a, b] = [where(from), where(to)];
  const forward: Point[] = [from];
  if (!(a.edge === b.edge && b.along >= a.along)) {
    for (let i = (a.edge + 1) % n, count = 0; count < n; i = (i + 1) % n, count++) {
      forward.push(loop[i] as Point);
      if (i === b.edge) break;
    }
  }
  forward.push(to);
  const back: Point[] = [from];
  if (!(a.edge === b.edge && b.along <= a.along)) {
    for (let i = a.edge, count = 0; count < n; i = (i + n - 1) % n, count++) {
      back.push(loop[i] as Point);
      if (i === (b.edge + 1) % n) break;
    }
  }
  back.push(to);
  return lineLength(forward) <= lineLength(back) ? forward : back;
}
