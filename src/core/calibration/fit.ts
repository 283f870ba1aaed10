import { levenbergMarquardt } from "ml-levenberg-marquardt";
import { inverse, Matrix } from "ml-matrix";
import { CoreError } from "../errors";
import { type Foam, type FoamSpec, resolveFoam } from "../materials/foams";
import { type CutPair, cutAtPower, DRAG_SHARE } from "../models/cut";
import { midSpanLag } from "../models/lag";
import { DOUBTS } from "../models/uncertainty";
import { resolveWire, type WireSpec } from "../models/wire";
import type { Relation } from "../provenance";

export const CALIBRATION: Relation = {
  id: "calibration",
  title: "Learning from test cuts",
  formula: "minimise sum w (measured - model)^2/s^2 + sum (shift/doubt)^2 over heat to foam, collapse temperature, density and drag; w = 1/(1 + (r/3)^2)",
  words:
    "The doubtful figures move only as far as the cuts pull them against what was believed before; a cut that no reasonable figures explain counts for little.",
  range: "kerfs and bows of clean cuts on one cutter and foam",
  standing: "estimate",
  source:
    "Bayesian least squares with normal priors, Levenberg and Marquardt's method; bands from the curvature at the optimum; weights of the Cauchy kind for one bad entry",
};

/** A measured cut as the fit takes it. SI. */
export interface MeasuredCut {
  wire: WireSpec;
  foam: FoamSpec;
  ambientC: number;
  feedMPerS: number;
  /** electric heat in the cut */
  powerWPerM: number;
  kerfM?: number | undefined;
  lag?: { lagM: number; spanM: number; widthM: number; tensionN: number } | undefined;
}

/** Figures that test cuts may move; shares multiply, the shift adds. */
export interface Learnt {
  heatShare: number;
  collapseShiftK: number;
  densityShare: number;
  dragShare: number;
}
const NAMES = ["heatShare", "collapseShiftK", "densityShare", "dragShare"] as const;

/** One learnt figure with its standard deviation before and after. Of a share, the deviation is of its logarithm. */
export interface LearntFigure {
  name: keyof Learnt;
  value: number;
  before: number;
  after: number;
}

export interface Calibration {
  learnt: Learnt;
  figures: LearntFigure[];
  /** Measured against fitted, in standard deviations of the measurement, with the weight it was given. */
  residuals: { cut: number; what: "kerf" | "lag"; measuredM: number; fittedM: number; sigmas: number; weight: number }[];
  iterations: number;
  /** Spread (m) of the kerf of each cut as the figures were believed before, and as they are now. */
  kerfSpreadM: { before: number; after: number }[];
}

/** What a calliper over a cut and a rule against a bow are good for (this project's judgement): a share and a floor. */
const KERF_NOISE = { share: 0.05, floorM: 0.05e-3 };
const LAG_NOISE = { share: 0.12, floorM: 0.3e-3 };
const HEAT_DOUBT = 0.1;
const PRIORS = [HEAT_DOUBT, DOUBTS.collapseK, DOUBTS.densityShare, DOUBTS.dragShare];
const ROUNDS = 4;
const CAUCHY = 3;

/** Figures from the fit's own coordinates: logarithms of shares, kelvin. */
const learntFrom = ([heat = 0, collapse = 0, density = 0, drag = 0]: readonly number[]): Learnt => ({
  heatShare: Math.exp(heat),
  collapseShiftK: collapse,
  densityShare: Math.exp(density),
  dragShare: Math.exp(drag),
});

/** The pair with what was learnt about it. */
export function calibratedPair(pair: CutPair, learnt: Learnt): CutPair {
  const foam: Foam = { ...pair.foam, collapseC: pair.foam.collapseC + learnt.collapseShiftK, densityKgM3: pair.foam.densityKgM3 * learnt.densityShare };
  return { ...pair, foam, dragShare: (pair.dragShare ?? DRAG_SHARE) * learnt.dragShare };
}

function predicted(cut: MeasuredCut, learnt: Learnt): { kerfM: number; lagM: number | null } {
  const pair = calibratedPair({ wire: resolveWire(cut.wire), foam: resolveFoam(cut.foam), ambientC: cut.ambientC }, learnt);
  const state = cutAtPower(pair, cut.feedMPerS, cut.powerWPerM * learnt.heatShare);
  const { lag } = cut;
  return { kerfM: state.kerfM, lagM: lag && state.dragNPerM !== null ? midSpanLag(state.dragNPerM, lag.spanM, lag.widthM, lag.tensionN).lagM : null };
}

/**
 * Fits this cutter's and foam's doubtful figures to test cuts. See {@link CALIBRATION}.
 * @throws CoreError `missing-key` when no cut has a kerf or a bow
 */
export function calibrate(cuts: readonly MeasuredCut[]): Calibration {
  const rows = cuts.flatMap((cut, i) => [
    ...(cut.kerfM === undefined
      ? []
      : [{ cut: i, what: "kerf" as const, measuredM: cut.kerfM, noiseM: Math.hypot(KERF_NOISE.share * cut.kerfM, KERF_NOISE.floorM) }]),
    ...(cut.lag === undefined
      ? []
      : [{ cut: i, what: "lag" as const, measuredM: cut.lag.lagM, noiseM: Math.hypot(LAG_NOISE.share * cut.lag.lagM, LAG_NOISE.floorM) }]),
  ]);
  if (rows.length === 0) throw new CoreError("missing-key", "cuts", "cuts: at least one with a kerf_mm or a lag_mm is needed");
  /** Standardised miss of each row; a bow with no answer, past the top feed, misses by a great deal. */
  const misses = (theta: readonly number[]) => {
    const learnt = learntFrom(theta);
    const models = cuts.map((cut) => predicted(cut, learnt));
    return rows.map((row) => {
      const model = row.what === "kerf" ? (models[row.cut]?.kerfM ?? 0) : (models[row.cut]?.lagM ?? null);
      return model === null ? 30 : (model - row.measuredM) / row.noiseM;
    });
  };
  const n = rows.length + PRIORS.length;
  let theta = PRIORS.map(() => 0);
  let weights = rows.map(() => 1);
  let iterations = 0;
  for (let round = 0; round < ROUNDS; round++) {
    // Data and prior beliefs are one list of misses that should all be nothing.
    const own = weights;
    const fit = levenbergMarquardt(
      { x: Array.from({ length: n }, (_, i) => i), y: Array.from({ length: n }, () => 0) },
      (parameters: number[]) => {
        const all = misses(parameters);
        return (i: number) =>
          i < rows.length ? Math.sqrt(own[i] as number) * (all[i] as number) : (parameters[i - rows.length] as number) / (PRIORS[i - rows.length] as number);
      },
      {
        initialValues: theta,
        minValues: PRIORS.map((doubt) => -5 * doubt),
        maxValues: PRIORS.map((doubt) => 5 * doubt),
        damping: 0.1,
        gradientDifference: PRIORS.map((doubt) => doubt * 1e-3),
        centralDifference: true,
        maxIterations: 60,
        errorTolerance: 1e-10,
      },
    );
    iterations += fit.iterations;
    theta = fit.parameterValues;
    weights = misses(theta).map((miss) => 1 / (1 + (miss / CAUCHY) ** 2));
  }
  const slopes = (of: (theta: readonly number[]) => number[]) =>
    PRIORS.map((doubt, k) => {
      const step = doubt * 1e-3;
      const at = (sign: number) => of(theta.map((value, j) => (j === k ? value + sign * step : value)));
      const [up, down] = [at(1), at(-1)];
      return up.map((value, i) => (value - (down[i] as number)) / (2 * step));
    });
  const jacobian = slopes(misses);
  const curvature = new Matrix(
    PRIORS.map((prior, a) =>
      PRIORS.map((_, b) =>
        rows.reduce((sum, _row, i) => sum + (weights[i] as number) * (jacobian[a]?.[i] as number) * (jacobian[b]?.[i] as number), a === b ? 1 / prior ** 2 : 0),
      ),
    ),
  );
  const covariance = inverse(curvature);
  const learnt = learntFrom(theta);
  const kerfs = slopes((at) => cuts.map((cut) => predicted(cut, learntFrom(at)).kerfM));
  const last = misses(theta);
  return {
    learnt,
    figures: NAMES.map((name, k) => ({ name, value: learnt[name], before: PRIORS[k] as number, after: Math.sqrt(covariance.get(k, k)) })),
    residuals: rows.map((row, i) => ({
      cut: row.cut,
      what: row.what,
      measuredM: row.measuredM,
      fittedM: row.measuredM + (last[i] as number) * row.noiseM,
      sigmas: last[i] as number,
      weight: weights[i] as number,
    })),
    iterations,
    kerfSpreadM: cuts.map((_, i) => {
      const g = kerfs.map((column) => column[i] as number);
      const spread = (entry: (a: number, b: number) => number) =>
        Math.sqrt(g.reduce((sum, ga, a) => sum + g.reduce((inner, gb, b) => inner + ga * gb * entry(a, b), 0), 0));
      return { before: spread((a, b) => (a === b ? (PRIORS[a] as number) ** 2 : 0)), after: spread((a, b) => covariance.get(a, b)) };
    }),
  };
}
