import { describe, expect, it } from "vitest";
import { pairOf, settingForHeat } from "../cutters/solve/evaluate";
import { cleanFeeds, cleanHeats } from "../physics/cut/cut";
import type { BenchFace, BenchReport, FaceStretch } from "./face";
import { LESSONS, type Lesson, type LessonRun } from "./lessons";

const lessonOf = (id: string): Lesson => LESSONS.find((each) => each.id === id) as Lesson;

/** A cut in a lesson's own figures; even, matt and right except for the given changes. */
function cutOf(
  lesson: Lesson,
  more: Partial<BenchReport> & { overall?: BenchFace; stretches?: FaceStretch[]; hookM?: number | null } = {},
  amps = 4,
  volts = 9,
): LessonRun {
  const { overall = "matt", stretches = [], hookM = null, ...report } = more;
  return {
    design: lesson.design,
    currentA: amps,
    volts,
    report: {
      face: { stretches, kerfM: { mean: 0.0016, least: 0.0015, most: 0.0017 }, grooveM: 0, errorM: 0, hookM, overall },
      feed: { meanMPerS: lesson.design.job.feed_mm_s / 1000, spread: 0.05 },
      ratio: 0.4,
      mostLagM: 0.0005,
      heatWPerM: 20,
      waitedS: 20,
      dwellS: 0,
      trips: 0,
      broken: false,
      through: true,
      cutS: 20,
      ...report,
    },
  };
}
const points = (lesson: Lesson, run: LessonRun) => lesson.judge(run).rows.map((row) => row.points);
const fed = (mmPerS: number, spread = 0.05) => ({ feed: { meanMPerS: mmPerS / 1000, spread } });

describe("what a lesson judges, from a cut's own figures", () => {
  it("a wire that melted, one left in the foam and one that never went in score nothing, each with its own reason", () => {
    const lesson = lessonOf("clock");
    const { report } = cutOf(lesson);
    const score = (more: Partial<BenchReport>) => lesson.judge({ ...cutOf(lesson), report: { ...report, ...more } });
    expect(score({ broken: true })).toMatchObject({ score: 0, rows: [{ words: "the wire melted through", of: 100 }] });
    expect(score({ broken: true }).physics).toMatch(/ran past its melting point/);
    for (const more of [{ through: false }, { face: null }]) {
      expect(score(more)).toMatchObject({ score: 0, rows: [{ words: "the wire never came out at the far side", points: 0, of: 100 }] });
      expect(score(more).physics).toMatch(more.face === null ? /never melted its way in/ : /still in the foam/);
    }
  });

  it("a matt face has it all, a groove or a hook half, gloss and ridges none", () => {
    const lesson = lessonOf("dense");
    const face = (overall: BenchFace) => lesson.judge(cutOf(lesson, { overall })).rows[0];
    expect([face("matt"), face("grooved"), face("hooked"), face("glossy"), face("ridged")].map((row) => row?.points)).toEqual([60, 30, 30, 0, 0]);
    expect(face("grooved")?.words).toBe("the face is grooved where it paused");
    expect(face("ridged")?.words).toBe("the face is ridged: too cold or too fast");
  });

  it("four seconds an inch: within 6 % full, at 40 % off none, half between; evenness next to it", () => {
    const lesson = lessonOf("four-seconds");
    expect(lesson.options.block_mm).toBe(127);
    expect(lesson.knobFree).toBe(false);
    expect(lesson.hides).toEqual(["feed", "advice"]);
    expect(points(lesson, cutOf(lesson, fed(6.35)))).toEqual([60, 40]);
    expect(points(lesson, cutOf(lesson, fed(6.35 * 1.05, 0.1)))).toEqual([60, 40]);
    // 23 % off is in the middle of 6 and 40; 35 % uneven in the middle of 10 and 60.
    expect(points(lesson, cutOf(lesson, fed(6.35 * 1.23, 0.35)))).toEqual([30, 20]);
    expect(points(lesson, cutOf(lesson, fed(6.35 * 0.77, 0.6)))).toEqual([30, 0]);
    expect(points(lesson, cutOf(lesson, fed(6.35 * 1.4)))).toEqual([0, 40]);
    expect(lesson.judge(cutOf(lesson, fed(5.08))).rows[0]?.words).toBe("5.1 mm/s, 5.0 s an inch (asked: 4.0)");
    expect(points(lesson, cutOf(lesson, { feed: null }))).toEqual([0, 0]);
  });

  it("heat: full in the cooler part of the clean band, less above, none where it drags or smokes", () => {
    const lesson = lessonOf("feel");
    const { job } = lesson.design;
    const band = cleanHeats(pairOf(lesson.design), job.feed_mm_s / 1000, job.maxKerf_mm / 1000);
    const heat = (place: number) => lesson.judge(cutOf(lesson, { heatWPerM: band.from + place * (band.to - band.from) })).rows[1];
    expect([-0.2, -0.06, -0.04, 0.3, 0.59, 0.85, 1.05, 1.11, 1.5].map((place) => heat(place)?.points)).toEqual([0, 0, 40, 40, 40, 20, 4, 0, 0]);
    expect(heat(0.3)?.words).toContain(`${band.from.toFixed(0)} to ${band.to.toFixed(0)} W/m is clean`);
    // By the feed it was cut at, not the one planned; the planned one where none was measured.
    const slow = cleanHeats(pairOf(lesson.design), 0.001, job.maxKerf_mm / 1000);
    const inSlow = slow.from + 0.3 * (slow.to - slow.from);
    expect(lesson.judge(cutOf(lesson, { ...fed(1), heatWPerM: inSlow })).rows[1]?.points).toBe(40);
    expect(lesson.judge(cutOf(lesson, { feed: null, heatWPerM: band.from + 0.3 * (band.to - band.from) })).rows[1]?.points).toBe(40);
  });

  it("feed: inside what the heat that was cuts cleanly, both borders counted", () => {
    const lesson = lessonOf("dense");
    const heatWPerM = 60;
    const { from, to } = cleanFeeds(pairOf(lesson.design), heatWPerM, lesson.design.job.maxKerf_mm / 1000);
    expect(to).toBeGreaterThan(from);
    const feed = (mPerS: number) => lesson.judge(cutOf(lesson, { heatWPerM, ...fed(mPerS * 1000) })).rows[1]?.points;
    expect([from * 0.98, from * 1.001, (from + to) / 2, to * 0.999, to * 1.02].map(feed)).toEqual([0, 40, 40, 40, 0]);
    expect(lesson.judge(cutOf(lesson, { heatWPerM, feed: null })).rows[1]?.points).toBe(0);
  });

  it("by the clock: trailing by 0.6 mm is full, by 4 mm none", () => {
    const lesson = lessonOf("clock");
    expect(lesson.options.block_mm).toBe(120);
    expect([0.0006, 0.0023, 0.004].map((mostLagM) => points(lesson, cutOf(lesson, { mostLagM }))[2])).toEqual([20, 10, 0]);
  });

  it("by amps and by volts: how near, how long it was let settle, how it looks", () => {
    const amps = lessonOf("amps");
    expect([4, 4.1, 3.54, 4.46, 3.2].map((a) => points(amps, cutOf(amps, {}, a))[0])).toEqual([50, 50, 25, 25, 0]);
    expect([8, 5, 2].map((waitedS) => points(amps, cutOf(amps, { waitedS }))[1])).toEqual([20, 10, 0]);
    expect(amps.judge(cutOf(amps, { waitedS: 5 }, 3.5)).rows.map(({ words }) => words)).toEqual([
      "3.50 A as the wire met the foam (asked: 4.00)",
      "5 s from the last turn to the foam (about 8 s lets the wire settle)",
      "the face is even and matt",
    ]);
    const volts = lessonOf("volts");
    // 17 % off is in the middle of 4 and 30.
    expect([9, 9.36, 9 * 1.17, 9 * 0.83, 6].map((v) => points(volts, cutOf(volts, {}, 4, v))[0])).toEqual([60, 60, 30, 30, 0]);
    expect(volts.judge(cutOf(volts, {}, 4, 8.5)).rows[0]?.words).toBe("8.5 V on the wire (in proportion: 9.0 V)");
    expect([amps.options.block_mm, volts.options.block_mm]).toEqual([120, 100]);
    // The same current on half as much again of wire wants half as many volts again: 6 V was right for 500 mm.
    expect((6 * (volts.design.wire.length_mm as number)) / 500).toBe(9);
  });

  it("by drop: it begins at a few millimetres a second; sinking fast was turned up too far", () => {
    const lesson = lessonOf("drop");
    expect([lesson.options.block_mm, lesson.pushN, lesson.hand]).toEqual([80, 1.5, "push"]);
    expect([3, 4, 8, 12].map((mmPerS) => points(lesson, cutOf(lesson, fed(mmPerS)))[1])).toEqual([40, 40, 20, 0]);
  });

  it("wider foam: 2 mm is full, 6 mm none; a bow goes as width times what both ends leave of the wire", () => {
    const lesson = lessonOf("wider");
    expect([0.002, 0.004, 0.006].map((mostLagM) => points(lesson, cutOf(lesson, { mostLagM }))[0])).toEqual([60, 30, 0]);
    // 600 (1520 - 600) over 80 (1520 - 80) is 4.8.
    expect(lesson.judge(cutOf(lesson)).physics).toMatch(/from 80 mm to 600 mm of foam it grows about 5 times/);
    expect(lesson.design.wire.length_mm).toBe(760);
  });

  it("a corner: how near the middle passed, and no longer a wait than twice what would do", () => {
    const lesson = lessonOf("corner");
    expect(lesson.options).toMatchObject({ block_mm: 140, corner_mm: 60 });
    const at = (hookM: number | null, dwellS: number, mostLagM = 0.0004) => lesson.judge(cutOf(lesson, { hookM, dwellS, mostLagM }));
    expect(at(0.0006, 0.4).rows.map((row) => row.points)).toEqual([70, 30]);
    expect(at(0.0023, 0.4).rows[0]?.points).toBe(35);
    expect(at(0.004, 0.4).rows[0]?.points).toBe(0);
    expect(at(null, 0.4).rows[0]?.points).toBe(0);
    // A bow within the tolerance wants no wait: half a second is nothing, six too long.
    expect([0.5, 3.25, 6].map((dwellS) => at(0.0006, dwellS).rows[1]?.points)).toEqual([30, 15, 0]);
    const wants = at(0.0006, 1, 0.006).rows[1];
    const seconds = Number(/; ([\d.]+) s would do/.exec(wants?.words ?? "")?.[1]);
    expect(seconds).toBeGreaterThan(1);
    expect(at(0.0006, 2 * seconds, 0.006).rows[1]?.points).toBe(30);
    expect(at(0.0006, 2 * seconds + 6.1, 0.006).rows[1]?.points).toBe(0);
    // A cut nearer to its top feed leaves a bow that lets go more slowly for each millimetre it could go on.
    const faster = /; ([\d.]+) s would do/.exec(lesson.judge(cutOf(lesson, { hookM: 0, dwellS: 1, mostLagM: 0.006, ratio: 0.8 })).rows[1]?.words ?? "")?.[1];
    expect(Number(faster) / seconds).toBeCloseTo(2, 1);
  });

  it("a tired battery: by how much of the cut dragged", () => {
    const lesson = lessonOf("tired-battery");
    const dragged = (...stretches: FaceStretch[]) => lesson.judge(cutOf(lesson, { stretches })).rows[1];
    expect(dragged()?.points).toBe(40);
    expect(dragged({ fromM: 0, toM: 0.1, face: "matt" }, { fromM: 0.1, toM: 0.101, face: "ridged" })?.points).toBe(40);
    // 20.5 mm is in the middle of 1 and 40.
    expect(
      dragged({ fromM: 0.1, toM: 0.11, face: "ridged" }, { fromM: 0.11, toM: 0.12, face: "matt" }, { fromM: 0.12, toM: 0.1305, face: "ridged" }),
    ).toMatchObject({
      points: 20,
      words: expect.stringMatching(/^2[01] mm of the cut dragged$/),
    });
    expect(dragged({ fromM: 0, toM: 0.05, face: "ridged" })?.points).toBe(0);
  });

  it("a wire too short for its brick: whether the brick held", () => {
    const lesson = lessonOf("short-wire");
    expect(lesson).toMatchObject({ knobFree: true, hides: ["advice"], options: { block_mm: 100 } });
    expect(lesson.judge(cutOf(lesson)).rows).toMatchObject([{ words: "the brick held", points: 50 }, { points: 50 }]);
    expect(lesson.judge(cutOf(lesson, { trips: 3 })).rows[0]).toMatchObject({ words: "the brick tripped 3 times", points: 0, of: 50 });
  });

  it("each begins as its brief says: cold where the knob is at nothing, in its clean band where the heat is set, dense foam behind a setting for light", () => {
    expect(lessonOf("feel").design.control).toMatchObject({ kind: "pwm", duty: 0 });
    expect(lessonOf("drop").design.control).toMatchObject({ kind: "pwm", duty: 0 });
    expect(lessonOf("volts").design.supply).toMatchObject({ voltage_V: 6 });
    for (const [id, place] of [
      ["four-seconds", 0.3],
      ["clock", 0.45],
      ["wider", 0.12],
      ["corner", 0.2],
    ] as const) {
      const { design } = lessonOf(id);
      const pair = pairOf(design);
      const { from, to } = cleanHeats(pair, design.job.feed_mm_s / 1000, design.job.maxKerf_mm / 1000);
      const wanted = settingForHeat(design, from + place * (to - from), pair) as number;
      const set = design.supply.kind === "bench" ? (design.supply.voltage_V as number) : design.control.kind === "pwm" ? design.control.duty : Number.NaN;
      expect(Math.abs(set - wanted)).toBeLessThanOrEqual((design.supply.kind === "bench" ? 0.1 : 0.01) / 2 + 1e-9);
    }
    const dense = lessonOf("dense");
    expect(dense.options.block_mm).toBe(200);
    expect(dense.design).toMatchObject({ wire: { length_mm: 520 }, job: { width_mm: 400, feed_mm_s: 6.5, foam: { family: "xps", density_kg_m3: 35 } } });
  });
});
