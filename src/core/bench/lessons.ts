import { DEMO_CUTTERS } from "../cutters/design/demoCutters";
import { type Design, designSchema } from "../cutters/design/schema";
import { knobOf, liveMm, pairOf, settingForHeat, withSetting } from "../cutters/solve/evaluate";
import type { LessonText, Outcome } from "../kernel/lesson";
import { cleanFeeds, cleanHeats, referenceDragNPerM } from "../physics/cut/cut";
import { cornerDwell } from "../physics/cut/lag";
import type { BenchReport } from "./face";
import { BENCH_DEFAULTS, type BenchOptions } from "./world";

/** Readouts that a lesson hides, so that hand and eye have to do. */
export type Readout = "feed" | "current" | "temperature" | "force" | "advice";

/** One line of a score. */
export interface ScoreRow {
  words: string;
  points: number;
  of: number;
}

export interface LessonResult {
  /** Of 100. */
  score: number;
  rows: ScoreRow[];
  /** What happened in the physics. */
  physics: string;
}

export const outcomeOf = ({ score, rows, physics }: LessonResult): Outcome => ({
  good: null,
  score,
  words: physics,
  rows: rows.map(({ words, points, of }) => [words, `${points}/${of}`]),
});

/** The world as it was when the lesson's cut ended. */
export interface LessonRun {
  report: BenchReport;
  /** The design with the knob where it was left. */
  design: Design;
  /** Hot current in the wire when it met the foam, A, and volts across it. */
  currentA: number;
  volts: number;
}

export interface Lesson extends LessonText {
  design: Design;
  options: BenchOptions;
  /** How the hand begins: led by the pointer, at a pace, or pushed by a weight. */
  hand: "lead" | "pace" | "push";
  /** Newtons of a pushed lesson. */
  pushN?: number;
  /** Whether the knob may be turned. */
  knobFree: boolean;
  hides: readonly Readout[];
  judge: (run: LessonRun) => LessonResult;
}

const demo = (name: string): Design => {
  const found = DEMO_CUTTERS.find((design) => design.name === name);
  if (!found) throw new Error(`the demo has no cutter called ${name}`);
  return designSchema.parse(found);
};

const percent = (share: number) => `${Math.round(share * 100)} %`;
const mm = (metres: number, decimals = 1) => `${(metres * 1000).toFixed(decimals)} mm`;
const mmPerS = (metresPerS: number) => `${(metresPerS * 1000).toFixed(1)} mm/s`;

/** Points that fall in a straight line from full at `good` to none at `bad`; either way round. */
function graded(words: string, value: number, good: number, bad: number, of: number): ScoreRow {
  const share = Math.max(0, Math.min(1, (bad - value) / (bad - good)));
  return { words, points: Math.round(of * share), of };
}

const total = (rows: ScoreRow[], physics: string): LessonResult => ({ score: rows.reduce((sum, row) => sum + row.points, 0), rows, physics });

const FACE_SAYS = {
  matt: "even and matt",
  glossy: "glossy: too hot or too slow",
  ridged: "ridged: too cold or too fast",
  grooved: "grooved where it paused",
  hooked: "hooked at the corner",
};

/** A cut that never was scores nothing, and says why. */
function unfinished({ report }: LessonRun): LessonResult | null {
  if (report.broken)
    return total(
      [{ words: "the wire melted through", points: 0, of: 100 }],
      "More current than the wire can shed in air: its temperature ran past its melting point.",
    );
  if (!report.face || !report.through) {
    return total(
      [{ words: "the wire never came out at the far side", points: 0, of: 100 }],
      report.face
        ? "It was still in the foam when you stopped: nothing to judge yet."
        : "The wire never melted its way in: too cold, or it was never led to the foam.",
    );
  }
  return null;
}

function faceRow(report: BenchReport, of: number): ScoreRow {
  const { overall } = report.face ?? { overall: "ridged" as const };
  return {
    words: `the face is ${FACE_SAYS[overall]}`,
    points: overall === "matt" ? of : overall === "grooved" || overall === "hooked" ? Math.round(of / 2) : 0,
    of,
  };
}

const waitedRow = (report: BenchReport, wantedS: number, of: number): ScoreRow =>
  graded(`${report.waitedS.toFixed(0)} s from the last turn to the foam (about ${wantedS} s lets the wire settle)`, report.waitedS, wantedS, wantedS / 4, of);

/** Where a heat lies between the borders of the clean band, in words and as a row: cool but not dragging is best. */
function heatRow(run: LessonRun, of: number): ScoreRow {
  const pair = pairOf(run.design);
  const { job } = run.design;
  const feed = run.report.feed?.meanMPerS ?? job.feed_mm_s / 1000;
  const heats = cleanHeats(pair, feed, job.maxKerf_mm / 1000);
  const place = (run.report.heatWPerM - heats.from) / (heats.to - heats.from);
  return {
    words: `${run.report.heatWPerM.toFixed(0)} W/m in the cut; at this feed ${heats.from.toFixed(0)} to ${heats.to.toFixed(0)} W/m is clean, and the cooler half is better`,
    points: place < -0.05 || place > 1.1 ? 0 : place <= 0.6 ? of : Math.round(of * Math.max(0, 1 - (place - 0.6) / 0.5)),
    of,
  };
}

/** Feed against the clean band at the heat the cut had. */
function feedRow(run: LessonRun, of: number): ScoreRow {
  const feeds = cleanFeeds(pairOf(run.design), Math.max(0.5, run.report.heatWPerM), run.design.job.maxKerf_mm / 1000);
  const feed = run.report.feed?.meanMPerS ?? 0;
  const inside = feed >= feeds.from && feed <= feeds.to;
  return { words: `${mmPerS(feed)}; this heat is clean from ${mmPerS(feeds.from)} to ${mmPerS(feeds.to)}`, points: inside ? of : 0, of };
}

const cutSays = (run: LessonRun) =>
  `The middle ran at ${percent(run.report.ratio)} of its top feed and left a kerf of ${mm(run.report.face?.kerfM.mean ?? 0, 2)}; the wire trailed by up to ${mm(run.report.mostLagM)}.`;

function lesson(from: Omit<Lesson, "options" | "judge"> & { options?: Partial<BenchOptions>; judge: (run: LessonRun) => LessonResult }): Lesson {
  return { ...from, options: { ...BENCH_DEFAULTS, ...from.options }, judge: (run) => unfinished(run) ?? from.judge(run) };
}

const tom = demo("Long Tom");
const gate = demo("Gatepost");
const eps = (density: number) => ({ family: "eps" as const, density_kg_m3: density });

/** Long Tom cut down to a foam and width, its knob brought to a share of the clean heat band. */
function set(base: Design, change: Partial<Design["job"]>, place: number | null, rest: Partial<Design> = {}): Design {
  const design: Design = { ...base, ...rest, job: { ...base.job, ...change } };
  if (place === null) return design;
  const pair = pairOf(design);
  const heats = cleanHeats(pair, design.job.feed_mm_s / 1000, design.job.maxKerf_mm / 1000);
  const knob = knobOf(design);
  const wish = settingForHeat(design, heats.from + place * (heats.to - heats.from), pair);
  return knob && wish !== null
    ? withSetting(design, Math.min(knob.max, Math.max(knob.min, Number((Math.round(wish / knob.step) * knob.step).toFixed(4)))))
    : design;
}

const bench = { kind: "bench", voltage_V: 1, current_A: 10, maxVoltage_V: 30, maxCurrent_A: 10 } as const;
/** 0.9 mm stainless on a bench supply: the old long bow of the four-second rule. */
const heavy = set(tom, { foam: eps(15), width_mm: 600, feed_mm_s: 6.35 }, 0.3, {
  name: "Heavy bow",
  wire: { alloy: "ss-304", diameter_mm: 0.9, temper: "spring", length_mm: 900 },
  supply: bench,
  tension: { device: "weight", hot_N: 90 },
});
const table = set(gate, { foam: eps(18), width_mm: 300, feed_mm_s: 5 }, 0.3, {
  name: "Gatepost",
  supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 8 },
  control: { kind: "pwm", duty: 0.3 },
});
const cold = withSetting(table, 0);
const OFFCUT_MM = 80;

export const LESSONS: readonly Lesson[] = [
  lesson({
    id: "four-seconds",
    title: "Four seconds an inch",
    goal: "Lead the wire through at 6.35 mm/s, evenly, by counting.",
    brief:
      "The wire is hot and right for it. Lead the ends with the pointer, or hold the arrow keys, at one inch in four seconds. The feed is not shown: count.",
    design: heavy,
    options: { block_mm: 127 },
    hand: "lead",
    knobFree: false,
    hides: ["feed", "advice"],
    judge: (run) => {
      const feed = run.report.feed?.meanMPerS ?? 0;
      const off = Math.abs(feed * 1000 - 6.35) / 6.35;
      return total(
        [
          graded(`${mmPerS(feed)}, ${(25.4 / (feed * 1000)).toFixed(1)} s an inch (asked: 4.0)`, off, 0.06, 0.4, 60),
          graded(`even to ${percent(run.report.feed?.spread ?? 1)}`, run.report.feed?.spread ?? 1, 0.1, 0.6, 40),
        ],
        `Kerf goes as heat over feed: a tenth slower is a tenth wider. ${cutSays(run)}`,
      );
    },
  }),
  lesson({
    id: "feel",
    title: "By feel",
    goal: "Rest the foam on the wire and turn up until it passes with almost no push.",
    brief:
      "The duty is at nothing. Switch on, push lightly, and turn up a little at a time, waiting a few seconds each time, until the foam goes through on its own.",
    design: cold,
    options: { block_mm: 100 },
    hand: "push",
    pushN: 0.35,
    knobFree: true,
    hides: ["temperature", "current", "advice"],
    judge: (run) =>
      total(
        [faceRow(run.report, 40), heatRow(run, 40), feedRow(run, 20)],
        `A light push finds the coolest setting that cuts: drag grows as x/(1 - x) toward the top feed, so a small force settles far from it. ${cutSays(run)}`,
      ),
  }),
  lesson({
    id: "clock",
    title: "By the clock",
    goal: "The heat is set; find the pace that suits it.",
    brief:
      "A thinner wire than the four-second rule was made for. Choose a pace, cut, look at the face. Too slow widens and gloss shows; too fast drags and bows.",
    design: set(table, {}, 0.45),
    options: { block_mm: 120 },
    hand: "pace",
    knobFree: false,
    hides: ["advice"],
    judge: (run) =>
      total([faceRow(run.report, 40), feedRow(run, 40), graded(`trailed by ${mm(run.report.mostLagM)}`, run.report.mostLagM, 0.0006, 0.004, 20)], cutSays(run)),
  }),
  lesson({
    id: "amps",
    title: "By amps",
    goal: "You remember 4.0 A for this wire. Bring the hot wire to it, then cut at 6.5 mm/s.",
    brief:
      "Turn the volts up and watch the ammeter: a stainless wire resists more as it warms, so the current falls after each turn. Wait until it is steady, then correct.",
    design: withSetting(set(tom, { width_mm: 600, feed_mm_s: 6.5 }, null, { wire: { ...tom.wire, length_mm: 760 }, supply: bench }), 0.1),
    options: { block_mm: 120 },
    hand: "pace",
    knobFree: true,
    hides: ["temperature", "advice"],
    judge: (run) =>
      total(
        [
          graded(`${run.currentA.toFixed(2)} A as the wire met the foam (asked: 4.00)`, Math.abs(run.currentA - 4) / 4, 0.03, 0.2, 50),
          waitedRow(run.report, 8, 20),
          faceRow(run.report, 30),
        ],
        `Heat is current squared times ohms a metre, regardless of the length: that is why amps can be remembered for a wire. ${cutSays(run)}`,
      ),
  }),
  lesson({
    id: "volts",
    title: "By volts",
    goal: "6.0 V was right for 500 mm of this wire. The wire is now 750 mm long: set the volts for it.",
    brief: "The same current wants volts in proportion to length. Work it out, set it, wait, cut at the pace shown.",
    design: withSetting(
      set(tom, { width_mm: 450, feed_mm_s: 5, foam: eps(18) }, null, {
        name: "Longer wire",
        wire: { alloy: "nicr-80-20", gauge_awg: 24, length_mm: 750 },
        supply: bench,
        leads: undefined,
        tension: { device: "weight", hot_N: 30 },
      }),
      6,
    ),
    options: { block_mm: 100 },
    hand: "pace",
    knobFree: true,
    hides: ["current", "temperature", "advice"],
    judge: (run) =>
      total(
        [
          graded(`${run.volts.toFixed(1)} V on the wire (in proportion: 9.0 V)`, Math.abs(run.volts - 9) / 9, 0.04, 0.3, 60),
          waitedRow(run.report, 8, 10),
          faceRow(run.report, 30),
        ],
        `Left at 6 V the longer wire would carry two thirds of the current and less than half the heat a metre. ${cutSays(run)}`,
      ),
  }),
  lesson({
    id: "drop",
    title: "By drop",
    goal: "The cutter hangs on the foam by its own weight. Turn up until it begins to sink on its own, and no further.",
    brief: "Switch on and turn up in small steps. When the cutter sinks steadily, take your hand off the knob.",
    design: withSetting(set(table, { foam: { family: "xps", density_kg_m3: 29 }, feed_mm_s: 3 }, null), 0),
    options: { block_mm: 80 },
    hand: "push",
    pushN: 1.5,
    knobFree: true,
    hides: ["temperature", "current", "advice"],
    judge: (run) =>
      total(
        [
          faceRow(run.report, 40),
          graded(`sank at ${mmPerS(run.report.feed?.meanMPerS ?? 0)}; it begins at a few mm/s`, run.report.feed?.meanMPerS ?? 0, 0.004, 0.012, 40),
          heatRow(run, 20),
        ],
        `The weight settles at the speed where drag balances it: v = v_max F/(F + F_ref w). More heat raises v_max, so it sinks faster, not harder. ${cutSays(run)}`,
      ),
  }),
  lesson({
    id: "wider",
    title: "Same wire, wider foam",
    goal: "The setting was found on an 80 mm offcut. The job is 600 mm wide: cut it with the middle trailing no more than 2 mm.",
    brief: "Drag adds up over the width and bows the wire as width times span. Slow down, or turn up, until the bow is small.",
    design: set(tom, { width_mm: 600, feed_mm_s: 9, foam: eps(22) }, 0.12, {
      wire: { ...tom.wire, length_mm: 760 },
      supply: bench,
      tension: { device: "weight", hot_N: 30 },
    }),
    options: { block_mm: 120 },
    hand: "pace",
    knobFree: true,
    hides: ["advice"],
    judge: (run) =>
      total(
        [graded(`trailed by ${mm(run.report.mostLagM)}`, run.report.mostLagM, 0.002, 0.006, 60), faceRow(run.report, 40)],
        `Bow is F' b(2L - b)/8T: from ${OFFCUT_MM} mm to 600 mm of foam it grows about ${((600 * (2 * 760 - 600)) / (OFFCUT_MM * (2 * 760 - OFFCUT_MM))).toFixed(0)} times at the same feed. A narrow offcut flatters: it pulls little and hardly bows the wire. ${cutSays(run)}`,
      ),
  }),
  lesson({
    id: "dense",
    title: "Dense foam",
    goal: "The bow was set for EPS 15. Now the block is XPS 35: cut it cleanly.",
    brief: "Twice the density wants twice the heat for the same kerf, and pushes back harder. Find a slower pace or a higher knob, or some of both.",
    design: {
      ...set(tom, { width_mm: 400, feed_mm_s: 6.5, foam: eps(15) }, 0.4, { wire: { ...tom.wire, length_mm: 520 }, supply: bench }),
      job: { ...tom.job, width_mm: 400, feed_mm_s: 6.5, foam: { family: "xps", density_kg_m3: 35 } },
    },
    options: { block_mm: 200 },
    hand: "pace",
    knobFree: true,
    hides: ["advice"],
    judge: (run) =>
      total(
        [faceRow(run.report, 60), feedRow(run, 40)],
        `Top feed goes with heat over density: what was brisk in light foam is past the top feed here. ${cutSays(run)}`,
      ),
  }),
  lesson({
    id: "corner",
    title: "A corner, with and without a wait",
    goal: "Lead the wire round a square corner so that the middle passes within 0.6 mm of it.",
    brief: "The ends turn at once; the middle trails and cuts the corner. Stop the ends at the corner, count, go on. Wait too long and both faces are grooved.",
    design: set(tom, { width_mm: 900, feed_mm_s: 5, foam: { family: "xps", density_kg_m3: 29 } }, 0.2, {
      supply: bench,
      tension: { device: "weight", hot_N: 60 },
    }),
    options: { block_mm: 140, corner_mm: 60 },
    hand: "pace",
    knobFree: false,
    hides: ["advice"],
    judge: (run) => {
      const { design, report } = run;
      const pair = pairOf(design);
      const feed = report.feed?.meanMPerS ?? design.job.feed_mm_s / 1000;
      const top = feed / Math.max(0.05, report.ratio);
      const wanted = cornerDwell({
        lagM: report.mostLagM,
        toleranceM: 0.0006,
        maxFeedMPerS: top,
        referenceDragNPerM: referenceDragNPerM(pair),
        spanM: liveMm(design) / 1000,
        tensionN: design.tension.hot_N,
      }).dwellS;
      const hook = report.face?.hookM ?? 0.02;
      return total(
        [
          graded(`the middle passed ${mm(hook)} from the corner`, hook, 0.0006, 0.004, 70),
          graded(`waited ${report.dwellS.toFixed(1)} s; ${wanted.toFixed(1)} s would do`, Math.max(0, report.dwellS - 2 * wanted), 0.5, 6, 30),
        ],
        `It trailed by ${mm(report.mostLagM)}. Standing still, the middle goes on cutting under its own bow, ever slower: dwell = (s - tol)/v_max + tau ln(s/tol). Common practice waits two to three seconds.`,
      );
    },
  }),
  lesson({
    id: "tired-battery",
    title: "A tired battery",
    goal: "Finish the cut cleanly on a battery that is nearly empty.",
    brief: "The volts fall as you cut. Watch the current; turn up as it sags, or slow down, before the wire begins to drag.",
    design: set(gate, { foam: eps(15), width_mm: 300, feed_mm_s: 4.5 }, 0.1, {
      name: "Lantern battery",
      supply: { kind: "battery", chemistry: "alkaline", cells: 9, capacity_Ah: 0.028, stateOfCharge: 0.5, internal_ohm: 0.8 },
      control: { kind: "pwm", duty: 0.4 },
    }),
    options: { block_mm: 150 },
    hand: "pace",
    knobFree: true,
    hides: ["temperature", "advice"],
    judge: (run) => {
      const ridged = run.report.face?.stretches.filter(({ face }) => face === "ridged").reduce((sum, { fromM, toM }) => sum + toM - fromM, 0) ?? 0;
      return total(
        [faceRow(run.report, 60), graded(`${mm(ridged, 0)} of the cut dragged`, ridged, 0.001, 0.04, 40)],
        `A cell's volts fall with its charge and its inner ohms take their share; heat goes as the square of what is left. ${cutSays(run)}`,
      );
    },
  }),
  lesson({
    id: "short-wire",
    title: "A wire too short for its brick",
    goal: "Move the clip until the 12 V 6 A brick holds, then cut.",
    brief: "12 V over 6 A wants at least 2 ohm, not at most. With the clip too near, the brick trips, tries again and trips. Give the wire more length.",
    design: set(gate, { foam: eps(18), width_mm: 250, feed_mm_s: 6 }, null, {
      name: "Clip on the wire",
      wire: { alloy: "ss-304", diameter_mm: 0.41, temper: "spring", length_mm: 900 },
      supply: { kind: "dc", voltage_V: 12, maxCurrent_A: 6 },
      control: { kind: "clip", live_mm: 260 },
    }),
    options: { block_mm: 100 },
    hand: "pace",
    knobFree: true,
    hides: ["advice"],
    judge: (run) => {
      const { report } = run;
      return total(
        [
          { words: report.trips === 0 ? "the brick held" : `the brick tripped ${report.trips} times`, points: report.trips === 0 ? 50 : 0, of: 50 },
          faceRow(report, 50),
        ],
        `Current is volts over ohms: a shorter wire on fixed volts draws more and gets hotter very fast. This is how wires are burnt out. ${cutSays(run)}`,
      );
    },
  }),
];
