import { describe, expect, it } from "vitest";
import { distance, type Point } from "../geometry/points";
import { JUDGEMENT } from "../kernel/constants";
import { parseFoamId, resolveFoam } from "../materials/foams";
import { type CutPair, cutAtPower, referenceDragNPerM } from "../physics/cut/cut";
import { resolveWire } from "../physics/heat/wire";
import { type TautWire, wireSurface } from "../physics/string/tautWire";
import { traceError } from "../physics/string/traceError";
import { endPathsOf } from "./endPaths";
import { faceErrors } from "./face";
import { heldAt, paceOf } from "./pace";
import { surfaceMap } from "./planPace";
import { whatIfs } from "./whatIf";

const pair: CutPair = { wire: resolveWire({ alloy: "ss-304", diameter_mm: 0.64 }), foam: resolveFoam(parseFoamId("eps-18") as never), ambientC: 20 };
const POWER = 44;
/** Pulled so hard that it is as straight as a rule between its ends. */
const rule: TautWire = {
  lengthM: 1.3,
  tensionN: 5000,
  foamFromM: 0.1,
  foamToM: 1.1,
  referenceDragNPerM: referenceDragNPerM(pair),
  maxFeedMmS: cutAtPower(pair, 0.005, POWER).maxFeedMPerS * 1000,
};
/** Led along points at one feed, mm/s. */
const guided = (path: Point[], feed: number, tip = path) => {
  const timesS = [0];
  for (let i = 1; i < path.length; i++) timesS.push((timesS.at(-1) as number) + distance(path[i - 1] as Point, path[i] as Point) / feed);
  return { path, tipPath: tip, timesS };
};
/** Two legs with a turn between them, degrees. */
const bent = (first: number, second: number, degrees: number): Point[] => {
  const turn = (degrees * Math.PI) / 180;
  return [
    [0, 0],
    [first, 0],
    [first + second * Math.cos(turn), second * Math.sin(turn)],
  ];
};
const faceOf = (path: Point[], rough = false, skip: [number, number][] = []) => {
  const surface = wireSurface(rule, guided(path, 5), [0]);
  const found = faceErrors(pair, POWER, surface, rough, skip);
  return { ...found, along: found.faces[0]?.alongMm as number[], atS: found.faces[0]?.atS as number[], deeper: found.faces[0]?.deeperMm as number[] };
};

describe("places at which a face is looked at", () => {
  it("stand evenly along the way, a twenty-fifth of it in from either end: forty, or two dozen where it is one trial of many", () => {
    for (const [rough, most] of [
      [false, 40],
      [true, 24],
    ] as const) {
      const { along, atS } = faceOf(
        [
          [0, 0],
          [100, 0],
          [200, 0],
        ],
        rough,
      );
      expect(along.length).toBe(most);
      const step = (200 * 0.92) / (most - 1);
      for (const [k, at] of along.entries()) {
        // The first of the computed times at or after it: within one of their steps.
        expect(at).toBeGreaterThan(8 + k * step - 1e-6);
        expect(at).toBeLessThan(8 + k * step + 0.7);
        expect(atS[k]).toBeCloseTo(at / 5, 1);
      }
    }
  });

  it.each([
    [20, false],
    [29, false],
    [31, true],
    [90, true],
    [-45, true],
  ])("a turn of %d degrees: a corner represents what is within six millimetres of it (%s)", (degrees, corner) => {
    const { along } = faceOf(bent(100, 100, degrees));
    const near = along.filter((at) => Math.abs(at - 100) < 5.9);
    const beyond = along.filter((at) => Math.abs(at - 100) > 5.9);
    expect(beyond.length).toBeGreaterThan(30);
    if (corner) {
      // Both of the computed times that lie on it may count.
      expect(near.length).toBeGreaterThan(0);
      for (const at of near) expect(at).toBeCloseTo(100, 6);
    } else expect(near.filter((at) => Math.abs(at - 100) > 0.5).length).toBeGreaterThan(0);
    for (let k = 1; k < along.length; k++) expect(along[k]).toBeGreaterThanOrEqual(along[k - 1] as number);
  });

  it("none is looked at while the wire runs through the waste", () => {
    const path = bent(100, 100, 0);
    const { atS } = faceOf(path, false, [[10, 20]]);
    expect(atS.some((at) => at > 10 && at < 20)).toBe(false);
    expect(atS.filter((at) => at <= 10).length + atS.filter((at) => at >= 20).length).toBe(atS.length);
    expect(atS.length).toBeGreaterThan(25);
    expect(faceOf(path).atS.length).toBe(40);
  });

  it("a straight cut at one feed leaves a face as deep all along, whichever way it is led", () => {
    for (const turn of [0, 90, 200]) {
      const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
      const { deeper, errorMm, worst } = faceOf([
        [0, 0],
        [50 * cos, 50 * sin],
        [100 * cos, 100 * sin],
      ]);
      for (const each of deeper) expect(Math.abs(each)).toBeLessThan(0.02);
      expect(errorMm).toBe(Math.max(...deeper.map(Math.abs)));
      if (errorMm > 0) expect(worst?.share).toBe(0);
    }
  });
});

describe("what two hands' slips cost", () => {
  /** Of a wire like a rule, led by both ends round one corner at 5 mm/s. */
  const corner = (first: number, second: number) => whatIfs({ wire: rule, powerWPerM: POWER }, pair, guided(bent(first, second, 90), 5));
  const costOf = (all: { code: string; errorMm: number }[], code: string) => all.find((each) => each.code === code)?.errorMm as number;

  it("the tip a second ahead rounds the corner five millimetres early: the middle runs straight from one edge to the other, and the corner is missed by what is left of it", () => {
    // From half of that before the corner to half of that past it: the corner lies off this line by its half over the root of two.
    expect(costOf(corner(60, 60).mishaps, "ahead")).toBeCloseTo(5 / 2 / Math.SQRT2, 1);
    expect(costOf(corner(60, 60).cures, "tighter")).toBeLessThan(0.1);
    // Along one straight line it is nowhere but on it, from its very beginning to its end.
    const straight = whatIfs({ wire: rule, powerWPerM: POWER }, pair, guided(bent(60, 60, 0), 5));
    for (const code of ["ahead", "slip"]) expect(costOf(straight.mishaps, code)).toBeLessThan(0.05);
  });

  it("the tip that slips three millimetres at half way and waits: half of what it is past the corner, and no more than a corner cut straight", () => {
    // Half way is at 60 mm, the corner at 62: the tip withstands 1 mm past it while the root comes up. Slipping, it is faster than the wire clears.
    const slip = costOf(corner(62, 58).mishaps, "slip");
    expect(slip).toBeGreaterThan(0.45);
    expect(slip).toBeLessThan(1.5 / Math.SQRT2);
    // On one edge still, or already on the other: nothing is lost but what the corner costs anyway.
    for (const first of [66, 56]) expect(costOf(corner(first, 120 - first).mishaps, "slip")).toBeLessThan(0.15);
  });

  it("two panels half as wide: a wire half as long between the root's way and the middle of both", () => {
    const wire = { ...rule, tensionN: 40 };
    const [root, tip] = [bent(60, 60, 90), bent(40, 36, 90)];
    const ways = guided(root, 5, tip);
    const middle = root.map(([x, y], i): Point => [(x + (tip[i] as Point)[0]) / 2, (y + (tip[i] as Point)[1]) / 2]);
    const half = { ...wire, lengthM: 0.65, foamFromM: 0.05, foamToM: 0.55 };
    const traces = wireSurface(half, { ...ways, tipPath: middle }, heldAt(half)).traces;
    const { cures } = whatIfs({ wire, powerWPerM: POWER }, pair, ways);
    // The farthest that the wire's own way is offset from the line drawn for it: no computation of misses, a distance by hand.
    const off = Math.max(
      ...traces.map((trace) =>
        Math.max(
          ...Array.from(trace.x, (x, i) =>
            Math.min(...Array.from(trace.drawnX, (dx, k) => Math.hypot(dx - x, (trace.drawnY[k] as number) - (trace.y[i] as number)))),
          ),
        ),
      ),
    );
    expect(costOf(cures, "narrower")).toBeGreaterThanOrEqual(off - 0.05);
    expect(costOf(cures, "narrower")).toBeLessThan(costOf(cures, "slower"));
    expect(off).toBeGreaterThan(0.05);
    // Twice as fast a machine, or half the tension, is no cure.
    const looser = whatIfs({ wire: { ...wire, tensionN: 20 }, powerWPerM: POWER }, pair, ways);
    expect(costOf(looser.cures, "tighter")).toBeGreaterThan(costOf(cures, "tighter"));
  });
});

describe("the search for a pace", () => {
  const slack: TautWire = { ...rule, tensionN: 65 };
  const requested = (root: Point[], more: object = {}) => ({ wire: slack, pair, powerWPerM: POWER, root, tip: root, toleranceMm: 0.4, ...more });
  const result = (input: Parameters<typeof paceOf>[0]) => {
    const shares: number[] = [];
    const words = new Set<string>();
    const evaluation = paceOf(input, (share, doing) => {
      shares.push(share);
      words.add(doing);
    });
    return { evaluation, shares, words };
  };
  const straight: Point[] = [
    [0, 0],
    [40, 0],
    [80, 0],
  ];

  it("ends at once where nothing is to be gained: as fast as anything may be led, without a wait", () => {
    const { evaluation, shares } = result(requested(straight));
    expect(shares).toHaveLength(1);
    expect(evaluation.totalS).toBeCloseTo(80 / (JUDGEMENT.dragsAboveFeedRatio * slack.maxFeedMmS), 6);
    // With a tip that goes another way the longer end is what counts.
    const wide = straight.map(([x, y]): Point => [1.5 * x, y]);
    const taper = result({ ...requested(straight), tip: wide });
    expect(taper.shares).toHaveLength(1);
    expect(taper.evaluation.totalS).toBeCloseTo(120 / (JUDGEMENT.dragsAboveFeedRatio * slack.maxFeedMmS), 6);
  });

  it("reports progress as it goes on, never backwards, by how corners are taken", () => {
    const { shares, words } = result(requested(bent(30, 30, 90), { corner: "wait" }));
    expect(shares.length).toBeGreaterThan(3);
    for (let i = 1; i < shares.length; i++) expect(shares[i]).toBeGreaterThanOrEqual(shares[i - 1] as number);
    expect(shares.at(-1)).toBe(0.96);
    expect([...words]).toEqual(["with waits", "the face it leaves"]);
  });

  it("past a corner the ends run a third farther than the middle trails; four millimetres where it hardly does", () => {
    const farthest = (wire: TautWire) =>
      Math.max(...paceOf({ ...requested(bent(30, 30, 90), { corner: "past", toleranceMm: 0.6 }), wire }).path.map(([x]) => x)) - 30;
    // How far the middle trails at the most feed, from the computed wire on a long straight.
    const feed = JUDGEMENT.dragsAboveFeedRatio * slack.maxFeedMmS;
    const trace = wireSurface(slack, guided(bent(300, 300, 0), feed), [0.5]).traces[0];
    const n = (trace?.x.length ?? 0) >> 1;
    const lag = (trace?.drawnX[n] as number) - (trace?.x[n] as number);
    expect(farthest(slack) / (1.3 * lag)).toBeGreaterThan(0.8);
    expect(farthest(slack) / (1.3 * lag)).toBeLessThan(1.25);
    expect(farthest({ ...slack, tensionN: 20_000 })).toBeCloseTo(4, 6);
  });

  it("one feed between two stations, and stations stay where they were though the way runs past a corner", () => {
    const root: Point[] = [
      [0, 0],
      [10, 0],
      [20, 0],
      [30, 0],
      [30, 10],
      [30, 20],
    ];
    for (const corner of ["wait", "past"] as const) {
      const { paths, feeds } = paceOf(requested(root, { corner, toleranceMm: 0.6, stations: [2, 4], pieceMm: 5 }));
      const ends = paths.pieces.filter(({ station }) => station).map(({ to }) => paths.root[to]);
      expect(ends).toContainEqual([20, 0]);
      expect(ends).toContainEqual([30, 10]);
      expect(feeds).toHaveLength(paths.pieces.length);
    }
  });

  it("slows where the way bends and nowhere else: quicker than any one feed that keeps the tolerance", () => {
    // A straight, a bend of a quarter turn, a straight.
    const paths: Point[] = [[0, 0]];
    for (let k = 1; k <= 10; k++) paths.push([8 * k, 0]);
    for (let k = 1; k <= 12; k++) paths.push([80 + 14 * Math.sin((k * Math.PI) / 24), 14 - 14 * Math.cos((k * Math.PI) / 24)]);
    for (let k = 1; k <= 10; k++) paths.push([94, 14 + 8 * k]);
    const evaluation = paceOf(requested(paths, { toleranceMm: 0.3, pieceMm: 8 }));
    const errorOf = (feed: number) => Math.max(...wireSurface(slack, guided(paths, feed), heldAt(slack)).traces.map((trace) => traceError(trace).errorMm));
    // The quickest one feed, looked for by halving: the error grows with it.
    let [low, high] = [0.2, JUDGEMENT.dragsAboveFeedRatio * slack.maxFeedMmS];
    expect(errorOf(high)).toBeGreaterThan(0.3);
    for (let i = 0; i < 12; i++) {
      const middle = (low + high) / 2;
      if (errorOf(middle) <= 0.3) low = middle;
      else high = middle;
    }
    const long = guided(paths, 1).timesS.at(-1) as number;
    expect(evaluation.totalS).toBeLessThan(0.93 * (long / low));
    const inBend = evaluation.limits.filter(({ fromMm, toMm }) => fromMm < 95 && toMm > 85).map(({ feedMmS }) => feedMmS);
    const early = evaluation.limits.filter(({ toMm }) => toMm <= 50).map(({ feedMmS }) => feedMmS);
    expect(Math.min(...inBend)).toBeLessThan(0.8 * Math.max(...evaluation.feeds));
    for (const feed of early) expect(feed).toBeGreaterThan(1.2 * Math.min(...evaluation.feeds));
    expect(evaluation.errorMm).toBeLessThanOrEqual(0.3);
  });
});

describe("a way in pieces, by hand", () => {
  /** Two corners: right angles at 30 and 50 mm; twenty points and more on the way, so that numbers of one and of two figures are among its indexes. */
  const stair: Point[] = [
    ...Array.from({ length: 7 }, (_, i): Point => [5 * i, 0]),
    ...Array.from({ length: 4 }, (_, i): Point => [30, 5 * (i + 1)]),
    ...Array.from({ length: 8 }, (_, i): Point => [30 + 5 * (i + 1), 20]),
  ];
  /** The same with the tip going straight on, half as far. */
  const plain = stair.map((_, i): Point => [2.5 * i, 0]);

  it("corners are numbered along the way, and the pieces beside one are its own and as short as asked", () => {
    const { root, corners, pieces } = endPathsOf(stair, stair, 10, 4);
    expect(corners.map(({ index, turnDeg }) => [root[index], Math.round(turnDeg)])).toEqual([
      [[30, 0], 90],
      [[30, 20], -90],
    ]);
    expect(pieces.map(({ rootMm, corner }) => [Number(rootMm.toFixed(6)), corner])).toEqual([
      // 26 mm in three pieces of about ten, then what is near the first corner.
      ...[8.666667, 8.666667, 8.666667].map((mm) => [mm, null]),
      [4, 0],
      [4, 0],
      [12, null],
      [4, 1],
      [4, 1],
      ...[9, 9, 9, 9].map((mm) => [mm, null]),
    ]);
    expect(pieces.every(({ station, ear }) => station && !ear)).toBe(true);
    expect(pieces[0]?.from).toBe(0);
  });

  it("either end's turn makes a corner, and the greater of the two counts", () => {
    const turns = (root: Point[], tip: Point[]) => endPathsOf(root, tip, 1000, 1).corners.map(({ turnDeg }) => Math.round(turnDeg));
    expect(turns(stair, plain)).toEqual([90, -90]);
    expect(turns(plain, stair)).toEqual([90, -90]);
    const sharp = bent(30, 30, 100);
    const blunt = bent(30, 30, 40);
    expect(turns(sharp, blunt)).toEqual([100]);
    expect(turns(blunt, sharp)).toEqual([100]);
    expect(turns(bent(30, 30, -100), blunt)).toEqual([-100]);
    expect(turns(bent(30, 30, 20), bent(30, 30, 25))).toEqual([]);
  });

  it("pieces are as long as asked along the longer end, whichever that is", () => {
    for (const [root, tip] of [
      [bent(60, 60, 0), bent(30, 30, 0)],
      [bent(30, 30, 0), bent(60, 60, 0)],
    ] as const) {
      const { pieces } = endPathsOf(root, tip, 20, 4);
      expect(pieces).toHaveLength(6);
      for (const { rootMm, tipMm } of pieces) expect([Math.max(rootMm, tipMm), Math.min(rootMm, tipMm)].map((mm) => Number(mm.toFixed(6)))).toEqual([20, 10]);
    }
  });

  it("where there are stations pieces end at them and at corners alone; one at the very beginning ends none", () => {
    const { root, pieces } = endPathsOf(stair, stair, 5, 2, [], [0, 2, 8, 18]);
    expect(pieces.map(({ to, station, corner }) => [root[to], station, corner])).toEqual([
      [[10, 0], true, null],
      [[30, 0], false, 0],
      [[30, 10], true, 0],
      [[30, 20], false, 1],
      [[70, 20], true, 1],
    ]);
  });

  it("a run past a corner is one piece, and its own turns are no corners; points where both are still are left out", () => {
    const past: Point[] = [
      [0, 0],
      [15, 0],
      [15, 0],
      [30, 0],
      [34, 0],
      [30, -4],
      [30, 0],
      [30, 30],
    ];
    const { root, pieces, corners } = endPathsOf(past, past, 1000, 3, [{ from: 3, to: 6 }]);
    expect(corners).toEqual([]);
    expect(pieces.map(({ ear, rootMm }) => [ear, Number(rootMm.toFixed(6))])).toEqual([
      [false, 30],
      [true, Number((4 + Math.hypot(4, 4) + 4).toFixed(6))],
      [false, 30],
    ]);
    expect(root.filter(([x, y]) => x === 15 && y === 0)).toHaveLength(1);
  });
});

describe("what the wire misses of a face, as a map", () => {
  it("has the worst where the corner is, in the middle of the foam, and no column is empty between two that miss", () => {
    const wire = { ...rule, tensionN: 65 };
    // The corner is at two fifths of the way.
    const { shares, along, deviationMm, worst } = surfaceMap(wire, guided(bent(40, 60, 90), 5));
    const columns = along.length;
    const at = (row: number, column: number) => deviationMm[row * columns + column] as number;
    expect(deviationMm).toHaveLength(shares.length * columns);
    expect([along[0], along.at(-1)]).toEqual([0, 1]);
    expect(worst.along).toBeCloseTo(0.4, 1);
    expect(worst.share).toBeGreaterThan(0.3);
    expect(worst.share).toBeLessThan(0.7);
    expect(Math.max(...deviationMm)).toBeCloseTo(worst.deviationMm, 5);
    const middle = shares.indexOf(worst.share);
    const row = Array.from({ length: columns }, (_, c) => at(middle, c));
    expect(row.indexOf(Math.max(...row)) / (columns - 1)).toBeCloseTo(0.4, 1);
    // The faces of the foam are nearer to the ends that are led: less is missed there, all along.
    expect(at(0, Math.round(0.4 * (columns - 1)))).toBeLessThan(worst.deviationMm);
    // From where something is missed to where the wire has come back to its line there is no gap.
    const deviated = row.map((deviation) => deviation > 1e-3);
    const [first, last] = [deviated.indexOf(true), deviated.lastIndexOf(true)];
    expect(deviated.slice(first, last + 1).every(Boolean)).toBe(true);
    expect(first / columns).toBeGreaterThan(0.15);
  });
});
