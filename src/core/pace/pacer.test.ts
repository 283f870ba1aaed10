import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { beginRun, COUNT_IN_S, elapsedS, pass, pause, realTimes, resume, revived, scheduleOf, shownAt } from "./pacer";
import type { PaceRow } from "./planPace";

const row = (from: string, to: string, seconds: number, waitS = 0): PaceRow => ({
  from,
  to,
  seconds,
  waitS,
  rootFeedMmS: 6,
  tipFeedMmS: 3,
  limit: "drag",
  corner: to === "2",
});
const rows = [row("0", "1", 4), row("1", "2", 3.5, 2), row("2", "3", 4)];
const schedule = scheduleOf(rows, 4);

describe("the pacer's schedule", () => {
  it("calls every number, every quarter, waits and what follows them, in order of time", () => {
    expect(schedule.totalS).toBe(13.5);
    expect(schedule.calls.filter(({ kind }) => kind !== "part").map(({ atS, kind, label }) => `${atS} ${kind} ${label}`)).toEqual([
      "4 station 1",
      "7.5 corner 2",
      "7.5 wait 2.0",
      "9.5 go 2",
      "13.5 end 3",
    ]);
    expect(schedule.calls.filter(({ kind }) => kind === "part").length).toBe(9);
    for (let i = 1; i < schedule.calls.length; i++) expect(schedule.calls[i]?.atS as number).toBeGreaterThanOrEqual(schedule.calls[i - 1]?.atS as number);
  });
  it("shows the number to reach, the one after it, and how long a wait still is", () => {
    expect(shownAt(schedule, 1)).toMatchObject({ number: "1", next: "2", share: 0.25, waitLeftS: null, done: false });
    expect(shownAt(schedule, 8.5)).toMatchObject({ number: "2", share: 1, waitLeftS: 1 });
    expect(shownAt(schedule, 9.5)).toMatchObject({ number: "3", next: null, share: 0, waitLeftS: null });
    expect(shownAt(schedule, 99)).toMatchObject({ done: true, leftS: 0 });
  });
});

describe("a run", () => {
  it("does not drift: ten minutes of uneven looks at the clock, with pauses, end where the clock says", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 400 }), fc.boolean()), { minLength: 1500, maxLength: 3000 }), (looks) => {
        let now = 1_700_000_000_000;
        let run = beginRun("pacer", now);
        const started = now + COUNT_IN_S * 1000;
        let pausedForMs = 0;
        for (const [ms, toggles] of looks) {
          now += ms;
          if (run.pausedMs !== null) {
            pausedForMs += ms;
            run = resume(run, now);
            if (elapsedS(run, now) < 0) return;
          } else if (toggles && elapsedS(run, now) >= 0) run = pause(run, now);
        }
        // Under 20 ms are asked for; the sum of pauses in seconds costs nothing but the last digit.
        expect(Math.abs(elapsedS(run, now) * 1000 - (now - started - pausedForMs))).toBeLessThan(0.1);
      }),
      { numRuns: 20 },
    );
  });
  it("pauses while it counts in count in again; a second pause or resume changes nothing", () => {
    const run = pause(beginRun("pacer", 0), 1000);
    expect(pause(run, 2000)).toBe(run);
    const again = resume(run, 10_000);
    expect(elapsedS(again, 10_000)).toBe(-COUNT_IN_S);
    expect(resume(again, 11_000)).toBe(again);
  });
  it("found after a reload it has been paused since it was last seen, and the pause is on record", () => {
    const seen = { ...beginRun("pacer", 0), seenMs: 9000 };
    const found = revived(seen);
    expect(elapsedS(found, 60_000)).toBe(5);
    const on = resume(found, 60_000);
    expect(on.pauses).toEqual([{ atS: 5, longS: 51 }]);
    expect(elapsedS(on, 61_000)).toBe(6);
  });
  it("led by hand, each press is a number passed, and none counts before the start or in a pause", () => {
    let run = beginRun("hand", 0);
    run = pass(run, 1000);
    for (const s of [4.4, 8.1, 14]) run = pass(run, (COUNT_IN_S + s) * 1000);
    run = pass(pause(run, 20_000), 21_000);
    const { labels, plannedS, realS } = realTimes(schedule, run);
    expect(labels).toEqual(["1", "2", "3"]);
    expect(plannedS).toEqual([4, 5.5, 4]);
    expect(realS.map((s) => s.toFixed(1))).toEqual(["4.4", "3.7", "5.9"]);
  });
  it("led by the pacer, a pause is part of the number it fell in", () => {
    let run = beginRun("pacer", 0);
    run = resume(pause(run, (COUNT_IN_S + 5) * 1000), (COUNT_IN_S + 8) * 1000);
    expect(realTimes(schedule, run).realS).toEqual([4, 8.5, 4]);
  });
});
