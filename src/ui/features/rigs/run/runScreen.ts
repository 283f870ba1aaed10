import type { ControllerFault } from "@/core/motion/controller/simulatedController";
import type { RunView } from "../../../kit/api";

export type RunFigures = NonNullable<RunView["run"]>;
type Phase = RunFigures["phase"];

const PHASE_WORDS: Readonly<Record<Phase, string>> = {
  ready: "Ready",
  homing: "Homing",
  running: "Running",
  holding: "Slowing down",
  held: "Held, heat off",
  resuming: "Warming up",
  stopped: "Stopped, heat off",
  fault: "Fault, heat off",
  refused: "Refused",
  done: "Done",
  lost: "No controller",
};

export const FAULT_WORDS: Readonly<Record<ControllerFault, string>> = {
  limit: "a limit switch is pressed",
  steps: "steps are lost",
  noise: "noise on the switch lead",
  silent: "it falls silent",
  disconnect: "the lead is pulled",
};

/** The phase in words. That the heat is off is said only once the controller has acknowledged it. */
export const phaseWords = (phase: Phase, run: RunFigures | null): string => {
  const words = PHASE_WORDS[phase];
  return run && run.heatOff !== "confirmed" ? words.replace(", heat off", "") : words;
};

/** What is known of the heat. */
export function heatWords(run: RunFigures | null): string {
  if (run && run.heatOff !== "confirmed") return "heat not known";
  if (!run || run.heat === null) return run ? "heat not known" : "heat off";
  return run.heat > 0 ? `heat S ${Math.round(run.heat)}` : "heat off";
}

const BUSY: readonly Phase[] = ["running", "holding", "held", "resuming", "fault"];
/** Whether a program is under way, held or in a fault. */
export const isBusy = (phase: Phase): boolean => BUSY.includes(phase);
/** Whether there is something to stop. */
export const canStop = (phase: Phase): boolean => isBusy(phase) || phase === "homing";

export const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;
export const sentence = (words: string): string => `${words[0]?.toUpperCase() ?? ""}${words.slice(1)}.`.replace("..", ".");

/** What the page asks before it lets the frame home: nothing; whether the wire is out, with the way out known; or the same, to be brought out by hand. */
export type WireQuestion = "none" | "lead-out" | "by-hand";

export const WIRE_QUESTION = "Is the wire out of the foam?";

/** Whether the wire may be in the foam after a run, and whether the app can lead it out. @param outKnown whether a way out was found; null while that is not known yet */
export function wireQuestion(view: RunView | null, outKnown: boolean | null): WireQuestion {
  if (!view?.run || isBusy(view.run.phase)) return "none";
  if (view.stopped) return outKnown ? "lead-out" : "by-hand";
  return view.brokenOff === null ? "none" : "by-hand";
}

export type KeyId = "clear" | "resume" | "hold" | "lead-out" | "freed" | "connect" | "home" | "start" | "take-over";

/** One of the large keys of a run. */
export interface RunKey {
  id: KeyId;
  word: string;
  small?: string;
  disabled?: boolean;
  /** begins to move and to heat: edged in ember */
  starts?: boolean;
  /** acts at once in any state: it only ever makes the wire cold */
  atOnce?: boolean;
}

export interface RunSituation {
  phase: Phase;
  question: WireQuestion;
  /** time of the way out, s; null where there is none */
  outS: number | null;
  /** name of the program that would be started; null for none */
  program: string | null;
  /** a start was sent and not answered yet */
  starting: boolean;
  serial: boolean;
  /** this page watches the run */
  mine: boolean;
  /** the controller has not acknowledged yet that the heat is off */
  mayBeHot: boolean;
}

/** The keys that may be pressed in a situation, Stop apart: it is always there. */
export function keysOf({ phase, question, outS, program, starting, serial, mine, mayBeHot }: RunSituation): RunKey[] {
  const takeOver: RunKey[] = mine || !isBusy(phase) ? [] : [{ id: "take-over", word: "Watch it from here", small: "another page watches it now" }];
  if (phase === "fault") return [{ id: "clear", word: "It is free: clear" }, ...takeOver];
  if (phase === "held") return [{ id: "resume", word: "Go on", small: "space", starts: true }];
  if (isBusy(phase)) return [{ id: "hold", word: "Hold", small: "space", disabled: phase === "holding", atOnce: true }, ...takeOver];
  if (question !== "none") {
    const yes: RunKey = { id: "freed", word: "Yes, it is out", disabled: starting };
    return question === "lead-out" && outS !== null
      ? [
          {
            id: "lead-out",
            word: "No, lead it out",
            small: `along its kerf, ${clock(outS)}`,
            disabled: phase === "lost" || starting || mayBeHot,
            starts: true,
          },
          yes,
        ]
      : [yes];
  }
  return [
    phase === "lost" && !serial
      ? { id: "connect", word: "Connect again" }
      : { id: "home", word: "Home", disabled: phase === "homing" || phase === "lost" || starting || mayBeHot },
    {
      id: "start",
      word: "Start",
      small: program ?? "no program",
      disabled: program === null || starting || phase === "homing" || phase === "lost" || mayBeHot,
      starts: true,
    },
  ];
}

/** What the page says about homing: what it found. Null where it says nothing. */
export function homedWords(run: RunFigures): string | null {
  if (!run.homed || run.phase === "homing") return null;
  const off = run.homed.some((mm) => Math.abs(mm) > 0.05);
  return off ? `Homed. Home was found ${run.homed.map((mm) => mm.toFixed(2)).join(" and ")} mm off: steps had been lost.` : "Homed. No steps were lost.";
}
