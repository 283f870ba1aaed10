import { readFileSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { boundsOf, distance, lineLength, type Point, perimeter, regionArea, signedArea } from "../geometry/points";
import { CoreError } from "../kernel/errors";
import { cornersOf, withEars } from "./ears";
import { clearBelowMm, evaluatePlan, flatterFace, lagOf, type Template } from "./evaluate";
import { guidesOf } from "./guide";
import { handlesOf, normalised, withHandle, withoutPoint, withPointAfter } from "./handles";
import { noseWords } from "./imports/imported";
import { requireExportable, templateDrawing, templatesDrawing } from "./outputs/templates";
import { evaluatePanels, panelCount, panelPlan, withOneMore, withPanel } from "./panels";
import { asPoints, drawEnd } from "./place";
import { firstPlan, newPlan, type Plan, type PlanEnd, planSchema } from "./plan";
import { drawShape } from "./shapes";
import { fontFile, knowFont, letters, OWN_FONT } from "./shapes/text";

const font = (name: string) => new Uint8Array(readFileSync(path.resolve(`node_modules/dejavu-fonts-ttf/ttf/${name}.ttf`))).buffer;
knowFont(OWN_FONT, () => font("DejaVuSans-Bold"));
const bow = DEMO_CUTTERS[0] as Design;
const box: Plan["root"] = { shape: { kind: "rounded", ratio: 0.4, radius_mm: 0 }, chord_mm: 100, thickness: 1, turn_deg: 0, x_mm: 0, y_mm: 0 };
const boxPlan = (over: Partial<Parameters<typeof newPlan>[1]> = {}) => newPlan("Box", { root: box, part: { span_mm: 300 }, ...over });
const outlineOf = (end: PlanEnd) => drawEnd(end).regions[0]?.outline ?? [];

describe("where an end lies", () => {
  it("a quarter turn swaps its sides, and the chord is measured after it", () => {
    const turned = boundsOf(outlineOf({ ...box, turn_deg: 90 }));
    expect(turned.maxX - turned.minX).toBeCloseTo(100, 6);
    expect(turned.maxY - turned.minY).toBeCloseTo(250, 6);
    expect(turned.minX).toBeCloseTo(0, 9);
  });
  it("moved aft and up, nose and tail go with it", () => {
    const [still, moved] = [drawEnd(box), drawEnd({ ...box, x_mm: 12, y_mm: -7 })];
    expect(distance(moved.nose, [still.nose[0] + 12, still.nose[1] - 7])).toBeLessThan(1e-9);
    expect(distance(moved.tail.upper, [still.tail.upper[0] + 12, still.tail.upper[1] - 7])).toBeLessThan(1e-9);
  });
  it("points are exactly where chord, thickness and turning put them, once those have gone into them", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 400, noNaN: true }),
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        fc.constantFrom(0, -35, 90, 140),
        fc.boolean(),
        (chord, thickness, turn_deg, hasChord) => {
          const end: PlanEnd = {
            ...box,
            shape: {
              kind: "points",
              points_mm: [
                [3, 1],
                [90, 0],
                [70, 40],
                [20, 30],
              ],
            },
            thickness,
            turn_deg,
          };
          const { chord_mm: _none, ...own } = end;
          const requested: PlanEnd = hasChord ? { ...own, chord_mm: chord } : own;
          const [before, after] = [outlineOf(requested), outlineOf(normalised(requested))];
          expect(after.length).toBe(before.length);
          expect(signedArea(after) / signedArea(before)).toBeCloseTo(1, 5);
          const [a, b] = [boundsOf(before), boundsOf(after)];
          for (const key of ["minX", "minY", "maxX", "maxY"] as const) expect(b[key]).toBeCloseTo(a[key], 3);
        },
      ),
      { numRuns: 60 },
    );
  });
  it("any shape becomes points of the same area", () => {
    const end: PlanEnd = { ...box, shape: { kind: "naca4", code: "2415" }, chord_mm: 320, thickness: 1.2 };
    const points = asPoints(end);
    expect(points.shape.kind).toBe("points");
    expect(signedArea(outlineOf(points))).toBeCloseTo(signedArea(outlineOf(end)), 1);
  });
});

describe("handles", () => {
  const at = (end: PlanEnd, id: string) => handlesOf(end).find((each) => each.id === id)?.at as Point;
  it("the tail sets the chord, the top the thickness, the nose where it lies", () => {
    expect(withHandle(box, "tail", [140, 999]).chord_mm).toBeCloseTo(140, 6);
    expect(withHandle(box, "top", [0, 30]).thickness).toBeCloseTo(1.5, 6);
    expect(withHandle(box, "nose", [5, 8])).toMatchObject({ x_mm: 5, y_mm: 8 });
    expect(withHandle(box, "tail", [-500, 0]).chord_mm).toBe(1);
    expect(withHandle(box, "top", [0, 1e6]).thickness).toBe(5);
    expect(withHandle(box, "point 3", [1, 1])).toBe(box);
  });
  it("a point goes where the hand is, regardless of chord, thickness and position the end had, and no other point moves", () => {
    const end: PlanEnd = {
      ...box,
      shape: {
        kind: "points",
        points_mm: [
          [10, 0],
          [90, 0],
          [70, 40],
          [20, 30],
        ],
      },
      chord_mm: 200,
      thickness: 0.7,
      x_mm: 15,
      y_mm: 4,
    };
    const others = [0, 1, 3].map((i) => at(end, `point ${i}`));
    const moved = withHandle(end, "point 2", [123, 45]);
    expect(distance(at(moved, "point 2"), [123, 45])).toBeLessThan(2e-3);
    for (const [k, i] of [0, 1, 3].entries()) expect(distance(at(moved, `point ${i}`), others[k] as Point)).toBeLessThan(1e-6);
    expect(outlineOf(moved).some((point) => distance(point, [123, 45]) < 2e-3)).toBe(true);
  });
  it("a point more lies half way; one less is gone; three stay", () => {
    const end: PlanEnd = {
      ...box,
      shape: {
        kind: "points",
        points_mm: [
          [0, 0],
          [100, 0],
          [50, 40],
        ],
      },
      chord_mm: 100,
    };
    const more = withPointAfter(end, 2);
    expect(at(more, "point 3")).toEqual([25, 20]);
    expect(regionArea({ outline: outlineOf(more), holes: [] })).toBeCloseTo(2000, 3);
    expect(withoutPoint(withoutPoint(more, 0), 0).shape).toMatchObject({ points_mm: { length: 3 } });
  });
  it("a column's places keep their order and stay above the axis", () => {
    const end: PlanEnd = {
      ...box,
      shape: {
        kind: "column",
        passes: 6,
        profile_mm: [
          [0, 30],
          [100, 40],
          [200, 20],
        ],
      },
    };
    const { chord_mm: _none, ...own } = end;
    expect(withHandle(own, "point 1", [400, -9]).shape).toMatchObject({
      profile_mm: [
        [0, 30],
        [200, 0],
        [200, 20],
      ],
    });
    expect(withPointAfter(own, 2).shape).toMatchObject({
      profile_mm: [
        [0, 30],
        [100, 40],
        [150, 30],
        [200, 20],
      ],
    });
    expect(planSchema.shape.root.safeParse(withHandle(own, "point 0", [-5, 10])).success).toBe(true);
  });
});

describe("ears", () => {
  it("a square's guide runs so far past each corner and comes back on the next edge's line", () => {
    const square: Point[] = [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
    ];
    expect(cornersOf(square).map(({ turnDeg }) => Math.round(turnDeg))).toEqual([90, 90, 90, 90]);
    const drawn = drawShape({ kind: "points", points_mm: square }, undefined);
    const [bare, eared] = [0, 12].map((earMm) => guidesOf(drawn, ["whole"], { offMm: 0.5, runOutMm: 0, earMm })[0]?.line ?? []);
    const { minX, maxX, minY, maxY } = boundsOf(eared as Point[]);
    for (const [value, want] of [
      [minX, -12],
      [maxX, 112],
      [minY, -12],
      [maxY, 112],
    ] as const)
      expect(value).toBeCloseTo(want, 3);
    // Each quarter of round join gives way to two ears' lengths and the line across between them.
    const across = Math.hypot(12 - 0.5, 12 - 0.5);
    expect(perimeter(eared as Point[]) - perimeter(bare as Point[])).toBeCloseTo(4 * (2 * 12 + across) - 2 * Math.PI * 0.5, 1);
    expect(withEars(square, square, 0.5, 0)).toBe(square);
  });
  it("a face's own ends have none: its line still runs from nose to tail", () => {
    const ears = evaluatePlan(boxPlan({ template: { ear_mm: 10 } }), bow);
    const bare = evaluatePlan(boxPlan(), bow);
    const [a, b] = [ears, bare].map(({ root }) => root.templates.find(({ face }) => face === "upper"));
    expect(distance(a?.line[0] as Point, b?.line[0] as Point)).toBeLessThan(1e-3);
    expect(distance(a?.line.at(-1) as Point, b?.line.at(-1) as Point)).toBeLessThan(1e-3);
    // One corner within the face: the front's upper one.
    expect(Math.max(...(a?.line ?? []).map(([, y]) => y))).toBeCloseTo(20 + 10, 0);
  });
  it("inner corners and curves have none", () => {
    expect(cornersOf(drawShape({ kind: "ellipse", ratio: 0.4 }, 200).regions[0]?.outline ?? [])).toEqual([]);
  });
});

describe("a spar", () => {
  const spar = { as: "slot", face: "lower", at: 0.3, width_mm: 8, depth_mm: 10 } as const;
  it("its slot is taken out of both sections, so wide and so deep, and its guide follows it", () => {
    const whole = evaluatePlan(boxPlan(), bow).root;
    const slotted = evaluatePlan(boxPlan({ template: { spar } }), bow).root;
    expect(regionArea(whole.placed[0] as never) - regionArea(slotted.placed[0] as never)).toBeCloseTo(80, 3);
    const lower = slotted.templates.find(({ face }) => face === "lower")?.line ?? [];
    const inside = lower.filter(([x]) => x > 26 && x < 34);
    // The slot's floor is at -20 + 10, the guide outside of it (below).
    expect(Math.max(...inside.map(([, y]) => y))).toBeCloseTo(-10 - slotted.guideMm, 2);
    expect(lineLength(lower)).toBeGreaterThan(lineLength(whole.templates.find(({ face }) => face === "lower")?.line ?? []) + 15);
  });
  it("too deep or beyond the section is refused with the field", () => {
    for (const bad of [
      { ...spar, depth_mm: 45 },
      { ...spar, at: 1 },
    ]) {
      try {
        evaluatePlan(boxPlan({ template: { spar: bad } }), bow);
        expect.unreachable();
      } catch (error) {
        expect(error).toBeInstanceOf(CoreError);
        expect((error as CoreError).path).toMatch(/template\.spar/);
      }
    }
  });
  it("a mark changes nothing of the part and is drawn on its face only", () => {
    const plan = boxPlan({ template: { spar: { ...spar, as: "mark" } } });
    const evaluation = evaluatePlan(plan, bow);
    expect(regionArea(evaluation.root.placed[0] as never)).toBeCloseTo(4000, 6);
    const marks = evaluation.root.templates.map((template) => templateDrawing(plan, evaluation, template).lines.filter(({ layer }) => layer === "spar").length);
    expect(evaluation.root.templates.map(({ face }) => face)).toEqual(["upper", "lower"]);
    expect(marks).toEqual([0, 2]);
  });
});

describe("base lines and twist", () => {
  const twisted = (template: object) => boxPlan({ part: { span_mm: 300, washout_deg: 3 }, template });
  const codes = (plan: Plan) => evaluatePlan(plan, bow).notes.map(({ code }) => code);
  it("a twist no one asked for is refused where templates are given out, and not before", () => {
    expect(() => requireExportable(evaluatePanels(twisted({}), bow))).toThrow(/3\.0 degrees/);
    expect(() => requireExportable(evaluatePanels(twisted({ twist: true }), bow))).not.toThrow();
    expect(codes(twisted({ twist: true }))).not.toContain("twist");
  });
  it("the tip's template lies turned on its base line by the washout; along the chord it does not, and that is said", () => {
    const slope = (plan: Plan) => {
      const own = { ...plan, tip: { ...plan.root, chord_mm: 80 } };
      const evaluation = evaluatePlan(own, bow);
      const template = evaluation.tip.templates[0];
      const { lines } = templateDrawing(own, evaluation, template as never);
      const edge = lines.find(({ layer }) => layer === "finished part")?.points ?? [];
      const [a, b] = [edge[0] as Point, edge[1] as Point];
      return (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
    };
    const level = slope(twisted({ twist: true, base: "chord" }));
    expect((slope(twisted({ twist: true })) - level + 360) % 360).toBeCloseTo(3, 6);
    expect(codes(twisted({ twist: true, base: "chord" }))).toContain("base-lines");
    expect(codes(twisted({ twist: true }))).not.toContain("base-lines");
  });
});

describe("panels", () => {
  const plan = newPlan("Long fin", {
    root: { shape: { kind: "naca4", code: "2415" }, chord_mm: 320 },
    tip: { shape: { kind: "naca4", code: "2412" }, chord_mm: 240 },
    part: { span_mm: 600, washout_deg: 1 },
    panels: [
      { tip: { shape: { kind: "naca4", code: "0012" }, chord_mm: 160 }, span_mm: 500, washout_deg: 2 },
      { tip: { shape: { kind: "naca4", code: "0010" }, chord_mm: 100 }, span_mm: 300 },
    ],
    template: { twist: true },
  });
  it("a joint's one template fits both panels: same section, same feed, same kerf, same turn on its base line", () => {
    const all = evaluatePanels(plan, bow);
    expect(all.length).toBe(panelCount(plan));
    for (let i = 1; i < all.length; i++) {
      const [inner, outer] = [all[i - 1]?.evaluation.tip, all[i]?.evaluation.root];
      expect(outer?.feedMmS).toBe(inner?.feedMmS);
      expect(outer?.kerfMm).toBe(inner?.kerfMm);
      // Each is led on by its own run-in, its own edge is the same.
      expect(outer?.templates[0]?.line).toEqual(inner?.templates[0]?.line);
      expect(all[i]?.evaluation.baseDeg.root).toBe(all[i - 1]?.evaluation.baseDeg.tip);
    }
    expect(all.map(({ evaluation }) => evaluation.baseDeg.tip)).toEqual([1, 3, 3]);
  });
  it("is given out once, with what it serves on it", () => {
    const { texts, lines } = templatesDrawing(evaluatePanels(plan, bow, false));
    // Four ends, an upper and a lower each.
    expect(lines.filter(({ layer }) => layer === "guide").length).toBe(8);
    expect(texts.filter(({ text }) => /tip, upper face, panel 1 of 3, and the root of panel 2/.test(text)).length).toBe(1);
  });
  it("what is changed in a panel lands where it belongs, and undoes to the same plan", () => {
    for (let i = 0; i < panelCount(plan); i++) expect(withPanel(plan, i, panelPlan(plan, i))).toEqual(plan);
    const second = panelPlan(plan, 1);
    const wider = withPanel(plan, 1, { ...second, root: { ...second.root, chord_mm: 250 }, part: { ...second.part, span_mm: 444, skin_mm: 1 } });
    expect(wider.tip?.chord_mm).toBe(250);
    expect(wider.part).toMatchObject({ span_mm: 600, skin_mm: 1 });
    expect(wider.panels[0]?.span_mm).toBe(444);
    const third = panelPlan(plan, 2);
    const joint = withPanel(plan, 2, { ...third, root: { ...third.root, chord_mm: 150 }, cut: { ...third.cut, rootKerf_mm: 2 } });
    expect(joint.panels[0]).toMatchObject({ tip: { chord_mm: 150 }, tipKerf_mm: 2 });
    expect(joint.cut.rootKerf_mm).toBeUndefined();
    expect(panelPlan(joint, 1).cut.tipKerf_mm).toBe(2);
  });
  it("one more begins at the last tip and is a good plan; another format's reader keeps it", () => {
    const more = withOneMore({ ...firstPlan(), tip: box });
    expect(planSchema.parse(JSON.parse(JSON.stringify(more)))).toEqual(more);
    expect(panelPlan(more, 1).root).toEqual(more.tip);
  });
});

describe("a plan as it is begun", () => {
  it("is one section all along until a second end is chosen, as long as the cutter's block is wide and within its height", () => {
    expect(firstPlan().tip).toBeNull();
    for (const job of [
      { width_mm: 300, thickness_mm: 100 },
      { width_mm: 12_000, thickness_mm: 20 },
      { width_mm: 5, thickness_mm: 0.1 },
    ]) {
      const plan = planSchema.parse(firstPlan("New plan", null, job));
      expect(plan.part.span_mm).toBe(Math.min(10_000, job.width_mm));
      if (job.thickness_mm > 1) expect(evaluatePlan(plan, null).block.boardMm).toBeLessThanOrEqual(job.thickness_mm + 0.5);
    }
    expect(evaluatePlan(firstPlan("New plan", null, bow.job), bow).misfits).toEqual([]);
  });
});

describe("how the block lies", () => {
  it("the thickest part comes into the middle of the height, and the margins are the least then", () => {
    const given = { root: { shape: { kind: "naca4" as const, code: "4412" }, chord_mm: 200 }, part: { span_mm: 300 } };
    const [plain, centred] = [false, true].map((each) => evaluatePlan(newPlan("x", { ...given, blank: { centred: each } }), bow).block);
    const outline = drawShape({ kind: "naca4", code: "4412" }, 200).regions[0]?.outline ?? [];
    const near = outline.filter(([x]) => Math.abs(x - 60) < 1.5).map(([, y]) => y);
    const middle = (Math.max(...near) + Math.min(...near)) / 2;
    expect(((centred?.minY ?? 0) + (centred?.maxY ?? 0)) / 2).toBeCloseTo(middle, 0);
    expect(centred?.boardMm).toBeGreaterThan(plain?.boardMm ?? 0);
    expect(centred?.minY).toBeLessThanOrEqual(plain?.minY ?? 0);
  });
  it("a ramp that leaves the block's underside is reported, and by how much", () => {
    const low = boxPlan({ template: { ramp_deg: 45, ramp_mm: 60 } });
    const evaluation = evaluatePlan(low, bow);
    // From the nose's half height down by the ramp, to the block's underside 10 mm below the part.
    const lower = evaluation.root.templates.find(({ face }) => face === "lower") as Template;
    const start = (lower.line[1] as Point)[1];
    expect(clearBelowMm(evaluation.block, evaluation.root, evaluation.tip)).toBeCloseTo(start - 60 - -30, 6);
    expect(evaluation.notes.find(({ code }) => code === "under-block")?.words).toMatch(/30\.0 mm/);
    expect(evaluatePlan(boxPlan({ template: { ramp_mm: 0 } }), bow).notes.map(({ code }) => code)).not.toContain("under-block");
  });
  it("the flat face lies down", () => {
    const face = (points_mm: Point[]) => {
      const plan = newPlan("x", { root: { shape: { kind: "points", points_mm } }, part: { span_mm: 100 } });
      return flatterFace(evaluatePlan(plan, null).root);
    };
    const hill: Point[] = [
      [0, 0],
      [100, 0],
      [50, 40],
    ];
    expect(face(hill)).toBe("lower");
    expect(face(hill.map(([x, y]): Point => [x, -y]).reverse())).toBe("upper");
  });
  it("pressed board is advised to be trimmed, other foam is not", () => {
    const codes = (foam: string, trim_mm: number) =>
      evaluatePlan(boxPlan({ blank: { trim_mm } }), {
        ...bow,
        job: { ...bow.job, foam: { family: foam as "xps", density_kg_m3: foam === "xps" ? 35 : 20 } },
      }).notes.map(({ code }) => code);
    expect(codes("xps", 0)).toContain("stress");
    expect(codes("xps", 6)).not.toContain("stress");
    expect(codes("eps", 0)).not.toContain("stress");
  });
  it("the wire's middle trails by the taut string's own formula", () => {
    const plan = boxPlan();
    const evaluation = evaluatePlan(plan, bow);
    const drag = evaluation.root.cut?.dragNPerM as number;
    const live = bow.wire.length_mm / 1000;
    expect(lagOf(bow, plan, evaluation)).toBeCloseTo((1000 * drag * 0.3 * (2 * live - 0.3)) / (8 * bow.tension.hot_N), 9);
    expect(lagOf(bow, boxPlan({ part: { span_mm: 9000 } }), evaluation)).toBeNull();
  });
  it("a column of n passes states its sides and how far its corners are out from a round one", () => {
    const column = (passes: number) =>
      newPlan("c", {
        root: {
          shape: {
            kind: "column",
            passes,
            profile_mm: [
              [0, 50],
              [300, 50],
            ],
          },
        },
        part: { span_mm: 120 },
      });
    const words = evaluatePlan(column(6), null).notes.find(({ code }) => code === "passes")?.words ?? "";
    // A hexagon about a circle of radius 50: its corners are at 50/cos 30 deg.
    expect(words).toMatch(/60\.0 degrees/);
    expect(words).toMatch(/7\.7 mm fuller/);
    expect(evaluatePlan({ ...column(6), part: { ...column(6).part, span_mm: 90 } }, null).notes.map(({ code }) => code)).toContain("column-block");
  });
});

describe("a font of one's own", () => {
  it("its letters are its own, it goes with the plan, and what is no font is refused", () => {
    const file = fontFile(font("DejaVuSerif"));
    const own = letters({ text: "HI", font_file: file });
    knowFont("serif", () => font("DejaVuSerif"));
    expect(own.advanceMm).toBe(letters({ text: "HI", font: "serif" }).advanceMm);
    expect(own.advanceMm).not.toBeCloseTo(letters({ text: "HI" }).advanceMm, 1);
    const plan = newPlan("sign", { root: { shape: { kind: "text", text: "HI", font: "Serif", font_file: file } }, part: { span_mm: 40 } });
    const back = planSchema.parse(JSON.parse(JSON.stringify(plan)));
    expect(evaluatePlan(back, null).volumeMm3).toBe(evaluatePlan(plan, null).volumeMm3);
    expect(() => fontFile(new TextEncoder().encode("not a font at all").buffer)).toThrow(CoreError);
    expect(() => fontFile(new ArrayBuffer(2_000_001))).toThrow(/2 MB/);
    expect(() => letters({ text: "HI", font_file: "AAAA" })).toThrow(CoreError);
    expect(() => letters({ text: "HI", font_file: "A" })).toThrow(CoreError);
  });
});

describe("what came in", () => {
  it("its nose and its tail are said", () => {
    const wedge: Point[] = [
      [10, 20],
      [110, 15],
      [110, 25],
    ];
    expect(noseWords({ outline: wedge, holes: [] })).toBe("nose found at 0.0, 5.0 mm, tail at 100.0, 5.0 mm, 10.0 mm thick");
  });
});
