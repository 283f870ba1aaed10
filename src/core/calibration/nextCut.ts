import { type CutPair, cutAtPower } from "../physics/cut/cut";
import { midSpanLag } from "../physics/cut/lag";
import { calibratedPair, type Learnt } from "../physics/cut/learnt";
import { KERF_NOISE, LAG_NOISE } from "./fit";

/** How the wire is held, for its bow. SI. */
export interface FixedInput {
  spanM: number;
  widthM: number;
  tensionN: number;
}

/** A cut that could be made. */
export interface CandidateCut {
  feedMPerS: number;
  powerWPerM: number;
}

/** The test cut that would teach most about the job's own kerf and bow. */
export interface NextCut extends CandidateCut {
  measure: "kerf" | "bow";
  /** Doubt of the job's kerf and bow together, as a share of them, now and after it. */
  before: number;
  after: number;
}

/** Coordinates of the fit that a kerf or a bow can teach: heat, collapse, density, drag, clearance. */
const KNOBS = 5;
const STEPS = [1e-3, 0.02, 1e-3, 1e-3, 1e-3];

const learntAt = (theta: readonly number[]): Omit<Learnt, "extraOhm"> => ({
  heatShare: Math.exp(theta[0] ?? 0),
  collapseShiftK: theta[1] ?? 0,
  densityShare: Math.exp(theta[2] ?? 0),
  dragShare: Math.exp(theta[3] ?? 0),
  clearanceShare: Math.exp(theta[4] ?? 0),
});

/**
 * Looks which of some cuts, measured with a calliper or a rule, would shrink the doubt of the job most. Linear about what is learnt so far.
 * @param pair as nobody taught it
 * @param covariance of the fit's figures; the first five count
 * @param candidates cuts that could be made; those past their top feed are left out
 * @returns null where the job itself has no answer or no candidate teaches
 */
export function nextCut(
  pair: CutPair,
  learnt: Learnt,
  covariance: readonly (readonly number[])[],
  job: CandidateCut,
  hold: FixedInput,
  candidates: readonly CandidateCut[],
): NextCut | null {
  const theta = [Math.log(learnt.heatShare), learnt.collapseShiftK, Math.log(learnt.densityShare), Math.log(learnt.dragShare), Math.log(learnt.clearanceShare)];
  const read = (cut: CandidateCut, at: readonly number[]) => {
    const state = cutAtPower(calibratedPair(pair, learntAt(at)), cut.feedMPerS, cut.powerWPerM);
    return { kerf: state.kerfM, bow: state.dragNPerM === null ? null : midSpanLag(state.dragNPerM, hold.spanM, hold.widthM, hold.tensionN).lagM };
  };
  const slopes = (cut: CandidateCut, measure: "kerf" | "bow"): number[] | null => {
    const out: number[] = [];
    for (let k = 0; k < KNOBS; k++) {
      const step = STEPS[k] as number;
      const up = read(
        cut,
        theta.map((value, i) => (i === k ? value + step : value)),
      )[measure];
      const down = read(
        cut,
        theta.map((value, i) => (i === k ? value - step : value)),
      )[measure];
      if (up === null || down === null) return null;
      out.push((up - down) / (2 * step));
    }
    return out;
  };
  const here = read(job, theta);
  const goals = (["kerf", "bow"] as const).flatMap((measure) => {
    const value = here[measure];
    const slope = slopes(job, measure);
    return value === null || value <= 0 || !slope ? [] : [slope.map((each) => each / value)];
  });
  if (goals.length === 0) return null;
  const times = (vector: readonly number[]) =>
    Array.from({ length: KNOBS }, (_, a) => vector.reduce((sum, value, b) => sum + value * (covariance[a]?.[b] ?? 0), 0));
  const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, value, i) => sum + value * (b[i] ?? 0), 0);
  const variance = goals.reduce((sum, goal) => sum + dot(goal, times(goal)), 0);
  let best: NextCut | null = null;
  for (const cut of candidates) {
    const now = read(cut, theta);
    for (const measure of ["kerf", "bow"] as const) {
      const value = now[measure];
      const slope = slopes(cut, measure);
      if (value === null || !slope) continue;
      const { share, floorM } = measure === "kerf" ? KERF_NOISE : LAG_NOISE;
      const spread = times(slope);
      // One more measurement takes its share of every doubt it hangs together with (the linear update of a normal belief).
      const gain = share * share * value * value + floorM * floorM + dot(slope, spread);
      const left = goals.reduce((sum, goal) => sum + dot(goal, times(goal)) - dot(goal, spread) ** 2 / gain, 0);
      if (!best || left < best.after ** 2) best = { ...cut, measure, before: Math.sqrt(variance), after: Math.sqrt(Math.max(0, left)) };
    }
  }
  return best;
}
