import { describe, expect, it } from "vitest";
import type { RunView } from "../../../kit/api";
import { heatWords, homedWords, keysOf, phaseWords, type RunSituation, wireQuestion } from "./runScreen";

const SITUATION: RunSituation = {
  phase: "ready",
  question: "none",
  outS: null,
  program: "a square",
  starting: false,
  serial: false,
  mine: true,
  mayBeHot: false,
};
const keys = (more: Partial<RunSituation>) =>
  keysOf({ ...SITUATION, ...more })
    .filter(({ disabled }) => !disabled)
    .map(({ id }) => id);
const run = (more: object = {}) => ({ phase: "ready", homed: null, ...more }) as NonNullable<RunView["run"]>;
const view = (more: Partial<RunView> = {}): RunView => ({ wired: true, trouble: null, brokenOff: null, stopped: null, run: run(), ...more });
const stopped = { run: "r", program: "a square", line: 7, lines: 12, at: null, known: true };

describe("the keys of a run", () => {
  it.each<[string, Partial<RunSituation>, string[]]>([
    ["ready", {}, ["home", "start"]],
    ["without a program", { program: null }, ["home"]],
    ["while a start is on its way", { starting: true }, []],
    ["homing", { phase: "homing" }, []],
    ["running", { phase: "running" }, ["hold"]],
    ["slowing down", { phase: "holding" }, []],
    ["held", { phase: "held" }, ["resume"]],
    ["warming up", { phase: "resuming" }, ["hold"]],
    ["in a fault", { phase: "fault" }, ["clear"]],
    ["done", { phase: "done" }, ["home", "start"]],
    ["no controller", { phase: "lost" }, ["connect"]],
    ["no controller on a serial port", { phase: "lost", serial: true }, []],
    ["running, watched from another page", { phase: "running", mine: false }, ["hold", "take-over"]],
    ["stopped, with a way out", { phase: "stopped", question: "lead-out", outS: 42 }, ["lead-out", "freed"]],
    ["lost in the foam, with a way out: nothing can be led", { phase: "lost", question: "lead-out", outS: 42 }, ["freed"]],
    ["stopped, and the heat may still be on: nothing moves", { phase: "stopped", mayBeHot: true }, []],
    ["stopped, without one", { phase: "stopped", question: "by-hand" }, ["freed"]],
  ])("%s", (_what, situation, wanted) => expect(keys(situation)).toEqual(wanted));

  it("only what makes cold acts at once, and only what heats is marked so", () => {
    const all = (["ready", "running", "held", "resuming", "fault", "lost"] as const).flatMap((phase) => keysOf({ ...SITUATION, phase }));
    expect(new Set(all.filter(({ atOnce }) => atOnce).map(({ id }) => id))).toEqual(new Set(["hold"]));
    expect(new Set(all.filter(({ starts }) => starts).map(({ id }) => id))).toEqual(new Set(["start", "resume"]));
  });
});

describe("whether the wire is out of the foam", () => {
  it("is asked after a run that ended early, with the way out where it is known, and not while one is under way", () => {
    expect(wireQuestion(null, null)).toBe("none");
    expect(wireQuestion(view(), null)).toBe("none");
    expect(wireQuestion(view({ stopped }), true)).toBe("lead-out");
    expect(wireQuestion(view({ stopped }), false)).toBe("by-hand");
    expect(wireQuestion(view({ brokenOff: "a square: cut off at line 7" }), null)).toBe("by-hand");
    expect(wireQuestion(view({ stopped, run: run({ phase: "running" }) }), true)).toBe("none");
  });
});

it("homing says what it found, once it has", () => {
  expect(homedWords(run())).toBeNull();
  expect(homedWords(run({ homed: [0, 0.02] }))).toMatch(/No steps were lost/);
  expect(homedWords(run({ homed: [-1.5, 0] }))).toMatch(/-1\.50 and 0\.00 mm off/);
  expect(homedWords(run({ phase: "homing", homed: [0, 0] }))).toBeNull();
});

it("the heat is said to be off only once the controller has acknowledged it", () => {
  const stopped = (heatOff: string) => run({ phase: "stopped", heat: 0, heatOff });
  expect([heatWords(stopped("confirmed")), phaseWords("stopped", stopped("confirmed"))]).toEqual(["heat off", "Stopped, heat off"]);
  for (const state of ["waiting", "unconfirmed"])
    expect([heatWords(stopped(state)), phaseWords("stopped", stopped(state))]).toEqual(["heat not known", "Stopped"]);
  expect(heatWords(run({ heat: null, heatOff: "confirmed" }))).toBe("heat not known");
  expect(heatWords(run({ heat: 930.4, heatOff: "confirmed" }))).toBe("heat S 930");
});
