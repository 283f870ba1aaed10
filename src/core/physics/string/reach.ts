import type { Relation } from "../../kernel/provenance";
import { bracketedRoot } from "../../numerics/rootFinding";
import { type CutPair, diffusivity, kerfFeedProduct } from "../cut/cut";

export const REACH: Relation = {
  id: "reach",
  title: "The face the wire leaves",
  formula: "T - T0 = integral of q'/(4 pi k tau) exp(-r(tau)^2/(4 a tau)) d tau over the past; the face is the edge of all that ever reached collapse",
  words:
    "Heat from everywhere the wire has been adds up. A steady straight cut melts half a kerf to each side; where the wire stops, slows or turns, more heat comes to the same foam and the bite is deeper.",
  range: "exact for a line source in the solid; the void's own insulation is left out; latent heat spread over the rise to collapse",
  basis: "estimate",
  source: "H. S. Carslaw, J. C. Jaeger, Conduction of Heat in Solids, 10.3, by superposition along the trace",
};

/** Where the wire was, at even times: what its heat is computed from. */
export interface HeatTrail {
  fromS: number;
  stepS: number;
  /** mm */
  x: Float64Array;
  y: Float64Array;
  /** q'/(4 pi k), K, over the rise to collapse: so that 1 is collapse */
  strength: number;
  /** 4 a, mm2/s */
  spread: number;
}

/** Of time, on the trail. */
const TRAIL_STEP_S = 0.02;
const MOST_STEPS = 60_000;

/** The heat of a wire that goes through places at times (mm, s; times not decreasing), at a heat per metre. */
export function heatTrail(pair: CutPair, powerWPerM: number, timesS: ArrayLike<number>, x: ArrayLike<number>, y: ArrayLike<number>): HeatTrail {
  const n = timesS.length;
  const fromS = timesS[0] as number;
  const total = (timesS[n - 1] as number) - fromS;
  const count = Math.max(2, Math.min(MOST_STEPS, Math.ceil(total / TRAIL_STEP_S) + 1));
  const stepS = total / (count - 1);
  const [tx, ty] = [new Float64Array(count), new Float64Array(count)];
  let j = 0;
  for (let i = 0; i < count; i++) {
    const t = fromS + i * stepS;
    while (j < n - 2 && (timesS[j + 1] as number) < t) j += 1;
    const [a, b] = [timesS[j] as number, timesS[j + 1] as number];
    const share = b > a ? Math.min(1, Math.max(0, (t - a) / (b - a))) : 0;
    tx[i] = (x[j] as number) + ((x[j + 1] as number) - (x[j] as number)) * share;
    ty[i] = (y[j] as number) + ((y[j + 1] as number) - (y[j] as number)) * share;
  }
  const rise = pair.foam.collapseC - pair.ambientC;
  return {
    fromS,
    stepS,
    x: tx,
    y: ty,
    strength: (powerWPerM * (pair.heatShare ?? 1)) / (4 * Math.PI * pair.foam.conductivityWMK * rise),
    spread: 4 * diffusivity(pair) * 1e6,
  };
}

/** Even steps in the logarithm of the time past. */
const LOG_STEP = 0.08;
const LOG_FACTOR = Math.exp(LOG_STEP);
/** exp(-x) beyond which nothing comes. */
const NOTHING = 30;

/** How far a place (mm) has come to collapse by a time: 0 cold, 1 collapse. */
export function warmth({ fromS, stepS, x, y, strength, spread }: HeatTrail, px: number, py: number, atS: number): number {
  const past = atS - fromS;
  if (past <= 0) return 0;
  // The wire's last place counts most: heat younger than this has not come so far from any place near it.
  const now = Math.min(x.length - 1, Math.max(0, Math.round(past / stepS)));
  const here = (px - (x[now] as number)) ** 2 + (py - (y[now] as number)) ** 2;
  // The wire moves: within so short a time it was no nearer than a little.
  let tau = Math.max(1e-5, Math.min(past, here / (spread * NOTHING * 4)));
  const lastIndex = x.length - 1;
  const from = (age: number): number => {
    const position = (past - age) / stepS;
    // A wire that has stopped at its trail's end stays there, cold: only what it gave before counts.
    if (position > lastIndex) return 0;
    const i = Math.min(lastIndex - 1, Math.floor(position));
    const share = position - i;
    const dx = px - ((x[i] as number) * (1 - share) + (x[i + 1] as number) * share);
    const dy = py - ((y[i] as number) * (1 - share) + (y[i + 1] as number) * share);
    const exponent = (dx * dx + dy * dy) / (spread * age);
    return exponent < NOTHING ? Math.exp(-exponent) : 0;
  };
  let before = from(tau);
  let sum = before / 2;
  while (tau * LOG_FACTOR < past) {
    tau *= LOG_FACTOR;
    before = from(tau);
    sum += before;
  }
  // The last step of the trapezium rule is what is left until the trail began.
  return strength * ((sum - before / 2) * LOG_STEP + ((before + from(past)) / 2) * Math.log(past / tau));
}

/** The warmest a place ever gets from so long before to so long after a time, in the same measure. */
export function warmest(trail: HeatTrail, px: number, py: number, fromS: number, toS: number): number {
  const COARSE = 16;
  let [best, at] = [0, fromS];
  const step = (toS - fromS) / COARSE;
  for (let i = 0; i <= COARSE; i++) {
    // Closer together at first: the warmest comes soon after the wire has passed.
    const t = fromS + (toS - fromS) * (i / COARSE) ** 1.6;
    const now = warmth(trail, px, py, t);
    if (now > best) [best, at] = [now, t];
  }
  let [low, high] = [Math.max(fromS, at - step), Math.min(toS, at + step)];
  for (let i = 0; i < 7; i++) {
    const [a, b] = [low + (high - low) * 0.382, low + (high - low) * 0.618];
    const [wa, wb] = [warmth(trail, px, py, a), warmth(trail, px, py, b)];
    best = Math.max(best, wa, wb);
    if (wa > wb) high = b;
    else low = a;
  }
  return best;
}

/**
 * How far from a place the foam reached collapse in a direction, mm.
 * @param nx, ny unit vector
 * @param window times between which the wire is near
 * @param mostMm no farther is looked
 */
export function reachMm(trail: HeatTrail, px: number, py: number, nx: number, ny: number, window: readonly [number, number], mostMm: number): number {
  const over = (d: number) => warmest(trail, px + nx * d, py + ny * d, window[0], window[1]) - 1;
  const least = 1e-3;
  if (over(least) <= 0) return 0;
  // Most reaches are about a millimetre: a near bracket saves most of the steps.
  let [low, high] = [least, Math.min(1, mostMm)];
  while (over(high) >= 0) {
    if (high >= mostMm) return mostMm;
    low = high;
    high = Math.min(mostMm, 2 * high);
  }
  return bracketedRoot(over, low, high, 5e-4).x;
}

/** What a stop in mid cut burns. */
export interface WaitReach {
  /** sideways from where it stopped, in a straight cut, mm */
  radiusMm: number;
  /** into the part at a square corner, along its diagonal, mm */
  cornerMm: number;
  /** half the steady kerf, mm */
  halfKerfMm: number;
}

/** The wire comes for so long before a stop and goes on for so long after it, s. */
const BEFORE_S = 60;
const AFTER_S = 8;
const FAR_MM = 60;

/**
 * The reach of a stop of so long, in a straight cut and at a square corner. See {@link REACH}.
 * @param feedMmS before it and after it
 */
export function waitReach(pair: CutPair, powerWPerM: number, feedMmS: number, waitS: number): WaitReach {
  const times = [0, BEFORE_S, BEFORE_S + waitS, BEFORE_S + waitS + AFTER_S];
  const came = -BEFORE_S * feedMmS;
  const goes = AFTER_S * feedMmS;
  const straight = heatTrail(pair, powerWPerM, times, [came, 0, 0, goes], [0, 0, 0, 0]);
  const corner = heatTrail(pair, powerWPerM, times, [came, 0, 0, 0], [0, 0, 0, goes]);
  const window = [BEFORE_S - 1, BEFORE_S + waitS + AFTER_S] as const;
  return {
    radiusMm: reachMm(straight, 0, 0, 0, 1, window, FAR_MM),
    cornerMm: reachMm(corner, 0, 0, -Math.SQRT1_2, Math.SQRT1_2, window, FAR_MM),
    halfKerfMm: (kerfFeedProduct(pair, powerWPerM) / (feedMmS / 1000)) * 500,
  };
}
