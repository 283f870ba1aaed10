import { type ControllerWords, spoken } from "./words";

/** What carries text to a controller: a socket, a serial port. */
export interface Link {
  write(text: string): void;
  close(): void;
}

export type RunPhase = "ready" | "homing" | "running" | "holding" | "held" | "resuming" | "stopped" | "fault" | "refused" | "done" | "lost";

export interface RunState {
  phase: RunPhase;
  /** of a fault, a refusal or a lost link */
  reason: string;
  lines: number;
  /** acknowledged, and under way as it was last reported */
  taken: number;
  line: number;
  /** by axis, as last reported; null where nothing was */
  at: Readonly<Record<string, number>> | null;
  /** S as last reported; null where nothing was */
  heat: number | null;
}

/** With lines unanswered and nothing heard for so long the link is taken for lost, ms. */
const DEAF_MS = 4000;
/** It is asked where it is so often, ms: what is heard by it keeps its watchdog quiet. */
export const ASK_EVERY_MS = 250;
/** Before a program ends its last lines may be acknowledged long before they are done. */
const IDLE = "idle";

/** Phases in which a program is under way. */
const BUSY: readonly RunPhase[] = ["running", "holding", "held", "resuming", "fault"];

/**
 * A controller at the other end of a link: homes it, sends it a program line by line, never more ahead than it acknowledges, and hears what it says of itself.
 * It knows no port and no clock: text comes by {@link heard}, time by {@link tick}.
 */
export class Sender {
  private next = 0;
  private readonly state: RunState;
  private heardMs: number;
  private askedMs = Number.NEGATIVE_INFINITY;
  private rest = "";

  private lines: readonly string[] = [];

  constructor(
    private readonly link: Link,
    private readonly words: ControllerWords,
    nowMs: number,
  ) {
    this.heardMs = nowMs;
    this.state = { phase: "ready", reason: "", lines: 0, taken: 0, line: 0, at: null, heat: null };
  }

  /** Whether a program is under way, held or in a fault. */
  get busy(): boolean {
    return BUSY.includes(this.state.phase);
  }

  /** Begins a program. Does nothing while one is under way. */
  start(lines: readonly string[], nowMs: number): void {
    if (this.busy || this.state.phase === "lost" || this.state.phase === "homing") return;
    this.lines = lines;
    this.next = 0;
    this.heardMs = nowMs;
    Object.assign(this.state, { phase: "running", reason: "", lines: lines.length, taken: 0, line: 0 });
    this.pump();
  }

  home(): void {
    if (this.busy || this.state.phase === "lost") return;
    this.state.phase = "homing";
    this.state.reason = "";
    this.say(this.words.home);
    // One that knows no homing is homed by hand.
    if (!this.words.home) this.state.phase = "ready";
  }

  get told(): Readonly<RunState> {
    return this.state;
  }

  private say(word: string): void {
    if (word) this.link.write(spoken(word));
  }

  private pump(): void {
    const { numbered, ahead } = this.words;
    let text = "";
    while (this.state.phase === "running" && this.next < this.lines.length && this.next - this.state.taken < ahead) {
      text += numbered ? `N${this.next + 1} ${this.lines[this.next]}\n` : `${this.lines[this.next]}\n`;
      this.next += 1;
    }
    if (text) this.link.write(text);
  }

  /** Text from the controller, in whatever pieces it comes. */
  heard(text: string, nowMs: number): void {
    this.heardMs = nowMs;
    const lines = (this.rest + text).split(/\r?\n/);
    this.rest = (lines.pop() ?? "").slice(-1000);
    for (const line of lines) this.line(line.trim());
    this.pump();
  }

  private line(text: string): void {
    const { taken, refused, fault } = this.words;
    const { state } = this;
    const begins = (word: string) => word !== "" && text.toLowerCase().startsWith(word.toLowerCase());
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
        this.say(this.words.stop);
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
      state.reason = off.some((mm) => Math.abs(mm) > 0.05) ? `steps had been lost: home was found ${off.map((mm) => mm.toFixed(2)).join(" and ")} mm off` : "";
    } else this.report(text);
  }

  private finish(): void {
    if (this.state.taken >= this.state.lines && this.busy) {
      this.state.phase = "done";
      this.state.line = this.state.lines;
      this.state.heat = 0;
    }
  }

  /** A report: a letter and a figure for each axis, and what else it tells. */
  private report(text: string): void {
    if (!/^at\b/i.test(text)) return;
    const { state } = this;
    state.at = Object.fromEntries([...text.matchAll(/\b([A-CU-Z])(-?\d+(?:\.\d+)?)/g)].map(([, axis, value]) => [axis as string, Number(value)]));
    const [line, heat, told] = [/\bline (\d+)/, /\bheat (\d+)/, /\bstate (\w+)/].map((pattern) => pattern.exec(text)?.[1]);
    // What was said before this program's first line was taken is of another. Once it was stopped it may still be told that it had come farther.
    const stopped = state.phase === "stopped" && Number(line) >= state.line && Number(line) <= this.next;
    if (line !== undefined && (this.busy || stopped) && state.taken > 0) state.line = Math.min(state.lines, Number(line));
    if (heat !== undefined) state.heat = Number(heat);
    if (told === "held" && state.phase === "holding") state.phase = "held";
    if ((told === "running" || told === IDLE) && state.phase === "resuming") state.phase = "running";
    if (told === "fault" && state.phase === "ready") state.phase = "fault";
    if ((told === "held" || told === IDLE) && state.phase === "fault") state.phase = state.lines > 0 && state.line < state.lines ? "held" : "ready";
    if (told === IDLE && state.phase === "running") this.finish();
  }

  /** Asks where it is, and finds out that nobody answers. */
  tick(nowMs: number): void {
    const { state } = this;
    if (state.phase === "lost") return;
    if (this.words.where && nowMs - this.heardMs > DEAF_MS) {
      this.lost("nothing was heard of the controller");
      return;
    }
    if (nowMs - this.askedMs >= ASK_EVERY_MS) {
      this.askedMs = nowMs;
      this.say(this.words.where);
    }
    // Without a report a line that is taken is all that is known of it.
    if (!this.words.where) {
      state.line = state.taken;
      if (state.taken >= state.lines && state.phase === "running") state.phase = "done";
    }
  }

  hold(): void {
    if (this.state.phase !== "running" && this.state.phase !== "resuming") return;
    this.state.phase = "holding";
    this.say(this.words.hold);
  }

  /** @param warmS with the heat on before it moves again */
  resume(warmS: number): void {
    if (this.state.phase !== "held" && this.state.phase !== "holding") return;
    this.state.phase = "resuming";
    this.say(this.words.resume && !this.words.resume.startsWith("\\x") ? `${this.words.resume} ${warmS}` : this.words.resume);
  }

  /** After a fault was looked at: what is left can be gone on with. */
  clear(): void {
    if (this.state.phase !== "fault") return;
    this.say(this.words.clear);
    // Its own report says whether it is clear; one that gives none is taken at its word.
    if (!this.words.where) this.state.phase = this.state.lines > 0 ? "held" : "ready";
  }

  stop(): void {
    this.say(this.words.stop);
    if (!this.busy && this.state.phase !== "homing") return;
    this.state.phase = "stopped";
    this.state.heat = 0;
  }

  /** The link went away. */
  lost(why: string): void {
    if (this.state.phase === "lost") return;
    // What was done to its end is not broken off.
    if (["ready", "homing", "done"].includes(this.state.phase)) Object.assign(this.state, { lines: 0, taken: 0, line: 0 });
    this.state.phase = "lost";
    this.state.reason = why;
    this.state.heat = null;
    this.link.close();
  }
}
