import { readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import type { Point } from "../geometry/points";
import { DEMO_PLANS } from "../plans/demoPlans";
import type { OutDrawing, OutText } from "../plans/outputs/drawing";
import { knowFont, OWN_FONT } from "../plans/shapes/text";
import { formatQuantity } from "../units/units";
import { around, type RigSurroundings } from "./around";
import { type Rig, rigRecord } from "./kinds";
import { looped } from "./kinds/loop";
import type { Show } from "./record";
import { DEMO_RIGS } from "./rig";

knowFont(OWN_FONT, () => new Uint8Array(readFileSync(path.join(process.cwd(), "node_modules", "dejavu-fonts-ttf", "ttf", "DejaVuSans-Bold.ttf"))).buffer);
const show: Show = (quantity, value, decimals) => formatQuantity(quantity, value, "metric", decimals);
const alone = around(null, null);
const cutter = (name: string) => around(designSchema.parse(DEMO_CUTTERS.find((design) => design.name === name)) as Design, null);
const draw = (rig: Rig, beside: RigSurroundings = alone): OutDrawing => rigRecord(rig.kind).draw(rig as never, beside, show);
const start = <K extends Rig["kind"]>(kind: K, more: object = {}) => ({ ...rigRecord(kind).start, ...more }) as unknown as Rig;
interface Box {
  left: number;
  right: number;
  low: number;
  high: number;
}
const boxOf = (points: readonly (readonly [number, number])[]): Box => ({
  left: Math.min(...points.map(([x]) => x)),
  right: Math.max(...points.map(([x]) => x)),
  low: Math.min(...points.map(([, y]) => y)),
  high: Math.max(...points.map(([, y]) => y)),
});
const near = (box: Box, [left, right, low, high]: [number, number, number, number]) => {
  for (const [value, want] of [
    [box.left, left],
    [box.right, right],
    [box.low, low],
    [box.high, high],
  ] as const)
    expect(value).toBeCloseTo(want, 6);
};
/** Lines of a layer, each as the box about it. */
const boxes = (drawing: OutDrawing, layer: string) => drawing.lines.filter((line) => line.layer === layer).map(({ points }) => boxOf(points));
const said = (drawing: OutDrawing, pattern: RegExp): OutText => {
  const found = drawing.texts.find(({ text }) => pattern.test(text));
  if (!found) throw new Error(`nothing says ${pattern}`);
  return found;
};
/** Room that words take, by about how wide a letter is. */
const wordBox = ({ at: [x, y], heightMm, text }: OutText): Box => ({ left: x, right: x + 0.5 * heightMm * text.length, low: y, high: y + 0.75 * heightMm });
/** The long line of each measure, between its two feet. */
const measures = ({ lines }: OutDrawing) => {
  const own = lines.filter(({ layer }) => layer === "measures").map(({ points }) => points);
  const found: { from: Point; to: Point; long: number }[] = [];
  // Two feet, the line, two ticks.
  for (let i = 0; i + 4 < own.length + 0.5; i += 5) {
    const [from, to] = own[i + 2] as [Point, Point];
    found.push({ from, to, long: Math.hypot(to[0] - from[0], to[1] - from[1]) });
  }
  return found;
};
const CASES: [string, Rig, RigSurroundings][] = [
  ...DEMO_RIGS.map(({ document, cutter: name, plan }): [string, Rig, RigSurroundings] => [
    document.name,
    document.rig as Rig,
    around(designSchema.parse(DEMO_CUTTERS.find((design) => design.name === name) ?? DEMO_CUTTERS[0]), DEMO_PLANS.find((each) => each.name === plan) ?? null),
  ]),
  ["a wand", start("loop", { tool: "wand", depth_mm: 60 }), alone],
  ["a cove", start("loop", { bottom: "round", groove_mm: 40, depth_mm: 40 }), alone],
  ["a swing arm that falls", start("swing", { plane: "falls" }), alone],
  ["a bow on the bench", start("bow", { hung: false }), alone],
  ["a leaning table", start("table", { tilt_deg: 15, mitre_deg: 20 }), alone],
];

describe("every rig's drawing", () => {
  it.each(CASES)("%s: its words lie on no other words, and a measure is as long as it says", (_, rig, beside) => {
    const drawing = draw(rig, beside);
    const words = drawing.texts.map((text) => ({ text: text.text, ...wordBox(text) }));
    for (const [i, a] of words.entries())
      for (const b of words.slice(i + 1)) expect(a.left < b.right && b.left < a.right && a.low < b.high && b.low < a.high, `${a.text} / ${b.text}`).toBe(false);
    // A figure of millimetres next to a measure is the measure's own; what is drawn smaller says so.
    const result = drawing.texts.flatMap(({ text }) => (/^-?[\d.]+ mm$/.test(text) ? [Math.abs(Number.parseFloat(text))] : []));
    const scales = [1, ...drawing.texts.flatMap(({ text }) => [...text.matchAll(/at (\d+) %/g)].map(([, share]) => Number(share) / 100))];
    const long = measures(drawing).map((each) => each.long);
    for (const each of result)
      expect(
        long.some((mm) => scales.some((scale) => Math.abs(mm - each * scale) < Math.max(0.6, 0.01 * each))),
        `${each} mm of ${long.map((mm) => mm.toFixed(1)).join(", ")}`,
      ).toBe(true);
    expect(result.length).toBeLessThanOrEqual(long.length);
  });
  it.each(CASES)("%s: drawn of figures, nothing far outside of what is drawn", (_, rig, beside) => {
    const { lines, texts, title } = draw(rig, beside);
    expect(title.length).toBeGreaterThan(3);
    const every = lines.flatMap(({ points }) => points);
    for (const [x, y] of every) expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
    const all = boxOf(every);
    const size = Math.max(all.right - all.left, all.high - all.low);
    for (const text of texts) {
      const box = wordBox(text);
      expect(text.heightMm).toBeGreaterThan(size / 250);
      expect(text.heightMm).toBeLessThan(size / 20);
      expect(box.left).toBeGreaterThan(all.left - size / 4);
      expect(box.right).toBeLessThan(all.right + size / 3);
      expect(box.low).toBeGreaterThan(all.low - size / 8);
      expect(box.high).toBeLessThan(all.high + size / 8);
    }
  });
});

describe("a loop or wand, drawn in its groove", () => {
  const rig = start("loop", { groove_mm: 24, depth_mm: 18, kerf_mm: 2.6, bend_mm: 3 }) as never;
  it("the groove is as wide and deep as asked, the wire within it half a kerf off, the rods and the handle above", () => {
    const drawing = draw(rig);
    const { outerMm, wireMm } = looped(rig, alone);
    const half = (outerMm - wireMm) / 2;
    const size = Math.max(54, 3 * outerMm, 60);
    const foam = drawing.lines.find(({ layer }) => layer === "foam")?.points ?? [];
    near(boxOf(foam), [-size / 2, size / 2, -size / 5, 18]);
    // Its floor from edge to edge of the groove.
    const floor = foam.filter(([, y]) => y === 0).map(([x]) => x);
    expect(floor.sort((a, b) => a - b)).toEqual([-12, 12]);
    for (const x of [-12, 12]) expect(foam).toContainEqual([x, 18]);
    const [wire] = boxes(drawing, "wire");
    near(wire as Box, [-half, half, 0, 18 + size / 8]);
    // Its half width and half the kerf's rest is the groove's half.
    expect(half + 2.6 / 2).toBeCloseTo(12, 6);
    const rods = boxes(drawing, "metal");
    expect(rods).toHaveLength(2);
    for (const [i, x] of [-half, half].entries()) near(rods[i] as Box, [x - 2, x + 2, 18 + size / 8, 18 + size / 8 + size / 5]);
    near(boxes(drawing, "wood")[0] as Box, [-half - size / 16, half + size / 16, 18 + size / 8 + size / 5, 18 + size / 8 + size / 5 + size / 10]);
  });
  it("its bends are rounded by their radius; a round bottom is half a circle; a wand two legs a wire apart", () => {
    const wire = (more: object) =>
      draw(start("loop", { groove_mm: 24, depth_mm: 30, kerf_mm: 2.6, ...more })).lines.find(({ layer }) => layer === "wire")?.points ?? [];
    const round = wire({ bend_mm: 4 });
    const { outerMm, wireMm } = looped(start("loop", { groove_mm: 24, depth_mm: 30, kerf_mm: 2.6 }) as never, alone);
    const half = (outerMm - wireMm) / 2;
    // Every place of a bend is its radius from the bend's middle.
    const bend = round.filter(([x, y]) => x < -half + 4 && y < 4 && y > 1e-9);
    expect(bend.length).toBeGreaterThan(4);
    for (const [x, y] of bend) expect(Math.hypot(x - (-half + 4), y - 4)).toBeCloseTo(4, 9);
    expect(round).toEqual(expect.arrayContaining([expect.arrayContaining([expect.closeTo(-half, 9)])]));
    const mirrored = round.map(([x, y]) => [-x, y] as const);
    for (const [x, y] of mirrored) expect(round.some(([a, b]) => Math.hypot(a - x, b - y) < 1e-9)).toBe(true);
    const cove = wire({ bottom: "round" });
    for (const [x, y] of cove.slice(1, -1)) expect(Math.hypot(x, y - half)).toBeCloseTo(half, 9);
    expect(Math.min(...cove.map(([, y]) => y))).toBeCloseTo(0, 9);
    const wand = wire({ tool: "wand" });
    expect(wand.map(([x]) => x)).toEqual([-wireMm / 2, -wireMm / 2, wireMm / 2, wireMm / 2]);
    expect([...new Set(wand.map(([, y]) => y))]).toHaveLength(2);
    expect(draw(start("loop", { tool: "wand" })).title).toBe("Wand");
  });
});

describe("a hand bow, drawn from the front", () => {
  const rig = start("bow", { span_mm: 1200, high_mm: 300, foam_mm: 800, foamAt_mm: 100, balance_mm: 40, hung: true });
  const size = 1560;
  it("wire between its arms, foam under it where it lies, spreader at its height, cord across the tops", () => {
    const drawing = draw(rig);
    near(boxes(drawing, "wire")[0] as Box, [-600, 600, 0, 0]);
    near(boxes(drawing, "foam")[0] as Box, [-300, 500, -size / 8, 0]);
    const [left, right, spreader] = boxes(drawing, "wood");
    near(left as Box, [-600 - size / 120, -600 + size / 120, -size / 30, 480]);
    near(right as Box, [600 - size / 120, 600 + size / 120, -size / 30, 480]);
    near(spreader as Box, [-600, 600, 300 - size / 120, 300 + size / 120]);
    near(boxes(drawing, "thread")[0] as Box, [-600, 600, 480, 480]);
  });
  it("balances where it says; hung, its elastic rises from there in teeth to a beam; the leads leave at one end", () => {
    const drawing = draw(rig);
    const [hook] = boxes(drawing, "metal");
    expect((hook as Box).left).toBeCloseTo(40 - size / 90, 1);
    expect((hook as Box).right).toBeCloseTo(40 + size / 90, 1);
    expect(((hook as Box).low + (hook as Box).high) / 2).toBeCloseTo(300, 1);
    const hang = 480 + size / 4;
    const elastic = drawing.lines.filter(({ layer }) => layer === "thread")[1]?.points ?? [];
    expect(elastic[0]).toEqual([40, 300]);
    expect(elastic[1]).toEqual([40, 480]);
    expect(elastic.at(-1)?.[0]).toBe(40);
    expect(elastic.at(-1)?.[1]).toBeCloseTo(hang, 9);
    for (const [i, [x, y]] of elastic.slice(2, -1).entries()) {
      expect(x).toBeCloseTo(40 + (i % 2 ? -1 : 1) * (size / 90), 9);
      expect(y).toBeCloseTo(480 + ((hang - 480) * (i + 1)) / 12, 9);
    }
    near(boxes(drawing, "wood")[3] as Box, [-240, 240, hang, hang]);
    expect(said(drawing, /^balances here/).at[0]).toBeCloseTo(40 + size / 50, 9);
    expect(said(drawing, /^balances here/).at[1]).toBeGreaterThan(300);
    expect(said(drawing, /^lifts/).at[0]).toBeGreaterThan(40);
    expect(said(drawing, /^lifts/).at[1]).toBeCloseTo((480 + hang) / 2, 9);
    const leads = boxes(drawing, "metal")[1] as Box;
    near(leads, [600, 600 + size / 9, -size / 20, size / 6]);
    expect(said(drawing, /^leads$/).at[0]).toBeGreaterThan(600);
    const bench = draw(start("bow", { ...(rig as object), hung: false }));
    expect(boxes(bench, "wood")).toHaveLength(3);
    expect(bench.texts.some(({ text }) => /^lifts/.test(text))).toBe(false);
  });
});

describe("slabs over a bench, drawn from the front", () => {
  it("the wire level over two supports at its set height, the weight past one, the block between on the bench", () => {
    const rig = start("slab", { span_mm: 1000, slab_mm: 40, blockWide_mm: 600, weight_N: 50 });
    const drawing = draw(rig, cutter("Long Tom"));
    const size = 1350;
    const [left, right] = boxes(drawing, "metal") as [Box, Box];
    const high = left.high;
    expect(high).toBeGreaterThan(40);
    expect(high).toBeLessThan(60);
    near(left, [-500 - size / 160, -500 + size / 160, 0, high]);
    near(right, [500 - size / 160, 500 + size / 160, 0, high]);
    near(boxes(drawing, "wood")[0] as Box, [-625, 625, -size / 30, 0]);
    near(boxes(drawing, "foam")[0] as Box, [-300, 300, 0, Math.max(100, size / 12)]);
    const wire = drawing.lines.find(({ layer }) => layer === "wire")?.points ?? [];
    expect(wire).toEqual([
      [expect.closeTo(-575, 9), expect.closeTo(high - size / 20, 9)],
      [-500, high],
      [500, high],
      [expect.closeTo(560, 9), high],
    ]);
    const [pulley] = boxes(drawing, "metal").slice(2) as [Box];
    // The wire runs over its top, the thread down from its far side to the weight.
    expect(pulley.high).toBeCloseTo(high, 0);
    const thread = boxes(drawing, "thread")[0] as Box;
    expect(thread.left).toBeCloseTo(pulley.right, 1);
    const weight = boxes(drawing, "weight")[0] as Box;
    expect(weight.high).toBeCloseTo(thread.low, 9);
    expect(weight.left).toBeLessThan(thread.left);
    expect(weight.right).toBeGreaterThan(thread.left);
    const heft = wordBox(said(drawing, /^50\.0 N$/));
    expect(heft.right).toBeLessThan(weight.left + size / 100);
  });
});

describe("a table with a fence, drawn from above and from the side", () => {
  const rig = (more: object = {}) =>
    start("table", { part_mm: 60, disc_mm: 90, inner_mm: 70, height_mm: 50, clear_mm: 120, tilt_deg: 0, mitre_deg: 0, ...more });
  const reach = 216;
  it("the fence's face is its distance from the wire, turned by its mitre about the wire", () => {
    for (const mitre_deg of [0, 20, -30]) {
      const drawing = draw(rig({ mitre_deg }), cutter("Gatepost"));
      const [fence] = drawing.lines.filter(({ layer }) => layer === "metal").map(({ points }) => points);
      const result = Number.parseFloat(said(drawing, /^\d+\.\d+ mm$/).text);
      // The nearest of the fence's long sides to the wire, which is the middle of all.
      const [a, b, c, d] = fence as [Point, Point, Point, Point];
      const off = (
        [
          [a, b],
          [c, d],
        ] as const
      ).map(([p, q]) => Math.abs(p[0] * q[1] - p[1] * q[0]) / Math.hypot(q[0] - p[0], q[1] - p[1]));
      expect(Math.min(...off)).toBeCloseTo(result, 1);
      expect(Math.max(...off) - Math.min(...off)).toBeCloseTo(reach / 30, 6);
      const turn = (Math.atan2(b[0] - a[0], b[1] - a[1]) * 180) / Math.PI;
      expect(turn).toBeCloseTo(mitre_deg, 6);
      expect(Math.hypot(b[0] - a[0], b[1] - a[1])).toBeCloseTo(1.1 * reach, 6);
    }
  });
  it("the disc turns on its pin as far off as the wire must be from its rim, with the ring's hole within it", () => {
    const drawing = draw(rig(), cutter("Gatepost"));
    const [disc] = boxes(drawing, "foam") as [Box];
    expect((disc.right - disc.left) / 2).toBeCloseTo(90, 6);
    const pin = (disc.right + disc.left) / 2;
    expect(pin).toBeGreaterThan(90);
    expect(pin).toBeLessThan(95);
    expect(disc.low).toBeCloseTo(-90, 0);
    const ring = boxes(drawing, "ways")[1] as Box;
    expect((ring.right - ring.left) / 2).toBeCloseTo(70, 1);
    expect((ring.right + ring.left) / 2).toBeCloseTo(pin, 1);
    expect(said(drawing, /^pin$/).at[1]).toBeGreaterThan(0);
    near(boxes(drawing, "wood")[0] as Box, [-reach, reach, -0.6 * reach, 0.6 * reach]);
  });
  it("from the side the wire leans by its tilt through the foam up to the arm, four fifths as large", () => {
    for (const tilt_deg of [0, 15, -20]) {
      const drawing = draw(rig({ tilt_deg }), cutter("Gatepost"));
      const foot = -0.75 * reach - 96;
      const wire = drawing.lines.filter(({ layer }) => layer === "wire").at(-1)?.points as [Point, Point];
      expect(wire[1]).toEqual([expect.closeTo(Math.tan((tilt_deg * Math.PI) / 180) * 96, 6), expect.closeTo(foot + 96, 6)]);
      expect(wire[0][0]).toBe(0);
      expect(wire[0][1]).toBeLessThan(foot);
      near(boxes(drawing, "foam").at(-1) as Box, [-0.4 * reach, 0.2 * reach, foot, foot + 40]);
      const arm = boxes(drawing, "metal").at(-2) as Box;
      expect(arm.right).toBeCloseTo(0.68 * reach, 6);
      expect((arm.high + arm.low) / 2).toBeCloseTo(foot + 96, 6);
      const post = boxes(drawing, "metal").at(-1) as Box;
      expect([post.low, post.high]).toEqual([expect.closeTo(foot, 6), expect.closeTo(foot + 96, 6)]);
      near(boxes(drawing, "wood").at(-1) as Box, [-0.7 * reach, 0.7 * reach, foot, foot]);
    }
  });
});

describe("a sheet slicer, drawn from the end", () => {
  it("the block on its board, the wire over two spacers next to it, the cut a sheet and a kerf up", () => {
    const drawing = draw(start("sheet", { blockWide_mm: 600, block_mm: 100, sheet_mm: 8, panes_mm: [] }), cutter("Thimble"));
    const size = 900;
    near(boxes(drawing, "wood")[0] as Box, [-150, 750, -size / 20, 0]);
    near(boxes(drawing, "foam")[0] as Box, [0, 600, 0, 100]);
    const wire = boxes(drawing, "wire")[0] as Box;
    expect([wire.left, wire.right]).toEqual([-150, 750]);
    expect(wire.low).toBeGreaterThan(8);
    const cut = boxes(drawing, "ways")[0] as Box;
    expect([cut.left, cut.right]).toEqual([0, 600]);
    expect(cut.low).toBeGreaterThan(8);
    const spacers = [...boxes(drawing, "wood").slice(1), ...boxes(drawing, "metal")];
    expect(spacers).toHaveLength(2);
    for (const { left, right, low, high } of spacers) {
      expect(right - left).toBeCloseTo(60, 6);
      expect(low).toBe(0);
      expect(wire.low).toBeGreaterThan(high - 1e-6);
      expect(right < 0 || left > 600).toBe(true);
    }
    expect(drawing.texts.some(({ text }) => /marked out/.test(text))).toBe(false);
  });
  it("its panes lie marked out on the first sheet, under it, none on another, each with its letter in its middle", () => {
    const rig = start("sheet", {
      blockWide_mm: 600,
      blockLong_mm: 1000,
      block_mm: 100,
      sheet_mm: 8,
      panes_mm: [
        [300, 200, 3],
        [150, 150, 2],
      ],
    });
    const drawing = draw(rig, cutter("Thimble"));
    const [, sheet] = boxes(drawing, "foam") as [Box, Box];
    expect(sheet.right - sheet.left).toBeCloseTo(1000, 6);
    expect(sheet.high - sheet.low).toBeCloseTo(600, 6);
    expect(sheet.high).toBeLessThan(0);
    const panes = boxes(drawing, "ways").slice(1);
    expect(panes).toHaveLength(5);
    for (const [i, a] of panes.entries()) {
      expect(a.left).toBeGreaterThanOrEqual(sheet.left - 1e-6);
      expect(a.right).toBeLessThanOrEqual(sheet.right + 1e-6);
      expect(a.low).toBeGreaterThanOrEqual(sheet.low - 1e-6);
      expect(a.high).toBeLessThanOrEqual(sheet.high + 1e-6);
      for (const b of panes.slice(i + 1))
        expect(a.left < b.right - 1e-6 && b.left < a.right - 1e-6 && a.low < b.high - 1e-6 && b.low < a.high - 1e-6).toBe(false);
      const letters = drawing.texts.filter(({ text, at: [x, y] }) => /^[a-z]$/.test(text) && x > a.left && x < a.right && y > a.low && y < a.high);
      expect(letters).toHaveLength(1);
    }
    const legend = drawing.texts.filter(({ text }) => /^[a-z]: /.test(text));
    expect(legend.map(({ text }) => text).sort()).toEqual(["a: 300 mm by 200 mm", "b: 150 mm by 150 mm"]);
    for (const { at } of legend) expect(at[1]).toBeLessThan(sheet.low);
  });
});

describe("a swing arm, drawn from above and from the side", () => {
  const rig = start("swing", { from_deg: 100, to_deg: 20, arm_mm: 900, pulleyX_mm: 700, pulleyY_mm: 500 });
  it("the arm from its pivot at both ends of its swing, the threads from the pulley to both places on it", () => {
    const drawing = draw(rig);
    const arm = drawing.lines.filter(({ layer }) => layer === "wood")[1]?.points as Point[];
    const end = (deg: number): Point => [900 * Math.cos((deg * Math.PI) / 180), 900 * Math.sin((deg * Math.PI) / 180)];
    const middleOf = ([a, b]: readonly Point[]): Point => [((a as Point)[0] + (b as Point)[0]) / 2, ((a as Point)[1] + (b as Point)[1]) / 2];
    const far = middleOf([arm[1] as Point, arm[2] as Point]);
    expect(Math.hypot(far[0] - end(100)[0], far[1] - end(100)[1])).toBeLessThan(1e-6);
    const foot = middleOf([arm[0] as Point, arm[3] as Point]);
    expect(Math.hypot(...foot)).toBeLessThan(1e-6);
    const threads = drawing.lines
      .filter(({ layer, points }) => layer === "thread" && points[0]?.[0] === 700 && points[0]?.[1] === 500)
      .map(({ points }) => points);
    expect(threads).toHaveLength(2);
    for (const [, at] of threads) {
      const [x, y] = at as Point;
      // On the arm where it begins.
      expect(Math.atan2(y, x)).toBeCloseTo((100 * Math.PI) / 180, 9);
      expect(Math.hypot(x, y)).toBeLessThan(900);
    }
    const [r, t] = ["R", "T"].map((name) => said(drawing, new RegExp(`^${name}$`)).at) as [Point, Point];
    expect(Math.hypot(...r)).toBeGreaterThan(Math.hypot(...t));
  });
  it("from the side its weight hangs from its place on the arm; a falling arm stands half way through its swing", () => {
    for (const plane of ["level", "falls"]) {
      const drawing = draw(start("swing", { ...(rig as object), plane, weightAt_mm: 600 }));
      const arm = drawing.lines.filter(({ layer }) => layer === "wood").at(-1)?.points as Point[];
      const foot: Point = [((arm[0] as Point)[0] + (arm[3] as Point)[0]) / 2, ((arm[0] as Point)[1] + (arm[3] as Point)[1]) / 2];
      const tip: Point = [((arm[1] as Point)[0] + (arm[2] as Point)[0]) / 2, ((arm[1] as Point)[1] + (arm[2] as Point)[1]) / 2];
      expect((Math.atan2(tip[1] - foot[1], tip[0] - foot[0]) * 180) / Math.PI).toBeCloseTo(plane === "falls" ? 60 : 0, 6);
      const hang = drawing.lines.filter(({ layer }) => layer === "thread").at(-1)?.points as [Point, Point];
      expect(Math.hypot(hang[0][0] - foot[0], hang[0][1] - foot[1])).toBeCloseTo(600, 6);
      expect(hang[1][0]).toBe(hang[0][0]);
      expect(hang[1][1]).toBeLessThan(hang[0][1]);
      const weight = boxes(drawing, "weight")[0] as Box;
      expect(weight.high).toBeCloseTo(hang[1][1], 6);
      expect(weight.left).toBeLessThan(hang[0][0]);
      expect(weight.right).toBeGreaterThan(hang[0][0] - 1e-6);
      // Beside what is seen from above, not on it.
      expect(foot[0]).toBeGreaterThan(900);
      expect(said(drawing, /^from the side/).text).toBe(plane === "falls" ? "from the side, half way" : "from the side");
    }
  });
});

describe("an anchored wire, drawn from above", () => {
  it("every wire goes from the template's edge to the fixed point, past the foam; the far outline is near by near as much smaller", () => {
    const rig = start("anchor", { chord_mm: 200, span_mm: 600, ratio: 0.5, ramp_mm: 20, tail_mm: 30 });
    const drawing = draw(rig);
    const wires = drawing.lines
      .filter(({ layer, points }) => ["wire", "ways"].includes(layer) && points[0]?.[0] === -20)
      .map(({ points }) => points as [Point, Point]);
    expect(wires.map(([from]) => from[1])).toEqual([-20, 120, 230]);
    const [x, y] = (wires[0] as [Point, Point])[1];
    for (const [, to] of wires) expect(to).toEqual([x, y]);
    // Half as long at 600 mm: the point is as far again.
    expect(x).toBeCloseTo(1200, 6);
    const point = boxes(drawing, "metal")[0] as Box;
    expect((point.left + point.right) / 2).toBeCloseTo(x, 6);
    expect((point.low + point.high) / 2).toBeCloseTo(y, 6);
    const edges = drawing.lines
      .filter(({ layer, points }) => layer === "ways" && points[0]?.[0] === 0 && points[1]?.[0] === 600)
      .map(({ points }) => points as [Point, Point]);
    expect(edges).toHaveLength(2);
    expect(edges.map(([from]) => from[1])).toEqual([0, 200]);
    const [low, high] = edges.map(([, to]) => to[1]) as [number, number];
    expect(high - low).toBeCloseTo(100, 6);
    // Each edge's line, gone on with, meets the point.
    for (const [[, a], [, b]] of edges) expect(a + ((b - a) / 600) * x).toBeCloseTo(y, 6);
    const template = boxes(drawing, "template")[0] as Box;
    near(template, [-6, 0, -20, 230]);
    const foam = boxes(drawing, "foam")[0] as Box;
    expect([foam.left, foam.right]).toEqual([0, 600]);
    expect(foam.low).toBeLessThan(0);
    expect(foam.high).toBeGreaterThan(200);
  });
});

describe("a thread and a weight, drawn from the side", () => {
  it("the template's edge slope by slope, the wire on it, a level thread over a pulley to the weight", () => {
    const drawing = draw(start("pull", { hung_N: 7 }));
    const [edge, rise, below] = drawing.lines.filter(({ layer }) => layer === "template").map(({ points }) => points);
    const end = edge?.at(-1) as Point;
    expect(edge?.[0]).toEqual([0, 0]);
    const low = (rise as Point[])[0]?.[1] as number;
    expect(low).toBeLessThan(Math.min(...(edge as Point[]).map(([, y]) => y)));
    expect(rise?.[1]).toEqual([0, 0]);
    expect(below).toEqual([[0, low], [end[0], low], end]);
    const [thread, down] = drawing.lines.filter(({ layer }) => layer === "thread").map(({ points }) => points) as [Point[], Point[]];
    const [from, to] = thread as [Point, Point];
    // Off the wire, which is on the edge.
    expect((edge as Point[]).some(([x]) => Math.abs(x - from[0]) < 1e-9)).toBe(true);
    expect(to[0]).toBeGreaterThan(end[0]);
    const pulley = boxes(drawing, "metal")[0] as Box;
    expect(pulley.high).toBeCloseTo(to[1], 1);
    expect((pulley.left + pulley.right) / 2).toBeCloseTo(to[0], 1);
    expect((down as Point[])[0]?.[0]).toBeCloseTo(pulley.right, 1);
    expect((down as Point[])[1]?.[0]).toBe((down as Point[])[0]?.[0]);
    const weight = boxes(drawing, "weight")[0] as Box;
    expect(weight.high).toBeCloseTo((down as Point[])[1]?.[1] as number, 6);
    expect((weight.left + weight.right) / 2).toBeCloseTo((down as Point[])[0]?.[0] as number, 6);
    expect(said(drawing, /^7\.0 N$/).at[0]).toBeGreaterThan(weight.right);
  });
});

describe("a drop board, drawn from the side and from above", () => {
  const outline = [
    [50, 20],
    [250, 20],
    [220, 120],
    [80, 120],
  ];
  it("board, block and guide square to one another, tilted by the batten, the wire coming down the guide", () => {
    const rig = start("drop", { board_mm: 500, batten_mm: 60, height_mm: 150, blankWide_mm: 200, blankLong_mm: 300, outline_mm: [] });
    const drawing = draw(rig);
    const [board, guide] = drawing.lines.filter(({ layer }) => layer === "wood").map(({ points }) => points) as [Point[], Point[]];
    const angle = (a: Point, b: Point) => Math.atan2(b[1] - a[1], b[0] - a[0]);
    const tilt = angle(board[0] as Point, board[1] as Point);
    expect(tilt).toBeGreaterThan(0.08);
    expect(tilt).toBeLessThan(0.16);
    expect(angle(guide[0] as Point, guide[1] as Point) - tilt).toBeCloseTo(Math.PI / 2, 9);
    expect(Math.hypot((board[1] as Point)[0] - (board[0] as Point)[0], (board[1] as Point)[1] - (board[0] as Point)[1])).toBeCloseTo(500, 9);
    const block = drawing.lines.find(({ layer }) => layer === "foam")?.points as Point[];
    expect(Math.hypot((block[1] as Point)[0] - (block[0] as Point)[0], (block[1] as Point)[1] - (block[0] as Point)[1])).toBeCloseTo(200, 9);
    expect(Math.hypot((block[2] as Point)[0] - (block[1] as Point)[0], (block[2] as Point)[1] - (block[1] as Point)[1])).toBeCloseTo(150, 9);
    // The block is on the board, half each side of the wire's way.
    const along = ([x, y]: Point) => [x * Math.cos(tilt) + y * Math.sin(tilt), -x * Math.sin(tilt) + y * Math.cos(tilt)] as const;
    expect(along(block[0] as Point)).toEqual([expect.closeTo(150, 9), expect.closeTo(0, 9)]);
    expect(along(block[1] as Point)).toEqual([expect.closeTo(350, 9), expect.closeTo(0, 9)]);
    const wire = boxes(drawing, "wire")[0] as Box;
    const [at, up] = along([(wire.left + wire.right) / 2, (wire.low + wire.high) / 2]);
    expect(at).toBeCloseTo(250, 1);
    expect(up).toBeCloseTo(90, 1);
    expect(drawing.texts.some(({ text }) => /in their order/.test(text))).toBe(false);
    const flat = draw(start("drop", { board_mm: 500, batten_mm: 0, height_mm: 150, outline_mm: [] }));
    expect(boxes(flat, "wood")).toHaveLength(2);
    expect(boxes(drawing, "wood")).toHaveLength(3);
  });
  it("the cuts stand numbered next to the outline in its blank, under it", () => {
    const drawing = draw(start("drop", { board_mm: 500, height_mm: 150, blankWide_mm: 150, blankLong_mm: 300, outline_mm: outline }));
    const blank = boxes(drawing, "ways").at(-1) as Box;
    expect([blank.right - blank.left, blank.high - blank.low]).toEqual([expect.closeTo(300, 9), expect.closeTo(150, 9)]);
    expect(blank.high).toBeLessThan(-18);
    expect((blank.left + blank.right) / 2).toBeCloseTo(250, 9);
    const part = boxes(drawing, "foam").at(-1) as Box;
    near(part, [blank.left + 50, blank.left + 250, blank.low + 20, blank.low + 120]);
    const numbers = drawing.texts.filter(({ text }) => /^\d$/.test(text));
    expect(numbers.map(({ text }) => Number(text))).toEqual(numbers.map((_, i) => i + 1));
    expect(numbers.length).toBeGreaterThanOrEqual(4);
    // Next to the part, none on it.
    for (const { at, heightMm } of numbers) {
      const [x, y] = [at[0] + heightMm * 0.26, at[1] + heightMm / 3];
      expect(x > part.left + 30 && x < part.right - 30 && y > part.low + 5 && y < part.high - 5).toBe(false);
    }
  });
});

describe("a motorised frame, drawn from the block's end and from above", () => {
  it("its travel from home, the block where it is, the carriages so far apart, askew where they are free", () => {
    const rig = start("frame", { wide_mm: 500, high_mm: 300, apart_mm: 700, blockX_mm: 60, blockY_mm: 40, pullOff_mm: 5, toBlock_mm: 50 });
    const drawing = draw(rig);
    const size = Math.max(500 * 2.5 + 140, 480);
    const m = size / 40;
    near(boxes(drawing, "wood")[0] as Box, [-m, 500 + m, -m, 300 + m]);
    const [travel, within] = boxes(drawing, "ways") as [Box, Box];
    near(travel, [0, 500, 0, 300]);
    near(within, [5, 495, 5, 295]);
    const [block, above] = boxes(drawing, "foam") as [Box, Box];
    near(block, [60, 310, 40, 130]);
    const k = Math.min(1, 650 / 700);
    const right = 500 + 5 * m;
    const [near1, far1] = boxes(drawing, "metal") as [Box, Box];
    expect((far1.left + far1.right) / 2 - (near1.left + near1.right) / 2).toBeCloseTo(700 * k, 6);
    expect(above.left).toBeCloseTo(right + 50 * k, 6);
    expect([above.low, above.high]).toEqual([60, 310]);
    const wire = (of: OutDrawing) => of.lines.filter(({ layer, points }) => layer === "wire" && points.length === 2)[0]?.points as [Point, Point];
    const [a, b] = wire(drawing);
    expect(a).toEqual([right, 185]);
    expect(b[0]).toBeCloseTo(right + 700 * k, 6);
    const locked = wire(draw(start("frame", { wide_mm: 500, high_mm: 300, apart_mm: 700, blockX_mm: 60, carriages: "locked" })));
    expect(locked[0][1]).toBe(locked[1][1]);
    const free = wire(draw(start("frame", { wide_mm: 500, high_mm: 300, apart_mm: 700, blockX_mm: 60, carriages: "free" })));
    expect(free[1][1]).toBeLessThan(free[0][1]);
    expect(said(drawing, /^from above/).text).toMatch(/across at 93 %/);
    expect(said(draw(start("frame", { wide_mm: 600, apart_mm: 500 })), /^from above/).text).toBe("from above");
  });
});
