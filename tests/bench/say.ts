/** One printed line of the benchmark. */
export const say = (what: string, figure: string) => console.log(`${what.padEnd(74)} ${figure}`);

/** @param values at least one @returns the middle one, in their order */
export function medianOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? Number.NaN;
}

/** Each of several calls after a warm-up, ms, in order. */
export const timed = (times: number, work: (i: number) => void): number[] => {
  for (let i = 0; i < 5; i++) work(i);
  return Array.from({ length: times }, (_, i) => {
    const started = performance.now();
    work(i);
    return performance.now() - started;
  }).sort((a, b) => a - b);
};
