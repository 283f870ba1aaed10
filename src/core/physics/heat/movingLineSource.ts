import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { scaledBesselK } from "../../numerics/bessel";

export const MOVING_LINE_SOURCE: Relation = {
  id: "moving-line-source",
  title: "Kerf from a moving line of heat",
  formula: "T - T0 = q'/(2 pi k) exp(-v xi/2a) K0(v r/2a); kerf = full width of the isotherm at the collapse temperature",
  words:
    "The wire is a line of heat moving through foam; all foam that it heats above the collapse temperature shrinks away, and the width of that band is the kerf.",
  range: "steady cut, foam wide against the kerf, uniform foam; latent heat spread over the rise to collapse",
  basis: "published",
  source: "D. Rosenthal, Trans. ASME 68 (1946) 849; H. S. Carslaw, J. C. Jaeger, Conduction of Heat in Solids, ch. 10",
};

/** Limit of W Theta for a fast cut (Theta -> 0). */
const FAST_LIMIT = Math.sqrt(Math.PI / (2 * Math.E));
const LN2_MINUS_GAMMA = Math.LN2 - 0.5772156649015329;

interface IsothermPoint {
  logTheta: number;
  W: number;
  /** d ln Theta / d ln R, always negative */
  thetaSlope: number;
  /** d ln W / d ln R */
  widthSlope: number;
}

/** The isotherm whose widest point lies at R = v r/2a: there X = -R K0/K1, so Theta and W are explicit in R. */
function isothermAt(R: number): IsothermPoint {
  const { k0, oneMinusRatio: gap } = scaledBesselK(R);
  const ratio = 1 - gap;
  const spread = gap * (1 + ratio); // 1 - (K0/K1)^2
  const ratioSlope = -spread + ratio / R; // d(K0/K1)/dR
  return {
    logTheta: Math.log(k0) - R * gap,
    W: R * Math.sqrt(spread),
    thetaSlope: R * (2 * ratio - 1 / ratio - R * spread),
    widthSlope: 1 - (R * ratio * ratioSlope) / spread,
  };
}

function solveIsotherm(theta: number): IsothermPoint {
  const target = Math.log(theta);
  let lo = -theta - 3;
  let hi = Math.log(1 + 1 / (theta * theta)) + 1;
  let u = theta > 1 ? LN2_MINUS_GAMMA - theta : Math.log((FAST_LIMIT / theta) ** 2);
  for (let i = 0; i < 100; i++) {
    const here = isothermAt(Math.exp(u));
    const deviation = here.logTheta - target;
    if (deviation > 0) lo = u;
    else hi = u;
    const newton = u - deviation / here.thetaSlope;
    const next = newton > lo && newton < hi ? newton : (lo + hi) / 2;
    if (Math.abs(next - u) < 1e-14 * Math.max(1, Math.abs(u)) || deviation === 0) break;
    u = next;
  }
  return isothermAt(Math.exp(u));
}

/** Above this, R underflows: the kerf is nothing at all. */
const THETA_NO_KERF = 600;

/**
 * Non-dimensional half-kerf W = v (w/2)/(2a) of a moving line source, solved directly.
 * @param theta 2 pi k (Tc - T0)/q', > 0
 * @returns W >= 0; 0 above theta = 600, where the true value is below 1e-260
 * @throws CoreError `outside-domain` for theta not a positive number
 * @example halfKerfExact(0.1) // 7.56919
 */
export function halfKerfExact(theta: number): number {
  if (!(theta > 0) || !Number.isFinite(theta)) throw new CoreError("outside-domain", "theta", "theta must be a positive number");
  if (theta > THETA_NO_KERF) return 0;
  // Beyond this the fast limit holds to 1e-9 and R would only lose digits.
  if (theta < 1e-5) return FAST_LIMIT / theta;
  return solveIsotherm(theta).W;
}

const TABLE_FROM = Math.log(1e-4);
const TABLE_TO = Math.log(8);
const TABLE_CELLS = 720;
const TABLE_STEP = (TABLE_TO - TABLE_FROM) / TABLE_CELLS;

let table: { value: Float64Array; slope: Float64Array } | undefined;

function buildTable() {
  const value = new Float64Array(TABLE_CELLS + 1);
  const slope = new Float64Array(TABLE_CELLS + 1);
  for (let i = 0; i <= TABLE_CELLS; i++) {
    const point = solveIsotherm(Math.exp(TABLE_FROM + i * TABLE_STEP));
    value[i] = Math.log(point.W);
    slope[i] = (point.widthSlope / point.thetaSlope) * TABLE_STEP;
  }
  return { value, slope };
}

/**
 * The same as {@link halfKerfExact}, from a cubic Hermite table in the logarithms (agrees to 2e-9); the shipped path.
 * @param theta 2 pi k (Tc - T0)/q', > 0
 */
export function halfKerf(theta: number): number {
  const position = (Math.log(theta) - TABLE_FROM) / TABLE_STEP;
  if (!(position >= 0 && position < TABLE_CELLS)) return halfKerfExact(theta);
  table ??= buildTable();
  const i = Math.floor(position);
  const t = position - i;
  const s = 1 - t;
  const y0 = table.value[i] as number;
  const y1 = table.value[i + 1] as number;
  const m0 = table.slope[i] as number;
  const m1 = table.slope[i + 1] as number;
  return Math.exp(s * s * (y0 * (1 + 2 * t) + t * m0) + t * t * (y1 * (1 + 2 * s) - s * m1));
}

/**
 * The inverse of {@link halfKerfExact}: theta at which the half-kerf is W.
 * @param W > 0
 * @throws CoreError `outside-domain` for W not a positive number
 */
export function thetaForHalfKerf(W: number): number {
  if (!(W > 0) || !Number.isFinite(W)) throw new CoreError("outside-domain", "W", "the half-kerf must be a positive number");
  if (W > 1e5) return FAST_LIMIT / W;
  const target = Math.log(W);
  // W rises steadily with R: as R itself when small, as its root when large.
  let u = W < 1 ? target : 2 * target;
  for (let i = 0; i < 60; i++) {
    const here = isothermAt(Math.exp(u));
    const step = (Math.log(here.W) - target) / here.widthSlope;
    u -= step;
    if (Math.abs(step) < 1e-14 * Math.max(1, Math.abs(u))) break;
  }
  return Math.exp(isothermAt(Math.exp(u)).logTheta);
}
