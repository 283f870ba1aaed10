import { describe, expect, it } from "vitest";
import { refusal } from "../../../../tests/helpers/headless";
import { DEMO_CUTTERS } from "../../cutters/design/demoCutters";
import { designSchema } from "../../cutters/design/schema";
import { boundsOf, isInside, lineLength, nearest, type Point, type Region, regionArea } from "../../geometry/points";
import { FULL_HEAT } from "../../motion/program/machine";
import { readProgram } from "../../motion/program/reader";
import { cutAtPower, referenceDragNPerM } from "../../physics/cut/cut";
import { newPlan } from "../../plans/plan";
import { around } from "../around";
import { bestPulley, quickWorst } from "../bestPulley";
import { swing } from "../swing";
import { FRAME_START, type FrameRig } from "./fields";
import { type FrameJob, frameJob, frameProgram, heatWord, machineOf, straightest } from "./path";

const rig = (more: Partial<FrameRig> = {}): FrameRig => ({ ...FRAME_START, wide_mm: 600, high_mm: 400, blockX_mm: 50, blockY_mm: 30, ...more });
const box = (x: number, y: number, w: number, h: number): Region => ({
  outline: [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ],
  holes: [],
});
/** A box of 60 by 30 in a block of 100 by 50, no cutter next to it. */
const job = (more: Partial<FrameJob> = {}): FrameJob => ({
  name: "A box",
  spanMm: 500,
  toleranceMm: 0.5,
  block: { minX: -20, maxX: 80, minY: -10, maxY: 40 },
  kerfMm: 2,
  feedMmS: 5,
  parts: [box(0, 0, 60, 30)],
  passes: 1,
  face: null,
  faceName: "whole",
  cutter: null,
  ...more,
});
const bow = designSchema.parse(DEMO_CUTTERS[0]);
const withCutter = (more: Partial<FrameJob> = {}): FrameJob => {
  const { cutter } = around(bow, null);
  if (!cutter) throw new Error("no cutter");
  const { pair } = cutter;
  return job({
    kerfMm: cutAtPower(pair, 0.005, 44).kerfM * 1000,
    cutter: {
      wire: {
        lengthM: 0.5,
        tensionN: 65,
        foamFromM: 0,
        foamToM: 0.5,
        referenceDragNPerM: referenceDragNPerM(pair),
        maxFeedMmS: cutAtPower(pair, 0.005, 44).maxFeedMPerS * 1000,
      },
      pair,
      heatWPerM: 44,
      amps: 4,
    },
    ...more,
  });
};
const refused = (work: () => unknown): [string, string] => {
  const { path, message } = refusal(work);
  return [path, message];
};
const read = (text: string, of: FrameRig, spanMm = 500) => readProgram(text, machineOf(of, spanMm));

describe("the frame as a program knows it", () => {
  it("two axes where the carriages are one, four where they are free, with what is between; a turntable's own letter", () => {
    expect(machineOf(rig({ carriages: "locked", near: "XY", far: "AB", table: false }), 500)).toEqual({
      axes: ["X", "Y"],
      layout: null,
      travelMm: [
        [0, 600],
        [0, 400],
      ],
      turn: null,
    });
    const free = machineOf(rig({ carriages: "free", near: "XY", far: "AB", apart_mm: 800, toBlock_mm: 90, table: true, passes: 6 }), 500);
    expect(free.axes).toEqual(["X", "Y", "A", "B"]);
    expect(free.layout).toEqual({ lengthMm: 800, toBlockMm: 90, spanMm: 500 });
    expect(free.turn).toEqual({ axis: "C", deg: 60, passes: 6 });
    expect(machineOf(rig({ carriages: "locked", far: "AB", table: true, passes: 4 }), 500).turn).toEqual({ axis: "A", deg: 90, passes: 4 });
  });
});

describe("a path for a plan's outlines", () => {
  it("is in the block where the frame has it, half a kerf outside of the part, at the plan's feed and no faster than the frame", () => {
    const of = rig({ feed_mm_s: 20 });
    const made = frameProgram(of, job());
    expect(boundsOf(made.block)).toEqual({ minX: 50, maxX: 150, minY: 30, maxY: 80 });
    expect(boundsOf(made.parts[0]?.outline ?? [])).toEqual({ minX: 70, maxX: 130, minY: 40, maxY: 70 });
    const { path } = read(made.text, of);
    const course = boundsOf(path.filter(([x, y]) => x > 68.5 && y > 38.5));
    expect(course.maxX).toBeCloseTo(131, 2);
    expect(course.maxY).toBeCloseTo(71, 2);
    expect(made.feeds).toEqual({ least: 5, most: 5 });
    expect(frameProgram(rig({ feed_mm_s: 3 }), job()).feeds.most).toBe(3);
    expect(made.heat).toEqual({ least: FULL_HEAT, most: FULL_HEAT });
    expect([made.copies, made.passes, made.deviationMm, made.widerMm, made.stretchMm]).toEqual([1, 1, null, null, 0]);
    expect(made.lengthMm).toBeCloseTo(lineLength(made.ways[0] ?? []), 6);
    expect(made.lengthMm).toBeGreaterThan(2 * (62 + 32));
    // Five seconds to warm, and the carriages' ramps.
    expect(made.runS).toBeGreaterThan(5 + made.lengthMm / 5);
    // Begun from the block's edge at home's side, at half its height, or where it is wanted.
    expect(made.ways[0]?.[0]).toEqual([45, 55]);
    expect(frameProgram(rig({ startX_mm: 60, startY_mm: 33 }), job()).ways[0]?.[0]).toEqual([60, 33]);
  });
  it("copies lie in the block, edges left and a gap between, as many as there is room for and no more", () => {
    const block = { minX: -20, maxX: 180, minY: -10, maxY: 40 };
    const made = frameProgram(rig({ copies: 2, gap_mm: 6 }), job({ block }));
    expect(made.copies).toBe(2);
    expect(made.parts).toHaveLength(2);
    const [a, b] = made.parts.map(({ outline }) => boundsOf(outline)) as [ReturnType<typeof boundsOf>, ReturnType<typeof boundsOf>];
    for (const each of [a, b]) {
      expect(each.minX).toBeGreaterThanOrEqual(53 - 1e-9);
      expect(each.maxX).toBeLessThanOrEqual(247 + 1e-9);
      expect(each.minY).toBeGreaterThanOrEqual(33 - 1e-9);
      expect(each.maxY).toBeLessThanOrEqual(77 + 1e-9);
    }
    const apart = Math.max(b.minX - a.maxX, a.minX - b.maxX, b.minY - a.maxY, a.minY - b.maxY);
    expect(apart).toBeGreaterThanOrEqual(6 - 1e-9);
    for (const { outline } of made.parts) expect(regionArea({ outline, holes: [] })).toBeCloseTo(1800, 6);
    expect(refused(() => frameProgram(rig({ copies: 9, gap_mm: 6 }), job({ block })))).toEqual([
      "copies",
      expect.stringMatching(/copies must be at most \d+: the block has room for no more, 6 mm apart/),
    ]);
  });
  it("copies are turned by a quarter where they then fit, never mirrored, their holes with them", () => {
    // 60 by 20 with a tab at one corner and a hole near it, drawn away from nought; a block in which it is upright, twice beside itself.
    const part: Region = {
      outline: [
        [110, 50],
        [170, 50],
        [170, 70],
        [150, 70],
        [150, 64],
        [110, 64],
      ],
      holes: [
        [
          [155, 55],
          [155, 60],
          [165, 60],
          [165, 55],
        ],
      ],
    };
    const block = { minX: 0, maxX: 54, minY: 10, maxY: 80 };
    const made = frameProgram(rig({ copies: 2, gap_mm: 6 }), job({ block, parts: [part], kerfMm: 1 }));
    expect(made.parts).toHaveLength(2);
    const by: Point = [50 - block.minX, 30 - block.minY];
    for (const { outline, holes } of made.parts) {
      const bounds = boundsOf(outline);
      expect([bounds.maxX - bounds.minX, bounds.maxY - bounds.minY]).toEqual([expect.closeTo(20, 9), expect.closeTo(60, 9)]);
      // Against the clock by a quarter: what lay to the right now lies up, what lay up to the left.
      const [left, foot] = [bounds.minX, bounds.minY];
      expect(outline).toEqual(part.outline.map(([x, y]) => [expect.closeTo(left + (70 - y), 9), expect.closeTo(foot + (x - 110), 9)]));
      expect(holes).toEqual(part.holes.map((hole) => hole.map(([x, y]) => [expect.closeTo(left + (70 - y), 9), expect.closeTo(foot + (x - 110), 9)])));
      expect(left).toBeGreaterThanOrEqual(block.minX + by[0] + 3 - 1e-9);
      expect(bounds.maxX).toBeLessThanOrEqual(block.maxX + by[0] - 3 + 1e-9);
      expect(foot).toBeGreaterThanOrEqual(block.minY + by[1] + 3 - 1e-9);
      expect(bounds.maxY).toBeLessThanOrEqual(block.maxY + by[1] - 3 + 1e-9);
    }
    const [a, b] = made.parts.map(({ outline }) => boundsOf(outline)) as [ReturnType<typeof boundsOf>, ReturnType<typeof boundsOf>];
    expect(Math.max(b.minX - a.maxX, a.minX - b.maxX)).toBeGreaterThanOrEqual(6 - 1e-9);
    // Lying, as it was drawn, where there is room: two above each other.
    const wide = frameProgram(rig({ copies: 2, gap_mm: 6 }), job({ block: { minX: 0, maxX: 70, minY: 10, maxY: 64 }, parts: [part], kerfMm: 1 }));
    for (const { outline } of wide.parts) {
      const { minX, minY } = boundsOf(outline);
      expect(outline).toEqual(part.outline.map(([x, y]) => [expect.closeTo(minX + (x - 110), 9), expect.closeTo(minY + (y - 50), 9)]));
    }
    // A millimetre less and there is room for one; a part longer than the block's longer side has none, and one is what may be asked for.
    const refuse = (more: object, side: number) =>
      refused(() => frameProgram(rig({ gap_mm: 6, ...more }), job({ block: { minX: 0, maxX: side, minY: 10, maxY: 80 }, parts: [part], kerfMm: 1 })));
    expect(refuse({ copies: 2 }, 51)).toEqual(["copies", "copies must be at most 1: the block has room for no more, 6 mm apart"]);
    expect(refuse({ copies: 5 }, 80)[1]).toMatch(/at most 3: /);
  });
  it("on a turntable one side of the outline is led down, from out of the turning block and back, as often as it is turned", () => {
    const of = rig({ table: true, passes: 6, copies: 3 });
    const made = frameProgram(of, job({ passes: 6 }));
    expect([made.passes, made.copies]).toEqual([6, 1]);
    const course = made.ways[0] ?? [];
    const axis = 50 + 50;
    // The block's corners come round at half its diagonal; the wire begins and ends outside of them.
    for (const each of [course[0], course.at(-1)]) expect(axis - (each as Point)[0]).toBeGreaterThan(Math.SQRT1_2 * 100);
    expect((course[0] as Point)[1]).toBeGreaterThan((course.at(-1) as Point)[1]);
    const side = course.filter(([x]) => x > 60);
    // The box's own left side is at 70; half a kerf outside of it, and led in over a millimetre.
    const left = Math.min(...side.map(([x]) => x));
    expect(left).toBeGreaterThanOrEqual(68 - 1e-9);
    expect(left).toBeLessThan(69 + 1e-9);
    expect(Math.max(...side.map(([x]) => x))).toBeLessThan(axis + 31);
    expect(refused(() => frameProgram(of, job({ parts: [box(0, 0, 20, 20), box(40, 0, 20, 20)] })))[0]).toBe("table");
  });
  it("with its cutter the corners are waited at so that the middle keeps the tolerance, and never faster than the wire clears", () => {
    const slack = withCutter();
    // A long wire, pulled by little: its middle hangs behind by more than the tolerance, and turns a corner late.
    const long = {
      ...slack,
      toleranceMm: 0.3,
      cutter: slack.cutter && { ...slack.cutter, wire: { ...slack.cutter.wire, lengthM: 1.3, foamToM: 1.3, tensionN: 12 } },
    };
    const made = frameProgram(rig({ ears: false }), long);
    expect(made.deviationMm as number).toBeLessThanOrEqual(0.3 + 1e-9);
    // At each corner of the box (it is at 70 to 130 by 40 to 70) as long as the middle takes to come after.
    for (const [x, y] of [
      [70, 40],
      [130, 40],
      [130, 70],
      [70, 70],
    ] as const)
      expect(made.waits.some(({ at, waitS }) => Math.hypot(at[0] - x, at[1] - y) < 1.5 && waitS > 1)).toBe(true);
    expect(frameProgram(rig({ ears: false }), slack).waits).toEqual([]);
    const bare = frameProgram(rig(), withCutter({ feedMmS: 50, toleranceMm: 5 }));
    const { cutter } = withCutter();
    expect(bare.feeds.most).toBeLessThan((cutter?.wire.maxFeedMmS as number) * 0.95);
    expect(made.widerMm as number).toBeGreaterThanOrEqual(0);
  });
  it("slowly, with a slack wire and a fine tolerance, ears past the corners are quicker than waiting: what they cut in the waste is no miss, and none runs into a part", () => {
    const { cutter } = withCutter();
    const slow = (parts: Region[], more: Partial<FrameJob> = {}, tensionN = 12) =>
      withCutter({
        parts,
        block: { minX: -40, maxX: 160, minY: -40, maxY: 140 },
        feedMmS: 1.5,
        toleranceMm: 0.05,
        cutter: cutter && { ...cutter, wire: { ...cutter.wire, lengthM: 1.3, foamToM: 1.3, tensionN } },
        ...more,
      });
    const of = (ears: boolean) => rig({ ears, blockX_mm: 50, blockY_mm: 50 });
    const one = [box(0, 0, 100, 80)];
    const eared = frameProgram(of(true), slow(one));
    expect(eared.ears).toHaveLength(4);
    expect(eared.deviationMm as number).toBeLessThanOrEqual(0.05);
    const waited = frameProgram(of(false), slow(one));
    expect(waited.ears).toEqual([]);
    expect(waited.deviationMm as number).toBeGreaterThan(eared.deviationMm as number);
    expect(eared.timeS).toBeLessThan(waited.timeS);
    // A part below, wider than the one above it: no ear goes down into it, there it waits. Those that go next to it stay half a kerf off.
    const kerfMm = slow(one).kerfMm;
    const two = frameProgram(of(true), slow([box(0, 0, 100, 40), box(20, 44, 60, 40)], { toleranceMm: 0.1, feedMmS: 2 }, 8));
    const at =
      (x: number, y: number) =>
      ([px, py]: Point) =>
        Math.hypot(px - (90 + x), py - (90 + y)) < 3;
    for (const [x, y] of [
      [20, 44],
      [80, 44],
    ] as const) {
      expect(two.ears.some(([first]) => at(x, y)(first as Point))).toBe(false);
      expect(two.waits.some((wait) => at(x, y)(wait.at as Point))).toBe(true);
    }
    expect(two.ears.some(([first]) => at(0, 0)(first as Point))).toBe(true);
    for (const ear of two.ears)
      for (const [i, b] of ear.entries()) {
        const a = ear[Math.max(0, i - 1)] as Point;
        for (let t = 0; t <= 1; t += 0.1) {
          const p: Point = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
          for (const { outline } of two.parts) {
            expect(isInside(p, outline)).toBe(false);
            expect(nearest(p, outline).distance).toBeGreaterThan(kerfMm / 2 - 0.03);
          }
        }
      }
  });
  it("heat goes down where it goes slowly, so that the kerf grows by the tolerance and no more", () => {
    const round: Region = {
      outline: Array.from({ length: 60 }, (_, i): Point => [30 + 3 * Math.cos((i * Math.PI) / 30), 15 + 3 * Math.sin((i * Math.PI) / 30)]),
      holes: [],
    };
    const fixed = frameProgram(rig({ heat: "fixed" as never, ears: false }), withCutter({ parts: [round], toleranceMm: 0.2 }));
    const shared = frameProgram(rig({ heat: "share", ears: false, heatAt: [] }), withCutter({ parts: [round], toleranceMm: 0.2 }));
    expect(fixed.heat).toEqual({ least: FULL_HEAT, most: FULL_HEAT });
    if ((fixed.widerMm as number) > 0.2) {
      expect(shared.heat.least).toBeLessThan(FULL_HEAT);
      expect(shared.widerMm).toBeCloseTo(0.2, 6);
    }
    expect(shared.heat.most).toBe(FULL_HEAT);
  });
});

describe("what a path is made of", () => {
  it("a plan is asked for by name; its outlines, feed and kerf are the plan's; a column is up on the turntable", () => {
    expect(refused(() => frameJob(rig(), around(null, null)))[1]).toMatch(/name the plan it cuts/);
    const plan = newPlan(
      "P",
      { root: { shape: { kind: "rounded", ratio: 0.5, radius_mm: 0 }, chord_mm: 60 }, part: { span_mm: 400 }, pace: { tolerance_mm: 0.3 } },
      null,
    );
    const plain = frameJob(rig({ carriages: "locked" }), around(bow, plan));
    expect(plain).toMatchObject({ name: "P", spanMm: 400, toleranceMm: 0.3, faceName: "whole", face: null, passes: rig().passes });
    expect(plain.cutter?.amps as number).toBeGreaterThan(1);
    expect(plain.cutter?.wire.lengthM).toBe(0.4);
    expect(plain.parts).toHaveLength(1);
    const alone = frameJob(rig({ carriages: "locked" }), around(null, plan));
    expect(alone.cutter).toBeNull();
    const column = newPlan(
      "C",
      {
        root: {
          shape: {
            kind: "column",
            profile_mm: [
              [0, 10],
              [80, 20],
            ],
            passes: 5,
          } as never,
        },
        part: { span_mm: 200 },
      },
      null,
    );
    const lying = frameJob(rig({ carriages: "locked", table: false }), around(null, column));
    const basis = frameJob(rig({ carriages: "locked", table: true, passes: 9 }), around(null, column));
    expect(basis.passes).toBe(5);
    const [a, b] = [boundsOf(lying.parts[0]?.outline ?? []), boundsOf(basis.parts[0]?.outline ?? [])];
    expect(b.maxY - b.minY).toBeCloseTo(a.maxX - a.minX, 6);
    expect(basis.block.maxY - basis.block.minY).toBeCloseTo(lying.block.maxX - lying.block.minX, 6);
    expect(basis.block.maxX - basis.block.minX).toBeCloseTo(lying.block.maxY - lying.block.minY, 6);
  });
});

describe("heat as a word of the program", () => {
  it("a share of it all where nothing was measured; by the amps that were, between them evenly, and never more than was measured", () => {
    expect(heatWord(rig({ heatAt: [] }), 0.5, 4)).toBe(FULL_HEAT / 2);
    expect(heatWord(rig({ heatAt: [[500, 2]] }), 0.25, 4)).toBe(FULL_HEAT / 4);
    const measured = rig({
      heatAt: [
        [800, 4],
        [400, 2],
      ],
    });
    expect(heatWord(measured, 1, 4)).toBeCloseTo(800, 9);
    // A quarter of the heat is half the amps.
    expect(heatWord(measured, 0.25, 4)).toBeCloseTo(400, 9);
    expect(heatWord(measured, 0.5625, 4)).toBeCloseTo(600, 9);
    expect(heatWord(measured, 0.0625, 4)).toBeCloseTo(200, 9);
    expect(heatWord(measured, 1, 9)).toBe(800);
    expect(heatWord(measured, 0.5, 0)).toBe(FULL_HEAT / 2);
  });
  it("the line through nought that pairs follow best, and the worst off it", () => {
    expect(
      straightest([
        [400, 2],
        [800, 4],
      ]),
    ).toEqual({ perS: expect.closeTo(0.005, 12), worst: expect.closeTo(0, 12) });
    expect(straightest([[400, 2]])).toBeNull();
    expect(
      straightest([
        [400, 2],
        [0, 3],
        [500, 0],
      ]),
    ).toBeNull();
    const off = straightest([
      [100, 1],
      [100, 3],
    ]);
    expect(off).toEqual({ perS: expect.closeTo(0.02, 12), worst: expect.closeTo(0.5, 12) });
  });
});

describe("the pulley's best place", () => {
  const arm = { armMm: 800, fromDeg: 100, toDeg: 20 };
  it("no place of a net of its room betters it; it draws both travels and is in its room", () => {
    const room = { minX: 100, maxX: 700, minY: 100, maxY: 600 };
    const found = bestPulley(arm as never, room as never, 300, 180);
    if (!found) throw new Error("none");
    const [x, y] = found.pulleyMm;
    expect(x >= 100 && x <= 700 && y >= 100 && y <= 600).toBe(true);
    const own = swing({ ...arm, pulleyMm: found.pulleyMm } as never, 300, 180).worstMismatchMm;
    expect(found.swing.worstMismatchMm).toBe(own);
    for (let i = 0; i <= 8; i++)
      for (let j = 0; j <= 8; j++)
        expect(quickWorst({ ...arm, pulleyMm: [100 + 75 * i, 100 + 62.5 * j] } as never, 300, 180)).toBeGreaterThanOrEqual(own - 0.002);
    // Nor does any step from it: eight ways, far and near.
    for (const step of [40, 8, 1, 0.1])
      for (let k = 0; k < 8; k++) {
        const [dx, dy] = [step * Math.cos((k * Math.PI) / 4), step * Math.sin((k * Math.PI) / 4)];
        const [px, py] = [x + dx, y + dy];
        if (px >= 100 && px <= 700 && py >= 100 && py <= 600)
          expect(quickWorst({ ...arm, pulleyMm: [px, py] } as never, 300, 180)).toBeGreaterThanOrEqual(own - 0.002);
      }
    // Alike travels keep together wherever it is.
    expect(quickWorst({ ...arm, pulleyMm: [300, 300] } as never, 200, 200)).toBeLessThan(1e-6);
    expect(quickWorst({ ...arm, pulleyMm: [300, 300] } as never, 50_000, 200)).toBe(Number.POSITIVE_INFINITY);
    expect(bestPulley(arm as never, room as never, 50_000, 200)).toBeNull();
  });
});
