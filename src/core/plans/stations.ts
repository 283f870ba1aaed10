import { distance, type Line, lerp, nearest, type Outline, type Point, perimeter } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import type { Relation } from "../kernel/provenance";
import { cornersOf } from "./ears";
import { faceOf, type PartFace } from "./guide";
import type { Drawn } from "./shapes/record";

export const STATIONS: Relation = {
  id: "stations",
  title: "Numbered marks on both templates",
  formula: "outlines are broken at their corners and at the nose; between breaks both ends go equal shares of their own arc length",
  words: "Two people who pass equal numbers together keep the wire where the part wants it, at the nose and at every corner.",
  range: "corners that do not pair are reported and may be paired by hand",
  basis: "common practice",
  source: "geometry of a ruled surface; a number is called every few seconds, split in quarters and halves",
};

/** A line led along with the places where it turns sharply, in the order it is led. */
export interface BrokenLine {
  points: Line;
  /** how far along each point is, mm */
  along: Float64Array;
  /** distances along of the nose and of every corner within it, mm; its two ends are not among them */
  breaks: Break[];
}
export interface Break {
  along: number;
  at: Point;
  kind: "nose" | "corner";
}

const runningLength = (points: Line): Float64Array => {
  const along = new Float64Array(points.length);
  for (let i = 1; i < points.length; i++) along[i] = (along[i - 1] as number) + distance(points[i - 1] as Point, points[i] as Point);
  return along;
};

/** The point so far along a line. */
export function pointAt({ points, along }: Pick<BrokenLine, "points" | "along">, mm: number): Point {
  let [low, high] = [0, points.length - 1];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((along[middle] as number) <= mm) low = middle;
    else high = middle;
  }
  const [a, b] = [along[low] as number, along[high] as number];
  return lerp(points[low] as Point, points[high] as Point, b > a ? Math.min(1, Math.max(0, (mm - a) / (b - a))) : 0);
}

/** Corners nearer than this share of the whole to an end or to one another are one, such as the two of a blunt tail. */
const ONE_CORNER = 0.01;

/** An open line broken at its corners. @param nose where it passes the nose, if it does within */
export function brokenLine(points: Line, nose: Point | null = null): BrokenLine {
  const along = runningLength(points);
  const total = along.at(-1) as number;
  // As a closed line its two ends would be corners: those are left out.
  const corners = cornersOf(points as Outline).filter(({ index }) => index > 0 && index < points.length - 1);
  const found: Break[] = corners.map(({ index, at }) => ({ along: along[index] as number, at, kind: "corner" }));
  if (nose) {
    const { at, edge } = nearest(nose, points, false);
    found.push({ along: (along[edge] as number) + distance(points[edge] as Point, at), at, kind: "nose" });
  }
  found.sort((a, b) => a.along - b.along);
  const breaks: Break[] = [];
  for (const each of found) {
    if (each.along < ONE_CORNER * total || each.along > (1 - ONE_CORNER) * total) continue;
    const before = breaks.at(-1);
    if (before && each.along - before.along < ONE_CORNER * total) {
      if (each.kind === "nose") breaks[breaks.length - 1] = each;
      continue;
    }
    breaks.push(each);
  }
  return { points, along, breaks };
}

/** One face of a drawn shape as a line to be led: from the nose to the tail; or all round, from the tail's upper end over the nose to its lower end, and over a thick tail back to where it began. */
export function faceLine(drawn: Drawn, face: PartFace): BrokenLine {
  if (face !== "whole") return brokenLine(faceOf(drawn, face));
  const outline = drawn.regions[0]?.outline ?? [];
  const at = (point: Point) => outline.reduce((best, each, i) => (distance(each, point) < distance(outline[best] as Point, point) ? i : best), 0);
  const [upper, lower] = [at(drawn.tail.upper), at(drawn.tail.lower)];
  const n = outline.length;
  const round = (lower - upper + n) % n;
  // A thin tail's own edge is no face.
  const thin = round > 0 && distance(drawn.tail.upper, drawn.tail.lower) < ONE_CORNER * perimeter(outline);
  return brokenLine(
    Array.from({ length: (thin ? round : n) + 1 }, (_, i) => outline[(upper + i) % n] as Point),
    drawn.nose,
  );
}

/** A pair of breaks that are passed together: indexes into both lines' breaks. */
export type Pair = readonly [root: number, tip: number];

/** Two lines' breaks paired in order, and those that found none. */
export interface Pairing {
  pairs: Pair[];
  leftOver: { end: "root" | "tip"; index: number; at: Point }[];
}

/** Shares of their lines by which two corners may differ and still be one. */
const ALIKE = 0.12;

/**
 * Pairs corners with corners and nose with nose, in their order, each with the one that lies at the most alike share of its line.
 * @param byHand pairs that a person made; they are, and all else is paired between them
 */
export function pairBreaks(root: BrokenLine, tip: BrokenLine, byHand: readonly Pair[] = []): Pairing {
  const share = (line: BrokenLine, i: number) => (line.breaks[i]?.along ?? 0) / (line.along.at(-1) as number);
  const [m, n] = [root.breaks.length, tip.breaks.length];
  const even = m === n && root.breaks.every(({ kind }, i) => tip.breaks[i]?.kind === kind);
  // Most pairs first, then the most alike: a table over prefixes, as words are aligned.
  const fits = (i: number, j: number): number | null => {
    const hand = byHand.find(([r, t]) => r === i || t === j);
    if (hand) return hand[0] === i && hand[1] === j ? 0 : null;
    if (byHand.some(([r, t]) => Math.sign(r - i) !== Math.sign(t - j))) return null;
    if (root.breaks[i]?.kind !== tip.breaks[j]?.kind) return null;
    const off = Math.abs(share(root, i) - share(tip, j));
    // As many of each in the same order are taken for the same, however they lie.
    return even ? (i === j ? 0 : null) : off <= ALIKE ? off : null;
  };
  const cost: number[][] = Array.from({ length: m + 1 }, () => new Array<number>(n + 1).fill(0));
  for (let i = m - 1; i >= 0; i--) {
    for (let j = n - 1; j >= 0; j--) {
      const off = fits(i, j);
      const together = off === null ? Number.POSITIVE_INFINITY : off - 1 + ((cost[i + 1] as number[])[j + 1] as number);
      (cost[i] as number[])[j] = Math.min((cost[i + 1] as number[])[j] as number, (cost[i] as number[])[j + 1] as number, together);
    }
  }
  const pairs: Pair[] = [];
  for (let i = 0, j = 0; i < m && j < n; ) {
    const off = fits(i, j);
    const here = (cost[i] as number[])[j] as number;
    if (off !== null && Math.abs(here - (off - 1 + ((cost[i + 1] as number[])[j + 1] as number))) < 1e-12) {
      pairs.push([i, j]);
      i += 1;
      j += 1;
    } else if (here === (cost[i + 1] as number[])[j]) i += 1;
    else j += 1;
  }
  const left = (end: "root" | "tip", line: BrokenLine, which: 0 | 1) =>
    line.breaks.flatMap(({ at }, index) => (pairs.some((pair) => pair[which] === index) ? [] : [{ end, index, at }]));
  return { pairs, leftOver: [...left("root", root, 0), ...left("tip", tip, 1)] };
}

/** One mark on both lines. */
export interface Station {
  /** whole numbers from 0; parts as 1 1/4 */
  label: string;
  whole: boolean;
  root: Point;
  tip: Point;
  rootAlongMm: number;
  tipAlongMm: number;
  /** where both lines turn or pass the nose */
  at: "start" | "end" | "nose" | "corner" | null;
}

export interface Stations {
  stations: Station[];
  leftOver: Pairing["leftOver"];
  pairs: Pair[];
  rootLengthMm: number;
  tipLengthMm: number;
}

/** Most marks on a template, and most parts of each. */
export const MOST_STATIONS = 500;
export const MOST_PARTS = 16;

const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
const partLabel = (whole: number, part: number, parts: number): string => {
  if (part === 0) return String(whole);
  const by = divisor(part, parts);
  return `${whole} ${part / by}/${parts / by}`;
};

/**
 * Numbered marks on both ends of a part: at every break that pairs, and between breaks at equal shares of arc length of each end.
 * @param count whole stations after the first, shared out among the stretches between breaks by their length at the root, at least one each
 * @param parts each is split in
 * @throws CoreError `out-of-range` where there are fewer numbers than stretches
 */
export function stationsOf(root: BrokenLine, tip: BrokenLine, count: number, parts: number, byHand: readonly Pair[] = []): Stations {
  const { pairs, leftOver } = pairBreaks(root, tip, byHand);
  const [rootLengthMm, tipLengthMm] = [root.along.at(-1) as number, tip.along.at(-1) as number];
  const stops = [
    { root: 0, tip: 0, at: "start" as const },
    ...pairs.map(([r, t]) => ({ root: root.breaks[r]?.along ?? 0, tip: tip.breaks[t]?.along ?? 0, at: root.breaks[r]?.kind ?? null })),
    { root: rootLengthMm, tip: tipLengthMm, at: "end" as const },
  ];
  const stretches = stops.length - 1;
  if (count < stretches)
    throw new CoreError(
      "out-of-range",
      "count",
      `count must be a number from ${stretches} to ${MOST_STATIONS}: this outline has ${stretches} stretches between its corners`,
    );
  const lengths = stops.slice(1).map((stop, i) => stop.root - (stops[i]?.root ?? 0));
  const shares = shareOut(lengths, count);
  const stations: Station[] = [];
  const add = (whole: number, part: number, rootAlongMm: number, tipAlongMm: number, at: Station["at"]) =>
    stations.push({
      label: partLabel(whole, part, parts),
      whole: part === 0,
      root: pointAt(root, rootAlongMm),
      tip: pointAt(tip, tipAlongMm),
      rootAlongMm,
      tipAlongMm,
      at,
    });
  let number = 0;
  for (let s = 0; s < stretches; s++) {
    const [a, b] = [stops[s] as (typeof stops)[number], stops[s + 1] as (typeof stops)[number]];
    const marks = (shares[s] as number) * parts;
    for (let k = 0; k < marks; k++) {
      const t = k / marks;
      add(number + Math.floor(k / parts), k % parts, a.root + (b.root - a.root) * t, a.tip + (b.tip - a.tip) * t, k === 0 ? a.at : null);
    }
    number += shares[s] as number;
  }
  add(number, 0, rootLengthMm, tipLengthMm, "end");
  return { stations, leftOver, pairs, rootLengthMm, tipLengthMm };
}

/** A number of whole things shared out by size, at least one each (largest remainders). */
function shareOut(sizes: readonly number[], count: number): number[] {
  const total = sizes.reduce((sum, size) => sum + size, 0);
  const free = count - sizes.length;
  const want = sizes.map((size) => Math.max(0, (size / total) * count - 1));
  const wanted = want.reduce((sum, each) => sum + each, 0) || 1;
  const exact = want.map((each) => (each / wanted) * free);
  const shares = exact.map((each) => Math.floor(each + 1e-9));
  const order = exact.map((each, i) => ({ i, rest: each - (shares[i] as number) })).sort((a, b) => b.rest - a.rest || a.i - b.i);
  for (let k = 0, left = free - shares.reduce((sum, each) => sum + each, 0); left > 0; k++, left--) {
    const { i } = order[k % order.length] as { i: number };
    shares[i] = (shares[i] as number) + 1;
  }
  return shares.map((share) => share + 1);
}

/** How many stations a line takes for one to be called every so often at a feed: four seconds an inch is the habit (common practice). */
export const countFor = (rootLengthMm: number, feedMmS: number, secondsEach: number): number =>
  Math.min(MOST_STATIONS, Math.max(1, Math.round(rootLengthMm / (feedMmS * secondsEach))));
