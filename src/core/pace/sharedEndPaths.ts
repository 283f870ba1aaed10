import { type Line, nearest, type Point } from "../geometry/points";
import { type TautWire, wireSurface } from "../physics/string/tautWire";
import { deviationOf } from "../physics/string/traceError";

/** Both ends' ways moved so that the middle's lag is shared: root, middle and tip each miss by half instead of the middle by all. */
export interface Shared {
  path: Point[];
  tipPath: Point[];
  /** how far each place was moved, mm: the same at both ends */
  movedMm: Point[];
  mostMm: number;
  /** largest miss of the lines wanted, at the middle and both ends */
  errorMm: number;
}

interface EndPaths {
  path: Line;
  tipPath: Line;
  timesS: readonly number[];
}

/** Neighbouring places that are moved alike: what the middle misses is smooth, its sampling is not. */
const SMOOTHED = 3;
/** Moved so, the middle's lag itself changes a little: done again so often. */
const ROUNDS = 2;

/** A section across the span: the line wanted there, and how far and which way the wire misses each of its places, mm. */
export interface CutSection {
  /** of the wire, from the root's end */
  share: number;
  wanted: Point[];
  deviationMm: Point[];
}

/** Sections that a way wants, at shares of the wire, and what a way that is led misses of them. */
export function sectionsOf(wire: TautWire, guided: EndPaths, wanted: EndPaths, shares: readonly number[]): CutSection[] {
  return wireSurface(wire, guided, shares).traces.map(({ at: share, x, y }): CutSection => {
    const cut = Array.from(x, (each, i): Point => [each, y[i] as number]);
    const line = wanted.path.map(([px, py], i): Point => {
      const [qx, qy] = wanted.tipPath[i] as Point;
      return [px + (qx - px) * share, py + (qy - py) * share];
    });
    return { share, wanted: line, deviationMm: deviationsOf(line, cut) };
  });
}

function deviationsOf(line: Line, cut: Line): Point[] {
  return line.map((at, i): Point => {
    const [a, b] = [line[Math.max(0, i - 1)] as Point, line[Math.min(line.length - 1, i + 1)] as Point];
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
    // At a stop, and beyond where the wire had come to, there is no side to miss it on.
    if (long < 1e-9) return [0, 0];
    const [nx, ny] = [-(b[1] - a[1]) / long, (b[0] - a[0]) / long];
    const found = nearest(at, cut, false);
    if (found.edge >= cut.length - 2) return [0, 0];
    const off = (found.at[0] - at[0]) * nx + (found.at[1] - at[1]) * ny;
    return [off * nx, off * ny];
  });
}

/** Shares the middle's lag between the two templates and the middle, at times that stay. */
export function sharedEndPaths(wire: TautWire, wanted: EndPaths): Shared {
  let moved = wanted.path.map((): Point => [0, 0]);
  const guided = (): EndPaths => ({
    path: wanted.path.map(([x, y], i): Point => [x + (moved[i] as Point)[0], y + (moved[i] as Point)[1]]),
    tipPath: wanted.tipPath.map(([x, y], i): Point => [x + (moved[i] as Point)[0], y + (moved[i] as Point)[1]]),
    timesS: wanted.timesS,
  });
  for (let round = 0; round < ROUNDS; round++) {
    const off = sectionsOf(wire, guided(), wanted, [0.5])[0]?.deviationMm ?? [];
    const next = moved.map((each, i): Point => {
      let [x, y, count] = [0, 0, 0];
      for (let k = Math.max(0, i - SMOOTHED); k <= Math.min(off.length - 1, i + SMOOTHED); k++) {
        x += (off[k] as Point)[0];
        y += (off[k] as Point)[1];
        count += 1;
      }
      // The middle's miss of the line wanted and the ends' own, made equal.
      return [(each[0] - x / count) / 2, (each[1] - y / count) / 2];
    });
    moved = next;
  }
  const { path, tipPath } = guided();
  return {
    path: [...path],
    tipPath: [...tipPath],
    movedMm: moved,
    mostMm: Math.max(0, ...moved.map(([x, y]) => Math.hypot(x, y))),
    errorMm: deviationOf(wire, { path, tipPath, timesS: wanted.timesS }, wanted),
  };
}
