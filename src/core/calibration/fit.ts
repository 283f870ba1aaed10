import { levenbergMarquardt } from "ml-levenberg-marquardt";
import { CholeskyDecomposition, inverse, Matrix } from "ml-matrix";
import { CoreError } from "../kernel/errors";
import type { Relation } from "../kernel/provenance";
import { type FoamSpec, resolveFoam } from "../materials/foams";
import { interpolate } from "../numerics/interpolate";
import { type CutPair, cutAtPower } from "../physics/cut/cut";
import { midSpanLag } from "../physics/cut/lag";
import { calibratedPair, type Learnt } from "../physics/cut/learnt";
import { DOUBTS, WEIGHED_DENSITY_SHARE } from "../physics/cut/uncertainty";
import { resolveWire, type WireSpec } from "../physics/heat/wire";
import { type CircuitInput, solveCircuit } from "../physics/power/circuit";
import { leadsOhm } from "../physics/power/leads";
import { supplyOhm } from "../physics/power/supplies";

export const CALIBRATION: Relation = {
  id: "calibration",
  title: "Learning from test cuts",
  formula:
    "minimise sum w (measured - model)^2/s^2 + sum (shift/doubt)^2 over heat to foam, collapse temperature, density, drag, clearance at top feed and ohms outside the wire; w = 1/(1 + (r/3)^2)",
  words:
    "The doubtful figures move only as far as the cuts pull them against what was believed before; a cut that no reasonable figures explain counts for little.",
  range: "kerfs, bows and currents of cuts on one cutter and foam",
  basis: "estimate",
  source:
    "Bayesian least squares with normal priors, Levenberg and Marquardt's method; bands from the curvature at the optimum; weights of the Cauchy kind for one bad entry",
};

/** A measured cut as the fit takes it. SI. */
export interface MeasuredCut {
  wire: WireSpec;
  foam: FoamSpec;
  ambientC: number;
  feedMPerS: number;
  /** electric heat in the cut, as computed */
  powerWPerM: number;
  kerfM?: number | undefined;
  lag?: { lagM: number; spanM: number; widthM: number; tensionN: number } | undefined;
  /** The set-up it was made with: what ohms outside the wire would do to it. Without foam on the wire. */
  circuit?: CircuitInput | undefined;
  widthM?: number | undefined;
  /** Current read off a meter while cutting: then the heat is known, and the ohms outside the wire can be learnt. */
  currentA?: number | undefined;
}

const NAMES = ["heatShare", "collapseShiftK", "densityShare", "dragShare", "clearanceShare", "extraOhm"] as const;
/** Figures of the foam and wire, apart from those of the circuit. */
const OF_THE_CUT = 5;

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
  /** Measured against fitted (m, or A of a current), in standard deviations of the measurement, with the weight it was given. */
  residuals: { cut: number; what: "kerf" | "lag" | "current"; measured: number; fitted: number; sigmas: number; weight: number }[];
  iterations: number;
  /** Spread (m) of the kerf of each cut as the figures were believed before, and as they are now. */
  kerfSpreadM: { before: number; after: number }[];
  /** Covariance of the figures in the fit's own coordinates: logarithms of shares, kelvin, ohms. */
  covariance: number[][];
  /** Lower triangular factor of the first five's covariance, row by row: see Doubts. */
  factor: number[];
}

/** What a calliper over a cut and a rule against a bow are good for (this project's judgement): a share and a floor. */
export const KERF_NOISE = { share: 0.05, floorM: 0.05e-3 };
export const LAG_NOISE = { share: 0.12, floorM: 0.3e-3 };
const CURRENT_NOISE = { share: 0.02, floorA: 0.02 };
/** Doubt of the ohms outside the wire: crimps, switches and plugs that nobody computed (this project's judgement). */
export const EXTRA_OHM_DOUBT = 0.15;
const ROUNDS = 4;
const CAUCHY = 3;
/** A reading of less weight is hardly believed: the others contradict it. */
export const HARDLY_BELIEVED = 0.5;
/** Of fewer readings none can be shown to be the wrong one. */
const LEAST_TO_JUDGE = 4;

/** What was believed before any cut, in the fit's own coordinates. */
const priorsFor = (weighed: boolean) => [
  DOUBTS.heatShare,
  DOUBTS.collapseK,
  weighed ? WEIGHED_DENSITY_SHARE : DOUBTS.densityShare,
  DOUBTS.dragShare,
  DOUBTS.clearanceShare,
  EXTRA_OHM_DOUBT,
];

/** Figures from the fit's own coordinates. */
const learntFrom = ([heat = 0, collapse = 0, density = 0, drag = 0, clearance = 0, extra = 0]: readonly number[]): Learnt => ({
  heatShare: Math.exp(heat),
  collapseShiftK: collapse,
  densityShare: Math.exp(density),
  dragShare: Math.exp(drag),
  clearanceShare: Math.exp(clearance),
  extraOhm: extra,
});

const basePair = (cut: MeasuredCut): CutPair => ({ wire: resolveWire(cut.wire), foam: resolveFoam(cut.foam), ambientC: cut.ambientC });

/** Extra ohms at which a cut's circuit is solved beforehand, as shares of their doubt: between them straight lines do. */
const OHM_STEPS = [-2, -1, -0.5, 0, 0.5, 1, 2, 3.5, 5];

interface Foreseen {
  heatWPerM: number;
  currentA: number | null;
}

/** A cut's heat and current over the ohms besides its wire's. The cut's own learnt figures hardly touch its circuit. */
function overOhms(cut: MeasuredCut): (extraOhm: number) => Foreseen {
  const { circuit } = cut;
  if (!circuit) return () => ({ heatWPerM: cut.powerWPerM, currentA: null });
  const pair = basePair(cut);
  const least = -0.9 * (leadsOhm(circuit.leads, cut.ambientC) + supplyOhm(circuit.supply) + (circuit.springOhm ?? 0));
  const ohms = [...new Set(OHM_STEPS.map((step) => Math.max(least, step * EXTRA_OHM_DOUBT)))];
  const rows = ohms.map((ohm) => {
    const solved = solveCircuit({
      ...circuit,
      springOhm: (circuit.springOhm ?? 0) + ohm,
      cutting: { pair, feedMPerS: cut.feedMPerS, widthM: Math.min(cut.widthM ?? circuit.lengthM, circuit.lengthM) },
    });
    return { ohm, heat: solved.cut?.powerWPerM ?? 0.05, current: solved.currentA };
  });
  const heats = rows.map(({ ohm, heat }) => [ohm, heat] as const);
  const currents = rows.map(({ ohm, current }) => [ohm, current] as const);
  return (extraOhm) => ({
    // A current read off a meter gives the heat better than any computation.
    heatWPerM: cut.currentA !== undefined ? cut.powerWPerM : interpolate(heats, extraOhm).y,
    currentA: interpolate(currents, extraOhm).y,
  });
}

interface Predicted {
  kerfM: number;
  lagM: number | null;
  currentA: number | null;
}

function predicted(cut: MeasuredCut, foreseen: (extraOhm: number) => Foreseen, learnt: Learnt): Predicted {
  const pair = calibratedPair(basePair(cut), learnt);
  const { heatWPerM, currentA } = foreseen(learnt.extraOhm);
  const state = cutAtPower(pair, cut.feedMPerS, heatWPerM);
  const { lag } = cut;
  return { kerfM: state.kerfM, lagM: lag && state.dragNPerM !== null ? midSpanLag(state.dragNPerM, lag.spanM, lag.widthM, lag.tensionN).lagM : null, currentA };
}

/**
 * Fits this cutter's and foam's doubtful figures to test cuts. See {@link CALIBRATION}.
 * @param weighed whether the foam's density is of a weighed block: then it hardly moves
 * @param trusted cuts that a person has confirmed twice: these count however far they are from the others
 * @throws CoreError `missing-key` when no cut has a kerf, a bow or a current
 */
export function calibrate(cuts: readonly MeasuredCut[], weighed = false, trusted: readonly number[] = []): Calibration {
  const PRIORS = priorsFor(weighed);
  const foreseen = cuts.map(overOhms);
  const foresee = (learnt: Learnt) => cuts.map((cut, i) => predicted(cut, foreseen[i] as (extraOhm: number) => Foreseen, learnt));
  const rows = cuts.flatMap((cut, i) => [
    ...(cut.kerfM === undefined
      ? []
      : [{ cut: i, what: "kerf" as const, measured: cut.kerfM, noise: Math.hypot(KERF_NOISE.share * cut.kerfM, KERF_NOISE.floorM) }]),
    ...(cut.lag === undefined
      ? []
      : [{ cut: i, what: "lag" as const, measured: cut.lag.lagM, noise: Math.hypot(LAG_NOISE.share * cut.lag.lagM, LAG_NOISE.floorM) }]),
    ...(cut.currentA === undefined || !cut.circuit
      ? []
      : [{ cut: i, what: "current" as const, measured: cut.currentA, noise: Math.hypot(CURRENT_NOISE.share * cut.currentA, CURRENT_NOISE.floorA) }]),
  ]);
  if (rows.length === 0) throw new CoreError("missing-key", "cuts", "cuts: at least one with a kerf_mm or a lag_mm is needed, or a current_A with its set-up");
  /** Standardised miss of each row; a bow with no answer, past the top feed, misses by a great deal. */
  const deviations = (theta: readonly number[]) => {
    const learnt = learntFrom(theta);
    const models = foresee(learnt);
    return rows.map((row) => {
      const model = models[row.cut];
      const value = row.what === "kerf" ? model?.kerfM : row.what === "lag" ? model?.lagM : model?.currentA;
      return value === null || value === undefined ? 30 : (value - row.measured) / row.noise;
    });
  };
  const n = rows.length + PRIORS.length;
  let theta = PRIORS.map(() => 0);
  let weights = rows.map(() => 1);
  let iterations = 0;
  let left: ReadonlySet<number> = new Set();
  const isTrusted = (i: number) => trusted.includes((rows[i] as (typeof rows)[number]).cut);
  for (let round = 0; round < 2 * ROUNDS; round++) {
    // A reading that the others contradict does not move the fit at all, unless a person has confirmed it twice; one of few cannot be distinguished from the rest.
    if (round === ROUNDS) {
      const out = rows.flatMap((_, i) => ((weights[i] as number) < HARDLY_BELIEVED && !isTrusted(i) ? [i] : []));
      if (out.length === 0 || rows.length < LEAST_TO_JUDGE || out.length > rows.length / 3) break;
      left = new Set(out);
    }
    // Data and prior beliefs are one list of misses that should all be nothing.
    const own = weights.map((weight, i) => (left.has(i) ? 0 : weight));
    const fit = levenbergMarquardt(
      { x: Array.from({ length: n }, (_, i) => i), y: Array.from({ length: n }, () => 0) },
      (parameters: number[]) => {
        const all = deviations(parameters);
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
    weights = deviations(theta).map((deviation, i) => (isTrusted(i) ? 1 : 1 / (1 + (deviation / CAUCHY) ** 2)));
  }
  weights = weights.map((weight, i) => (left.has(i) ? 0 : weight));
  const slopes = (of: (theta: readonly number[]) => number[]) =>
    PRIORS.map((doubt, k) => {
      const step = doubt * 1e-3;
      const at = (sign: number) => of(theta.map((value, j) => (j === k ? value + sign * step : value)));
      const [up, down] = [at(1), at(-1)];
      return up.map((value, i) => (value - (down[i] as number)) / (2 * step));
    });
  const jacobian = slopes(deviations);
  const curvature = new Matrix(
    PRIORS.map((prior, a) =>
      PRIORS.map((_, b) =>
        rows.reduce((sum, _row, i) => sum + (weights[i] as number) * (jacobian[a]?.[i] as number) * (jacobian[b]?.[i] as number), a === b ? 1 / prior ** 2 : 0),
      ),
    ),
  );
  // Symmetric but for rounding, which the factor would not forgive.
  const inverted = inverse(curvature);
  const covariance = Matrix.add(inverted, inverted.transpose()).div(2);
  const learnt = learntFrom(theta);
  const kerfs = slopes((at) => foresee(learntFrom(at)).map(({ kerfM }) => kerfM));
  const last = deviations(theta);
  return {
    learnt,
    figures: NAMES.map((name, k) => ({ name, value: learnt[name], before: PRIORS[k] as number, after: Math.sqrt(covariance.get(k, k)) })),
    residuals: rows.map((row, i) => ({
      cut: row.cut,
      what: row.what,
      measured: row.measured,
      fitted: row.measured + (last[i] as number) * row.noise,
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
    covariance: covariance.to2DArray(),
    factor: factorOf(covariance),
  };
}

/** Lower triangular factor of the covariance of the cut's five figures, row by row. */
function factorOf(covariance: Matrix): number[] {
  const lower = new CholeskyDecomposition(covariance.subMatrix(0, OF_THE_CUT - 1, 0, OF_THE_CUT - 1)).lowerTriangularMatrix;
  return Array.from({ length: OF_THE_CUT }, (_, a) => Array.from({ length: a + 1 }, (_, b) => lower.get(a, b))).flat();
}
