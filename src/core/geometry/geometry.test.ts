import fc from "fast-check";
import DiscreteHausdorffDistance from "jsts/org/locationtech/jts/algorithm/distance/DiscreteHausdorffDistance.js";
import Coordinate from "jsts/org/locationtech/jts/geom/Coordinate.js";
import GeometryFactory from "jsts/org/locationtech/jts/geom/GeometryFactory.js";
import BufferOp from "jsts/org/locationtech/jts/operation/buffer/BufferOp.js";
import { describe, expect, it } from "vitest";
import { nearestOn } from "./edgeIndex";
import { arcPoints, cubicPoints } from "./flatten";
import { distancesTo } from "./nearestLine";
import { common, fill, offset, united, without } from "./offset";
import {
  after as afterwards,
  apply,
  boundsOf,
  counterClockwise,
  heightsAt,
  isInside,
  nearest,
  type Outline,
  type Point,
  perimeter,
  regionArea,
  signedArea,
  transformed,
  translation,
  turning,
} from "./points";

const ngon = (n: number, r: number, at: Point = [0, 0]): Outline =>
  Array.from({ length: n }, (_, i) => [at[0] + r * Math.cos((2 * Math.PI * i) / n), at[1] + r * Math.sin((2 * Math.PI * i) / n)]);
const region = (outline: Outline) => ({ outline, holes: [] });

/** A star-shaped outline: radii about a middle, so that it never crosses itself. */
const star = fc
  .array(fc.double({ min: 20, max: 90, noNaN: true }), { minLength: 5, maxLength: 40 })
  .map((radii): Outline => radii.map((r, i) => [r * Math.cos((2 * Math.PI * i) / radii.length), r * Math.sin((2 * Math.PI * i) / radii.length)]));

const factory = new GeometryFactory();
const polygonOf = (outline: Outline) => {
  const ring = [...outline, outline[0] as Point].map(([x, y]) => new Coordinate(x, y));
  return factory.createPolygon(factory.createLinearRing(ring), []);
};

describe("offsets", () => {
  it("of a polygon with round corners: Steiner's formulas, area + L d + pi d^2 and L + 2 pi d", () => {
    for (const n of [3, 4, 7, 60]) {
      for (const d of [0.2, 1, 7.5]) {
        const outline = ngon(n, 50);
        const [grown] = offset([region(outline)], d);
        expect(Math.abs(regionArea(grown as never) - (signedArea(outline) + perimeter(outline) * d + Math.PI * d * d))).toBeLessThan(
          0.004 * (2 * Math.PI * d) + 0.0011 * perimeter(outline),
        );
        expect(Math.abs(perimeter(grown?.outline as Outline) - (perimeter(outline) + 2 * Math.PI * d))).toBeLessThan(0.02);
      }
    }
  });

  it("of an ellipse are on its normals, to 0.01 mm", () => {
    const [a, b, d] = [100, 40, 3];
    const outline = Array.from({ length: 2000 }, (_, i): Point => [a * Math.cos((i * Math.PI) / 1000), b * Math.sin((i * Math.PI) / 1000)]);
    const [grown] = offset([region(outline)], d);
    for (let i = 0; i < 200; i++) {
      const t = (i * Math.PI) / 100;
      const [nx, ny] = [b * Math.cos(t), a * Math.sin(t)];
      const long = Math.hypot(nx, ny);
      const point: Point = [a * Math.cos(t) + (d * nx) / long, b * Math.sin(t) + (d * ny) / long];
      expect(nearest(point, grown?.outline as Outline).distance).toBeLessThan(0.01);
    }
  });

  it("agree with a second geometry package to 0.01 mm, outward and inward", () => {
    fc.assert(
      fc.property(
        star,
        fc.double({ min: -6, max: 12, noNaN: true }).filter((d) => Math.abs(d) > 0.05),
        (outline, d) => {
          const ours = offset([region(outline)], d);
          const theirs = BufferOp.bufferOp(polygonOf(outline), d, 64);
          const area = ours.reduce((sum, each) => sum + regionArea(each), 0);
          expect(Math.abs(area - theirs.getArea())).toBeLessThan(0.01 * theirs.getLength() + 1e-6);
          if (ours.length === 1 && theirs.getNumGeometries() === 1) {
            const mine = polygonOf(ours[0]?.outline as Outline);
            expect(DiscreteHausdorffDistance.distance(mine.getBoundary(), theirs.getBoundary(), 0.5)).toBeLessThan(0.01 + 0.02 * Number(d < 0));
          }
        },
      ),
      { numRuns: 15, examples: [[ngon(5, 40), 3]] },
    );
  });

  it("out and in again gives a convex outline back", () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 40 }), fc.double({ min: 5, max: 300, noNaN: true }), fc.double({ min: 0.1, max: 4, noNaN: true }), (n, r, d) => {
        const outline = ngon(n, r);
        const back = offset(offset([region(outline)], d), -d)[0]?.outline as Outline;
        for (const point of outline) expect(nearest(point, back).distance).toBeLessThan(0.01);
        for (const point of back) expect(nearest(point, outline).distance).toBeLessThan(0.01);
      }),
      { numRuns: 60 },
    );
  });

  it("fall in pieces, close holes and vanish as matter does", () => {
    const dumbbell: Outline = [
      [0, 0],
      [40, 0],
      [40, 18],
      [60, 18],
      [60, 0],
      [100, 0],
      [100, 40],
      [60, 40],
      [60, 22],
      [40, 22],
      [40, 40],
      [0, 40],
    ];
    expect(offset([region(dumbbell)], -3)).toHaveLength(2);
    expect(offset([region(ngon(40, 5))], -6)).toEqual([]);
    const ring = without([region(ngon(80, 50))], [region(ngon(80, 4))]);
    expect(ring[0]?.holes).toHaveLength(1);
    expect(offset(ring, 5)[0]?.holes).toEqual([]);
    expect(offset([region(dumbbell)], 0)).toEqual([region(dumbbell)]);
  });
});

describe("what lines enclose", () => {
  const square = (x: number, side: number): Outline => [
    [x, 0],
    [x + side, 0],
    [x + side, side],
    [x, side],
  ];
  it("by both rules, islands in holes too; outer lines run counter-clockwise, holes clockwise", () => {
    const nested = [ngon(60, 30), ngon(60, 20), ngon(60, 10)];
    const [outer, island] = fill(nested, "evenodd");
    expect(outer?.holes).toHaveLength(1);
    expect(island).toBeDefined();
    for (const each of fill(nested, "evenodd")) {
      expect(signedArea(each.outline)).toBeGreaterThan(0);
      for (const hole of each.holes) expect(signedArea(hole)).toBeLessThan(0);
    }
    expect(fill(nested, "nonzero")).toHaveLength(1);
    expect(regionArea(fill([ngon(60, 30), [...ngon(60, 20)].reverse()], "nonzero")[0] as never)).toBeCloseTo(
      signedArea(ngon(60, 30)) - signedArea(ngon(60, 20)),
      2,
    );
  });
  it("areas of union, difference and what is common add up", () => {
    const [a, b] = [[region(square(0, 10))], [region(square(6, 10))]];
    const area = (regions: ReturnType<typeof united>) => regions.reduce((sum, each) => sum + regionArea(each), 0);
    expect(area(united([...a, ...b]))).toBeCloseTo(160, 3);
    expect(area(without(a, b))).toBeCloseTo(60, 3);
    expect(area(common(a, b))).toBeCloseTo(40, 3);
  });
});

describe("points", () => {
  it("curves are flattened within what is asked", () => {
    const at = (t: number): Point => [
      (1 - t) ** 3 * 0 + 3 * (1 - t) ** 2 * t * 10 + 3 * (1 - t) * t * t * 90 + t ** 3 * 100,
      3 * (1 - t) ** 2 * t * 80 - 3 * (1 - t) * t * t * 60,
    ];
    for (const tolerance of [0.5, 0.01, 0.002]) {
      const line = [[0, 0] as Point, ...cubicPoints([0, 0], [10, 80], [90, -60], [100, 0], tolerance)];
      const worst = Math.max(...Array.from({ length: 500 }, (_, i) => nearest(at(i / 499), line, false).distance));
      expect(worst).toBeLessThan(tolerance);
      // And not with many times the points it takes.
      expect(worst).toBeGreaterThan(tolerance / 50);
    }
    const circle = arcPoints([0, 0], 40, 0, 2 * Math.PI, 0.002);
    for (const [i, point] of circle.entries()) {
      const next = circle[(i + 1) % circle.length] as Point;
      expect(40 - Math.hypot((point[0] + next[0]) / 2, (point[1] + next[1]) / 2)).toBeLessThan(0.0021);
    }
  });
  it("turning about a point and back, and a mirror twice, change nothing; a mirrored outline still runs counter-clockwise", () => {
    const outline = ngon(7, 12, [30, 5]);
    const there = turning(33, [4, 9]);
    const back = turning(-33, [4, 9]);
    for (const [i, point] of transformed(outline, afterwards(back, there)).entries())
      expect(Math.hypot(point[0] - (outline[i]?.[0] as number), point[1] - (outline[i]?.[1] as number))).toBeLessThan(1e-9);
    expect(apply(turning(90, [10, 0]), [11, 0]).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([10, 1]);
    expect(apply(afterwards(translation(5, 0), turning(90)), [1, 0]).map(Math.round)).toEqual([5, 1]);
    const mirrored = transformed(outline, [-1, 0, 0, 1, 0, 0]);
    expect(signedArea(mirrored)).toBeCloseTo(signedArea(outline), 9);
    expect(signedArea(counterClockwise([...outline].reverse()))).toBeGreaterThan(0);
  });
  it("heights, inside and nearest", () => {
    const outline: Outline = [
      [0, 0],
      [10, 0],
      [10, 6],
      [0, 2],
    ];
    expect(heightsAt(outline, 5)).toEqual({ lower: 0, upper: 4 });
    expect(heightsAt(outline, 10)).toEqual({ lower: 0, upper: 6 });
    expect(heightsAt(outline, 10.1)).toBeNull();
    expect([isInside([5, 3], outline), isInside([5, 5], outline), isInside([-1, 1], outline)]).toEqual([true, false, false]);
    expect(nearest([5, -3], outline)).toMatchObject({ at: [5, 0], distance: 3, edge: 0 });
    expect(boundsOf(outline)).toEqual({ minX: 0, minY: 0, maxX: 10, maxY: 6 });
  });
});

describe("the nearest place of a line that is asked about many times", () => {
  it("is the one that looking at every edge finds, and distances to an open line are its own", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: -100, max: 100, noNaN: true }), fc.double({ min: -100, max: 100, noNaN: true })), { minLength: 2, maxLength: 700 }),
        fc.array(fc.tuple(fc.double({ min: -150, max: 150, noNaN: true }), fc.double({ min: -150, max: 150, noNaN: true })), { minLength: 1, maxLength: 12 }),
        (line, requested) => {
          const ask = nearestOn(line);
          const open = distancesTo(
            Float64Array.from(line, ([x]) => x),
            Float64Array.from(line, ([, y]) => y),
          );
          for (const point of requested) {
            const [plain, found] = [nearest(point, line), ask(point)];
            expect(found.distance).toBeCloseTo(plain.distance, 9);
            expect(Math.hypot(found.at[0] - point[0], found.at[1] - point[1])).toBeCloseTo(plain.distance, 9);
            expect(open(...point)).toBeCloseTo(nearest(point, line, false).distance, 9);
          }
        },
      ),
      { numRuns: 120 },
    );
  });
});
