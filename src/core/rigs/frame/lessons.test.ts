import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isInside } from "../../geometry/points";
import { readProgram } from "../../motion/program/reader";
import { FRAME_START } from "./fields";
import { CORNER_TOLERANCE_MM, cornerTried, crookedFrame, ISLAND_SCENE, islandTried, rightSteps, ruled, stepsTried } from "./lessons";
import { machineTimesS, passedAt, retractProgram, secondsLeft } from "./out";
import { machineOf } from "./path";

describe("lessons on a frame", () => {
  it("a crooked frame is put right from a long move away from home, and not from a short one, nor by coming back", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5000 }), (seed) => {
        const frame = crookedFrame(seed);
        expect(crookedFrame(seed)).toEqual(frame);
        const from = (requested: number, back: boolean) => (frame.setPerMm * requested) / ruled(frame, requested, back);
        expect(stepsTried(frame, from(500, false)).good).toBe(true);
        expect(stepsTried(frame, rightSteps(frame)).offMm).toBeCloseTo(0, 9);
        // 0.1 mm of the rule and up to 0.4 of play in 20 mm.
        expect(stepsTried(frame, from(20, true)).good).toBe(false);
      }),
    );
    expect(stepsTried(crookedFrame(3), 80)).toMatchObject({ good: false });
    expect(stepsTried(crookedFrame(3), 80).offMm).toBeLessThan(0);
  });
  it("a crooked frame is drawn by lot: three per cent about what is set, a tenth to four of play, from a generator whose first two numbers are published", () => {
    // minstd of the C++ standard library from 1: 48271, 182605794 of 2147483647.
    expect(crookedFrame(0)).toEqual({
      setPerMm: 80,
      share: expect.closeTo(0.985 + (0.03 * 48271) / 2147483647, 12),
      backlashMm: expect.closeTo(0.1 + (0.3 * 182605794) / 2147483647, 12),
    });
    const frames = Array.from({ length: 400 }, (_, i) => crookedFrame(i * 1000));
    for (const [all, from, to] of [
      [frames.map(({ share }) => share), 0.985, 1.015],
      [frames.map(({ backlashMm }) => backlashMm), 0.1, 0.4],
    ] as const) {
      expect(Math.min(...all)).toBeGreaterThanOrEqual(from);
      expect(Math.max(...all)).toBeLessThanOrEqual(to);
      // Four quarters of the range, each met about as often.
      const quarters = [0, 0, 0, 0];
      for (const each of all) quarters[Math.floor(((each - from) / (to - from)) * 4)] = (quarters[Math.floor(((each - from) / (to - from)) * 4)] as number) + 1;
      for (const met of quarters) expect(met).toBeGreaterThan(60);
    }
  });
  it("the ring's slit belongs below, and the disc apart", () => {
    expect(islandTried(null, "apart")).toMatchObject({ good: true });
    expect(islandTried([60, 5], "apart")).toMatchObject({ good: true });
    expect(islandTried([60, 105], "apart")).toMatchObject({ good: false });
    expect(islandTried(null, "joined")).toMatchObject({ good: false });
    // The ring is 10 mm thick below: the slit is that and a kerf.
    expect(islandTried(null, "apart").slitMm).toBeCloseTo(11.2, 0);
    expect(ISLAND_SCENE.some(({ outline }) => isInside([0, 60], outline))).toBe(false);
  });
  it("a corner needs a wait or a slow hand; longer waits and slower hands never cut more off", () => {
    expect(cornerTried(6, 0).deviationMm).toBeGreaterThan(5 * CORNER_TOLERANCE_MM);
    expect(cornerTried(9, 3)).toMatchObject({ good: true });
    expect(cornerTried(6, 15)).toMatchObject({ good: false });
    expect(cornerTried(6, 15).deviationMm).toBeLessThan(CORNER_TOLERANCE_MM);
    for (const feed of [3, 6, 9]) {
      let before = Number.POSITIVE_INFINITY;
      for (const wait of [0, 1, 2, 3, 4]) {
        const { deviationMm } = cornerTried(feed, wait);
        expect(deviationMm).toBeLessThanOrEqual(before + 1e-3);
        before = deviationMm;
      }
    }
    for (const wait of [0, 2]) expect(cornerTried(3, wait).deviationMm).toBeLessThan(cornerTried(6, wait).deviationMm);
    // The middle is still behind where the ends stop, and never outside the corner.
    const { cut } = cornerTried(6, 0);
    expect(Math.max(...cut.map(([x]) => x))).toBeLessThanOrEqual(60 + 1e-6);
  });
});

describe("out of the foam after a stop", () => {
  const rig = { ...FRAME_START, wide_mm: 200, high_mm: 200 };
  const text = "G21\nG90\nG94\nG0 X5 Y50\nM3 S1000\nG1 X20 Y50 F600\nG1 X60 Y50\nG1 X60 Y90\nG1 X20 Y90\nG1 X20 Y50\nG1 X5 Y50\nM5\nM2\n";
  const read = readProgram(text, machineOf(rig, 100));
  it("leads back along the kerf, shortest, warm first, and within the travel", () => {
    const out = retractProgram(rig, 100, read, 9, [40, 90], 6);
    expect(out?.near).toEqual([
      [40, 90],
      [60, 90],
      [60, 50],
      [20, 50],
      [5, 50],
    ]);
    expect(out?.lengthMm).toBeCloseTo(115, 9);
    const back = readProgram(out?.text ?? "", machineOf(rig, 100));
    expect(back.path.at(-1)).toEqual([5, 50]);
    expect(back.timesS.at(-1)).toBeCloseTo(5 + 115 / 6, 2);
    expect(back.hot[0]).toBe(true);
    // Round and back at its beginning: on by what is left of the way in.
    expect(retractProgram(rig, 100, read, 11, [20, 50], 6)?.lengthMm).toBeCloseTo(15, 9);
  });
  it("the time left is what the machine takes: speeding up, stops at corners, and rapid moves at its fastest feed", () => {
    // 100 mm of rapid at 10 mm/s, then two sides of 40 mm at 8 mm/s: each from rest to rest takes d/v + v/a.
    const program = readProgram("G21\nG90\nG94\nM5\nG0 X100 Y0\nM3 S500\nG1 X140 Y0 F480\nG1 X140 Y40\nG4 P2\nM5\nM2\n", machineOf(rig, 100));
    const times = machineTimesS(program, { feed_mm_s: 10, acceleration_mm_s2: 20 });
    expect(times.at(-1)).toBeCloseTo(2 * (40 / 8 + 8 / 20) + 2, 6);
    expect(secondsLeft(program, times, 0)).toBeGreaterThan(program.timesS.at(-1) as number);
    const rapid = readProgram("G21\nG90\nG94\nM3 S1\nG1 X1 F480\nM5\nG0 X101\nM2\n", machineOf(rig, 100));
    const [first, end] = [machineTimesS(rapid, { feed_mm_s: 10, acceleration_mm_s2: 1e9 }), rapid.timesS.at(-1) as number];
    expect((first.at(-1) as number) - end).toBeCloseTo(10, 3);
  });

  it("says nothing of a wire that has cut nothing, and refuses one that is elsewhere", () => {
    expect(retractProgram(rig, 100, read, 4, [5, 50], 6)).toBeNull();
    expect(() => retractProgram(rig, 100, read, 9, [40, 40], 6)).toThrow(/is not on this program's way/);
    expect(passedAt(read, 9)).toBe(3);
    expect(secondsLeft(read, read.timesS, 0)).toBeCloseTo(19, 9);
    expect(secondsLeft(read, read.timesS, 11)).toBeCloseTo(0, 9);
  });
});
