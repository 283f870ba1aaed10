import { CoreError } from "../kernel/errors";
import type { Wire } from "../physics/heat/wire";
import { tensionFromPitch, yieldPitchHz } from "../physics/mechanics/tension";
import { formatQuantity, type UnitSystem } from "../units/units";

/** Off by less than this share of the tension is in tune. */
const IN_TUNE = 0.03;

export interface TuneAdvice {
  tensionN: number | null;
  /** Positive: tighten by so many newtons. */
  offN: number | null;
  /** How far to move the device, m, where its rate is known; positive stretches it. */
  moveM: number | null;
  state: "slack" | "tight" | "in tune";
  words: string;
}

/**
 * What to do about a pitch.
 * @param rateNPerM of the tension device; null where it has none to speak of (a weight, a turnbuckle)
 */
export function tuneAdvice(wire: Wire, spanM: number, detectedHz: number, targetN: number, rateNPerM: number | null, units: UnitSystem): TuneAdvice {
  let tensionN: number;
  try {
    tensionN = tensionFromPitch(wire, spanM, detectedHz);
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return { tensionN: null, offN: null, moveM: null, state: "slack", words: "the wire is quite slack: its own stiffness sings higher than that" };
  }
  const offN = targetN - tensionN;
  const force = (newtons: number) => formatQuantity("force", Math.abs(newtons), units, 1);
  if (Math.abs(offN) <= IN_TUNE * targetN) return { tensionN, offN, moveM: 0, state: "in tune", words: `${force(tensionN)}: in tune` };
  const moveM = rateNPerM === null ? null : offN / rateNPerM;
  const move = moveM === null ? "" : `, ${formatQuantity("kerf", Math.abs(moveM) * 1000, units, units === "metric" ? 1 : 2)} of the device`;
  return {
    tensionN,
    offN,
    moveM,
    state: offN > 0 ? "slack" : "tight",
    words: `${force(tensionN)}: ${offN > 0 ? "tighten" : "slacken"} by ${force(offN)}${move}`,
  };
}

export interface Plateau {
  state: "too few" | "rising" | "yielding";
  words: string;
}

/** A turn that raises the pitch by less than this share no longer tightens. */
const FLAT = 0.006;
/** A turn that raises it by more than this did. */
const ROSE = 0.012;
/** Two flat turns this near the wire's own yield pitch are no accident. */
const NEAR_YIELD = 0.75;

/**
 * Watches successive plucks while the wire is tightened: when pitch stops rising, the wire is yielding (common practice).
 * @param detectedHz pitches in the order they were taken, one after each turn
 */
export function watchPlateau(wire: Wire, spanM: number, detectedHz: readonly number[], ambientC: number): Plateau {
  if (detectedHz.length < 3) return { state: "too few", words: "three plucks, each after a turn, show whether it still tightens" };
  const rises = detectedHz.slice(1).map((hz, i) => hz / (detectedHz[i] as number) - 1);
  const lastTwo = rises.slice(-2);
  const everRose = rises.some((rise) => rise > ROSE);
  const limit = yieldPitchHz(wire, spanM, ambientC);
  const last = detectedHz[detectedHz.length - 1] as number;
  const flat = lastTwo.every((rise) => rise < FLAT);
  if (flat && (everRose || last > NEAR_YIELD * limit)) {
    return {
      state: "yielding",
      words: `the pitch has stopped rising at ${last.toFixed(0)} Hz${last > NEAR_YIELD * limit ? `, near this wire's own limit of about ${limit.toFixed(0)} Hz` : ""}: the wire is yielding. Back off a turn or two, and fit a fresh wire if it necked.`,
    };
  }
  return { state: "rising", words: `still rising: ${(100 * (lastTwo.at(-1) ?? 0)).toFixed(1)} % with the last turn` };
}
