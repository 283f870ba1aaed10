import { describe, expect, it } from "vitest";
import type { Point } from "../../geometry/points";
import { type TautWire, wireSurface } from "./tautWire";

/** Few places and steps: what the law says holds on any grid. */
const wire: TautWire = { lengthM: 0.8, tensionN: 40, foamFromM: 0, foamToM: 0.8, referenceDragNPerM: 2, maxFeedMmS: 10 };
const turned = (by: number) => (points: readonly Point[]) =>
  points.map(([x, y]): Point => [x * Math.cos(by) - y * Math.sin(by), x * Math.sin(by) + y * Math.cos(by)]);
const BEND: readonly Point[] = [
  [0, 0],
  [40, 0],
  [40, 0],
  [52, 30],
];
const TIMES = [0, 8, 9, 16];
const endOf = (of: TautWire, guided: Parameters<typeof wireSurface>[1], at: readonly number[], how: object) =>
  wireSurface(of, guided, at, how).traces.map(({ x, y }): Point => [x.at(-1) as number, y.at(-1) as number]);
const apart = ([a, b]: Point, [c, d]: Point) => Math.hypot(a - c, b - d);

describe("the taut wire's steps", () => {
  it("are of second order: half as long they leave a quarter of the error", () => {
    const [finest] = endOf(wire, { path: BEND, timesS: TIMES }, [0.5], { nodes: 9, steps: 6400 });
    const off = [100, 200, 400].map((steps) => apart(endOf(wire, { path: BEND, timesS: TIMES }, [0.5], { nodes: 9, steps })[0] as Point, finest as Point));
    expect(off[0]).toBeLessThan(0.02);
    expect((off[0] as number) / (off[1] as number)).toBeGreaterThan(3);
    expect((off[1] as number) / (off[2] as number)).toBeGreaterThan(3);
  });
  it("do not mind which way the block lies", () => {
    const how = { nodes: 9, steps: 120 };
    const at = [0.2, 0.5, 0.85];
    const plain = endOf(wire, { path: BEND, timesS: TIMES }, at, how);
    for (const by of [0.6, 2.2, -1.3]) {
      const round = turned(by);
      const there = endOf(wire, { path: round(BEND), timesS: TIMES }, at, how);
      for (const [i, want] of round(plain).entries()) expect(apart(there[i] as Point, want)).toBeLessThan(1e-4);
    }
  });
  it("nor between how many points one motion is given, evenly or not", () => {
    const how = { nodes: 9, steps: 200 };
    const [one] = endOf(
      wire,
      {
        path: [
          [0, 0],
          [60, 20],
        ],
        timesS: [0, 12],
      },
      [0.5],
      how,
    );
    const shares = [0, 0.01, 0.3, 0.31, 0.33, 0.7, 1];
    const [many] = endOf(wire, { path: shares.map((share): Point => [60 * share, 20 * share]), timesS: shares.map((share) => 12 * share) }, [0.5], how);
    expect(apart(one as Point, many as Point)).toBeLessThan(2e-3);
  });
  it("begin straight and at rest, between wherever the ends are", () => {
    const { traces, timesS } = wireSurface(
      wire,
      {
        path: [
          [1, 2],
          [11, 2],
        ],
        tipPath: [
          [5, 10],
          [9, 10],
        ],
        timesS: [3, 5],
      },
      [0, 0.25, 0.6, 1],
      { nodes: 9, steps: 20 },
    );
    expect(timesS[0]).toBe(3);
    expect(timesS.at(-1)).toBeCloseTo(5, 12);
    expect(timesS).toHaveLength(21);
    for (const trace of traces) {
      expect(trace.x[0]).toBeCloseTo(1 + 4 * trace.at, 12);
      expect(trace.y[0]).toBeCloseTo(2 + 8 * trace.at, 12);
      expect(trace.drawnX.at(-1)).toBeCloseTo(11 - 2 * trace.at, 12);
      expect(trace.drawnY.at(-1)).toBeCloseTo(2 + 8 * trace.at, 12);
      // It goes the way it is drawn, and never ahead of it.
      for (let k = 1; k < timesS.length; k++) {
        expect(trace.x[k]).toBeGreaterThanOrEqual((trace.x[k - 1] as number) - 1e-9);
        expect(trace.x[k]).toBeLessThanOrEqual((trace.drawnX[k] as number) + 1e-9);
      }
    }
  });
  it("while the ends wait the wire comes after them until it is straight, and no place ever goes faster than the top feed", () => {
    const { traces, timesS } = wireSurface(
      wire,
      {
        path: [
          [0, 0],
          [50, 0],
          [50, 0],
        ],
        timesS: [0, 4, 60],
      },
      [0.1, 0.5],
      { nodes: 11, steps: 600 },
    );
    for (const { x } of traces) {
      expect(x.at(-1)).toBeCloseTo(50, 2);
      for (let k = 1; k < x.length; k++) {
        const speed = ((x[k] as number) - (x[k - 1] as number)) / ((timesS[k] as number) - (timesS[k - 1] as number));
        // The ends go at 12.5 mm/s, the foam lets the wire go at less than 10.
        expect(speed).toBeLessThan(10.001);
      }
    }
  });
  it("outside the foam it is straight, inside it is bent: a tenth of the way from the end to the foam's face it is off by a tenth", () => {
    const half = { ...wire, foamFromM: 0.2, foamToM: 0.5 };
    const guided = {
      path: [
        [0, 0],
        [60, 0],
      ] as Point[],
      timesS: [0, 15],
    };
    const [face, tenth, inside, far, beyond] = endOf(half, guided, [0.25, 0.025, 0.4375, 0.625, 0.8125], { nodes: 15, steps: 150 }).map(([x]) => 60 - x) as [
      number,
      number,
      number,
      number,
      number,
    ];
    expect(face).toBeGreaterThan(0.5);
    expect(tenth).toBeCloseTo(face / 10, 9);
    expect(beyond).toBeCloseTo(far / 2, 9);
    expect(inside).toBeGreaterThan((face + far) / 2);
    // Moments about the ends: the foam's drag on 0.3 m, its middle at 0.35 m.
    const drag = (2 * 4) / (10 - 4);
    expect(face).toBeCloseTo(((drag * 0.3 * (0.8 - 0.35)) / 0.8 / 40) * 0.2 * 1000, 2);
    expect(far).toBeCloseTo(((drag * 0.3 * 0.35) / 0.8 / 40) * 0.3 * 1000, 2);
  });
});
