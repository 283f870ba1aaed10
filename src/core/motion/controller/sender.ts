import type { RunPhase, RunState } from "./states";
import { type ControllerWords, spoken } from "./words";

/** With nothing received for so long the controller counts as silent, ms. */
const SILENT_MS = 4000;
/** It is asked where it is so often, ms: being asked also keeps its watchdog quiet. */
export const POLL_MS = 250;
/** Before a program ends its last lines may be acknowledged long before they are done. */
const IDLE = "idle";

/** Phases in which a program is under way. */
const BUSY: readonly RunPhase[] = ["running", "holding", "held", "resuming", "fault"];

/** A hold or a stop that the controller has not acknowledged yet. */
export interface Unacknowledged {
  sinceMs: number;
  /** when it was last sent */
  sentMs: number;
}

/**
 * The protocol of a controller: homes it, sends it a program line by line, never more ahead than it acknowledges, and reads its reports.
 * It knows no port, no clock and no policy: text comes by {@link receive}, time by {@link tick}; `RunSession` decides when to hold, stop and give up.
 */
export class Sender {
  private next = 0;
  private readonly current: RunState;
  private receivedMs: number;
  private nowMs: number;
  private pending: Unacknowledged | null = null;
  private requestedMs = Number.NEGATIVE_INFINITY;
  private rest = "";

  private lines: readonly string[] = [];

  constructor(
    private readonly line: { write: (text: string) => void },
    private readonly words: ControllerWords,
    nowMs: number,
  ) {
    this.receivedMs = nowMs;
    this.nowMs = nowMs;
    this.current = { phase: "ready", reason: "", lines: 0, taken: 0, line: 0, at: null, heat: null, homed: null };
  }

  /** Whether a program is under way, held or in a fault. */
  get busy(): boolean {
    return BUSY.includes(this.current.phase);
  }

  /** Begins a program. Does nothing while one is under way. */
  start(lines: readonly string[], nowMs: number): void {
    this.nowMs = nowMs;
    if (this.busy || this.current.phase === "lost" || this.current.phase === "homing") return;
    this.lines = lines;
    this.next = 0;
    this.receivedMs = nowMs;
    this.pending = null;
    Object.assign(this.current, { phase: "running", reason: "", homed: null, lines: lines.length, taken: 0, line: 0 });
    this.pump();
  }

  home(): void {
    if (this.busy || this.current.phase === "lost") return;
    this.current.phase = "homing";
    this.current.reason = "";
    this.current.homed = null;
    this.say(this.words.home);
    // One that knows no homing is homed by hand.
    if (!this.words.home) this.current.phase = "ready";
  }

  get state(): Readonly<RunState> {
    return this.current;
  }

  /** A hold or a stop that was sent and has not been acknowledged; null where there is none. */
  get unacknowledged(): Readonly<Unacknowledged> | null {
    return this.pending;
  }

  /** Whether the controller has said nothing for longer than it may. One that gives no reports is never known to be silent. */
  get silent(): boolean {
    return this.words.where !== "" && this.nowMs - this.receivedMs > SILENT_MS;
  }

  private say(word: string): void {
    if (word) this.line.write(spoken(word));
  }

  private pump(): void {
    const { numbered, ahead } = this.words;
    let text = "";
    while (this.current.phase === "running" && this.next < this.lines.length && this.next - this.current.taken < ahead) {
      text += numbered ? `N${this.next + 1} ${this.lines[this.next]}\n` : `${this.lines[this.next]}\n`;
      this.next += 1;
    }
    if (text) this.line.write(text);
  }

  /** Text from the controller, in pieces of any length. */
  receive(text: string, nowMs: number): void {
    this.nowMs = nowMs;
    this.receivedMs = nowMs;
    const lines = (this.rest + text).split(/\r?\n/);
    this.rest = (lines.pop() ?? "").slice(-1000);
    for (const line of lines) this.readLine(line.trim());
    this.pump();
  }

  private readLine(text: string): void {
    const { taken, refused, fault } = this.words;
    const { current: state } = this;
    const begins = (word: string) => word !== "" && text.toLowerCase().startsWith(word.toLowerCase());
    // Words that say that the heat is off; a report says it with its own figure.
    if (/^(holding|held|stopped|done)\b/i.test(text) || begins(fault)) this.pending = null;
    if (begins(taken)) {
      const said = this.words.numbered ? Number(/\d+/.exec(text.slice(taken.length))?.[0] ?? Number.NaN) : Number.NaN;
      state.taken = Math.min(this.next, Number.isNaN(said) ? state.taken + 1 : Math.max(state.taken, said));
    } else if (begins(refused)) {
      const [, number, why] = /^\s*(\d+)?:?\s*(.*)$/.exec(text.slice(refused.length)) ?? [];
      // A word of ours that is refused is no line of the program.
      if (number === undefined && (this.words.numbered || state.phase !== "running")) {
        if (state.phase === "resuming") state.phase = "held";
        if (state.phase === "homing") state.phase = "ready";
        state.reason = why ?? "";
      } else if (state.phase !== "fault" && this.busy) {
        state.phase = "refused";
        state.reason = `line ${number ?? state.taken + 1}: ${why || "it was refused"}`;
        this.sendSafe(this.words.stop);
      }
    } else if (begins(fault)) {
      // Lines that were not taken are sent again once it is cleared.
      this.next = state.taken;
      if (this.busy || state.phase === "homing" || state.phase === "ready") state.phase = "fault";
      state.reason = text.slice(fault.length).trim();
      state.heat = 0;
    } else if (text === "held") {
      if (state.phase === "holding") state.phase = "held";
    } else if (text === "done") this.finish();
    else if (text.startsWith("homed")) {
      if (state.phase === "homing") state.phase = "ready";
      const off = [...text.matchAll(/(-?\d+(?:\.\d+)?)/g)].map(([, value]) => Number(value));
      state.homed = off;
      state.reason = off.some((mm) => Math.abs(mm) > 0.05) ? `steps had been lost: home was found ${off.map((mm) => mm.toFixed(2)).join(" and ")} mm off` : "";
    } else this.report(text);
  }

  private finish(): void {
    if (this.current.taken >= this.current.lines && this.busy) {
      this.current.phase = "done";
      this.current.line = this.current.lines;
      this.current.heat = 0;
    }
  }

  /** A report: a letter and a figure for each axis, and the other fields. */
  private report(text: string): void {
    if (!/^at\b/i.test(text)) return;
    const { current: state } = this;
    state.at = Object.fromEntries([...text.matchAll(/\b([A-CU-Z])(-?\d+(?:\.\d+)?)/g)].map(([, axis, value]) => [axis as string, Number(value)]));
    const [line, heat, reported] = [/\bline (\d+)/, /\bheat (\d+)/, /\bstate (\w+)/].map((pattern) => pattern.exec(text)?.[1]);
    // What was said before this program's first line was taken is of another. After a stop a report may still say that it had come farther.
    const stopped = state.phase === "stopped" && Number(line) >= state.line && Number(line) <= this.next;
    if (line !== undefined && (this.busy || stopped) && state.taken > 0) state.line = Math.min(state.lines, Number(line));
    if (heat !== undefined) state.heat = Number(heat);
    // A report that was on its way when the command was sent may say heat 0 between two hot moves: then it also says that it is running.
    if (state.heat === 0 && reported !== "running" && reported !== "warming") this.pending = null;
    if (reported === "held" && state.phase === "holding") state.phase = "held";
    if ((reported === "running" || reported === IDLE) && state.phase === "resuming") state.phase = "running";
    if (reported === "fault" && state.phase === "ready") state.phase = "fault";
    if ((reported === "held" || reported === IDLE) && state.phase === "fault") state.phase = state.lines > 0 && state.line < state.lines ? "held" : "ready";
    if (reported === IDLE && state.phase === "running") this.finish();
  }

  /** Says what time it is, for a command that comes between two ticks. */
  tickClock(nowMs: number): void {
    this.nowMs = nowMs;
  }

  /** Asks where it is. */
  tick(nowMs: number): void {
    this.nowMs = nowMs;
    const { current: state } = this;
    if (state.phase === "lost") return;
    if (nowMs - this.requestedMs >= POLL_MS) {
      this.requestedMs = nowMs;
      this.say(this.words.where);
    }
    // Without a report a line that is taken is all that is known of it.
    if (!this.words.where) {
      state.line = state.taken;
      if (state.taken >= state.lines && state.phase === "running") state.phase = "done";
    }
  }

  /** Sends a command that switches the heat off, and waits for its acknowledgement. */
  private sendSafe(word: string): void {
    this.say(word);
    this.pending ??= { sinceMs: this.nowMs, sentMs: this.nowMs };
  }

  /** Sends the heat word again: until it is acknowledged nobody knows that the wire is cold. */
  repeatHeatOff(nowMs: number): void {
    this.nowMs = nowMs;
    this.say(this.words.stop);
    this.pending = { sinceMs: this.pending?.sinceMs ?? nowMs, sentMs: nowMs };
  }

  hold(): void {
    if (this.current.phase !== "running" && this.current.phase !== "resuming") return;
    this.current.phase = "holding";
    this.sendSafe(this.words.hold);
  }

  /** @param warmS with the heat on before it moves again */
  resume(warmS: number): void {
    if (this.current.phase !== "held" && this.current.phase !== "holding") return;
    this.current.phase = "resuming";
    this.pending = null;
    this.say(this.words.resume && !this.words.resume.startsWith("\\x") ? `${this.words.resume} ${warmS}` : this.words.resume);
  }

  /** After a fault was looked at: what is left can be gone on with. */
  clear(): void {
    if (this.current.phase !== "fault") return;
    this.say(this.words.clear);
    // Its own report says whether it is clear; one that gives none is taken at its word.
    if (!this.words.where) this.current.phase = this.current.lines > 0 ? "held" : "ready";
  }

  stop(): void {
    this.sendSafe(this.words.stop);
    if (!this.busy && this.current.phase !== "homing") return;
    this.current.phase = "stopped";
    this.current.heat = 0;
  }

  /** The line is broken, or nobody answers on it. Anyone who holds the line closes it. */
  lost(why: string): void {
    const { current: state } = this;
    if (state.phase === "lost") return;
    // What was done to its end is not broken off.
    if (["ready", "homing", "done"].includes(state.phase)) Object.assign(state, { lines: 0, taken: 0, line: 0 });
    state.phase = "lost";
    state.reason = why;
    state.heat = null;
  }
}
