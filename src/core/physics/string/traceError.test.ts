import { describe, expect, it } from "vitest";
import type { Point } from "../../geometry/points";
import type { Trace } from "./tautWire";
import { deviationOf, traceError } from "./traceError";

const trace = (cut: [number, number][], drawn: [number, number][]): Trace => {
  const all = (points: [number, number][], axis: 0 | 1) => Float64Array.from(points, (point) => point[axis]);
  return { at: 0.5, x: all(cut, 0), y: all(cut, 1), drawnX: all(drawn, 0), drawnY: all(drawn, 1) };
};
/** Places of a line along x, one a millimetre. */
const along = (from: number, to: number, y: (x: number) => number): [number, number][] =>
  Array.from({ length: to - from + 1 }, (_, i) => [from + i, y(from + i)]);

describe("how a line cut differs from the line drawn", () => {
  it("cut next to it by a millimetre it is off by one, everywhere, up to where the wire had come", () => {
    const drawn = along(0, 12, () => 0);
    // It trails by three: the last three of the drawn line are not come to.
    const cut = along(-3, 9, (x) => (x < 0 ? 0 : 1)).map(([x, y]): [number, number] => [Math.max(0, x), y]);
    const { errorMm, drawnMm, cutMm } = traceError(trace(cut, drawn));
    expect(errorMm).toBeCloseTo(1, 12);
    expect(Array.from(cutMm)).toEqual(cut.map(([, y]) => y));
    // The drawn line passes the wire's last place at its tenth: what lies beyond says nothing.
    expect(Array.from(drawnMm.slice(0, 9))).not.toContain(Number.NaN);
    expect(Array.from(drawnMm.slice(10)).every(Number.isNaN)).toBe(true);
    expect(drawnMm[5]).toBeCloseTo(1, 12);
  });
  it("a spike that is cut short is found from the drawn line's side, where it is drawn", () => {
    const drawn = along(0, 20, (x) => (x === 10 ? 6 : 0));
    const cut = along(0, 20, (x) => (x === 10 ? 2 : 0));
    const { errorMm, worst } = traceError(trace(cut, drawn));
    expect(errorMm).toBeCloseTo(4, 1);
    expect(worst).toEqual({ x: 10, y: 6, index: 10 });
  });
  it("a bulge that was never drawn is found from the cut's side, where it was cut", () => {
    const drawn = along(0, 20, () => 0);
    const cut = along(0, 20, (x) => (x === 7 ? -5 : 0));
    const { errorMm, worst } = traceError(trace(cut, drawn));
    expect(errorMm).toBe(5);
    expect(worst).toEqual({ x: 7, y: -5, index: 7 });
  });
  it("the same line has no error, and its first place represents the worst", () => {
    const line = along(2, 9, (x) => x * x);
    expect(traceError(trace(line, line))).toMatchObject({ errorMm: 0, worst: { x: 2, y: 4, index: 0 } });
  });
});

describe("what one way misses of another", () => {
  const wire = { lengthM: 0.8, tensionN: 40, foamFromM: 0, foamToM: 0.8, referenceDragNPerM: 2, maxFeedMmS: 12 };
  const guided = (y: number) => ({
    path: [
      [0, y],
      [80, y],
    ] as [number, number][],
    timesS: [0, 16],
  });
  const how = { nodes: 15, steps: 60 };
  it("led straight it misses nothing of its own line, and by as much as it is led beside another", () => {
    expect(deviationOf(wire, guided(0), guided(0), how)).toBeLessThan(1e-9);
    expect(deviationOf(wire, guided(1.5), guided(0), how)).toBeCloseTo(1.5, 9);
  });
  it("an end that goes wrong counts, though the middle goes half as wrong", () => {
    const meant = guided(0);
    const wrong = { ...meant, tipPath: guided(2).path };
    expect(deviationOf(wire, wrong, meant, how)).toBeCloseTo(2, 9);
  });
  it("what is cut within a loop through the waste is no miss; what is cut next to it is", () => {
    // Along, up past the corner into the waste, back over it and on, slowly; the wire's middle hangs behind and cuts the loop's corners off.
    const corner: Point = [60, 0];
    const path: Point[] = [[0, 0], corner, [72, 0], [60, -12], corner, [60, 60]];
    const lengths = path.map((point, i) => (i === 0 ? 0 : Math.hypot(point[0] - (path[i - 1] as Point)[0], point[1] - (path[i - 1] as Point)[1])));
    let now = 0;
    const looped = { path, timesS: lengths.map((mm) => (now += mm / 3)) };
    const fine = { nodes: 15, steps: 1200 };
    const loop = path.slice(1, 5);
    const slack = { ...wire, tensionN: 25 };
    const all = deviationOf(slack, looped, looped, fine);
    expect(all).toBeGreaterThan(1);
    expect(deviationOf(slack, looped, looped, { ...fine, waste: [{ root: loop, tip: loop }] })).toBeLessThan(0.1 * all);
    const elsewhere = loop.map(([x, y]): Point => [x, y + 40]);
    expect(deviationOf(slack, looped, looped, { ...fine, waste: [{ root: elsewhere, tip: elsewhere }] })).toBe(all);
    // Each place of the wire has a loop of its own between both ends': one that is right at the root alone leaves the middle's miss.
    expect(deviationOf(slack, looped, looped, { ...fine, waste: [{ root: loop, tip: elsewhere }] })).toBe(all);
    // What is led wrong outside of the loop counts as before.
    const beside = { path: path.map(([x, y], i): Point => (i === 5 ? [62, y] : [x, y])), timesS: looped.timesS };
    expect(deviationOf(slack, beside, looped, { ...fine, waste: [{ root: loop, tip: loop }] })).toBeGreaterThan(1.5);
  });
});
