import { crossingOf } from "../../geometry/crossing";
import { nearestOn } from "../../geometry/edgeIndex";
import { offset, united } from "../../geometry/offset";
import {
  type Bounds,
  boundsOf,
  counterClockwise,
  distance,
  isInside,
  type Line,
  lerp,
  lineLength,
  nearest,
  type Outline,
  type Point,
  type Region,
  regionArea,
} from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { alongLoop, middleOf, visitOrder } from "./visitOrder";

export const ONE_PATH: Relation = {
  id: "one-path",
  title: "One unbroken path",
  formula:
    "outlines half a kerf off; travel by a minimum spanning tree of the shortest straight links through waste; a slit to each hole the same way through the part",
  words:
    "A wire cannot be lifted out of the foam: everything it cuts is one line. It goes along each link and back, round each part, and into each hole by a slit where the part is thinnest.",
  range: "parts farther apart than the kerf, holes wider than it",
  basis: "published",
  source: "minimum spanning tree (Kruskal 1956) over the shortest distances between outlines",
};

export const JOINS = ["apart", "joined"] as const;

export interface OnePathInput {
  shapes: readonly Region[];
  kerfMm: number;
  /** islands left apart, or united by bars */
  join: (typeof JOINS)[number];
  barMm?: number | undefined;
  start?: Point | undefined;
  /** places that slits, and bars, are wanted near: each moves the one that is nearest */
  slitsAt?: readonly Point[] | undefined;
  barsAt?: readonly Point[] | undefined;
  /** out and back along a tree of shortest links, or once round all islands where that is shorter */
  order?: "tree" | "shorter" | undefined;
  /** which way round an outline is cut from where the wire meets it: with its lower side first, or its upper */
  first?: "below" | "above" | undefined;
}

export interface OnePath {
  /** from the start and back to it */
  path: Point[];
  lengthMm: number;
  /** straight ways through waste, each gone there and back; the first from the start */
  links: Line[];
  /** straight ways through a part, to its holes */
  slits: Line[];
  /** middles of the bars that unite islands */
  bars: Line[];
  /** the start lies in a hole: the wire is unhooked and threaded through it first */
  threaded: boolean;
  /** pockets whose mouth is narrower than the kerf: a slit leads into each, and the kerf takes both sides of the mouth */
  closedMouths: Point[];
}

/** Without a start the wire comes from this far outside the lower left, mm. */
const OUTSIDE_MM = 10;
/** A bar reaches into both its islands by its own width, so that it holds. */
const BAR_INTO = 1;

interface Tie {
  a: number;
  b: number;
  from: Point;
  to: Point;
  mm: number;
}

/** Of an outline that is asked about many times. */
const known = new WeakMap<Outline, ReturnType<typeof nearestOn>>();
function nearestTo(outline: Outline): ReturnType<typeof nearestOn> {
  const there = known.get(outline) ?? nearestOn(outline);
  known.set(outline, there);
  return there;
}

/** Shortest way between two outlines that do not cross: one of its ends is a corner of one of them. */
function shortest(p: Outline, q: Outline): { from: Point; to: Point; mm: number } {
  const [own, other] = [boundsOf(p), boundsOf(q)];
  // Of the one that is shorter to walk the corner that faces the other most gives a distance to beat; corners farther from the other's box than that are never looked at.
  const [small, large, box] = p.length <= q.length ? [p, q, other] : [q, p, own];
  const start = small.reduce((a, b) => (fromBox(b, box) < fromBox(a, box) ? b : a));
  const begin = nearestTo(large)(start);
  let best = p.length <= q.length ? { from: start, to: begin.at, mm: begin.distance } : { from: begin.at, to: start, mm: begin.distance };
  for (const { corner, least } of facing(p, other, best.mm)) {
    if (least >= best.mm) break;
    const found = nearestTo(q)(corner);
    if (found.distance < best.mm) best = { from: corner, to: found.at, mm: found.distance };
  }
  for (const { corner, least } of facing(q, own, best.mm)) {
    if (least >= best.mm) break;
    const found = nearestTo(p)(corner);
    if (found.distance < best.mm) best = { from: found.at, to: corner, mm: found.distance };
  }
  return best;
}

const fromBox = ([x, y]: Point, { minX, maxX, minY, maxY }: Bounds): number => Math.hypot(Math.max(0, minX - x, x - maxX), Math.max(0, minY - y, y - maxY));
/** Corners nearer to a box than so much, the nearest first. */
const facing = (outline: Outline, box: Bounds, mm: number): { corner: Point; least: number }[] =>
  outline
    .map((corner) => ({ corner, least: fromBox(corner, box) }))
    .filter(({ least }) => least < mm)
    .sort((a, b) => a.least - b.least);

/** The tree of shortest ways that ties outlines together (Kruskal); a pair's own distance is computed only when its boxes' distance comes up. */
function spanningTree(outlines: readonly Outline[]): Tie[] {
  const boxes = outlines.map((outline) => boundsOf(outline));
  const waiting: { a: number; b: number; least: number; tie: Tie | null }[] = [];
  for (let a = 0; a < outlines.length; a++) {
    for (let b = a + 1; b < outlines.length; b++) {
      const [p, q] = [boxes[a], boxes[b]];
      if (!p || !q) continue;
      const [dx, dy] = [Math.max(0, p.minX - q.maxX, q.minX - p.maxX), Math.max(0, p.minY - q.maxY, q.minY - p.maxY)];
      waiting.push({ a, b, least: Math.hypot(dx, dy), tie: null });
    }
  }
  // Nearest last: taken off the end.
  waiting.sort((x, y) => y.least - x.least);
  const root = outlines.map((_, i) => i);
  const rootOf = (i: number): number => {
    let at = i;
    while (root[at] !== at) {
      root[at] = root[root[at] as number] as number;
      at = root[at] as number;
    }
    return at;
  };
  const ties: Tie[] = [];
  while (ties.length < outlines.length - 1) {
    const next = waiting.pop();
    if (!next) break;
    if (rootOf(next.a) === rootOf(next.b)) continue;
    if (next.tie) {
      root[rootOf(next.a)] = rootOf(next.b);
      ties.push(next.tie);
      continue;
    }
    const found = shortest(outlines[next.a] as Outline, outlines[next.b] as Outline);
    const known = { ...next, least: found.mm, tie: { a: next.a, b: next.b, ...found } };
    let [low, high] = [0, waiting.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((waiting[middle] as { least: number }).least > known.least) low = middle + 1;
      else high = middle;
    }
    waiting.splice(low, 0, known);
  }
  return ties;
}

/** Farther apart than the nearest by no more than this share of a bar's width is as near. */
const AS_NEAR = 0.15;

/** The shortest way between two outlines as {@link shortest}, in the middle of where they face each other: a bar at a corner would hang over it. */
function broadest(p: Outline, q: Outline, wide: number): { from: Point; to: Point; mm: number } {
  const best = shortest(p, q);
  const box = boundsOf(q);
  const near = p.flatMap((a, i) => {
    const b = p[(i + 1) % p.length] as Point;
    const parts = Math.max(1, Math.ceil(distance(a, b) / (wide / 4)));
    return Array.from({ length: parts }, (_, k) => {
      return [a[0] + ((b[0] - a[0]) * k) / parts, a[1] + ((b[1] - a[1]) * k) / parts] as const;
    })
      .filter((from) => distance(from, best.from) <= FACING * wide && fromBox(from, box) <= best.mm + AS_NEAR * wide)
      .map((from) => {
        const found = nearestTo(q)(from);
        return { from, to: found.at, mm: found.distance };
      })
      .filter(({ mm }) => mm <= best.mm + AS_NEAR * wide);
  });
  if (near.length === 0) return best;
  const middle: Point = [near.reduce((sum, { from }) => sum + from[0], 0) / near.length, near.reduce((sum, { from }) => sum + from[1], 0) / near.length];
  return near.reduce((chosen, each) => (distance(each.from, middle) < distance(chosen.from, middle) ? each : chosen));
}
/** No farther along than so many bars' widths is looked for the middle. */
const FACING = 8;

/** A bar between two islands, its ends well into both. */
function barOf({ from, to, mm }: Tie, wide: number): Region {
  const long = Math.max(mm, 1e-6);
  const [ux, uy] = mm > 1e-9 ? [(to[0] - from[0]) / long, (to[1] - from[1]) / long] : [1, 0];
  const [nx, ny] = [(-uy * wide) / 2, (ux * wide) / 2];
  const [a, b]: [Point, Point] = [
    [from[0] - ux * wide * BAR_INTO, from[1] - uy * wide * BAR_INTO],
    [to[0] + ux * wide * BAR_INTO, to[1] + uy * wide * BAR_INTO],
  ];
  return {
    outline: counterClockwise([
      [a[0] + nx, a[1] + ny],
      [b[0] + nx, b[1] + ny],
      [b[0] - nx, b[1] - ny],
      [a[0] - nx, a[1] - ny],
    ]),
    holes: [],
  };
}

/**
 * One line that frees every part: the wire's middle, half a kerf off each outline.
 * @throws CoreError `no-solution` where an outline crosses itself, parts are closer than the kerf, or a hole vanishes in it, with the places; `missing-key` where islands are to be joined and no bar is given
 */
export function onePath({ shapes, kerfMm, join, barMm, start, slitsAt = [], barsAt = [], order = "tree", first: begins = "below" }: OnePathInput): OnePath {
  if (shapes.length === 0) throw new CoreError("no-solution", "shapes", "shapes must have at least one outline");
  for (const [i, { outline }] of shapes.entries()) requireSimple(outline, `shapes.${i}.outline_mm`);
  // Which way a hole runs is its giver's affair.
  let parts = unitedWhereNear(
    shapes.map(({ outline, holes }) => ({ outline: counterClockwise(outline), holes: holes.map((hole) => [...counterClockwise(hole)].reverse()) })),
  );
  const bars: Line[] = [];
  if (join === "joined") {
    if (barMm === undefined) throw new CoreError("missing-key", "bar_mm", "bar_mm is required where islands are joined");
    if (barMm <= kerfMm) throw new CoreError("out-of-range", "bar_mm", `bar_mm must be a number above the kerf, ${kerfMm} mm: a narrower bar is cut through`);
    const ties = spanningTree(parts.map(({ outline }) => outline));
    const middles = ties.map((tie) => ({ ...tie, ...broadest((parts[tie.a] as Region).outline, (parts[tie.b] as Region).outline, barMm) }));
    for (const wanted of barsAt) {
      const tie = nearestTie(middles, wanted);
      if (!tie) continue;
      const [p, q] = [(parts[tie.a] as Region).outline, (parts[tie.b] as Region).outline];
      const from = nearest(wanted, p).at;
      const { at: to, distance: mm } = nearest(from, q);
      Object.assign(tie, { from, to, mm });
    }
    for (const { from, to } of middles) bars.push([from, to]);
    parts = united([...parts, ...middles.map((tie) => barOf(tie, barMm))]);
  }
  const half = kerfMm / 2;
  const cut = offset(parts, half);
  if (cut.length < parts.length) refuseClose(parts, kerfMm);
  for (const [i, hole] of parts.flatMap(({ holes }) => holes).entries()) {
    if (offset([{ outline: counterClockwise(hole), holes: [] }], -half).length > 0) continue;
    const at = middleOf(hole);
    throw new CoreError(
      "no-solution",
      "kerf_mm",
      `hole ${i + 1}, near ${words(at)}, is narrower than the kerf, ${kerfMm.toFixed(2)} mm. Use less heat, a thinner wire, or a larger hole`,
      [at],
    );
  }
  const mouths = closedMouths(parts, cut);

  // Every closed line that is cut, outlines first in each part.
  const loops: { line: Outline; part: number; hole: boolean }[] = cut.flatMap(({ outline, holes }, part) => [
    { line: outline, part, hole: false },
    ...holes.map((line) => ({ line, part, hole: true })),
  ]);
  const [links, slits]: [Tie[], Tie[]] = [[], []];
  const tieAll = (members: number[], into: Tie[]) => {
    for (const tie of spanningTree(members.map((i) => (loops[i] as (typeof loops)[number]).line)))
      into.push({ ...tie, a: members[tie.a] as number, b: members[tie.b] as number });
  };
  // Through a part: its outline and its own holes.
  for (const part of cut.keys())
    tieAll(
      loopsWhere(loops, (loop) => loop.part === part),
      slits,
    );
  for (const wanted of slitsAt) moveSlit(slits, loops, wanted);
  // Through waste: what lies outside everything, and what lies in the same hole.
  const boxes = loops.map(({ line }) => boundsOf(line));
  const within = new Map<number, number[]>();
  for (const [i, loop] of loops.entries()) {
    if (loop.hole) continue;
    const around = loops.flatMap((other, k) =>
      other.hole && other.part !== loop.part && fromBox(loop.line[0] as Point, boxes[k] as Bounds) === 0 && isInside(loop.line[0] as Point, other.line)
        ? [k]
        : [],
    );
    const nearestHole = around.sort((a, b) => areaOf(loops[a]) - areaOf(loops[b]))[0] ?? -1;
    within.set(nearestHole, [...(within.get(nearestHole) ?? []), i]);
  }
  for (const [hole, members] of within) tieAll(hole < 0 ? members : [hole, ...members], links);

  const outer = within.get(-1) ?? [];
  const { minX, minY } = boundsOf(loops.flatMap(({ line }) => line));
  const from: Point = start ?? [minX - OUTSIDE_MM, minY - OUTSIDE_MM];
  if (start && cut.some(({ outline, holes }) => isInside(start, outline) && !holes.some((hole) => isInside(start, hole))))
    throw new CoreError("out-of-range", "start_mm", "start_mm must lie outside every part: the wire comes from outside, or is threaded through a hole", [
      start,
    ]);
  // The smallest hole that the start lies in: the wire is threaded there, and goes out through that part's slit.
  const threaded = loopsWhere(loops, ({ line, hole }) => hole && isInside(from, line)).sort((a, b) => areaOf(loops[a]) - areaOf(loops[b]))[0] ?? null;
  const reached = threaded === null ? outer : [threaded, ...(within.get(threaded) ?? [])];
  let first = { loop: reached[0] as number, at: (loops[reached[0] as number] as (typeof loops)[number]).line[0] as Point, mm: Number.POSITIVE_INFINITY };
  for (const i of reached) {
    const found = nearest(from, (loops[i] as (typeof loops)[number]).line);
    if (found.distance < first.mm) first = { loop: i, at: found.at, mm: found.distance };
  }
  const all = loops.map(({ line }) => line);
  const lines = (of: readonly Tie[]): Line[] => of.filter(({ mm }) => mm > 1e-9).map((tie) => [tie.from, tie.to]);
  const tree = {
    path: [from, ...toured(all, [...links, ...slits], first.loop, first.at), from],
    links: [[from, first.at] as Line, ...lines(links)],
  };
  const round =
    order === "shorter" && threaded === null
      ? roundTour(all, outer, [...links.filter(({ a, b }) => !(outer.includes(a) && outer.includes(b))), ...slits], from, cut)
      : null;
  const best = round && lineLength(round.path) < lineLength(tree.path) ? round : tree;
  const path = begins === "above" ? [...best.path].reverse() : best.path;
  return { path, lengthMm: lineLength(path), links: best.links, slits: lines(slits), bars, threaded: threaded !== null, closedMouths: mouths };
}

const words = ([x, y]: Point) => `x ${x.toFixed(1)}, y ${y.toFixed(1)} mm`;

/** @throws CoreError `no-solution` with the place where an outline crosses itself */
function requireSimple(outline: Outline, path: string): void {
  const at = crossingOf(outline);
  if (at)
    throw new CoreError("no-solution", path, `${path} crosses itself near ${words(at)}: it does not say which side is the part. Draw it without the crossing`, [
      at,
    ]);
}

/** Says which two parts are closer than the kerf, and where. */
function refuseClose(parts: readonly Region[], kerfMm: number): never {
  let closest = { a: 0, b: 1, from: [0, 0] as Point, to: [0, 0] as Point, mm: Number.POSITIVE_INFINITY };
  const boxes = parts.map(({ outline }) => boundsOf(outline));
  for (let a = 0; a < parts.length; a++) {
    for (let b = a + 1; b < parts.length; b++) {
      const [p, q] = [boxes[a] as Bounds, boxes[b] as Bounds];
      if (Math.hypot(Math.max(0, p.minX - q.maxX, q.minX - p.maxX), Math.max(0, p.minY - q.maxY, q.minY - p.maxY)) > kerfMm) continue;
      // One may lie in a hole of the other.
      for (const line of [(parts[a] as Region).outline, ...(parts[a] as Region).holes])
        for (const other of [(parts[b] as Region).outline, ...(parts[b] as Region).holes]) {
          const found = shortest(line, other);
          if (found.mm < closest.mm) closest = { a, b, ...found };
        }
    }
  }
  const { a, b, from, to, mm } = closest;
  throw new CoreError(
    "no-solution",
    "kerf_mm",
    `parts ${a + 1} and ${b + 1} are ${mm.toFixed(2)} mm apart near ${words(from)}, closer than the kerf, ${kerfMm.toFixed(2)} mm: the wire cannot pass between them. Move them apart, or join them`,
    [from, to],
  );
}

/** Pockets that have a mouth narrower than the kerf: in the offset they are holes, though the part has none there. A place in each. */
function closedMouths(parts: readonly Region[], cut: readonly Region[]): Point[] {
  const holes = parts.flatMap((part) => part.holes);
  return cut
    .flatMap((region) => region.holes)
    .flatMap((hole) => {
      const at = hole[0] as Point;
      return holes.some((own) => isInside(at, own)) ? [] : [middleOf(hole)];
    });
}

/** More islands than this go out and back along their links: every pair's own distance would take too long. */
const MOST_TOURED = 150;

/**
 * Once round all islands instead of out and back along every link; null where that leads through a part.
 * @param hung what is not between outer islands: slits, and islands within holes
 */
function roundTour(
  loops: readonly Outline[],
  outer: readonly number[],
  hung: readonly Tie[],
  from: Point,
  cut: readonly Region[],
): { path: Point[]; links: Line[] } | null {
  if (outer.length < 3 || outer.length > MOST_TOURED) return null;
  const order = visitOrder(
    outer.map((i) => middleOf(loops[i] as Outline)),
    from,
  ).map((k) => outer[k] as number);
  const links: Line[] = [];
  const path: Point[] = [from];
  let here = from;
  const entry: Point[] = [];
  const exits: Point[] = [];
  // From each island to the next by the shortest way between them.
  for (const [k, loop] of order.entries()) {
    const line = loops[loop] as Outline;
    const link = k === 0 ? { from, to: nearest(from, line).at } : shortest(loops[order[k - 1] as number] as Outline, line);
    exits.push(link.from);
    entry.push(link.to);
    links.push([link.from, link.to]);
  }
  const home = nearest(from, loops[order.at(-1) as number] as Outline).at;
  links.push([home, from]);
  if (links.some(([a, b]) => cut.some((region) => crosses(a as Point, b as Point, region)))) return null;
  for (const [k, loop] of order.entries()) {
    const line = loops[loop] as Outline;
    const inTo = entry[k] as Point;
    if (k > 0) path.push(...alongLoop(loops[order[k - 1] as number] as Outline, here, exits[k] as Point));
    path.push(...toured(loops, hung, loop, inTo));
    here = inTo;
    if (k === order.length - 1) path.push(...alongLoop(line, here, home));
  }
  path.push(from);
  return { path: path.filter((point, i) => i === 0 || distance(point, path[i - 1] as Point) > 1e-9), links };
}

/** Whether a straight way leads through a part: some of its inner places lie in it. */
function crosses(a: Point, b: Point, { outline, holes }: Region): boolean {
  const { minX, maxX, minY, maxY } = boundsOf(outline);
  if (Math.max(a[0], b[0]) < minX || Math.min(a[0], b[0]) > maxX || Math.max(a[1], b[1]) < minY || Math.min(a[1], b[1]) > maxY) return false;
  const steps = Math.max(3, Math.ceil(distance(a, b)));
  for (let i = 1; i < steps; i++) {
    const p = lerp(a, b, i / steps);
    if (isInside(p, outline) && nearest(p, outline).distance > WITHIN_MM && !holes.some((hole) => isInside(p, hole))) return true;
  }
  return false;
}
/** A place this near an outline lies on it, mm. */
const WITHIN_MM = 0.02;

const toTie = (point: Point, tie: Tie): number => nearest(point, [tie.from, tie.to, tie.from]).distance;
const nearestTie = <T extends Tie>(ties: readonly T[], point: Point): T | null =>
  ties.reduce<T | null>((best, tie) => (best === null || toTie(point, tie) < toTie(point, best) ? tie : best), null);

/** Moves the slit that is nearest to a place there: straight between the places of the hole and of what it is tied to that lie nearest to it. @throws CoreError where it would cross another hole */
function moveSlit(slits: readonly Tie[], loops: readonly { line: Outline; part: number; hole: boolean }[], wanted: Point): void {
  const tie = nearestTie(slits, wanted);
  if (!tie) return;
  const [p, q] = [loops[tie.a] as (typeof loops)[number], loops[tie.b] as (typeof loops)[number]];
  const [inner, outerLoop] = p.hole ? [p, q] : [q, p];
  const from = nearest(wanted, inner.line).at;
  const to = nearest(wanted, outerLoop.line).at;
  const mm = distance(from, to);
  const others = loops.filter((loop) => loop.part === inner.part && loop !== inner && loop !== outerLoop);
  if (others.some(({ line }) => line.some((point, i) => meets(from, to, point, line[(i + 1) % line.length] as Point))))
    throw new CoreError("no-solution", "slitsAt", "a slit moved there would run through another hole: take a place from which its way is free");
  const ends = p.hole ? { from, to } : { from: to, to: from };
  Object.assign(tie, { ...ends, mm });
}

/** Whether two stretches cross. */
function meets(a: Point, b: Point, c: Point, d: Point): boolean {
  const side = (p: Point, q: Point, r: Point) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

/** Regions united where their boxes meet; those that are alone are what they were. */
function unitedWhereNear(regions: readonly Region[]): Region[] {
  const boxes = regions.map(({ outline }) => boundsOf(outline));
  const group = regions.map((_, i) => i);
  const head = (i: number): number => (group[i] === i ? i : head(group[i] as number));
  const order = boxes.map((_, i) => i).sort((a, b) => (boxes[a] as Bounds).minX - (boxes[b] as Bounds).minX);
  for (const [k, a] of order.entries())
    for (let m = k + 1; m < order.length; m++) {
      const b = order[m] as number;
      const [p, q] = [boxes[a] as Bounds, boxes[b] as Bounds];
      if (q.minX > p.maxX) break;
      if (q.minY <= p.maxY && p.minY <= q.maxY) group[head(b)] = head(a);
    }
  const together = new Map<number, Region[]>();
  for (const [i, region] of regions.entries()) together.set(head(i), [...(together.get(head(i)) ?? []), region]);
  // One on its own may still cross itself.
  return [...together.values()].flatMap((members) => united(members));
}

const loopsWhere = <T>(all: readonly T[], is: (each: T) => boolean): number[] => all.flatMap((each, i) => (is(each) ? [i] : []));
const areaOf = (loop: { line: Outline } | undefined): number => (loop ? Math.abs(regionArea({ outline: loop.line, holes: [] })) : Number.POSITIVE_INFINITY);

/** Round a loop from a place on it and back there; where a tie leaves it, along the tie, round what hangs on it, and back. */
function toured(lines: readonly Outline[], ties: readonly Tie[], first: number, at: Point): Point[] {
  const done = new Set<Tie>();
  const walk = function* (loop: number, entry: Point): Generator<Point> {
    const line = lines[loop] as Outline;
    const n = line.length;
    const where = (point: Point) => {
      const { edge, at: on } = nearest(point, line);
      return { edge, along: distance(line[edge] as Point, on) };
    };
    const begin = where(entry);
    const mine = ties
      .filter((tie) => !done.has(tie) && (tie.a === loop || tie.b === loop))
      .map((tie) => {
        done.add(tie);
        const [near, far, other] = tie.a === loop ? [tie.from, tie.to, tie.b] : [tie.to, tie.from, tie.a];
        const { edge, along } = where(near);
        // How far round from the entry: edges first, then along the edge.
        const round = (edge - begin.edge + n) % n;
        const behind = round === 0 && along < begin.along - 1e-12;
        return { near, far, other, round: behind ? n : round, along };
      })
      .sort((p, q) => p.round - q.round || p.along - q.along);
    yield entry;
    let k = 0;
    for (let step = 0; step <= n; step++) {
      for (; k < mine.length && (mine[k] as (typeof mine)[number]).round === step; k++) {
        const { near, far, other } = mine[k] as (typeof mine)[number];
        yield near;
        yield* walk(other, far);
        yield near;
      }
      if (step < n) yield line[(begin.edge + step + 1) % n] as Point;
    }
    yield entry;
  };
  const points: Point[] = [];
  for (const point of walk(first, at)) {
    const last = points.at(-1);
    if (!last || distance(last, point) > 1e-9) points.push(point);
  }
  return points;
}
