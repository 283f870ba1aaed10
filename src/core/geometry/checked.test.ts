import { expect, it } from "vitest";
import { refusal } from "../../../tests/helpers/headless";
import { checked, type Mirror } from "./checked";
import { type Difference, differenceOf, scanlinesOf, spansOn } from "./scanline";
import { type GridPoint, withoutSpikes } from "./spikes";
import { TOLERANCE } from "./tolerance";

const STEPS = TOLERANCE.stepsPerMm;
const path = (...points: [number, number][]): GridPoint[] => points.map(([x, y]) => ({ x: x * STEPS, y: y * STEPS }));
const SQUARE = path([0, 0], [100, 0], [100, 50], [0, 50]);
const TRIANGLE = path([0, 0], [100, 0], [0, 50]);
const nonzero = ([winding = 0]: readonly number[]) => winding !== 0;

/** What is lost between two sets of lines, mm2, and where, mm. */
function lost(wanted: GridPoint[][], got: GridPoint[][]) {
  const scanlines = scanlinesOf(wanted);
  const { area, at } = differenceOf(scanlines, spansOn(scanlines, [wanted], nonzero), spansOn(scanlines, [got], nonzero));
  return { area: area / STEPS ** 2, x: at.x / STEPS, y: at.y / STEPS };
}

it("a lost corner is found by its area and its place, whichever way lines run; what is equal is equal", () => {
  for (const square of [SQUARE, [...SQUARE].reverse()]) {
    expect(lost([square], [SQUARE]).area).toBe(0);
    const { area, x, y } = lost([square], [TRIANGLE]);
    expect(area).toBeCloseTo(2500, 1);
    expect([x, y]).toEqual([75, 25].map((mm) => expect.closeTo(mm, 3)));
  }
  // Material that was added counts too.
  expect(lost([TRIANGLE, path([0, 50], [1, 50], [0, 51])], [SQUARE]).area).toBeGreaterThan(2400);
});

it("a hole that is filled is found; even-odd and nonzero differ where lines run the same way", () => {
  const hole = path([20, 10], [20, 40], [40, 40], [40, 10]);
  expect(lost([SQUARE, hole], [SQUARE]).area).toBeCloseTo(600, 3);
  expect(lost([SQUARE, [...hole].reverse()], [SQUARE]).area).toBe(0);
  const scanlines = scanlinesOf([SQUARE, hole]);
  const evenOdd = spansOn(scanlines, [[SQUARE, [...hole].reverse()]], ([winding = 0]) => winding % 2 !== 0);
  expect(evenOdd.some((spans) => spans.length === 4)).toBe(true);
});

it("of thousands of points enough are looked at to find a lost piece", () => {
  const circle = Array.from({ length: 5000 }, (_, i) => ({
    x: Math.round(50 * STEPS * Math.cos((2 * Math.PI * i) / 5000)),
    y: Math.round(50 * STEPS * Math.sin((2 * Math.PI * i) / 5000)),
  }));
  const without = [...circle.slice(0, 1000), ...circle.slice(1200)];
  const segment = 0.5 * 50 ** 2 * ((2 * Math.PI * 201) / 5000 - Math.sin((2 * Math.PI * 201) / 5000));
  expect(lost([circle], [without]).area / segment).toBeCloseTo(1, 0);
});

it("another mirror is tried where a result fails its check; where all fail the place is named", () => {
  const tried: Mirror[] = [];
  const fault: Difference = { area: 3 * STEPS ** 2, at: { x: 12 * STEPS, y: 34 * STEPS } };
  const result = checked(
    (mirror) => {
      tried.push(mirror);
      return [];
    },
    () => (tried.length < 3 ? fault : null),
  );
  expect(result).toEqual([]);
  expect(tried).toEqual([
    { x: 1, y: 1 },
    { x: 1, y: -1 },
    { x: -1, y: 1 },
  ]);
  expect(
    refusal(() =>
      checked(
        () => [],
        () => fault,
      ),
    ),
  ).toMatchObject({ code: "no-solution", message: expect.stringMatching(/3\.00 mm2.*x 12\.00, y 34\.00/) });
});

it("spikes go, in any number of steps and across the start; corners and points on a line stay", () => {
  expect(withoutSpikes(SQUARE)).toEqual(SQUARE);
  expect(withoutSpikes(path([0, 0], [50, 0], [100, 0], [100, 50], [0, 50]))).toHaveLength(5);
  // Past the start and back to it.
  expect(withoutSpikes(path([0, 0], [100, 0], [100, 50], [0, 50], [0, -5]))).toHaveLength(4);
  expect(withoutSpikes(path([0, 0], [0, 0], [100, 0], [130, 20], [150, 60], [130, 20], [100, 0], [100, 50], [0, 50], [0, 0]))).toEqual(SQUARE);
  expect(withoutSpikes(path([0, 0], [100, 0], [40, 0])).length).toBeLessThan(3);
  // One hundredth of a millimetre wide encloses something.
  expect(withoutSpikes(path([0, 0], [100, 0], [100, 0.01], [0, 0.01]))).toHaveLength(4);
});
