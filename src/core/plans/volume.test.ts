import { describe, expect, it } from "vitest";
import { boundsOf, type Point, regionArea } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import { evaluatePlan, flatterFace } from "./evaluate";
import type { OutLine } from "./outputs/drawing";
import { templateDrawing } from "./outputs/templates";
import { slotOf, withSlot } from "./place";
import { newPlan } from "./plan";
import { drawShape } from "./shapes";
import { naca5 } from "./shapes/naca5";

type End = Parameters<typeof newPlan>[1]["root"];
const volume = (root: End, tip: End, span_mm: number, more: object = {}) =>
  evaluatePlan(newPlan("V", { root, tip, part: { span_mm, ...more } }), null, false).volumeMm3;
const areaOf = (end: End) => regionArea(evaluatePlan(newPlan("V", { root: end, part: { span_mm: 100 } }), null, false).root.drawn.regions[0] as never);

describe("foam between two sections", () => {
  const round = (chord_mm: number): End => ({ shape: { kind: "ellipse", ratio: 1 }, chord_mm });
  const section = (chord_mm: number): End => ({ shape: { kind: "naca4", code: "2412" }, chord_mm });

  it("of one section is its area times the span, of two alike that of a cut-off cone, wherever the smaller one lies", () => {
    expect(volume(section(200), section(200), 500) / (areaOf(section(200)) * 500)).toBeCloseTo(1, 3);
    for (const [big, small] of [
      [round(100), round(40)],
      [section(240), section(90)],
    ] as const) {
      const [a, b] = [areaOf(big), areaOf(small)];
      const cone = (400 / 3) * (a + b + Math.sqrt(a * b));
      expect(volume(big, small, 400) / cone).toBeCloseTo(1, 3);
      expect(volume(big, small, 400, { sweep_mm: 80, offset_mm: -30 }) / cone).toBeCloseTo(1, 3);
    }
  });
  it("twisted by an angle the one between is thinner by the square of half its cosine: V = A L (1 + 2 cos^2(a/2))/3", () => {
    const a = (20 * Math.PI) / 180;
    expect(volume(section(200), section(200), 300, { washout_deg: 20 }) / (areaOf(section(200)) * 300)).toBeCloseTo((1 + 2 * Math.cos(a / 2) ** 2) / 3, 3);
  });
  it("is the same whichever point of its outline a section was begun at: both are led from their noses", () => {
    const points: Point[] = [
      [0, 20],
      [60, 0],
      [200, 15],
      [200, 25],
      [70, 60],
    ];
    const started = (k: number): End => ({ shape: { kind: "points", points_mm: [...points.slice(k), ...points.slice(0, k)] } });
    const whole = areaOf(started(0)) * 250;
    for (let k = 0; k < points.length; k++) {
      expect(volume(started(0), started(k), 250) / whole).toBeCloseTo(1, 3);
      expect(volume(started(k), started(2), 250) / whole).toBeCloseTo(1, 3);
    }
  });
});

describe("a spar's slot", () => {
  // A wedge from nothing at 0 to 40 thick at 100, flat below.
  const wedge = drawShape(
    {
      kind: "points",
      points_mm: [
        [0, 0],
        [100, 0],
        [100, 40],
      ],
    } as never,
    undefined,
  );
  const outline = wedge.regions[0]?.outline ?? [];
  const spar = (face: "upper" | "lower", at: number, width_mm: number, depth_mm: number) => ({ as: "slot" as const, face, at, width_mm, depth_mm });
  it("from above it opens at the lowest of its mouth, from below at the highest, so that a spar so deep is flush there", () => {
    // Over 55 to 65 the upper edge is at 22, 24 and 26.
    expect(slotOf(spar("upper", 0.6, 10, 8), outline, 100)).toEqual({ minX: 55, maxX: 65, floor: expect.closeTo(14, 9), mouth: expect.closeTo(22, 9) });
    expect(slotOf(spar("lower", 0.6, 10, 8), outline, 100)).toEqual({ minX: 55, maxX: 65, floor: expect.closeTo(8, 9), mouth: expect.closeTo(0, 9) });
    expect(slotOf(null, outline, 100)).toBeNull();
    // Turned over, the slanted edge is below: its highest place counts.
    const over = outline.map(([x, y]): Point => [x, -y]);
    expect(slotOf(spar("lower", 0.6, 10, 8), over, 100)).toEqual({ minX: 55, maxX: 65, floor: expect.closeTo(-14, 9), mouth: expect.closeTo(-22, 9) });
  });
  it("through is refused with how thick it is there, on either face; so is one beyond the section", () => {
    const words = (...given: Parameters<typeof spar>) => {
      try {
        slotOf(spar(...given), outline, 100);
      } catch (error) {
        return error instanceof CoreError ? error.message : error;
      }
      return null;
    };
    expect(words("upper", 0.6, 10, 21.9)).toBeNull();
    expect(words("upper", 0.6, 10, 22)).toBe("the section is 22.0 mm thick there: a slot 22 mm deep would go through");
    expect(words("lower", 0.6, 10, 21.9)).toBeNull();
    expect(words("lower", 0.6, 10, 22.1)).toBe("the section is 22.0 mm thick there: a slot 22.1 mm deep would go through");
    for (const at of [0.02, 0.98]) expect(words("upper", at, 10, 1)).toBe("the spar's slot reaches beyond the section: move it or make it narrower");
  });
  it("takes its width times its depth, and on a slant the wedge above its mouth besides; a mark takes nothing", () => {
    const taken = (given: ReturnType<typeof spar> | { as: "mark" }) => 2000 - regionArea(withSlot(wedge, given as never, 100).regions[0] as never);
    expect(taken(spar("lower", 0.6, 10, 8))).toBeCloseTo(80, 3);
    expect(taken(spar("upper", 0.6, 10, 8))).toBeCloseTo(80 + (10 * 4) / 2, 3);
    expect(taken({ ...spar("upper", 0.6, 10, 8), as: "mark" as never })).toBeCloseTo(0, 9);
  });
});

describe("one template on its own", () => {
  const plan = newPlan("T", {
    root: { shape: { kind: "naca4", code: "2412" }, chord_mm: 200 },
    tip: { shape: { kind: "naca4", code: "2412" }, chord_mm: 100 },
    part: { span_mm: 300 },
    template: { pins: [0.25, 0.75] },
  });
  const evaluation = evaluatePlan(plan, null, false);
  it("of a face: its edge open, a body square down from both its ends to one base, a line to lay it by, its pins", () => {
    for (const template of evaluation.root.templates) {
      const { lines } = templateDrawing(plan, evaluation, template);
      const of = (layer: string) => lines.filter((each) => each.layer === layer);
      const [guide] = of("guide");
      expect(guide).toEqual({ layer: "guide", points: template.line, closed: false });
      const [first, last] = [template.line[0] as Point, template.line.at(-1) as Point];
      // Both faces of an end have one base: below the lowest of both.
      const lowest = boundsOf(evaluation.root.templates.flatMap(({ line }) => line)).minY;
      const [body] = of("body") as [OutLine];
      expect(body.closed).toBe(false);
      expect(body.points).toHaveLength(4);
      expect([body.points[0], body.points[3]]).toEqual([first, last]);
      const base = (body.points[1] as Point)[1];
      expect(body.points.slice(1, 3)).toEqual([
        [first[0], base],
        [last[0], base],
      ]);
      expect(base).toBeLessThan(lowest - 5);
      const { minX, maxX } = boundsOf(template.line);
      const [line] = of("base line") as [OutLine];
      expect(line.closed).toBe(false);
      expect(line.points.map(([x]) => x)).toEqual([minX, maxX]);
      const up = (line.points[0] as Point)[1];
      expect((line.points[1] as Point)[1]).toBe(up);
      expect(up).toBeGreaterThan(base);
      expect(up).toBeLessThan(lowest);
      // Pins at a quarter and three quarters of the chord, round, half as high as the line.
      const pins = of("pins").map(({ points, closed }) => ({ ...boundsOf(points), closed }));
      expect(pins.map(({ minX: a, maxX: b }) => (a + b) / 2)).toEqual([expect.closeTo(50, 1), expect.closeTo(150, 1)]);
      for (const pin of pins) {
        expect(pin.closed).toBe(true);
        expect((pin.minY + pin.maxY) / 2).toBeCloseTo((base + up) / 2, 1);
        expect(pin.maxX - pin.minX).toBeCloseTo(pin.maxY - pin.minY, 1);
      }
      expect(of("finished part").every(({ closed }) => closed)).toBe(true);
    }
  });
  it("the face that lies down is the one that is flatter along the chord", () => {
    const flat = (points_mm: Point[]) =>
      flatterFace(evaluatePlan(newPlan("F", { root: { shape: { kind: "points", points_mm } }, part: { span_mm: 100 } }), null, false).root);
    const dome: Point[] = [
      [0, 0],
      [100, 0],
      [100, 5],
      [50, 30],
      [0, 5],
    ];
    expect(flat(dome)).toBe("lower");
    expect(flat(dome.map(([x, y]): Point => [x, -y]))).toBe("upper");
    // Moved along, it is the same.
    expect(flat(dome.map(([x, y]): Point => [x + 400, 7 - y]))).toBe("upper");
    expect(flatterFace({ drawn: { regions: [] } } as never)).toBe("lower");
  });
});

describe("five digits", () => {
  const result = (code: string) => naca5.schema.safeParse({ kind: "naca5", code }).error?.issues[0]?.message ?? null;
  it.each([
    ["23012", null],
    ["23001", null],
    ["23040", null],
    ["23041", "must end in a thickness from 01 to 40"],
    ["23000", "must end in a thickness from 01 to 40"],
    ["03012", "must begin with a design lift from 1 to 9"],
    ["26012", "must have a second digit from 1 to 5: camber at 5 to 25 % of the chord"],
    ["23112", "must have 0 as its third digit: reflexed mean lines are not drawn"],
    ["2301", "must be five digits such as 23012"],
  ])("%s: %s", (code, words) => expect(result(code)).toBe(words));
});
