import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { COUNT_IN_S, elapsedS, scheduleOf } from "./pacer";
import type { PaceRow } from "./planPace";
import { AT_REST, clockHeld, clockOffset, endTimes, isDone, type PacerAction, rowAt, twoEndsAfter } from "./twoEnds";
import type { TwoEnds } from "./twoEndsSchema";

const row = (from: string, to: string, seconds: number, waitS = 0): PaceRow => ({
  from,
  to,
  seconds,
  waitS,
  rootFeedMmS: 6,
  tipFeedMmS: 3,
  limit: "drag",
  corner: false,
});
const schedule = scheduleOf([row("0", "1", 4), row("1", "2", 3, 2), row("2", "3", 4)], 4);
const T0 = 1_700_000_000_000;
const at = (s: number) => T0 + (COUNT_IN_S + s) * 1000;
const guided = (actions: readonly [number, PacerAction][]): TwoEnds =>
  actions.reduce((now, [s, action]) => twoEndsAfter(now, action, schedule, at(s)), AT_REST);
const begin = (by: "pacer" | "hand") => [-COUNT_IN_S, { do: "begin", by }] as [number, PacerAction];

describe("two ends", () => {
  it("a stop from either end stops both, once, and going on leaves the stop out of the count", () => {
    const state = guided([begin("pacer"), [3, { do: "pause" }], [3.2, { do: "pause" }], [10, { do: "resume" }], [10.1, { do: "resume" }]]);
    expect(state.run?.pauses).toEqual([{ atS: 3, longS: 7 }]);
    expect(elapsedS(state.run as never, at(12))).toBeCloseTo(5, 9);
    // Two that press to begin begin once, and what is done is not paused.
    expect(guided([begin("pacer"), [-2, { do: "begin", by: "hand" }]]).run).toMatchObject({ by: "pacer", startedMs: at(0) });
    expect(guided([begin("pacer"), [14, { do: "pause" }]]).run?.pausedMs).toBeNull();
  });

  it("each end's own word of each number is kept: led by the pacer the nearest in time is meant", () => {
    const state = guided([
      begin("pacer"),
      [-1, { do: "mark", end: "tip", leads: false }],
      [4.4, { do: "mark", end: "root", leads: true }],
      [3.8, { do: "mark", end: "tip", leads: false }],
      [12.9, { do: "mark", end: "tip", leads: false }],
    ]);
    expect(state.marks.root).toEqual([4.4]);
    expect(state.marks.tip[0]).toBeCloseTo(3.8, 9);
    // 12.9 lies nearer to the third number (13) than to the second (7): the second was not said.
    expect(state.marks.tip[1]).toBeNull();
    expect(state.marks.tip[2]).toBeCloseTo(12.9, 9);
    expect(endTimes(state.marks.tip)).toEqual([expect.closeTo(3.8, 9), null, null]);
    expect(endTimes([4, 7.5, 12])).toEqual([4, 3.5, 4.5]);
  });

  it("led by hand the leading end's presses are what both go by, the other's are kept beside", () => {
    const state = guided([
      begin("hand"),
      [5, { do: "mark", end: "root", leads: true }],
      [5.5, { do: "mark", end: "tip", leads: false }],
      [9, { do: "mark", end: "root", leads: true }],
    ]);
    expect(state.run?.passedS).toEqual([5, 9]);
    expect(state.marks).toEqual({ root: [5, 9], tip: [5.5] });
    expect(rowAt(schedule, state.run as never, 9)).toBe(2);
    expect(isDone(schedule, state.run as never, 9)).toBe(false);
    const done = twoEndsAfter(state, { do: "mark", end: "root", leads: true }, schedule, at(13));
    expect(isDone(schedule, done.run as never, 13)).toBe(true);
    expect(twoEndsAfter(done, { do: "mark", end: "root", leads: true }, schedule, at(14))).toBe(done);
  });

  it("any keys at either end, in any order: never more passed than there are numbers, no mark before the start, time never runs back", () => {
    const action = fc.oneof(
      fc.constantFrom<PacerAction>({ do: "pause" }, { do: "resume" }, { do: "again" }, { do: "begin", by: "pacer" }, { do: "begin", by: "hand" }),
      fc.record({ do: fc.constant("mark" as const), end: fc.constantFrom("root" as const, "tip" as const), leads: fc.boolean() }),
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 3000 }), action), { maxLength: 60 }), (steps) => {
        let [now, state] = [T0, AT_REST];
        for (const [ms, each] of steps) {
          const before = state.run && elapsedS(state.run, now);
          now += ms;
          state = twoEndsAfter(state, each, schedule, now);
          const run = state.run;
          if (!run) continue;
          expect(run.passedS.length).toBeLessThanOrEqual(3);
          for (const end of ["root", "tip"] as const) {
            expect(state.marks[end].length).toBeLessThanOrEqual(3);
            for (const mark of state.marks[end]) if (mark !== null) expect(mark).toBeGreaterThanOrEqual(0);
          }
          // It may count in again where it was paused before its start.
          if (before !== null && before >= 0) expect(elapsedS(run, now)).toBeGreaterThanOrEqual(before - 1e-9);
        }
      }),
    );
  });
});

describe("another's clock", () => {
  it("is found to half of the quickest question's time, however lopsided the way is and however slow the others are", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e7, max: 1e7, noNaN: true }),
        fc.array(fc.tuple(fc.double({ min: 0.2, max: 400, noNaN: true }), fc.double({ min: 0.2, max: 400, noNaN: true })), { minLength: 1, maxLength: 12 }),
        (offset, ways) => {
          let now = 1000;
          const samples = ways.map(([there, back]) => {
            const sentMs = now;
            const saidMs = sentMs + there + offset;
            now = sentMs + there + back;
            return { sentMs, saidMs, lastReportMs: now };
          });
          const found = clockOffset(samples);
          const quickest = Math.min(...ways.map(([there, back]) => there + back)) / 2;
          expect(found?.withinMs).toBeCloseTo(quickest, 5);
          expect(Math.abs((found?.offsetMs ?? Number.NaN) - offset)).toBeLessThanOrEqual(quickest + 1e-5);
        },
      ),
    );
    expect(clockOffset([])).toBeNull();
  });
  it("of two findings the surer is held, an older one as much less sure as clocks drift, and the newer where a clock was set", () => {
    const held = { offsetMs: 3200, withinMs: 4, atMs: T0 };
    expect(clockHeld(null, held)).toBe(held);
    const found = (offsetMs: number, withinMs: number, laterS: number) => ({ offsetMs, withinMs, atMs: T0 + laterS * 1000 });
    const saved = (next: ReturnType<typeof found>) => clockHeld(held, next) === held;
    expect(saved(found(3210, 30, 60))).toBe(true);
    expect(saved(found(3202, 3, 60))).toBe(false);
    expect(saved(found(3202, 4, 0))).toBe(false);
    // Ten milliseconds are what two clocks may drift in a hundred seconds.
    expect(saved(found(3212, 15, 60))).toBe(true);
    expect(saved(found(3212, 15, 120))).toBe(false);
    // Set by a minute, or set back, which makes the older one look as if it were yet to come.
    expect(saved(found(63_200, 30, 60))).toBe(false);
    expect(saved(found(3200 - 60_000, 30, -60))).toBe(false);
    expect(saved(found(3170, 30, -1))).toBe(true);
  });
});
