import { describe, expect, it } from "vitest";
import { type Maker, play } from "../../../tests/helpers/benchMaker";
import { LESSONS } from "./lessons";

const SKILLED: Record<string, Maker> = {
  "four-seconds": { paceMmS: 6.35 },
  feel: { creeps: true },
  clock: { paceMmS: 5 },
  amps: { knob: 8.7, warmS: 25 },
  volts: { knob: 9, paceMmS: 5 },
  drop: { creeps: true },
  wider: { paceMmS: 5 },
  dense: { paceMmS: 3 },
  corner: { paceMmS: 4, dwellS: 4 },
  "tired-battery": {
    turns: [
      [6, 0.43],
      [12, 0.5],
      [18, 0.6],
      [24, 0.7],
    ],
  },
  "short-wire": { knob: 700 },
};
/** The usual mistake of each: too fast, full heat, no waiting, the old volts, the old pace, no wait at the corner, no second look. */
const CARELESS: Record<string, Maker> = {
  "four-seconds": { paceMmS: 10 },
  feel: { knob: 1 },
  clock: { paceMmS: 1.5 },
  amps: { knob: 14, warmS: 2 },
  volts: { knob: 6 },
  drop: { knob: 1 },
  wider: {},
  dense: {},
  corner: { paceMmS: 5 },
  "tired-battery": {},
  "short-wire": {},
};

describe("lessons", () => {
  it.each(LESSONS.map((lesson) => [lesson.id, lesson] as const))("%s: skill scores high, the usual mistake low, each with its reason", (id, lesson) => {
    const skilled = play(lesson, SKILLED[id] ?? {});
    const careless = play(lesson, CARELESS[id] ?? {});
    expect(skilled.score).toBeGreaterThanOrEqual(85);
    expect(careless.score).toBeLessThanOrEqual(60);
    for (const { rows, physics, score } of [skilled, careless]) {
      expect(physics.length).toBeGreaterThan(30);
      expect(rows.reduce((sum, row) => sum + row.of, 0)).toBe(100);
      expect(score).toBe(rows.reduce((sum, row) => sum + row.points, 0));
    }
  });

  it("the corner wants the wait: none hooks, an endless one grooves", () => {
    const corner = LESSONS.find((lesson) => lesson.id === "corner");
    if (!corner) throw new Error("no corner lesson");
    const [none, right, endless] = [0, 4, 25].map((dwellS) => play(corner, { paceMmS: 4, dwellS }));
    expect(right?.score).toBeGreaterThan(none?.score ?? 100);
    expect(right?.score).toBeGreaterThan(endless?.score ?? 100);
  });
});
