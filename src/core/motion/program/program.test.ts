import fc from "fast-check";
import { generate } from "peggy";
import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../../tests/helpers/headless";
import { distance, lineLength, nearest, type Point } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { carriageFaces, carriagesOf, requireTravel, widestStretch } from "./carriages";
import type { Machine } from "./machine";
import { writeProgram } from "./program";
import { readProgram } from "./reader";
import { correctedSteps, moveTimeS, stepsPerMm } from "./steps";
import { MOTION_VERBS } from "./verbs";

const TWO: Machine = { axes: ["X", "Y"], layout: null, travelMm: null, turn: null };
const FOUR: Machine = { axes: ["X", "Y", "U", "V"], layout: { lengthMm: 1000, toBlockMm: 150, spanMm: 600 }, travelMm: null, turn: null };
const square = (x: number, y: number, side: number): Point[] => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];

describe("steps and times", () => {
  it("are geometry.md 8's", () => {
    expect(stepsPerMm(200, 16, 40)).toBe(80);
    expect(correctedSteps(200, 250, 602.4)).toBeCloseTo(83, 2);
    expect(moveTimeS(100, 10, 50)).toBeCloseTo(10.2, 12);
    expect(moveTimeS(1, 10, 50)).toBeCloseTo(0.283, 3);
    expect(moveTimeS(-100, 10, 50)).toBeCloseTo(10.2, 12);
    expect(moveTimeS(0, 10, 50)).toBe(0);
    // Both forms meet where the speed is just reached.
    expect(moveTimeS(2, 10, 50)).toBeCloseTo(moveTimeS(2 + 1e-9, 10, 50), 6);
  });
});

describe("carriages", () => {
  it("are where similar triangles put them, and lead back to the faces", () => {
    const { left, right } = carriagesOf({ lengthMm: 1000, toBlockMm: 200, spanMm: 600 }, [[100, 0]], [[70, 30]]);
    // 600 mm take 30 off: 200 before take 10 on, 200 behind 10 more off.
    expect(left[0]?.[0]).toBeCloseTo(110, 12);
    expect(left[0]?.[1]).toBeCloseTo(-10, 12);
    expect(right[0]?.[0]).toBeCloseTo(60, 12);
    expect(right[0]?.[1]).toBeCloseTo(40, 12);
    const point = fc.tuple(fc.double({ min: -500, max: 500, noNaN: true }), fc.double({ min: -500, max: 500, noNaN: true }));
    fc.assert(
      fc.property(point, point, fc.double({ min: 0, max: 300, noNaN: true }), fc.double({ min: 50, max: 600, noNaN: true }), (p, q, a, s) => {
        const layout = { lengthMm: a + s + 120, toBlockMm: a, spanMm: s };
        const out = carriagesOf(layout, [p], [q]);
        const back = carriageFaces(layout, out.left, out.right);
        expect(distance(back.root[0] as Point, p)).toBeLessThan(1e-6);
        expect(distance(back.tip[0] as Point, q)).toBeLessThan(1e-6);
      }),
    );
  });
  it("outside its travel a point is refused by its number, its carriage and its axis; the widest stretch is the diagonal's", () => {
    expect(() =>
      requireTravel(
        [
          {
            name: "far carriage",
            axes: ["U", "V"],
            line: [
              [0, 0],
              [10, 460],
            ],
          },
        ],
        [
          [0, 450],
          [0, 450],
        ],
      ),
    ).toThrow(/point 1 the far carriage would be at V460\.000, outside its travel from 0 to 450/);
    expect(
      widestStretch(
        400,
        [
          [0, 0],
          [0, 0],
        ],
        [
          [0, 0],
          [300, 0],
        ],
      ),
    ).toEqual({ mm: 100, at: 1 });
  });
});

/**
 * The published line grammar (NIST IR 6556, appendix E: a line is an optional block delete, an optional line number, then words and comments), for a general-purpose parser generator.
 * U, V and W are added: the far carriage's letters.
 */
const PUBLISHED = generate(`
program = lines:(@line "\\n")* { return lines; }
line = s "/"? s number:(@line_number s)? segments:(@segment s)* { return { number, words: segments.filter((each) => each.letter) }; }
line_number = [Nn] s digits:$([0-9]|1..5|) { return Number(digits); }
segment = comment / word
comment = "(" text:$[^()\\n]* ")" { return { comment: text }; }
word = letter:[A-DF-MP-Z]i s value:real { return { letter: letter.toUpperCase(), value }; }
real = sign:[+-]? s digits:$([0-9]+ ("." [0-9]*)? / "." [0-9]+) { return Number((sign ?? "") + digits); }
s = [ \\t]*
`);
interface PublishedLine {
  number: number | null;
  words: { letter: string; value: number }[];
}

/** A second interpreter, of nothing but what this writer writes: one statement a line, absolute millimetres. */
function followed(text: string, axes: readonly string[]) {
  const at = new Map(axes.map((axis) => [axis, 0]));
  const seen: { place: number[]; timeS: number }[] = [];
  let [time, inverse] = [0, false];
  for (const line of PUBLISHED.parse(text) as PublishedLine[]) {
    const words = Object.fromEntries(line.words.map(({ letter, value }) => [letter, value])) as Record<string, number>;
    if (words.G === 93) inverse = true;
    if (words.G === 4) {
      time += words.P as number;
      seen.push({ place: axes.map((axis) => at.get(axis) as number), timeS: time });
    }
    if (words.G !== 0 && words.G !== 1) continue;
    if (!axes.some((axis) => axis in words)) continue;
    const before = axes.map((axis) => at.get(axis) as number);
    for (const axis of axes) if (axis in words) at.set(axis, words[axis] as number);
    const place = axes.map((axis) => at.get(axis) as number);
    if (words.G === 1)
      time += inverse
        ? 60 / (words.F as number)
        : (60 * Math.hypot((place[0] as number) - (before[0] as number), (place[1] as number) - (before[1] as number))) / (words.F as number);
    seen.push({ place, timeS: time });
  }
  return seen;
}

const anyCut = fc
  .array(
    fc.record({
      x: fc.double({ min: -200, max: 400, noNaN: true }),
      y: fc.double({ min: -200, max: 400, noNaN: true }),
      u: fc.double({ min: -50, max: 50, noNaN: true }),
      s: fc.double({ min: 0.2, max: 40, noNaN: true }),
      wait: fc.boolean(),
    }),
    {
      minLength: 2,
      maxLength: 30,
    },
  )
  .map((legs) => {
    const [root, tip, times]: [Point[], Point[], number[]] = [[], [], []];
    let t = 0;
    for (const [i, { x, y, u, s, wait }] of legs.entries()) {
      if (i > 0) t += s;
      root.push([x, y]);
      tip.push([x + u, y - u]);
      times.push(t);
      if (wait) {
        t += 1.5;
        root.push([x, y]);
        tip.push([x + u, y - u]);
        times.push(t);
      }
    }
    return { root, tip, times };
  });

describe("programs", () => {
  it("read back as the same way at the same times, two axes and four, and a second interpreter agrees", () => {
    fc.assert(
      fc.property(anyCut, fc.boolean(), ({ root, tip, times }, four) => {
        const machine = four ? FOUR : TWO;
        const { text, timeS } = writeProgram(machine, root, four ? tip : null, times);
        expect(timeS).toBeCloseTo((times.at(-1) as number) - (times[0] as number), 6);
        const back = readProgram(text, machine);
        expect(back.warnings).toEqual([]);
        expect(back.path).toHaveLength(root.length);
        for (const [i, point] of back.path.entries()) {
          expect(distance(point, root[i] as Point)).toBeLessThan(0.001);
          if (four) expect(distance(back.tip?.[i] as Point, tip[i] as Point)).toBeLessThan(0.001);
          expect(Math.abs((back.timesS[i] as number) - (times[i] as number))).toBeLessThan(0.001);
        }
        const other = followed(text, machine.axes);
        const { left } = four ? carriagesOf(FOUR.layout as NonNullable<typeof FOUR.layout>, root, tip) : { left: root };
        for (const [i, { place, timeS: at }] of other.entries()) {
          expect(distance([place[0] as number, place[1] as number], left[i] as Point)).toBeLessThan(0.001);
          expect(at).toBeCloseTo(times[i] as number, 3);
        }
      }),
      { numRuns: 60, seed: 6556 },
    );
  });
  it("say nothing but published words, each group once a line, as tables 5 to 8 of NIST IR 6556 have them", () => {
    const groups: Record<string, string> = { G0: "1", G1: "1", G4: "0", G17: "2", G21: "6", G90: "3", G93: "5", G94: "5", M2: "4", M3: "7", M5: "7" };
    fc.assert(
      fc.property(anyCut, fc.boolean(), fc.integer({ min: 0, max: 1000 }), ({ root, tip, times }, four, hot) => {
        const { text } = writeProgram(four ? FOUR : TWO, root, four ? tip : null, times, 3, "x (y)\nz", {
          heat: root.map(() => hot),
          decimals: 3,
          longest: 80,
        });
        let [feed, ended] = [false, false];
        for (const { words } of PUBLISHED.parse(text) as PublishedLine[]) {
          if (words.length === 0) continue;
          expect(ended).toBe(false);
          const commands = words.filter(({ letter }) => letter === "G" || letter === "M").map(({ letter, value }) => `${letter}${value}`);
          for (const command of commands) expect(Object.keys(groups)).toContain(command);
          expect(new Set(commands.map((command) => groups[command])).size).toBe(commands.length);
          const letters = words.map(({ letter }) => letter);
          // 3.5.18: in inverse time every G1 has its own F; 3.5.4: a dwell has its P; 3.7.2: a spindle's S belongs to what turns it.
          if (commands.includes("G1")) {
            if (four) expect(letters).toContain("F");
            feed ||= letters.includes("F");
            expect(feed).toBe(true);
          }
          if (commands.includes("G4")) expect(letters).toContain("P");
          if (commands.includes("M3")) expect(letters).toContain("S");
          for (const { letter, value } of words) if (letter === "F" || letter === "P" || letter === "S") expect(value).toBeGreaterThanOrEqual(0);
          ended = commands.includes("M2");
        }
        expect(ended).toBe(true);
        for (const line of text.split("\n")) expect(line.length).toBeLessThanOrEqual(80);
      }),
      { numRuns: 60, seed: 6556 },
    );
    expect(() =>
      writeProgram(
        FOUR,
        [
          [0, 0],
          [123.4567, 89.1234],
        ],
        [
          [0, 0],
          [98.7654, 45.6789],
        ],
        [0, 10],
        0,
        "x",
        { longest: 40 },
      ),
    ).toThrow(/longest must be at least/);
  });
  it("arcs represent the points on them: fewer lines, the same way within a hundredth, the same time; corners, waits and other feeds end them", () => {
    const round: Point[] = Array.from({ length: 181 }, (_, k) => [40 + 25 * Math.cos((k * Math.PI) / 90), 40 + 25 * Math.sin((k * Math.PI) / 90)]);
    const line: Point[] = [[0, 40], [65, 40], ...round.slice(1), [90, 40], [90, 60]];
    let at = 0;
    const times = line.map((p, i) => {
      if (i > 0) at += distance(p, line[i - 1] as Point) / (i < 80 ? 5 : 4);
      return at;
    });
    const [lines, arcs] = [writeProgram(TWO, line, null, times), writeProgram(TWO, line, null, times, 0, "x", { arcs: true })];
    expect(arcs.text.split("\n").length).toBeLessThan(20);
    expect(arcs.text).toMatch(/G3 /);
    expect(arcs.timeS).toBeCloseTo(lines.timeS, 9);
    const read = readProgram(arcs.text, TWO);
    expect(read.timesS.at(-1)).toBeCloseTo(times.at(-1) as number, 3);
    for (const p of line) expect(nearest(p, read.path, false).distance).toBeLessThan(0.02);
    for (const p of read.path.slice(1)) expect(nearest(p, line, false).distance).toBeLessThan(0.05);
    // Turned the other way it goes clockwise.
    const other = [...line].reverse();
    expect(
      writeProgram(
        TWO,
        other,
        null,
        other.map((_, i) => i),
        0,
        "x",
        { arcs: true },
      ).text,
    ).not.toMatch(/G3 /);
    const back = [...line].reverse();
    const backTimes = back.map((p, i) => back.slice(0, i + 1).reduce((sum, q, k) => (k === 0 ? 0 : sum + distance(q, back[k - 1] as Point) / 5), 0) + 0 * p[0]);
    expect(writeProgram(TWO, back, null, backTimes, 0, "x", { arcs: true }).text).toMatch(/G2 /);
  });
  it("any line of arcs, straights and feeds comes back the same", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            radius: fc.double({ min: 1, max: 60, noNaN: true }),
            turn: fc.double({ min: -3, max: 3, noNaN: true }),
            points: fc.integer({ min: 1, max: 40 }),
            feed: fc.constantFrom(2, 5),
          }),
          { minLength: 1, maxLength: 6 },
        ),
        (pieces) => {
          const line: Point[] = [[100, 100]];
          const times = [0];
          let heading = 0;
          for (const { radius, turn, points, feed } of pieces)
            for (let k = 0; k < points; k++) {
              heading += turn / points;
              const mm = Math.max(0.05, (radius * Math.abs(turn)) / points);
              const [x, y] = line.at(-1) as Point;
              line.push([x + mm * Math.cos(heading), y + mm * Math.sin(heading)]);
              times.push((times.at(-1) as number) + mm / feed);
            }
          const { text, timeS } = writeProgram(TWO, line, null, times, 0, "x", { arcs: true });
          const read = readProgram(text, TWO);
          expect(timeS).toBeCloseTo(times.at(-1) as number, 6);
          expect(Math.abs((read.timesS.at(-1) as number) - (times.at(-1) as number))).toBeLessThan(0.01 + 1e-4 * timeS);
          for (const p of line) expect(nearest(p, read.path, false).distance).toBeLessThan(0.03);
        },
      ),
      { numRuns: 150, seed: 11 },
    );
  });
  it("heat is off before the first move and after the last, no rapid move has it on, one statement a line", () => {
    const { text, timeS } = writeProgram({ ...TWO, turn: { axis: "A", deg: 60, passes: 6 } }, square(0, 0, 50), null, [0, 10, 20, 30], 2, "a (nasty) name");
    const lines = text.trim().split("\n");
    expect(timeS).toBeCloseTo(6 * 32, 9);
    let on = false;
    for (const line of lines) {
      expect(line.match(/\bG\d|\bM\d/g)?.length ?? 0).toBeLessThanOrEqual(1);
      expect(line.replace(/^\((?:[^()]*)\)$/, "")).not.toMatch(/[()]/);
      if (line.startsWith("M3")) on = true;
      if (line.startsWith("M5")) on = false;
      if (line.startsWith("G0 ")) expect(on).toBe(false);
      if (line.startsWith("G1 ")) expect(on).toBe(true);
    }
    expect(lines.slice(-2)).toEqual(["M5", "M2"]);
    expect(readProgram(text, { ...TWO, turn: { axis: "A", deg: 60, passes: 6 } }).turns.map(({ deg }) => deg)).toEqual([0, 60, 120, 180, 240, 300]);
  });
  it("two axes cannot lead two ways; time must go on where the wire does", () => {
    expect(() =>
      writeProgram(
        TWO,
        [
          [0, 0],
          [1, 0],
        ],
        [
          [0, 0],
          [2, 0],
        ],
        [0, 1],
      ),
    ).toThrow(/two axes lead both ends alike/);
    expect(() =>
      writeProgram(
        TWO,
        [
          [0, 0],
          [1, 0],
        ],
        null,
        [0, 0],
      ),
    ).toThrow(/must be later/);
    expect(() =>
      writeProgram(
        {
          ...FOUR,
          travelMm: [
            [0, 450],
            [0, 450],
          ],
        },
        [
          [0, 0],
          [445, 0],
        ],
        [
          [0, 0],
          [400, 0],
        ],
        [0, 10],
      ),
    ).toThrow(/near carriage would be at X456/);
  });
  const read = (text: string) => readProgram(text, TWO);
  it("follows the published words: inches, increments, arcs both ways, a bare axis under the last motion (NIST IR 6556, 3.5)", () => {
    expect(read("G20 G90 G94\nG0 X1 Y0\nG1 X2 F60\nM2").path).toEqual([
      [25.4, 0],
      [50.8, 0],
    ]);
    // 60 inches a minute: one second an inch.
    expect(read("G20 G94\nG0 X1 Y0\nG1 X2 F60\nM2").timesS).toEqual([0, 1]);
    expect(read("G21 G91 G94\nG0 X10\nG1 X10 F600\nX5\nY-5\nM2").path).toEqual([
      [10, 0],
      [20, 0],
      [25, 0],
      [25, -5],
    ]);
    const quarter = read("G21 G90 G94 G17\nG0 X10 Y0\nG3 X0 Y10 I-10 J0 F600\nM2");
    expect(lineLength(quarter.path)).toBeCloseTo((Math.PI / 2) * 10, 2);
    for (const point of quarter.path) expect(Math.hypot(...point)).toBeCloseTo(10, 2);
    expect(quarter.timesS.at(-1)).toBeCloseTo(Math.PI / 2, 9);
    const other = read("G21 G90 G94\nG0 X10 Y0\nG2 X0 Y10 R-10 F600\nM2");
    expect(lineLength(other.path)).toBeCloseTo(1.5 * Math.PI * 10, 1);
    expect(read("g21 g94 g 0 x 1 0 y0\ng1 x+2. 5 f600 (spaces anywhere)\nm2").path).toEqual([
      [10, 0],
      [2.5, 0],
    ]);
    expect(read("G21 G93\nG0 X0 Y0\nG1 X10 F30\nM2").timesS).toEqual([0, 2]);
  });
  it.each([
    ["G1 X10", /line 1: a move without a feed/],
    ["G21\nG93\nG1 X10 F5\nG1 X20", /line 4: in inverse time every move takes its own F/],
    ["G0 G1 X5", /line 1: G0 and G1 contradict/],
    ["G21 Q7", /line 1: Q is no axis/],
    ["G1 X1 X2 F5", /line 1: X is said twice/],
    ["G5 X1", /line 1: G5 is not read/],
    ["M8", /line 1: M8 is not read/],
    ["G1 X[1+2] F5", /line 1: parameters and expressions/],
    ["G1 X1 F5 (open", /line 1: a comment is not closed/],
    ["X5", /line 1: a place is said without/],
    ["G4", /line 1: G4 takes P/],
    ["G1 X F5", /line 1: "XF5" is no word/],
    ["G0 X0 Y0\nG2 X10 Y0 R2 F100", /line 2: an arc of radius 2 mm does not reach/],
    ["G0 X0 Y0\nG2 X10 Y0 I1 J0 F100", /line 2: an arc's end lies .* off its circle/],
    ["G1 X1 F0", /line 1: F must be more than 0/],
  ])("%s is refused with its line and the reason", (text, why) => {
    expect(() => read(text)).toThrow(why);
  });
  it("says where the heat is on, and what a program leaves undone", () => {
    const { hot, warnings } = read("G21 G94\nG0 X0 Y0\nM3 S1000\nG1 X10 F600\nM5\nG0 X20");
    expect(hot).toEqual([true, false, false]);
    expect(warnings.map(({ code }) => code)).toEqual(["no-end"]);
    expect(read("G21 G94\nG0 X0 Y0\nM3\nG1 X10 F600").warnings.map(({ code }) => code)).toEqual(["no-end", "heat-left-on"]);
  });
  it("a corrupted program of any kind is followed or refused in words, never a crash", () => {
    const { text } = writeProgram(FOUR, square(0, 0, 80), square(10, 0, 50), [0, 10, 20, 30], 3);
    const sign = fc.constantFrom(..."GMXYUVFIJRPS0123456789.-+()[]#;% \n/%éO");
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(text.length), fc.constantFrom("put", "take", "swap"), sign), { minLength: 1, maxLength: 6 }), (changes) => {
        let corrupt = text;
        for (const [at, how, by] of changes) corrupt = corrupt.slice(0, at) + (how === "take" ? "" : by) + corrupt.slice(how === "put" ? at : at + 1);
        try {
          const { path, timesS, hot } = readProgram(corrupt, FOUR);
          expect(timesS).toHaveLength(path.length);
          expect(hot).toHaveLength(path.length);
          for (const [i, t] of timesS.entries()) expect(Number.isFinite(t) && t >= (timesS[i - 1] ?? 0)).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(CoreError);
          expect((error as CoreError).message).toMatch(/^line \d+: /);
        }
      }),
      { numRuns: Number(process.env.UPWIND_PROGRAMS ?? 600), seed: 8 },
    );
  }, 600_000);
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
