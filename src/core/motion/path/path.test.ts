import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { refusal } from "../../../../tests/helpers/headless";
import { runs } from "../../../../tests/helpers/runs";
import { offset } from "../../geometry/offset";
import { distance, isInside, type Line, lineLength, nearest, type Outline, type Point, type Region, regionArea } from "../../geometry/points";
import { moveTimeS } from "../program/steps";
import { type FeedLimits, feedAlong, runTimeS } from "./feedAlong";
import { onePath } from "./onePath";
import { retractPath } from "./retractPath";
import { alongLoop, middleOf, visitOrder } from "./visitOrder";

const roundOf = (start: Point, places: readonly Point[], order: readonly number[]) => {
  const all = [start, ...order.map((i) => places[i] as Point), start];
  return all.slice(1).reduce((sum, point, i) => sum + distance(all[i] as Point, point), 0);
};

describe("an order of visits", () => {
  it("is the best of all orders of five places or close to it, and every place is in it once", () => {
    const orders = (left: number[]): number[][] =>
      left.length < 2 ? [left] : left.flatMap((i) => orders(left.filter((k) => k !== i)).map((rest) => [i, ...rest]));
    const every = orders([0, 1, 2, 3, 4]);
    let best = 0;
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 })), { minLength: 5, maxLength: 5 }), (places) => {
        const start: Point = [0, 0];
        const order = visitOrder(places as Point[], start);
        expect([...order].sort()).toEqual([0, 1, 2, 3, 4]);
        const least = Math.min(...every.map((each) => roundOf(start, places as Point[], each)));
        const own = roundOf(start, places as Point[], order);
        expect(own).toBeLessThanOrEqual(1.12 * least + 1e-6);
        if (own < least + 1e-6) best += 1;
      }),
      { numRuns: 60, seed: 4 },
    );
    expect(best).toBeGreaterThan(52);
  });
  it("round a circle it goes round; no exchange of two links and no place moved betters it", () => {
    const circle = Array.from({ length: 14 }, (_, i): Point => {
      const a = (2 * Math.PI * ((i * 5) % 14)) / 14;
      return [50 + 40 * Math.cos(a), 50 + 40 * Math.sin(a)];
    });
    const start: Point = [0, 50];
    const order = visitOrder(circle, start);
    for (let i = 1; i < order.length; i++) expect(distance(circle[order[i - 1] as number] as Point, circle[order[i] as number] as Point)).toBeLessThan(20);
    const own = roundOf(start, circle, order);
    for (let i = 0; i < order.length; i++)
      for (let k = i + 1; k < order.length; k++) {
        const turned = [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
        expect(roundOf(start, circle, turned)).toBeGreaterThanOrEqual(own - 1e-6);
        const moved = [...order];
        const [taken] = moved.splice(i, 1);
        moved.splice(k, 0, taken as number);
        expect(roundOf(start, circle, moved)).toBeGreaterThanOrEqual(own - 1e-6);
      }
  });
  it("none, one and two places are gone to as they are", () => {
    expect(visitOrder([], [0, 0])).toEqual([]);
    expect(visitOrder([[5, 5]], [0, 0])).toEqual([0]);
    expect(
      visitOrder(
        [
          [50, 0],
          [5, 0],
        ],
        [0, 0],
      ),
    ).toEqual([1, 0]);
  });
  it("the shorter way along a closed line, over its corners, from any edge to any other", () => {
    const square: Point[] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ];
    expect(alongLoop(square, [2, 0], [10, 3])).toEqual([
      [2, 0],
      [10, 0],
      [10, 3],
    ]);
    expect(alongLoop(square, [10, 3], [2, 0])).toEqual([
      [10, 3],
      [10, 0],
      [2, 0],
    ]);
    expect(alongLoop(square, [2, 0], [0, 3])).toEqual([
      [2, 0],
      [0, 0],
      [0, 3],
    ]);
    expect(alongLoop(square, [2, 0], [7, 0])).toEqual([
      [2, 0],
      [7, 0],
    ]);
    expect(alongLoop(square, [7, 0], [2, 0])).toEqual([
      [7, 0],
      [2, 0],
    ]);
    const across = alongLoop(square, [1, 0], [1, 10]);
    expect(across).toEqual([
      [1, 0],
      [0, 0],
      [0, 10],
      [1, 10],
    ]);
    expect(
      middleOf([
        [2, 1],
        [8, 1],
        [8, 9],
      ]),
    ).toEqual([5, 5]);
  });
});

/** A wire whose bow goes with its feed: half a millimetre to each mm/s. */
const limits = (more: Partial<FeedLimits> = {}): FeedLimits => ({
  mostMmS: 8,
  accelerationMmS2: 100,
  toleranceMm: 0.5,
  lagMm: (mmS) => mmS / 2,
  catchUpS: (lagMm) => Math.log(lagMm / 0.5),
  free: null,
  ...more,
});

describe("feed along one path", () => {
  it("straight it goes as fast as it may, its time that of the trapezium", () => {
    const fed = feedAlong(
      [
        [0, 0],
        [100, 0],
      ],
      limits(),
    );
    expect(fed.feeds.every((feed) => feed === 8)).toBe(true);
    expect(fed.waits).toEqual([]);
    expect(fed.timesS.at(-1)).toBeCloseTo(12.5, 9);
    expect(fed.runS).toBeCloseTo(12.5 + 8 / 100, 6);
    expect(fed.path[0]).toEqual([0, 0]);
    expect(fed.path.at(-1)).toEqual([100, 0]);
  });
  it("round a curve its bow keeps the tolerance: R - sqrt(R^2 - m^2), and v^2/R the acceleration", () => {
    for (const radius of [4, 12, 40]) {
      const round = Array.from({ length: 181 }, (_, i): Point => [radius * Math.cos((i * Math.PI) / 180), radius * Math.sin((i * Math.PI) / 180)]);
      const { feeds } = feedAlong(round, limits());
      const feed = feeds[Math.floor(feeds.length / 2)] as number;
      const bow = Math.sqrt(2 * radius * 0.5 - 0.25);
      expect(feed).toBeCloseTo(Math.min(8, 2 * bow), 1);
      const slow = feedAlong(round, limits({ accelerationMmS2: 1 }));
      expect(slow.feeds[Math.floor(slow.feeds.length / 2)]).toBeCloseTo(Math.min(8, 2 * bow, Math.sqrt(radius)), 1);
      // The same way back, and turned the other way round.
      expect(
        feedAlong(
          round.map(([x, y]): Point => [x, -y]),
          limits(),
        ).feeds[Math.floor(feeds.length / 2)],
      ).toBeCloseTo(feed, 6);
    }
  });
  const corner: Point[] = [
    [0, 0],
    [60, 0],
    [60, 60],
  ];
  it("at a corner it waits for the middle, or creeps where that takes less, or runs past into the waste where that takes least", () => {
    const waits = feedAlong(corner, limits());
    expect(waits.waits).toEqual([{ at: [60, 0], waitS: Math.log(4 / 0.5) }]);
    expect(waits.ears).toEqual([]);
    const at = waits.feeds.indexOf(0);
    expect(waits.path[at]).toEqual([60, 0]);
    expect(waits.path[at + 1]).toEqual([60, 0]);
    expect((waits.timesS[at + 1] as number) - (waits.timesS[at] as number)).toBeCloseTo(Math.log(8), 9);
    const creeps = feedAlong(corner, limits({ catchUpS: () => 1000 }));
    expect(creeps.waits).toEqual([]);
    expect(Math.min(...creeps.feeds)).toBeCloseTo(1, 3);
    // Only near the corner: three bows before it and after.
    const slowMm = creeps.path.slice(1).reduce((sum, point, i) => sum + ((creeps.feeds[i] as number) < 8 ? distance(creeps.path[i] as Point, point) : 0), 0);
    expect(slowMm).toBeGreaterThan(20);
    expect(slowMm).toBeLessThan(30);
    const ears = feedAlong(corner, limits({ catchUpS: () => 1000, free: () => true, lagMm: (mmS) => mmS / 2 }));
    expect(ears.ears).toHaveLength(1);
    expect(ears.waits).toEqual([]);
    const [ear] = ears.ears as [Point[]];
    // Straight on past the corner by its bow and the tolerance, and into the next side from as far before it.
    expect(ear).toEqual([
      [60, 0],
      [expect.closeTo(64.5, 9), 0],
      [60, expect.closeTo(-4.5, 9)],
      [60, 0],
    ]);
    const saved = feedAlong(corner, limits({ catchUpS: () => 1000, free: (_, to) => to[0] <= 60 }));
    expect(saved.ears).toEqual([]);
  });
  it("a turn of less than thirty degrees is no corner, and a bow within the tolerance wants no wait", () => {
    const bend = (deg: number): Point[] => [
      [0, 0],
      [60, 0],
      [60 + 60 * Math.cos((deg * Math.PI) / 180), 60 * Math.sin((deg * Math.PI) / 180)],
    ];
    expect(feedAlong(bend(28), limits()).waits).toEqual([]);
    expect(feedAlong(bend(32), limits()).waits).toHaveLength(1);
    expect(feedAlong(bend(-32), limits()).waits).toHaveLength(1);
    expect(feedAlong(corner, limits({ lagMm: () => 0.4 })).waits).toEqual([]);
    // A corner rounded within two millimetres is one, and is waited at where half of it is turned.
    const rounded: Point[] = [
      [0, 0],
      [59, 0],
      [59.7, 0.3],
      [60, 1],
      [60, 60],
    ];
    const found = feedAlong(rounded, limits()).waits;
    expect(found).toHaveLength(1);
    expect(found[0]?.at).toEqual([59.7, 0.3]);
  });
  it("run time: ramps of v^2/2a at every stop, none where it runs on at one feed", () => {
    const line: Point[] = [
      [0, 0],
      [50, 0],
      [100, 0],
    ];
    expect(runTimeS(line, [10, 10], [0, 0], 50, [false, false, false])).toBeCloseTo(10 + 0.2, 9);
    expect(runTimeS(line, [10, 10], [0, 0], 50, [false, true, false])).toBeCloseTo(10 + 0.4, 9);
    // Slower at first: it speeds up from five to ten within the second.
    expect(runTimeS(line, [5, 10], [0, 0], 50, [false, false, false])).toBeCloseTo(10 + 0.05 + (5 / 50 + 10 / 50) + (50 - 75 / 100 - 1) / 10, 6);
    // A wait is in it as it is.
    expect(
      runTimeS(
        [
          [0, 0],
          [50, 0],
          [50, 0],
          [100, 0],
        ],
        [10, 0, 10],
        [0, 3, 0],
        50,
        [false, true, true, false],
      ),
    ).toBeCloseTo(10 + 0.4 + 3, 9);
    // Too short to come to its feed: a triangle.
    expect(
      runTimeS(
        [
          [0, 0],
          [1, 0],
        ],
        [100],
        [0],
        4,
        [false, false],
      ),
    ).toBeCloseTo(1, 9);
  });
});

const square = (x: number, y: number, side: number): Point[] => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];

describe("time along a path", () => {
  it("is the closed form's for one move, and its sum where every corner is a stop", () => {
    for (const [mm, v, a] of [
      [100, 10, 50],
      [1, 10, 50],
      [37, 3, 400],
    ] as const)
      expect(
        runTimeS(
          [
            [0, 0],
            [mm, 0],
          ],
          [v],
          [0],
          a,
          [true, true],
        ),
      ).toBeCloseTo(moveTimeS(mm, v, a), 9);
    const line: Point[] = [
      [0, 0],
      [100, 0],
      [100, 1],
      [100, 1],
      [60, 1],
    ];
    expect(runTimeS(line, [10, 10, 0, 10], [0, 0, 2.5, 0], 50, [true, true, true, true, true])).toBeCloseTo(
      moveTimeS(100, 10, 50) + moveTimeS(1, 10, 50) + 2.5 + moveTimeS(40, 10, 50),
      9,
    );
  });
  it("straight through, points on the way cost nothing, and slower stretches are slowed down for in time", () => {
    const many: Point[] = Array.from({ length: 201 }, (_, i) => [i / 2, 0]);
    expect(
      runTimeS(
        many,
        many.slice(1).map(() => 10),
        many.slice(1).map(() => 0),
        50,
        many.map(() => false),
      ),
    ).toBeCloseTo(moveTimeS(100, 10, 50), 6);
    // 50 mm at 10 then 50 at 2: the change is (10^2 - 2^2)/2A = 0.96 mm long.
    const two: Point[] = [
      [0, 0],
      [50, 0],
      [100, 0],
    ];
    const [A, slowing] = [50, 8 / 50];
    const first = 10 / A + (50 - 1 - 0.96) / 10 + slowing;
    const second = (50 - 0.04) / 2 + 2 / A;
    expect(runTimeS(two, [10, 2], [0, 0], A, [false, false, false])).toBeCloseTo(first + second, 6);
  });
});

describe("the way out", () => {
  it("goes back along what is cut by the shortest way, never over what is not", () => {
    // In along a link, round three sides of a square, and stopped.
    const line: Point[] = [
      [-20, 0],
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
      [0, 10],
    ];
    expect(retractPath(line, null)).toMatchObject({ lengthMm: 150 + 20, near: [...line].reverse() });
    // Round a loop and past its beginning: the loop is closed, and out is short.
    const closed: Point[] = [
      [-20, 0],
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
      [0, 0],
      [40, 0],
    ];
    expect(retractPath(closed, null).near).toEqual([
      [40, 0],
      [0, 0],
      [-20, 0],
    ]);
    expect(retractPath(line, line).far).toEqual([...line].reverse());
  });
  it("is no longer than any random walk along the same lines", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })), { minLength: 2, maxLength: 40 }), (places) => {
        const line = places.map(([x, y]): Point => [x * 10, y * 10]).filter((p, i, all) => i === 0 || distance(p, all[i - 1] as Point) > 0);
        const out = retractPath(line, null);
        expect(out.lengthMm).toBeLessThanOrEqual(lineLength(line) + 1e-9);
        expect(lineLength(out.near)).toBeCloseTo(out.lengthMm, 9);
        if (line.length > 1) {
          expect(out.near[0]).toEqual(line.at(-1));
          expect(out.near.at(-1)).toEqual(line[0]);
        }
        const edge = (a: Point, b: Point) =>
          line.some(
            (p, i) =>
              i > 0 && ((distance(p, a) === 0 && distance(line[i - 1] as Point, b) === 0) || (distance(p, b) === 0 && distance(line[i - 1] as Point, a) === 0)),
          );
        for (let i = 1; i < out.near.length; i++) expect(edge(out.near[i - 1] as Point, out.near[i] as Point)).toBe(true);
        // Bellman and Ford's of the test's own.
        const keys = [...new Set(line.map(String))];
        const best = new Map(keys.map((key) => [key, key === String(line[0]) ? 0 : Number.POSITIVE_INFINITY]));
        for (let round = 0; round < keys.length; round++)
          for (let i = 1; i < line.length; i++) {
            const [a, b] = [String(line[i - 1]), String(line[i])];
            const mm = distance(line[i - 1] as Point, line[i] as Point);
            best.set(b, Math.min(best.get(b) as number, (best.get(a) as number) + mm));
            best.set(a, Math.min(best.get(a) as number, (best.get(b) as number) + mm));
          }
        expect(out.lengthMm).toBeCloseTo(best.get(String(line.at(-1))) as number, 9);
      }),
      { numRuns: runs(200), seed: 5 },
    );
  });
});

/** Islands on a loose grid, some with holes, some with an island in the hole. */
const anyScene = fc
  .record({
    cells: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 3 })), {
      minLength: 1,
      maxLength: 9,
      selector: ([i, j]) => `${i} ${j}`,
    }),
    kinds: fc.array(
      fc.record({
        sides: fc.integer({ min: 3, max: 9 }),
        turn: fc.double({ min: 0, max: 6, noNaN: true }),
        size: fc.double({ min: 12, max: 22, noNaN: true }),
        holes: fc.integer({ min: 0, max: 2 }),
        island: fc.boolean(),
      }),
      { minLength: 9, maxLength: 9 },
    ),
    kerf: fc.double({ min: 0.4, max: 2, noNaN: true }),
  })
  .map(({ cells, kinds, kerf }) => {
    const ring = (x: number, y: number, radius: number, sides: number, turn: number): Point[] =>
      Array.from(
        { length: sides },
        (_, i): Point => [x + radius * Math.cos(turn + (2 * Math.PI * i) / sides), y + radius * Math.sin(turn + (2 * Math.PI * i) / sides)],
      );
    const shapes: Region[] = [];
    for (const [k, [i, j]] of cells.entries()) {
      const { sides, turn, size, holes, island } = kinds[k] as (typeof kinds)[number];
      const [x, y] = [50 * i, 50 * j];
      const inner = size * Math.cos(Math.PI / sides) * 0.75;
      if (holes === 1 && inner > 7) {
        shapes.push({ outline: ring(x, y, size, sides, turn), holes: [ring(x, y, inner, 12, 0)] });
        if (island && inner > 8) shapes.push({ outline: ring(x, y, inner - 5, 4, turn), holes: [] });
      } else if (holes === 2 && inner > 9)
        shapes.push({ outline: ring(x, y, size, sides, turn), holes: [ring(x - inner / 2, y, inner / 4, 7, 1), ring(x + inner / 2, y, inner / 4, 7, 2)] });
      else shapes.push({ outline: ring(x, y, size, sides, turn), holes: [] });
    }
    return { shapes, kerf };
  });

describe("one unbroken path", () => {
  it("frees every part of any scene by one line: along every edge half a kerf off, through no part but by the slits that are listed", () => {
    fc.assert(
      fc.property(
        anyScene,
        fc.constantFrom("tree" as const, "shorter" as const),
        fc.constantFrom("below" as const, "above" as const),
        ({ shapes, kerf }, order, first) => {
          const found = onePath({ shapes, kerfMm: kerf, join: "apart", order, first });
          const tree = order === "tree" ? found : onePath({ shapes, kerfMm: kerf, join: "apart" });
          const cut = offset(
            shapes.map(({ outline, holes }) => ({ outline, holes: holes.map((hole) => [...hole].reverse()) })),
            kerf / 2,
          );
          expect(found.slits).toHaveLength(shapes.reduce((sum, { holes }) => sum + holes.length, 0));
          // Every cut line is gone round whole: each of its corners is on the path.
          const onPath = (point: Point) => nearest(point, found.path, false).distance;
          for (const { outline, holes } of cut) for (const line of [outline, ...holes]) for (const point of line) expect(onPath(point)).toBeLessThan(1e-6);
          const islands = cut.length;
          expect(tree.links.length).toBeLessThanOrEqual(islands);
          expect(found.lengthMm).toBeLessThanOrEqual(tree.lengthMm + 1e-6);
          expect(lineLength(found.path)).toBeCloseTo(found.lengthMm, 6);
          expect(distance(found.path[0] as Point, found.path.at(-1) as Point)).toBeLessThan(1e-9);
          // A tree's length is the cut lines and every link and slit there and back.
          const edges = cut.flatMap(({ outline, holes }) => [outline, ...holes]).reduce((sum, line) => sum + lineLength([...line, line[0] as Point]), 0);
          expect(tree.lengthMm).toBeCloseTo(edges + 2 * [...tree.links, ...tree.slits].reduce((sum, line) => sum + lineLength(line), 0), 3);
          // Between the points of the path nothing of a part is taken but by a slit.
          const inPart = (point: Point) => cut.some(({ outline, holes }) => isInside(point, outline) && !holes.some((hole) => isInside(point, hole)));
          const onSlit = (point: Point) => found.slits.some((slit) => nearest(point, slit, false).distance < 1e-6);
          for (let i = 1; i < found.path.length; i++) {
            const [a, b] = [found.path[i - 1] as Point, found.path[i] as Point];
            for (const t of [0.25, 0.5, 0.75]) {
              const middle: Point = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
              if (cut.every(({ outline, holes }) => [outline, ...holes].every((line) => nearest(middle, line).distance > 1e-4)) && inPart(middle))
                expect(onSlit(middle)).toBe(true);
            }
          }
        },
      ),
      { numRuns: Number(process.env.UPWIND_SCENES ?? 60), seed: 7 },
    );
  }, 600_000);
  it("goes once round small islands that are far apart, out and back where they are in a row; the round is a good one", () => {
    const ring = Array.from({ length: 12 }, (_, k) => square(300 * Math.cos((k * Math.PI) / 6), 300 * Math.sin((k * Math.PI) / 6), 10));
    const input = { shapes: ring.map((outline) => ({ outline, holes: [] })), kerfMm: 1, join: "apart" as const, start: [-330, 0] as Point };
    const [tree, shorter] = [onePath(input), onePath({ ...input, order: "shorter" })];
    expect(shorter.lengthMm).toBeLessThan(0.75 * tree.lengthMm);
    expect(shorter.links).toHaveLength(13);
    const row = Array.from({ length: 6 }, (_, k) => square(50 * k, 0, 45));
    const rowed = { ...input, shapes: row.map((outline) => ({ outline, holes: [] })), start: [-10, 20] as Point };
    expect(onePath({ ...rowed, order: "shorter" }).path).toEqual(onePath(rowed).path);
  });
  it("an order of islands is within a tenth of the best of twenty random beginnings, on fifty scenes", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 600 })), { minLength: 4, maxLength: 40 }),
        fc.integer({ min: 1, max: 1e9 }),
        (places, seed) => {
          const start: Point = [-10, 300];
          const round = (order: readonly number[]) => lineLength([start, ...order.map((i) => places[i] as Point), start]);
          const own = round(visitOrder(places, start));
          expect([...visitOrder(places, start)].sort((a, b) => a - b)).toEqual(places.map((_, i) => i));
          // Park and Miller's generator: the same orders every time.
          let state = seed;
          const uniform = () => {
            state = (state * 48271) % 2147483647;
            return state / 2147483647;
          };
          let best = Number.POSITIVE_INFINITY;
          for (let restart = 0; restart < 20; restart++) {
            const order = places.map((_, i) => i).sort(() => uniform() - 0.5);
            // A plain 2-opt of the test's own, from a random order.
            for (let better = true; better; ) {
              better = false;
              for (let i = 0; i < order.length - 1; i++)
                for (let k = i + 1; k < order.length; k++) {
                  const turned = [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
                  if (round(turned) < round(order) - 1e-6) {
                    order.splice(0, order.length, ...turned);
                    better = true;
                  }
                }
            }
            best = Math.min(best, round(order));
            if (places.length > 20 && restart > 4 && process.env.UPWIND_SCENES === undefined) break;
          }
          expect(own).toBeLessThanOrEqual(1.1 * best);
        },
      ),
      { numRuns: process.env.UPWIND_SCENES ? 50 : 12, seed: 3 },
    );
  }, 600_000);
  it("slits and bars go where they are wanted, each still the only thing taken from its part", () => {
    const frame = { outline: square(0, 0, 100), holes: [square(10, 30, 40)] };
    const free = onePath({ shapes: [frame], kerfMm: 1, join: "apart" });
    // On its own at the thinnest place, 10 mm and half a kerf on either side, at the left.
    expect(lineLength(free.slits[0] as Line)).toBeCloseTo(11, 6);
    const moved = onePath({ shapes: [frame], kerfMm: 1, join: "apart", slitsAt: [[95, 50]] });
    expect(lineLength(moved.slits[0] as Line)).toBeCloseTo(51, 6);
    expect(moved.slits[0]?.flat()[1]).toBeCloseTo(50, 6);
    const two = { outline: square(0, 0, 100), holes: [square(10, 40, 20), square(60, 40, 20)] };
    expect(() => onePath({ shapes: [two], kerfMm: 1, join: "apart", slitsAt: [[31, 50]] })).not.toThrow();
    const pair = [square(0, 0, 40), square(60, 0, 40)].map((outline) => ({ outline, holes: [] }));
    const bar = onePath({ shapes: pair, kerfMm: 1, join: "joined", barMm: 5, barsAt: [[50, 35]] });
    expect(bar.bars[0]?.[0]?.[1]).toBeCloseTo(35, 6);
  });
  it("links are a minimum spanning tree's: three squares in a row are tied by their gaps", () => {
    const found = onePath({
      shapes: [square(0, 0, 10), square(30, 0, 10), square(70, 0, 10)].map((outline) => ({ outline, holes: [] })),
      kerfMm: 1,
      join: "apart",
      start: [-5.5, 5],
    });
    // 5 to the first, then gaps of 20 and 30 less a kerf each.
    expect(found.links.map((line) => lineLength(line))).toEqual([expect.closeTo(5, 6), expect.closeTo(19, 6), expect.closeTo(29, 6)]);
    expect(found.path[0]).toEqual([-5.5, 5]);
    expect(found.path.at(-1)).toEqual([-5.5, 5]);
  });
  it("joined, bars make one piece of the islands, and nothing is left to link but the start", () => {
    const shapes = [square(0, 0, 20), square(40, 0, 20), square(80, 5, 20)].map((outline) => ({ outline, holes: [] }));
    const found = onePath({ shapes, kerfMm: 1.2, join: "joined", barMm: 6 });
    expect(found.bars).toHaveLength(2);
    expect(found.links).toHaveLength(1);
    expect(found.slits).toEqual([]);
    // What is freed is the islands and the bars between them: 20 mm of 6 each.
    const outline = found.path.slice(1, -1);
    const area = Math.abs(regionArea({ outline, holes: [] }));
    const parts = offset([{ outline, holes: [] }], -0.6).reduce((sum, region) => sum + regionArea(region), 0);
    expect(parts).toBeCloseTo(3 * 400 + 2 * 20 * 6, -1);
    expect(area).toBeGreaterThan(parts);
    expect(() => onePath({ shapes, kerfMm: 1.2, join: "joined" })).toThrow(/bar_mm is required/);
    expect(() => onePath({ shapes, kerfMm: 1.2, join: "joined", barMm: 1 })).toThrow(/above the kerf/);
  });
  it("refuses what a wire cannot do, with the place: parts closer than the kerf, a hole gone in it, an outline across itself, a start within a part", () => {
    const refused = (shapes: Outline[], holes: Outline[] = [], more: object = {}) =>
      refusal(() => onePath({ shapes: shapes.map((outline, i) => ({ outline, holes: i === 0 ? holes : [] })), kerfMm: 1, join: "apart", ...more }));
    const close = refused([square(-50, 0, 20), square(0, 0, 20), square(20.8, 5, 20)]);
    expect([close.code, close.path]).toEqual(["no-solution", "kerf_mm"]);
    expect(close.message).toMatch(/parts 2 and 3 are 0\.80 mm apart/);
    expect(close.places?.map(([x]) => x).sort((a, b) => a - b)).toEqual([20, 20.8].map((x) => expect.closeTo(x, 6)));
    const gone = refused([square(0, 0, 20)], [square(9, 9, 0.8)]);
    expect([gone.code, gone.path, gone.places]).toEqual(["no-solution", "kerf_mm", [[9.4, 9.4].map((each) => expect.closeTo(each, 6))]]);
    const bow: Outline = [
      [0, 0],
      [20, 20],
      [20, 0],
      [0, 20],
    ];
    const crossed = refused([square(50, 0, 20), bow]);
    expect([crossed.code, crossed.path, crossed.places]).toEqual(["no-solution", "shapes.1.outline_mm", [[10, 10]]]);
    expect(refused([square(0, 0, 20)], [], { start: [10, 10] })).toMatchObject({ path: "start_mm", places: [[10, 10]] });
    // Moved there, the right hole's slit would run through the left one.
    const tall: Outline = [
      [0, -150],
      [100, -150],
      [100, 250],
      [0, 250],
    ];
    const two = { outline: tall, holes: [square(10, 40, 20), square(60, 40, 20)] };
    expect(refusal(() => onePath({ shapes: [two], kerfMm: 1, join: "apart", slitsAt: [[46, 50]] })).path).toBe("slitsAt");
  });
  it("a hole that vanishes while a mouth closes is refused; a mouth that closes alone is named", () => {
    // A C whose mouth, 0.6 mm wide, opens to the right.
    const c: Outline = [
      [0, 0],
      [40, 0],
      [40, 19.7],
      [30, 19.7],
      [30, 10],
      [10, 10],
      [10, 30],
      [30, 30],
      [30, 20.3],
      [40, 20.3],
      [40, 40],
      [0, 40],
    ];
    const input = { kerfMm: 1, join: "apart" as const };
    expect(refusal(() => onePath({ ...input, shapes: [{ outline: c, holes: [square(4, 19, 0.8)] }] })).path).toBe("kerf_mm");
    const found = onePath({ ...input, shapes: [{ outline: c, holes: [] }] });
    expect(found.closedMouths).toHaveLength(1);
    expect(found.slits).toHaveLength(1);
    expect(onePath({ ...input, kerfMm: 0.5, shapes: [{ outline: c, holes: [] }] })).toMatchObject({ closedMouths: [], slits: [] });
  });
  it("a start in a hole is threaded there, and crosses its part by the listed slit alone", () => {
    const frame = { outline: square(0, 0, 100), holes: [square(20, 30, 40)] };
    const found = onePath({ shapes: [frame, { outline: square(150, 0, 30), holes: [] }], kerfMm: 1, join: "apart", start: [40, 50], order: "shorter" });
    expect([found.threaded, found.slits.length]).toEqual([true, 1]);
    expect(onePath({ shapes: [frame], kerfMm: 1, join: "apart", start: [-10, 50] }).threaded).toBe(false);
    const [a, b] = found.slits[0] as Line;
    const inPart = (p: Point) => isInside(p, square(0, 0, 100)) && !isInside(p, square(20, 30, 40));
    for (let i = 1; i < found.path.length; i++) {
      const [from, to] = [found.path[i - 1] as Point, found.path[i] as Point];
      const middle: Point = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
      if (inPart(middle)) expect(nearest(middle, [a as Point, b as Point], false).distance).toBeLessThan(1e-6);
    }
    expect(found.path[0]).toEqual([40, 50]);
    expect(found.path.at(-1)).toEqual([40, 50]);
  });
});
