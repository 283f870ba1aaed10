import { describe, expect, it } from "vitest";
import { type BlockBox, edgesOf, firstLook, projectionOf, turned, viewOf } from "./planView";

const box: BlockBox = { minX: -10, maxX: 90, minY: -5, maxY: 25, spanMm: 400 };
const SQUARE_ON = { turn: 0, tilt: 0 };

describe("a view of the block", () => {
  it("square on, x is to the right, up is up, and the tip is straight behind the root", () => {
    const view = viewOf(SQUARE_ON);
    expect(view([3, 0, 0]).x).toBeCloseTo(3, 9);
    expect(view([0, 3, 0]).y).toBeCloseTo(-3, 9);
    const [root, tip] = [view([3, 4, 0]), view([3, 4, 400])];
    expect([tip.x, tip.y]).toEqual([expect.closeTo(root.x, 9), expect.closeTo(root.y, 9)]);
    expect(tip.near).toBeLessThan(root.near);
  });

  it("turned a quarter the span runs to the right; from straight above the block's top is nearest", () => {
    expect(viewOf({ turn: 90, tilt: 0 })([0, 0, 7]).x).toBeCloseTo(7, 9);
    const above = viewOf({ turn: 0, tilt: 90 });
    expect(above([0, 5, 0]).near).toBeGreaterThan(above([0, 0, 0]).near);
  });

  it("fits any block inside the picture, whichever way it is seen", () => {
    for (const turn of [-170, -60, 0, 24, 58, 120])
      for (const tilt of [-89, 0, 22, 89]) {
        const { place } = projectionOf(box, { turn, tilt }, { width: 700, height: 420 });
        for (const [a, b] of edgesOf(box))
          for (const { x, y } of [place(a), place(b)]) {
            expect(x).toBeGreaterThanOrEqual(45 - 1e-6);
            expect(x).toBeLessThanOrEqual(655 + 1e-6);
            expect(y).toBeGreaterThanOrEqual(48);
            expect(y).toBeLessThanOrEqual(420 - 44 + 1e-6);
          }
      }
  });

  it("says which face is in front", () => {
    const front = (turn: number) => {
      const { nearness } = projectionOf(box, { turn, tilt: 10 }, { width: 700, height: 420 });
      return nearness(0) > nearness(400) ? "root" : "tip";
    };
    expect([front(20), front(160)]).toEqual(["root", "tip"]);
  });

  it("has twelve edges, each between corners that differ in one coordinate", () => {
    const edges = edgesOf(box);
    expect(new Set(edges.map(([a, b]) => [String(a), String(b)].sort().join()))).toHaveProperty("size", 12);
    for (const [a, b] of edges) expect(a.filter((value, i) => value !== b[i])).toHaveLength(1);
  });
});

describe("turning it", () => {
  it("goes round and round, and stops straight above and below", () => {
    expect(turned({ turn: 170, tilt: 0 }, 20, 0).turn).toBe(-170);
    expect(turned({ turn: -170, tilt: 0 }, -20, 0).turn).toBe(170);
    expect(turned(SQUARE_ON, 0, 500).tilt).toBe(89);
    expect(turned(SQUARE_ON, 0, -500).tilt).toBe(-89);
  });

  it("begins on the length of a long part and the face of a short one", () => {
    expect(firstLook(800, 200).turn).toBeGreaterThan(firstLook(100, 200).turn);
  });
});
