import fc from "fast-check";
import { generate } from "peggy";
import { describe, expect, it } from "vitest";
import { refusal } from "../../../tests/helpers/headless";
import { offset } from "../geometry/offset";
import { distance, isInside, type Line, lineLength, nearest, type Outline, type Point, type Region, regionArea } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import { carriageFaces, carriagesOf, requireTravel, widestStretch } from "./carriages";
import { runTimeS } from "./feedAlong";
import type { Machine } from "./machine";
import { onePath } from "./onePath";
import { writeProgram } from "./program";
import { readProgram } from "./reader";
import { retractPath } from "./retractPath";
import { correctedSteps, moveTimeS, stepsPerMm } from "./steps";
import { visitOrder } from "./visitOrder";

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

describe("time along a path", () => {
  it("is the closed form's for one move, and its sum where every corner is a stop", () => {
    for (const [mm, v, a] of [
      [100, 10, 50],
      [1, 10, 50],
      [37, 3, 400],
    ] as const)
      expect(
        runTimeS(
          [
            [0, 0],
            [mm, 0],
          ],
          [v],
          [0],
          a,
          [true, true],
        ),
      ).toBeCloseTo(moveTimeS(mm, v, a), 9);
    const line: Point[] = [
      [0, 0],
      [100, 0],
      [100, 1],
      [100, 1],
      [60, 1],
    ];
    expect(runTimeS(line, [10, 10, 0, 10], [0, 0, 2.5, 0], 50, [true, true, true, true, true])).toBeCloseTo(
      moveTimeS(100, 10, 50) + moveTimeS(1, 10, 50) + 2.5 + moveTimeS(40, 10, 50),
      9,
    );
  });
  it("straight through, points on the way cost nothing, and slower stretches are slowed down for in time", () => {
    const many: Point[] = Array.from({ length: 201 }, (_, i) => [i / 2, 0]);
    expect(
      runTimeS(
        many,
        many.slice(1).map(() => 10),
        many.slice(1).map(() => 0),
        50,
        many.map(() => false),
      ),
    ).toBeCloseTo(moveTimeS(100, 10, 50), 6);
    // 50 mm at 10 then 50 at 2: the change is (10^2 - 2^2)/2A = 0.96 mm long.
    const two: Point[] = [
      [0, 0],
      [50, 0],
      [100, 0],
    ];
    const [A, slowing] = [50, 8 / 50];
    const first = 10 / A + (50 - 1 - 0.96) / 10 + slowing;
    const second = (50 - 0.04) / 2 + 2 / A;
    expect(runTimeS(two, [10, 2], [0, 0], A, [false, false, false])).toBeCloseTo(first + second, 6);
  });
});

describe("the way out", () => {
  it("goes back along what is cut by the shortest way, never over what is not", () => {
    // In along a link, round three sides of a square, and stopped.
    const line: Point[] = [
      [-20, 0],
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
      [0, 10],
    ];
    expect(retractPath(line, null)).toMatchObject({ lengthMm: 150 + 20, near: [...line].reverse() });
    // Round a loop and past its beginning: the loop is closed, and out is short.
    const closed: Point[] = [
      [-20, 0],
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
      [0, 0],
      [40, 0],
    ];
    expect(retractPath(closed, null).near).toEqual([
      [40, 0],
      [0, 0],
      [-20, 0],
    ]);
    expect(retractPath(line, line).far).toEqual([...line].reverse());
  });
  it("is no longer than any random walk along the same lines", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })), { minLength: 2, maxLength: 40 }), (places) => {
        const line = places.map(([x, y]): Point => [x * 10, y * 10]).filter((p, i, all) => i === 0 || distance(p, all[i - 1] as Point) > 0);
        const out = retractPath(line, null);
        expect(out.lengthMm).toBeLessThanOrEqual(lineLength(line) + 1e-9);
        expect(lineLength(out.near)).toBeCloseTo(out.lengthMm, 9);
        if (line.length > 1) {
          expect(out.near[0]).toEqual(line.at(-1));
          expect(out.near.at(-1)).toEqual(line[0]);
        }
        const edge = (a: Point, b: Point) =>
          line.some(
            (p, i) =>
              i > 0 && ((distance(p, a) === 0 && distance(line[i - 1] as Point, b) === 0) || (distance(p, b) === 0 && distance(line[i - 1] as Point, a) === 0)),
          );
        for (let i = 1; i < out.near.length; i++) expect(edge(out.near[i - 1] as Point, out.near[i] as Point)).toBe(true);
        // Bellman and Ford's of the test's own.
        const keys = [...new Set(line.map(String))];
        const best = new Map(keys.map((key) => [key, key === String(line[0]) ? 0 : Number.POSITIVE_INFINITY]));
        for (let round = 0; round < keys.length; round++)
          for (let i = 1; i < line.length; i++) {
            const [a, b] = [String(line[i - 1]), String(line[i])];
            const mm = distance(line[i - 1] as Point, line[i] as Point);
            best.set(b, Math.min(best.get(b) as number, (best.get(a) as number) + mm));
            best.set(a, Math.min(best.get(a) as number, (best.get(b) as number) + mm));
          }
        expect(out.lengthMm).toBeCloseTo(best.get(String(line.at(-1))) as number, 9);
      }),
      { numRuns: 200, seed: 5 },
    );
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

/** Islands on a loose grid, some with holes, some with an island in the hole. */
const anyScene = fc
  .record({
    cells: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 3 })), {
      minLength: 1,
      maxLength: 9,
      selector: ([i, j]) => `${i} ${j}`,
    }),
    kinds: fc.array(
      fc.record({
        sides: fc.integer({ min: 3, max: 9 }),
        turn: fc.double({ min: 0, max: 6, noNaN: true }),
        size: fc.double({ min: 12, max: 22, noNaN: true }),
        holes: fc.integer({ min: 0, max: 2 }),
        island: fc.boolean(),
      }),
      { minLength: 9, maxLength: 9 },
    ),
    kerf: fc.double({ min: 0.4, max: 2, noNaN: true }),
  })
  .map(({ cells, kinds, kerf }) => {
    const ring = (x: number, y: number, radius: number, sides: number, turn: number): Point[] =>
      Array.from(
        { length: sides },
        (_, i): Point => [x + radius * Math.cos(turn + (2 * Math.PI * i) / sides), y + radius * Math.sin(turn + (2 * Math.PI * i) / sides)],
      );
    const shapes: Region[] = [];
    for (const [k, [i, j]] of cells.entries()) {
      const { sides, turn, size, holes, island } = kinds[k] as (typeof kinds)[number];
      const [x, y] = [50 * i, 50 * j];
      const inner = size * Math.cos(Math.PI / sides) * 0.75;
      if (holes === 1 && inner > 7) {
        shapes.push({ outline: ring(x, y, size, sides, turn), holes: [ring(x, y, inner, 12, 0)] });
        if (island && inner > 8) shapes.push({ outline: ring(x, y, inner - 5, 4, turn), holes: [] });
      } else if (holes === 2 && inner > 9)
        shapes.push({ outline: ring(x, y, size, sides, turn), holes: [ring(x - inner / 2, y, inner / 4, 7, 1), ring(x + inner / 2, y, inner / 4, 7, 2)] });
      else shapes.push({ outline: ring(x, y, size, sides, turn), holes: [] });
    }
    return { shapes, kerf };
  });

describe("one unbroken path", () => {
  it("frees every part of any scene by one line: along every edge half a kerf off, through no part but by the slits that are listed", () => {
    fc.assert(
      fc.property(
        anyScene,
        fc.constantFrom("tree" as const, "shorter" as const),
        fc.constantFrom("below" as const, "above" as const),
        ({ shapes, kerf }, order, first) => {
          const found = onePath({ shapes, kerfMm: kerf, join: "apart", order, first });
          const tree = order === "tree" ? found : onePath({ shapes, kerfMm: kerf, join: "apart" });
          const cut = offset(
            shapes.map(({ outline, holes }) => ({ outline, holes: holes.map((hole) => [...hole].reverse()) })),
            kerf / 2,
          );
          expect(found.slits).toHaveLength(shapes.reduce((sum, { holes }) => sum + holes.length, 0));
          // Every cut line is gone round whole: each of its corners is on the path.
          const onPath = (point: Point) => nearest(point, found.path, false).distance;
          for (const { outline, holes } of cut) for (const line of [outline, ...holes]) for (const point of line) expect(onPath(point)).toBeLessThan(1e-6);
          const islands = cut.length;
          expect(tree.links.length).toBeLessThanOrEqual(islands);
          expect(found.lengthMm).toBeLessThanOrEqual(tree.lengthMm + 1e-6);
          expect(lineLength(found.path)).toBeCloseTo(found.lengthMm, 6);
          expect(distance(found.path[0] as Point, found.path.at(-1) as Point)).toBeLessThan(1e-9);
          // A tree's length is the cut lines and every link and slit there and back.
          const edges = cut.flatMap(({ outline, holes }) => [outline, ...holes]).reduce((sum, line) => sum + lineLength([...line, line[0] as Point]), 0);
          expect(tree.lengthMm).toBeCloseTo(edges + 2 * [...tree.links, ...tree.slits].reduce((sum, line) => sum + lineLength(line), 0), 3);
          // Between the points of the path nothing of a part is taken but by a slit.
          const inPart = (point: Point) => cut.some(({ outline, holes }) => isInside(point, outline) && !holes.some((hole) => isInside(point, hole)));
          const onSlit = (point: Point) => found.slits.some((slit) => nearest(point, slit, false).distance < 1e-6);
          for (let i = 1; i < found.path.length; i++) {
            const [a, b] = [found.path[i - 1] as Point, found.path[i] as Point];
            for (const t of [0.25, 0.5, 0.75]) {
              const middle: Point = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
              if (cut.every(({ outline, holes }) => [outline, ...holes].every((line) => nearest(middle, line).distance > 1e-4)) && inPart(middle))
                expect(onSlit(middle)).toBe(true);
            }
          }
        },
      ),
      { numRuns: Number(process.env.UPWIND_SCENES ?? 60), seed: 7 },
    );
  }, 600_000);
  it("goes once round small islands that are far apart, out and back where they are in a row; the round is a good one", () => {
    const ring = Array.from({ length: 12 }, (_, k) => square(300 * Math.cos((k * Math.PI) / 6), 300 * Math.sin((k * Math.PI) / 6), 10));
    const input = { shapes: ring.map((outline) => ({ outline, holes: [] })), kerfMm: 1, join: "apart" as const, start: [-330, 0] as Point };
    const [tree, shorter] = [onePath(input), onePath({ ...input, order: "shorter" })];
    expect(shorter.lengthMm).toBeLessThan(0.75 * tree.lengthMm);
    expect(shorter.links).toHaveLength(13);
    const row = Array.from({ length: 6 }, (_, k) => square(50 * k, 0, 45));
    const rowed = { ...input, shapes: row.map((outline) => ({ outline, holes: [] })), start: [-10, 20] as Point };
    expect(onePath({ ...rowed, order: "shorter" }).path).toEqual(onePath(rowed).path);
  });
  it("an order of islands is within a tenth of the best of twenty random beginnings, on fifty scenes", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 600 })), { minLength: 4, maxLength: 40 }),
        fc.integer({ min: 1, max: 1e9 }),
        (places, seed) => {
          const start: Point = [-10, 300];
          const round = (order: readonly number[]) => lineLength([start, ...order.map((i) => places[i] as Point), start]);
          const own = round(visitOrder(places, start));
          expect([...visitOrder(places, start)].sort((a, b) => a - b)).toEqual(places.map((_, i) => i));
          // Park and Miller's generator: the same orders every time.
          let state = seed;
          const uniform = () => {
            state = (state * 48271) % 2147483647;
            return state / 2147483647;
          };
          let best = Number.POSITIVE_INFINITY;
          for (let restart = 0; restart < 20; restart++) {
            const order = places.map((_, i) => i).sort(() => uniform() - 0.5);
            // A plain 2-opt of the test's own, from a random order.
            for (let better = true; better; ) {
              better = false;
              for (let i = 0; i < order.length - 1; i++)
                for (let k = i + 1; k < order.length; k++) {
                  const turned = [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
                  if (round(turned) < round(order) - 1e-6) {
                    order.splice(0, order.length, ...turned);
                    better = true;
                  }
                }
            }
            best = Math.min(best, round(order));
            if (places.length > 20 && restart > 4 && process.env.UPWIND_SCENES === undefined) break;
          }
          expect(own).toBeLessThanOrEqual(1.1 * best);
        },
      ),
      { numRuns: process.env.UPWIND_SCENES ? 50 : 12, seed: 3 },
    );
  }, 600_000);
  it("slits and bars go where they are wanted, each still the only thing taken from its part", () => {
    const frame = { outline: square(0, 0, 100), holes: [square(10, 30, 40)] };
    const free = onePath({ shapes: [frame], kerfMm: 1, join: "apart" });
    // On its own at the thinnest place, 10 mm and half a kerf on either side, at the left.
    expect(lineLength(free.slits[0] as Line)).toBeCloseTo(11, 6);
    const moved = onePath({ shapes: [frame], kerfMm: 1, join: "apart", slitsAt: [[95, 50]] });
    expect(lineLength(moved.slits[0] as Line)).toBeCloseTo(51, 6);
    expect(moved.slits[0]?.flat()[1]).toBeCloseTo(50, 6);
    const two = { outline: square(0, 0, 100), holes: [square(10, 40, 20), square(60, 40, 20)] };
    expect(() => onePath({ shapes: [two], kerfMm: 1, join: "apart", slitsAt: [[31, 50]] })).not.toThrow();
    const pair = [square(0, 0, 40), square(60, 0, 40)].map((outline) => ({ outline, holes: [] }));
    const bar = onePath({ shapes: pair, kerfMm: 1, join: "joined", barMm: 5, barsAt: [[50, 35]] });
    expect(bar.bars[0]?.[0]?.[1]).toBeCloseTo(35, 6);
  });
  it("links are a minimum spanning tree's: three squares in a row are tied by their gaps", () => {
    const found = onePath({
      shapes: [square(0, 0, 10), square(30, 0, 10), square(70, 0, 10)].map((outline) => ({ outline, holes: [] })),
      kerfMm: 1,
      join: "apart",
      start: [-5.5, 5],
    });
    // 5 to the first, then gaps of 20 and 30 less a kerf each.
    expect(found.links.map((line) => lineLength(line))).toEqual([expect.closeTo(5, 6), expect.closeTo(19, 6), expect.closeTo(29, 6)]);
    expect(found.path[0]).toEqual([-5.5, 5]);
    expect(found.path.at(-1)).toEqual([-5.5, 5]);
  });
  it("joined, bars make one piece of the islands, and nothing is left to link but the start", () => {
    const shapes = [square(0, 0, 20), square(40, 0, 20), square(80, 5, 20)].map((outline) => ({ outline, holes: [] }));
    const found = onePath({ shapes, kerfMm: 1.2, join: "joined", barMm: 6 });
    expect(found.bars).toHaveLength(2);
    expect(found.links).toHaveLength(1);
    expect(found.slits).toEqual([]);
    // What is freed is the islands and the bars between them: 20 mm of 6 each.
    const outline = found.path.slice(1, -1);
    const area = Math.abs(regionArea({ outline, holes: [] }));
    const parts = offset([{ outline, holes: [] }], -0.6).reduce((sum, region) => sum + regionArea(region), 0);
    expect(parts).toBeCloseTo(3 * 400 + 2 * 20 * 6, -1);
    expect(area).toBeGreaterThan(parts);
    expect(() => onePath({ shapes, kerfMm: 1.2, join: "joined" })).toThrow(/bar_mm is required/);
    expect(() => onePath({ shapes, kerfMm: 1.2, join: "joined", barMm: 1 })).toThrow(/above the kerf/);
  });
  it("refuses what a wire cannot do, with the place: parts closer than the kerf, a hole gone in it, an outline across itself, a start within a part", () => {
    const refused = (shapes: Outline[], holes: Outline[] = [], more: object = {}) =>
      refusal(() => onePath({ shapes: shapes.map((outline, i) => ({ outline, holes: i === 0 ? holes : [] })), kerfMm: 1, join: "apart", ...more }));
    const close = refused([square(-50, 0, 20), square(0, 0, 20), square(20.8, 5, 20)]);
    expect([close.code, close.path]).toEqual(["no-solution", "kerf_mm"]);
    expect(close.message).toMatch(/parts 2 and 3 are 0\.80 mm apart/);
    expect(close.places?.map(([x]) => x).sort((a, b) => a - b)).toEqual([20, 20.8].map((x) => expect.closeTo(x, 6)));
    const gone = refused([square(0, 0, 20)], [square(9, 9, 0.8)]);
    expect([gone.code, gone.path, gone.places]).toEqual(["no-solution", "kerf_mm", [[9.4, 9.4].map((each) => expect.closeTo(each, 6))]]);
    const bow: Outline = [
      [0, 0],
      [20, 20],
      [20, 0],
      [0, 20],
    ];
    const crossed = refused([square(50, 0, 20), bow]);
    expect([crossed.code, crossed.path, crossed.places]).toEqual(["no-solution", "shapes.1.outline_mm", [[10, 10]]]);
    expect(refused([square(0, 0, 20)], [], { start: [10, 10] })).toMatchObject({ path: "start_mm", places: [[10, 10]] });
    // Moved there, the right hole's slit would run through the left one.
    const tall: Outline = [
      [0, -150],
      [100, -150],
      [100, 250],
      [0, 250],
    ];
    const two = { outline: tall, holes: [square(10, 40, 20), square(60, 40, 20)] };
    expect(refusal(() => onePath({ shapes: [two], kerfMm: 1, join: "apart", slitsAt: [[46, 50]] })).path).toBe("slitsAt");
  });
  it("a hole that vanishes while a mouth closes is refused; a mouth that closes alone is named", () => {
    // A C whose mouth, 0.6 mm wide, opens to the right.
    const c: Outline = [
      [0, 0],
      [40, 0],
      [40, 19.7],
      [30, 19.7],
      [30, 10],
      [10, 10],
      [10, 30],
      [30, 30],
      [30, 20.3],
      [40, 20.3],
      [40, 40],
      [0, 40],
    ];
    const input = { kerfMm: 1, join: "apart" as const };
    expect(refusal(() => onePath({ ...input, shapes: [{ outline: c, holes: [square(4, 19, 0.8)] }] })).path).toBe("kerf_mm");
    const found = onePath({ ...input, shapes: [{ outline: c, holes: [] }] });
    expect(found.closedMouths).toHaveLength(1);
    expect(found.slits).toHaveLength(1);
    expect(onePath({ ...input, kerfMm: 0.5, shapes: [{ outline: c, holes: [] }] })).toMatchObject({ closedMouths: [], slits: [] });
  });
  it("a start in a hole is threaded there, and crosses its part by the listed slit alone", () => {
    const frame = { outline: square(0, 0, 100), holes: [square(20, 30, 40)] };
    const found = onePath({ shapes: [frame, { outline: square(150, 0, 30), holes: [] }], kerfMm: 1, join: "apart", start: [40, 50], order: "shorter" });
    expect([found.threaded, found.slits.length]).toEqual([true, 1]);
    expect(onePath({ shapes: [frame], kerfMm: 1, join: "apart", start: [-10, 50] }).threaded).toBe(false);
    const [a, b] = found.slits[0] as Line;
    const inPart = (p: Point) => isInside(p, square(0, 0, 100)) && !isInside(p, square(20, 30, 40));
    for (let i = 1; i < found.path.length; i++) {
      const [from, to] = [found.path[i - 1] as Point, found.path[i] as Point];
      const middle: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
      if (inPart(middle)) expect(nearest(middle, [a as Point, b as Point], false).distance).toBeLessThan(1e-6);
    }
    expect(found.path[0]).toEqual([40, 50]);
    expect(found.path.at(-1)).toEqual([40, 50]);
  });
});
