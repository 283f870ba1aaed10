/**
 * Second derivatives at the knots of a cubic spline through values, continuous to its second derivative.
 * @param at knots, rising
 * @param y a value at each
 * @param startSlope dy/dat at the first knot; left out, the spline is straight there (natural end)
 * @param endSlope the same at the last
 * @returns as many as there are knots. Source: Press et al., Numerical Recipes, 3.3 (equations 3.3.7 and 3.3.8).
 */
export function splineCurvatures(at: readonly number[], y: readonly number[], startSlope?: number, endSlope?: number): number[] {
  const n = at.length;
  if (n < 3 && startSlope === undefined && endSlope === undefined) return at.map(() => 0);
  const step = (i: number) => (at[i + 1] as number) - (at[i] as number);
  const slope = (i: number) => ((y[i + 1] as number) - (y[i] as number)) / step(i);
  const [below, diagonal, above, right] = [new Float64Array(n), new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  for (let i = 1; i < n - 1; i++) {
    below[i] = step(i - 1) / 6;
    diagonal[i] = (step(i - 1) + step(i)) / 3;
    above[i] = step(i) / 6;
    right[i] = slope(i) - slope(i - 1);
  }
  diagonal[0] = startSlope === undefined ? 1 : step(0) / 3;
  above[0] = startSlope === undefined ? 0 : step(0) / 6;
  right[0] = startSlope === undefined ? 0 : slope(0) - startSlope;
  diagonal[n - 1] = endSlope === undefined ? 1 : step(n - 2) / 3;
  below[n - 1] = endSlope === undefined ? 0 : step(n - 2) / 6;
  right[n - 1] = endSlope === undefined ? 0 : endSlope - slope(n - 2);
  // Forward elimination, then back substitution.
  for (let i = 1; i < n; i++) {
    const factor = (below[i] as number) / (diagonal[i - 1] as number);
    diagonal[i] = (diagonal[i] as number) - factor * (above[i - 1] as number);
    right[i] = (right[i] as number) - factor * (right[i - 1] as number);
  }
  for (let i = n - 1; i >= 0; i--)
    right[i] = ((right[i] as number) - (i < n - 1 ? (above[i] as number) * (right[i + 1] as number) : 0)) / (diagonal[i] as number);
  return [...right];
}

/** The spline's value between knots i and i + 1, at a share (0 to 1) of the way. */
export function splineValue(at: readonly number[], y: readonly number[], curvatures: readonly number[], i: number, share: number): number {
  const h = (at[i + 1] as number) - (at[i] as number);
  const a = 1 - share;
  const bend = ((a ** 3 - a) * (curvatures[i] as number) + (share ** 3 - share) * (curvatures[i + 1] as number)) * (h * h);
  return a * (y[i] as number) + share * (y[i + 1] as number) + bend / 6;
}
