import type { PaceRow } from "./planPace";
import type { PacerRun } from "./twoEndsSchema";

/** Something called out at a time, s from the start. */
export interface Call {
  atS: number;
  kind: "station" | "corner" | "part" | "wait" | "go" | "end";
  /** the number, or how long the wait is */
  label: string;
}

/** What both hands are led by: a pace from its first number to its last. */
export interface Schedule {
  rows: readonly PaceRow[];
  /** when each row begins, and when its number is reached; a wait follows that */
  startsS: number[];
  reachesS: number[];
  totalS: number;
  calls: Call[];
}

/** @param parts each number is split in: what is called between */
export function scheduleOf(rows: readonly PaceRow[], parts: number): Schedule {
  const [startsS, reachesS, calls]: [number[], number[], Call[]] = [[], [], []];
  let now = 0;
  for (const [i, { to, seconds, waitS, corner }] of rows.entries()) {
    startsS.push(now);
    for (let k = 1; k < parts; k++) calls.push({ atS: now + (seconds * k) / parts, kind: "part", label: `${k}/${parts}` });
    now += seconds;
    reachesS.push(now);
    calls.push({ atS: now, kind: i === rows.length - 1 ? "end" : corner ? "corner" : "station", label: to });
    if (waitS > 0) {
      calls.push({ atS: now, kind: "wait", label: waitS.toFixed(1) });
      now += waitS;
      calls.push({ atS: now, kind: "go", label: to });
    }
  }
  return { rows, startsS, reachesS, totalS: now, calls };
}

/** What is to be read at a moment. */
export interface Shown {
  /** the row that is led; past the last one when all is done */
  row: number;
  number: string;
  next: string | null;
  /** 0 to 1 of the way to the number */
  share: number;
  /** s left of a wait at the number that was reached; null while the hands move */
  waitLeftS: number | null;
  leftS: number;
  done: boolean;
}

/** @param atS since the start, pauses left out */
export function shownAt({ rows, startsS, reachesS, totalS }: Schedule, atS: number): Shown {
  let row = 0;
  while (row < rows.length - 1 && atS >= (startsS[row + 1] as number)) row += 1;
  const here = rows[row] as PaceRow;
  const started = startsS[row] as number;
  const reaches = reachesS[row] as number;
  const waiting = atS >= reaches && here.waitS > 0 && atS < reaches + here.waitS;
  return {
    row,
    number: here.to,
    next: rows[row + 1]?.to ?? null,
    share: Math.min(1, Math.max(0, (atS - started) / Math.max(1e-9, here.seconds))),
    waitLeftS: waiting ? reaches + here.waitS - atS : null,
    leftS: Math.max(0, totalS - atS),
    done: atS >= totalS,
  };
}

/** Before the first number, so that both hands are ready, s. */
export const COUNT_IN_S = 4;

export const beginRun = (by: PacerRun["by"], nowMs: number): PacerRun => ({
  by,
  startedMs: nowMs + COUNT_IN_S * 1000,
  pausedMs: null,
  pauses: [],
  passedS: [],
  seenMs: nowMs,
});

const pausedS = ({ pauses }: PacerRun): number => pauses.reduce((sum, { longS }) => sum + longS, 0);

/** Since the start, pauses left out, s; negative while it counts in. Computed from the clock alone, so that no error accumulates. */
export const elapsedS = (run: PacerRun, nowMs: number): number => ((run.pausedMs ?? nowMs) - run.startedMs) / 1000 - pausedS(run);

export const pause = (run: PacerRun, nowMs: number): PacerRun => (run.pausedMs === null ? { ...run, pausedMs: nowMs, seenMs: nowMs } : run);

export function resume(run: PacerRun, nowMs: number): PacerRun {
  if (run.pausedMs === null) return run;
  const atS = elapsedS(run, nowMs);
  // Paused while it counts in, it counts in again.
  if (atS < 0) return { ...run, startedMs: nowMs + COUNT_IN_S * 1000, pausedMs: null, seenMs: nowMs };
  return { ...run, pausedMs: null, pauses: [...run.pauses, { atS, longS: (nowMs - run.pausedMs) / 1000 }], seenMs: nowMs };
}

/** A number passed, led by hand. */
export const pass = (run: PacerRun, nowMs: number): PacerRun =>
  run.pausedMs !== null || elapsedS(run, nowMs) < 0 ? run : { ...run, passedS: [...run.passedS, elapsedS(run, nowMs)], seenMs: nowMs };

/** A run found after a reload: it has been paused since it was last seen. */
export const revived = (run: PacerRun): PacerRun => (run.pausedMs === null ? { ...run, pausedMs: run.seenMs } : run);

/** Longest stop that is asked about, s. */
export const LONGEST_STOP_S = 60;

/** What was planned and what was, number by number, s each. Led by the pacer, a pause is part of the number it fell in. */
export function realTimes({ rows, startsS }: Schedule, run: PacerRun): { labels: string[]; plannedS: number[]; realS: number[] } {
  const plannedS = rows.map(({ seconds, waitS }) => seconds + waitS);
  const realS =
    run.by === "hand"
      ? run.passedS.slice(0, rows.length).map((at, i) => at - (i === 0 ? 0 : (run.passedS[i - 1] as number)))
      : plannedS.map(
          (planned, i) =>
            planned +
            run.pauses
              .filter(({ atS }) => atS >= (startsS[i] as number) && (i === rows.length - 1 || atS < (startsS[i + 1] as number)))
              .reduce((sum, { longS }) => sum + longS, 0),
        );
  return { labels: rows.slice(0, realS.length).map(({ to }) => to), plannedS: plannedS.slice(0, realS.length), realS };
}
