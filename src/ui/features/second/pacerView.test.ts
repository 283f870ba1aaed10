import { describe, expect, it } from "vitest";
import { beginRun, COUNT_IN_S, scheduleOf } from "@/core/pace/pacer";
import type { PaceRow } from "@/core/pace/planPace";
import type { PacerRun } from "@/core/pace/twoEndsSchema";
import { dueCalls, faceWords, pacerState, shownOf } from "./pacerView";

const row = (to: string, seconds: number, more: Partial<PaceRow> = {}) => ({ to, seconds, waitS: 0, corner: false, ...more }) as PaceRow;
const schedule = scheduleOf([row("1", 10), row("2", 5, { waitS: 2, corner: true }), row("3", 10)], 2);
const led = beginRun("pacer", 0);
const byHand = (...passedS: number[]): PacerRun => ({ ...beginRun("hand", 0), passedS });

describe("what the hands see", () => {
  it("led by the pacer it follows the clock, with a wait at a corner", () => {
    expect(shownOf(schedule, led, 5)).toMatchObject({ row: 0, number: "1", next: "2", share: 0.5, done: false });
    expect(shownOf(schedule, led, 16)).toMatchObject({ row: 1, waitLeftS: 1 });
    expect(shownOf(schedule, led, 27)).toMatchObject({ done: true, leftS: 0 });
  });

  it("led by hand it follows the presses, however late they are", () => {
    expect(shownOf(schedule, byHand(), 60)).toMatchObject({ row: 0, number: "1", share: 1, done: false });
    // The second number has five seconds, and the corner's wait belongs to the third.
    expect(shownOf(schedule, byHand(20), 22.5)).toMatchObject({ row: 1, number: "2", share: 0.5 });
    expect(shownOf(schedule, byHand(20, 30), 36)).toMatchObject({ row: 2, next: null, share: 0.5 });
    expect(shownOf(schedule, byHand(20, 30, 44), 50).done).toBe(true);
  });
});

it.each([
  [null, -COUNT_IN_S, false, "ready"],
  [led, -1, false, "counting"],
  [led, 3, false, "running"],
  [{ ...led, pausedMs: 9 }, 3, false, "paused"],
  [led, 30, true, "done"],
] as const)("its state, %#", (run, atS, done, state) => {
  expect(pacerState(run, atS, done)).toBe(state);
});

it("the face says what comes: ready, the count, the number, a wait, done", () => {
  const words = (run: PacerRun | null, atS: number) => faceWords(run, atS, shownOf(schedule, run, atS));
  expect(words(null, -COUNT_IN_S)).toEqual({ word: "", big: "ready", next: "then 1" });
  expect(words(led, -2.4)).toEqual({ word: "get ready for", big: "3", next: "then 2" });
  expect(words(led, 5)).toEqual({ word: "to", big: "1", next: "then 2" });
  expect(words(led, 16)).toEqual({ word: "wait at 2", big: "1.0", next: "then 3" });
  expect(words(led, 20)).toEqual({ word: "to", big: "3", next: "the last" });
  expect(words(led, 40)).toEqual({ word: "", big: "done", next: "" });
});

describe("what is called out", () => {
  const all = (byHandToo: boolean, step: number) => {
    const calls = [];
    for (let at = -COUNT_IN_S - 1; at < 30; at += step) calls.push(...dueCalls(schedule, at, at + step, byHandToo));
    return calls;
  };

  it.each([0.016, 0.1, 0.25])("each call once at any frame rate (%f s)", (step) => {
    const sounds = all(false, step).map(({ sound }) => sound);
    expect(sounds.filter((sound) => sound === "count")).toHaveLength(COUNT_IN_S - 1);
    expect(sounds.filter((sound) => sound === "go")).toHaveLength(2);
    expect(sounds.slice(COUNT_IN_S)).toEqual(schedule.calls.map(({ kind }) => kind));
  });

  it("speaks numbers and waits, not parts; a hand that leads hears the count alone", () => {
    expect(all(false, 0.1).flatMap(({ words }) => words ?? [])).toEqual(["1", "2", "wait", "3"]);
    expect(all(true, 0.1).map(({ sound }) => sound)).toEqual(["count", "count", "count", "go"]);
  });

  it("what was due long ago is not called any more: after a reload, or a page that slept", () => {
    expect(dueCalls(schedule, 0, 20, false)).toEqual([]);
    expect(dueCalls(schedule, 0, 10.3, false).map(({ sound }) => sound)).toEqual(["station"]);
  });
});
