import type { RunView } from "@/contract/run/contract";
import { RunRefusal, RunSession, stoppedRun, TICK_MS } from "@/core/motion/controller/runSession";
import type { ControllerFault } from "@/core/motion/controller/simulatedController";
import type { StoppedRun } from "@/core/motion/controller/states";
import type { ControllerWords } from "@/core/motion/controller/words";
import { RunJournal } from "@/core/rigs/frame/journal";
import { readAddress } from "../instruments/lineClient";
import { controllerLine } from "./controllerLine";

/** Without a run and without a page the controller is let go of after so long, ms. */
const LET_GO_MS = 15_000;

/** Milliseconds of the monotonic clock that all threads of a process share. */
export const monotonicMs = (): number => Number(process.hrtime.bigint()) / 1e6;

/** What of a frame its controller needs to know. */
export interface FrameSettings {
  rig: string;
  name: string;
  words: ControllerWords;
  /** the frame's shape as a simulated controller receives it */
  shape: string;
  /** after how long of silence the controller switches the heat off, s; null where nobody has found out */
  watchdogS: number | null;
}

/** A run that is to begin. */
export interface RunStart {
  id: string;
  page: string;
  program: string;
  lines: readonly string[];
  /** by the monotonic clock, after which it does nothing */
  expiresMs: number;
}

export type LineCommand =
  | { do: "open"; frame: FrameSettings; page: string; again: boolean }
  | { do: "pulse"; run: string | null; page: string; present: boolean }
  | { do: "start"; frame: FrameSettings; start: RunStart }
  | { do: "resume"; page: string; warmS: number; expiresMs: number }
  | { do: "take-over"; page: string }
  | { do: "home"; expiresMs: number }
  | { do: "clear" }
  | { do: "hold" }
  | { do: "stop"; run?: string }
  | { do: "inject"; fault: ControllerFault; on: boolean }
  | { do: "speed"; times: number }
  | { do: "close" };

/** Everything that is known of the line and of its run. */
export interface LineState {
  trouble: string | null;
  run: Omit<NonNullable<RunView["run"]>, "unlogged"> | null;
}

/** What is to be written into the log of a run. */
export interface JournalNote {
  run: string;
  entry: ReturnType<RunJournal["entry"]>;
  /** set once it ended early with the wire perhaps in the foam */
  stopped: StoppedRun | null;
  over: boolean;
}

/**
 * The line to the one controller of this app, with its session, its timers and its journal. It runs in a thread that serves nothing else, so that no query, archive or page delays it; it writes nothing to the database
 * itself.
 */
export class RunLine {
  private session: RunSession | null = null;
  private write: ((text: string) => void) | null = null;
  private trouble: string | null = null;
  private practice = false;
  private frame: FrameSettings | null = null;
  private job: { rig: string; program: string; journal: RunJournal; id: string } | null = null;
  private timer: NodeJS.Timeout | null = null;

  /**
   * @param address of the controller, HOST:PORT
   * @param note called whenever the run's log entry is to be written
   */
  constructor(
    private readonly address: string | undefined,
    private readonly presenceMs: number,
    private readonly note: (note: JournalNote) => void,
    private readonly now: () => number = monotonicMs,
  ) {}

  get state(): LineState {
    const { session, job } = this;
    return {
      trouble: this.trouble,
      run: session && {
        ...session.state,
        rig: job?.rig ?? null,
        program: job?.journal.program ?? null,
        seconds: job?.journal.seconds(this.now()) ?? 0,
        practice: this.practice,
      },
    };
  }

  /** Carries out a command. @throws RunRefusal */
  act(command: LineCommand): LineState {
    const nowMs = this.now();
    switch (command.do) {
      case "open":
        this.open(command.frame, command.page, command.again, nowMs);
        break;
      case "pulse":
        this.session?.pulse(command.run, command.page, command.present, nowMs);
        break;
      case "start":
        this.start(command.frame, command.start, nowMs);
        break;
      case "close":
        this.close();
        break;
      case "stop":
        // A stop for one run never ends another that began meanwhile.
        if (command.run === undefined || command.run === this.session?.state.id) this.session?.stop(nowMs);
        break;
      case "hold":
        this.session?.hold(nowMs);
        break;
      case "resume":
        this.requireSession().resume(command.page, command.warmS, command.expiresMs, nowMs);
        break;
      case "take-over":
        this.requireSession().takeOver(command.page, nowMs);
        break;
      case "home":
        this.requireSession().home(command.expiresMs, nowMs);
        break;
      case "clear":
        this.requireSession().clear();
        break;
      default:
        if (!this.practice) throw new RunRefusal("busy", "Only the simulated controller can be made to misbehave.");
        this.write?.(command.do === "speed" ? `speed ${command.times}\n` : `misbehave ${command.fault} ${command.on ? "on" : "off"}\n`);
    }
    this.settle();
    return this.state;
  }

  private requireSession(): RunSession {
    if (!this.session) throw new RunRefusal("busy", this.trouble ?? "No controller is connected to this app.");
    return this.session;
  }

  private open(frame: FrameSettings, page: string, again: boolean, nowMs: number): void {
    if (this.session?.busy && this.job?.rig !== frame.rig)
      throw new RunRefusal("busy", `${this.frame?.name ?? "Another frame"} is at work on this controller: its run must end first.`);
    // A run that broke off stays on show until the person has seen to the wire.
    const { phase, lines } = this.session?.state ?? { phase: "ready", lines: 0 };
    if (!(phase === "lost" && lines > 0 && !again) && this.connect(frame, nowMs) && !this.session?.busy) this.shapeTo(frame);
    this.session?.pulse(this.session.state.id, page, true, nowMs);
  }

  private shapeTo(frame: FrameSettings): void {
    this.frame = frame;
    if (this.session) this.session.watchdogS = this.practice ? PRACTICE_WATCHDOG_S : frame.watchdogS;
    if (this.practice) this.write?.(`${frame.shape}\n`);
  }

  /** Makes a connection, if there is none. @returns false where there can be none */
  private connect(frame: FrameSettings, nowMs: number): boolean {
    if (!this.address) return false;
    const address = readAddress(this.address);
    if (!address) {
      this.trouble = "UPWIND_CONTROLLER must be an address such as 127.0.0.1:5030.";
      return false;
    }
    if (this.session && this.session.state.phase !== "lost") return true;
    // One that was given up with its line open would keep the controller from answering another.
    this.session?.close(nowMs);
    this.trouble = null;
    this.practice = false;
    this.frame = frame;
    let greeting = "";
    const line = controllerLine(
      address,
      (text) => {
        if (this.session !== session) return;
        if (greeting.length < 200) {
          greeting += text;
          if (!this.practice && /^simulated controller/m.test(greeting)) {
            this.practice = true;
            if (this.frame) this.shapeTo(this.frame);
          }
        }
        session.receive(text, this.now());
        this.settle();
      },
      (why) => {
        session.connectionLost(why);
        if (this.session === session) this.trouble = `${why[0]?.toUpperCase()}${why.slice(1)}.`;
        this.settle();
      },
    );
    const session = new RunSession(line, { words: frame.words, presenceMs: this.presenceMs, watchdogS: frame.watchdogS }, nowMs);
    this.session = session;
    this.write = (text) => line.write(text);
    this.timer ??= setInterval(() => this.tick(), TICK_MS);
    return true;
  }

  private start(frame: FrameSettings, { id, page, program, lines, expiresMs }: RunStart, nowMs: number): void {
    const session = this.requireSession();
    session.start({ id, page, lines }, expiresMs, nowMs);
    this.frame = frame;
    this.job = { id, rig: frame.rig, program, journal: new RunJournal(frame.name, program, nowMs, new Date()) };
  }

  private tick(): void {
    const nowMs = this.now();
    const { session, job } = this;
    if (!session) return;
    job?.journal.pass(nowMs, (session.state.heat ?? 0) > 0);
    session.tick(nowMs);
    this.settle();
    if (!session.busy && !session.anyPresent(LET_GO_MS, nowMs)) this.close();
  }

  /** Passes on what the log should say when it is time, and when a run has come to its end. */
  private settle(): void {
    const { session, job } = this;
    if (!session || !job || job.id !== session.state.id) return;
    const nowMs = this.now();
    if (!job.journal.due(nowMs, session.busy)) return;
    const { state } = session;
    this.note({ run: job.id, entry: job.journal.entry(state, nowMs, new Date()), stopped: stoppedRun(state), over: job.journal.over });
  }

  /** Stops what runs and lets the controller go. */
  close(): void {
    this.session?.close(this.now());
    this.settle();
    this.session = null;
    this.job = null;
    this.write = null;
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
  }
}

/** The simulated controller switches its heat off when its caller goes, and after so long of silence, s. */
const PRACTICE_WATCHDOG_S = 2;
