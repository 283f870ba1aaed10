import { CoreError } from "../../kernel/errors";
import { type BarFlows, type BarInput, type BarLaws, solveTridiagonal, WireBar } from "./wireBar";

export interface AxialInput extends BarInput {
  currentA: number;
}

export interface AxialResult extends BarFlows {
  /** Cell centres, m. */
  positionM: Float64Array;
  temperatureC: Float64Array;
  /** (generated - lost)/generated */
  energyImbalance: number;
  iterations: number;
}

const MOST_NEWTON = 60;

/**
 * Steady temperature along a heated wire between its clamps. See AXIAL in axialLaw.ts.
 * @param laws replace the shipped loss and resistance (for closed-form checks)
 * @throws CoreError `no-solution` when Newton does not settle, as when no temperature below 1600 degC balances the current
 */
export function solveAxial(input: AxialInput, laws: BarLaws = {}): AxialResult {
  const bar = new WireBar(input, laws);
  const { n } = bar;
  const square = input.currentA ** 2;
  const start = Math.min(input.ambientC, input.clampC);
  const t = new Float64Array(n).fill(input.ambientC + 200);
  const [tried, step, gain, slope] = [0, 1, 2, 3].map(() => new Float64Array(n)) as [Float64Array, Float64Array, Float64Array, Float64Array];
  let size = bar.linearise(t, square, gain, slope);
  let iterations = 0;
  for (; iterations < MOST_NEWTON; iterations++) {
    step.set(gain);
    solveTridiagonal(bar.conductWPerK, slope, step);
    // The foam's heat sets in sharply at collapse: a full step may hop over that corner for ever, so it is shortened until it helps.
    let stepShare = 1;
    let nextSize = size;
    let worst = 0;
    for (let cut = 0; cut < 12; cut++) {
      worst = 0;
      for (let i = 0; i < n; i++) {
        const leap = Math.min(250, Math.max(-250, (step[i] as number) * stepShare));
        tried[i] = Math.max(start, (t[i] as number) + leap);
        worst = Math.max(worst, Math.abs(leap));
      }
      nextSize = bar.linearise(tried, square, gain, slope);
      if (nextSize < size || worst < 1e-9) break;
      stepShare /= 2;
    }
    t.set(tried);
    size = nextSize;
    if (worst < 1e-9) break;
  }
  const flows = bar.flows(t, square);
  const lost = flows.lossToAirW + flows.lossToFoamW + flows.lossToEdgesW + flows.lossToClampsW;
  const energyImbalance = flows.generatedW === 0 ? 0 : (flows.generatedW - lost) / flows.generatedW;
  if (!(Math.abs(energyImbalance) < 1e-4) && flows.generatedW > 0) {
    throw new CoreError("no-solution", "current_A", "no steady temperature along the wire was found for this current: it would melt");
  }
  return { ...flows, positionM: bar.positionM, temperatureC: t, energyImbalance, iterations };
}

/** What a maker wants to know of a wire's temperatures along its length. */
export interface HotSpots {
  /** Hottest place and its temperature: where a wire breaks, and what lights vapour. */
  hottestM: number;
  hottestC: number;
  /** Coldest and mean wire in the foam; null without foam. */
  coldestInFoamC: number | null;
  meanInFoamC: number | null;
  /** Length next to the clamps more than a tenth colder (of its rise) than the hottest place, m: no use for cutting. */
  coldEndsM: number;
}

/** Reads the hot spots out of a temperature profile. */
export function hotSpots(profile: Pick<AxialResult, "positionM" | "temperatureC">, input: BarInput): HotSpots {
  const { positionM, temperatureC } = profile;
  const dx = input.lengthM / positionM.length;
  let hottest = 0;
  let coldest = Number.POSITIVE_INFINITY;
  let sum = 0;
  let count = 0;
  for (let i = 0; i < positionM.length; i++) {
    const here = temperatureC[i] as number;
    const x = positionM[i] as number;
    if (here > (temperatureC[hottest] as number)) hottest = i;
    if (input.foam && x >= input.foam.fromM && x <= input.foam.toM) {
      coldest = Math.min(coldest, here);
      sum += here;
      count += 1;
    }
  }
  const hottestC = temperatureC[hottest] as number;
  const bar = input.ambientC + 0.9 * (hottestC - input.ambientC);
  let left = 0;
  while (left < positionM.length && (temperatureC[left] as number) < bar) left += 1;
  let right = positionM.length - 1;
  while (right > left && (temperatureC[right] as number) < bar) right -= 1;
  return {
    hottestM: positionM[hottest] as number,
    hottestC,
    coldestInFoamC: count > 0 ? coldest : null,
    meanInFoamC: count > 0 ? sum / count : null,
    coldEndsM: (left + positionM.length - 1 - right) * dx,
  };
}
