import { describe, expect, it } from "vitest";
import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import type { Design } from "../cutters/design/schema";
import { distance, lerp, type Point } from "../geometry/points";
import { evaluatePlan } from "../plans/evaluate";
import { paceJob, planPace } from "./planPace";
import { type HandsAt, PRACTICE_LESSONS, perfectHands, placeAt, scoreOf } from "./practice";

const bow = DEMO_CUTTERS[0] as Design;
const opened = (id: string) => {
  const lesson = PRACTICE_LESSONS.find((each) => each.id === id) as (typeof PRACTICE_LESSONS)[number];
  const plan = lesson.plan(null);
  const evaluation = evaluatePlan(plan, bow);
  const job = paceJob(plan, evaluation, lesson.face) as NonNullable<ReturnType<typeof paceJob>>;
  const pair = evaluation.cutter?.pair as NonNullable<typeof evaluation.cutter>["pair"];
  return { job, pair, rows: planPace(job, pair, undefined, false).rows };
};
const { job, pair, rows } = opened("taper");
const good = perfectHands(rows);

describe("two hands", () => {
  it("are at the points of the line where their numbers stand, and evenly between", () => {
    for (const [k, i] of job.at.entries()) expect(distance(placeAt(job.root, job.at, k), job.root[i] as Point)).toBeLessThan(1e-9);
    expect(placeAt(job.root, job.at, 99)).toEqual(job.root[job.at.at(-1) as number]);
    const straight: Point[] = [
      [0, 0],
      [10, 0],
      [40, 0],
    ];
    expect(placeAt(straight, [0, 2], 0.5)).toEqual(lerp([0, 0], [40, 0], 0.5));
  });
  it("that keep the pace hold the face", () => {
    const score = scoreOf(job, pair, good);
    expect(score.held).toBe(true);
    expect(score.aheadNumbers).toBeLessThan(1e-9);
    expect(score.stopS).toBe(0);
    expect(score.seconds).toBeCloseTo(
      rows.reduce((sum, row) => sum + row.seconds + row.waitS, 0),
      6,
    );
  });
  it("one that runs ahead is named, and the middle is off", () => {
    const ran = good.map((at, i): HandsAt => ({ ...at, tip: i === good.length - 1 ? at.tip : Math.min(rows.length, at.tip + (i === 0 ? 0 : 0.9)) }));
    const score = scoreOf(job, pair, ran);
    expect(score.ahead).toBe("tip");
    expect(score.aheadNumbers).toBeCloseTo(0.9, 1);
    expect(score.middleMm).toBeGreaterThan(2 * scoreOf(job, pair, good).middleMm);
    expect(score.words).toMatch(/tip ran 0\.9 numbers ahead/);
  });
  it("a stop in mid face is a groove; half the pace is a thinner part, twice a thicker one", () => {
    const half = rows.length / 2;
    const stopped = good.flatMap((at): HandsAt[] =>
      at.root < half ? [at] : at.root === half ? [at, { ...at, atS: at.atS + 4 }] : [{ ...at, atS: at.atS + 4 }],
    );
    const stop = scoreOf(job, pair, stopped);
    expect(stop.stopS).toBeCloseTo(4, 0);
    expect(stop.stopMm).toBeGreaterThan(1.5);
    expect(stop.words).toMatch(/groove/);
    const slow = scoreOf(
      job,
      pair,
      good.map((at) => ({ ...at, atS: at.atS * 3 })),
    );
    expect(slow.thinnerMm).toBeGreaterThan(0.3);
    expect(slow.words).toMatch(/too thin/);
    expect(
      scoreOf(
        job,
        pair,
        good.map((at) => ({ ...at, atS: at.atS * 0.5 })),
      ).thinnerMm,
    ).toBeLessThan(0);
  });
  it("every lesson opens on the demo's cutter, and its own pace passes it", () => {
    for (const { id } of PRACTICE_LESSONS) {
      const own = opened(id);
      expect(own.rows.length, id).toBeGreaterThanOrEqual(3);
      if (id !== "ear") expect(scoreOf(own.job, own.pair, perfectHands(own.rows)).middleMm, id).toBeLessThanOrEqual(own.job.toleranceMm * 1.1);
    }
  });
});
