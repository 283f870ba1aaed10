import type { Point } from "../geometry/points";
import { CORNER_DEG } from "../geometry/tolerance";
import type { CutPair } from "../physics/cut/cut";
import { heatTrail, reachMm } from "../physics/string/reach";
import type { Surface } from "../physics/string/tautWire";

/** How the face that is left differs from a face parallel to the line drawn. */
export interface FaceErrors {
  errorMm: number;
  worst: { at: Point; share: number } | null;
  /** By share of the wire: along the drawn line, mm, and how much deeper (positive) than it should the wire bit there, mm. */
  faces: { share: number; alongMm: number[]; atS: number[]; deeperMm: number[] }[];
}

/** Places along each face. */
const ROUGH = 24;
const FINE = 40;
/** Of the line at either end: a start from cold and a stop are run-in and run-out. */
const ENDS = 0.04;
const FAR_MM = 25;
/** So near a corner nothing is computed but the corner itself, mm. */
const BESIDE_MM = 6;

/**
 * What the heat of a whole cut leaves, against a face that stands one half kerf off the line drawn all along: the half kerf that fits best at each end, for that is what a template can
 * allow for. The part is taken to lie on the side the line turns to.
 * @param rough fewer places, where it is one trial of many
 * @param skip times, from and to, in which the wire runs through the waste
 */
export function faceErrors(pair: CutPair, powerWPerM: number, surface: Surface, rough: boolean, skip: readonly (readonly [number, number])[] = []): FaceErrors {
  const { timesS, traces } = surface;
  const n = timesS.length;
  const faces: FaceErrors["faces"] = [];
  const found: { share: number; at: Point[]; alongMm: number[]; atS: number[]; reach: number[]; miter: number[] }[] = [];
  for (const trace of traces) {
    const { x, y, drawnX, drawnY } = trace;
    const along = new Float64Array(n);
    let turned = 0;
    let heading: number | null = null;
    for (let i = 1; i < n; i++) {
      const [dx, dy] = [(drawnX[i] as number) - (drawnX[i - 1] as number), (drawnY[i] as number) - (drawnY[i - 1] as number)];
      const long = Math.hypot(dx, dy);
      along[i] = (along[i - 1] as number) + long;
      if (long < 1e-9) continue;
      const now = Math.atan2(dy, dx);
      if (heading !== null) turned += Math.atan2(Math.sin(now - heading), Math.cos(now - heading));
      heading = now;
    }
    const total = along[n - 1] as number;
    const side = turned >= 0 ? 1 : -1;
    const trail = heatTrail(pair, powerWPerM, timesS, x, y);
    const direction = (i: number, paths: 1 | -1): Point | null => {
      for (let k = i; k + paths >= 0 && k + paths < n; k += paths) {
        const [dx, dy] = [((drawnX[k + paths] as number) - (drawnX[k] as number)) * paths, ((drawnY[k + paths] as number) - (drawnY[k] as number)) * paths];
        const long = Math.hypot(dx, dy);
        if (long > 1e-9) return [dx / long, dy / long];
      }
      return null;
    };
    // Even places, and every corner.
    const wanted = new Set<number>();
    const corners: number[] = [];
    const count = rough ? ROUGH : FINE;
    for (let k = 0, i = 0; k < count; k++) {
      const at = total * (ENDS + (1 - 2 * ENDS) * (k / (count - 1)));
      while (i < n - 1 && (along[i] as number) < at) i += 1;
      wanted.add(i);
    }
    for (let i = 1; i < n - 1; i++) {
      const [a, b] = [direction(i, -1), direction(i, 1)];
      if (a && b && a[0] * b[0] + a[1] * b[1] < Math.cos((CORNER_DEG * Math.PI) / 180) && (along[i] as number) !== (along[i - 1] as number)) corners.push(i);
    }
    // Next to a corner, straight in means along the other leg: the corner itself represents what is near it.
    for (const i of wanted) if (corners.some((k) => Math.abs((along[i] as number) - (along[k] as number)) < BESIDE_MM)) wanted.delete(i);
    for (const i of corners) wanted.add(i);
    const own = { share: trace.at, at: [] as Point[], alongMm: [] as number[], atS: [] as number[], reach: [] as number[], miter: [] as number[] };
    for (const i of [...wanted].sort((a, b) => a - b)) {
      const [a, b] = [direction(i, -1) ?? direction(i, 1), direction(i, 1) ?? direction(i, -1)];
      if (!a || !b) continue;
      const [bx, by] = [a[0] + b[0], a[1] + b[1]];
      const size = Math.hypot(bx, by);
      if (size < 0.2) continue;
      // To the part's side, across the middle of the two directions.
      const [nx, ny] = [(-by / size) * side, (bx / size) * side];
      const half = Math.max(0.3, size / 2);
      // A sharp inner corner of the turn lies farther off; on its outer side the wire cannot reach into it.
      const inner = (a[0] * b[1] - a[1] * b[0]) * side > 0;
      const atS = timesS[i] as number;
      if (skip.some(([from, to]) => atS > from && atS < to)) continue;
      let leaves = i;
      while (leaves < n - 1 && (along[leaves + 1] as number) - (along[i] as number) < 6) leaves += 1;
      const lagS = Math.hypot((x[i] as number) - (drawnX[i] as number), (y[i] as number) - (drawnY[i] as number)) / 3;
      own.at.push([drawnX[i] as number, drawnY[i] as number]);
      own.alongMm.push(along[i] as number);
      own.atS.push(atS);
      own.reach.push(reachMm(trail, drawnX[i] as number, drawnY[i] as number, nx, ny, [atS - 0.5, (timesS[leaves] as number) + lagS + 2], FAR_MM));
      own.miter.push(inner ? 1 / half : 1);
    }
    found.push(own);
  }
  // One allowance at each end of the wire, and what is between goes evenly: taken from the places where the line is straight.
  let errorMm = 0;
  let worst: FaceErrors["worst"] = null;
  const middle = (values: number[]) => {
    const sorted = [...values].sort((a, b) => a - b);
    return ((sorted[0] ?? 0) + (sorted.at(-1) ?? 0)) / 2;
  };
  for (const { share, at, alongMm, atS, reach, miter } of found) {
    const smooth = reach.filter((_, k) => miter[k] === 1);
    const fits = middle(smooth.length > 0 ? smooth : reach.map((each, k) => each / (miter[k] as number)));
    const deeperMm = reach.map((each, k) => each - fits * (miter[k] as number));
    for (const [k, deeper] of deeperMm.entries()) {
      if (Math.abs(deeper) > errorMm) {
        errorMm = Math.abs(deeper);
        worst = { at: at[k] as Point, share };
      }
    }
    faces.push({ share, alongMm, atS, deeperMm });
  }
  return { errorMm, worst, faces };
}
