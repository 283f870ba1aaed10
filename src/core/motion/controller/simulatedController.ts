import type { Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { Interpreter, type ProgramStep } from "../program/interpreter";
import type { Machine } from "../program/machine";

/** What can be made to go wrong with the simulated controller. */
export const CONTROLLER_FAULTS = ["limit", "steps", "noise", "silent", "disconnect"] as const;
export type ControllerFault = (typeof CONTROLLER_FAULTS)[number];

export interface SimulatedFrame {
  axes: readonly string[];
  turn: Machine["turn"];
  /** of the along axes and of the up axes */
  travelMm: readonly (readonly [number, number])[];
  /** of moves whose feed is the machine's own */
  rapidMmS: number;
  accelerationMmS2: number;
  switches: "closed" | "open";
  /** moves and waits it holds ahead of the one being made: a line is acknowledged once it is among them */
  buffer: number;
  /** with nothing heard for so long it stops and takes the heat off, s */
  watchdogS: number;
  /** its time runs so many times as fast as the clock: for practice */
  speed: number;
}

export const SIMULATED_FRAME: SimulatedFrame = {
  axes: ["X", "Y"],
  turn: null,
  travelMm: [
    [0, 450],
    [0, 450],
  ],
  rapidMmS: 40,
  accelerationMmS2: 50,
  switches: "closed",
  buffer: 32,
  watchdogS: 2,
  speed: 1,
};

export type ControllerState = "idle" | "running" | "warming" | "holding" | "held" | "homing" | "fault";

/** Lines that wait for room in the buffer; more is a sender that does not listen. */
const MOST_WAITING = 4096;
/** Longest line that is listened to. */
export const LONGEST_SAID = 300;
/** Run dry for so long with the heat on, it goes off: a hot wire at rest burns a hole. */
const STARVED_S = 1;
/** Noise on a lead is met about this often, s. */
const NOISE_EVERY_S = 3;
/** A turntable's turn takes it so long, s. */
const TABLE_S = 1;
/** What is lost when steps are lost, mm. */
const LOST_MM = 1.5;

type Queued = (ProgramStep & { line: number }) | { kind: "end"; line: number };

/**
 * A motion controller that is none: takes numbered lines of a program, follows them in time, holds, stops, homes and reports, and takes the heat off on its own.
 * Lines it understands and lines it says are in docs/controller.md. Time passes only when the caller advances it.
 */
export class SimulatedController {
  readonly faults = new Set<ControllerFault>();
  state: ControllerState = "idle";
  /** why it is in a fault */
  reason = "";
  homed = false;
  /** S at the wire; 0 while it is off */
  heat = 0;
  /** where its motors believe they are, and what lost steps have put them off by */
  private at: { near: Point; far: Point } = { near: [0, 0], far: [0, 0] };
  private off: Point = [0, 0];
  private follows: Interpreter;
  private readonly queue: Queued[] = [];
  private readonly waiting: { number: number; words: string }[] = [];
  private doing: { step: ProgramStep & { line: number }; from: { near: Point; far: Point }; doneS: number; wholeS: number } | null = null;
  private line = 0;
  private rate = 0;
  private warmS = 0;
  private warmHeat = 0;
  private homeS = 0;
  private quietS = 0;
  private starvedS = 0;
  private noiseS = 0;
  private readonly said: string[] = [];
  /** Set where the lead is pulled out: anyone who holds the connection cuts it. */
  hangUp = false;

  constructor(public settings: SimulatedFrame) {
    this.follows = this.fresh();
  }

  /** What it says to anyone who connects. */
  get greeting(): string {
    return `simulated controller, ${this.settings.axes.join(" ")}, switches normally ${this.settings.switches}`;
  }

  /** Takes the shape of a frame, as no real one can: letters, travel along and up, fastest feed, acceleration, switches, and the turntable's letter. */
  private built(words: readonly string[]): string {
    const [letters = "", ...figures] = words;
    const [wide, high, rapidMmS, accelerationMmS2] = figures.slice(0, 4).map(Number);
    const switches = figures[4] ?? "closed";
    const turn = figures[5]?.toUpperCase();
    const axes = [...letters.toUpperCase()];
    if (this.state !== "idle") return "refused: it is at work";
    if (
      !/^[A-CU-Z]{2}([A-CU-Z]{2})?$/.test(axes.join("")) ||
      ![wide, high, rapidMmS, accelerationMmS2].every((value) => value !== undefined && value > 0 && value < 1e5) ||
      (switches !== "open" && switches !== "closed") ||
      (turn !== undefined && !/^[A-CU-Z]$/.test(turn))
    )
      return "refused: say built, letters, travel along and up, fastest feed, acceleration, open or closed, and a turntable's letter";
    const settings: SimulatedFrame = {
      ...this.settings,
      axes,
      turn: turn === undefined ? null : { axis: turn, deg: 0, passes: 1 },
      travelMm: [
        [0, wide as number],
        [0, high as number],
      ],
      rapidMmS: rapidMmS as number,
      accelerationMmS2: accelerationMmS2 as number,
      switches,
    };
    // Another frame is not homed; the same one still is.
    if (axes.join() !== this.settings.axes.join()) {
      this.homed = false;
      this.at = { near: [0, 0], far: [0, 0] };
    }
    this.settings = settings;
    this.follows = this.fresh();
    return this.greeting;
  }

  private fresh(): Interpreter {
    const { axes, turn } = this.settings;
    const { near, far } = this.at;
    return new Interpreter({ axes, turn }, Object.fromEntries([...near, ...far].slice(0, axes.length).map((value, i) => [axes[i] as string, value])));
  }

  /** Where the near carriage really is: off by the steps that were lost. */
  get really(): Point {
    return [this.at.near[0] + this.off[0], this.at.near[1] + this.off[1]];
  }

  /** What it has said since it was last asked. */
  heard(): string[] {
    if (this.faults.has("silent")) {
      this.said.length = 0;
      return [];
    }
    return this.said.splice(0);
  }

  setFault(fault: ControllerFault, on: boolean): void {
    if (on) this.faults.add(fault);
    else this.faults.delete(fault);
    if (fault === "disconnect" && on) {
      this.faults.delete("disconnect");
      this.hangUp = true;
    }
  }

  /** Anyone who spoke to it is gone. */
  linkDown(): void {
    if (this.state === "idle" || this.state === "fault") this.heat = 0;
    else this.fail("the link is lost");
  }

  private fail(reason: string): void {
    this.state = "fault";
    this.reason = reason;
    this.heat = 0;
    this.rate = 0;
    this.said.push(`fault ${reason}`);
    for (const { number } of this.waiting.splice(0)) this.said.push(`refused ${number}: fault, ${reason}`);
  }

  /** Hears a line. What it answers is among what {@link heard} gives. */
  hear(raw: string): void {
    this.quietS = 0;
    const text = raw.trim();
    if (text.length > LONGEST_SAID) {
      this.said.push(`refused: a line has at most ${LONGEST_SAID} characters`);
      return;
    }
    const program = /^[Nn](\d{1,9})\s*(.*)$/.exec(text);
    if (program) {
      this.program(Number(program[1]), program[2] as string);
      return;
    }
    const [word, ...more] = text.toLowerCase().split(/\s+/);
    const say = (line: string): void => {
      this.said.push(line);
    };
    switch (word) {
      case "":
      case "alive":
        if (word) say("alive");
        return;
      case "built":
        say(this.built(more));
        return;
      case "speed": {
        const times = Number(more[0]);
        if (!(times >= 1 && times <= 100_000)) {
          say("refused: speed must be a number from 1 to 100000");
          return;
        }
        this.settings = { ...this.settings, speed: times };
        say(`speed ${times}`);
        return;
      }
      case "where":
        say(this.report());
        return;
      case "hold":
        if (this.state !== "running" && this.state !== "warming") {
          say("refused: nothing is moving");
          return;
        }
        this.state = this.state === "warming" ? "held" : "holding";
        this.heat = 0;
        say(this.state);
        return;
      case "resume": {
        // Between two lines of a program it may have run out: it warms up and waits for the next.
        if (this.state !== "held" && this.state !== "idle") {
          say(`refused: ${this.state === "fault" ? `fault, ${this.reason}: clear it first` : "it is not held"}`);
          return;
        }
        this.warmS = Math.min(600, Math.max(0, Number(more[0] ?? 0) || 0));
        this.warmHeat = this.nextHeat();
        this.state = "warming";
        say("resuming");
        return;
      }
      case "stop":
        this.heat = 0;
        // Where it was stopped, and at which line: the way out begins there.
        if (this.doing) say(this.report());
        this.queue.length = 0;
        for (const { number } of this.waiting.splice(0)) say(`refused ${number}: stopped`);
        this.doing = null;
        this.rate = 0;
        if (this.state !== "fault") this.state = "idle";
        this.follows = this.fresh();
        this.line = 0;
        say("stopped");
        return;
      case "home":
        if (this.state !== "idle") {
          say(`refused: ${this.state === "fault" ? `fault, ${this.reason}: clear it first` : "it is at work"}`);
          return;
        }
        this.heat = 0;
        this.state = "homing";
        // Up first, then along: one after the other.
        this.homeS = (Math.abs(this.really[1]) + Math.abs(this.really[0])) / this.settings.rapidMmS + 1;
        say("homing");
        return;
      case "clear":
        if (this.state !== "fault") {
          say("refused: there is no fault");
          return;
        }
        if (this.faults.has("limit")) {
          say("refused: the switch is still pressed");
          return;
        }
        this.state = this.doing || this.queue.length > 0 ? "held" : "idle";
        this.reason = "";
        say("cleared");
        return;
      case "misbehave": {
        const [fault, on] = more;
        if (!(CONTROLLER_FAULTS as readonly string[]).includes(fault ?? "")) {
          say(`refused: it knows ${CONTROLLER_FAULTS.join(", ")}`);
          return;
        }
        say(`misbehaves ${fault} ${on === "off" ? "off" : "on"}`);
        this.setFault(fault as ControllerFault, on !== "off");
        return;
      }
      default:
        say(`refused: "${text.slice(0, 20)}" is not understood`);
    }
  }

  private nextHeat(): number {
    const next = this.doing?.step ?? this.queue[0];
    if (!next) return this.follows.heat;
    return next.kind === "end" ? 0 : next.heat;
  }

  private report(): string {
    const { axes } = this.settings;
    const places = [...this.at.near, ...this.at.far].slice(0, axes.length).map((value, i) => `${axes[i]}${value.toFixed(3)}`);
    return `at ${places.join(" ")} line ${this.line} state ${this.state} heat ${Math.round(this.heat)} room ${Math.max(0, this.settings.buffer - this.queue.length)}`;
  }

  private program(number: number, words: string): void {
    const refuse = (why: string): void => {
      this.said.push(`refused ${number}: ${why}`);
    };
    if (this.state === "fault") {
      refuse(`fault, ${this.reason}`);
      return;
    }
    if (this.state === "homing") {
      refuse("it is homing");
      return;
    }
    if (!this.homed) {
      refuse("it is not homed: home it first");
      return;
    }
    if (this.waiting.length >= MOST_WAITING) {
      refuse("it cannot keep up: wait for what is taken");
      return;
    }
    this.waiting.push({ number, words });
    this.takeIn();
  }

  /** Lines into the buffer while it has room: each is acknowledged as it goes in. */
  private takeIn(): void {
    while (this.queue.length < this.settings.buffer) {
      const next = this.waiting.shift();
      if (!next) return;
      try {
        const { steps, turnDeg } = this.follows.take(next.words, next.number);
        if (turnDeg !== null) steps.unshift({ kind: "wait", near: this.follows.here(0), far: this.follows.here(2), seconds: TABLE_S, heat: this.follows.heat });
        for (const step of steps) this.requireTravel(step);
        this.queue.push(...steps.map((step) => ({ ...step, line: next.number })));
        if (this.follows.ended) {
          this.queue.push({ kind: "end", line: next.number });
          this.follows = new Interpreter({ axes: this.settings.axes, turn: this.settings.turn }, this.placeOf(this.follows));
        }
        this.said.push(`taken ${next.number}`);
        if (this.state === "idle" && this.queue.length > 0) this.state = "running";
      } catch (error) {
        if (!(error instanceof CoreError)) throw error;
        this.said.push(`refused ${next.number}: ${error.message}`);
        for (const { number } of this.waiting.splice(0)) this.said.push(`refused ${number}: after a line that was refused`);
        // What is in the buffer is finished up to the fault, and no farther: the heat does not stay on for lines that never come.
        this.queue.push({ kind: "end", line: next.number });
        this.follows = this.fresh();
        return;
      }
    }
  }

  private placeOf(follows: Interpreter): Record<string, number> {
    const { axes } = this.settings;
    return Object.fromEntries([...follows.here(0), ...follows.here(2)].slice(0, axes.length).map((value, i) => [axes[i] as string, value]));
  }

  private requireTravel({ near, far }: ProgramStep): void {
    const { axes, travelMm } = this.settings;
    for (const [i, value] of [...near, ...far].slice(0, axes.length).entries()) {
      const [least, most] = travelMm[i % 2] ?? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
      if (value < least - 1e-6 || value > most + 1e-6)
        throw new CoreError("out-of-range", "", `${axes[i]}${value.toFixed(3)} is outside its travel, ${least} to ${most}`);
    }
  }

  /** Lets time pass. @param clockS by the clock on the wall */
  tick(clockS: number): void {
    this.quietS += clockS;
    const live = this.state === "running" || this.state === "warming" || this.state === "holding";
    if (live && this.quietS > this.settings.watchdogS) {
      this.fail(`nothing was heard for ${this.settings.watchdogS} s`);
      return;
    }
    let left = clockS * this.settings.speed;
    if (this.state === "homing") {
      this.homeS -= left;
      if (this.homeS <= 0) {
        const found = this.off;
        this.at = { near: [0, 0], far: [0, 0] };
        this.off = [0, 0];
        this.homed = true;
        this.state = "idle";
        this.follows = this.fresh();
        this.said.push(`homed ${this.settings.axes[0]}${(found[0] + 0).toFixed(2)} ${this.settings.axes[1]}${(found[1] + 0).toFixed(2)}`);
      }
      return;
    }
    if (live && this.faults.has("limit")) {
      this.fail(`limit ${this.settings.axes[0]}`);
      return;
    }
    if (live && this.faults.has("noise")) {
      this.noiseS += left;
      if (this.noiseS > NOISE_EVERY_S) {
        this.noiseS = 0;
        // A normally closed loop carries current: a spark does not open it.
        if (this.settings.switches === "open") {
          this.fail(`limit ${this.settings.axes[1]}`);
          return;
        }
      }
    }
    if (this.state === "warming") {
      this.heat = this.warmHeat;
      this.warmS -= left;
      if (this.warmS > 0) return;
      left = -this.warmS;
      this.state = "running";
    }
    while (left > 0 && (this.state === "running" || this.state === "holding")) left = this.work(left);
    this.takeIn();
  }

  /** Does what it is at for some seconds. @returns what is left of them */
  private work(seconds: number): number {
    if (!this.doing) {
      if (this.state === "holding") {
        this.held();
        return 0;
      }
      this.takeIn();
      const next = this.queue.shift();
      if (!next) {
        this.rate = 0;
        this.starvedS += seconds;
        if (this.heat === 0) this.state = "idle";
        else if (this.starvedS > STARVED_S * this.settings.speed) this.fail("no line came while the wire was hot");
        return 0;
      }
      this.starvedS = 0;
      this.line = next.line;
      if (next.kind === "end") {
        this.heat = 0;
        this.rate = 0;
        this.state = this.queue.length > 0 ? "running" : "idle";
        this.said.push(this.report(), "done");
        this.line = 0;
        return seconds;
      }
      const far = Math.hypot(next.far[0] - this.at.far[0], next.far[1] - this.at.far[1]);
      const near = Math.hypot(next.near[0] - this.at.near[0], next.near[1] - this.at.near[1]);
      this.doing = {
        step: next,
        from: this.at,
        doneS: 0,
        wholeS: next.kind === "rapid" ? Math.max(near, far) / this.settings.rapidMmS : next.seconds,
      };
      if (this.faults.has("steps") && near > 1) {
        this.faults.delete("steps");
        this.off = [this.off[0] - LOST_MM, this.off[1]];
      }
    }
    const { step, from, wholeS } = this.doing;
    this.heat = this.state === "holding" ? 0 : step.heat;
    const mmS = wholeS > 0 ? Math.hypot(step.near[0] - from.near[0], step.near[1] - from.near[1]) / wholeS : 0;
    // A wait has no speed to gain or to lose.
    const slope = mmS > 1e-9 ? this.settings.accelerationMmS2 / mmS : Number.POSITIVE_INFINITY;
    const wanted = this.state === "holding" ? 0 : 1;
    const slice = Math.min(seconds, this.rate === wanted ? seconds : Math.max(1e-4, Math.abs(wanted - this.rate) / slope));
    const before = this.rate;
    this.rate = this.rate < wanted ? Math.min(wanted, this.rate + slope * slice) : Math.max(wanted, this.rate - slope * slice);
    const gained = ((before + this.rate) / 2) * slice;
    const needs = wholeS - this.doing.doneS;
    const used = gained >= needs && gained > 0 ? slice * (needs / gained) : slice;
    this.doing.doneS += Math.min(gained, needs);
    const share = wholeS > 0 ? Math.min(1, this.doing.doneS / wholeS) : 1;
    const between = (a: Point, b: Point): Point => [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
    this.at = { near: between(from.near, step.near), far: between(from.far, step.far) };
    if (share >= 1) this.doing = null;
    if (this.state === "holding" && this.rate === 0) {
      this.held();
      return 0;
    }
    return Math.max(0, seconds - used);
  }

  private held(): void {
    // What is left of the move under way is begun again from here.
    if (this.doing) {
      const left = this.doing.wholeS - this.doing.doneS;
      this.queue.unshift({ ...this.doing.step, seconds: left, kind: this.doing.step.kind });
      this.doing = null;
    }
    this.rate = 0;
    this.heat = 0;
    this.state = "held";
    this.said.push("held");
  }
}
