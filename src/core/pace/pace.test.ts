import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { distance, type Point } from "../geometry/points";
import { JUDGEMENT } from "../kernel/constants";
import { CoreError } from "../kernel/errors";
import { parseFoamId, resolveFoam } from "../materials/foams";
import { type CutPair, cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { midSpanLag } from "../physics/cut/lag";
import { resolveWire } from "../physics/heat/wire";
import { type TautWire, wireSurface } from "../physics/string/tautWire";
import { traceError } from "../physics/string/traceError";
import { endPathsOf, timed } from "./endPaths";
import { faceErrors } from "./face";
import { endOf, fumeFeedMmS, HAND_MM_S, heldAt, paceOf } from "./pace";

const pair: CutPair = { wire: resolveWire({ alloy: "ss-304", diameter_mm: 0.64 }), foam: resolveFoam(parseFoamId("eps-18") as never), ambientC: 20 };
const POWER = 44;
const wire: TautWire = {
  lengthM: 1.3,
  tensionN: 65,
  foamFromM: 0.1,
  foamToM: 1.2,
  referenceDragNPerM: referenceDragNPerM(pair),
  maxFeedMmS: cutAtPower(pair, 0.005, POWER).maxFeedMPerS * 1000,
};
const SQUARE: Point[] = [
  [0, 0],
  [60, 0],
  [60, 60],
];
const input = (root: Point[], tip: Point[] = root, more: object = {}) => ({ wire, pair, powerWPerM: POWER, root, tip, toleranceMm: 0.3, ...more });
const lengthOf = (line: readonly Point[]) => line.reduce((sum, point, i) => (i === 0 ? 0 : sum + distance(line[i - 1] as Point, point)), 0);
const errorOf = (guided: { path: readonly Point[]; tipPath?: readonly Point[]; timesS: readonly number[] }, how = {}) =>
  Math.max(...wireSurface(wire, guided, heldAt(wire), how).traces.map((trace) => traceError(trace).errorMm));

/** A way of arcs and straights, with corners or without, and a tip of its own size. */
const anyWay = fc
  .record({
    legs: fc.array(
      fc.record({
        mm: fc.double({ min: 20, max: 80, noNaN: true }),
        bend: fc.double({ min: -0.03, max: 0.03, noNaN: true }),
        turn: fc.constantFrom(0, 0, 0, 0.9, -1.2, 1.57),
      }),
      { minLength: 2, maxLength: 4 },
    ),
    taper: fc.double({ min: 0.5, max: 1, noNaN: true }),
    tolerance: fc.double({ min: 0.12, max: 0.5, noNaN: true }),
  })
  .map(({ legs, taper, tolerance }) => {
    const root: Point[] = [[0, 0]];
    let heading = 0;
    for (const [i, { mm, bend, turn }] of legs.entries()) {
      if (i > 0) heading += turn;
      const parts = Math.ceil(mm / 2);
      for (let k = 0; k < parts; k++) {
        const [x, y] = root.at(-1) as Point;
        heading += (bend * mm) / parts;
        root.push([x + (mm / parts) * Math.cos(heading), y + (mm / parts) * Math.sin(heading)]);
      }
    }
    const curved = legs.some(({ bend, turn }, i) => Math.abs(bend) > 0.012 || (i > 0 && turn !== 0)) && legs.some(({ bend }) => Math.abs(bend) < 0.012);
    return { root, curved, tip: root.map(([x, y]): Point => [x * taper + 5, y * taper]), tolerance };
  });

/** The fastest of one feed and one wait for all that keeps a tolerance; null where none does. */
function gridBest(root: Point[], tip: Point[], tolerance: number): number | null {
  const paths = endPathsOf(root, tip, 1e9, 1e-3);
  let best: number | null = null;
  for (const wait of paths.corners.length > 0 ? [0, 0.5, 1, 1.5, 2, 3] : [0]) {
    for (let share = 0.05; share <= JUDGEMENT.dragsAboveFeedRatio; share += 0.1) {
      const guided = timed(paths, new Float64Array(paths.pieces.length).fill(share * wire.maxFeedMmS), new Float64Array(paths.corners.length).fill(wait));
      const total = guided.timesS.at(-1) as number;
      if ((best === null || total < best) && errorOf(guided) <= tolerance) best = total;
    }
  }
  return best;
}

/** Points so far apart along a curve, mm. */
const curve = (at: (t: number) => Point, mm: number): Point[] => Array.from({ length: Math.ceil(mm / 2) + 1 }, (_, i) => at(i / Math.ceil(mm / 2)));
const within = (min: number, max: number) => fc.double({ min, max, noNaN: true });

/** Ways of four kinds. A nose is a parabola of that radius, led round from face to face. */
const CLASSES: Readonly<Record<string, fc.Arbitrary<Point[]>>> = {
  noses: within(2, 8).map((radius) =>
    curve((t) => {
      const y = (2 * t - 1) * Math.sqrt(2 * radius * 50);
      return [(y * y) / (2 * radius), y];
    }, 120),
  ),
  waves: fc.tuple(within(3, 12), within(60, 140)).map(([high, long]) => curve((t) => [t * 200, high * Math.sin((2 * Math.PI * t * 200) / long)], 240)),
  corners: fc.tuple(within(40, 100), within(40, 100), within(0.5, 1.9)).map(([first, second, turn]) => [
    [0, 0],
    [first, 0],
    [first + second * Math.cos(turn), second * Math.sin(turn)],
  ]),
  "gentle faces": within(150, 600).map((radius) => curve((t) => [radius * Math.sin((200 * t) / radius), radius * (1 - Math.cos((200 * t) / radius))], 200)),
};

/** `npm run long -- paces` asks for two hundred, or for some that bend only. */
const WAYS = Number(process.env.UPWIND_PACES ?? 6);
const BENT = process.env.UPWIND_PACES_BENT === "yes";

describe("the fastest pace", () => {
  it("keeps its tolerance when it is cut again, is never slower than the best of one feed and one wait, and where it finds none the grid finds none", () => {
    const gains: { gain: number; curved: boolean }[] = [];
    fc.assert(
      fc.property(BENT ? anyWay.filter(({ curved }) => curved) : anyWay, ({ root, tip, tolerance, curved }) => {
        const grid = gridBest(root, tip, tolerance);
        try {
          const evaluation = paceOf(input(root, tip, { toleranceMm: tolerance }));
          expect(errorOf(evaluation)).toBeLessThanOrEqual(tolerance);
          expect(evaluation.totalS).toBeCloseTo(evaluation.timesS.at(-1) as number, 9);
          for (const { waitS } of evaluation.waits) expect(waitS * 10).toBeCloseTo(Math.round(waitS * 10), 9);
          if (grid !== null) {
            expect(evaluation.totalS).toBeLessThanOrEqual(grid + 1e-9);
            gains.push({ gain: grid / evaluation.totalS, curved });
          }
        } catch (error) {
          if (!(error instanceof CoreError)) throw error;
          expect(error.code).toBe("no-solution");
          expect(grid).toBeNull();
        }
      }),
      { numRuns: WAYS, seed: 1114 },
    );
    if (WAYS > 20) {
      const median = (of: typeof gains) =>
        [...of]
          .map(({ gain }) => gain)
          .sort((x, y) => x - y)
          [of.length >> 1]?.toFixed(3);
      const bent = gains.filter(({ curved }) => curved);
      process.stdout.write(
        `paces: ${gains.length} ways, median gain over one feed and one wait ${median(gains)}; of ${bent.length} with bends or corners between straighter stretches ${median(bent)}\n`,
      );
    }
  }, 3_600_000);

  it("gains most at noses and corners, least on gentle faces: by class, never slower than one feed and one wait", () => {
    const gains = Object.entries(CLASSES).map(([name, paths]) => {
      const found: number[] = [];
      fc.assert(
        fc.property(paths, fc.double({ min: 0.6, max: 1, noNaN: true }), fc.double({ min: 0.2, max: 0.6, noNaN: true }), (root, taper, tolerance) => {
          const tip = root.map(([x, y]): Point => [x * taper + 5, y * taper]);
          const grid = gridBest(root, tip, tolerance);
          if (grid === null) return;
          const { totalS } = paceOf(input(root, tip, { toleranceMm: tolerance }));
          expect(totalS).toBeLessThanOrEqual(grid + 1e-9);
          found.push(grid / totalS);
        }),
        { numRuns: Math.max(1, Math.round(WAYS / 8)), seed: 27 },
      );
      found.sort((a, b) => a - b);
      return `${name} ${found[found.length >> 1]?.toFixed(3) ?? "none"} (most ${found.at(-1)?.toFixed(3) ?? "none"}, of ${found.length})`;
    });
    if (WAYS > 20) process.stdout.write(`paces by class, median gain: ${gains.join("; ")}\n`);
  }, 3_600_000);

  it("runs straights at what the wire clears and says so; no faster than a hand", () => {
    const straight = paceOf(
      input([
        [0, 0],
        [200, 0],
      ]),
    );
    expect(straight.limits).toEqual([{ fromMm: 0, toMm: 200, feedMmS: expect.closeTo(JUDGEMENT.dragsAboveFeedRatio * wire.maxFeedMmS, 1), limit: "drag" }]);
    expect(straight.errorMm).toBeLessThan(1e-6);
    const hot = paceOf({
      ...input([
        [0, 0],
        [200, 0],
      ]),
      powerWPerM: 120,
      wire: { ...wire, maxFeedMmS: 60 },
    });
    expect(hot.limits[0]).toMatchObject({ feedMmS: HAND_MM_S, limit: "hand" });
  });
  it("a tighter wire and a looser tolerance are never slower", () => {
    const base = paceOf(input(SQUARE)).totalS;
    expect(paceOf({ ...input(SQUARE), wire: { ...wire, tensionN: 100 } }).totalS).toBeLessThanOrEqual(base);
    expect(paceOf(input(SQUARE, SQUARE, { toleranceMm: 0.8 })).totalS).toBeLessThanOrEqual(base);
  });
  it("a corner three ways: the wait is at the corner, slowing has none, running past leaves the least heat there", () => {
    const [wait, slow, past] = (["wait", "slow", "past"] as const).map((corner) => paceOf(input(SQUARE, SQUARE, { corner })));
    expect(wait?.waits).toHaveLength(1);
    expect(wait?.waits[0]?.at).toEqual([60, 0]);
    expect(wait?.waits[0]?.alongMm).toBeCloseTo(60, 6);
    expect(slow?.waits).toEqual([]);
    expect(Math.min(...(slow?.limits.map(({ feedMmS }) => feedMmS) ?? []))).toBeLessThan(0.5 * wire.maxFeedMmS);
    expect(Math.max(...(past?.path.map(([x]) => x) ?? []))).toBeGreaterThan(63);
    expect(past?.faceErrorMm as number).toBeLessThan((wait?.faceErrorMm as number) / 2);
    expect(slow?.faceErrorMm as number).toBeGreaterThan(past?.faceErrorMm as number);
    const best = paceOf(input(SQUARE, SQUARE, { corner: "best" }));
    expect(best.totalS).toBe(Math.min(...[wait, slow, past].map((each) => each?.totalS as number)));
  });
  it("held by the face, that keeps the tolerance, and the line is stated next to it", () => {
    const arc = Array.from({ length: 60 }, (_, i): Point => [60 * Math.sin(i / 25), 60 - 60 * Math.cos(i / 25)]);
    const evaluation = paceOf(input(arc, arc, { hold: "face", toleranceMm: 0.25 }));
    expect(evaluation.faceErrorMm).toBeLessThanOrEqual(0.25 * 1.1);
    expect(evaluation.errorMm).toBeGreaterThan(0);
  });
  it("where the ends stop the middle is behind by its lag, and comes in the wait; or the ends go on as far", () => {
    const straight: Point[] = [
      [0, 0],
      [400, 0],
    ];
    const evaluation = paceOf(input(straight));
    const feed = evaluation.feeds.at(-1) as number;
    const x = feed / wire.maxFeedMmS;
    const { lagM } = midSpanLag((wire.referenceDragNPerM * x) / (1 - x), wire.lengthM, wire.foamToM - wire.foamFromM, wire.tensionN);
    expect(evaluation.end.leftMm / (1000 * lagM)).toBeCloseTo(1, 1);
    expect(evaluation.end.runOutMm).toBe(Math.ceil(evaluation.end.leftMm));
    expect(evaluation.timesS.at(-1)).toBeCloseTo(400 / feed, 6);
    const waited = paceOf({ ...input(straight), endWait: true });
    expect([waited.path.at(-1), waited.totalS - evaluation.totalS]).toEqual([[400, 0], expect.closeTo(evaluation.end.waitS, 9)]);
    // After the wait nothing is left; a tenth of a second less and something is.
    expect(endOf(input(straight), waited).leftMm).toBeLessThanOrEqual(input(straight).toleranceMm);
    const early = { ...waited, timesS: waited.timesS.map((time, i) => (i === waited.timesS.length - 1 ? time - 0.2 : time)) };
    expect(endOf(input(straight), early).leftMm).toBeGreaterThan(input(straight).toleranceMm);
  });
  it.each(["line", "face"] as const)("a looser tolerance is never slower, held by the %s: bends, noses, corners", (hold) => {
    const nose = Array.from(
      { length: 30 },
      (_, i): Point => [12 * Math.cos(Math.PI / 2 + (Math.PI * i) / 29), 12 * Math.sin(Math.PI / 2 + (Math.PI * i) / 29)],
    );
    const wave = Array.from({ length: 61 }, (_, i): Point => [i * 3, 5 * Math.cos((2 * Math.PI * i * 3) / 80)]);
    for (const line of hold === "line" ? [wave, [[60, 12] as Point, ...nose, [60, -12] as Point], SQUARE] : [wave]) {
      let before = Number.POSITIVE_INFINITY;
      for (const toleranceMm of hold === "line" ? [0.2, 0.3, 0.45] : [0.3, 0.5]) {
        const { totalS } = paceOf({ ...input(line, line, { toleranceMm, hold, corner: "best" }), endWait: true });
        expect(totalS).toBeLessThanOrEqual(before + 1e-9);
        before = totalS;
      }
    }
  });
  it("says so where no pace holds it, with the least error there is", () => {
    // The kerf that the templates allow for lets nobody go slower.
    try {
      paceOf(input(SQUARE, SQUARE, { corner: "slow", toleranceMm: 0.05, kerfFeeds: { min: 7, max: 9 } }));
      expect.unreachable();
    } catch (error) {
      expect(error).toMatchObject({ code: "no-solution", path: "tolerance_mm" });
      const least = Number(/least error possible is ([\d.]+) mm/.exec((error as CoreError).message)?.[1]);
      const paths = endPathsOf(SQUARE, SQUARE, 1e9, 1e-3);
      expect(least).toBeCloseTo(errorOf(timed(paths, new Float64Array(paths.pieces.length).fill(7), new Float64Array(1))), 1);
    }
    expect(() => paceOf({ ...input(SQUARE), wire: { ...wire, maxFeedMmS: 0.1 } })).toThrow(/no kerf/);
  });
  it("the slower end of a taper is kept under the fume limit", () => {
    const hot = 90;
    const least = fumeFeedMmS(pair, hot);
    expect(least).toBeGreaterThan(0.3);
    expect(cutAtPower(pair, (least * 1.001) / 1000, hot).wireC).toBeLessThanOrEqual(pair.foam.fumeLimitC);
    expect(cutAtPower(pair, (least * 0.98) / 1000, hot).wireC).toBeGreaterThan(pair.foam.fumeLimitC);
    expect(fumeFeedMmS(pair, 5)).toBe(0);
  });
});

describe("the way in pieces", () => {
  it("is as long as it was, with every corner between two pieces and its own points kept", () => {
    fc.assert(
      fc.property(anyWay, fc.double({ min: 3, max: 60, noNaN: true }), ({ root, tip }, pieceMm) => {
        const paths = endPathsOf(root, tip, pieceMm, 4);
        expect(lengthOf(paths.root)).toBeCloseTo(lengthOf(root), 6);
        expect(lengthOf(paths.tip)).toBeCloseTo(lengthOf(tip), 6);
        expect(paths.pieces[0]?.from).toBe(0);
        expect(paths.pieces.at(-1)?.to).toBe(paths.root.length - 1);
        for (let i = 1; i < paths.pieces.length; i++) expect(paths.pieces[i]?.from).toBe(paths.pieces[i - 1]?.to);
        for (const { index } of paths.corners) expect(paths.pieces.some(({ to }) => to === index)).toBe(true);
        for (const point of root) expect(Math.min(...paths.root.map((each) => distance(each, point)))).toBeLessThan(1e-9);
      }),
      { numRuns: 60 },
    );
  });
  it("times follow feeds and waits", () => {
    const paths = endPathsOf(SQUARE, SQUARE, 20, 5);
    const guided = timed(paths, new Float64Array(paths.pieces.length).fill(6), [1.5]);
    expect(guided.timesS.at(-1)).toBeCloseTo(120 / 6 + 1.5, 9);
    const still = guided.piece.indexOf(-1);
    expect(guided.path[still]).toEqual(guided.path[still + 1]);
    expect((guided.timesS[still + 1] as number) - (guided.timesS[still] as number)).toBeCloseTo(1.5, 9);
  });
});

describe("face errors", () => {
  it("none on a straight at one feed; half the change of the half kerf where the feed changes", () => {
    const path: Point[] = [
      [0, 0],
      [60, 0],
      [120, 0],
    ];
    const even = wireSurface(wire, { path, timesS: [0, 10, 20] }, [0]);
    expect(faceErrors(pair, POWER, even, false).errorMm).toBeLessThan(0.02);
    const uneven = wireSurface(wire, { path, timesS: [0, 10, 25] }, [0]);
    const half = (feed: number) => (cutAtPower(pair, feed / 1000, POWER).kerfM * 1000) / 2;
    expect(faceErrors(pair, POWER, uneven, false).errorMm).toBeCloseTo((half(4) - half(6)) / 2, 1);
  });
});
