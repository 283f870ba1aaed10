import { describe, expect, it } from "vitest";
import { lineLength, type Point } from "../geometry/points";
import type { OutDrawing } from "../plans/outputs/drawing";
import type { Cut } from "./around";
import { bestOrder } from "./cutOrder";
import { hauledFeel, type Passed, steadiness } from "./feel";
import { fitted, fittedFrame } from "./fitted";
import { feedOn, type HauledFace, straightFace } from "./haul";

const trailOf = (...legs: (readonly [seconds: number, mm: number])[]): Passed[] => {
  const trail: Passed[] = [{ atS: 0, alongMm: 0 }];
  for (const [seconds, mm] of legs) {
    const { atS, alongMm } = trail.at(-1) as Passed;
    trail.push({ atS: atS + seconds, alongMm: alongMm + mm });
  }
  return trail;
};

describe("how steady a run was", () => {
  it("share of the way within a quarter of the wanted speed, its fastest and slowest, how long it did not move", () => {
    // 5, 6.25, 3.75 and 6.5 mm/s of a wanted 5: the last is too fast.
    expect(steadiness(trailOf([2, 10], [1.6, 10], [8, 30], [8, 52]), 5)).toEqual({
      steady: 50 / 102,
      stoppedS: 0,
      fastest: expect.closeTo(6.5, 9),
      slowest: 3.75,
    });
    expect(steadiness(trailOf([2, 10], [3, 0.6], [4, 2]), 5)).toMatchObject({ stoppedS: 3, fastest: 5, slowest: expect.closeTo(0.2, 9), steady: 10 / 12.6 });
  });
  it("a moment of no length is none, and a run that never went has no figure but nought", () => {
    expect(steadiness(trailOf([0, 10], [2, 10]), 5)).toEqual({ steady: 1, stoppedS: 0, fastest: 5, slowest: 5 });
    expect(steadiness([{ atS: 0, alongMm: 0 }], 5)).toEqual({ steady: 0, stoppedS: 0, fastest: 0, slowest: 0 });
    expect(steadiness(trailOf([4, 0]), 5)).toEqual({ steady: 0, stoppedS: 4, fastest: 0, slowest: 0 });
  });
});

const cut: Cut = { computed: true, wireMm: 0.5, feedMmS: 5, kerfMm: 1.5, dragNPerM: 2, referenceDragNPerM: 2, maxFeedMmS: 10, tensionN: 60 };

describe("a face hauled by one weight, in the hand", () => {
  const face = (slopes: readonly number[]): HauledFace => ({
    ...straightFace(100, 80, 500, 0),
    stretches: slopes.map((slopeDeg, i) => ({ to: String(i + 1), fromMm: (100 * i) / slopes.length, toMm: (100 * (i + 1)) / slopes.length, slopeDeg })),
  });
  // Twice the weight at the nose, once at the tail: what an arm does.
  const feel = (of: HauledFace) => hauledFeel(of, { cut, carriedN: 1, lever: (share) => (hung) => hung * (2 - share), hungN: 1.5, mostN: 8, title: "Haul" });

  it("runs at the feed at which drag takes what is left of the pull on the slope it is on; held back, by 0.6 N less", () => {
    const run = feel(face([0, 30, -30, 85]));
    // The middles of quarters: shares of 1/8, 3/8, 5/8.
    for (const [along, share, slope] of [
      [0, 1 / 8, 0],
      [24.99, 1 / 8, 0],
      [25, 3 / 8, 30],
      [60, 5 / 8, -30],
    ] as const) {
      expect(run.speed(along, 1, false)).toBeCloseTo(Math.min(9, feedOn(cut, 0.5, 2 - share, 1, slope)), 9);
      expect(run.speed(along, 1, true)).toBeCloseTo(Math.min(9, feedOn(cut, 0.5, 2 - share - 0.6, 1, slope)), 9);
    }
    // Level: v = v_max F'/(F' + F_ref) with F' the pull over half a metre.
    expect(run.speed(0, 1, false)).toBeCloseTo((10 * 3.75) / 5.75, 9);
    // Too steep for a level thread: led over by hand. No faster than nine tenths of the top, however much hangs; nothing under no pull.
    expect(run.speed(80, 0, false)).toBe(5);
    expect(run.speed(100, 0, false)).toBe(5);
    expect(run.speed(10, 500, false)).toBe(9);
    expect(run.speed(10, 0, false)).toBe(0);
    expect(feel({ ...face([0]), stretches: [] }).speed(10, 5, false)).toBe(0);
    expect(run).toMatchObject({ pathMm: 100, holdN: 0.6, wantedMmS: 5, knob: { quantity: "force", min: 0, max: 8, step: 0.2, start: 1.5 } });
  });
  it("steady over four fifths of the way without standing is good; else it says whether it was or ran", () => {
    const judge = (...legs: (readonly [number, number])[]) => feel(face([0])).judge(trailOf(...legs), 1.5);
    expect(judge([16, 80], [2, 20])).toMatchObject({ good: true, words: "Steady: the face is even." });
    expect(judge([15.8, 79], [2.1, 21])).toMatchObject({ good: false, words: expect.stringMatching(/^It ran and tired/) });
    expect(judge([18, 90], [0.6, 0.06], [2, 10])).toMatchObject({ good: false, words: expect.stringMatching(/^It stopped/) });
    expect(judge([18, 90], [0.4, 0.06], [2, 10])).toMatchObject({ good: true });
    const { rows } = judge([20, 50], [5, 50]);
    expect(rows).toEqual([
      ["within a quarter of the wanted speed", "0 % of the way"],
      ["fastest", { quantity: "feed", value: 10 }],
      ["slowest", { quantity: "feed", value: 2.5 }],
      ["stopped for", "0.0 s"],
      // Twice as slow as wanted, twice as wide.
      ["kerf where slowest", { quantity: "kerf", value: 3 }],
    ]);
    expect(judge([2, 0], [20, 100]).rows[4]).toEqual(["kerf where slowest", "burnt"]);
  });
  it("next to a plan it states the wire's deviation: little on a straight line at any speed, more round a bend the faster it went; nothing of a run that never ended", () => {
    const bend: Point[] = Array.from({ length: 41 }, (_, i): Point => (i <= 20 ? [i * 2.5, 0] : [50, (i - 20) * 2.5]));
    const straight: Point[] = Array.from({ length: 41 }, (_, i): Point => [i * 2.5, 0]);
    const wire = { lengthM: 0.6, tensionN: 20, foamFromM: 0.05, foamToM: 0.55, referenceDragNPerM: 2, maxFeedMmS: 10 };
    const deviated = (line: Point[], mmPerS: number, long = lineLength(line)) => {
      const run = feel({ ...face([0]), rootMm: lineLength(line), paths: { root: line, tip: line, wire, at: [] } });
      const row = run.judge(trailOf([long / mmPerS, long]), 1).rows[5];
      return row ? (row[1] as { value: number }).value : null;
    };
    expect(deviated(straight, 8)).toBeLessThan(0.01);
    const [slow, fast] = [deviated(bend, 2) as number, deviated(bend, 8) as number];
    expect(slow).toBeGreaterThan(0.01);
    expect(fast).toBeGreaterThan(2 * slow);
    expect(deviated(bend, 8, 50)).toBeNull();
    // A long are at the corner lets the middle come after: it misses less than one that went on.
    const stopped = feel({ ...face([0]), rootMm: 100, paths: { root: bend, tip: bend, wire, at: [] } }).judge(
      trailOf([50 / 8, 49.999], [20, 0.001], [50 / 8, 50]),
      1,
    ).rows[5];
    expect((stopped?.[1] as { value: number } | undefined)?.value).toBeLessThan(0.6 * fast);
  });
});

/** Area of a convex outline. */
const area = (of: readonly Point[]) =>
  of.reduce((sum, [x, y], i) => sum + x * (of[(i + 1) % of.length] as Point)[1] - (of[(i + 1) % of.length] as Point)[0] * y, 0) / 2;
/** Keeps what lies left of a line, and how long the line was within it: another computation, by clipping edge by edge. */
function clipped(of: readonly Point[], a: Point, b: Point): { rest: Point[]; mm: number } {
  const side = ([x, y]: Point) => ((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0])) / Math.hypot(b[0] - a[0], b[1] - a[1]);
  const rest: Point[] = [];
  const on: number[] = [];
  for (const [i, p] of of.entries()) {
    const q = of[(i + 1) % of.length] as Point;
    const [sp, sq] = [side(p), side(q)];
    if (sp >= -1e-9) rest.push(p);
    if (sp > 1e-9 !== sq > 1e-9) {
      const t = sp === sq ? 0 : sp / (sp - sq);
      const at: Point = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
      rest.push(at);
      on.push((at[0] * (b[0] - a[0]) + at[1] * (b[1] - a[1])) / Math.hypot(b[0] - a[0], b[1] - a[1]));
    }
  }
  return { rest, mm: on.length < 2 || Math.abs(area(rest) - area(of)) < 1e-6 ? 0 : Math.max(...on) - Math.min(...on) };
}
/** The least way of all orders, by trying every one. */
function leastOf(form: readonly Point[], blank: readonly Point[], left = form.map((_, i) => i)): number {
  if (left.length === 0) return 0;
  return Math.min(
    ...left.map((i) => {
      const { rest, mm } = clipped(blank, form[i] as Point, form[(i + 1) % form.length] as Point);
      return (
        mm +
        leastOf(
          form,
          rest,
          left.filter((each) => each !== i),
        )
      );
    }),
  );
}

describe("the order of straight cuts", () => {
  const blank: Point[] = [
    [0, 0],
    [300, 0],
    [300, 200],
    [0, 200],
  ];
  it.each<[string, Point[]]>([
    [
      "a triangle",
      [
        [20, 20],
        [280, 40],
        [120, 180],
      ],
    ],
    [
      "a box within",
      [
        [50, 60],
        [250, 60],
        [250, 160],
        [50, 160],
      ],
    ],
    [
      "a kite that is on the blank's own side",
      [
        [100, 0],
        [250, 100],
        [150, 190],
        [30, 120],
      ],
    ],
    [
      "five sides, two of them the blank's",
      [
        [0, 0],
        [300, 0],
        [260, 120],
        [150, 180],
        [0, 150],
      ],
    ],
  ])("%s: no order of all has a shorter way, and each cut is through what is left", (_name, form) => {
    const { cuts, totalMm } = bestOrder(form, blank, "outline_mm");
    expect(totalMm).toBeCloseTo(leastOf(form, blank), 6);
    expect(cuts.reduce((sum, { lengthMm }) => sum + lengthMm, 0)).toBeCloseTo(totalMm, 6);
    let rest: readonly Point[] = blank;
    for (const { edge, lengthMm, from, to } of cuts) {
      const [a, b] = [form[edge] as Point, form[(edge + 1) % form.length] as Point];
      const next = clipped(rest, a, b);
      expect(lengthMm).toBeCloseTo(next.mm, 6);
      expect(Math.hypot(to[0] - from[0], to[1] - from[1])).toBeCloseTo(lengthMm, 9);
      rest = next.rest;
    }
    expect(area(rest)).toBeCloseTo(area(form), 4);
  });
  it("clockwise is the same form; a box within takes a long cut, both sides of what is left, and its head; a quarter turn between", () => {
    const box: Point[] = [
      [50, 60],
      [250, 60],
      [250, 160],
      [50, 160],
    ];
    // Along its foot 300, both sides of what is left above it 140 each, its head between them 200.
    const found = bestOrder(box, blank, "outline_mm");
    expect(found.totalMm).toBeCloseTo(780, 9);
    expect(bestOrder([...box].reverse(), blank, "outline_mm").totalMm).toBeCloseTo(780, 9);
    expect(found.cuts.map(({ turnDeg }) => Math.abs(turnDeg)).sort()).toEqual(expect.arrayContaining([0, 90]));
    for (const { turnDeg } of found.cuts) {
      expect(turnDeg).toBeGreaterThanOrEqual(-90);
      expect(turnDeg).toBeLessThan(90 + 1e-9);
    }
    expect(bestOrder(blank, blank, "outline_mm")).toEqual({ cuts: [], totalMm: 0 });
  });
  it("turns are from the block's position for the cut before", () => {
    const { cuts } = bestOrder(
      [
        [20, 20],
        [280, 40],
        [120, 180],
      ],
      blank,
      "outline_mm",
    );
    let faced = 0;
    for (const { from, to, turnDeg } of cuts) {
      const heading = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
      // A line has no front: the same modulo half a turn.
      const off = (((heading - faced - turnDeg) % 180) + 180) % 180;
      expect(Math.min(off, 180 - off)).toBeLessThan(1e-6);
      faced = heading;
    }
  });
  it("refuses what goes inward, has too few or too many corners, or is out of its blank", () => {
    const inward: Point[] = [
      [20, 20],
      [150, 90],
      [280, 20],
      [280, 180],
      [20, 180],
    ];
    expect(() => bestOrder(inward, blank, "outline_mm")).toThrow("outline_mm: the corner at 150, 90 goes inward");
    const round = (n: number): Point[] =>
      Array.from({ length: n }, (_, i) => [150 + 80 * Math.cos((2 * Math.PI * i) / n), 100 + 80 * Math.sin((2 * Math.PI * i) / n)]);
    expect(() => bestOrder(round(13), blank, "outline_mm")).toThrow("from 3 to 12 corners");
    expect(() => bestOrder(round(2), blank, "outline_mm")).toThrow("from 3 to 12 corners");
    expect(() =>
      bestOrder(
        round(3).map(([x, y]): Point => [x + 400, y]),
        blank,
        "outline_mm",
      ),
    ).toThrow("does not lie within its blank");
  });
});

describe("a drawing on a sheet", () => {
  const drawing = (w: number, h: number): OutDrawing => ({
    title: "T",
    lines: [
      {
        layer: "wire",
        points: [
          [0, 0],
          [w, 0],
          [w, h],
        ],
        closed: true,
      },
      {
        layer: "ways",
        points: [
          [0, 0],
          [0, h],
        ],
        closed: false,
      },
    ],
    texts: [{ layer: "words", at: [w, h], heightMm: 10, text: "four" }],
  });
  it("is with room about it for its words, a letter about half as wide as high", () => {
    // 4 letters of 5.2 mm, 10 high, beyond 100 by 50; half of 7 % of the longer side about it.
    const frame = fittedFrame(drawing(100, 50));
    const room = 0.035 * 120.8;
    expect(frame).toEqual({ left: -room, top: 60 + room, wide: 120.8 + 2 * room, high: 60 + 2 * room });
  });
  it.each([
    [100, 50, 1],
    [190, 50, 2],
    [400, 50, 5],
    [100, 500, 5],
    [1500, 100, 10],
    [9000, 100, 100],
  ])("%i by %i mm on 180 by 120 is drawn one to %i", (w, h, scale) => {
    const made = fitted(drawing(w, h), 180, 120);
    expect(made.scale).toBe(scale);
    expect(made.drawing.width).toBeLessThanOrEqual(180);
    expect(made.drawing.height).toBeLessThanOrEqual(120);
  });
  it("larger than the smallest of a drawing board's scales takes the next whole one; lines have their pen, dashes too, and words stay to be read", () => {
    expect(fitted(drawing(30_000, 100), 180, 120).scale).toBe(Math.ceil(fittedFrame(drawing(30_000, 100)).wide / 180));
    const { drawing: sheet, scale } = fitted(drawing(400, 50), 180, 120);
    const [wire, ways, words] = sheet.shapes;
    expect(wire).toMatchObject({ stroke: "ember", width: 0.9 });
    expect(wire).not.toHaveProperty("dash");
    expect(ways).toMatchObject({ stroke: "soft", width: 0.35, dash: [2, 1.6] });
    expect((wire as { d: string }).d).toMatch(/^M.*L.*L.*Z$/);
    expect((ways as { d: string }).d).not.toMatch(/Z/);
    // The first point, the drawing's lower left, stands the room in from the left and from the foot.
    const room = (0.035 * fittedFrame(drawing(400, 50)).wide) / 1.07 / scale;
    const [x, y] = ((wire as { d: string }).d.match(/^M([\d.]+) ([\d.]+)/) ?? []).slice(1).map(Number);
    expect(x).toBeCloseTo(room, 2);
    expect(sheet.height - (y as number)).toBeCloseTo(room, 2);
    expect(words).toMatchObject({ size: 2.2 });
    expect(fitted(drawing(100, 50), 180, 120).drawing.shapes.at(-1)).toMatchObject({ size: 10 });
  });
});
