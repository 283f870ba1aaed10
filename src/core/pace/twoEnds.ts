import { beginRun, elapsedS, pass, pause, resume, type Schedule, shownAt } from "./pacer";
import type { PacerRun, TwoEnds } from "./twoEndsSchema";

export const SCREEN_ENDS = ["root", "tip"] as const;
export type ScreenEnd = (typeof SCREEN_ENDS)[number];

export type PacerAction =
  | { do: "begin"; by: PacerRun["by"] }
  | { do: "pause" }
  | { do: "resume" }
  /** an end was at its number; led by hand, the leading end's mark is what both go by */
  | { do: "mark"; end: ScreenEnd; leads: boolean }
  | { do: "again" }
  | { do: "here"; end: ScreenEnd };

export const AT_REST: TwoEnds = { run: null, marks: { root: [], tip: [] }, here: { root: null, tip: null } };

/** The row an end is led through: by the schedule, or led by hand the first whose number was not passed. */
export const rowAt = (schedule: Schedule, run: PacerRun, atS: number): number =>
  run.by === "hand" ? Math.min(run.passedS.length, schedule.rows.length - 1) : shownAt(schedule, Math.max(0, atS)).row;

/** Whether all of it has been led. */
export const isDone = (schedule: Schedule, run: PacerRun, atS: number): boolean =>
  run.by === "hand" ? run.passedS.length >= schedule.rows.length : atS >= schedule.totalS;

/** What the two ends are after one of them did something. Late or repeated actions change nothing. */
export function twoEndsAfter(now: TwoEnds, action: PacerAction, schedule: Schedule, nowMs: number): TwoEnds {
  const { run } = now;
  switch (action.do) {
    case "here":
      return { ...now, here: { ...now.here, [action.end]: nowMs } };
    case "begin":
      return run ? now : { ...now, run: beginRun(action.by, nowMs), marks: { root: [], tip: [] } };
    case "again":
      return { ...now, run: null, marks: { root: [], tip: [] } };
  }
  if (!run) return now;
  const atS = elapsedS(run, nowMs);
  if (action.do === "pause") return run.pausedMs !== null || isDone(schedule, run, atS) ? now : { ...now, run: pause(run, nowMs) };
  if (action.do === "resume") return run.pausedMs === null ? now : { ...now, run: resume(run, nowMs) };
  if (run.pausedMs !== null || atS < 0) return now;
  const leads = run.by === "hand" && action.leads;
  if (leads && isDone(schedule, run, atS)) return now;
  // Led by the pacer one may be at a number a little after it was called: the number that is nearer in time is meant.
  const row = run.by === "hand" ? (leads ? run.passedS.length : now.marks[action.end].length) : nearestRow(schedule, atS);
  if (row >= schedule.rows.length) return now;
  const marks = [...now.marks[action.end]];
  while (marks.length < row) marks.push(null);
  marks[row] = atS;
  return { ...now, run: leads ? pass(run, nowMs) : run, marks: { ...now.marks, [action.end]: marks } };
}

function nearestRow({ reachesS }: Schedule, atS: number): number {
  let best = 0;
  for (const [i, at] of reachesS.entries()) if (Math.abs(at - atS) < Math.abs((reachesS[best] as number) - atS)) best = i;
  return best;
}

/** How long an end took for each number by its own marks, s; null where it or the one before was not marked. */
export const endTimes = (marks: readonly (number | null)[]): (number | null)[] =>
  marks.map((at, i) => {
    const before = i === 0 ? 0 : (marks[i - 1] ?? null);
    return at === null || before === null ? null : at - before;
  });

/** One question about the other's clock: when it was sent and answered by this clock, what the other said, ms. */
export interface ClockSample {
  sentMs: number;
  saidMs: number;
  lastReportMs: number;
}

/**
 * How far another clock is ahead of this one, ms: the other's word is taken for the middle of the quickest question there and back.
 * @returns the offset, and the most it can be wrong by: half of that question's time
 * @source Cristian, Probabilistic clock synchronization, 1989; the same sum as RFC 5905 section 8 with one time of the server's
 */
export function clockOffset(samples: readonly ClockSample[]): { offsetMs: number; withinMs: number } | null {
  let best: { offsetMs: number; withinMs: number } | null = null;
  for (const { sentMs, saidMs, lastReportMs } of samples) {
    const withinMs = (lastReportMs - sentMs) / 2;
    if (withinMs >= 0 && (best === null || withinMs < best.withinMs)) best = { offsetMs: saidMs - (sentMs + lastReportMs) / 2, withinMs };
  }
  return best;
}

/** What is held of another clock: how far it is ahead of this one, the most that is wrong by, and when that was found by this clock, ms. */
export interface HeldClock {
  offsetMs: number;
  withinMs: number;
  atMs: number;
}

/** Two clocks drift apart by no more than this share of the time; a quartz does a tenth of it (from memory). */
const DRIFT = 1e-4;

/** What is held once the clock was asked again: the surer of the two; but the newer where both cannot be true, as when one of the clocks was set. */
export function clockHeld(held: HeldClock | null, found: HeldClock): HeldClock {
  if (!held) return found;
  const within = held.withinMs + DRIFT * Math.abs(found.atMs - held.atMs);
  const apart = Math.abs(found.offsetMs - held.offsetMs) > within + found.withinMs;
  return apart || found.withinMs <= within ? found : held;
}
