import type { Point } from "../../geometry/points";
import type { Relation } from "../../kernel/provenance";

export const WIRE_SURFACE: Relation = {
  id: "wire-surface",
  title: "What the wire between two led ends does",
  formula: "T r_zz = F'(v) v/|v|, that is v = v_max f/(f + F_ref) along T r_zz with f = |T r_zz|; straight outside the foam",
  words:
    "Every place of the wire is drawn on by the bend of the taut wire next to it and held by the foam: it goes where its bend pulls it, the slower the less it is bent. So the middle comes later than the ends and cuts corners short.",
  range: "bow well below a twentieth of the length; no momentum, no stiffness, no heat carried from zone to zone along the wire",
  basis: "estimate",
  source:
    "statics of the taut string under this project's drag law; solved by the two-step backward rule of second order, variable in step (Hairer, Norsett & Wanner, Solving Ordinary Differential Equations I, III.5), begun again at every turn by an L-stable rule of two stages (Alexander, SIAM J. Numer. Anal. 14 (1977) 1006)",
};

/** A wire between two ends that are led, and the foam about part of it. */
export interface TautWire {
  lengthM: number;
  tensionN: number;
  /** Where the foam begins and ends along the wire, m. */
  foamFromM: number;
  foamToM: number;
  /** F_ref, N per metre */
  referenceDragNPerM: number;
  /** v_max, mm/s */
  maxFeedMmS: number;
}

/** Where both ends are when, mm and s. Equal consecutive points are a wait. */
export interface GuidedEnds {
  path: readonly Point[];
  /** of as many points; the same line where it is not given */
  tipPath?: readonly Point[] | undefined;
  timesS: readonly number[];
}

/** A place along the wire followed through a cut. */
export interface Trace {
  /** share of the wire's length from the first end */
  at: number;
  /** where the wire was, mm, at each of the surface's times */
  x: Float64Array;
  y: Float64Array;
  /** where it would have been, had the wire stayed straight */
  drawnX: Float64Array;
  drawnY: Float64Array;
}

export interface Surface {
  timesS: Float64Array;
  traces: Trace[];
}

export interface SurfaceOptions {
  /** places of the wire that are computed within the foam */
  nodes?: number;
  /** of time, over the whole; every stretch between two given points has at least one */
  steps?: number;
}

const NODES = 60;
const STEPS = 1000;
/** Alexander's two-stage rule: the share of a step that each stage takes. */
const GAMMA = 1 - Math.SQRT1_2;
/** A stage has settled when no place moves by more, mm: Newton doubles the right digits each time, so that what is left is far less. */
const SETTLED_MM = 1e-4;
const MOST_ROUNDS = 40;
/** A step may be so many times as long as the last and still be taken from the last two (2.41 is where that rule ceases to be stable). */
const MOST_GROWTH = 2;
/** Speeds of the ends that differ by less than this share are one motion. */
const SAME_SPEED = 0.1;

/** The wire's places from end to end, m: both ends, and evenly through the foam with its two faces among them. */
function placesOf({ lengthM, foamFromM, foamToM }: TautWire, nodes: number): Float64Array {
  const z: number[] = foamFromM > 0 ? [0] : [];
  for (let i = 0; i < nodes; i++) z.push(foamFromM + ((foamToM - foamFromM) * i) / (nodes - 1));
  if (foamToM < lengthM) z.push(lengthM);
  return Float64Array.from(z);
}

/** A guess at a speed leaves at least this share of the room below the top feed that the last guess left. */
const KEEP_ROOM = 0.3;

/**
 * One implicit stage: r = base + h v at every place between the led ends, v the speed at which the foam's drag balances the bend. Newton's method on the speeds, for the drag bends upward
 * with them: from too high a guess it comes down steadily, and a guess is never let past the top feed.
 * Arrays are as long as the wire has places; `x`, `y` hold the ends and become the answer; `vx`, `vy` hold a guess at the speeds and become them.
 */
function makeStage(wire: TautWire, z: Float64Array) {
  const n = z.length;
  const { tensionN, referenceDragNPerM: ref, maxFeedMmS: top } = wire;
  const [from, to] = [wire.foamFromM, wire.foamToM];
  // Force on a place, N/m, is left*(r[i-1] - r[i]) + right*(r[i+1] - r[i]): the string's tension over the foam that the place represents.
  const left = new Float64Array(n);
  const right = new Float64Array(n);
  for (let i = 1; i < n - 1; i++) {
    const [a, b] = [(z[i] as number) - (z[i - 1] as number), (z[i + 1] as number) - (z[i] as number)];
    // Half of each gap next to it, where that gap is foam.
    const own = ((z[i - 1] as number) >= from ? a / 2 : 0) + ((z[i + 1] as number) <= to ? b / 2 : 0);
    left[i] = tensionN / 1000 / (a * own);
    right[i] = tensionN / 1000 / (b * own);
  }
  // The elimination's upper blocks and right sides.
  const u00 = new Float64Array(n);
  const u01 = new Float64Array(n);
  const u11 = new Float64Array(n);
  const gx = new Float64Array(n);
  const gy = new Float64Array(n);
  return (x: Float64Array, y: Float64Array, baseX: Float64Array, baseY: Float64Array, h: number, vx: Float64Array, vy: Float64Array): void => {
    const perH = 1 / h;
    const slow = ((1 - KEEP_ROOM) * top) ** 2;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      // The row before, kept at hand: loads and stores are most of what a round costs.
      let p00 = 0;
      let p01 = 0;
      let p11 = 0;
      let qx = x[0] as number;
      let qy = y[0] as number;
      for (let i = 1; i < n - 1; i++) {
        const l = left[i] as number;
        const r = right[i] as number;
        const wx = vx[i] as number;
        const wy = vy[i] as number;
        const square = wx * wx + wy * wy;
        const speed = Math.sqrt(square);
        const room = 1 / (top - speed);
        // Drag over speed, across the way; and its slope along it.
        const across = ref * room;
        // along - across, which is across * speed/room.
        const steeper = across * speed * room;
        const more = square > 0 ? (steeper * perH) / square : 0;
        const own = across * perH;
        const m00 = own + more * wx * wx;
        const m01 = more * wx * wy;
        const m11 = own + more * wy * wy;
        // (m + l + r) r[i] - l r[i-1] - r r[i+1] = m base + (along - across) v.
        const bx = baseX[i] as number;
        const by = baseY[i] as number;
        const d00 = m00 + l + r - l * p00;
        const d01 = m01 - l * p01;
        const d11 = m11 + l + r - l * p11;
        const sx = m00 * bx + m01 * by + steeper * wx + l * qx;
        const sy = m01 * bx + m11 * by + steeper * wy + l * qy;
        const det = 1 / (d00 * d11 - d01 * d01);
        p00 = r * d11 * det;
        p01 = -r * d01 * det;
        p11 = r * d00 * det;
        qx = (d11 * sx - d01 * sy) * det;
        qy = (d00 * sy - d01 * sx) * det;
        u00[i] = p00;
        u01[i] = p01;
        u11[i] = p11;
        gx[i] = qx;
        gy[i] = qy;
      }
      let most = 0;
      let nx = x[n - 1] as number;
      let ny = y[n - 1] as number;
      for (let i = n - 2; i >= 1; i--) {
        const c = u01[i] as number;
        const px = (gx[i] as number) + (u00[i] as number) * nx + c * ny;
        const py = (gy[i] as number) + c * nx + (u11[i] as number) * ny;
        x[i] = px;
        y[i] = py;
        nx = px;
        ny = py;
        let wx = (px - (baseX[i] as number)) * perH;
        let wy = (py - (baseY[i] as number)) * perH;
        const ox = vx[i] as number;
        const oy = vy[i] as number;
        const moved = Math.abs(wx - ox) + Math.abs(wy - oy);
        if (moved > most) most = moved;
        const square = wx * wx + wy * wy;
        // Only one that goes fast can have leapt past the top feed.
        if (square > slow) {
          const fastest = top - KEEP_ROOM * (top - Math.sqrt(ox * ox + oy * oy));
          const speed = Math.sqrt(square);
          if (speed > fastest) {
            wx *= fastest / speed;
            wy *= fastest / speed;
          }
        }
        vx[i] = wx;
        vy[i] = wy;
      }
      most *= h;
      if (most < SETTLED_MM) return;
    }
  };
}

/**
 * What the wire does while its ends are led: traces of it at shares of its length. It begins straight, at rest. See {@link WIRE_SURFACE}.
 * @param guided paths of at least one point, times not decreasing
 * @param at shares of the wire's length, each 0 to 1
 */
export function wireSurface(wire: TautWire, { path, tipPath = path, timesS }: GuidedEnds, at: readonly number[], options: SurfaceOptions = {}): Surface {
  const z = placesOf(wire, options.nodes ?? NODES);
  const n = z.length;
  const stage = makeStage(wire, z);
  const total = (timesS.at(-1) as number) - (timesS[0] as number);
  const longest = total / (options.steps ?? STEPS);
  // A stretch's share of the steps, at least one; a stretch of no time has none.
  const counts = path.slice(1).map((_, i) => {
    const long = (timesS[i + 1] as number) - (timesS[i] as number);
    return long <= 0 ? 0 : Math.max(1, Math.ceil(long / longest - 1e-9));
  });
  const size = 1 + counts.reduce((sum, count) => sum + count, 0);
  const times = new Float64Array(size);
  // Which two places a followed one lies between, and where.
  const spots = at.map((share) => {
    const where = share * wire.lengthM;
    let i = 0;
    while (i < n - 2 && (z[i + 1] as number) < where) i += 1;
    return { i, t: Math.min(1, Math.max(0, (where - (z[i] as number)) / ((z[i + 1] as number) - (z[i] as number)))) };
  });
  const traces = at.map(
    (share): Trace => ({ at: share, x: new Float64Array(size), y: new Float64Array(size), drawnX: new Float64Array(size), drawnY: new Float64Array(size) }),
  );
  const [x, y] = [new Float64Array(n), new Float64Array(n)];
  const [vx, vy] = [new Float64Array(n), new Float64Array(n)];
  const [baseX, baseY] = [new Float64Array(n), new Float64Array(n)];
  const [startX, startY] = [new Float64Array(n), new Float64Array(n)];
  const begin = (i: number) => {
    const [a, b] = [path[i] as Point, tipPath[i] as Point];
    return { ax: a[0], ay: a[1], bx: b[0], by: b[1] };
  };
  const straight = begin(0);
  for (let i = 0; i < n; i++) {
    const share = (z[i] as number) / wire.lengthM;
    x[i] = straight.ax + (straight.bx - straight.ax) * share;
    y[i] = straight.ay + (straight.by - straight.ay) * share;
  }
  /** Whether the ends' speeds, mm/s, change so much where a stretch begins that what the wire did before does not tell what comes. */
  const turns = (segment: number): boolean => {
    if (segment === 0) return true;
    const speed = (way: readonly Point[], i: number): Point => {
      const long = (timesS[i + 1] as number) - (timesS[i] as number);
      const [p, q] = [way[i] as Point, way[i + 1] as Point];
      return long > 0 ? [(q[0] - p[0]) / long, (q[1] - p[1]) / long] : [0, 0];
    };
    return [path, tipPath].some((way) => {
      const [a, b] = [speed(way, segment - 1), speed(way, segment)];
      return Math.hypot(b[0] - a[0], b[1] - a[1]) > SAME_SPEED * Math.max(Math.hypot(...a), Math.hypot(...b));
    });
  };
  /** Steps since the last turn, and how long the last one was, s. */
  let since = 0;
  let before = 0;
  let k = 0;
  const note = (time: number, ax: number, ay: number, bx: number, by: number) => {
    times[k] = time;
    for (const [j, trace] of traces.entries()) {
      const { i, t } = spots[j] as { i: number; t: number };
      trace.x[k] = (x[i] as number) * (1 - t) + (x[i + 1] as number) * t;
      trace.y[k] = (y[i] as number) * (1 - t) + (y[i + 1] as number) * t;
      trace.drawnX[k] = ax + (bx - ax) * trace.at;
      trace.drawnY[k] = ay + (by - ay) * trace.at;
    }
    k += 1;
  };
  note(timesS[0] as number, straight.ax, straight.ay, straight.bx, straight.by);
  for (const [segment, count] of counts.entries()) {
    const [p, q] = [begin(segment), begin(segment + 1)];
    const [t0, t1] = [timesS[segment] as number, timesS[segment + 1] as number];
    const dt = (t1 - t0) / count;
    if (count > 0 && turns(segment)) since = 0;
    for (let step = 0; step < count; step++) {
      const ends = (share: number) => {
        x[0] = p.ax + (q.ax - p.ax) * share;
        y[0] = p.ay + (q.ay - p.ay) * share;
        x[n - 1] = p.bx + (q.bx - p.bx) * share;
        y[n - 1] = p.by + (q.by - p.by) * share;
      };
      // Two steps back and their speeds carry the wire one on; after a turn of the ends' way or pace, when what went before says nothing, a step of two stages begins again.
      if (since > 0 && dt <= MOST_GROWTH * before) {
        const growth = dt / before;
        const last = ((1 + growth) * (1 + growth)) / (1 + 2 * growth);
        for (let i = 1; i < n - 1; i++) {
          const [nowX, nowY] = [x[i] as number, y[i] as number];
          baseX[i] = last * nowX + (1 - last) * (startX[i] as number);
          baseY[i] = last * nowY + (1 - last) * (startY[i] as number);
          startX[i] = nowX;
          startY[i] = nowY;
        }
        ends((step + 1) / count);
        stage(x, y, baseX, baseY, (dt * (1 + growth)) / (1 + 2 * growth), vx, vy);
      } else {
        startX.set(x);
        startY.set(y);
        const h = GAMMA * dt;
        ends((step + GAMMA) / count);
        stage(x, y, startX, startY, h, vx, vy);
        for (let i = 1; i < n - 1; i++) {
          baseX[i] = (startX[i] as number) + (1 - GAMMA) * dt * (vx[i] as number);
          baseY[i] = (startY[i] as number) + (1 - GAMMA) * dt * (vy[i] as number);
        }
        ends((step + 1) / count);
        stage(x, y, baseX, baseY, h, vx, vy);
      }
      since += 1;
      before = dt;
      note(t0 + (step + 1) * dt, x[0] as number, y[0] as number, x[n - 1] as number, y[n - 1] as number);
    }
  }
  return { timesS: times, traces };
}
