/** One printed line of the benchmark. */
export const say = (what: string, figure: string) => console.log(`${what.padEnd(74)} ${figure}`);

/** @param values at least one @returns the middle one, in their order */
export function medianOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? Number.NaN;
}
