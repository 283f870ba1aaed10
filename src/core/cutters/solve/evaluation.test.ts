import { describe, expect, it } from "vitest";
import { headlessOf } from "../../../../tests/helpers/headless";
import { JUDGEMENT } from "../../kernel/constants";
import { cleanHeats, kerfFeedProduct, leastKerfM } from "../../physics/cut/cut";
import { pullLimits } from "../../physics/mechanics/tension";
import { fuseAdvice } from "../../physics/power/powerAdvice";
import { DEMO_CUTTERS } from "../design/demoCutters";
import { type Design, designSchema } from "../design/schema";
import { compareDesigns } from "./compare";
import { describeVerdict, noCut } from "./describe";
import { type DesignEvaluation, evaluateDesign } from "./evaluate";
import { frameOf } from "./frameModel";
import { knobCurve } from "./knobCurve";
import { offcutOf } from "./offcut";
import { limitsOf } from "./report";
import { CUTTER_VERBS, designFrom } from "./verbs";

const demo = (name: string) => designSchema.parse(DEMO_CUTTERS.find((design) => design.name === name));
const [tom, gate, thimble] = [demo("Long Tom"), demo("Gatepost"), demo("Thimble")];
const at = (design: Design, more: Partial<Design["job"]>): Design => ({ ...design, job: { ...design.job, ...more } });
const volts = (voltage_V: number, current_A = 30): Design => ({ ...tom, supply: { kind: "bench", voltage_V, current_A } });

describe("two cutters side by side", () => {
  const twice = { ...tom, name: "Twice the feed", job: { ...tom.job, feed_mm_s: tom.job.feed_mm_s * 1.4 } };
  const { figures, summary, answers } = compareDesigns(tom, twice, "metric");
  const figure = (label: string, rows = figures) => rows.find((row) => row.label === label);

  it("each figure in its unit, the better side by its own sense, and a difference under a twentieth is none", () => {
    const [a, b] = answers;
    expect(figure("Kerf")).toMatchObject({ a: `${(a.cut.kerfM * 1000).toFixed(2)} mm`, b: `${(b.cut.kerfM * 1000).toFixed(2)} mm`, better: "b" });
    // The kerf goes as one over the feed at one heat, near enough for the wire's own change of ohms.
    expect(figure("Kerf")?.words).toMatch(/^(3\d|4\d) % more kerf: more foam lost and softer edges$/);
    expect(figure("Bow at mid-span")).toMatchObject({ better: "a", words: expect.stringMatching(/bows .* (more|as much): long templates/) });
    expect(figure("Wait at a corner")).toMatchObject({ better: "a", a: `${(a.dwellS as number).toFixed(1)} s` });
    expect(figure("Top feed")).toMatchObject({ better: null, words: "" });
    expect(figure("Wire in air")).toMatchObject({ better: null, words: "" });
    expect(figure("Tension, hot")).toMatchObject({ a: "65 N", b: "65 N", better: null });
    expect(figure("Heat in the cut")?.better).toBeNull();
    const [more, less] = [figures.filter(({ better }) => better === "a").length, figures.filter(({ better }) => better === "b").length];
    expect(more + less).toBeGreaterThan(2);
    expect(summary).toContain(
      more === less ? "Neither leads." : `${more > less ? tom.name : twice.name} leads in ${Math.max(more, less)} figures to ${Math.min(more, less)}.`,
    );
    expect(compareDesigns(tom, tom, "metric").summary).toMatch(/Neither leads\.$/);
    // Turned round it is the other who leads.
    const round = compareDesigns(twice, tom, "metric");
    for (const row of figures)
      expect([row.label, figure(row.label, round.figures)?.better]).toEqual([row.label, row.better === null ? null : row.better === "a" ? "b" : "a"]);
  });

  it("twice a figure and more is given in times, less in per cent", () => {
    const half = compareDesigns(tom, at({ ...tom, name: "Half" }, { feed_mm_s: tom.job.feed_mm_s / 2.5 }), "metric");
    expect(figure("Kerf", half.figures)).toMatchObject({ better: "a", words: expect.stringMatching(/^2\.\d times the kerf: /) });
    const wires = compareDesigns(
      tom,
      { ...tom, name: "Fine", wire: { ...tom.wire, diameter_mm: 0.3 }, supply: { kind: "bench", voltage_V: 24, current_A: 8 } },
      "metric",
    );
    expect(figure("Current", wires.figures)).toMatchObject({
      better: "b",
      words: expect.stringMatching(/times the current: thicker leads, bigger fuse|% more current/),
    });
    expect(figure("Volts on the wire", wires.figures)?.better).toBeNull();
    const inch = compareDesigns(tom, twice, "inch");
    expect(figure("Kerf", inch.figures)?.a).toMatch(/ in$/);
  });

  it("beside one that does not cut nothing is better or worse, and each says how near its limit is", () => {
    const dead = { ...volts(14, 1), name: "Starved", supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 1 } } as Design;
    const beside = compareDesigns(tom, dead, "metric");
    expect(beside.figures.every(({ better, words }) => better === null && words === "")).toBe(true);
    expect(beside.figures.find(({ label }) => label === "Kerf")).toMatchObject({ b: "supply can't" });
    expect(beside.figures.find(({ label }) => label === "Current")?.b).toMatch(/ A$/);
    expect(beside.summary).toMatch(
      /^Long Tom: clean, nearest limit .*, \d+ % in hand\. Starved: supply can't\. Starved does not cut as set up, so there is nothing to weigh\.$/,
    );
    expect(compareDesigns(dead, { ...dead, name: "Also" }, "metric").summary).toContain("Starved and Also do not cut as set up");
    const wide = compareDesigns(tom, at({ ...tom, name: "Fussy" }, { maxKerf_mm: 0.9 }), "metric");
    expect(wide.summary).toMatch(/Fussy: cuts wide, past its limit of kerf/);
    // Past its top feed there is no bow: the other one is better off.
    const torn = compareDesigns(tom, at({ ...tom, name: "Torn" }, { feed_mm_s: 60 }), "metric");
    expect(torn.figures.find(({ label }) => label === "Bow at mid-span")).toMatchObject({
      b: "cannot keep up",
      better: "a",
      words: "cannot keep up at this feed",
    });
  });
});

describe("a verdict in words", () => {
  const words = (design: Design) => {
    const evaluation = evaluateDesign(design);
    return { evaluation, ...describeVerdict(design, evaluation, "metric") };
  };

  it("clean: how much heat is in hand, and the nearest of four borders", () => {
    const { evaluation, headline, detail } = words(tom);
    expect(headline).toBe(`Clean. Heat margin ${Math.round(100 * (1 - evaluation.heats.from / evaluation.cut.powerWPerM))} %.`);
    const ways = [
      [evaluation.feeds.to / evaluation.feedMPerS - 1, `drags faster than ${(evaluation.feeds.to * 1000).toFixed(1)} mm/s`],
      [1 - evaluation.feeds.from / evaluation.feedMPerS, `slower than ${(evaluation.feeds.from * 1000).toFixed(1)} mm/s`],
      [evaluation.heats.to / evaluation.cut.powerWPerM - 1, `above ${evaluation.heats.to.toFixed(0)} W/m`],
      [1 - evaluation.heats.from / evaluation.cut.powerWPerM, `drags below ${evaluation.heats.from.toFixed(0)} W/m`],
    ] as const;
    const nearest = [...ways].sort((a, b) => a[0] - b[0])[0];
    expect(detail).toContain(nearest?.[1]);
    // Moved close to each border in turn, that border is named.
    const { from, to } = evaluation.feeds;
    expect(words(at(tom, { feed_mm_s: to * 1000 * 0.98 })).detail).toMatch(/drags (faster than|below)/);
    const slow = words(at(tom, { feed_mm_s: from * 1000 * 1.02 }));
    expect(slow.detail).toMatch(evaluation.feeds.below === "smokes" ? /smokes (slower|above)/ : /cuts wide (slower|above)/);
  });

  it("each other verdict with its own figures", () => {
    const drags = words(at(tom, { feed_mm_s: 20 }));
    expect(drags.headline).toBe("Drags at 20.0 mm/s.");
    expect(drags.detail).toContain(`freely up to ${(drags.evaluation.feeds.to * 1000).toFixed(1)} mm/s`);
    expect(drags.detail).toMatch(
      new RegExp(`wants ${drags.evaluation.heats.from.toFixed(0)}(\\.\\d)? W/m here and gets ${drags.evaluation.cut.powerWPerM.toFixed(0)}`),
    );
    const smokes = words(volts(22));
    expect(smokes.evaluation.verdict).toBe("smokes");
    expect(smokes.detail).toContain(
      `near ${smokes.evaluation.cut.wireC.toFixed(0)} °C, past the fume limit of ${smokes.evaluation.pair.foam.fumeLimitC.toFixed(0)} °C`,
    );
    expect(smokes.detail).toMatch(/This feed wants .* at most\.|no clean heat at this feed/);
    const wide = words(at(tom, { maxKerf_mm: 0.9 }));
    expect([wide.headline, wide.detail]).toEqual([
      `Cuts wide: a kerf of ${(wide.evaluation.cut.kerfM * 1000).toFixed(2)} mm.`,
      expect.stringMatching(/accepts 0\.90 mm/),
    ]);
    const overload = words({ ...tom, supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 1 } });
    expect(overload.detail).toMatch(new RegExp(`asked for ${overload.evaluation.circuit.supplyCurrentA.toFixed(2)} A and its plate says 1\\.00 A`));
    const cold = words(volts(1));
    expect(cold.headline).toBe("The wire never warms.");
    expect(cold.detail).toContain(
      `settles at ${cold.evaluation.circuit.wireC.toFixed(0)} °C; the foam gives way at ${cold.evaluation.pair.foam.collapseC.toFixed(0)} °C`,
    );
    const short = words(at(tom, { width_mm: 1500 }));
    expect(short.detail).toBe("Foam 1500 mm wide on a wire of 1300 mm.");
    expect(describeVerdict(tom, evaluateDesign(tom), "inch").detail).toMatch(/in\/(min|s)|W\/in/);
  });

  it("says why there is no cut, the gravest first, and nothing where there is one", () => {
    const why = (verdict: DesignEvaluation["verdict"], ...codes: string[]) =>
      noCut({ verdict, cautions: codes.map((code) => ({ code })) as DesignEvaluation["cautions"] });
    expect([why("clean"), why("drags"), why("smokes", "fumes"), why("wide")]).toEqual([null, null, null, null]);
    expect([why("overload"), why("too-cold"), why("short-wire")]).toEqual(["supply can't", "never warms", "wire too short"]);
    expect([why("clean", "touch-voltage", "glowing"), why("smokes", "glowing"), why("overload", "glowing")]).toEqual([
      "refused: shock",
      "would glow",
      "supply can't",
    ]);
  });
});

describe("what the knob does", () => {
  it("each point is the design set there; the clean stretch is where heat lies in the clean band", () => {
    const curve = knobCurve(gate);
    if (!curve) throw new Error("no knob");
    expect(curve.points).toHaveLength(49);
    const { knob, points, clean } = curve;
    expect([points[0]?.setting, points.at(-1)?.setting]).toEqual([knob.min, knob.max]);
    const evaluation = evaluateDesign(gate);
    const heats = cleanHeats(evaluation.pair, gate.job.feed_mm_s / 1000, gate.job.maxKerf_mm / 1000);
    points.forEach((point, i) => {
      expect(point.setting).toBeCloseTo(knob.min + ((knob.max - knob.min) * i) / 48, 9);
      const here = evaluateDesign({ ...gate, control: { ...gate.control, duty: point.setting } as Design["control"] });
      expect(point.heatWPerM).toBeCloseTo(here.circuit.cut?.powerWPerM ?? 0, 6);
      expect(point.topFeedMPerS).toBeCloseTo(point.heatWPerM > 0 ? kerfFeedProduct(evaluation.pair, point.heatWPerM) / leastKerfM(evaluation.pair) : 0, 9);
      expect(point.state).toBe(here.circuit.state);
    });
    // PWM: heat goes nearly with duty, so the ends of the clean stretch have the clean band's own heats.
    const heatAt = (setting: number) =>
      evaluateDesign({ ...gate, control: { ...gate.control, duty: setting } as Design["control"] }).circuit.cut?.powerWPerM as number;
    expect(heatAt(clean?.from as number) / heats.from).toBeCloseTo(1, 1);
    expect(heatAt(clean?.to as number) / heats.to).toBeCloseTo(1, 1);
    const span = (clean?.to as number) - (clean?.from as number);
    expect(curve.stepsInClean).toBeCloseTo(span / knob.step, 9);
    expect(curve.cleanShare).toBeCloseTo(span / (knob.max - knob.min), 9);
    const steepest = Math.max(
      ...points.slice(1).map((point, i) => Math.abs(point.heatWPerM - (points[i]?.heatWPerM as number)) / (point.setting - (points[i]?.setting as number))),
    );
    expect(curve.coarsestWPerM).toBeLessThanOrEqual(steepest * knob.step * 1.0001);
    expect(curve.coarsestWPerM).toBeGreaterThan(0.3 * steepest * knob.step);
  });

  it("none where nothing is turned; no clean stretch where no heat is clean", () => {
    expect(knobCurve({ ...tom, supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 9 }, control: { kind: "direct" } })).toBeNull();
    const fussy = knobCurve(at(gate, { maxKerf_mm: 0.5, feed_mm_s: 3 }));
    expect([fussy?.clean, fussy?.stepsInClean, fussy?.cleanShare]).toEqual([null, 0, 0]);
    expect(fussy?.coarsestWPerM).toBeGreaterThan(0);
  });
});

describe("limits and what they leave", () => {
  it("each a figure over its limit, closest first; those of a cut only where there is one", () => {
    const evaluation = evaluateDesign(tom);
    const rows = limitsOf(tom, evaluation);
    const of = (name: string) => rows.find((row) => row.name === name);
    for (const { value, limit, margin } of rows) expect(margin).toBeCloseTo(1 - value / limit, 12);
    expect(rows.map(({ margin }) => margin)).toEqual(rows.map(({ margin }) => margin).sort((a, b) => a - b));
    expect(of("feed ratio")).toMatchObject({ value: evaluation.cut.feedRatio, limit: JUDGEMENT.dragsAboveFeedRatio });
    expect(of("kerf")).toMatchObject({ value: evaluation.cut.kerfM * 1000, limit: tom.job.maxKerf_mm, unit: "mm" });
    expect(of("wire in the kerf")).toMatchObject({ value: evaluation.cut.wireC, limit: evaluation.pair.foam.fumeLimitC });
    expect(of("bare wire, glow")).toMatchObject({ value: evaluation.circuit.wireC, limit: JUDGEMENT.glowingC });
    expect(of("tension, hot strength")).toMatchObject({
      value: 65,
      limit: pullLimits(evaluation.wire, Math.max(evaluation.circuit.wireC, evaluation.cut.wireC)).creepsN,
    });
    expect(of("foam on the wire")).toMatchObject({ value: 1100, limit: 1300 });
    expect(of("supply current")).toMatchObject({ value: evaluation.circuit.supplyCurrentA, limit: 8 });
    expect(of("bow")).toMatchObject({ value: (evaluation.lagM as number) * 1000, limit: 1300 * JUDGEMENT.lagValidBelowSpanShare });
    expect(of("lead current")).toMatchObject({
      value: evaluation.circuit.currentA,
      limit: fuseAdvice(evaluation.circuit.currentA, tom.leads?.gauge_awg).leadRatingA,
    });
    const names = (design: Design) => limitsOf(design, evaluateDesign(design)).map(({ name }) => name);
    const dead: Design = { ...tom, supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 1 } };
    for (const name of ["feed ratio", "kerf", "wire in the kerf", "bow"]) expect(names(dead)).not.toContain(name);
    expect(names({ ...tom, supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 } })).not.toContain("supply current");
    expect(names({ ...tom, leads: undefined })).not.toContain("lead current");
    expect(names(at(tom, { feed_mm_s: 60 }))).not.toContain("bow");
  });

  it("a narrow test piece: pull with b, bow with b(2L - b), from seven tenths of the job down", () => {
    const evaluation = evaluateDesign(tom);
    const of = (mm: number, design = tom, solved = evaluation) => offcutOf(design, solved, mm, null, "metric");
    expect(of(770)).toBeNull();
    const just = of(769);
    expect(just?.pullTimes).toBeCloseTo(1100 / 769, 12);
    expect(just?.bowTimes).toBeCloseTo((1100 * 1500) / (769 * (2600 - 769)), 12);
    expect(just).toMatchObject({ biteM: null, coldEndsM: null });
    expect(just?.words).toMatch(
      new RegExp(`pulls 1\\.4 times as hard and the wire bows 1\\.2 times as far \\(here ${((evaluation.lagM as number) * 1000).toFixed(1)} mm\\)\\.$`),
    );
    expect(of(100)?.words).toContain("pulls 11 times");
    expect(of(Number.NaN)).toBeNull();
    const torn = at(tom, { feed_mm_s: 60 });
    expect(of(100, torn, evaluateDesign(torn))?.words).not.toContain("here");
    // The job is no wider than the wire is live.
    const clipped: Design = { ...tom, control: { kind: "clip", live_mm: 500 } };
    expect(offcutOf(clipped, evaluation, 350, null, "metric")).toBeNull();
    expect(offcutOf(clipped, evaluation, 250, null, "metric")?.pullTimes).toBe(2);
  });
});

describe("a whole design by command line", () => {
  const runVerb = (name: string, design: unknown) =>
    headlessOf(CUTTER_VERBS).runVerb(name, design) as Record<string, never> & { cut: { kerf_mm: number } | null };

  it("solve: the desk's own figures, in millimetres; where there is no cut the reason is in its place", () => {
    const result = runVerb("solve", tom) as unknown as Record<string, unknown>;
    const evaluation = evaluateDesign(tom);
    expect(result).toMatchObject({
      verdict: "clean",
      current_A: evaluation.circuit.currentA,
      resistance_ohm_per_m: evaluation.ohmPerM,
      mass_g_per_m: evaluation.massKgPerM * 1000,
      lag_mm: (evaluation.lagM as number) * 1000,
      dwell_s: evaluation.dwellS,
      coldTension_N: evaluation.tension.coldN,
      growth_mm: evaluation.tension.growthM * 1000,
      tension_N: 65,
      cut: { kerf_mm: evaluation.cut.kerfM * 1000 },
      cautions: [],
      ready: { marked: tom.ready === true, blockedBy: [] },
    });
    expect(result).not.toHaveProperty("noCut");
    expect(result.limits).toEqual(limitsOf(tom, evaluation));
    const dead = runVerb("solve", { ...tom, supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 1 } }) as unknown as Record<string, unknown>;
    expect(dead).toMatchObject({ cut: null, noCut: "supply can't", lag_mm: null, dwell_s: null });
    expect(dead.ready).toMatchObject({ blockedBy: expect.arrayContaining(["overload"]) });
    expect((dead.cautions as { code: string; message: string }[]).find(({ code }) => code === "overload")?.message).toMatch(/rated 1/);
    expect(() => designFrom({ format: "none" }, "2")).toThrow(expect.objectContaining({ path: expect.stringMatching(/^2(\.|$)/) }));
  });

  it("knob and frame: null where there is none, else what the desk draws", () => {
    expect(runVerb("knob", { ...tom, supply: { kind: "dc", voltage_V: 14, maxCurrent_A: 9 } })).toBeNull();
    const knob = runVerb("knob", gate) as unknown as { setting: number[]; heat_W_per_m: number[]; maxFeed_mm_s: number[]; stepsInClean: number };
    const curve = knobCurve(gate);
    expect(knob.heat_W_per_m).toEqual(curve?.points.map(({ heatWPerM }) => heatWPerM));
    expect(knob.maxFeed_mm_s[20]).toBeCloseTo((curve?.points[20]?.topFeedMPerS as number) * 1000, 9);
    expect(runVerb("frame", { ...tom, frame: undefined })).toBeNull();
    const section = { shape: "bar", width_mm: 20, depth_mm: 40 } as const;
    const frames: NonNullable<Design["frame"]>[] = [
      {
        kind: "bow-saw",
        wire_arm_mm: 300,
        cable_arm_mm: 200,
        arm_material: "timber",
        arm: section,
        spreader_mm: 1250,
        spreader_material: "timber",
        spreader: section,
        ends: "pinned",
      },
      { kind: "c-frame", throat_mm: 250, back_mm: 700, material: "steel", section },
      { kind: "table-arm", arm_mm: 400, material: "steel", section },
      { kind: "camber-tube", span_mm: 1000, rise_mm: 100, material: "glass-fibre", section: { shape: "tube", diameter_mm: 12, wall_mm: 2 } },
    ];
    for (const frame of frames) {
      const result = runVerb("frame", { ...tom, frame }) as unknown as {
        closes_mm: number;
        rate_N_per_mm: number;
        ownTension_N: number | null;
        checks: { part: string }[];
      };
      const evaluation = frameOf({ ...tom, frame });
      expect(result.closes_mm).toBeCloseTo((evaluation?.closesM as number) * 1000, 9);
      expect(result.rate_N_per_mm * 1000).toBeCloseTo(evaluation?.rateNPerM as number, 6);
      expect(result.checks).toHaveLength(evaluation?.checks.length as number);
      expect(result.ownTension_N === null).toBe(frame.kind !== "camber-tube");
    }
    // A table's arm of steel, 400 mm: F a^3/(3 E I), by hand.
    const arm = frameOf({ ...tom, frame: frames[2] });
    expect(arm?.closesM).toBeCloseTo((65 * 0.4 ** 3) / (3 * 205e9 * ((0.02 * 0.04 ** 3) / 12)), 9);
    expect(thimble.name).toBe("Thimble");
  });
});
