/** A stopwatch as plain data: what the clock said at each press. Milliseconds of any steady clock. */
export interface Stopwatch {
  startedMs: number | null;
  /** Clock at each lap, in order. */
  lapsMs: readonly number[];
  stoppedMs: number | null;
}

export const RESET: Stopwatch = { startedMs: null, lapsMs: [], stoppedMs: null };

/** Starts it, or marks a lap while it runs; a stopped one begins afresh. */
export function press(watch: Stopwatch, nowMs: number): Stopwatch {
  if (watch.startedMs === null || watch.stoppedMs !== null) return { startedMs: nowMs, lapsMs: [], stoppedMs: null };
  return { ...watch, lapsMs: [...watch.lapsMs, nowMs] };
}

/** Stops it; the stretch since the last lap counts as no whole lap. */
export function stop(watch: Stopwatch, nowMs: number): Stopwatch {
  return watch.startedMs === null || watch.stoppedMs !== null ? watch : { ...watch, stoppedMs: nowMs };
}

/** Time on its face, s. */
export function stopwatchS(watch: Stopwatch, nowMs: number): number {
  return watch.startedMs === null ? 0 : ((watch.stoppedMs ?? nowMs) - watch.startedMs) / 1000;
}

/**
 * Feed by the laps, mm/s, the first left out where there are more: laps of a known length, or all of a known way where no lap was marked.
 * @param lapMm length of a lap; with no laps, the whole way from start to stop
 * @returns null before there is anything to divide
 */
export function feedMmPerS(watch: Stopwatch, lapMm: number): { feed: number; laps: number; spread: number } | null {
  if (watch.startedMs === null) return null;
  const marks = [watch.startedMs, ...watch.lapsMs];
  if (marks.length === 1) {
    if (watch.stoppedMs === null || watch.stoppedMs <= watch.startedMs) return null;
    return { feed: (lapMm * 1000) / (watch.stoppedMs - watch.startedMs), laps: 1, spread: 0 };
  }
  const all = marks.slice(1).map((mark, i) => mark - (marks[i] as number));
  // The first lap is cut by stored heat, and by a hand that finds its pace.
  const times = all.length > 1 ? all.slice(1) : all;
  const total = times.reduce((sum, time) => sum + time, 0);
  if (total <= 0) return null;
  const mean = total / times.length;
  const spread = Math.sqrt(times.reduce((sum, time) => sum + (time - mean) ** 2, 0) / times.length) / mean;
  return { feed: (lapMm * times.length * 1000) / total, laps: times.length, spread };
}
