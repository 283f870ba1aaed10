import { describe, expect, it } from "vitest";
import { boundsOf, type Region, regionArea } from "../../geometry/points";
import { CoreError } from "../../kernel/errors";
import { type BrokenLine, stationsOf } from "../stations";
import { readDxf } from "./dxf";

/** A drawing of the exchange format, group by group, as its published tables have it. */
const drawing = (
  entities: readonly (readonly (readonly [number, string | number])[])[],
  more: { units?: number; blocks?: readonly (readonly [number, string | number])[] } = {},
) => {
  const groups: (readonly [number, string | number])[] = [
    ...(more.units === undefined
      ? []
      : ([
          [0, "SECTION"],
          [2, "HEADER"],
          [9, "$INSUNITS"],
          [70, more.units],
          [0, "ENDSEC"],
        ] as const)),
    ...(more.blocks ? ([[0, "SECTION"], [2, "BLOCKS"], ...more.blocks, [0, "ENDSEC"]] as const) : []),
    [0, "SECTION"],
    [2, "ENTITIES"],
    ...entities.flat(),
    [0, "ENDSEC"],
    [0, "EOF"],
  ];
  return groups.map(([code, value]) => `${code}\n${value}\n`).join("");
};
type Group = readonly [number, string | number];
const lineOf = (x: number, y: number, x2: number, y2: number, more: Group[] = []): Group[] => [
  [0, "LINE"],
  [8, "0"],
  ...more,
  [10, x],
  [20, y],
  [11, x2],
  [21, y2],
];
const square = (size: number, at = 0): Group[][] => [
  lineOf(at, at, at + size, at),
  lineOf(at + size, at, at + size, at + size),
  lineOf(at + size, at + size, at, at + size),
  lineOf(at, at + size, at, at),
];
const poly = (points: [number, number, number?][], closed = 1, more: Group[] = []): Group[] => [
  [0, "LWPOLYLINE"],
  [8, "0"],
  ...more,
  [90, points.length],
  [70, closed],
  ...points.flatMap(([x, y, bulge]): Group[] => [[10, x], [20, y], ...(bulge === undefined ? [] : [[42, bulge] as const])]),
];
const circle = (x: number, y: number, r: number, more: Group[] = []): Group[] => [[0, "CIRCLE"], [8, "0"], ...more, [10, x], [20, y], [40, r]];
const read = (text: string, unit?: "mm" | "in" | "cm" | "px") => readDxf(text, unit, 0.05);
const area = (regions: readonly Region[]) => regions.reduce((sum, region) => sum + regionArea(region), 0);
const why = (text: string) => {
  try {
    read(text);
  } catch (error) {
    if (error instanceof CoreError) return [error.code, error.message];
    throw error;
  }
  return ["read"];
};

describe("what a drawing's entities fill", () => {
  it("four lines end to end, in any order, are a square; a circle its disc; an outline within another its hole", () => {
    const [a, b, c, d] = square(20) as [Group[], Group[], Group[], Group[]];
    const found = read(drawing([c, a, d, b]));
    expect(area(found.regions)).toBeCloseTo(400, 6);
    expect(boundsOf(found.regions[0]?.outline ?? [])).toEqual({ minX: 0, maxX: 20, minY: 0, maxY: 20 });
    expect(area(read(drawing([circle(5, 7, 10)])).regions)).toBeCloseTo(Math.PI * 100, 0);
    const holed = read(drawing([...square(20), circle(10, 10, 4)])).regions;
    expect(holed).toHaveLength(1);
    expect(holed[0]?.holes).toHaveLength(1);
    expect(area(holed)).toBeCloseTo(400 - Math.PI * 16, 0);
  });
  it("a polyline's bulge is the tangent of a quarter of its arc: one is half a circle, to either side", () => {
    const out = read(
      drawing([
        poly([
          [0, 0, 1],
          [20, 0],
          [20, 10],
          [0, 10],
        ]),
      ]),
    ).regions;
    expect(area(out)).toBeCloseTo(200 + (Math.PI * 100) / 2, 0);
    const inward = read(
      drawing([
        poly([
          [0, 0, -0.4142135623730951],
          [20, 0],
          [20, 40],
          [0, 40],
        ]),
      ]),
    ).regions;
    // A quarter of a circle over a chord of 20: radius 10 root 2, its segment r^2 (pi/4 - 1/2).
    expect(area(inward)).toBeCloseTo(800 - 200 * (Math.PI / 4 - 0.5), 0);
    // An open one whose ends meet closes as well; one whose ends do not is none.
    expect(
      area(
        read(
          drawing([
            poly(
              [
                [0, 0],
                [20, 0],
                [20, 10],
                [0, 10],
                [0, 0],
              ],
              0,
            ),
          ]),
        ).regions,
      ),
    ).toBeCloseTo(200, 6);
    expect(
      why(
        drawing([
          poly(
            [
              [0, 0],
              [20, 0],
              [20, 10],
            ],
            0,
          ),
        ]),
      )[0],
    ).toBe("no-solution");
  });
  it("an arc from its start to its end against the clock, past nought too; half an ellipse; each closed by a line", () => {
    const arc = (from: number, to: number): Group[] => [
      [0, "ARC"],
      [8, "0"],
      [10, 0],
      [20, 0],
      [40, 10],
      [50, from],
      [51, to],
    ];
    expect(area(read(drawing([arc(0, 180), lineOf(-10, 0, 10, 0)])).regions)).toBeCloseTo((Math.PI * 100) / 2, 0);
    const over = read(drawing([arc(270, 90), lineOf(0, -10, 0, 10)])).regions;
    expect(area(over)).toBeCloseTo((Math.PI * 100) / 2, 0);
    expect(boundsOf(over[0]?.outline ?? []).minX).toBeCloseTo(0, 6);
    const ellipse: Group[] = [
      [0, "ELLIPSE"],
      [8, "0"],
      [10, 0],
      [20, 0],
      [11, 20],
      [21, 0],
      [40, 0.5],
      [41, 0],
      [42, Math.PI],
    ];
    const half = read(drawing([ellipse, lineOf(-20, 0, 20, 0)])).regions;
    expect(area(half)).toBeCloseTo((Math.PI * 20 * 10) / 2, 0);
    expect(boundsOf(half[0]?.outline ?? []).maxY).toBeCloseTo(10, 1);
  });
  it("a unit of the file's own goes before the asked one; where neither is there millimetres are taken, and that is said", () => {
    const plain = drawing(square(2));
    expect(area(read(plain).regions)).toBeCloseTo(4, 6);
    expect(read(plain).notes.join()).toMatch(/unit: the file does not say, millimetres taken/);
    expect(area(read(plain, "in").regions)).toBeCloseTo(4 * 25.4 ** 2, 3);
    expect(read(plain, "in").notes.join()).not.toMatch(/unit/);
    const inches = drawing(square(2), { units: 1 });
    expect(area(read(inches).regions)).toBeCloseTo(4 * 25.4 ** 2, 3);
    expect(area(read(inches, "mm").regions)).toBeCloseTo(4 * 25.4 ** 2, 3);
    expect(read(inches).notes.join()).not.toMatch(/unit/);
    expect(area(read(drawing(square(2), { units: 5 })).regions)).toBeCloseTo(400, 3);
  });
  it("a block is where it is put: turned, larger, mirrored, in rows and columns; one in another; on paper not at all", () => {
    const blocks: Group[] = [
      [0, "BLOCK"],
      [8, "0"],
      [2, "TILE"],
      [10, 1],
      [20, 1],
      ...square(4, 1).flat(),
      [0, "ENDBLK"],
      [0, "BLOCK"],
      [8, "0"],
      [2, "PAIR"],
      [10, 0],
      [20, 0],
      [0, "INSERT"],
      [8, "0"],
      [2, "TILE"],
      [10, 10],
      [20, 0],
      [0, "ENDBLK"],
    ];
    const insert = (name: string, ...more: Group[]): Group[] => [[0, "INSERT"], [8, "0"], [2, name], ...more];
    const one = read(drawing([insert("TILE", [10, 30], [20, 40])], { blocks })).regions;
    // Its own base point comes to lie where it is put.
    expect(boundsOf(one[0]?.outline ?? [])).toEqual({ minX: 30, maxX: 34, minY: 40, maxY: 44 });
    const larger = read(drawing([insert("TILE", [10, 0], [20, 0], [41, 3], [42, 2])], { blocks })).regions;
    expect(boundsOf(larger[0]?.outline ?? [])).toMatchObject({ maxX: 12, maxY: 8 });
    const turned = boundsOf(read(drawing([insert("TILE", [10, 0], [20, 0], [50, 90])], { blocks })).regions[0]?.outline ?? []);
    expect(turned.minX).toBeCloseTo(-4, 6);
    expect(turned.maxY).toBeCloseTo(4, 6);
    const rows = read(drawing([insert("TILE", [10, 0], [20, 0], [70, 3], [71, 2], [44, 10], [45, 20])], { blocks })).regions;
    expect(rows).toHaveLength(6);
    const all = boundsOf(rows.flatMap(({ outline }) => outline));
    expect([all.maxX, all.maxY]).toEqual([24, 24]);
    const nested = boundsOf(read(drawing([insert("PAIR", [10, 5], [20, 6])], { blocks })).regions[0]?.outline ?? []);
    expect([nested.minX, nested.minY]).toEqual([15, 6]);
    const paper = read(drawing([...square(3), circle(50, 50, 9, [[67, 1]])], { blocks })).regions;
    expect(paper).toHaveLength(1);
    // What is not there draws nothing, and is no fault of the rest.
    expect(area(read(drawing([...square(3), insert("NOBODY", [10, 0], [20, 0])], { blocks })).regions)).toBeCloseTo(9, 6);
    const itself: Group[] = [
      [0, "BLOCK"],
      [8, "0"],
      [2, "LOOP"],
      [10, 0],
      [20, 0],
      [0, "INSERT"],
      [8, "0"],
      [2, "LOOP"],
      [10, 1],
      [20, 0],
      [0, "ENDBLK"],
    ];
    expect(why(drawing([insert("LOOP", [10, 0], [20, 0])], { blocks: itself }))).toEqual(["out-of-range", expect.stringMatching(/more than \d+ deep/)]);
  });
  it("drawn from behind it is mirrored; words and points draw no line, and are counted", () => {
    const behind = read(
      drawing([
        poly(
          [
            [1, 0],
            [5, 0],
            [5, 4],
            [1, 4],
          ],
          1,
          [[230, -1]],
        ),
      ]),
    ).regions;
    expect(boundsOf(behind[0]?.outline ?? [])).toMatchObject({ minX: -5, maxX: -1 });
    const text: Group[] = [
      [0, "TEXT"],
      [8, "0"],
      [10, 0],
      [20, 0],
      [40, 3],
      [1, "hello"],
    ];
    expect(read(drawing([...square(3), text, text])).warnings).toMatchObject([{ code: "unread", share: expect.closeTo(2 / 6, 6) }]);
    expect(read(drawing([...square(3), circle(0, 0, 0)])).warnings).toMatchObject([{ code: "unread", share: 0.2 }]);
    expect(read(drawing(square(3))).warnings).toEqual([]);
  });
  it("a spline's curve by its own poles and knots: a quarter of a circle where its weights say so", () => {
    const w = Math.SQRT1_2;
    const spline: Group[] = [
      [0, "SPLINE"],
      [8, "0"],
      [70, 0],
      [71, 2],
      [72, 6],
      [73, 3],
      ...[0, 0, 0, 1, 1, 1].map((knot) => [40, knot] as const),
      ...[1, w, 1].map((weight) => [41, weight] as const),
      [10, 10],
      [20, 0],
      [10, 10],
      [20, 10],
      [10, 0],
      [20, 10],
    ];
    const found = read(drawing([spline, lineOf(0, 10, 0, 0), lineOf(0, 0, 10, 0)])).regions;
    expect(area(found)).toBeCloseTo((Math.PI * 100) / 4, 0);
    for (const [x, y] of found[0]?.outline ?? []) if (x > 0.01 && y > 0.01) expect(Math.hypot(x, y)).toBeCloseTo(10, 2);
    expect(
      why(
        drawing([
          [
            [0, "SPLINE"],
            [8, "0"],
            [70, 0],
            [71, 3],
            [10, 0],
            [20, 0],
            [10, 5],
            [20, 5],
          ],
        ]),
      ),
    ).toEqual(["wrong-format", expect.stringMatching(/lacks knots/)]);
  });
  it("what is no drawing is refused in words", () => {
    expect(why("hello")[0]).toBe("wrong-format");
    expect(why(drawing([[...lineOf(0, 0, 1, 1).slice(0, 2), [10, "x"], [20, 0], [11, 1], [21, 1]]]))[0]).toMatch(/wrong-format|no-solution/);
  });
});

describe("numbers shared out among stretches", () => {
  /** A line of stretches of given lengths, corners between them. */
  const line = (...lengths: number[]): BrokenLine => {
    const points = [[0, 0], ...lengths.map((_, i) => [lengths.slice(0, i + 1).reduce((sum, mm) => sum + mm, 0), 0] as const)] as [number, number][];
    return {
      points,
      along: Float64Array.from(points, ([x]) => x),
      breaks: points.slice(1, -1).map((at) => ({ along: at[0], at, kind: "corner" as const })),
    };
  };
  /** How many numbers each stretch has. */
  const shares = (count: number, ...lengths: number[]) => {
    const { stations } = stationsOf(line(...lengths), line(...lengths), count, 1);
    const corners = [0, ...stations.flatMap(({ at }, i) => (at === "corner" || at === "end" ? [i] : []))];
    return corners.slice(1).map((each, i) => each - (corners[i] as number));
  };
  it("by their length, one at least each, what is left over to the largest remainders, the first of equals first", () => {
    expect(shares(10, 50, 50)).toEqual([5, 5]);
    expect(shares(10, 80, 20)).toEqual([8, 2]);
    expect(shares(3, 98, 1, 1)).toEqual([1, 1, 1]);
    expect(shares(10, 98, 1, 1)).toEqual([8, 1, 1]);
    expect(shares(7, 50, 50)).toEqual([4, 3]);
    expect(shares(12, 30, 30, 30)).toEqual([4, 4, 4]);
    expect(shares(10, 55, 45)).toEqual([6, 4]);
    expect(shares(10, 10, 60, 30)).toEqual([1, 6, 3]);
    // Of what is over, a later stretch has the larger rest: 0, 2.29 and 0.71 of three; 3.2 and 4.8 of eight.
    expect(shares(6, 10, 60, 30)).toEqual([1, 3, 2]);
    expect(shares(10, 42, 58)).toEqual([4, 6]);
    expect(shares(5, 60, 10, 30)).toEqual([3, 1, 1]);
    for (const count of [4, 9, 17, 40]) expect(shares(count, 13, 29, 7, 51).reduce((sum, each) => sum + each, 0)).toBe(count);
  });
});
