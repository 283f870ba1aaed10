import { distancesTo } from "../../geometry/nearestLine";
import { isInside, type Line, lerp, nearest, type Outline } from "../../geometry/points";
import { type GuidedEnds, type SurfaceOptions, type TautWire, type Trace, wireSurface } from "./tautWire";

/** How a line that was cut differs from the line drawn. */
export interface TraceError {
  /** largest distance, both ways, mm */
  errorMm: number;
  /** where the drawn line is missed most, mm, and which of the trace's times that is */
  worst: { x: number; y: number; index: number };
  /** from each drawn place to the line cut, mm; NaN beyond where the wire had come to when the ends stopped */
  drawnMm: Float64Array;
  /** from each place the wire was at to the line drawn, mm */
  cutMm: Float64Array;
}

/**
 * The largest distance between the line drawn and the line cut, both ways (Hausdorff's). The last of the drawn line, which the wire has not come to when its ends stop, is the
 * run-out's and is left out.
 */
export function traceError({ x, y, drawnX, drawnY }: Trace): TraceError {
  const n = x.length;
  const away = (i: number) => Math.hypot((drawnX[i] as number) - (x[n - 1] as number), (drawnY[i] as number) - (y[n - 1] as number));
  // From the end back to where the drawn line passes the wire's last place.
  let last = n - 1;
  while (last > 0 && away(last - 1) <= away(last)) last -= 1;
  // The nearest place may lie a little beyond it.
  last = Math.max(0, last - 1);
  const toCut = distancesTo(x, y);
  const toDrawn = distancesTo(drawnX, drawnY);
  const drawnMm = new Float64Array(n).fill(Number.NaN);
  const cutMm = new Float64Array(n);
  let errorMm = 0;
  let worst = { x: drawnX[0] as number, y: drawnY[0] as number, index: 0 };
  for (let i = 0; i < n; i++) {
    const cut = toDrawn(x[i] as number, y[i] as number);
    cutMm[i] = cut;
    if (cut > errorMm) {
      errorMm = cut;
      worst = { x: x[i] as number, y: y[i] as number, index: i };
    }
    if (i > last) continue;
    const drawn = toCut(drawnX[i] as number, drawnY[i] as number);
    drawnMm[i] = drawn;
    if (drawn > errorMm) {
      errorMm = drawn;
      worst = { x: drawnX[i] as number, y: drawnY[i] as number, index: i };
    }
  }
  return { errorMm, worst, drawnMm, cutMm };
}

/** Where a way is held against what it was meant to be: the middle of the wire and both its ends. */
const HELD = [0.5, 0, 1];

/** A loop run through waste past a corner, at both ends of the wire: what is cut within it is no part's. */
export interface Loop {
  root: Line;
  tip: Line;
}
/** On a loop's own edge counts as within it, mm. */
const ON_MM = 1e-6;

/**
 * The largest distance, both ways, between what one way cuts and the lines that another, of as many points at the same times, was meant to draw.
 * @param options.waste loops within which nothing counts
 */
export function deviationOf(
  wire: TautWire,
  guided: GuidedEnds,
  meant: GuidedEnds,
  { waste = [], ...options }: SurfaceOptions & { waste?: readonly Loop[] } = {},
): number {
  const [cut, drawn] = [wireSurface(wire, guided, HELD, options), guided === meant ? null : wireSurface(wire, meant, HELD, options)];
  return Math.max(
    ...cut.traces.map((trace, i) => {
      const { drawnX, drawnY } = drawn ? (drawn.traces[i] as Trace) : trace;
      const error = traceError({ ...trace, drawnX, drawnY });
      return waste.length === 0 ? error.errorMm : outside({ ...trace, drawnX, drawnY }, error, waste);
    }),
  );
}

/** The largest of a trace's distances at places that are in no loop. */
function outside({ x, y, drawnX, drawnY, at }: Trace, { drawnMm, cutMm }: TraceError, waste: readonly Loop[]): number {
  const loops = waste.map(({ root, tip }): Outline => root.map((point, k) => lerp(point, tip[k] ?? point, at)));
  const wasted = (px: number, py: number) => loops.some((loop) => isInside([px, py], loop) || nearest([px, py], loop).distance <= ON_MM);
  let errorMm = 0;
  for (let i = 0; i < x.length; i++) {
    const [drawn, cut] = [drawnMm[i] as number, cutMm[i] as number];
    if (drawn > errorMm && !wasted(drawnX[i] as number, drawnY[i] as number)) errorMm = drawn;
    if (cut > errorMm && !wasted(x[i] as number, y[i] as number)) errorMm = cut;
  }
  return errorMm;
}
