import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../tests/helpers/headless";
import { distance, type Point } from "../geometry/points";
import { type FeedLimits, feedAlong, runTimeS } from "./feedAlong";
import { type RunState, Sender } from "./sender";
import { MOTION_VERBS } from "./verbs";
import { alongLoop, middleOf, visitOrder } from "./visitOrder";
import { controllerWordsSchema, spoken } from "./words";

const roundOf = (start: Point, places: readonly Point[], order: readonly number[]) => {
  const all = [start, ...order.map((i) => places[i] as Point), start];
  return all.slice(1).reduce((sum, point, i) => sum + distance(all[i] as Point, point), 0);
};

describe("an order of visits", () => {
  it("is the best of all orders of five places or close to it, and every place is in it once", () => {
    const orders = (left: number[]): number[][] =>
      left.length < 2 ? [left] : left.flatMap((i) => orders(left.filter((k) => k !== i)).map((rest) => [i, ...rest]));
    const every = orders([0, 1, 2, 3, 4]);
    let best = 0;
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 })), { minLength: 5, maxLength: 5 }), (places) => {
        const start: Point = [0, 0];
        const order = visitOrder(places as Point[], start);
        expect([...order].sort()).toEqual([0, 1, 2, 3, 4]);
        const least = Math.min(...every.map((each) => roundOf(start, places as Point[], each)));
        const own = roundOf(start, places as Point[], order);
        expect(own).toBeLessThanOrEqual(1.12 * least + 1e-6);
        if (own < least + 1e-6) best += 1;
      }),
      { numRuns: 60, seed: 4 },
    );
    expect(best).toBeGreaterThan(52);
  });
  it("round a circle it goes round; no exchange of two links and no place moved betters it", () => {
    const circle = Array.from({ length: 14 }, (_, i): Point => {
      const a = (2 * Math.PI * ((i * 5) % 14)) / 14;
      return [50 + 40 * Math.cos(a), 50 + 40 * Math.sin(a)];
    });
    const start: Point = [0, 50];
    const order = visitOrder(circle, start);
    for (let i = 1; i < order.length; i++) expect(distance(circle[order[i - 1] as number] as Point, circle[order[i] as number] as Point)).toBeLessThan(20);
    const own = roundOf(start, circle, order);
    for (let i = 0; i < order.length; i++)
      for (let k = i + 1; k < order.length; k++) {
        const turned = [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
        expect(roundOf(start, circle, turned)).toBeGreaterThanOrEqual(own - 1e-6);
        const moved = [...order];
        const [taken] = moved.splice(i, 1);
        moved.splice(k, 0, taken as number);
        expect(roundOf(start, circle, moved)).toBeGreaterThanOrEqual(own - 1e-6);
      }
  });
  it("none, one and two places are gone to as they are", () => {
    expect(visitOrder([], [0, 0])).toEqual([]);
    expect(visitOrder([[5, 5]], [0, 0])).toEqual([0]);
    expect(
      visitOrder(
        [
          [50, 0],
          [5, 0],
        ],
        [0, 0],
      ),
    ).toEqual([1, 0]);
  });
  it("the shorter way along a closed line, over its corners, from any edge to any other", () => {
    const square: Point[] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ];
    expect(alongLoop(square, [2, 0], [10, 3])).toEqual([
      [2, 0],
      [10, 0],
      [10, 3],
    ]);
    expect(alongLoop(square, [10, 3], [2, 0])).toEqual([
      [10, 3],
      [10, 0],
      [2, 0],
    ]);
    expect(alongLoop(square, [2, 0], [0, 3])).toEqual([
      [2, 0],
      [0, 0],
      [0, 3],
    ]);
    expect(alongLoop(square, [2, 0], [7, 0])).toEqual([
      [2, 0],
      [7, 0],
    ]);
    expect(alongLoop(square, [7, 0], [2, 0])).toEqual([
      [7, 0],
      [2, 0],
    ]);
    const across = alongLoop(square, [1, 0], [1, 10]);
    expect(across).toEqual([
      [1, 0],
      [0, 0],
      [0, 10],
      [1, 10],
    ]);
    expect(
      middleOf([
        [2, 1],
        [8, 1],
        [8, 9],
      ]),
    ).toEqual([5, 5]);
  });
});

/** A wire whose bow goes with its feed: half a millimetre to each mm/s. */
const limits = (more: Partial<FeedLimits> = {}): FeedLimits => ({
  mostMmS: 8,
  accelerationMmS2: 100,
  toleranceMm: 0.5,
  lagMm: (mmS) => mmS / 2,
  catchUpS: (lagMm) => Math.log(lagMm / 0.5),
  free: null,
  ...more,
});

describe("feed along one path", () => {
  it("straight it goes as fast as it may, its time that of the trapezium", () => {
    const fed = feedAlong(
      [
        [0, 0],
        [100, 0],
      ],
      limits(),
    );
    expect(fed.feeds.every((feed) => feed === 8)).toBe(true);
    expect(fed.waits).toEqual([]);
    expect(fed.timesS.at(-1)).toBeCloseTo(12.5, 9);
    expect(fed.runS).toBeCloseTo(12.5 + 8 / 100, 6);
    expect(fed.path[0]).toEqual([0, 0]);
    expect(fed.path.at(-1)).toEqual([100, 0]);
  });
  it("round a curve its bow keeps the tolerance: R - sqrt(R^2 - m^2), and v^2/R the acceleration", () => {
    for (const radius of [4, 12, 40]) {
      const round = Array.from({ length: 181 }, (_, i): Point => [radius * Math.cos((i * Math.PI) / 180), radius * Math.sin((i * Math.PI) / 180)]);
      const { feeds } = feedAlong(round, limits());
      const feed = feeds[Math.floor(feeds.length / 2)] as number;
      const bow = Math.sqrt(2 * radius * 0.5 - 0.25);
      expect(feed).toBeCloseTo(Math.min(8, 2 * bow), 1);
      const slow = feedAlong(round, limits({ accelerationMmS2: 1 }));
      expect(slow.feeds[Math.floor(slow.feeds.length / 2)]).toBeCloseTo(Math.min(8, 2 * bow, Math.sqrt(radius)), 1);
      // The same way back, and turned the other way round.
      expect(
        feedAlong(
          round.map(([x, y]): Point => [x, -y]),
          limits(),
        ).feeds[Math.floor(feeds.length / 2)],
      ).toBeCloseTo(feed, 6);
    }
  });
  const corner: Point[] = [
    [0, 0],
    [60, 0],
    [60, 60],
  ];
  it("at a corner it waits for the middle, or creeps where that takes less, or runs past into the waste where that takes least", () => {
    const waits = feedAlong(corner, limits());
    expect(waits.waits).toEqual([{ at: [60, 0], waitS: Math.log(4 / 0.5) }]);
    expect(waits.ears).toEqual([]);
    const at = waits.feeds.indexOf(0);
    expect(waits.path[at]).toEqual([60, 0]);
    expect(waits.path[at + 1]).toEqual([60, 0]);
    expect((waits.timesS[at + 1] as number) - (waits.timesS[at] as number)).toBeCloseTo(Math.log(8), 9);
    const creeps = feedAlong(corner, limits({ catchUpS: () => 1000 }));
    expect(creeps.waits).toEqual([]);
    expect(Math.min(...creeps.feeds)).toBeCloseTo(1, 3);
    // Only near the corner: three bows before it and after.
    const slowMm = creeps.path.slice(1).reduce((sum, point, i) => sum + ((creeps.feeds[i] as number) < 8 ? distance(creeps.path[i] as Point, point) : 0), 0);
    expect(slowMm).toBeGreaterThan(20);
    expect(slowMm).toBeLessThan(30);
    const ears = feedAlong(corner, limits({ catchUpS: () => 1000, free: () => true, lagMm: (mmS) => mmS / 2 }));
    expect(ears.ears).toHaveLength(1);
    expect(ears.waits).toEqual([]);
    const [ear] = ears.ears as [Point[]];
    // Straight on past the corner by its bow and the tolerance, and into the next side from as far before it.
    expect(ear).toEqual([
      [60, 0],
      [expect.closeTo(64.5, 9), 0],
      [60, expect.closeTo(-4.5, 9)],
      [60, 0],
    ]);
    const saved = feedAlong(corner, limits({ catchUpS: () => 1000, free: (_, to) => to[0] <= 60 }));
    expect(saved.ears).toEqual([]);
  });
  it("a turn of less than thirty degrees is no corner, and a bow within the tolerance wants no wait", () => {
    const bend = (deg: number): Point[] => [
      [0, 0],
      [60, 0],
      [60 + 60 * Math.cos((deg * Math.PI) / 180), 60 * Math.sin((deg * Math.PI) / 180)],
    ];
    expect(feedAlong(bend(28), limits()).waits).toEqual([]);
    expect(feedAlong(bend(32), limits()).waits).toHaveLength(1);
    expect(feedAlong(bend(-32), limits()).waits).toHaveLength(1);
    expect(feedAlong(corner, limits({ lagMm: () => 0.4 })).waits).toEqual([]);
    // A corner rounded within two millimetres is one, and is waited at where half of it is turned.
    const rounded: Point[] = [
      [0, 0],
      [59, 0],
      [59.7, 0.3],
      [60, 1],
      [60, 60],
    ];
    const found = feedAlong(rounded, limits()).waits;
    expect(found).toHaveLength(1);
    expect(found[0]?.at).toEqual([59.7, 0.3]);
  });
  it("run time: ramps of v^2/2a at every stop, none where it runs on at one feed", () => {
    const line: Point[] = [
      [0, 0],
      [50, 0],
      [100, 0],
    ];
    expect(runTimeS(line, [10, 10], [0, 0], 50, [false, false, false])).toBeCloseTo(10 + 0.2, 9);
    expect(runTimeS(line, [10, 10], [0, 0], 50, [false, true, false])).toBeCloseTo(10 + 0.4, 9);
    // Slower at first: it speeds up from five to ten within the second.
    expect(runTimeS(line, [5, 10], [0, 0], 50, [false, false, false])).toBeCloseTo(10 + 0.05 + (5 / 50 + 10 / 50) + (50 - 75 / 100 - 1) / 10, 6);
    // A wait is in it as it is.
    expect(
      runTimeS(
        [
          [0, 0],
          [50, 0],
          [50, 0],
          [100, 0],
        ],
        [10, 0, 10],
        [0, 3, 0],
        50,
        [false, true, true, false],
      ),
    ).toBeCloseTo(10 + 0.4 + 3, 9);
    // Too short to come to its feed: a triangle.
    expect(
      runTimeS(
        [
          [0, 0],
          [1, 0],
        ],
        [100],
        [0],
        4,
        [false, false],
      ),
    ).toBeCloseTo(1, 9);
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

describe("motion by command line", () => {
  const { runVerb, refusal } = headlessOf(MOTION_VERBS);
  const machine = { axes: ["X", "Y"] };
  it("steps: from the drive, or from what was measured; never from both, nor from half", () => {
    expect(runVerb("steps", { stepsPerTurn: 200, microsteps: 16, travelPerTurn_mm: 40 })).toEqual({ stepsPerMm: 80 });
    expect(runVerb("steps", { stepsPerMm: 80, asked_mm: 100, measured_mm: 98 })).toEqual({ stepsPerMm: expect.closeTo((80 * 100) / 98, 9) });
    expect(refusal("steps", { stepsPerTurn: 200, microsteps: 16 })).toBe("travelPerTurn_mm");
    expect(refusal("steps", { stepsPerMm: 80, asked_mm: 100 })).toBe("measured_mm");
    expect(refusal("steps", { measured_mm: 98 })).toBe("stepsPerMm");
    expect(refusal("steps", {})).toBe("stepsPerTurn");
    expect(refusal("steps", { stepsPerTurn: 200, microsteps: 16, travelPerTurn_mm: 40, asked_mm: 5 })).toBe("asked_mm");
  });
  it("motion: the sum of moves that each begin and end at rest", () => {
    // A hundred at ten, ramps of a fifth of a second each; one millimetre is a triangle.
    expect(runVerb("motion", { moves_mm: [100, -1], feed_mm_s: 10, acceleration_mm_s2: 50 })).toEqual({
      time_s: expect.closeTo(10 + 0.2 + 2 * Math.sqrt(1 / 50), 9),
    });
    expect(runVerb("motion", { moves_mm: [], feed_mm_s: 10, acceleration_mm_s2: 50 })).toEqual({ time_s: 0 });
  });
  it("gcode: times or one feed, as many as points; a machine whose letters, stand and travel can be", () => {
    const base = {
      path_mm: [
        [0, 0],
        [100, 0],
        [100, 50],
      ],
      feed_mm_s: 5,
      machine,
    };
    expect(refusal("gcode", base)).toBe("was not refused");
    for (const [more, path] of [
      [{ feed_mm_s: undefined }, "times_s"],
      [{ times_s: [0, 20, 30] }, "times_s"],
      [{ feed_mm_s: undefined, times_s: [0, 20] }, "times_s"],
      [{ feed_mm_s: undefined, times_s: [0, 20, 19] }, "times_s"],
      [{ feed_mm_s: undefined, times_s: [0, 20, 30], waits: [{ index: 1, wait_s: 2 }] }, "waits"],
      [{ waits: [{ index: 3, wait_s: 2 }] }, "waits"],
      [
        {
          tipPath_mm: [
            [0, 0],
            [1, 1],
          ],
        },
        "tipPath_mm",
      ],
      [{ machine: { axes: ["X", "X"] } }, "machine.axes"],
      [{ machine: { axes: ["X", "Y", "Z"] } }, "machine.axes"],
      [{ machine: { axes: ["X", "Y"], turn: { axis: "X", deg: 90, passes: 4 } } }, "machine.axes"],
      [{ machine: { axes: ["X", "Y"], length_mm: 500 } }, "machine.span_mm"],
      [{ machine: { axes: ["X", "Y"], span_mm: 500 } }, "machine.length_mm"],
      [{ machine: { axes: ["X", "Y"], length_mm: 500, toBlock_mm: 100, span_mm: 401 } }, "machine.span_mm"],
    ] as const)
      expect(refusal("gcode", { ...base, ...more }), JSON.stringify(more)).toBe(path);
    expect(refusal("gcode", { ...base, machine: { axes: ["X", "Y"], length_mm: 500, toBlock_mm: 100, span_mm: 400 } })).toBe("was not refused");
    expect(refusal("gcode", { ...base, waits: [{ index: 2, wait_s: 2 }] })).toBe("was not refused");
  });
});
