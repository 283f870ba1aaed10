import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { distance, nearest, type Point } from "../../geometry/points";
import { writeProgram } from "../program/program";
import { readProgram } from "../program/reader";
import { Sender } from "./sender";
import { LONGEST_SAID, SIMULATED_FRAME, SimulatedController, type SimulatedFrame } from "./simulatedController";
import type { RunState } from "./states";
import { type ControllerWords, controllerWordsSchema, spoken } from "./words";

const WORDS = controllerWordsSchema.parse({});
const TICK_S = 0.02;
const machine = { axes: ["X", "Y"], layout: null, travelMm: null, turn: null };

/** A simulated controller and a sender on one line; the test advances the time. */
function joined(settings: Partial<SimulatedFrame> = {}, words: Partial<ControllerWords> = {}) {
  const controller = new SimulatedController({ ...SIMULATED_FRAME, ...settings });
  let nowMs = 0;
  let cut = false;
  const said: string[] = [];
  const sender = new Sender(
    {
      write: (text) => {
        if (cut) return;
        for (const line of text.split("\n")) if (line) controller.hear(line);
      },
    },
    { ...WORDS, ...words },
    nowMs,
  );
  const seen: { at: Point; really: Point; heat: number; state: string }[] = [];
  const run = (seconds: number, until?: () => boolean) => {
    for (let left = seconds; left > 1e-9 && !until?.(); left -= TICK_S) {
      nowMs += TICK_S * 1000;
      if (!cut) sender.tick(nowMs);
      controller.tick(TICK_S);
      const lines = controller.heard();
      said.push(...lines);
      if (lines.length > 0 && !cut) sender.receive(`${lines.join("\n")}\n`, nowMs);
      const { at } = sender.state;
      seen.push({ at: [at?.X ?? 0, at?.Y ?? 0], really: controller.really, heat: controller.heat, state: controller.state });
    }
  };
  const home = () => {
    sender.home();
    run(60, () => sender.state.phase === "ready");
    seen.length = 0;
  };
  return {
    controller,
    sender,
    run,
    home,
    seen,
    said,
    begin: (text: string) => sender.start(text.trim().split("\n"), nowMs),
    cut: () => {
      cut = true;
    },
    get nowS() {
      return nowMs / 1000;
    },
  };
}

const square: Point[] = [
  [5, 5],
  [45, 5],
  [45, 25],
  [5, 25],
  [5, 5],
];
const timesOf = (path: readonly Point[], feed: number): number[] => {
  let at = 0;
  return path.map((p, i) => {
    if (i > 0) at += distance(p, path[i - 1] as Point) / feed;
    return at;
  });
};
const program = (path: Point[], feed = 8, warm = 2) => writeProgram(machine, path, null, timesOf(path, feed), warm);
const off = (point: Point, path: Point[]) => nearest(point, path).distance;

describe("the simulated controller", () => {
  it("makes a program's moves where and when they are to be, and no heat stays on", () => {
    const bench = joined();
    bench.home();
    const { text, timeS } = program(square);
    bench.begin(text);
    const from = bench.nowS;
    bench.run(60, () => bench.sender.state.phase === "done");
    expect(bench.sender.state).toMatchObject({ phase: "done", lines: text.trim().split("\n").length, heat: 0 });
    // The rapid move to the start, and the start and the stops of moves, are its own time.
    const rapidS = Math.hypot(5, 5) / SIMULATED_FRAME.rapidMmS;
    expect(bench.nowS - from).toBeGreaterThan(timeS);
    expect(bench.nowS - from).toBeLessThan(timeS + rapidS + 2.5);
    const cut = bench.seen.filter(({ heat }) => heat > 0);
    expect(Math.max(...cut.map(({ really }) => off(really, square)))).toBeLessThan(1e-6);
    for (const corner of square) expect(Math.min(...cut.map(({ really }) => distance(really, corner)))).toBeLessThan(0.3);
    expect(cut.length * TICK_S).toBeCloseTo(timeS, 0);
    expect(bench.controller.heat).toBe(0);
    expect(bench.controller.state).toBe("idle");
  });

  it("takes no line before it is homed, nor one that leads outside its travel: the axis is named and the heat goes off", () => {
    const bench = joined();
    bench.begin("G21\nG1 X10 F600");
    bench.run(1);
    expect(bench.sender.state).toMatchObject({ phase: "refused", reason: expect.stringMatching(/line 1: it is not homed/) });
    bench.home();
    bench.begin("G21\nM3 S500\nG1 X10 F600\nG1 X512\nG1 X20\nM5\nM2");
    bench.run(5);
    expect(bench.sender.state.phase).toBe("refused");
    expect(bench.sender.state.reason).toMatch(/line 4: .*X512.*travel, 0 to 450/);
    expect(bench.controller.heat).toBe(0);
    bench.begin("G21\nG1 Q3");
    bench.run(1);
    expect(bench.sender.state.reason).toMatch(/line 2: .*Q is no axis/);
  });

  it("a program after another begins at its own first line, not at a line reported of the one before, and a stop leaves the line where it was", () => {
    const bench = joined();
    bench.home();
    bench.begin(program(square, 40, 0).text);
    bench.run(60, () => bench.sender.state.phase === "done");
    const first = bench.sender.state.lines;
    bench.begin(program(square, 2, 1).text);
    // A report of before, on its way when the new program began.
    bench.sender.receive(`at X5.000 Y5.000 line ${first} state idle heat 0 room 32\n`, bench.nowS * 1000);
    expect(bench.sender.state).toMatchObject({ phase: "running", line: 0 });
    const lines: number[] = [];
    for (let i = 0; i < 60; i++) {
      bench.run(0.25);
      lines.push(bench.sender.state.line);
    }
    expect(lines).toEqual([...lines].sort((a, b) => a - b));
    const at = lines.at(-1) as number;
    expect(at).toBeGreaterThan(8);
    expect(at).toBeLessThan(first - 2);
    bench.sender.stop();
    bench.run(2);
    const { line } = bench.sender.state;
    expect(bench.sender.state.phase).toBe("stopped");
    expect(line - at).toBeGreaterThanOrEqual(0);
    expect(line - at).toBeLessThanOrEqual(1);
    // Where it was stopped may come after the word that stopped it; what says less, or more than was ever sent, is of something else.
    bench.sender.receive(`at X9.000 Y9.000 line ${line + 1} state idle heat 0 room 32\n`, bench.nowS * 1000);
    expect(bench.sender.state.line).toBe(line + 1);
    for (const other of [0, line - 1, 99_999]) bench.sender.receive(`at X9.000 Y9.000 line ${other} state idle heat 0 room 32\n`, bench.nowS * 1000);
    expect(bench.sender.state.line).toBe(line + 1);
  });

  it("a stop between two reports states the place and the line that belong to it, however fast it goes", () => {
    const bench = joined({ speed: 10 });
    bench.home();
    bench.begin(program(square).text);
    bench.run(0.3);
    // It goes on unheard for a while: then the stop.
    bench.controller.tick(0.4);
    bench.sender.stop();
    bench.run(1);
    const { at, line } = bench.sender.state;
    const read = readProgram(program(square).text, machine);
    // The last point that lines before this one lead to.
    const passed = read.lines.findLastIndex((of) => of < line);
    expect(nearest([at?.X ?? 0, at?.Y ?? 0], read.path.slice(passed, passed + 2), false).distance).toBeLessThan(0.01);
  });

  it("held it slows down, stops and cools; gone on with it warms first, and comes to the same end along the same way", () => {
    const bench = joined();
    bench.home();
    bench.begin(program(square).text);
    bench.run(5);
    const moving = bench.controller.really;
    bench.sender.hold();
    expect(bench.controller.heat).toBe(0);
    bench.run(2);
    expect(bench.sender.state.phase).toBe("held");
    const stopped = bench.controller.really;
    // v^2/2A beyond where the command came: 64/100 mm.
    expect(distance(moving, stopped)).toBeGreaterThan(0.5);
    expect(distance(moving, stopped)).toBeLessThan(0.9);
    bench.run(30);
    expect(bench.controller.really).toEqual(stopped);
    bench.sender.resume(3);
    bench.run(2.5);
    expect(bench.controller.heat).toBe(1000);
    expect(bench.controller.really).toEqual(stopped);
    bench.run(60, () => bench.sender.state.phase === "done");
    expect(bench.sender.state.phase).toBe("done");
    expect(bench.controller.really).toEqual([5, 5]);
    expect(Math.max(...bench.seen.filter(({ heat }) => heat > 0).map(({ really }) => off(really, square)))).toBeLessThan(1e-6);
  });

  it("a switch that is met stops it cold; pressed still it is not cleared; cleared it goes on where it was", () => {
    const bench = joined();
    bench.home();
    bench.begin(program(square).text);
    bench.run(6);
    bench.controller.setFault("limit", true);
    bench.run(0.5);
    expect(bench.sender.state).toMatchObject({ phase: "fault", reason: "limit X" });
    expect(bench.controller.heat).toBe(0);
    bench.sender.clear();
    bench.run(1);
    expect(bench.sender.state.phase).toBe("fault");
    expect(bench.sender.state.reason).toMatch(/still pressed/);
    bench.controller.setFault("limit", false);
    bench.sender.clear();
    bench.run(1);
    expect(bench.sender.state.phase).toBe("held");
    bench.sender.resume(2);
    bench.run(60, () => bench.sender.state.phase === "done");
    expect(bench.controller.really).toEqual([5, 5]);
    for (const corner of square) expect(Math.min(...bench.seen.map(({ really }) => distance(really, corner)))).toBeLessThan(0.3);
  });

  it("noise trips a normally open switch and no normally closed one", () => {
    for (const [switches, phase] of [
      ["open", "fault"],
      ["closed", "done"],
    ] as const) {
      const bench = joined({ switches });
      bench.home();
      bench.controller.setFault("noise", true);
      bench.begin(program(square).text);
      bench.run(60, () => ["fault", "done"].includes(bench.sender.state.phase));
      expect(bench.sender.state.phase).toBe(phase);
    }
  });

  it("lost steps are not seen in what it reports, but homing finds them", () => {
    const bench = joined();
    bench.home();
    bench.begin(program(square).text);
    bench.run(5);
    bench.controller.setFault("steps", true);
    bench.run(60, () => bench.sender.state.phase === "done");
    expect(bench.sender.state.at).toMatchObject({ X: 5, Y: 5 });
    expect(bench.controller.really[0]).toBeCloseTo(3.5, 9);
    bench.sender.home();
    bench.run(60, () => bench.sender.state.phase === "ready");
    expect(bench.sender.state.reason).toMatch(/found -1\.50 and 0\.00 mm off/);
    expect(bench.controller.really).toEqual([0, 0]);
  });

  it("takes its heat off on its own: nothing heard, the link gone, or no line coming while the wire is hot", () => {
    const quiet = joined();
    quiet.home();
    quiet.begin(program(square).text);
    quiet.run(4);
    expect(quiet.controller.heat).toBe(1000);
    quiet.cut();
    quiet.run(SIMULATED_FRAME.watchdogS - 0.2);
    expect(quiet.controller.heat).toBe(1000);
    quiet.run(0.5);
    expect(quiet.controller).toMatchObject({ heat: 0, state: "fault", reason: "nothing was heard for 2 s" });

    const gone = joined();
    gone.home();
    gone.begin(program(square).text);
    gone.run(4);
    gone.controller.linkDown();
    expect(gone.controller).toMatchObject({ heat: 0, state: "fault", reason: "the link is lost" });

    const starved = joined();
    starved.home();
    starved.begin("G21\nM3 S400\nG1 X5 F600");
    starved.run(4);
    expect(starved.controller).toMatchObject({ heat: 0, reason: "no line came while the wire was hot" });
    expect(starved.sender.state.phase).toBe("fault");
  });

  it("leads four axes together and turns in inches, arcs and shares of heat as they are said", () => {
    const bench = joined({ axes: ["X", "Y", "U", "V"] });
    bench.home();
    bench.begin("G20\nG93\nM3 S250\nG1 X1 Y0 U0.5 V0.25 F12\nM5\nM2");
    bench.run(2.5);
    expect(bench.sender.state.heat).toBe(250);
    bench.run(20, () => bench.sender.state.phase === "done");
    expect(bench.sender.state.at).toEqual({ X: 25.4, Y: 0, U: 12.7, V: 6.35 });
    const round = joined();
    round.home();
    round.begin("G21\nG0 X20 Y10\nM3\nG3 X0 Y10 I-10 F600\nM2");
    round.run(20, () => round.sender.state.phase === "done");
    const hot = round.seen.filter(({ heat }) => heat > 0).map(({ really }) => Math.hypot(really[0] - 10, really[1] - 10));
    expect(Math.min(...hot)).toBeGreaterThan(9.99);
    expect(Math.max(...hot)).toBeLessThan(10.001);
  });

  it("any line at all is answered or refused, and none of them heats a wire that is not homed", () => {
    const controller = new SimulatedController(SIMULATED_FRAME);
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 400 }),
          fc.constantFrom("N1 M3", "N-1", "resume 1e9", "misbehave", "misbehave limit", "misbehave limit off", "hold", "stop", "clear", "N1"),
        ),
        (line) => {
          controller.hear(line);
          controller.tick(0.01);
          const answers = controller.heard();
          return controller.heat === 0 && (answers.length > 0 || line.trim() === "") && answers.every((result) => result.length < LONGEST_SAID);
        },
      ),
      { numRuns: 2000 },
    );
  });

  it("any commands in any order: the wire stays on its way, hot only at work, and a program that is left to end ends where it should", () => {
    const actions = fc.array(
      fc.tuple(fc.constantFrom("hold", "resume", "clear", "limit", "limit off", "steps on paper", "noise"), fc.double({ min: 0.02, max: 3, noNaN: true })),
      { maxLength: 25 },
    );
    fc.assert(
      fc.property(actions, fc.constantFrom(1, 7, 64), fc.constantFrom(1, 4, 32), (all, ahead, buffer) => {
        const bench = joined({ switches: "open", buffer }, { ahead });
        bench.home();
        bench.begin(program(square, 8, 1).text);
        const fix = () => {
          bench.controller.setFault("limit", false);
          bench.controller.setFault("noise", false);
        };
        for (const [action, seconds] of all) {
          if (action === "hold") bench.sender.hold();
          if (action === "resume") bench.sender.resume(0.5);
          if (action === "clear") bench.sender.clear();
          if (action === "limit" || action === "noise") bench.controller.setFault(action, true);
          if (action === "limit off") fix();
          bench.run(seconds);
        }
        for (let tries = 0; tries < 60 && bench.sender.state.phase !== "done"; tries++) {
          fix();
          bench.sender.clear();
          bench.run(0.6);
          bench.sender.resume(0.5);
          bench.run(30, () => bench.sender.state.phase === "done");
        }
        expect(bench.sender.state.phase).toBe("done");
        for (const { really, heat, state } of bench.seen) {
          if (heat === 0) continue;
          expect(["running", "warming"]).toContain(state);
          expect(off(really, square)).toBeLessThan(1e-6);
        }
        expect(bench.controller.really).toEqual([5, 5]);
      }),
      { numRuns: 25 },
    );
  });
});

describe("the sender", () => {
  it("is never more lines ahead than it may be, however slow the answers, and loses none", () => {
    const count = 5000;
    const lines = ["G21", "M3 S100", ...Array.from({ length: count }, (_, i) => `G1 X${((i * 7) % 400) / 10} F60000`), "M5", "M2"];
    const heard: string[] = [];
    let out = 0;
    let most = 0;
    const sender = new Sender(
      {
        write: (text) => {
          for (const line of text.split("\n")) {
            if (!line.startsWith("N")) continue;
            heard.push(line);
            out += 1;
            most = Math.max(most, out);
          }
        },
      },
      { ...WORDS, ahead: 20 },
      0,
    );
    sender.start(lines, 0);
    for (let i = 0; i < lines.length; i++) {
      out -= 1;
      // Answers in pieces.
      sender.receive(`tak`, i);
      sender.receive(`en ${i + 1}\r\n`, i);
    }
    expect(most).toBe(20);
    expect(heard).toEqual(lines.map((line, i) => `N${i + 1} ${line}`));
    sender.receive("done\n", 9999);
    expect(sender.state.phase).toBe("done");
  });

  it("speaks to a controller of other words: unnumbered, one that reports nothing and one whose hold is a byte", () => {
    const written: string[] = [];
    const sender = new Sender(
      { write: (text) => void written.push(text) },
      controllerWordsSchema.parse({ numbered: false, taken: "aye", refused: "nay", hold: "\\x13", resume: "", where: "", home: "", ahead: 2 }),
      0,
    );
    sender.home();
    expect(sender.state.phase).toBe("ready");
    sender.start(["G21", "G1 X1 F60", "M2"], 0);
    expect(written.join("")).toBe("G21\nG1 X1 F60\n");
    sender.receive("aye\n", 10);
    sender.tick(20_000);
    expect(sender.state).toMatchObject({ phase: "running", taken: 1, line: 1 });
    sender.hold();
    expect(written.at(-1)).toBe(spoken("\\x13"));
    expect(spoken("\\x13")).toBe("\x13");
    sender.resume(2);
    sender.receive("nay: too far\n", 30);
    expect(sender.state.phase).toBe("held");
  });

  it("refuses words that could not be spoken", () => {
    for (const bad of [{ taken: "" }, { ahead: 0 }, { ahead: 1.5 }, { hold: "x".repeat(40) }, { extra: 1 }])
      expect(controllerWordsSchema.safeParse(bad).success).toBe(false);
  });
});
describe("a sender's words", () => {
  const made = (more: object = {}) => {
    const said: string[] = [];
    const sender = new Sender({ write: (text) => void said.push(text) }, controllerWordsSchema.parse(more), 0);
    const view = (): RunState => ({ ...sender.state });
    return { sender, view, said, hear: (...lines: string[]) => sender.receive(lines.map((line) => `${line}\n`).join(""), 1) };
  };
  it("counts what is taken by its number, with any text around it, and never more than was sent", () => {
    const { sender, view, hear } = made();
    sender.start(["G1 X1", "G1 X2", "G1 X3"], 0);
    hear("taken 2");
    expect(view().taken).toBe(2);
    hear("  TAKEN 1  ");
    expect(view().taken).toBe(2);
    hear("taken 9");
    expect(view().taken).toBe(3);
    const plain = made({ numbered: false });
    plain.sender.start(["G1 X1", "G1 X2", "G1 X3"], 0);
    plain.hear("taken", "taken 7");
    expect(plain.view().taken).toBe(2);
  });
  it("a line refused stops it cold, with its number and why; a word refused does not", () => {
    for (const [result, reason] of [
      ["refused 2: off the table", "line 2: off the table"],
      ["refused 12", "line 12: it was refused"],
      ["refused: nonsense", "line 2: nonsense"],
      ["refused nonsense", "line 2: nonsense"],
    ] as const) {
      const { sender, view, hear, said } = made({ numbered: false });
      sender.start(["G1 X1", "G1 X2"], 0);
      hear("taken", result);
      expect(view()).toMatchObject({ phase: "refused", reason });
      expect(said.at(-1)).toBe("stop\n");
    }
    const numbered = made();
    numbered.sender.start(["G1 X1"], 0);
    numbered.hear("refused: it is not held");
    expect(numbered.view()).toMatchObject({ phase: "running", reason: "it is not held" });
    const homing = made();
    homing.sender.home();
    expect(homing.view().phase).toBe("homing");
    homing.hear("refused: it is at work");
    expect(homing.view()).toMatchObject({ phase: "ready", reason: "it is at work" });
    const resuming = made();
    resuming.sender.start(["G1 X1"], 0);
    resuming.sender.hold();
    resuming.hear("held");
    resuming.sender.resume(3);
    expect(resuming.said.at(-1)).toBe("resume 3\n");
    resuming.hear("refused: not now");
    expect(resuming.view().phase).toBe("held");
  });
  it("text comes in any pieces; a line without end is not kept for ever", () => {
    const { sender, view } = made();
    sender.start(["G1 X1", "G1 X2"], 0);
    for (const piece of ["ta", "ken", " 1\r", "\nrefu", "sed 2: x\n"]) sender.receive(piece, 1);
    expect(view()).toMatchObject({ phase: "refused", taken: 1 });
    const flooded = made();
    flooded.sender.start(["G1 X1"], 0);
    for (let i = 0; i < 40; i++) flooded.sender.receive("x".repeat(500), 1);
    flooded.sender.receive("\ntaken 1\n", 1);
    expect(flooded.view().taken).toBe(1);
  });
  it("a fault is reported, takes the heat off and waits to be cleared; what was not taken goes again", () => {
    const { sender, view, hear, said } = made();
    sender.start(["G1 X1", "G1 X2", "G1 X3"], 0);
    hear("taken 1", "at X0 Y0 line 1 heat 500 state running");
    expect(view()).toMatchObject({ heat: 500, line: 1 });
    hear("fault limit X");
    expect(view()).toMatchObject({ phase: "fault", reason: "limit X", heat: 0 });
    sender.clear();
    expect(said.at(-1)).toBe("clear\n");
    expect(view().phase).toBe("fault");
    hear("at X0 Y0 line 1 heat 0 state held");
    expect(view().phase).toBe("held");
    said.length = 0;
    sender.resume(0);
    hear("at X0 Y0 line 1 heat 500 state running");
    expect(said.join("")).toMatch(/N2 G1 X2\nN3 G1 X3\n/);
    // Before any program it is ready again.
    const idle = made();
    idle.hear("fault door");
    expect(idle.view().phase).toBe("fault");
    idle.hear("at X0 Y0 state idle");
    expect(idle.view().phase).toBe("ready");
    const blind = made({ where: "" });
    blind.hear("fault door");
    blind.sender.clear();
    expect(blind.view().phase).toBe("ready");
  });
  it("lost once stays lost; what was done to its end is not broken off", () => {
    for (const [phase, saved] of [
      ["running", 2],
      ["done", 0],
    ] as const) {
      const { sender, view, hear } = made();
      sender.start(["G1 X1", "G1 X2"], 0);
      hear("taken 1", "taken 2", "at X0 line 1 heat 0 state running");
      if (phase === "done") hear("done");
      expect(view().phase).toBe(phase);
      sender.lost("the lead is out");
      sender.lost("again");
      expect(view()).toMatchObject({ phase: "lost", reason: "the lead is out", heat: null, lines: saved });
      sender.start(["G1 X9"], 2);
      sender.home();
      expect(view().phase).toBe("lost");
    }
  });
  it("a word that is not known is not said; a byte is no line; homing finds what was lost", () => {
    expect(spoken("\\x21")).toBe("!");
    expect(spoken("hold")).toBe("hold\n");
    expect(spoken("\\x2")).toBe("\\x2\n");
    const { sender, view, hear, said } = made({ home: "" });
    sender.home();
    expect([view().phase, said]).toEqual(["ready", []]);
    const homed = made();
    homed.sender.home();
    homed.hear("homed 0.02 -0.01");
    expect(homed.view()).toMatchObject({ phase: "ready", reason: "" });
    homed.sender.home();
    homed.hear("homed 1.25 0.00");
    expect(homed.view().reason).toMatch(/1\.25 and 0\.00 mm off/);
    hear("held");
    expect(view().phase).toBe("ready");
    const held = made({ hold: "\\x21", resume: "\\x7e" });
    held.sender.start(["G1 X1"], 0);
    held.sender.hold();
    expect(held.said.at(-1)).toBe("!");
    held.hear("held");
    held.sender.resume(5);
    expect(held.said.at(-1)).toBe("~");
  });
});
