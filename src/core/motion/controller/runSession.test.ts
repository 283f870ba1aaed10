import { describe, expect, it } from "vitest";
import { writeProgram } from "../program/program";
import { ACKNOWLEDGE_MS, CLOSE_LINE_MS, COMMAND_EXPIRES_MS, RunRefusal, RunSession, stoppedRun } from "./runSession";
import { SIMULATED_FRAME, SimulatedController, type SimulatedFrame } from "./simulatedController";
import type { RunPhase } from "./states";
import { type ControllerWords, controllerWordsSchema } from "./words";

const WORDS = controllerWordsSchema.parse({});
const TICK_MS = 20;
const PRESENCE_MS = 3000;
const OWN = "page-one";
const PROGRAM = "G21\nG90\nG94\nG0 X5 Y5\nM3 S800\nG4 P2\nG1 X200 Y5 F600\nG1 X200 Y100\nG1 X5 Y100\nG1 X5 Y5\nM5\nM2";

interface Options {
  settings?: Partial<SimulatedFrame>;
  watchdogS?: number | null;
  words?: Partial<ControllerWords>;
}

/** A session and a simulated controller on one line; the page pulses until it is ordered not to. */
function bench({ settings = {}, watchdogS = 2, words = {} }: Options = {}) {
  const controller = new SimulatedController({ ...SIMULATED_FRAME, ...settings });
  let nowMs = 1000;
  let open = true;
  let deaf = false;
  const sent: string[] = [];
  const line = {
    write: (text: string) => {
      if (!open) return;
      sent.push(...text.split("\n").filter(Boolean));
      if (!deaf) for (const each of text.split("\n")) if (each) controller.hear(each);
    },
    close: () => {
      open = false;
      controller.linkDown();
    },
  };
  const session = new RunSession(line, { words: { ...WORDS, ...words }, presenceMs: PRESENCE_MS, watchdogS }, nowMs);
  const own = {
    controller,
    session,
    sent,
    present: true,
    hotAfter: (ms: number) => {
      // The last moment at which the wire was hot, from now on.
      let last = Number.NEGATIVE_INFINITY;
      const from = nowMs;
      own.run(ms, undefined, () => {
        if (controller.heat > 0) last = nowMs - from;
      });
      return last;
    },
    run: (ms: number, until?: () => boolean, each?: () => void) => {
      for (let left = ms; left > 0 && !until?.(); left -= TICK_MS) {
        nowMs += TICK_MS;
        if (own.present) session.pulse(session.state.id, OWN, true, nowMs);
        session.tick(nowMs);
        controller.tick(TICK_MS / 1000);
        const said = controller.heard();
        if (said.length > 0 && open) session.receive(`${said.join("\n")}\n`, nowMs);
        each?.();
      }
    },
    get nowMs() {
      return nowMs;
    },
    get open() {
      return open;
    },
    /** The controller hears nothing more; what it says still comes. */
    deafen: () => {
      deaf = true;
    },
    breakLine: () => {
      open = false;
      controller.linkDown();
      session.connectionLost("the line is cut");
    },
    start: (text = PROGRAM, id = "run-1") => session.start({ id, page: OWN, lines: text.split("\n") }, nowMs + COMMAND_EXPIRES_MS, nowMs),
  };
  session.pulse(null, OWN, true, nowMs);
  session.home(nowMs, nowMs);
  own.run(60_000, () => session.state.phase === "ready" && controller.homed);
  return own;
}
type Bench = ReturnType<typeof bench>;
const isHot = ({ controller }: Bench) => controller.heat > 0;

/** How each phase is reached. */
const PHASES: Record<RunPhase, (own: Bench) => void> = {
  ready: () => undefined,
  homing: ({ session, nowMs }) => session.home(nowMs, nowMs),
  running: (own) => {
    own.start();
    own.run(20_000, () => isHot(own));
  },
  holding: (own) => {
    PHASES.running(own);
    own.run(6000);
    own.session.hold(own.nowMs);
  },
  held: (own) => {
    PHASES.holding(own);
    own.run(5000, () => own.session.state.phase === "held");
  },
  resuming: (own) => {
    PHASES.held(own);
    own.session.resume(OWN, 30, own.nowMs + 100, own.nowMs);
    own.run(5000, () => isHot(own));
  },
  stopped: (own) => {
    PHASES.running(own);
    own.session.stop(own.nowMs);
  },
  fault: (own) => {
    PHASES.running(own);
    own.controller.setFault("limit", true);
    own.run(2000, () => own.session.state.phase === "fault");
  },
  refused: (own) => {
    own.start("G21\nM3 S500\nG1 X10 F600\nG1 X9999\nM5\nM2");
    own.run(5000, () => own.session.state.phase === "refused");
  },
  done: (own) => {
    own.start("G21\nM3 S500\nG1 X10 F600\nM5\nM2");
    own.run(20_000, () => own.session.state.phase === "done");
  },
  lost: (own) => {
    PHASES.running(own);
    own.breakLine();
  },
};

/** Each event, with the longest that the wire may stay hot after it, ms. */
const EVENTS: Record<string, { limitMs: number; act: (own: Bench) => void }> = {
  hold: { limitMs: TICK_MS, act: ({ session, nowMs }) => session.hold(nowMs) },
  stop: { limitMs: TICK_MS, act: ({ session, nowMs }) => session.stop(nowMs) },
  // Its reports do not come any more: the session finds out, and closes the line.
  silence: { limitMs: 4000 + 2 * TICK_MS, act: ({ controller }) => controller.setFault("silent", true) },
  "lost line": { limitMs: TICK_MS, act: (own) => own.breakLine() },
  "page gone": {
    limitMs: PRESENCE_MS + 2 * TICK_MS,
    act: (own) => {
      own.present = false;
    },
  },
};
/** What ends no run, and heats nothing: a hold of a run that is over, a page that leaves while nothing is hot. */
const cases = Object.keys(PHASES).flatMap((phase) => Object.keys(EVENTS).map((event) => [phase as RunPhase, event] as const));

describe("the heat is off within its limit, in each phase and after each event", () => {
  it.each(cases)("%s, then %s", (phase, event) => {
    const own = bench();
    PHASES[phase](own);
    expect(own.session.state.phase).toBe(phase);
    const { limitMs, act } = EVENTS[event] as (typeof EVENTS)[string];
    act(own);
    expect(own.hotAfter(40_000)).toBeLessThanOrEqual(limitMs);
    expect(own.controller.heat).toBe(0);
  });

  it.each(Object.keys(PHASES) as RunPhase[])("%s, then a second start: refused where a run is under way, and its page must be there", (phase) => {
    const own = bench();
    PHASES[phase](own);
    // Until the controller has acknowledged that the heat is off.
    own.run(1000, () => own.session.state.heatOff === "confirmed");
    const before = { phase: own.session.state.phase, heat: own.controller.heat, id: own.session.state.id };
    const start = (page: string) => own.session.start({ id: "other", page, lines: ["G21", "M2"] }, own.nowMs + 1, own.nowMs);
    // Nobody has said that they are before the other page.
    expect(() => start("page-two")).toThrow(RunRefusal);
    expect({ phase: own.session.state.phase, heat: own.controller.heat, id: own.session.state.id }).toEqual(before);
    if (["ready", "stopped", "refused", "done"].includes(phase)) expect(() => start(OWN)).not.toThrow();
    else {
      expect(() => start(OWN)).toThrow(RunRefusal);
      expect(own.session.state.id).toBe(before.id);
    }
  });
});

describe("who keeps the heat on", () => {
  it("is the page that started the run, and no other that pulses", () => {
    const own = bench();
    PHASES.running(own);
    own.present = false;
    let hot = 0;
    const from = own.nowMs;
    own.run(10_000, undefined, () => {
      own.session.pulse("run-1", "page-two", true, own.nowMs);
      if (isHot(own)) hot = own.nowMs - from;
    });
    expect(hot).toBeLessThanOrEqual(PRESENCE_MS + 2 * TICK_MS);
    expect(own.session.state).toMatchObject({ phase: "held", unwatched: true, page: OWN });
  });

  it("is another page once it took the run over by an action, with somebody before it", () => {
    const own = bench();
    PHASES.running(own);
    expect(() => own.session.takeOver("page-two", own.nowMs)).toThrow(/somebody is before it/);
    own.session.pulse("run-1", "page-two", true, own.nowMs);
    own.session.takeOver("page-two", own.nowMs);
    own.present = false;
    own.run(6000, undefined, () => own.session.pulse("run-1", "page-two", true, own.nowMs));
    expect(own.session.state).toMatchObject({ phase: "running", page: "page-two" });
    // The first one counts no more.
    own.present = true;
    own.run(6000, () => own.session.state.phase === "holding" || own.session.state.phase === "held");
    expect(own.session.state.unwatched).toBe(true);
  });

  it("is nobody whose pulse names another run, or says that nobody is there", () => {
    for (const pulse of [
      (own: Bench) => own.session.pulse("run-0", OWN, true, own.nowMs),
      (own: Bench) => own.session.pulse(null, OWN, true, own.nowMs),
      (own: Bench) => own.session.pulse("run-1", OWN, false, own.nowMs),
    ]) {
      const own = bench();
      PHASES.running(own);
      own.present = false;
      own.run(PRESENCE_MS + 500, undefined, () => pulse(own));
      expect(own.controller.heat).toBe(0);
      expect(own.session.state.unwatched).toBe(true);
    }
  });

  it("a run held because nobody was there waits for hours, and goes on from the page that resumes it", () => {
    const own = bench();
    PHASES.running(own);
    own.present = false;
    own.run(10_000);
    own.run(3_600_000 / 50);
    expect(own.session.state.phase).toBe("held");
    expect(() => own.session.resume(OWN, 1, own.nowMs + 100, own.nowMs)).toThrow(/somebody is before it/);
    own.session.pulse("run-1", "page-two", true, own.nowMs);
    own.session.resume("page-two", 1, own.nowMs + 100, own.nowMs);
    own.run(3000, undefined, () => own.session.pulse("run-1", "page-two", true, own.nowMs));
    expect(own.session.state).toMatchObject({ phase: "running", page: "page-two", unwatched: false });
  });
});

describe("a command that comes late", () => {
  it("moves and heats nothing", () => {
    const own = bench();
    const late = own.nowMs - 1;
    own.sent.length = 0;
    expect(() => own.session.start({ id: "late", page: OWN, lines: PROGRAM.split("\n") }, late, own.nowMs)).toThrow(/took too long/);
    expect(() => own.session.home(late, own.nowMs)).toThrow(/took too long/);
    PHASES.held(own);
    expect(() => own.session.resume(OWN, 1, own.nowMs - 1, own.nowMs)).toThrow(/took too long/);
    own.run(3000);
    expect(own.session.state.phase).toBe("held");
    expect(own.sent.filter((word) => /resume|late/.test(word))).toEqual([]);
  });

  it("a start whose page has been silent begins nothing, and the first byte of one that begins is sent before it returns", () => {
    const own = bench();
    own.present = false;
    own.run(PRESENCE_MS + 500);
    own.sent.length = 0;
    expect(() => own.start()).toThrow(/somebody is before it/);
    expect(own.sent).toEqual([]);
    own.session.pulse(null, OWN, true, own.nowMs);
    own.session.pulse(own.session.state.id, OWN, true, own.nowMs);
    own.start();
    expect(own.sent[0]).toBe("N1 G21");
  });
});

describe("a hold or a stop that is not acknowledged", () => {
  it.each(["hold", "stop"] as const)("%s: the heat word is repeated every half second; the line stays open where no watchdog is known", (command) => {
    // One without a watchdog of its own, to which nothing comes through.
    const own = bench({ watchdogS: null, settings: { watchdogS: 1e6 } });
    PHASES.running(own);
    own.run(1000);
    own.sent.length = 0;
    own.deafen();
    own.session[command](own.nowMs);
    expect(own.session.state.heatOff).toBe("waiting");
    own.run(ACKNOWLEDGE_MS + 3 * TICK_MS);
    expect(own.session.state.heatOff).toBe("unconfirmed");
    own.run(10_000 - ACKNOWLEDGE_MS);
    const repeats = own.sent.filter((word) => word === "stop").length;
    expect(repeats).toBeGreaterThanOrEqual(16);
    expect(repeats).toBeLessThanOrEqual(21);
    expect(own.open).toBe(true);
  });

  it("the line is closed where the watchdog is known, and the controller goes cold", () => {
    const own = bench({ watchdogS: 2, settings: { watchdogS: 1e6 } });
    PHASES.running(own);
    own.run(1000);
    own.deafen();
    own.session.stop(own.nowMs);
    expect(own.hotAfter(10_000)).toBeLessThanOrEqual(CLOSE_LINE_MS + 3 * TICK_MS);
    expect(own.open).toBe(false);
    expect(own.session.state).toMatchObject({ phase: "lost", reason: expect.stringMatching(/watchdog switches the heat off within 2 s/) });
  });

  it("nothing is started and nothing homed until the heat is known to be off", () => {
    const own = bench({ watchdogS: null });
    PHASES.running(own);
    own.run(1000);
    own.controller.setFault("silent", true);
    own.session.stop(own.nowMs);
    own.run(300);
    own.session.pulse(own.session.state.id, OWN, true, own.nowMs);
    own.sent.length = 0;
    expect(() => own.start()).toThrow(/has not acknowledged/);
    expect(() => own.session.home(own.nowMs + 1000, own.nowMs)).toThrow(/has not acknowledged/);
    expect(own.sent).toEqual([]);
    own.controller.setFault("silent", false);
    own.run(1000);
    own.session.pulse(null, OWN, true, own.nowMs);
    expect(() => own.start()).not.toThrow();
  });

  it("one that is acknowledged late is confirmed then, and repeated no more", () => {
    const own = bench({ watchdogS: null });
    PHASES.running(own);
    own.run(1000);
    own.controller.setFault("silent", true);
    own.session.stop(own.nowMs);
    own.run(1500);
    expect(own.session.state.heatOff).toBe("unconfirmed");
    own.controller.setFault("silent", false);
    own.run(1000);
    expect(own.session.state.heatOff).toBe("confirmed");
    own.sent.length = 0;
    own.run(3000);
    expect(own.sent.filter((word) => word === "stop")).toEqual([]);
  });

  it("a controller that falls silent while the wire is hot, without a watchdog that is known: the heat word is repeated and the line stays open", () => {
    const own = bench({ watchdogS: null });
    PHASES.running(own);
    own.controller.setFault("silent", true);
    own.run(8000);
    expect(own.session.state).toMatchObject({ phase: "lost", heatOff: "unconfirmed" });
    expect(own.open).toBe(true);
    expect(own.sent.filter((word) => word === "stop").length).toBeGreaterThan(4);
    expect(own.controller.heat).toBe(0);
    // It answers at last: the wire is cold, and the line is of no more use.
    own.controller.setFault("silent", false);
    own.run(1500);
    expect([own.session.state.heatOff, own.open]).toEqual(["confirmed", false]);
  });
});

describe("the controller's own watchdog", () => {
  it("switches the heat off while it warms up, too", () => {
    const own = bench();
    PHASES.resuming(own);
    expect(own.controller.state).toBe("warming");
    // Its line is silent: nothing more is sent.
    for (let i = 0; i < 200; i++) own.controller.tick(TICK_MS / 1000);
    expect(own.controller).toMatchObject({ state: "fault", heat: 0 });
  });

  it("a line that is lost while it is idle with the heat on leaves no heat on", () => {
    const controller = new SimulatedController(SIMULATED_FRAME);
    controller.heat = 300;
    expect(controller.state).toBe("idle");
    controller.linkDown();
    expect(controller.heat).toBe(0);
  });
});

describe("a session that ends", () => {
  it("stops before it closes its line, once", () => {
    const own = bench();
    PHASES.running(own);
    own.sent.length = 0;
    own.session.close(own.nowMs);
    own.session.close(own.nowMs);
    expect(own.sent).toEqual(["stop"]);
    expect([own.controller.heat, own.open, own.session.over]).toEqual([0, false, true]);
  });

  it("says where a run ended early, and nothing of one that came to its end", () => {
    const own = bench();
    PHASES.running(own);
    own.run(8000);
    own.session.stop(own.nowMs);
    own.run(500);
    const stopped = stoppedRun(own.session.state);
    expect(stopped).toMatchObject({ id: "run-1", lines: 12 });
    expect(stopped?.line).toBeGreaterThanOrEqual(7);
    const done = bench();
    PHASES.done(done);
    expect(stoppedRun(done.session.state)).toBeNull();
    expect(stoppedRun(bench().session.state)).toBeNull();
  });
});

it("every program that is written switches the heat off before it moves", () => {
  const { text } = writeProgram(
    { axes: ["X", "Y"], layout: null, travelMm: null, turn: null },
    [
      [0, 0],
      [10, 0],
    ],
    null,
    [0, 1],
    1,
  );
  const words = text.split("\n");
  const off = words.indexOf("M5");
  expect(off).toBeGreaterThan(0);
  expect(off).toBeLessThan(words.findIndex((word) => /^G[01] /.test(word)));
});
