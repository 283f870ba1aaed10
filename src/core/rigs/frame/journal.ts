import type { RunState } from "../../motion/sender";
import { runEntry } from "../logged";

/** What was done goes to the log this often while a run lasts, ms. */
const KEEP_MS = 2000;

/** What is to be told of a run in the log, whoever speaks to the controller: how long it lasts, how long it was hot, and when its entry is to be written. */
export class RunJournal {
  private endedMs: number | null = null;
  private hotMs = 0;
  private keptMs: number;
  private lastMs: number;

  constructor(
    private readonly name: string,
    readonly program: string,
    private readonly begunMs: number,
  ) {
    this.keptMs = begunMs;
    this.lastMs = begunMs;
  }

  get over(): boolean {
    return this.endedMs !== null;
  }

  /** Since it began, to its end, s. */
  seconds(nowMs: number): number {
    return ((this.endedMs ?? nowMs) - this.begunMs) / 1000;
  }

  /** Lets time pass, with the wire hot or cold. */
  pass(nowMs: number, hot: boolean): void {
    if (hot && !this.over) this.hotMs += nowMs - this.lastMs;
    this.lastMs = nowMs;
  }

  /**
   * Whether its entry is to be written: now that it is over, every so often while it lasts, and again while it could not be.
   * @param busy whether the run is still under way
   * @param failed the last try to write it
   */
  due(nowMs: number, busy: boolean, failed: boolean): boolean {
    const rested = nowMs - this.keptMs >= KEEP_MS;
    if (this.over) return failed && rested;
    if (!busy) this.endedMs = nowMs;
    return !busy || rested;
  }

  /** Its entry as things stand. */
  entry(state: Pick<RunState, "phase" | "reason" | "line" | "lines">, nowMs: number): ReturnType<typeof runEntry> {
    this.keptMs = nowMs;
    const done = { ...state, seconds: this.seconds(nowMs), hotSeconds: this.hotMs / 1000 };
    return runEntry(this.name, this.program, done, new Date(this.begunMs).toISOString(), new Date(nowMs).toISOString());
  }
}
