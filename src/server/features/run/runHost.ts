import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { Worker } from "node:worker_threads";
import type { RunView } from "@/contract/run/contract";
import { COMMAND_EXPIRES_MS, stoppedRun } from "@/core/motion/controller/runSession";
import type { StoppedRun } from "@/core/motion/controller/states";
import { type FrameRig, wordsOf } from "@/core/rigs/frame/fields";
import { RunJournal } from "@/core/rigs/frame/journal";
import { machineOf } from "@/core/rigs/frame/path";
import type { Rig } from "@/core/rigs/kinds";
import { brokenOffNote, WIRE_IS_OUT } from "@/core/rigs/logged";
import type { RigDocument } from "@/core/rigs/rig";
import type { Member } from "../../kernel/access/member";
import { whoIs, workFor } from "../../kernel/access/who";
import { type Database, database } from "../../kernel/db/client";
import { ServerError } from "../../kernel/errors";
import { logFault } from "../../kernel/log";
import { threadFile } from "../../kernel/threadFile";
import { addEntry, listLogWhole, removeEntry, type StoredEntry, saveEntry } from "../log/repository";
import type { LineReply, LineRequest } from "./lineProtocol";
import { type FrameSettings, type JournalNote, type LineCommand, type LineState, monotonicMs } from "./runLine";

/** Names the controller's address: the page can name none, so it can reach nothing else. */
export const VARIABLE = "UPWIND_CONTROLLER";
/** With the page silent for so long a run is held and its heat goes off, ms; a slow computer may be given more by {@link PATIENCE}. */
const PRESENCE_MS = 3000;
/** Seconds in place of that, from 1 to 30. */
const PATIENCE = "UPWIND_PAGE_PATIENCE";
export const patienceMs = (text: string | undefined): number => {
  const seconds = Number(text);
  return text && seconds >= 1 && seconds <= 30 ? seconds * 1000 : PRESENCE_MS;
};
/** The thread of the line replies at once; one that has not within so long is taken for dead, ms. */
const REPLY_MS = 2000;
/** Longest that a page which opens waits for the thread to start, ms: a busy computer takes seconds to load its code. No command waits for this. */
const THREAD_START_MS = 20_000;
/** A log entry that could not be written is tried again after so long, ms. */
const AGAIN_MS = 2000;
/** Pages whose frame is remembered, the newest of them. */
const MOST_PAGES = 50;
/** Entries of a log among which a run that broke off is looked for. */
const RECENT_ENTRIES = 300;

export const simulatedFrameOf = ({ rig }: { rig: Rig }): FrameRig => {
  if (rig.kind !== "frame") throw new ServerError("unreadable", 422, "Only a motorised frame runs a program.");
  return rig;
};

/** What a simulated controller learns of a frame: letters, travel, fastest feed, acceleration, switches, turntable. */
function settingsOf(id: string, document: RigDocument): FrameSettings {
  const rig = simulatedFrameOf(document);
  const { axes, turn } = machineOf(rig, 1);
  const shape = `built ${axes.join("")} ${rig.wide_mm} ${rig.high_mm} ${rig.feed_mm_s} ${rig.acceleration_mm_s2} ${rig.switches} ${turn?.axis ?? ""}`.trim();
  return { rig: id, name: document.name, words: wordsOf(rig), shape, watchdogS: rig.watchdog_s };
}

/** The log entry of a run, and what is known of its program. */
interface LoggedRun {
  rig: string;
  cutter: string;
  entry: { id: string; revision: number };
  /** what a person wrote into the entry meanwhile: that stays */
  ownNote: string | null;
  /** the newest note that is not written yet */
  unwritten: JournalNote["entry"] | null;
  /** anyone who started it */
  by: Member | null;
  program: string;
  text: Uint8Array;
  /** whether it leads the wire out of the foam after another run */
  leadsToDraw: boolean;
}

/** A run that ended with the wire perhaps in the foam, with the program that it followed. */
interface Stopped extends StoppedRun {
  rig: string;
  program: string;
  /** UTF-8; null where the way out is not along it */
  text: Uint8Array | null;
}

const expired = () => new ServerError("busy", 503, "The workshop's database did not answer within 2 s, so nothing was started. Try again.");

/** Waits for a thread's first report: until then its code is being read. @throws ServerError where it ends or says nothing */
async function started(worker: Worker): Promise<void> {
  try {
    const ended = once(worker, "exit").then(([code]) => Promise.reject(new Error(`the thread of the line ended with ${code}`)));
    await Promise.race([once(worker, "message", { signal: AbortSignal.timeout(THREAD_START_MS) }), ended]);
  } catch (error) {
    logFault(error);
    await worker.terminate();
    throw new ServerError(
      "instrument",
      504,
      "The thread that watches the controller did not start. Close other programs on the workshop's computer and try again.",
    );
  }
}

/** Waits for a promise, but no longer than until a time of the monotonic clock. */
async function by<T>(endsMs: number, work: Promise<T>): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  try {
    return await Promise.race([
      work,
      new Promise<never>((_, reject) => {
        timer = setTimeout(() => reject(expired()), Math.max(0, endsMs - monotonicMs()));
      }),
    ]);
  } finally {
    clearTimeout(timer);
  }
}

/**
 * The server's side of the one controller: passes commands to the thread that holds its line, writes the log, and remembers runs that ended early. Commands that make the wire safe touch nothing but the thread.
 */
export class RunHost {
  private thread: Promise<Worker> | null = null;
  /** over once the thread has read its code: waited for by a page that opens, and by no command */
  private started: Promise<void> | null = null;
  private readonly waiting = new Map<number, { resolve: (state: LineState) => void; reject: (error: Error) => void }>();
  private seq = 0;
  private state: LineState = { trouble: null, run: null };
  private readonly pages = new Map<string, { rig: string; brokenOff: string | null }>();
  private readonly runs = new Map<string, LoggedRun>();
  private readonly stopped = new Map<string, Stopped>();
  /** runs of which somebody has said that the wire is out */
  private readonly out = new Set<string>();
  private writing: Promise<void> = Promise.resolve();
  private unlogged = false;
  private starting = false;
  private ended: (() => void) | null = null;

  constructor(
    private readonly address: string | undefined,
    private readonly database: () => Promise<Database>,
    private readonly presenceMs = PRESENCE_MS,
  ) {}

  /** What a page is shown. */
  view(page?: string): RunView {
    const { run, trouble } = this.state;
    const own = page === undefined ? undefined : this.pages.get(page);
    const stopped = own && (this.stopped.get(own.rig) ?? this.endedEarly(own.rig));
    return {
      wired: this.address !== undefined && this.address !== "",
      trouble,
      // What this process knows of the run itself comes first.
      brokenOff: own && !stopped && !(run && run.rig === own.rig && run.lines > 0) ? own.brokenOff : null,
      stopped: stopped
        ? {
            run: stopped.id,
            program: stopped.program,
            line: stopped.line,
            lines: stopped.lines,
            at: stopped.at && { ...stopped.at },
            known: stopped.text !== null,
          }
        : null,
      run: run && { ...run, homed: run.homed && [...run.homed], unlogged: this.unlogged },
    };
  }

  /** A run that ended early a moment ago: its note is on its way, and until then nobody is offered to home. */
  private endedEarly(rig: string): Stopped | null {
    const run = this.runOf(rig);
    const early = run && stoppedRun(run);
    return early && !this.out.has(early.id) ? { ...early, rig, program: run.program ?? "", text: null } : null;
  }

  /** The run of one frame, for a screen that shows that frame's run and no other. */
  runOf(rig: string): LineState["run"] {
    return this.state.run?.rig === rig ? this.state.run : null;
  }

  /** The program of a run that ended early. @throws ServerError `not-found` */
  programOf(run: string): Uint8Array {
    const found = [...this.stopped.values()].find(({ id }) => id === run);
    if (!found?.text) throw new ServerError("not-found", 404, "The program of this run is not known any more.");
    return found.text;
  }

  /** A page is opened on a frame. @throws ServerError where another frame's run is under way */
  async open(page: string, id: string, document: RigDocument, again = false): Promise<RunView> {
    const frame = settingsOf(id, document);
    this.pages.delete(page);
    this.pages.set(page, { rig: id, brokenOff: await this.brokenOff(document) });
    if (this.pages.size > MOST_PAGES) this.pages.delete(this.pages.keys().next().value as string);
    if (!this.address) return this.view(page);
    await this.worker();
    await this.started;
    await this.request({ do: "open", frame, page, again });
    return this.view(page);
  }

  /** What the log says of a frame's last run where that did not come to its end, such as one whose computer died. */
  private async brokenOff(document: RigDocument): Promise<string | null> {
    if (!document.cutter) return null;
    const { rows } = await listLogWhole(await this.database(), document.cutter.id, { limit: RECENT_ENTRIES });
    return brokenOffNote(
      rows.map(({ entry }) => entry),
      document.name,
    );
  }

  /** A page says that it is open, and whether somebody is before it. */
  pulse(run: string | null, page: string, present: boolean): RunView {
    // Sent and not waited for: what the page is shown is at most a tenth of a second old.
    if (this.state.run) this.post({ do: "pulse", run, page, present });
    return this.view(page);
  }

  /** Sends a command to the line. @throws ServerError */
  async act(command: LineCommand, page?: string): Promise<RunView> {
    if (!this.thread) throw new ServerError("instrument", 502, this.state.trouble ?? "No controller is connected to this app.");
    await this.request(command);
    return this.view(page);
  }

  /**
   * Begins a program on a frame, and its entry in the log. It begins within 2 s after it was received and checked, or not at all.
   * @param text of the program, UTF-8, checked by the caller
   * @param signal of the request: a start whose request has gone does nothing
   * @throws ServerError `instrument`, `busy`
   */
  async start(
    page: string,
    id: string,
    document: RigDocument,
    { program, text, lines, leadsToDraw }: { program: string; text: Uint8Array; lines: number; leadsToDraw: boolean },
    signal: AbortSignal,
  ): Promise<RunView> {
    const expiresMs = monotonicMs() + COMMAND_EXPIRES_MS;
    if (!document.cutter) throw new ServerError("unreadable", 422, "Name the cutter that hangs in this frame: the run goes to its log.");
    const phase = this.state.run?.phase;
    if (!this.thread || !phase) throw new ServerError("instrument", 502, this.state.trouble ?? "No controller is connected to this app.");
    if (this.starting || ["running", "holding", "held", "resuming", "fault", "homing"].includes(phase))
      throw new ServerError("instrument", 409, "The controller is at work: its run must end first.");
    const run = randomUUID();
    const journal = new RunJournal(document.name, program, monotonicMs(), new Date());
    const { id: cutter } = document.cutter;
    this.starting = true;
    try {
      // In the log before the wire is warm: regardless of what happens, it says that this was begun.
      const entry = journal.entry({ phase: "running", reason: "", line: 0, lines }, monotonicMs(), new Date());
      const adding = this.database().then((db) => addEntry(db, cutter, entry));
      const undo = (row: StoredEntry) => this.database().then((db) => removeEntry(db, cutter, row.id));
      let row: StoredEntry;
      try {
        row = await by(expiresMs, adding);
        signal.throwIfAborted();
      } catch (error) {
        // Added too late: nothing was begun, so the log must not say that it was.
        adding.then(undo).catch((late) => logFault(late, { withPlace: false }));
        throw error;
      }
      this.runs.set(run, {
        rig: id,
        cutter,
        entry: { id: row.id, revision: row.revision },
        ownNote: null,
        unwritten: null,
        by: whoIs(),
        program,
        text,
        leadsToDraw,
      });
      // The bytes are copied: the program stays here too, for the way out after a stop.
      const bytes = text.slice();
      try {
        await this.request({ do: "start", frame: settingsOf(id, document), start: { id: run, page, program, lines: [], expiresMs } }, bytes);
      } catch (error) {
        this.runs.delete(run);
        await undo(row).catch((late) => logFault(late, { withPlace: false }));
        throw error;
      }
      // It dies with its request: anyone who asked for it has gone, and nobody is known to look at the wire.
      if (signal.aborted) this.post({ do: "stop", run });
      this.unlogged = false;
      if (!leadsToDraw) this.stopped.delete(id);
      return this.view(page);
    } finally {
      this.starting = false;
    }
  }

  /** Somebody says that the wire is out of the foam: the offer to lead it out goes, and the log says so. */
  async freed(page: string, rig: string, document: RigDocument): Promise<RunView> {
    for (const id of [this.stopped.get(rig)?.id, this.runOf(rig)?.id]) if (id) this.out.add(id);
    this.stopped.delete(rig);
    const own = this.pages.get(page);
    if (own) own.brokenOff = null;
    await this.writing;
    if (document.cutter) {
      const db = await this.database();
      const { rows } = await listLogWhole(db, document.cutter.id, { limit: RECENT_ENTRIES });
      const row = rows.find(({ entry }) => brokenOffNote([entry], document.name) !== null);
      if (row && row.entry.kind === "rig-cut")
        await saveEntry(db, document.cutter.id, row.id, row.revision, {
          ...row.entry,
          note: `${row.entry.note.slice(0, 500 - WIRE_IS_OUT.length)}${WIRE_IS_OUT}`,
        });
    }
    return this.view(page);
  }

  private async worker(): Promise<Worker> {
    if (!this.thread) {
      const starting = this.startThread();
      this.thread = starting;
      // One that cannot begin is tried again at the next open.
      starting.catch(() => {
        if (this.thread === starting) this.thread = null;
      });
    }
    return this.thread as Promise<Worker>;
  }

  private async startThread(): Promise<Worker> {
    const worker = new Worker(await threadFile("run"), { workerData: { address: this.address, presenceMs: this.presenceMs } });
    this.started = started(worker);
    // Said in the server's output already; a page that opens hears of it too.
    this.started.catch(() => undefined);
    worker.on("message", (reply: LineReply) => this.receive(reply));
    const over = (error?: unknown) => {
      if (error) logFault(error);
      this.thread = null;
      this.state = { trouble: "The thread that watches the controller ended: its line is closed. Check that the wire is cold.", run: null };
      for (const { reject } of this.waiting.values()) reject(new ServerError("instrument", 502, this.state.trouble ?? ""));
      this.waiting.clear();
    };
    worker.on("error", over);
    worker.on("exit", () => {
      if (this.ended) this.ended();
      else if (this.thread) over();
    });
    return worker;
  }

  private receive(reply: LineReply): void {
    if (reply.kind === "closed") {
      this.ended?.();
      return;
    }
    if (reply.kind === "note") {
      this.log(reply.note);
      return;
    }
    this.state = reply.state;
    if (reply.kind === "state") return;
    const requested = this.waiting.get(reply.seq);
    this.waiting.delete(reply.seq);
    if (reply.kind === "reply") requested?.resolve(reply.state);
    else requested?.reject(new ServerError(reply.code === "expired" ? "expired" : "instrument", reply.code === "expired" ? 503 : 409, reply.message));
  }

  /** Sends a command without waiting for its reply. */
  private post(command: LineCommand): void {
    this.request(command).catch((error) => logFault(error, { withPlace: false }));
  }

  private async request(command: LineCommand, text?: Uint8Array<ArrayBuffer>): Promise<LineState> {
    const worker = await this.worker();
    this.seq += 1;
    const { seq } = this;
    return new Promise<LineState>((resolve, reject) => {
      const timer = setTimeout(() => {
        this.waiting.delete(seq);
        reject(new ServerError("instrument", 504, "The thread that watches the controller did not reply. If the wire is hot, pull its plug."));
      }, REPLY_MS);
      this.waiting.set(seq, {
        resolve: (state) => {
          clearTimeout(timer);
          resolve(state);
        },
        reject: (error) => {
          clearTimeout(timer);
          reject(error);
        },
      });
      const request: LineRequest = { seq, command, ...(text ? { text } : {}) };
      worker.postMessage(request, text ? [text.buffer] : []);
    });
  }

  /** What the line's thread says of a run goes into the log, one write after the other, and is remembered where the wire may be in the foam. */
  private log({ run, entry, stopped, over }: JournalNote): void {
    const logged = this.runs.get(run);
    if (!logged) return;
    logged.unwritten = entry;
    if (stopped && over) {
      const { rig, program, text, leadsToDraw } = logged;
      // A way out that was stopped half-way leads back in: from there on it is brought out by hand.
      this.stopped.set(rig, { ...stopped, rig, program, text: leadsToDraw ? null : text });
    } else if (over && (logged.leadsToDraw || this.stopped.get(logged.rig)?.id === run)) this.stopped.delete(logged.rig);
    this.writing = this.writing.then(() => workFor(logged.by, () => this.write(run, logged, over)));
  }

  private async write(run: string, logged: LoggedRun, over: boolean): Promise<void> {
    const entry = logged.unwritten;
    if (!entry) return;
    logged.unwritten = null;
    try {
      const db = await this.database();
      const words = () => (logged.ownNote === null ? entry : { ...entry, note: logged.ownNote });
      try {
        logged.entry.revision = (await saveEntry(db, logged.cutter, logged.entry.id, logged.entry.revision, words())).revision;
      } catch (error) {
        if (!(error instanceof ServerError) || error.code !== "stale-revision") throw error;
        const { current } = error.extra as { current: StoredEntry };
        logged.ownNote = current.entry.note;
        logged.entry.revision = (await saveEntry(db, logged.cutter, logged.entry.id, current.revision, words())).revision;
      }
      this.unlogged = false;
      if (over) this.runs.delete(run);
    } catch (error) {
      logFault(error);
      this.unlogged = true;
      logged.unwritten ??= entry;
      setTimeout(() => {
        if (!logged.unwritten) return;
        this.writing = this.writing.then(() => workFor(logged.by, () => this.write(run, logged, over)));
      }, AGAIN_MS).unref();
    }
  }

  /** Everything that is to be written is written. */
  async written(): Promise<void> {
    await this.writing;
  }

  /** Stops what runs, closes the line and ends its thread. Takes at most so long, ms. */
  async close(limitMs = REPLY_MS): Promise<void> {
    if (!this.thread) return;
    const worker = await this.thread;
    const closed = new Promise<void>((resolve) => {
      this.ended = resolve;
      setTimeout(resolve, limitMs);
    });
    worker.postMessage({ seq: 0, command: { do: "close" } } satisfies LineRequest);
    await closed;
    this.thread = null;
    await worker.terminate();
    this.ended = null;
    this.state = { trouble: null, run: null };
  }
}

// Route bundles each get their own copy of this module; the process has one controller.
const shared = globalThis as typeof globalThis & { upwindRun?: RunHost };

export function runHost(): RunHost {
  shared.upwindRun ??= new RunHost(process.env[VARIABLE], database, patienceMs(process.env[PATIENCE]));
  return shared.upwindRun;
}

/** When the process ends: heat off first, then what was done into the log. */
export async function endRun(): Promise<void> {
  const host = shared.upwindRun;
  if (!host) return;
  await host.close();
  await host.written();
}
