import { z } from "zod";
import { DEMO_CUTTERS } from "@/core/design/demoCutters";
import { describeVerdict } from "@/core/design/describe";
import { evaluateDesign } from "@/core/design/evaluate";
import { migrateDesign } from "@/core/design/fileFormat";
import { LIMITS } from "@/core/design/limits";
import { limitsOf } from "@/core/design/report";
import { controlSchema, figure, foamSchema, supplySchema, wireSchema } from "@/core/design/schema";
import { CATALOGUE_CONTROLS, type ControlKind, HAND_BREADTH_M, searchSetups } from "@/core/design/search";
import { CoreError } from "@/core/errors";
import { resolveFoam } from "@/core/materials/foams";
import { solveAxial } from "@/core/models/axial";
import { cutAtCurrent, cutAtPower, referenceDragNPerM } from "@/core/models/cut";
import { computeCutMap, MAP_VERDICTS } from "@/core/models/cutMap";
import { cornerDwell, midSpanLag } from "@/core/models/lag";
import { pitchHz, solveTension, tensionFromPitch } from "@/core/models/tension";
import { warmUp } from "@/core/models/warmup";
import { massKgPerM, resolveWire, wireTemperatureWarnings } from "@/core/models/wire";
import { ambient, circuitFields, cutFields, exactlyOne, type Verb, verb, withWarnings } from "./verb";

const refuse = (ctx: z.core.$RefinementCtx, path: string, message: string) =>
  ctx.issues.push({ code: "custom", message, path: [path], params: { code: "out-of-range" }, input: undefined });

const axialVerb = verb(
  "axial",
  "Steady temperature along the wire: clamps, bare stretches and foam. Foam wants feed_mm_s; from_mm and to_mm default to the whole wire.",
  z
    .strictObject({
      wire: wireSchema,
      length_mm: figure("length_mm"),
      current_A: figure("current_A"),
      ambient_C: ambient,
      clamp_C: figure("temperature_C").optional(),
      foam: foamSchema.optional(),
      feed_mm_s: figure("feed_mm_s").optional(),
      from_mm: figure("position_mm").optional(),
      to_mm: figure("position_mm").optional(),
      cells: z
        .int({ error: "must be a whole number from 10 to 4000" })
        .min(10, { error: "must be a whole number from 10 to 4000" })
        .max(4000, { error: "must be a whole number from 10 to 4000" })
        .optional(),
    })
    .superRefine((input, ctx) => {
      if (input.foam !== undefined && input.feed_mm_s === undefined) refuse(ctx, "feed_mm_s", "is required with foam");
      if ((input.to_mm ?? input.length_mm) > input.length_mm) refuse(ctx, "to_mm", `must be at most length_mm (${input.length_mm} mm)`);
      if ((input.from_mm ?? 0) >= (input.to_mm ?? input.length_mm)) refuse(ctx, "from_mm", "must be less than to_mm");
    }),
  { wire: { alloy: "nicr-80-20", gauge_awg: 26 }, length_mm: 720, current_A: 2, foam: "eps-20", feed_mm_s: 6, from_mm: 60, to_mm: 660, cells: 12 },
  (input) => {
    const wire = resolveWire(input.wire);
    const answer = solveAxial({
      wire,
      lengthM: input.length_mm / 1000,
      currentA: input.current_A,
      ambientC: input.ambient_C,
      clampC: input.clamp_C ?? input.ambient_C,
      cells: input.cells,
      foam:
        input.foam === undefined
          ? undefined
          : {
              pair: { wire, foam: resolveFoam(input.foam), ambientC: input.ambient_C },
              feedMPerS: (input.feed_mm_s as number) / 1000,
              fromM: (input.from_mm ?? 0) / 1000,
              toM: (input.to_mm ?? input.length_mm) / 1000,
            },
    });
    const hottest = answer.temperatureC.reduce((a, b) => Math.max(a, b));
    return withWarnings(
      {
        position_mm: Array.from(answer.positionM, (x) => x * 1000),
        temperature_C: Array.from(answer.temperatureC),
        energyImbalance: answer.energyImbalance,
        generated_W: answer.generatedW,
        toAir_W: answer.lostToAirW,
        toFoam_W: answer.lostToFoamW,
        toClamps_W: answer.lostToClampsW,
        iterations: answer.iterations,
      },
      wireTemperatureWarnings(wire, Math.max(hottest, 20)),
    );
  },
);

const warmupVerb = verb(
  "warmup",
  'Temperature of the bare wire after switch-on; with then:"off" it cools as long again.',
  z.strictObject({
    wire: wireSchema,
    current_A: figure("current_A"),
    ambient_C: ambient,
    seconds: figure("seconds"),
    // biome-ignore lint/suspicious/noThenProperty: the door's fixed name; the object is data, never awaited
    then: z.literal("off", { error: 'must be "off"' }).optional(),
  }),
  { wire: { alloy: "nicr-80-20", gauge_awg: 26 }, current_A: 2, seconds: 10 },
  (input) => {
    const wire = resolveWire(input.wire);
    const answer = warmUp(wire, input.current_A, { ambientC: input.ambient_C }, input.seconds, input.then === "off");
    return withWarnings(
      { time_s: answer.timeS, temperature_C: answer.temperatureC, timeTo95_s: answer.timeTo95S, steady_C: answer.steadyC },
      wireTemperatureWarnings(wire, Math.max(answer.steadyC, 20)),
    );
  },
);

const deviceSchema = z.discriminatedUnion(
  "kind",
  [
    z.strictObject({ kind: z.literal("spring"), rate_N_per_mm: figure("rate_N_per_mm") }),
    z.strictObject({ kind: z.literal("weight") }),
    z.strictObject({ kind: z.literal("rigid") }),
  ],
  { error: "kind must be one of spring, weight, rigid" },
);

const tensionVerb = verb(
  "tension",
  "Tension cold and hot, growth, working limit and pitch, from either tension and the device.",
  z
    .strictObject({
      wire: wireSchema,
      span_mm: figure("length_mm"),
      hot_C: figure("temperature_C"),
      ambient_C: ambient,
      cold_N: figure("tension_N").optional(),
      hot_N: figure("tension_N").optional(),
      device: deviceSchema,
    })
    .superRefine(exactlyOne("cold_N", "hot_N"))
    .superRefine((input, ctx) => {
      if (input.hot_C < input.ambient_C) refuse(ctx, "hot_C", `must be at or above ambient_C (${input.ambient_C})`);
    }),
  { wire: { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" }, span_mm: 1220, hot_C: 330, hot_N: 65, device: { kind: "spring", rate_N_per_mm: 2.4 } },
  (input) => {
    const { device } = input;
    const answer = solveTension({
      wire: resolveWire(input.wire),
      spanM: input.span_mm / 1000,
      hotC: input.hot_C,
      ambientC: input.ambient_C,
      set: input.cold_N !== undefined ? { coldN: input.cold_N } : { hotN: input.hot_N as number },
      device: device.kind === "spring" ? { kind: "spring", rateNPerM: device.rate_N_per_mm * 1000 } : device,
    });
    return withWarnings(
      {
        cold_N: answer.coldN,
        hot_N: answer.hotN,
        growth_mm: answer.growthM * 1000,
        allowable_N: answer.allowableN,
        pitchCold_Hz: answer.pitchColdHz,
        pitchHot_Hz: answer.pitchHotHz,
        yieldPitch_Hz: answer.yieldPitchHz,
      },
      answer.warnings,
    );
  },
);

const pluckVerb = verb(
  "pluck",
  "Pitch from tension, or tension from pitch, with the wire's stiffness counted.",
  z
    .strictObject({
      wire: wireSchema,
      span_mm: figure("length_mm"),
      tension_N: figure("tension_N").optional(),
      frequency_Hz: figure("frequency_Hz").optional(),
    })
    .superRefine(exactlyOne("tension_N", "frequency_Hz")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.4 }, span_mm: 500, tension_N: 20 },
  (input) => {
    const wire = resolveWire(input.wire);
    const span = input.span_mm / 1000;
    if (input.frequency_Hz !== undefined) return { tension_N: tensionFromPitch(wire, span, input.frequency_Hz), frequency_Hz: input.frequency_Hz };
    const tension = input.tension_N as number;
    return { tension_N: tension, frequency_Hz: pitchHz(wire, span, tension), mass_g_per_m: massKgPerM(wire) * 1000 };
  },
);

const lagVerb = verb(
  "lag",
  "Bow of the wire in a straight cut as wide as the span, and the wait at a corner. Lag and dwell are null at or above the top feed.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      span_mm: figure("length_mm"),
      tension_N: figure("force_N"),
      feed_mm_s: figure("feed_mm_s"),
      tolerance_mm: figure("tolerance_mm").default(0.2),
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", span_mm: 1220, tension_N: 66.7, feed_mm_s: 6, power_W_per_m: 60 },
  (input) => {
    const wire = resolveWire(input.wire);
    const foam = resolveFoam(input.foam);
    const pair = { wire, foam, ambientC: input.ambient_C };
    const feed = input.feed_mm_s / 1000;
    const cut = input.current_A !== undefined ? cutAtCurrent(pair, feed, input.current_A) : cutAtPower(pair, feed, input.power_W_per_m as number);
    const span = input.span_mm / 1000;
    const lag = cut.dragNPerM === null ? null : midSpanLag(cut.dragNPerM, span, span, input.tension_N);
    const dwell = cornerDwell({
      lagM: lag?.lagM ?? 0,
      toleranceM: input.tolerance_mm / 1000,
      maxFeedMPerS: cut.maxFeedMPerS,
      referenceDragNPerM: referenceDragNPerM(wire, foam),
      spanM: span,
      tensionN: input.tension_N,
    });
    return withWarnings(
      {
        lag_mm: lag && lag.lagM * 1000,
        // A heat too small to melt anything leaves no top feed to relax at.
        relaxation_s: Number.isFinite(dwell.relaxationS) ? dwell.relaxationS : null,
        dwell_s: lag && dwell.dwellS,
        drag_N_per_m: cut.dragNPerM,
        maxFeed_mm_s: cut.maxFeedMPerS * 1000,
        verdict: cut.verdict,
      },
      [...cut.warnings, ...(lag?.warnings ?? [])],
    );
  },
);

const axis = (name: "power_W_per_m" | "feed_mm_s") =>
  z.tuple(
    [
      figure(name),
      figure(name),
      z
        .int({ error: "must be a whole number from 1 to 1000" })
        .min(1, { error: "must be a whole number from 1 to 1000" })
        .max(LIMITS.axisCount.max, { error: "must be a whole number from 1 to 1000" }),
    ],
    {
      error: "must be [from, to, n]",
    },
  );

const mapVerb = verb(
  "map",
  "Kerf and verdict over heat (rows) and feed (columns), and the top feed of each row.",
  z.strictObject({
    wire: wireSchema,
    foam: foamSchema,
    ambient_C: ambient,
    maxKerf_mm: figure("maxKerf_mm").optional(),
    power_W_per_m: axis("power_W_per_m"),
    feed_mm_s: axis("feed_mm_s"),
  }),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", power_W_per_m: [40, 80, 3], feed_mm_s: [2, 8, 4] },
  (input) => {
    const [heatFrom, heatTo, rows] = input.power_W_per_m;
    const [feedFrom, feedTo, columns] = input.feed_mm_s;
    const map = computeCutMap(
      { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C },
      { from: heatFrom, to: heatTo, count: rows },
      { from: feedFrom / 1000, to: feedTo / 1000, count: columns },
      input.maxKerf_mm === undefined ? undefined : input.maxKerf_mm / 1000,
    );
    const byRow = <T>(read: (at: number) => T) =>
      Array.from({ length: rows }, (_, row) => Array.from({ length: columns }, (_, column) => read(row * columns + column)));
    return {
      kerf_mm: byRow((at) => (map.kerf[at] as number) * 1000),
      verdict: byRow((at) => MAP_VERDICTS[map.verdict[at] as number]),
      maxFeed_mm_s: Array.from(map.maxFeed, (feed) => feed * 1000),
    };
  },
);

const solveVerb: Verb = {
  name: "solve",
  summary: "A whole design file: its circuit, cut, lag, tension and verdict, every limit with its margin, and its cautions.",
  example: DEMO_CUTTERS[0],
  run: (input, prefix) => {
    let design: ReturnType<typeof migrateDesign>;
    try {
      design = migrateDesign(input);
    } catch (error) {
      if (!(error instanceof CoreError) || prefix === "") throw error;
      throw new CoreError(error.code, error.path ? `${prefix}.${error.path}` : prefix, error.message);
    }
    const answer = evaluateDesign(design);
    const words = describeVerdict(design, answer, "metric");
    return withWarnings(
      {
        ...circuitFields(answer.circuit),
        cut: cutFields(answer.cut),
        resistance_ohm_per_m: answer.ohmPerM,
        mass_g_per_m: answer.massKgPerM * 1000,
        lag_mm: answer.lagM === null ? null : answer.lagM * 1000,
        tension_N: design.tension.hot_N,
        pitchHot_Hz: pitchHz(answer.wire, design.wire.length_mm / 1000, design.tension.hot_N),
        verdict: answer.verdict,
        words: `${words.headline} ${words.detail}`,
        limits: limitsOf(design, answer),
        cautions: answer.cautions.map((caution) => ({
          code: caution.code,
          severity: caution.severity,
          message: caution.words("metric"),
          standing: caution.standing,
          source: caution.source,
        })),
      },
      answer.circuit.warnings,
    );
  },
};

const controlKinds = z.enum(["direct", "pwm", "phase", "buck", "rheostat", "tap", "clip"], {
  error: "must be one of direct, pwm, phase, buck, rheostat, tap, clip",
});

const searchVerb = verb(
  "search",
  "Ranks complete set-ups for a job out of the wires, supplies and controls given, or the whole catalogue. Controls by kind, or as a control whose setting is then ignored.",
  z
    .strictObject({
      job: z.strictObject({
        foam: foamSchema,
        width_mm: figure("width_mm"),
        feed_mm_s: figure("feed_mm_s"),
        maxKerf_mm: figure("maxKerf_mm").default(2.5),
        bow_mm: figure("length_mm").optional(),
        ambient_C: ambient,
      }),
      wires: z.array(wireSchema).max(5000, { error: "has room for 5000 wires" }).optional(),
      supplies: z.array(supplySchema).max(500, { error: "has room for 500 supplies" }).optional(),
      controls: z
        .array(z.union([controlKinds, controlSchema], { error: "must be control kinds or controls" }))
        .max(20, { error: "has room for 20 controls" })
        .optional(),
    })
    .superRefine((input, ctx) => {
      const bow = input.job.bow_mm;
      if (bow !== undefined && bow < input.job.width_mm) {
        ctx.issues.push({
          code: "custom",
          message: `must be at least width_mm (${input.job.width_mm} mm)`,
          path: ["job", "bow_mm"],
          params: { code: "out-of-range" },
          input: undefined,
        });
      }
    }),
  {
    job: { foam: "xps-35", width_mm: 600, feed_mm_s: 4 },
    wires: [
      { alloy: "nicr-80-20", gauge_awg: 26 },
      { alloy: "ss-304", diameter_mm: 0.4, temper: "spring" },
    ],
    supplies: [{ kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 }],
    controls: ["direct", "pwm"],
  },
  (input) => {
    const { job } = input;
    const kinds = input.controls?.map((control) => (typeof control === "string" ? control : control.kind)) ?? CATALOGUE_CONTROLS;
    const result = searchSetups(
      {
        foam: resolveFoam(job.foam),
        widthM: job.width_mm / 1000,
        feedMPerS: job.feed_mm_s / 1000,
        acceptedKerfM: job.maxKerf_mm / 1000,
        bowM: job.bow_mm === undefined ? job.width_mm / 1000 + 2 * HAND_BREADTH_M : job.bow_mm / 1000,
        ambientC: job.ambient_C,
      },
      input.wires,
      input.supplies,
      [...new Set<ControlKind>(kinds)],
    );
    return {
      candidates: result.candidates.map((candidate) => ({
        wire: candidate.wire,
        length_mm: candidate.lengthM * 1000,
        supply: candidate.supply,
        control: candidate.control,
        setting: candidate.setting,
        current_A: candidate.currentA,
        volts_V: candidate.voltsV,
        kerf_mm: candidate.cut.kerfM * 1000,
        power_W_per_m: candidate.cut.powerWPerM,
        wireTemperature_C: candidate.bareC,
        margins: candidate.margins,
        score: candidate.score,
        reasons: candidate.reasons,
      })),
      rejected: result.rejected,
      tried: result.tried,
    };
  },
);

/** The verbs of the whole engine, beside the first four. */
export const ENGINE_VERBS: readonly Verb[] = [axialVerb, warmupVerb, tensionVerb, pluckVerb, lagVerb, solveVerb, searchVerb, mapVerb];
