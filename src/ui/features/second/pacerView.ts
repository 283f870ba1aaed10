import { COUNT_IN_S, type Schedule, shownAt } from "@/core/pace/pacer";
import { isDone, rowAt } from "@/core/pace/twoEnds";
import type { PacerRun } from "@/core/pace/twoEndsSchema";

/** What of a run was due longer ago than this is not called out any more, s. */
const LATE_S = 0.5;

/** What the hands see of a run at a moment (s since its start, negative while it counts in): one number, one bar. */
export function shownOf(schedule: Schedule, run: PacerRun | null, atS: number) {
  if (run?.by !== "hand") return shownAt(schedule, Math.max(0, atS));
  // When a hand leads, the next number is the first that has not been passed.
  const row = rowAt(schedule, run, atS);
  const passed = run.passedS.length;
  const since = atS - (passed === 0 ? 0 : (run.passedS[passed - 1] as number));
  const wants = (schedule.rows[row]?.seconds ?? 1) + (passed > 0 ? (schedule.rows[passed - 1]?.waitS ?? 0) : 0);
  return {
    row,
    number: schedule.rows[row]?.to ?? "",
    next: schedule.rows[row + 1]?.to ?? null,
    share: Math.min(1, Math.max(0, since / wants)),
    waitLeftS: null,
    leftS: Math.max(0, schedule.totalS - (schedule.startsS[row] ?? 0) - Math.max(0, since)),
    done: isDone(schedule, run, atS),
  };
}
export type PacerShown = ReturnType<typeof shownOf>;

/** Where a run is: before its start, counting in, running, paused or done. */
export type PacerState = "ready" | "counting" | "running" | "paused" | "done";

export const pacerState = (run: PacerRun | null, atS: number, done: boolean): PacerState =>
  !run ? "ready" : run.pausedMs !== null ? "paused" : done ? "done" : atS < 0 ? "counting" : "running";

/** The words on the face: what comes, the large number, and what follows. */
export function faceWords(run: PacerRun | null, atS: number, shown: PacerShown): { word: string; big: string; next: string } {
  if (!run) return { word: "", big: "ready", next: `then ${shown.number}` };
  if (shown.done && atS >= 0) return { word: "", big: "done", next: "" };
  const next = shown.next ? `then ${shown.next}` : "the last";
  if (atS < 0) return { word: "get ready for", big: String(Math.ceil(-atS)), next };
  if (shown.waitLeftS !== null) return { word: `wait at ${shown.number}`, big: shown.waitLeftS.toFixed(1), next };
  return { word: "to", big: shown.number, next };
}

/** A sound that has come due, and what is spoken with it. */
export interface DueCall {
  sound: "go" | "count" | Schedule["calls"][number]["kind"];
  words: string | null;
}

/** Everything that came due between two moments of a run (s), once each, in order; when a hand leads, only the count. */
export function dueCalls(schedule: Schedule, fromS: number, toS: number, byHand: boolean): DueCall[] {
  const due = (atS: number) => atS > fromS && atS <= toS && toS - atS < LATE_S;
  const counts = Array.from({ length: COUNT_IN_S }, (_, i) => i + 1 - COUNT_IN_S);
  return [
    ...counts.filter(due).map((s): DueCall => ({ sound: s === 0 ? "go" : "count", words: null })),
    ...(byHand ? [] : schedule.calls.filter((call) => due(call.atS))).map(
      ({ kind, label }): DueCall => ({
        sound: kind,
        words: kind === "wait" ? "wait" : kind === "station" || kind === "corner" || kind === "end" ? label : null,
      }),
    ),
  ];
}
