import { CoreError } from "../errors";
import type { Relation } from "../provenance";
import { bareLossWPerM } from "./bareWire";
import { type CutPair, heatForKerf, kerfFeedProduct, wireInKerfC } from "./cut";
import { resistanceOhmPerM, type Wire } from "./wire";

export const AXIAL: Relation = {
  id: "axial",
  title: "Heat along the wire",
  formula: "d/dx(k A dT/dx) + I^2 R'(T) - q'_zone(T) = 0; clamps at both ends",
  words: "The clamps cool the ends, the foam cools the middle, and the bare stretches between run hottest.",
  range: "steady; constant conductivity; foam taken as the kerf model's heat at each point's own temperature",
  standing: "published",
  source: "finite volumes on the one-dimensional heat equation; losses as for the bare wire and the kerf",
};

export interface AxialInput {
  wire: Wire;
  lengthM: number;
  currentA: number;
  ambientC: number;
  clampC: number;
  /** The foam lies on [fromM, toM]. */
  foam?: { pair: CutPair; feedMPerS: number; fromM: number; toM: number } | undefined;
  cells?: number | undefined;
}

export interface AxialAnswer {
  /** Cell centres, m. */
  positionM: Float64Array;
  temperatureC: Float64Array;
  generatedW: number;
  lostToAirW: number;
  lostToFoamW: number;
  lostToClampsW: number;
  /** (generated - lost)/generated */
  energyImbalance: number;
  iterations: number;
}

/** A loss with its slope at a temperature, W/m and W/m K. */
type Loss = (wireC: number) => { value: number; slope: number };

/** Central difference of a smooth loss: analytic slopes of the piecewise convection law would jump where it does. */
function withSlope(loss: (wireC: number) => number): Loss {
  const h = 0.05;
  return (wireC) => {
    const up = loss(wireC + h);
    const down = loss(wireC - h);
    return { value: (up + down) / 2, slope: (up - down) / (2 * h) };
  };
}

const TABLE_STEP_C = 4;
const TABLE_TOP_C = 1600;

/** A loss as a table of straight lines over temperature, from the room up: fast, and energy closes exactly on it. */
function tabled(loss: (wireC: number) => number, fromC: number): Loss {
  const count = Math.ceil((TABLE_TOP_C - fromC) / TABLE_STEP_C) + 1;
  const table = Float64Array.from({ length: count }, (_, i) => loss(fromC + i * TABLE_STEP_C));
  return (wireC) => {
    const place = (wireC - fromC) / TABLE_STEP_C;
    const i = Math.min(count - 2, Math.max(0, Math.floor(place)));
    const low = table[i] as number;
    const slope = ((table[i + 1] as number) - low) / TABLE_STEP_C;
    return { value: low + slope * (wireC - fromC - i * TABLE_STEP_C), slope };
  };
}

/** Heats at which the cut model is asked. */
const FOAM_HEATS = 400;

/**
 * Heat the foam takes from a wire at a temperature, W/m. Where the wire melts its way the cut model gives temperature from heat, so its pairs are read the
 * other way round. Colder than that the foam touches the wire and carries heat off in proportion to its rise, as the moving line source does without melting.
 */
function foamLoss(pair: CutPair, feedMPerS: number): (wireC: number) => number {
  const least = heatForKerf(pair, feedMPerS, pair.wire.outerDiameterM);
  const heats = Float64Array.from({ length: FOAM_HEATS }, (_, i) => least * (1e5 / least) ** (i / (FOAM_HEATS - 1)));
  const temperatures = heats.map((heat) => wireInKerfC(pair, heat, kerfFeedProduct(pair, heat) / feedMPerS));
  const onset = temperatures[0] as number;
  return (wireC) => {
    if (wireC <= onset) return (least * Math.max(0, wireC - pair.ambientC)) / (onset - pair.ambientC);
    // Read in rising order by the table that is built from it, but any order is right.
    let lo = 0;
    let hi = FOAM_HEATS - 1;
    while (hi - lo > 1) {
      const mid = (lo + hi) >> 1;
      if ((temperatures[mid] as number) <= wireC) lo = mid;
      else hi = mid;
    }
    const [c0, c1] = [temperatures[lo] as number, temperatures[hi] as number];
    return (heats[lo] as number) + (((heats[hi] as number) - (heats[lo] as number)) * (wireC - c0)) / (c1 - c0);
  };
}

/** Solves a tridiagonal system in place (Thomas): sub-diagonal a, diagonal b, super-diagonal c, right side d; the answer is left in d. */
export function solveTridiagonal(a: Float64Array, b: Float64Array, c: Float64Array, d: Float64Array): void {
  const n = d.length;
  for (let i = 1; i < n; i++) {
    const factor = (a[i] as number) / (b[i - 1] as number);
    b[i] = (b[i] as number) - factor * (c[i - 1] as number);
    d[i] = (d[i] as number) - factor * (d[i - 1] as number);
  }
  d[n - 1] = (d[n - 1] as number) / (b[n - 1] as number);
  for (let i = n - 2; i >= 0; i--) d[i] = ((d[i] as number) - (c[i] as number) * (d[i + 1] as number)) / (b[i] as number);
}

const DEFAULT_CELLS = 400;
const MOST_NEWTON = 60;

/**
 * Steady temperature along a heated wire between its clamps. See {@link AXIAL}.
 * @param options.loss replaces the air's loss law (for closed-form checks)
 * @throws CoreError `no-solution` when Newton does not settle, as when no temperature below 1600 degC balances the current
 */
export function solveAxial(input: AxialInput, options: { loss?: (wireC: number) => number; ohmPerM?: (wireC: number) => number } = {}): AxialAnswer {
  const { wire, ambientC, clampC, lengthM, foam } = input;
  const n = input.cells ?? DEFAULT_CELLS;
  const dx = lengthM / n;
  const start = Math.min(ambientC, clampC);
  const air = options.loss ? withSlope(options.loss) : tabled((c) => (c <= ambientC ? 0 : bareLossWPerM(wire, c, { ambientC })), start);
  const inFoam = foam ? tabled(foamLoss(foam.pair, foam.feedMPerS), start) : undefined;
  const ohm = withSlope(options.ohmPerM ?? ((c) => resistanceOhmPerM(wire, c)));
  const conduct = (wire.alloy.conductivityWMK * wire.metalAreaM2) / dx;
  const square = input.currentA ** 2;

  const positionM = Float64Array.from({ length: n }, (_, i) => (i + 0.5) * dx);
  // Share of each cell that lies in the foam, so that an edge inside a cell is counted right.
  const share = positionM.map((x) => (foam ? Math.max(0, Math.min(x + dx / 2, foam.toM) - Math.max(x - dx / 2, foam.fromM)) / dx : 0));
  const t = new Float64Array(n).fill(ambientC + 200);
  const [a, b, c, d] = [0, 1, 2, 3].map(() => new Float64Array(n)) as [Float64Array, Float64Array, Float64Array, Float64Array];

  /** Heat each cell still gains, W, at temperatures `at`; into `out`. Returns its sum of sizes. */
  const residual = (at: Float64Array, out: Float64Array): number => {
    let sum = 0;
    for (let i = 0; i < n; i++) {
      const here = at[i] as number;
      const s = share[i] as number;
      const left = i === 0 ? 2 * conduct * (clampC - here) : conduct * ((at[i - 1] as number) - here);
      const right = i === n - 1 ? 2 * conduct * (clampC - here) : conduct * ((at[i + 1] as number) - here);
      const foamHeat = s > 0 && inFoam ? s * inFoam(here).value : 0;
      const gain = left + right + dx * (square * ohm(here).value - (1 - s) * air(here).value - foamHeat);
      out[i] = gain;
      sum += Math.abs(gain);
    }
    return sum;
  };

  const tried = new Float64Array(n);
  let size = residual(t, d);
  let iterations = 0;
  for (; iterations < MOST_NEWTON; iterations++) {
    for (let i = 0; i < n; i++) {
      const here = t[i] as number;
      const s = share[i] as number;
      const edges = (i === 0 ? 2 : 1) + (i === n - 1 ? 2 : 1);
      a[i] = i === 0 ? 0 : -conduct;
      c[i] = i === n - 1 ? 0 : -conduct;
      b[i] = conduct * edges + dx * ((1 - s) * air(here).slope + (s > 0 && inFoam ? s * inFoam(here).slope : 0) - square * ohm(here).slope);
    }
    solveTridiagonal(a, b, c, d);
    // The foam's heat sets in sharply at collapse: a full step may hop over that corner for ever, so it is shortened until it helps.
    let stepShare = 1;
    let nextSize = size;
    let worst = 0;
    const step = Float64Array.from(d);
    for (let cut = 0; cut < 12; cut++) {
      worst = 0;
      for (let i = 0; i < n; i++) {
        const leap = Math.min(250, Math.max(-250, (step[i] as number) * stepShare));
        tried[i] = Math.max(start, (t[i] as number) + leap);
        worst = Math.max(worst, Math.abs(leap));
      }
      nextSize = residual(tried, d);
      if (nextSize < size || worst < 1e-9) break;
      stepShare /= 2;
    }
    t.set(tried);
    size = nextSize;
    if (worst < 1e-9) break;
  }
  let generatedW = 0;
  let lostToAirW = 0;
  let lostToFoamW = 0;
  for (let i = 0; i < n; i++) {
    const here = t[i] as number;
    const s = share[i] as number;
    generatedW += dx * square * ohm(here).value;
    lostToAirW += dx * (1 - s) * air(here).value;
    if (s > 0 && inFoam) lostToFoamW += dx * s * inFoam(here).value;
  }
  const lostToClampsW = 2 * conduct * ((t[0] as number) - clampC + (t[n - 1] as number) - clampC);
  const energyImbalance = generatedW === 0 ? 0 : (generatedW - lostToAirW - lostToFoamW - lostToClampsW) / generatedW;
  if (!(Math.abs(energyImbalance) < 1e-4) && generatedW > 0) {
    throw new CoreError("no-solution", "current_A", "no steady temperature along the wire was found for this current: it would melt");
  }
  return { positionM, temperatureC: t, generatedW, lostToAirW, lostToFoamW, lostToClampsW, energyImbalance, iterations };
}
