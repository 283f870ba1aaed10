import { distance, type Line, lerp, lineLength, type Point } from "../geometry/points";
import { cornersOf } from "../plans/ears";

/** A stretch that is led at one feed. */
export interface PathPiece {
  /** indexes into the way's points */
  from: number;
  to: number;
  rootMm: number;
  tipMm: number;
  /** next to a corner: what happens there is the corner's */
  corner: number | null;
  /** ends at a number that is called; a corner between two numbers ends a piece and is none */
  station: boolean;
  /** run past a corner in the waste and back: no part of the part */
  ear: boolean;
}

/** The way both ends are led, cut into pieces at corners and in between. */
export interface EndPaths {
  root: Point[];
  tip: Point[];
  pieces: PathPiece[];
  /** index of the point at each corner */
  corners: { index: number; turnDeg: number }[];
}

const lengthsOf = (line: Line): number[] => line.slice(1).map((point, i) => distance(line[i] as Point, point));

/** Corners of an open line: places where either end turns by more than 30 degrees at once. */
function cornersOn(root: Line, tip: Line): Map<number, number> {
  const found = new Map<number, number>();
  for (const line of [root, tip])
    for (const { index, turnDeg } of cornersOf(line)) {
      if (index === 0 || index === line.length - 1) continue;
      const known = found.get(index);
      if (known === undefined || Math.abs(turnDeg) > Math.abs(known)) found.set(index, turnDeg);
    }
  return found;
}

/**
 * Cuts two lines of as many points, led together, into pieces.
 * @param pieceMm about how long a piece is, along the longer end
 * @param nearMm how long the pieces next to a corner are, where there is room
 * @param stations indexes of points at which a piece must end, in order: where there are any, pieces end there and at corners, and nowhere else
 * @param ears runs past corners, by the indexes of their first and last points: each is one piece, and its own turns are no corners
 */
export function endPathsOf(
  rootLine: Line,
  tipLine: Line,
  pieceMm: number,
  nearMm: number,
  ears: readonly { from: number; to: number }[] = [],
  stations: readonly number[] = [],
): EndPaths {
  // Points where both ends are still say nothing: pace makes its own waits.
  const saved = rootLine
    .map((_, i) => i)
    .filter((i) => i === 0 || distance(rootLine[i - 1] as Point, rootLine[i] as Point) + distance(tipLine[i - 1] as Point, tipLine[i] as Point) > 1e-9);
  const [rootIn, tipIn] = [saved.map((i) => rootLine[i] as Point), saved.map((i) => tipLine[i] as Point)];
  const [rl, tl] = [lengthsOf(rootIn), lengthsOf(tipIn)];
  const long = rl.map((each, i) => Math.max(each, tl[i] as number));
  const along = [0];
  for (const each of long) along.push((along.at(-1) as number) + each);
  const now = (i: number) => saved.indexOf(i);
  const stops = stations.map(now).filter((i) => i > 0);
  const runs = ears.map(({ from, to }) => ({ from: now(from), to: now(to) }));
  const corners = new Map([...cornersOn(rootIn, tipIn)].filter(([i]) => !runs.some(({ from, to }) => i >= from && i <= to)));
  const breaks = [...new Set([0, ...corners.keys(), ...runs.flatMap(({ from, to }) => [from, to]), rootIn.length - 1])].sort((a, b) => a - b);
  const numbers = new Map([...corners.keys()].sort((a, b) => a - b).map((i, k) => [i, k]));
  // Where pieces end, along the longer end, stretch by stretch between corners.
  const cuts: { at: number; corner: number | null; ear: boolean; station: boolean }[] = [];
  for (let s = 0; s + 1 < breaks.length; s++) {
    const [begins, ends] = [breaks[s] as number, breaks[s + 1] as number];
    const [a, b] = [along[begins] as number, along[ends] as number];
    if (runs.some(({ from, to }) => from === begins && to === ends)) {
      cuts.push({ at: b, corner: null, ear: true, station: false });
      continue;
    }
    const [firstCorner, lastCorner] = [numbers.get(begins), numbers.get(ends)];
    const [first, last] = [firstCorner !== undefined, lastCorner !== undefined];
    if (stops.length > 0) {
      const own = stops.filter((i) => i > begins && i < ends);
      for (const [k, i] of [...own, ends].entries())
        cuts.push({
          at: along[i] as number,
          corner: k === own.length && last ? (lastCorner ?? null) : k === 0 && first ? (firstCorner ?? null) : null,
          ear: false,
          station: stops.includes(i) || i === rootIn.length - 1,
        });
      continue;
    }
    // Next to a corner a short piece, where the stretch has room for what it needs.
    const near = Math.min(nearMm, (b - a) / ((first ? 1 : 0) + (last ? 1 : 0) + 1));
    const from = first ? a + near : a;
    const to = last ? b - near : b;
    const parts = Math.max(1, Math.round((to - from) / pieceMm));
    if (first) cuts.push({ at: from, corner: firstCorner ?? null, ear: false, station: true });
    for (let k = 1; k <= parts; k++) cuts.push({ at: from + ((to - from) * k) / parts, corner: null, ear: false, station: true });
    if (last) cuts.push({ at: b, corner: lastCorner ?? null, ear: false, station: true });
  }
  const root: Point[] = [rootIn[0] as Point];
  const tip: Point[] = [tipIn[0] as Point];
  const pieces: PathPiece[] = [];
  const put: { index: number; turnDeg: number }[] = [];
  let [i, at, started] = [0, 0, 0];
  const push = (r: Point, t: Point) => {
    root.push(r);
    tip.push(t);
  };
  const SAME = 1e-9;
  for (const cut of cuts) {
    while (i < long.length && (along[i + 1] as number) <= cut.at + SAME) {
      if ((along[i + 1] as number) > at + SAME) push(rootIn[i + 1] as Point, tipIn[i + 1] as Point);
      i += 1;
      if (corners.has(i) && Math.abs((along[i] as number) - cut.at) <= SAME) put.push({ index: root.length - 1, turnDeg: corners.get(i) as number });
    }
    if (i < long.length && cut.at > (along[i] as number) + SAME) {
      const share = (cut.at - (along[i] as number)) / (long[i] as number);
      push(lerp(rootIn[i] as Point, rootIn[i + 1] as Point, share), lerp(tipIn[i] as Point, tipIn[i + 1] as Point, share));
    }
    at = cut.at;
    const to = root.length - 1;
    if (to === started) continue;
    const sum = (line: Point[]) => lineLength(line.slice(started, to + 1));
    pieces.push({ from: started, to, rootMm: sum(root), tipMm: sum(tip), corner: cut.corner, ear: cut.ear, station: cut.station });
    started = to;
  }
  return { root, tip, pieces, corners: put };
}

/** The way with its times: every piece at its own feed of the longer end, every corner's wait as a point that is there twice. */
export interface Timed {
  path: Point[];
  tipPath: Point[];
  timesS: number[];
  /** which piece each stretch between two points belongs to; -1 is a wait */
  piece: number[];
}

/** @param feeds mm/s of each piece's longer end @param waits s at each corner */
export function timed({ root, tip, pieces, corners }: EndPaths, feeds: ArrayLike<number>, waits: ArrayLike<number>): Timed {
  const path: Point[] = [root[0] as Point];
  const tipPath: Point[] = [tip[0] as Point];
  const timesS = [0];
  const piece: number[] = [];
  let now = 0;
  const waitAt = new Map(corners.map(({ index }, k) => [index, waits[k] as number]));
  for (const [j, { from, to, rootMm, tipMm }] of pieces.entries()) {
    const seconds = Math.max(rootMm, tipMm) / (feeds[j] as number);
    const longer = rootMm >= tipMm ? root : tip;
    const whole = Math.max(rootMm, tipMm);
    for (let i = from; i < to; i++) {
      now += (seconds * distance(longer[i] as Point, longer[i + 1] as Point)) / whole;
      path.push(root[i + 1] as Point);
      tipPath.push(tip[i + 1] as Point);
      timesS.push(now);
      piece.push(j);
    }
    const wait = waitAt.get(to) ?? 0;
    if (wait > 0) {
      now += wait;
      path.push(root[to] as Point);
      tipPath.push(tip[to] as Point);
      timesS.push(now);
      piece.push(-1);
    }
  }
  return { path, tipPath, timesS, piece };
}
