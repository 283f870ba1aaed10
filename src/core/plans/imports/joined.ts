import { distance, type Line, lineLength, type Outline, type Point, withoutDoubles } from "../../geometry/points";
import { TOLERANCE } from "../../geometry/tolerance";

/** A drawing's lines put in order. */
export interface Joined {
  closed: Outline[];
  open: Line[];
  /** What was done, in words, the number of times it was done. */
  notes: string[];
}

/** A count with its noun. */
export const many = (count: number, one: string, more = `${one}s`) => `${count} ${count === 1 ? one : more}`;

/** Ends of lines by where they are: all within a gap of a place are found among nine cells. */
class Ends {
  private readonly cells = new Map<string, number[]>();
  constructor(
    private readonly lines: readonly Line[],
    private readonly gap: number,
  ) {}
  private cell = (x: number, y: number) => `${Math.floor(x / this.gap)},${Math.floor(y / this.gap)}`;
  private ends = (i: number) => [this.lines[i]?.[0] as Point, this.lines[i]?.at(-1) as Point];
  add(i: number): void {
    for (const [x, y] of this.ends(i)) {
      const key = this.cell(x, y);
      const there = this.cells.get(key);
      if (there) there.push(i);
      else this.cells.set(key, [i]);
    }
  }
  /** The line that has an end nearest to a place, among those not taken yet. */
  nearest([x, y]: Point, taken: Uint8Array): { line: number; fromStart: boolean; away: number } | null {
    let best: { line: number; fromStart: boolean; away: number } | null = null;
    for (let dx = -1; dx <= 1; dx++) {
      for (let dy = -1; dy <= 1; dy++) {
        const key = this.cell(x + dx * this.gap, y + dy * this.gap);
        const there = this.cells.get(key);
        if (!there) continue;
        // Lines already joined are dropped as they are met: a place where thousands end is not walked over again.
        const left = there.filter((i) => taken[i] === 0);
        if (left.length < there.length) this.cells.set(key, left);
        for (const i of left) {
          const [start, end] = this.ends(i) as [Point, Point];
          for (const [point, fromStart] of [
            [start, true],
            [end, false],
          ] as const) {
            const away = distance([x, y], point);
            if (away <= this.gap && (!best || away < best.away)) best = { line: i, fromStart, away };
          }
        }
      }
    }
    return best;
  }
}

/**
 * Joins lines end to end into closed ones: drops what has no length and what lies there twice, joins ends within a gap, closes what ends where it began.
 * @param lines open lines, mm; those whose ends meet already are closed ones
 * @param gapMm most that two ends may lie apart
 */
export function joined(lines: readonly Line[], gapMm: number = TOLERANCE.gap): Joined {
  const closed: Outline[] = [];
  const loose: Line[] = [];
  const seen = new Set<string>();
  let [short, doubled, bridged, shut] = [0, 0, 0, 0];
  const spot = ([x, y]: Point) => `${Math.round(x / TOLERANCE.arc)},${Math.round(y / TOLERANCE.arc)}`;
  const finish = (line: Line) => {
    const away = distance(line[0] as Point, line.at(-1) as Point);
    const outline = withoutDoubles(line);
    if (away <= gapMm && outline.length >= 3) {
      if (away > TOLERANCE.same) shut += 1;
      // The last point on the first within the gap is the same corner drawn twice.
      closed.push(away > TOLERANCE.same && outline.length > 3 ? outline.slice(0, -1) : outline);
      return true;
    }
    return false;
  };
  for (const raw of lines) {
    const line = withoutDoubles(raw, false);
    if (line.length < 2 || lineLength(line) <= TOLERANCE.same) {
      short += 1;
      continue;
    }
    const ends = [spot(line[0] as Point), spot(line.at(-1) as Point)].sort().join(" ");
    // Its middle of all points and its length: the same whichever way it was drawn.
    const middle: Point = [line.reduce((sum, [x]) => sum + x, 0) / line.length, line.reduce((sum, [, y]) => sum + y, 0) / line.length];
    const key = `${ends} ${line.length} ${spot(middle)} ${Math.round(lineLength(line) / TOLERANCE.arc)}`;
    if (seen.has(key)) {
      doubled += 1;
      continue;
    }
    seen.add(key);
    if (!(line.length > 2 && distance(line[0] as Point, line.at(-1) as Point) <= Math.min(gapMm, lineLength(line) / 4) && finish(line))) loose.push(line);
  }
  const ends = new Ends(loose, Math.max(gapMm, TOLERANCE.same));
  for (let i = 0; i < loose.length; i++) ends.add(i);
  const taken = new Uint8Array(loose.length);
  const open: Line[] = [];
  for (let i = 0; i < loose.length; i++) {
    if (taken[i] === 1) continue;
    taken[i] = 1;
    let forward: Point[] = [...(loose[i] as Line)];
    let backward: Point[] = [];
    // First onward from its end, then from its beginning.
    for (const onward of [true, false]) {
      for (;;) {
        const tip = (onward ? forward : backward.length > 0 ? backward : [forward[0] as Point]).at(-1) as Point;
        const found = ends.nearest(tip, taken);
        if (!found) break;
        taken[found.line] = 1;
        if (found.away > TOLERANCE.same) bridged += 1;
        const next = loose[found.line] as Line;
        const run = found.fromStart ? next.slice(1) : [...next].reverse().slice(1);
        const into = onward ? forward : backward;
        for (const point of run) into.push(point);
      }
      if (distance(forward[0] as Point, forward.at(-1) as Point) <= gapMm && forward.length > 2) break;
    }
    if (backward.length > 0) {
      forward = [...backward.reverse(), ...forward];
      backward = [];
    }
    if (!finish(forward)) open.push(forward);
  }
  const notes: string[] = [];
  if (short > 0) notes.push(`dropped: ${many(short, "line")} without length`);
  if (doubled > 0) notes.push(`dropped: ${many(doubled, "line")} drawn twice`);
  if (bridged > 0) notes.push(`joined: ${many(bridged, "pair")} of ends up to ${gapMm} mm apart`);
  if (shut > 0) notes.push(`closed: ${many(shut, "outline")} whose ends lay up to ${gapMm} mm apart`);
  return { closed, open, notes };
}
