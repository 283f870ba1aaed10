import { RunRefusal, RunSession, stoppedRun, TICK_MS } from "@/core/motion/controller/runSession";
import type { ControllerWords } from "@/core/motion/controller/words";
import { programLines } from "@/core/motion/program/lines";
import { RunJournal } from "@/core/rigs/frame/journal";
import type { LogRow, RunCommand, RunView } from "../../../kit/api";

/** What of the browser's serial ports is used (Web Serial, a published draft); not every browser has them. */
export interface SerialPort {
  open(options: { baudRate: number }): Promise<void>;
  close(): Promise<void>;
  readable: ReadableStream<Uint8Array> | null;
  writable: WritableStream<Uint8Array> | null;
}

export interface SerialRunSettings {
  name: string;
  cutter: string | null;
  words: ControllerWords;
  watchdogS: number | null;
  /** a person who has touched nothing for longer is gone, ms */
  presenceMs: number;
  /** throws where the machine cannot follow a program */
  check: (text: string) => void;
  log: { add: (cutter: string, entry: Entry) => Promise<LogRow>; save: (cutter: string, row: LogRow, entry: Entry) => Promise<LogRow> };
  /** monotonic milliseconds */
  now: () => number;
}
type Entry = ReturnType<RunJournal["entry"]>;

/** The page is the only one on this line. */
const PAGE = "this-page";
/** A port that is being closed waits so long for what was written last, ms. */
const LAST_WORDS_MS = 500;

/** A run on a serial port of this browser: the same policy as the server's, over another line. The page itself holds the line, so when it is hidden, left or closed the wire goes cold first. */
export class SerialRun {
  private session: RunSession | null = null;
  private job: { journal: RunJournal; row: LogRow; text: string } | null = null;
  private writing: Promise<void> = Promise.resolve();
  private unlogged = false;
  private timer: ReturnType<typeof setInterval> | null = null;
  private reading: Promise<void> = Promise.resolve();
  private closing: Promise<void> | null = null;

  constructor(
    private settings: SerialRunSettings,
    private readonly changed: () => void,
  ) {}

  /** The frame was changed. Words of a controller that is connected stay until it is connected again. */
  update(settings: SerialRunSettings): void {
    this.settings = settings;
    if (this.session) this.session.watchdogS = settings.watchdogS;
  }

  get view(): RunView {
    const { session, job } = this;
    const state = session?.state;
    const stopped = state && job ? stoppedRun(state) : null;
    return {
      wired: true,
      trouble: null,
      brokenOff: null,
      stopped:
        stopped && job
          ? { run: stopped.id, program: job.journal.program, line: stopped.line, lines: stopped.lines, at: stopped.at && { ...stopped.at }, known: true }
          : null,
      run: state
        ? {
            ...state,
            at: state.at && { ...state.at },
            homed: state.homed && [...state.homed],
            rig: null,
            program: job?.journal.program ?? null,
            seconds: job?.journal.seconds(this.settings.now()) ?? 0,
            practice: false,
            unlogged: this.unlogged,
          }
        : null,
    };
  }

  /** The program that is run, or was last. */
  get text(): string | null {
    return this.job?.text ?? null;
  }

  /** Opens a port and speaks to the controller on it, until it is closed or breaks. */
  async open(port: SerialPort, baudRate: number): Promise<void> {
    await this.close();
    await port.open({ baudRate });
    const writer = port.writable?.getWriter();
    const reader = port.readable?.getReader();
    if (!writer || !reader) {
      await port.close();
      throw new Error("The port can be neither read nor written.");
    }
    const bytes = new TextEncoder();
    let last: Promise<unknown> = Promise.resolve();
    const release = async () => {
      // The word that makes the wire cold is on its way: it goes out before the port is closed.
      await Promise.race([last, new Promise((resolve) => setTimeout(resolve, LAST_WORDS_MS))]);
      await reader.cancel().catch(() => {
        // The port is gone: there is nothing left to read.
      });
      reader.releaseLock();
      writer.releaseLock();
      await port.close().catch(() => {
        // Pulled out: it is closed.
      });
    };
    const session = new RunSession(
      {
        write: (text) => {
          last = writer.write(bytes.encode(text)).catch(() => session.connectionLost("the port cannot be written"));
        },
        close: () => {
          this.closing ??= release();
        },
      },
      { words: this.settings.words, presenceMs: this.settings.presenceMs, watchdogS: this.settings.watchdogS },
      this.settings.now(),
    );
    this.closing = null;
    this.session = session;
    this.timer = setInterval(() => this.tick(), TICK_MS);
    this.reading = this.read(reader, session).then(() => this.changed());
    this.changed();
  }

  private async read(reader: ReadableStreamDefaultReader<Uint8Array>, session: RunSession): Promise<void> {
    const text = new TextDecoder();
    try {
      for (;;) {
        const { done, value } = await reader.read();
        if (done) break;
        session.receive(text.decode(value, { stream: true }), this.settings.now());
        this.settle();
      }
      session.connectionLost("the port is closed");
    } catch (error) {
      session.connectionLost(`the port cannot be read: ${(error as Error).message}`);
    }
  }

  /** Somebody is before the page, or is not. */
  pulse(present: boolean): void {
    if (this.session) this.session.pulse(this.session.state.id, PAGE, present, this.settings.now());
  }

  private tick(): void {
    const { session, job } = this;
    if (!session) return;
    const nowMs = this.settings.now();
    session.tick(nowMs);
    const { phase, heat } = session.state;
    job?.journal.pass(nowMs, (heat ?? (phase === "running" ? 1 : 0)) > 0);
    this.settle();
    this.changed();
  }

  private settle(): void {
    const { session, job } = this;
    const { cutter, log, now } = this.settings;
    if (!session || !job || !cutter || !job.journal.due(now(), session.busy)) return;
    const entry = job.journal.entry(session.state, now(), new Date());
    this.writing = this.writing.then(async () => {
      try {
        job.row = await log.save(cutter, job.row, entry);
        this.unlogged = false;
      } catch {
        // Shown on the page as long as it lasts; the next note is written in two seconds.
        this.unlogged = true;
      }
    });
  }

  /** Begins a program. @throws RunRefusal, or what the log or the check of the program says */
  async start(program: string, text: string, receivedMs = this.settings.now()): Promise<void> {
    const { session } = this;
    const { cutter, log, now, name, check } = this.settings;
    if (!session) throw new RunRefusal("busy", "Choose the controller's port first.");
    if (!cutter) throw new RunRefusal("busy", "Name the cutter that hangs in this frame: the run goes to its log.");
    check(text);
    const lines = programLines(text);
    const journal = new RunJournal(name, program, now(), new Date());
    const row = await log.add(cutter, journal.entry({ phase: "running", reason: "", line: 0, lines: lines.length }, now(), new Date()));
    session.start({ id: crypto.randomUUID(), page: PAGE, lines }, receivedMs + START_EXPIRES_MS, now());
    this.job = { journal, row, text };
    this.changed();
  }

  act(command: RunCommand): void {
    const { session } = this;
    if (!session) return;
    const nowMs = this.settings.now();
    if (command.act === "hold") session.hold(nowMs);
    else if (command.act === "stop") session.stop(nowMs);
    else if (command.act === "clear") session.clear();
    else if (command.act === "home") session.home(nowMs, nowMs);
    else if (command.act === "resume") session.resume(PAGE, command.warm_s, nowMs, nowMs);
    else if (command.act === "freed") this.job = null;
    this.settle();
    this.changed();
  }

  /** Heat off, what was done into the log, the port closed and free for others. */
  async close(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    this.session?.close(this.settings.now());
    this.settle();
    await this.closing;
    await this.reading;
    await this.writing;
    this.session = null;
    this.job = null;
  }
}

/** The log must answer within so long, ms: after that nobody is known to look at the wire. */
const START_EXPIRES_MS = 2000;
