import { POLL_MS, Sender } from "./sender";
import type { RunPhase, RunSessionState, StoppedRun } from "./states";
import type { ControllerWords } from "./words";

/** What carries text to a controller: a socket, a serial port. */
export interface ControllerLine {
  write(text: string): void;
  close(): void;
}

/** A hold or a stop must be acknowledged within so long; until then the heat word is repeated as often, ms. */
export const ACKNOWLEDGE_MS = 500;
/** Where the controller's watchdog is known, the line is closed after so long without an acknowledgement, ms. */
export const CLOSE_LINE_MS = 2000;
/** A motion command that reaches the controller later than so long after it was received does nothing, ms. */
export const COMMAND_EXPIRES_MS = 2000;
/** How often {@link RunSession.tick} must be called, ms. */
export const TICK_MS = POLL_MS / 5;
/** Pages that say that somebody is there before a run begins are remembered, the newest of them. */
const MOST_PAGES = 20;

/** Why a command was not carried out. */
export class RunRefusal extends Error {
  constructor(
    readonly code: "busy" | "expired" | "nobody-there",
    message: string,
  ) {
    super(message);
    this.name = "RunRefusal";
  }
}

export interface RunSessionSettings {
  words: ControllerWords;
  /** a page that is silent for longer than this is gone, ms */
  presenceMs: number;
  /** after how long of silence the controller itself switches the heat off, s; null where nobody has found out */
  watchdogS: number | null;
}

/** Phases in which the wire may be hot or is about to be. */
const HOT: readonly RunPhase[] = ["running", "resuming"];

/**
 * The policy of a run, wherever its line leads (a socket of the server, a serial port of a browser): who must be there, what happens when they are not, and what happens when the controller does not acknowledge that
 * the heat is off. It has no clock and waits for nothing: times are monotonic milliseconds, given with every call, and the first byte of a command is sent before the call returns.
 */
export class RunSession {
  private readonly sender: Sender;
  private readonly seen = new Map<string, number>();
  private id: string | null = null;
  private page: string | null = null;
  private presentMs = Number.NEGATIVE_INFINITY;
  private unwatched = false;
  private unconfirmed = false;
  private closed = false;
  watchdogS: number | null;

  constructor(
    private readonly line: ControllerLine,
    private readonly settings: RunSessionSettings,
    nowMs: number,
  ) {
    this.watchdogS = settings.watchdogS;
    this.sender = new Sender(line, settings.words, nowMs);
  }

  get state(): RunSessionState {
    return {
      ...this.sender.state,
      id: this.id,
      page: this.page,
      unwatched: this.unwatched,
      heatOff: this.unconfirmed ? "unconfirmed" : this.sender.unacknowledged ? "waiting" : "confirmed",
    };
  }

  /** Whether a program is under way, held or in a fault. */
  get busy(): boolean {
    return this.sender.busy;
  }

  /** Whether its line is closed: nothing more can be sent. */
  get over(): boolean {
    return this.closed;
  }

  /** Whether a page has said within the patience that somebody is before it. */
  isPresent(page: string, nowMs: number): boolean {
    return nowMs - (this.seen.get(page) ?? Number.NEGATIVE_INFINITY) <= this.settings.presenceMs;
  }

  /** Whether any page has been there within so long. */
  anyPresent(withinMs: number, nowMs: number): boolean {
    return [...this.seen.values()].some((at) => nowMs - at <= withinMs);
  }

  /**
   * A page is open, and perhaps somebody is before it. Only the pulses of the page that started the run, or took it over, keep the heat on.
   * @param run the run that the page means; a pulse that means another does not count
   */
  pulse(run: string | null, page: string, present: boolean, nowMs: number): void {
    if (!present) return;
    if (run !== null && run !== this.id) return;
    this.seen.delete(page);
    this.seen.set(page, nowMs);
    if (this.seen.size > MOST_PAGES) this.seen.delete(this.seen.keys().next().value as string);
    if (page === this.page && run === this.id) this.presentMs = nowMs;
  }

  /**
   * Begins a program. Nothing is awaited between the checks and the first byte.
   * @param expiresMs after which it does nothing
   * @throws RunRefusal `expired`, `busy`, or `nobody-there` where the page has not said that somebody is before it
   */
  start(run: { id: string; page: string; lines: readonly string[] }, expiresMs: number, nowMs: number): void {
    this.requireInTime(expiresMs, nowMs);
    const { phase } = this.sender.state;
    if (this.closed || phase === "lost") throw new RunRefusal("busy", "The controller is not connected. Nothing was started.");
    if (this.sender.busy || phase === "homing") throw new RunRefusal("busy", "The controller is at work: its run must end first.");
    this.requireCold();
    this.requirePresent(run.page, nowMs);
    this.id = run.id;
    this.watch(run.page, nowMs);
    this.unconfirmed = false;
    this.sender.start(run.lines, nowMs);
  }

  /** Goes on after a hold; anyone who asks for it watches the run from then on. @param warmS with the heat on before it moves @throws RunRefusal */
  resume(page: string, warmS: number, expiresMs: number, nowMs: number): void {
    this.requireInTime(expiresMs, nowMs);
    this.requirePresent(page, nowMs);
    this.watch(page, nowMs);
    this.unconfirmed = false;
    this.sender.resume(warmS);
  }

  /** Watches the run from this page instead of the one that did. @throws RunRefusal where nobody is before it */
  takeOver(page: string, nowMs: number): void {
    this.requirePresent(page, nowMs);
    this.watch(page, nowMs);
  }

  /** Homes the frame, with the heat off. @throws RunRefusal `expired`, or `busy` while the heat may be on */
  home(expiresMs: number, nowMs: number): void {
    this.requireInTime(expiresMs, nowMs);
    this.requireCold();
    this.sender.home();
  }

  /** A wire that may still be hot is not moved. */
  private requireCold(): void {
    if (this.sender.unacknowledged)
      throw new RunRefusal("busy", "The controller has not acknowledged that the heat is off: pull the wire's plug. Nothing was started.");
  }

  /** After a fault was looked at: what is left can be resumed. */
  clear(): void {
    this.sender.clear();
  }

  hold(nowMs: number): void {
    this.sender.tickClock(nowMs);
    this.sender.hold();
  }

  stop(nowMs: number): void {
    this.sender.tickClock(nowMs);
    this.sender.stop();
  }

  /** Text from the controller. */
  receive(text: string, nowMs: number): void {
    this.sender.receive(text, nowMs);
    if (!this.sender.unacknowledged) this.unconfirmed = false;
    // A silent controller that answers at last: its run was given up, so its line is of no more use once the wire is cold.
    if (this.sender.state.phase === "lost" && !this.sender.unacknowledged) this.closeLine();
  }

  /** The line broke on its own. */
  connectionLost(why: string): void {
    this.closed = true;
    this.sender.lost(why);
  }

  /** Lets time pass: asks for reports, checks presence, silence and acknowledgements. */
  tick(nowMs: number): void {
    if (this.closed) return;
    this.sender.tick(nowMs);
    if (HOT.includes(this.sender.state.phase) && nowMs - this.presentMs > this.settings.presenceMs) {
      this.unwatched = true;
      this.sender.hold();
    }
    if (this.sender.silent && this.sender.state.phase !== "lost") {
      const mayBeHot = this.sender.busy || this.sender.unacknowledged !== null;
      this.sender.lost("nothing was received from the controller");
      // Silent while nothing was under way: it is switched off, or its lead is out.
      if (!mayBeHot || this.watchdogS !== null) {
        this.closeLine();
        return;
      }
      this.sender.repeatHeatOff(nowMs);
    }
    this.escalate(nowMs);
  }

  /** A hold or a stop that is not acknowledged: the heat word again and again, and the line closed only where the controller is known to go cold by that. */
  private escalate(nowMs: number): void {
    const pending = this.sender.unacknowledged;
    if (!pending || nowMs - pending.sinceMs < ACKNOWLEDGE_MS) return;
    this.unconfirmed = true;
    if (nowMs - pending.sentMs >= ACKNOWLEDGE_MS) this.sender.repeatHeatOff(nowMs);
    if (this.watchdogS !== null && nowMs - pending.sinceMs >= CLOSE_LINE_MS) {
      this.sender.lost(
        `the controller did not acknowledge that the heat is off: its line was closed, and its watchdog switches the heat off within ${this.watchdogS} s`,
      );
      this.closeLine();
    }
  }

  /** Stops what runs and closes the line: before the process ends, or when nobody is there any more. */
  close(nowMs: number): void {
    if (this.closed) return;
    this.stop(nowMs);
    // What was stopped by this stays stopped; anything else has no controller any more.
    if (this.sender.state.phase !== "stopped") this.sender.lost("the app closed the line");
    this.closeLine();
  }

  private closeLine(): void {
    if (this.closed) return;
    this.closed = true;
    this.line.close();
  }

  private watch(page: string, nowMs: number): void {
    this.page = page;
    this.presentMs = nowMs;
    this.unwatched = false;
  }

  private requireInTime(expiresMs: number, nowMs: number): void {
    if (nowMs > expiresMs) throw new RunRefusal("expired", "This took too long to reach the controller, so nothing was moved or heated. Try again.");
  }

  private requirePresent(page: string, nowMs: number): void {
    if (!this.isPresent(page, nowMs))
      throw new RunRefusal("nobody-there", "This page has not said that somebody is before it, so nothing was moved or heated. Touch it, then try again.");
  }
}

/** Phases of a run that ended early: the wire may be in the foam. */
const EARLY: readonly RunPhase[] = ["stopped", "refused", "fault", "lost"];

/** What is to be kept of a run that ended early, null for one that did not. */
export const stoppedRun = ({ id, phase, line, lines, at }: RunSessionState): StoppedRun | null =>
  id !== null && EARLY.includes(phase) && lines > 0 && line > 0 ? { id, line, lines, at: at && { ...at } } : null;
