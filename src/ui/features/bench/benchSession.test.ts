import { describe, expect, it } from "vitest";
import type { BenchReport } from "@/core/bench/face";
import { LESSONS, type LessonResult } from "@/core/bench/lessons";
import { newDesign } from "@/core/cutters/solve/defaults";
import { type BenchEvent, benchReducer, handOf, newSession, PACE_RANGE, PUSH_RANGE } from "./benchSession";

const bow = newDesign("bow", "Bow");
const sessionOf = (...events: BenchEvent[]) => events.reduce(benchReducer, newSession(bow));
const report = {} as BenchReport;
const result: LessonResult = { score: 80, rows: [], physics: "" };

describe("a session at the bench", () => {
  it("begins at the cutter's own feed, at rest", () => {
    expect(newSession(bow)).toMatchObject({ mode: "pace", paceMmS: bow.job.feed_mm_s, going: false, times: 1, report: null });
    expect(handOf(newSession(bow))).toEqual({ mode: "still" });
  });

  it.each([
    ["pace", { mode: "pace", mPerS: 0.004 }],
    ["push", { mode: "push", newtons: 3 }],
    ["lead", { mode: "still" }],
  ] as const)("by %s the hand follows its slider while it goes", (mode, hand) => {
    const set: BenchEvent[] = [
      { kind: "pace", mmS: 4 },
      { kind: "push", newtons: 3 },
      { kind: "mode", mode },
    ];
    expect(handOf(sessionOf(...set))).toEqual({ mode: "still" });
    expect(handOf(sessionOf(...set, { kind: "going", going: true }))).toEqual(hand);
  });

  it("another way of moving the wire stops it first", () => {
    expect(sessionOf({ kind: "going", going: true }, { kind: "mode", mode: "push" })).toMatchObject({ going: false, mode: "push" });
  });

  it("arrow keys step pace and push inside their ranges, and do nothing to a guided wire", () => {
    const steps = (mode: "pace" | "push", sign: 1 | -1) =>
      sessionOf({ kind: "mode", mode }, ...Array.from({ length: 200 }, (): BenchEvent => ({ kind: "step", sign })));
    expect([steps("pace", 1).paceMmS, steps("pace", -1).paceMmS]).toEqual([PACE_RANGE.max, PACE_RANGE.min]);
    expect([steps("push", 1).pushN, steps("push", -1).pushN]).toEqual([PUSH_RANGE.max, PUSH_RANGE.min]);
    const guided = sessionOf({ kind: "mode", mode: "lead" });
    expect(benchReducer(guided, { kind: "step", sign: 1 })).toBe(guided);
    expect(sessionOf({ kind: "step", sign: 1 }).paceMmS).toBeCloseTo(bow.job.feed_mm_s + PACE_RANGE.step, 9);
  });

  it("a fresh block forgets the cut before it and keeps the hand; a lesson brings its own", () => {
    const cut: BenchEvent[] = [
      { kind: "mode", mode: "push" },
      { kind: "push", newtons: 4 },
      { kind: "times", times: 0 },
      { kind: "finished", report, result },
    ];
    const dense = newDesign("table", "Table");
    expect(sessionOf(...cut)).toMatchObject({ report, result, going: false });
    expect(sessionOf(...cut, { kind: "laid", design: dense })).toMatchObject({ design: dense, mode: "push", pushN: 4, times: 1, report: null, result: null });
    for (const lesson of LESSONS) {
      const begun = sessionOf(...cut, { kind: "laid", design: lesson.design, lesson });
      expect(begun).toMatchObject({ mode: lesson.hand, pushN: lesson.pushN ?? 1, report: null });
      if (lesson.hand === "pace") expect(begun.paceMmS).toBe(lesson.design.job.feed_mm_s);
    }
  });

  it("a turn of the knob changes the cutter and nothing else", () => {
    const turned = newDesign("wand", "Wand");
    expect(sessionOf({ kind: "going", going: true }, { kind: "knob", design: turned })).toEqual({
      ...sessionOf({ kind: "going", going: true }),
      design: turned,
    });
  });
});
