import type { RunState } from "../../motion/controller/states";
import { runEntry } from "../logged";

/** The log entry of a run is written this often while it lasts, ms. */
const WRITE_EVERY_MS = 2000;

/** What the log says of a run, on any kind of connection: how long it lasts, how long the wire was hot, and when its entry is to be written. Times are monotonic; the dates are the clock's. */
export class RunJournal {
  private endedMs: number | null = null;
  private hotMs = 0;
  private writtenMs: number;
  private lastMs: number;

  constructor(
    private readonly name: string,
    readonly program: string,
    private readonly beganMs: number,
    private readonly beganAt: Date,
  ) {
    this.writtenMs = beganMs;
    this.lastMs = beganMs;
  }

  get over(): boolean {
    return this.endedMs !== null;
  }

  /** Since it began, to its end, s. */
  seconds(nowMs: number): number {
    return ((this.endedMs ?? nowMs) - this.beganMs) / 1000;
  }

  /** Lets time pass, with the wire hot or cold. After the end nothing counts. */
  pass(nowMs: number, hot: boolean): void {
    if (hot && !this.over) this.hotMs += nowMs - this.lastMs;
    this.lastMs = nowMs;
  }

  /**
   * Whether its entry is to be written: once it is over, and every so often while it lasts.
   * @param busy whether the run is still under way
   */
  due(nowMs: number, busy: boolean): boolean {
    if (this.over) return false;
    if (!busy) this.endedMs = nowMs;
    return !busy || nowMs - this.writtenMs >= WRITE_EVERY_MS;
  }

  /** Its entry as it is now. */
  entry(state: Pick<RunState, "phase" | "reason" | "line" | "lines">, nowMs: number, now: Date): ReturnType<typeof runEntry> {
    this.writtenMs = nowMs;
    const done = { ...state, seconds: this.seconds(nowMs), hotSeconds: this.hotMs / 1000 };
    return runEntry(this.name, this.program, done, this.beganAt.toISOString(), now.toISOString());
  }
}
