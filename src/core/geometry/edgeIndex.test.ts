import fc from "fast-check";
import { expect, it } from "vitest";
import { edgesWithin } from "./edgeIndex";
import { nearest, type Point } from "./points";

it("says of any point what a look at every edge says, the closing one among them", () => {
  const coordinate = fc.double({ min: -50, max: 50, noNaN: true });
  const point = fc.tuple(coordinate, coordinate);
  fc.assert(
    fc.property(
      fc.array(fc.array(point, { minLength: 3, maxLength: 30 }), { minLength: 1, maxLength: 3 }),
      fc.array(point, { minLength: 20, maxLength: 20 }),
      fc.double({ min: 0.01, max: 20, noNaN: true }),
      (outlines, points, withinMm) => {
        const isNear = edgesWithin(outlines, withinMm);
        for (const each of points as Point[]) {
          const away = Math.min(...outlines.map((outline) => nearest(each, outline).distance));
          if (Math.abs(away - withinMm) > 1e-9) expect(isNear(each)).toBe(away <= withinMm);
        }
      },
    ),
  );
  expect(edgesWithin([], 5)([0, 0])).toBe(false);
});
