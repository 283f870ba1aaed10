import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../../cutters/design/demoCutters";
import type { Design } from "../../cutters/design/schema";
import { boundsOf, type Line, type Point, regionArea } from "../../geometry/points";
import { evaluatePlan } from "../evaluate";
import { panelPlan, withOneMore } from "../panels";
import { newPlan, type Plan } from "../plan";
import { MAX_DRAWING_CHARACTERS, MAX_DRAWING_POINTS, PointBudget, requireShort } from "./imported";
import { joined } from "./joined";
import { readSvg } from "./svg";

describe("lines joined, and what is said of it", () => {
  const square: Line = [
    [0, 0],
    [10, 0],
    [10, 10],
    [0, 10],
  ];
  it("one line that ends where it began is closed without a word", () => {
    expect(joined([[...square, [0, 0]]], 0.1)).toEqual({ closed: [square], open: [], notes: [] });
  });
  it("one that ends short of it, up to the gap, is closed: its last point is the first one again, and that is said", () => {
    for (const short of [0.05, 0.1]) {
      const { closed, open, notes } = joined([[...square, [0, short]]], 0.1);
      expect(closed).toEqual([square]);
      expect(open).toEqual([]);
      expect(notes).toEqual(["closed: 1 outline whose ends lay up to 0.1 mm apart"]);
    }
    const two = joined([[...square, [0, 0.05]], [...square, [0, 0.05]].map(([x, y]): Point => [(x as number) + 50, y as number])], 0.1);
    expect(two.notes).toEqual(["closed: 2 outlines whose ends lay up to 0.1 mm apart"]);
  });
  it("three points whose ends nearly meet keep all three", () => {
    const sliver: Line = [
      [0, 0],
      [10, 0],
      [0.04, 0.03],
    ];
    expect(joined([sliver], 0.1).closed).toEqual([sliver]);
  });
  it("farther than the gap encloses nothing; two points neither", () => {
    expect(joined([[...square, [0, 0.101]]], 0.1)).toMatchObject({ closed: [], open: [expect.anything()], notes: [] });
    const apart: Line[] = [
      [
        [0, 0],
        [5, 0],
      ],
      [
        [0, 20],
        [5, 20],
      ],
    ];
    expect(joined(apart, 0.1)).toEqual({ closed: [], open: apart, notes: [] });
  });
  it("without length, or there twice whichever way round, is dropped; ends bridged are counted", () => {
    const sides: Line[] = square.map((point, i): Line => [point, square[(i + 1) % 4] as Point]);
    const again = [...(sides[1] as Line)].reverse();
    const { closed, notes } = joined(
      [
        ...sides,
        again,
        [
          [3, 3],
          [3, 3],
        ],
        [[4, 3]],
      ],
      0.1,
    );
    expect(closed).toHaveLength(1);
    expect(Math.abs(regionArea({ outline: closed[0] ?? [], holes: [] }))).toBeCloseTo(100, 9);
    expect(notes).toEqual(["dropped: 2 lines without length", "dropped: 1 line drawn twice"]);
    const loose: Line[] = [
      [
        [0, 0],
        [10, 0],
        [10, 10],
      ],
      [
        [10, 10.03],
        [0, 10],
        [0, 0.02],
      ],
    ];
    const bridged = joined(loose, 0.05);
    expect(bridged.closed).toHaveLength(1);
    expect(bridged.notes[0]).toBe("joined: 1 pair of ends up to 0.05 mm apart");
  });
});

describe("what a vector drawing reports", () => {
  const read = (inner: string) =>
    readSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">${inner}</svg>`, undefined, 0.05);
  const SQUARE = '<rect x="10" y="10" width="20" height="20"/>';
  const codes = (inner: string) => read(inner).warnings.map(({ code, share }) => [code, Number(share.toFixed(3))]);
  it("a filled square has no notes and no warnings", () => {
    expect(read(SQUARE)).toMatchObject({ notes: [], warnings: [] });
    expect(read(SQUARE).regions.map(regionArea)).toEqual([expect.closeTo(400, 6)]);
  });
  it.each<[string, [string, number][]]>([
    ["<text x='1' y='5'>a</text><text x='1' y='9'>b</text>", [["text", 0.667]]],
    ["<image width='5' height='5'/>", [["image", 0.5]]],
    ["<g clip-path='url(#c)'><path d='M50 50h9v9h-9z'/></g>", [["clip", 0.5]]],
    ["<path d='M50 50h9v9h-9z L'/>", [["path", 0.5]]],
    ["<foreignObject/><flowRoot/><x:own/><use href='#nowhere'/>", [["other", 0.75]]],
    ["<style>g rect{fill:none} .a{fill:red}</style>", [["style", 0.5]]],
  ])("%s next to it: %s", (more, wanted) => expect(codes(SQUARE + more)).toEqual(wanted));
  it("strokes without a fill are lines to cut along: closed ones and what meets encloses, one by one counted", () => {
    const pen = 'fill="none" stroke="black"';
    const { regions, notes } = read(`<path ${pen} d="M10 10h20v20h-20z"/><path ${pen} d="M50 10h20v20"/><path ${pen} d="M70 30h-20v-20"/>`);
    expect(notes[0]).toBe("taken as lines to cut along: 3 things without a fill");
    expect(regions.map(regionArea)).toEqual([expect.closeTo(400, 6), expect.closeTo(400, 6)]);
    // One that encloses nothing next to a filled square leaves that alone.
    const beside = read(`${SQUARE}<path ${pen} d="M50 10h20"/>`);
    expect(beside.regions.map(regionArea)).toEqual([expect.closeTo(400, 6)]);
    expect(beside.warnings).toMatchObject([{ code: "open-line", share: 1 }]);
  });
  it("an arc ends exactly at its stated end", () => {
    // Half discs of radius 10 either way, closed by their chord.
    for (const sweep of [0, 1]) {
      const [half] = read(`<path d="M40 50 A10 10 0 0 ${sweep} 60 50 Z"/>`).regions;
      expect(regionArea(half as never)).toBeCloseTo((Math.PI * 100) / 2, 1);
      expect(half?.outline.some(([x, y]) => Math.abs(x - 60) < 1e-9 && Math.abs(y - 50) < 1e-9)).toBe(true);
    }
  });
  it("transforms: each of the standard's six, from the left to the right, others left alone", () => {
    const box = (transform: string) => {
      const [region] = read(`<rect x="10" y="10" width="20" height="10" transform="${transform}"/>`).regions;
      const { minX, maxX, minY, maxY } = boundsOf(region?.outline ?? []);
      // Upward from the foot of a page of 100.
      return [minX, 100 - maxY, maxX - minX, maxY - minY, regionArea(region as never)].map((each) => Math.round(each * 1e6) / 1e6);
    };
    expect(box("translate(5)")).toEqual([15, 10, 20, 10, 200]);
    expect(box("translate(5 -4)")).toEqual([15, 6, 20, 10, 200]);
    expect(box("scale(2)")).toEqual([20, 20, 40, 20, 800]);
    expect(box("scale(2 3)")).toEqual([20, 30, 40, 30, 1200]);
    // A point goes right by how low it lies, or down by how far right.
    expect(box("skewX(45)")).toEqual([20, 10, 30, 10, 200]);
    expect(box("skewY(45)")).toEqual([10, 20, 20, 30, 200]);
    expect(box("rotate(90)  translate(0 -60)")).toEqual([40, 10, 10, 20, 200]);
    expect(box("rotate(90 20 15)")).toEqual([15, 5, 10, 20, 200]);
    expect(box("matrix(2 0 0 2 1 3)")).toEqual([21, 23, 40, 20, 800]);
    expect(box("matrix(2 0 0 2 1) twist(9)")).toEqual([10, 10, 20, 10, 200]);
    expect(box("translate(10) scale(2)")).toEqual([30, 20, 40, 20, 800]);
    expect(box("scale(2) translate(10)")).toEqual([40, 20, 40, 20, 800]);
  });
  it("an arc without a radius is a straight line, one to where it is none at all, one too small for its ends grows", () => {
    const area = (d: string) => regionArea(read(`<path d="${d}"/>`).regions[0] as never);
    for (const radii of ["0 10", "10 0", "0 0"]) expect(area(`M40 50 A${radii} 0 0 1 60 50 L60 60 L40 60 Z`)).toBeCloseTo(200, 6);
    expect(area("M40 50 A10 10 0 0 1 40 50 L60 50 L60 60 Z")).toBeCloseTo(100, 6);
    expect(area("M40 50 A2 2 0 0 1 60 50 Z")).toBeCloseTo(area("M40 50 A10 10 0 0 1 60 50 Z"), 6);
  });
  it("specks are dropped and counted; nothing at all is refused with what was there", () => {
    expect(read(`${SQUARE}<rect x="50" y="50" width="0.005" height="0.005"/>`).notes).toEqual(["dropped: 1 specks"]);
    expect(() => read("<text>a</text>")).toThrow(/nothing in this drawing encloses anything: 1 text/);
  });
  it("no file may fill the memory", () => {
    const budget = new PointBudget();
    budget.take(MAX_DRAWING_POINTS);
    expect(() => budget.take(1)).toThrow(`a drawing has at most ${MAX_DRAWING_POINTS} points`);
    expect(() => requireShort("a".repeat(MAX_DRAWING_CHARACTERS))).not.toThrow();
    expect(() => requireShort("a".repeat(MAX_DRAWING_CHARACTERS + 1))).toThrow(`a drawing has at most ${MAX_DRAWING_CHARACTERS} characters`);
  });
});

describe("templates whose cutter has moved since", () => {
  const bow = DEMO_CUTTERS[0] as Design;
  const plan = newPlan("P", {
    root: { shape: { kind: "naca4", code: "2412" }, chord_mm: 200 },
    tip: { shape: { kind: "naca4", code: "2412" }, chord_mm: 150 },
    part: { span_mm: 400 },
  });
  const { root, tip } = evaluatePlan(plan, bow, false);
  const moved = (rootMm: number, tipMm: number, design: Design | null = bow) => {
    const made = { rootKerf_mm: root.kerfMm + rootMm, tipKerf_mm: tip.kerfMm + tipMm };
    return evaluatePlan({ ...plan, made: { ...made, cutter: bow.name, at: "2026-01-01T00:00:00.000Z" } } as unknown as Plan, design, false).notes.find(
      ({ code }) => code === "moved",
    )?.words;
  };
  it("are warned about where the kerf at either end is off by more than a twentieth of a millimetre, with both", () => {
    expect(moved(0, 0)).toBeUndefined();
    expect([moved(0.049, -0.049), moved(-0.049, 0.049)]).toEqual([undefined, undefined]);
    for (const [a, b] of [
      [0.051, 0],
      [-0.051, 0],
      [0, 0.051],
      [0, -0.051],
    ] as const)
      expect(moved(a, b)).toBe(
        `The cutter has moved since these templates were made: the kerf was ${(root.kerfMm + a).toFixed(2)} and ${(tip.kerfMm + b).toFixed(2)} mm, it is ${root.kerfMm.toFixed(2)} and ${tip.kerfMm.toFixed(2)} mm now.`,
      );
  });
});

describe("panels of a plan", () => {
  const end = (chord_mm: number) => ({ shape: { kind: "naca4" as const, code: "0012" }, chord_mm });
  const part = { span_mm: 400 };
  it("one without panels is its own first; one with them is that without", () => {
    const one = newPlan("P", { root: end(200), tip: end(100), part });
    expect(panelPlan(one, 0)).toBe(one);
    const two = withOneMore(one);
    expect(panelPlan(two, 0)).toEqual(one);
    expect(panelPlan(two, 0).panels).toEqual([]);
  });
  it("one more is seven tenths of the last as long, in whole millimetres, never under one; what has no chord stays as it is", () => {
    const more = (tip: number) => withOneMore(newPlan("P", { root: end(200), tip: end(tip), part: { span_mm: 333 } })).panels[0];
    expect([100, 33, 1].map((tip) => more(tip)?.tip.chord_mm)).toEqual([70, 23, 1]);
    expect(more(100)).toMatchObject({ span_mm: 333, sweep_mm: 0, offset_mm: 0, washout_deg: 0 });
    // Without a tip the root is the last.
    expect(withOneMore(newPlan("P", { root: end(200), part })).panels[0]?.tip.chord_mm).toBe(140);
    const { chord_mm: _none, ...points } = end(1);
    const bare = {
      ...newPlan("P", { root: end(200), tip: end(100), part }),
      tip: { ...newPlan("P", { root: end(100), part }).root, ...points, chord_mm: undefined },
    } as Plan;
    expect(withOneMore(bare).panels[0]?.tip.chord_mm).toBeUndefined();
  });
});
