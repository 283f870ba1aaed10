import { describe, expect, it } from "vitest";
import type { Point } from "@/core/geometry/points";
import { nearestWithin, squareOn } from "./squareOn";

describe("an outline seen square on", () => {
  const bounds = { minX: -20, minY: -4, maxX: 180, maxY: 36 };
  const frame = squareOn(bounds, 900, 480);

  it("goes to the picture and back", () => {
    for (const point of [
      [-20, -4],
      [180, 36],
      [33.3, 7.1],
    ] as Point[]) {
      const [x, y] = frame.mm(frame.px(point));
      expect([x, y]).toEqual([expect.closeTo(point[0], 9), expect.closeTo(point[1], 9)]);
    }
  });

  it("has aft to the right, up at the top, one scale both ways, and room all round", () => {
    const [origin, aft, up] = [frame.px([0, 0]), frame.px([10, 0]), frame.px([0, 10])];
    expect(aft[0] - origin[0]).toBeGreaterThan(0);
    expect(origin[1] - up[1]).toBeCloseTo(aft[0] - origin[0], 9);
    const [left, foot] = frame.px([bounds.minX, bounds.minY]);
    const [right, top] = frame.px([bounds.maxX, bounds.maxY]);
    expect(Math.min(left, 900 - right, top, 480 - foot)).toBeCloseTo(56, 9);
    expect(left).toBeCloseTo(900 - right, 9);
    expect(top).toBeCloseTo(480 - foot, 9);
  });

  it("draws a line and closes it", () => {
    expect(
      frame.path(
        [
          [0, 0],
          [10, 0],
        ],
        true,
      ),
    ).toMatch(/^M\S+ \S+L\S+ \S+Z$/);
    expect(
      frame.path(
        [
          [0, 0],
          [10, 0],
        ],
        false,
      ),
    ).not.toContain("Z");
  });

  it("a flat outline has a scale too", () => {
    expect(squareOn({ minX: 0, minY: 0, maxX: 0, maxY: 0 }, 900, 480).px([0, 0])).toEqual([450, 240]);
  });
});

it("the nearest place is taken, and none beyond reach", () => {
  const places: Point[] = [
    [0, 0],
    [30, 0],
    [100, 0],
  ];
  const nearest = (x: number) => nearestWithin(places, (place) => place, [x, 0], 26);
  expect([nearest(10), nearest(20), nearest(126), nearest(127)]).toEqual([places[0], places[1], places[2], null]);
});
