import { describe, expect, it } from "vitest";
import { type Point, regionArea } from "../geometry/points";
import { handlesOf, MOST_HANDLES, normalised, withHandle, withoutPoint, withPointAfter } from "./handles";
import { asPoints, drawEnd } from "./place";
import { firstPlan, type PlanEnd } from "./plan";

const base = firstPlan().root;
const end = (more: object): PlanEnd => ({ ...base, thickness: 1, turn_deg: 0, x_mm: 0, y_mm: 0, chord_mm: undefined, ...more }) as unknown as PlanEnd;
const WEDGE: Point[] = [
  [0, 0],
  [60, -10],
  [60, 10],
  [20, 15],
];
const wedge = (more: object = {}) => end({ shape: { kind: "points", points_mm: WEDGE }, ...more });
const PROFILE: Point[] = [
  [0, 10],
  [40, 20],
  [100, 15],
];
const column = (more: object = {}) => end({ shape: { kind: "column", profile_mm: PROFILE }, ...more });
const section = (more: object = {}) => end({ shape: { kind: "naca4", code: "2412" }, chord_mm: 100, ...more });
const at = (of: PlanEnd, id: string): Point => {
  const found = handlesOf(of).find((each) => each.id === id);
  if (!found) throw new Error(`no ${id}`);
  return found.at;
};
const outline = (of: PlanEnd) => drawEnd(of).regions[0]?.outline ?? [];

describe("what of an end can be moved", () => {
  it("nose, tail and top of any; points too of what was given by points, where they are drawn", () => {
    expect(handlesOf(section()).map(({ id, axes }) => [id, axes])).toEqual([
      ["nose", "xy"],
      ["tail", "x"],
      ["top", "y"],
    ]);
    const ids = handlesOf(wedge()).map(({ id }) => id);
    expect(ids.slice(3)).toEqual(["point 0", "point 1", "point 2", "point 3"]);
    expect(handlesOf(wedge()).at(-1)?.label).toBe("point 4 of 4");
    for (const [i, point] of WEDGE.entries()) expect(at(wedge(), `point ${i}`)).toEqual(point);
    // The top is its highest place; the tail half way between its two edges.
    expect(at(wedge(), "top")).toEqual([20, 15]);
    expect(at(wedge(), "tail")[1]).toBeCloseTo(0, 6);
    expect(at(section(), "tail")[0]).toBeCloseTo(100, 0);
    const most = Math.max(...outline(section()).map(([, y]) => y));
    expect(at(section(), "top")[1]).toBe(most);
  });
  it("points lie where chord, thickness, turning and place have put them", () => {
    const put = wedge({ chord_mm: 120, thickness: 0.5, turn_deg: 0, x_mm: 5, y_mm: -2 });
    for (const [i, [x, y]] of WEDGE.entries()) expect(at(put, `point ${i}`)).toEqual([expect.closeTo(2 * x + 5, 9), expect.closeTo(y - 2, 9)]);
    for (const turn_deg of [30, -75, 180]) {
      const turned = wedge({ turn_deg, chord_mm: 90, thickness: 1.3 });
      const drawn = outline(turned);
      for (let i = 0; i < WEDGE.length; i++) {
        const [x, y] = at(turned, `point ${i}`);
        expect(Math.min(...drawn.map(([a, b]) => Math.hypot(a - x, b - y)))).toBeLessThan(1e-6);
      }
    }
    const along = column({ chord_mm: 200, thickness: 2 });
    expect(at(along, "point 1")).toEqual([expect.closeTo(80, 9), expect.closeTo(80, 9)]);
  });
  it("a turned column, and what has too many points, have none of them", () => {
    expect(handlesOf(column()).length).toBe(6);
    expect(handlesOf(column({ turn_deg: 10 })).length).toBe(3);
    expect(handlesOf(wedge({ turn_deg: 10 })).length).toBe(7);
    const many = (count: number) =>
      end({
        shape: {
          kind: "points",
          points_mm: Array.from({ length: count }, (_, i): Point => [50 * Math.cos((2 * Math.PI * i) / count), 30 * Math.sin((2 * Math.PI * i) / count)]),
        },
      });
    expect(handlesOf(many(MOST_HANDLES)).length).toBe(3 + MOST_HANDLES);
    expect(handlesOf(many(MOST_HANDLES + 1)).length).toBe(3);
  });
});

describe("what a hand moves", () => {
  it("the nose moves the whole; the tail its chord alone; the top its thickness alone; to whole micrometres", () => {
    const nose = at(section(), "nose");
    expect(withHandle(section(), "nose", [nose[0] + 3.00049, nose[1] - 2])).toMatchObject({ x_mm: 3, y_mm: -2 });
    expect(withHandle(section({ x_mm: 4999 }), "nose", [at(section({ x_mm: 4999 }), "nose")[0] + 50, 0]).x_mm).toBe(5000);
    const tail = at(section(), "tail");
    expect(withHandle(section(), "tail", [tail[0] + 25, 40])).toMatchObject({ chord_mm: 125, thickness: 1, x_mm: 0 });
    expect(withHandle(section(), "tail", [tail[0] - 500, 0]).chord_mm).toBe(1);
    // Of points with a size of their own the chord begins at what they span.
    expect(withHandle(wedge(), "tail", [at(wedge(), "tail")[0] + 30, 0]).chord_mm).toBe(90);
    const top = at(section(), "top");
    expect(withHandle(section(), "top", [0, 1.5 * top[1]]).thickness).toBeCloseTo(1.5, 3);
    expect(withHandle(section({ thickness: 2 }), "top", [0, at(section({ thickness: 2 }), "top")[1] / 2]).thickness).toBeCloseTo(1, 3);
    expect(withHandle(section(), "top", [0, 100 * top[1]]).thickness).toBe(5);
    expect(withHandle(section(), "top", [0, -10]).thickness).toBe(0.1);
    // Raised by its place the thickness is still its own.
    const raised = section({ y_mm: 50 });
    expect(withHandle(raised, "top", [0, 50 + 1.5 * top[1]]).thickness).toBeCloseTo(1.5, 3);
    // One that lies all below its chord line has no top to pull at.
    const low = end({ shape: { kind: "points", points_mm: WEDGE.map(([x, y]): Point => [x, y - 40]) } });
    expect(withHandle(low, "top", [0, 5])).toBe(low);
    expect(withHandle(section(), "elbow", [0, 0])).toEqual(section());
  });
  it("a point goes where the hand is, and no other moves, however the end was sized and turned before", () => {
    for (const of of [wedge(), wedge({ chord_mm: 90, thickness: 1.4 }), wedge({ turn_deg: 25 }), wedge({ x_mm: 8, y_mm: 3 })]) {
      const before = [0, 1, 2, 3].map((i) => at(of, `point ${i}`));
      const to: Point = [(before[3] as Point)[0] + 4, (before[3] as Point)[1] + 6];
      const moved = withHandle(of, "point 3", to);
      for (const i of [0, 1, 2]) {
        const [x, y] = at(moved, `point ${i}`);
        expect(Math.hypot(x - (before[i] as Point)[0], y - (before[i] as Point)[1])).toBeLessThan(1e-6);
      }
      const [x, y] = at(moved, "point 3");
      expect(Math.hypot(x - to[0], y - to[1])).toBeLessThan(2e-3);
    }
  });
  it("a column's point stays between its neighbours and off the other side of the axis", () => {
    const profile = (of: PlanEnd) => (of.shape as { profile_mm: Point[] }).profile_mm;
    expect(profile(withHandle(column(), "point 1", [150, -5]))[1]).toEqual([100, 0]);
    expect(profile(withHandle(column(), "point 1", [-30, 25]))[1]).toEqual([0, 25]);
    expect(profile(withHandle(column(), "point 2", [300, 12]))[2]).toEqual([300, 12]);
    expect(profile(withHandle(column(), "point 0", [-50, 12]))[0]).toEqual([-50, 12]);
  });
});

describe("points added and taken away", () => {
  const points = (of: PlanEnd) => (of.shape as { points_mm?: Point[]; profile_mm?: Point[] }).points_mm ?? (of.shape as { profile_mm: Point[] }).profile_mm;
  it("half way to the next, round the corner for the last of an outline, before the last of a column", () => {
    expect(points(withPointAfter(wedge(), 0))).toEqual([WEDGE[0], [30, -5], ...WEDGE.slice(1)]);
    expect(points(withPointAfter(wedge(), 3))).toEqual([...WEDGE, [10, 7.5]]);
    expect(points(withPointAfter(column(), 2))).toEqual([PROFILE[0], PROFILE[1], [70, 17.5], PROFILE[2]]);
    expect(points(withPointAfter(column(), 0))).toEqual([PROFILE[0], [20, 15], PROFILE[1], PROFILE[2]]);
    expect(withPointAfter(section(), 0)).toEqual(section());
    expect(withPointAfter(wedge(), 9)).toEqual(wedge());
  });
  it("none fewer than a shape needs: three of an outline, two of a column", () => {
    expect(points(withoutPoint(wedge(), 1))).toEqual([WEDGE[0], WEDGE[2], WEDGE[3]]);
    const three = withoutPoint(wedge(), 1);
    expect(withoutPoint(three, 0)).toBe(three);
    const two = withoutPoint(column(), 1);
    expect(points(two)).toEqual([PROFILE[0], PROFILE[2]]);
    expect(withoutPoint(two, 0)).toBe(two);
    expect(withoutPoint(section(), 0)).toEqual(section());
  });
  it("settled, an end has its size and turn in its points, holes with them, and looks the same", () => {
    const holed = end({
      shape: {
        kind: "points",
        points_mm: [
          [0, 0],
          [60, 0],
          [60, 40],
          [0, 40],
        ],
        holes_mm: [
          [
            [20, 10],
            [20, 30],
            [40, 30],
          ],
        ],
      },
      chord_mm: 120,
      thickness: 0.5,
      turn_deg: 20,
    });
    const flat = normalised(holed);
    expect(flat).toMatchObject({ thickness: 1, turn_deg: 0 });
    expect(flat.chord_mm).toBeUndefined();
    const [was, is] = [drawEnd(holed).regions[0], drawEnd(flat).regions[0]];
    for (const line of ["outline"] as const)
      for (const [x, y] of was?.[line] ?? []) expect(Math.min(...(is?.[line] ?? []).map(([a, b]) => Math.hypot(a - x, b - y)))).toBeLessThan(1e-4);
    for (const [x, y] of was?.holes[0] ?? []) expect(Math.min(...(is?.holes[0] ?? []).map(([a, b]) => Math.hypot(a - x, b - y)))).toBeLessThan(1e-4);
    expect(normalised(section())).toEqual(section());
    expect(normalised(column({ turn_deg: 10 }))).toEqual(column({ turn_deg: 10 }));
  });
});

it("a shape of several pieces keeps all of them and their holes as points, and when its chord goes into its points", () => {
  const box = (x: number, y: number, size: number): Point[] => [
    [x, y],
    [x + size, y],
    [x + size, y + size],
    [x, y + size],
  ];
  const islands = end({
    shape: { kind: "points", points_mm: box(0, 0, 30), holes_mm: [box(5, 5, 10), box(52, 2, 4)], islands_mm: [box(50, 0, 10)] },
    chord_mm: 120,
  });
  const areas = (of: PlanEnd) => drawEnd(of).regions.map((region) => Number(regionArea(region).toFixed(3)));
  // 60 mm wide as drawn: twice as large at a chord of 120.
  expect(areas(islands)).toEqual([4 * (900 - 100), 4 * (100 - 16)]);
  for (const same of [asPoints(islands), normalised(islands)]) {
    expect(same.chord_mm).toBeUndefined();
    expect(areas(same)).toEqual(areas(islands));
  }
});
