import type { RunTold } from "@/contract/run/contract";
import { programLines } from "@/core/motion/lines";
import { readProgram } from "@/core/motion/reader";
import { ASK_EVERY_MS, Sender } from "@/core/motion/sender";
import type { ControllerFault } from "@/core/motion/standIn";
import { type FrameRig, wordsOf } from "@/core/rigs/frame/fields";
import { RunJournal } from "@/core/rigs/frame/journal";
import { machineOf } from "@/core/rigs/frame/path";
import type { Rig } from "@/core/rigs/kinds";
import type { RigDocument } from "@/core/rigs/rig";
import type { Member } from "../../kernel/access/member";
import { whoIs, workFor } from "../../kernel/access/who";
import { type Database, database } from "../../kernel/db/client";
import { ServerError } from "../../kernel/errors";
import { logFault } from "../../kernel/log";
import { readAddress } from "../instruments/lineClient";
import { addEntry, listLog, saveEntry } from "../log/repository";
import { controllerLink } from "./controllerLink";

/** Names the controller's address: the page can name none, so it can reach nothing else. */
export const VARIABLE = "UPWIND_CONTROLLER";
/** With the page silent for so long a run is held and its heat goes off, ms; a slow computer may be given more by {@link PATIENCE}. */
const PAGE_MS = 3000;
/** Seconds in place of that, from 1 to 30. */
const PATIENCE = "UPWIND_PAGE_PATIENCE";
export const patienceMs = (said: string | undefined): number => {
  const seconds = Number(said);
  return said && seconds >= 1 && seconds <= 30 ? seconds * 1000 : PAGE_MS;
};
/** With no page and no run the controller is let go of after so long, ms. */
const LET_GO_MS = 15_000;
const TICK_MS = ASK_EVERY_MS / 5;

interface Job {
  rig: string;
  name: string;
  cutter: string;
  journal: RunJournal;
  entry: { id: string; revision: number };
  /** what a person wrote into its entry meanwhile: that stays */
  theirs: string | null;
  /** its entry as it last stood: another link knows nothing of it */
  own: ReturnType<RunJournal["entry"]>;
  /** whoever began it */
  by: Member | null;
}

const frameOf = ({ rig }: { rig: Rig }): FrameRig => {
  if (rig.kind !== "frame") throw new ServerError("unreadable", 422, "Only a motorised frame runs a program.");
  return rig;
};

/** The one controller of this house: whoever stands before it, the run it is at, and what of that is in the log. */
export class RunDesk {
  private sender: Sender | null = null;
  private trouble: string | null = null;
  private practice = false;
  private job: Job | null = null;
  private pulseMs = 0;
  private unwatched = false;
  private unlogged = false;
  private keeping: Promise<void> = Promise.resolve();
  private timer: NodeJS.Timeout | null = null;
  /** between the word to begin and the first line: nobody else begins then */
  private beginning = false;

  constructor(
    private readonly address: string | undefined,
    private readonly database: () => Promise<Database>,
    private readonly now: () => number = () => Date.now(),
    private readonly pageMs = PAGE_MS,
  ) {}

  /** What the page is told. */
  get told(): RunTold {
    const { sender, job } = this;
    return {
      wired: this.address !== undefined && this.address !== "",
      trouble: this.trouble,
      // What this link was at is known from itself.
      cutOff: sender && sender.told.lines > 0 ? null : this.cutOff,
      run: sender && {
        ...sender.told,
        rig: job?.rig ?? null,
        program: job?.journal.program ?? null,
        seconds: job?.journal.seconds(this.now()) ?? 0,
        practice: this.practice,
        unwatched: this.unwatched,
        unlogged: this.unlogged,
      },
    };
  }

  private cutOff: string | null = null;

  /** Someone stands before a frame. @throws ServerError where another frame's run is under way */
  open(id: string, document: RigDocument, cutOff: string | null = null, again = false): RunTold {
    const rig = frameOf(document);
    this.cutOff = cutOff;
    if (this.sender?.busy && this.job?.rig !== id)
      throw new ServerError("instrument", 409, `${this.job?.name} is at work on this controller: its run must end first.`);
    this.pulseMs = this.now();
    // A run that broke off stays on show until the person has seen to the wire.
    const { phase, lines } = this.sender?.told ?? { phase: "ready", lines: 0 };
    if (phase === "lost" && lines > 0 && !again) return this.told;
    if (!this.reach(rig) || !this.sender || this.sender.busy) return this.told;
    this.greet(rig);
    return this.told;
  }

  private shape = "";
  /** A stand-in takes the frame's shape: said when it greets, and when the frame is another. */
  private greet(rig: FrameRig): void {
    const { axes, turn } = machineOf(rig, 1);
    this.shape = `built ${axes.join("")} ${rig.wide_mm} ${rig.high_mm} ${rig.feed_mm_s} ${rig.acceleration_mm_s2} ${rig.switches} ${turn?.axis ?? ""}`.trim();
    if (this.practice) this.write?.(`${this.shape}\n`);
  }
  private write: ((text: string) => void) | null = null;

  /** A connection, if there is none. @returns false where there can be none */
  private reach(rig: FrameRig): boolean {
    if (!this.address) return false;
    const address = readAddress(this.address);
    if (!address) {
      this.trouble = `${VARIABLE} must be an address such as 127.0.0.1:5030.`;
      return false;
    }
    if (this.sender && this.sender.told.phase !== "lost") return true;
    this.trouble = null;
    this.practice = false;
    let greeted = "";
    const link = controllerLink(
      address,
      (text) => {
        if (this.sender !== sender) return;
        if (greeted.length < 200) {
          greeted += text;
          if (!this.practice && /^stand-in controller/m.test(greeted)) {
            this.practice = true;
            this.write?.(`${this.shape}\n`);
          }
        }
        sender.heard(text, this.now());
        this.settle();
      },
      (why) => {
        sender.lost(why);
        if (this.sender === sender) this.trouble = `${why[0]?.toUpperCase()}${why.slice(1)}.`;
        this.settle();
      },
    );
    const sender = new Sender(link, wordsOf(rig), this.now());
    this.sender = sender;
    this.write = (text) => link.write(text);
    this.timer ??= setInterval(() => this.tick(), TICK_MS);
    return true;
  }

  /** The page, and the person before it, are there; or the page is and the person is not. */
  pulse(present: boolean): RunTold {
    if (present) this.pulseMs = this.now();
    return this.told;
  }

  /**
   * Begins a program on a frame, and its entry in the log.
   * @throws ServerError where there is no controller or it is at work; CoreError with line and reason for a program that cannot be followed
   */
  async start(id: string, document: RigDocument, program: string, text: string): Promise<RunTold> {
    const rig = frameOf(document);
    if (!this.reach(rig) || !this.sender) throw new ServerError("instrument", 502, this.trouble ?? "No controller is wired to this app.");
    if (this.beginning || this.sender.busy || this.sender.told.phase === "homing")
      throw new ServerError("instrument", 409, "The controller is at work: its run must end first.");
    if (!document.cutter) throw new ServerError("unreadable", 422, "Name the cutter that hangs in this frame: the run goes to its log.");
    readProgram(text, machineOf(rig, Math.max(1, rig.apart_mm - rig.toBlock_mm)));
    const lines = programLines(text);
    const journal = new RunJournal(document.name, program, this.now());
    const { id: cutter } = document.cutter;
    this.beginning = true;
    try {
      // In the log before the wire is warm: whatever comes, it says that this was begun.
      const begun = journal.entry({ phase: "running", reason: "", line: 0, lines: lines.length }, this.now());
      const { id: entry, revision } = await addEntry(await this.database(), cutter, begun);
      await this.keeping;
      this.job = { rig: id, name: document.name, cutter, journal, entry: { id: entry, revision }, theirs: null, own: begun, by: whoIs() };
    } finally {
      this.beginning = false;
    }
    this.unwatched = false;
    this.unlogged = false;
    this.pulseMs = this.now();
    // Should the link have gone meanwhile, it is told as it stands: nothing was begun.
    this.sender?.start(lines, this.now());
    this.settle();
    return this.told;
  }

  act(deed: { act: "hold" | "stop" | "home" | "clear" } | { act: "resume"; warm_s: number }): RunTold {
    const sender = this.sender;
    if (!sender) throw new ServerError("instrument", 502, this.trouble ?? "No controller is wired to this app.");
    if (deed.act === "resume") {
      this.unwatched = false;
      this.pulseMs = this.now();
      sender.resume(deed.warm_s);
    } else sender[deed.act]();
    this.settle();
    return this.told;
  }

  /** Makes a stand-in misbehave, or hurry. @throws ServerError for a real controller */
  tease(deed: { fault: ControllerFault; on: boolean } | { times: number }): RunTold {
    if (!this.practice) throw new ServerError("instrument", 409, "Only the stand-in can be made to misbehave.");
    this.write?.("times" in deed ? `speed ${deed.times}\n` : `misbehave ${deed.fault} ${deed.on ? "on" : "off"}\n`);
    return this.told;
  }

  private tick(): void {
    const nowMs = this.now();
    const { sender, job } = this;
    if (!sender) return;
    job?.journal.pass(nowMs, (sender.told.heat ?? 0) > 0);
    sender.tick(nowMs);
    const quiet = nowMs - this.pulseMs;
    const { phase } = sender.told;
    if (quiet > this.pageMs && (phase === "running" || phase === "resuming")) {
      this.unwatched = true;
      sender.hold();
    }
    this.settle();
    if (!sender.busy && !this.beginning && quiet > LET_GO_MS) this.close();
  }

  /** What was done goes to the log when it is time, and when a run has come to its end: one write after the other. */
  private settle(): void {
    const { sender, job } = this;
    if (!sender || !job || this.beginning) return;
    const { entry, journal } = job;
    const { over } = journal;
    if (!journal.due(this.now(), sender.busy, this.unlogged)) return;
    const told = journal.entry(sender.told, this.now());
    if (!over) job.own = told;
    const { own } = job;
    const write = async () => {
      try {
        const db = await this.database();
        const words = () => (job.theirs === null ? own : { ...own, note: job.theirs });
        try {
          entry.revision = (await saveEntry(db, job.cutter, entry.id, entry.revision, words())).revision;
        } catch (error) {
          if (!(error instanceof ServerError) || error.code !== "stale-revision") throw error;
          const standing = (await listLog(db, job.cutter)).find(({ id }) => id === entry.id);
          if (!standing) throw error;
          job.theirs = standing.entry.note;
          entry.revision = (await saveEntry(db, job.cutter, entry.id, standing.revision, words())).revision;
        }
        this.unlogged = false;
      } catch (error) {
        this.unlogged = true;
        logFault(error);
      }
    };
    this.keeping = this.keeping.then(() => workFor(job.by, write));
  }

  /** Everything that is to be written is. */
  async kept(): Promise<void> {
    await this.keeping;
  }

  /** Stops what runs and lets the controller go. */
  close(): void {
    this.sender?.stop();
    this.settle();
    this.sender?.lost("the app let it go");
    this.sender = null;
    this.write = null;
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
  }
}

// Route bundles each get their own copy of this module; the process has one controller.
const shared = globalThis as typeof globalThis & { upwindRun?: RunDesk };

export function runDesk(): RunDesk {
  shared.upwindRun ??= new RunDesk(process.env[VARIABLE], database, undefined, patienceMs(process.env[PATIENCE]));
  return shared.upwindRun;
}

/** On the way out: heat off, and what was done into the log. */
export async function endRun(): Promise<void> {
  const desk = shared.upwindRun;
  if (!desk) return;
  desk.close();
  await desk.kept();
}
