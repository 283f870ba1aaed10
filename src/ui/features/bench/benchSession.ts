import type { BenchReport } from "@/core/bench/face";
import type { Lesson, LessonResult } from "@/core/bench/lessons";
import type { Hand } from "@/core/bench/setup";
import type { Design } from "@/core/cutters/design/schema";

/** How the wire is moved: guided by the pointer, at a set pace, or by a set push. */
export type HandMode = "lead" | "pace" | "push";

/** Ends of the two sliders, and what one press of an arrow key adds: pace in mm/s, push in N. */
export const PACE_RANGE = { min: 0.5, max: 25, step: 0.5 } as const;
export const PUSH_RANGE = { min: 0.25, max: 15, step: 0.25 } as const;

/** What the bench's page holds of one cut. */
export interface BenchSession {
  /** the cutter on the bench with its knob as it is here */
  design: Design;
  mode: HandMode;
  paceMmS: number;
  pushN: number;
  going: boolean;
  /** how many times real time the bench runs; 0 while it is paused */
  times: number;
  report: BenchReport | null;
  result: LessonResult | null;
}

export type BenchEvent =
  /** a fresh block for this cutter, with the hand a lesson asks for */
  | { kind: "laid"; design: Design; lesson?: Lesson }
  | { kind: "mode"; mode: HandMode }
  | { kind: "pace"; mmS: number }
  | { kind: "push"; newtons: number }
  /** an arrow key: one step more or less of what the hand is set by */
  | { kind: "step"; sign: 1 | -1 }
  | { kind: "going"; going: boolean }
  | { kind: "times"; times: number }
  | { kind: "knob"; design: Design }
  | { kind: "finished"; report: BenchReport; result: LessonResult | null };

/** A session before anything is cut. */
export const newSession = (design: Design): BenchSession => ({
  design,
  mode: "pace",
  paceMmS: design.job.feed_mm_s,
  pushN: 1,
  going: false,
  times: 1,
  report: null,
  result: null,
});

const within = (value: number, { min, max }: { min: number; max: number }) => Math.max(min, Math.min(max, value));

/** The session after an event. */
export function benchReducer(session: BenchSession, event: BenchEvent): BenchSession {
  switch (event.kind) {
    case "laid": {
      const { lesson } = event;
      const hand = lesson
        ? { mode: lesson.hand, pushN: lesson.pushN ?? 1, paceMmS: lesson.hand === "pace" ? event.design.job.feed_mm_s : session.paceMmS }
        : {};
      return { ...session, ...hand, design: event.design, going: false, times: 1, report: null, result: null };
    }
    case "mode":
      return { ...session, mode: event.mode, going: false };
    case "pace":
      return { ...session, paceMmS: event.mmS };
    case "push":
      return { ...session, pushN: event.newtons };
    case "step":
      if (session.mode === "pace") return { ...session, paceMmS: within(session.paceMmS + event.sign * PACE_RANGE.step, PACE_RANGE) };
      if (session.mode === "push") return { ...session, pushN: within(session.pushN + event.sign * PUSH_RANGE.step, PUSH_RANGE) };
      return session;
    case "going":
      return { ...session, going: event.going };
    case "times":
      return { ...session, times: event.times };
    case "knob":
      return { ...session, design: event.design };
    case "finished":
      return { ...session, going: false, report: event.report, result: event.result };
  }
}

/** What the hand does now. A guided wire is moved by the pointer, so there it rests. */
export function handOf({ going, mode, paceMmS, pushN }: BenchSession): Hand {
  if (!going || mode === "lead") return { mode: "still" };
  return mode === "push" ? { mode: "push", newtons: pushN } : { mode: "pace", mPerS: paceMmS / 1000 };
}
