import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { boundsOf, nearest, type Point } from "../geometry/points";
import { FULL_HEAT } from "../motion/program/machine";
import { writeProgram } from "../motion/program/program";
import { readProgram } from "../motion/program/reader";
import { cutAtPower } from "../physics/cut/cut";
import { evaluatePlan } from "../plans/evaluate";
import { newPlan } from "../plans/plan";
import { fumeFeedMmS, paceOf } from "./pace";
import { facesOf, paceJob } from "./planPace";
import { sharedEndPaths } from "./sharedEndPaths";

/** Signs and sides: what a symmetric test cannot see. */
const bow = DEMO_CUTTERS[0] as Design;
const naca = (chord_mm: number) => ({ shape: { kind: "naca4" as const, code: "2412" }, chord_mm });
const plan = (more: object = {}, template: object = {}) =>
  newPlan("P", { root: naca(200), tip: naca(160), part: { span_mm: 600, ...more }, template: { twist: true, ...template } });

describe("the side of", () => {
  it("washout: the tip's nose goes down and its tail up, about its quarter chord", () => {
    const { tip } = evaluatePlan(plan({ washout_deg: 5 }), bow, false);
    const flat = evaluatePlan(plan(), bow, false).tip;
    const [nose, tail] = [tip, flat]
      .map(({ placed }) => placed[0]?.outline ?? [])
      .map((outline) => [
        outline.reduce((best, point) => (point[0] < best[0] ? point : best)),
        outline.reduce((best, point) => (point[0] > best[0] ? point : best)),
      ]) as unknown as [Point[], Point[]];
    // The first of each is the turned tip.
    const [turnedNose, turnedTail] = nose as unknown as [Point, Point];
    const [flatNose, flatTail] = tail as unknown as [Point, Point];
    expect(turnedNose[1] - flatNose[1]).toBeCloseTo(-40 * Math.sin((5 * Math.PI) / 180), 0);
    expect(turnedTail[1] - flatTail[1]).toBeCloseTo(120 * Math.sin((5 * Math.PI) / 180), 0);
  });

  it("the ramp: before the nose, above an upper face and below a lower one, away from the part", () => {
    const { root } = evaluatePlan(plan({}, { faces: "pair", ramp_deg: 20, ramp_mm: 25 }), bow, false);
    for (const [face, sign] of [
      ["upper", 1],
      ["lower", -1],
    ] as const) {
      const line = root.templates.find((template) => template.face === face)?.line ?? [];
      const [ramp, nose] = line as [Point, Point];
      expect(ramp[0]).toBeCloseTo(nose[0] - 25, 9);
      expect(sign * (ramp[1] - nose[1])).toBeCloseTo(25 * Math.tan((20 * Math.PI) / 180), 9);
      const part = boundsOf(root.drawn.regions[0]?.outline ?? []);
      expect(ramp[0]).toBeLessThan(part.minX);
    }
  });

  it("the shared shift: outwards in a bend, by half of what the middle cuts it short", () => {
    const job = paceJob(plan(), evaluatePlan(plan(), bow, false), facesOf(plan())[0] as never) as NonNullable<ReturnType<typeof paceJob>>;
    // Counter-clockwise round the origin: the middle cuts inside the bend, so the ends go outside it.
    for (const turn of [1, -1]) {
      const arc = Array.from({ length: 60 }, (_, i): Point => [30 * Math.cos((turn * i) / 20), 30 * Math.sin((turn * i) / 20)]);
      const timesS = arc.map((_, i) => (i * 1.5) / 6);
      const { movedMm, mostMm } = sharedEndPaths(job.wire, { path: arc, tipPath: arc, timesS });
      expect(mostMm).toBeGreaterThan(0.003);
      const [at, moved] = [arc[25] as Point, movedMm[25] as Point];
      expect((at[0] * moved[0] + at[1] * moved[1]) / 30).toBeGreaterThan(0.5 * mostMm);
    }
  });
});

describe("a program's units and turns", () => {
  const machine = { axes: ["X", "Y"], layout: null, travelMm: null, turn: null };
  it.each([
    ["millimetres", "G21", 1],
    ["inches", "G20", 25.4],
  ])("arcs by I, J and R in %s: centre, radius, side and feed all in the file's unit", (_unit, word, mm) => {
    const quarter = (line: string, sign: 1 | -1) => {
      const { path, timesS } = readProgram(`${word}\nG90\nG17\nG94\nG0 X0 Y0\nM3 S1000\n${line} F60\nM5\nM2\n`, machine);
      // A quarter round (0, 1) or (1, 0), from the origin to (1, 1).
      const centre: Point = sign > 0 ? [0, mm] : [mm, 0];
      const arc = path.slice(1);
      for (const [x, y] of arc) expect(Math.hypot(x - centre[0], y - centre[1])).toBeCloseTo(mm, 2);
      expect(arc.at(-1)).toEqual([expect.closeTo(mm, 6), expect.closeTo(mm, 6)]);
      // One unit a second along a quarter of a circle.
      expect((timesS.at(-1) as number) - (timesS[0] as number)).toBeCloseTo(Math.PI / 2, 2);
    };
    quarter("G3 X1 Y1 I0 J1", 1);
    quarter("G3 X1 Y1 R1", 1);
    quarter("G2 X1 Y1 I1 J0", -1);
    quarter("G2 X1 Y1 R1", -1);
  });

  it("moves are merged into an arc only where feed and heat are the same", () => {
    const circle = Array.from({ length: 41 }, (_, i): Point => [20 * Math.cos(i / 20), 20 * Math.sin(i / 20)]);
    const even = circle.map((_, i) => i / 6);
    const count = (timesS: number[], heat: number[]) =>
      writeProgram(machine, circle, null, timesS, 0, "c", { arcs: true, heat })
        .text.split("\n")
        .filter((line) => /^G[23] /.test(line)).length;
    const full = circle.slice(1).map(() => FULL_HEAT);
    expect(count(even, full)).toBe(1);
    // From half way on at half the feed, or half the heat: two arcs, each read back with its own.
    const slower = even.map((time, i) => (i <= 20 ? time : 2 * time - (even[20] as number)));
    expect(count(slower, full)).toBe(2);
    expect(
      count(
        even,
        full.map((heat, i) => (i < 20 ? heat : heat / 2)),
      ),
    ).toBe(2);
    const { path, timesS } = readProgram(writeProgram(machine, circle, null, slower, 0, "c", { arcs: true, heat: full }).text, machine);
    const half = path.findIndex((point) => Math.hypot(point[0] - (circle[20] as Point)[0], point[1] - (circle[20] as Point)[1]) < 1e-3);
    expect(timesS[half]).toBeCloseTo(slower[20] as number, 2);
    expect(timesS.at(-1)).toBeCloseTo(slower.at(-1) as number, 2);
  });
});

it("the fume limit holds at the slower end of a taper, whichever that is", () => {
  const evaluation = evaluatePlan(plan(), bow, false);
  const pair = evaluation.cutter?.pair as never;
  const powerWPerM = 70;
  const maxFeedMmS = cutAtPower(pair, 0.005, powerWPerM).maxFeedMPerS * 1000;
  const job = paceJob(plan(), evaluation, facesOf(plan())[0] as never) as NonNullable<ReturnType<typeof paceJob>>;
  const wire = { ...job.wire, maxFeedMmS };
  const bent = Array.from({ length: 40 }, (_, i): Point => [2 * i, 6 * Math.sin(i / 4)]);
  const small = bent.map(([x, y]): Point => [0.4 * x, 0.4 * y]);
  const floor = fumeFeedMmS(pair, powerWPerM);
  expect(floor).toBeGreaterThan(0.2);
  for (const [root, tip] of [
    [bent, small],
    [small, bent],
  ] as const) {
    const { path, tipPath, timesS } = paceOf({ wire, pair, powerWPerM, root: [...root], tip: [...tip], toleranceMm: 1 });
    for (let i = 1; i < path.length; i++) {
      const seconds = (timesS[i] as number) - (timesS[i - 1] as number);
      const slower = Math.min(
        ...[path, tipPath].map((line) => Math.hypot((line[i] as Point)[0] - (line[i - 1] as Point)[0], (line[i] as Point)[1] - (line[i - 1] as Point)[1])),
      );
      if (slower > 1e-9) expect(slower / seconds).toBeGreaterThan(floor * 0.999);
    }
  }
  expect(nearest([0, 0], bent, false).distance).toBe(0);
});
