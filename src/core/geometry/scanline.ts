import type { GridPoint } from "./spikes";

/**
 * An independent measure of what closed lines enclose: the material on horizontal lines halfway between the heights of their points. It shares nothing with
 * the clipping library, whose results it checks.
 */

type Path = readonly GridPoint[];
/** Where material begins and ends on one scanline, in pairs. */
type Spans = number[];

/** A scanline with the height of the strip that it represents. */
interface Scanline {
  y: number;
  height: number;
}

/** Most scanlines of one check: the tallest strips first, the rest spread evenly. */
const MOST_SCANLINES = 160;

/** Scanlines between the heights of the lines' points. */
export function scanlinesOf(paths: readonly Path[]): Scanline[] {
  const heights = [...new Set(paths.flatMap((path) => path.map(({ y }) => y)))].sort((a, b) => a - b);
  const strips: Scanline[] = [];
  for (let i = 1; i < heights.length; i++) {
    const [from, to] = [heights[i - 1] as number, heights[i] as number];
    // Never a whole number: no scanline runs through a point of a result that was rounded to the grid.
    if (to - from > 1) strips.push({ y: (from + to) / 2 + 0.25, height: to - from });
  }
  if (strips.length <= MOST_SCANLINES) return strips;
  const tallest = [...strips].sort((a, b) => b.height - a.height).slice(0, MOST_SCANLINES / 2);
  const chosen = new Set(tallest);
  const rest = strips.filter((strip) => !chosen.has(strip));
  const left = MOST_SCANLINES - tallest.length;
  const total = rest.reduce((sum, { height }) => sum + height, 0);
  const spread = Array.from({ length: left }, (_, i) => rest[Math.floor(((i + 0.5) * rest.length) / left)] as Scanline);
  const sampled = spread.reduce((sum, { height }) => sum + height, 0);
  // Each of the spread ones represents its neighbours too.
  return [...tallest, ...spread.map(({ y, height }) => ({ y, height: (height * total) / sampled }))].sort((a, b) => a.y - b.y);
}

interface Crossing {
  x: number;
  /** which set of lines it belongs to */
  set: number;
  /** +1 where the line runs up, -1 down */
  up: 1 | -1;
}

/**
 * Material on each scanline.
 * @param sets sets of closed lines
 * @param isMaterial whether a place is material, by each set's winding number there
 */
export function spansOn(scanlines: readonly Scanline[], sets: readonly (readonly Path[])[], isMaterial: (windings: readonly number[]) => boolean): Spans[] {
  const crossings: Crossing[][] = scanlines.map(() => []);
  const firstAbove = (y: number): number => {
    let [low, high] = [0, scanlines.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((scanlines[middle] as Scanline).y < y) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  for (const [set, paths] of sets.entries()) {
    for (const path of paths) {
      let a = path.at(-1);
      for (const b of path) {
        if (a && a.y !== b.y) {
          const [low, high] = a.y < b.y ? [a.y, b.y] : [b.y, a.y];
          for (let i = firstAbove(low); i < scanlines.length && (scanlines[i] as Scanline).y < high; i++) {
            const share = ((scanlines[i] as Scanline).y - a.y) / (b.y - a.y);
            (crossings[i] as Crossing[]).push({ x: a.x + share * (b.x - a.x), set, up: b.y > a.y ? 1 : -1 });
          }
        }
        a = b;
      }
    }
  }
  return crossings.map((on) => {
    on.sort((p, q) => p.x - q.x);
    const windings = sets.map(() => 0);
    const spans: Spans = [];
    let inside = false;
    for (const { x, set, up } of on) {
      windings[set] = (windings[set] as number) + up;
      const now = isMaterial(windings);
      if (now === inside) continue;
      inside = now;
      spans.push(x);
    }
    return spans;
  });
}

/** Where two sets of spans on one scanline differ: pieces [from, to], those of the first without the second, and the other way round. */
export function differing(first: Spans, second: Spans): { missing: [number, number][]; added: [number, number][] } {
  const events = [...first.map((x) => ({ x, own: true })), ...second.map((x) => ({ x, own: false }))].sort((a, b) => a.x - b.x);
  const [missing, added]: [[number, number][], [number, number][]] = [[], []];
  let [inFirst, inSecond] = [false, false];
  for (const [i, { x, own }] of events.entries()) {
    if (own) inFirst = !inFirst;
    else inSecond = !inSecond;
    const next = events[i + 1]?.x;
    if (next === undefined || next <= x || inFirst === inSecond) continue;
    (inFirst ? missing : added).push([x, next]);
  }
  return { missing, added };
}

/** Material by which a result differs from what it should be. */
export interface Difference {
  /** in steps of the grid, squared */
  area: number;
  /** the middle of the largest piece */
  at: GridPoint;
}

/**
 * By how much the material on scanlines differs.
 * @param counts whether a piece counts, by its middle and its length; all do unless said otherwise
 */
export function differenceOf(
  scanlines: readonly Scanline[],
  wanted: readonly Spans[],
  got: readonly Spans[],
  counts: (middle: GridPoint, missing: boolean) => boolean = () => true,
): Difference {
  let area = 0;
  let [largest, at] = [0, { x: 0, y: 0 }];
  for (const [i, { y, height }] of scanlines.entries()) {
    const { missing, added } = differing(wanted[i] as Spans, got[i] as Spans);
    for (const [pieces, isMissing] of [
      [missing, true],
      [added, false],
    ] as const) {
      for (const [from, to] of pieces) {
        const middle = { x: (from + to) / 2, y };
        if (!counts(middle, isMissing)) continue;
        const piece = (to - from) * height;
        area += piece;
        if (piece > largest) [largest, at] = [piece, middle];
      }
    }
  }
  return { area, at };
}
