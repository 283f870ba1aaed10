import type { PaceRow } from "@/core/pace/planPace";
import type { HandsAt } from "@/core/pace/practice";
import type { Stations } from "@/core/plans/stations";

export type PracticeHand = "root" | "tip";
export const PRACTICE_HANDS: readonly PracticeHand[] = ["root", "tip"];

/** A held key leads at so many times the pace: so that one may run ahead, and must let go. */
const KEY_PACE = 1.35;
/** A dragged hand follows no faster than so many times the pace. */
const DRAG_PACE = 4;

/** What moves each hand: how far it was dragged (in numbers), and whether its key is held. */
export interface HandInputs {
  aims: Record<PracticeHand, number>;
  held: Record<PracticeHand, boolean>;
}
export const noInputs = (): HandInputs => ({ aims: { root: 0, tip: 0 }, held: { root: false, tip: false } });

/** Where the hands are after so many seconds more. They go on and never back. Moves the aims of hands whose key is held. */
export function stepHands(last: HandsAt, inputs: HandInputs, rows: readonly PaceRow[], seconds: number): HandsAt {
  const next = { ...last, atS: last.atS + seconds };
  for (const hand of PRACTICE_HANDS) {
    const pace = 1 / Math.max(0.2, rows[Math.min(rows.length - 1, Math.floor(last[hand]))]?.seconds ?? 1);
    if (inputs.held[hand]) inputs.aims[hand] = Math.max(inputs.aims[hand], last[hand] + KEY_PACE * pace * seconds);
    next[hand] = Math.min(rows.length, Math.max(last[hand], Math.min(inputs.aims[hand], last[hand] + DRAG_PACE * pace * seconds)));
  }
  return next;
}

/** Two rulers on a picture: numbers (0 to as many as there are, parts between) to px and back. */
export function rulersOf(stations: Stations, leftPx: number, widthPx: number) {
  const whole = stations.stations.filter((station) => station.whole);
  const numbers = whole.length - 1;
  const scale = widthPx / Math.max(stations.rootLengthMm, stations.tipLengthMm);
  const alongOf = (hand: PracticeHand, number: number): number => {
    const k = Math.min(numbers - 1, Math.floor(number));
    const [a, b] = [whole[k], whole[k + 1]];
    const key = hand === "root" ? "rootAlongMm" : "tipAlongMm";
    return (a?.[key] ?? 0) + ((b?.[key] ?? 0) - (a?.[key] ?? 0)) * (number - k);
  };
  return {
    labels: whole.map(({ label }) => label),
    px: (hand: PracticeHand, number: number) => leftPx + alongOf(hand, number) * scale,
    numberAt: (hand: PracticeHand, px: number): number => {
      const mm = (px - leftPx) / scale;
      let k = 0;
      while (k < numbers - 1 && alongOf(hand, k + 1) < mm) k += 1;
      const [a, b] = [alongOf(hand, k), alongOf(hand, k + 1)];
      return Math.min(numbers, Math.max(0, k + (b > a ? (mm - a) / (b - a) : 0)));
    },
  };
}
