/** Two neighbouring places between which a condition changes. */
export interface Bracket {
  low: number;
  high: number;
}

const mean = (low: number, high: number) => (low + high) / 2;

/**
 * Halves a stretch so many times, keeping the place where a condition changes from true (below) to false (above). No derivative is needed, and steps are of equal cost.
 * @param isBelow true up to some place and false beyond it; asked once a step, never at the ends
 * @param steps each halves the stretch: 40 leave 1e-12 of it
 * @param middle of two ends: their mean, or another such as the geometric one
 */
export function bisect(
  isBelow: (x: number) => boolean,
  low: number,
  high: number,
  steps: number,
  middle: (low: number, high: number) => number = mean,
): Bracket {
  let [from, to] = [low, high];
  for (let i = 0; i < steps; i++) {
    const at = middle(from, to);
    if (isBelow(at)) from = at;
    else to = at;
  }
  return { low: from, high: to };
}

/** The middle by ratio: for figures that range over decades. Both ends above 0. */
export const geometricMean = (low: number, high: number): number => Math.sqrt(low * high);
