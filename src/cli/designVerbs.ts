import { z } from "zod";
import { calibrate } from "@/core/calibration/fit";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { migrateDesign } from "@/core/cutters/design/fileFormat";
import type { Design } from "@/core/cutters/design/schema";
import { CATALOGUE_CONTROLS, searchSetups, usualBowM } from "@/core/cutters/search/search";
import { describeVerdict, noCut } from "@/core/cutters/solve/describe";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { knobCurve } from "@/core/cutters/solve/knobCurve";
import { limitsOf } from "@/core/cutters/solve/report";
import { CoreError } from "@/core/kernel/errors";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { computeCutMap, MAP_VERDICTS } from "@/core/physics/cut/cutMap";
import { type Band, cutBands, DOUBTS } from "@/core/physics/cut/uncertainty";
import { resolveWire } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { pitchHz } from "@/core/physics/mechanics/tension";
import { controlSchema } from "@/core/physics/power/controlSchema";
import { CONTROL_KINDS, type ControlKind } from "@/core/physics/power/controls";
import { supplySchema } from "@/core/physics/power/supplySchema";
import { figure } from "@/core/units/figure";
import { LIMITS } from "@/core/units/limits";
import { ambient, circuitFields, cutFields, exactlyOne, refuse, type Verb, verb, withWarnings } from "./verb";

const bandFields = (band: Band | null, scale = 1) =>
  band && { low: band.low * scale, mid: band.mid * scale, high: Number.isFinite(band.high) ? band.high * scale : null };

const bandVerb = verb(
  "band",
  "A cut's figures with their bands: doubtful inputs (collapse temperature, emissivity, density, drag constant, fume limit) moved by their doubts. high is null where there is no upper end.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      feed_mm_s: figure("feed_mm_s"),
      maxKerf_mm: figure("maxKerf_mm").default(2.5),
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", feed_mm_s: 4, power_W_per_m: 70 },
  (input) => {
    const pair = { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C };
    const drive = input.current_A !== undefined ? { currentA: input.current_A } : { powerWPerM: input.power_W_per_m as number };
    const bands = cutBands(pair, input.feed_mm_s / 1000, drive, input.maxKerf_mm / 1000);
    return {
      kerf_mm: bandFields(bands.kerfM, 1000),
      maxFeed_mm_s: bandFields(bands.maxFeedMPerS, 1000),
      wireTemperature_C: bandFields(bands.wireC),
      drag_N_per_m: bandFields(bands.dragNPerM),
      cleanFrom_mm_s: bandFields(bands.cleanFromMPerS, 1000),
      cleanTo_mm_s: bandFields(bands.cleanToMPerS, 1000),
      cleanShare: bands.cleanShare,
      doubts: DOUBTS,
    };
  },
);

const knobVerb: Verb = {
  name: "knob",
  summary: "A whole design file: heat in the cut and top feed over the whole range of its knob, with its clean band and coarsest step. null without a knob.",
  example: DEMO_CUTTERS[1],
  run: (input, prefix) => {
    const curve = knobCurve(designFrom(input, prefix));
    return (
      curve && {
        knob: curve.knob.kind,
        step: curve.knob.step,
        setting: curve.points.map((point) => point.setting),
        heat_W_per_m: curve.points.map((point) => point.heatWPerM),
        maxFeed_mm_s: curve.points.map((point) => point.topFeedMPerS * 1000),
        state: curve.points.map((point) => point.state),
        clean: curve.clean,
        stepsInClean: curve.stepsInClean,
        coarsest_W_per_m: curve.coarsestWPerM,
        cleanShare: curve.cleanShare,
      }
    );
  },
};

/** A design file, migrated; its refusals carry the list index. */
export function designFrom(input: unknown, prefix: string): Design {
  try {
    return migrateDesign(input);
  } catch (error) {
    if (!(error instanceof CoreError) || prefix === "") throw error;
    throw new CoreError(error.code, error.path ? `${prefix}.${error.path}` : prefix, error.message);
  }
}

const solveVerb: Verb = {
  name: "solve",
  summary: "A whole design file: its circuit, cut, lag, tension and verdict, every limit with its margin, and its cautions.",
  example: DEMO_CUTTERS[0],
  run: (input, prefix) => {
    const design = designFrom(input, prefix);
    const answer = evaluateDesign(design);
    const words = describeVerdict(design, answer, "metric");
    const none = noCut(answer);
    return withWarnings(
      {
        ...circuitFields(answer.circuit),
        // Where there is no cut, the reason stands in its place.
        cut: none === null ? cutFields(answer.cut) : null,
        ...(none === null ? {} : { noCut: none }),
        resistance_ohm_per_m: answer.ohmPerM,
        mass_g_per_m: answer.massKgPerM * 1000,
        lag_mm: answer.lagM === null || none !== null ? null : answer.lagM * 1000,
        dwell_s: none === null ? answer.dwellS : null,
        leads_C: answer.circuit.leadC,
        joints_C: answer.circuit.jointC,
        coldTension_N: answer.tension.coldN,
        growth_mm: answer.tension.growthM * 1000,
        allowable_N: answer.tension.hotLimits.recommendedN,
        tension_N: design.tension.hot_N,
        pitchHot_Hz: pitchHz(answer.wire, design.wire.length_mm / 1000, design.tension.hot_N),
        verdict: answer.verdict,
        words: `${words.headline} ${words.detail}`,
        ready: { marked: design.ready === true, blockedBy: answer.cautions.filter((caution) => caution.blocks).map((caution) => caution.code) },
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

const fitVerb = verb(
  "fit",
  "Learns a cutter's doubtful figures (heat to foam, collapse temperature, density, drag) from test cuts, with what was believed before; residuals and bands. A bow wants span_mm, width_mm and tension_N.",
  z.strictObject({
    cuts: z
      .array(
        z
          .strictObject({
            wire: wireSchema,
            foam: foamSchema,
            ambient_C: ambient,
            feed_mm_s: figure("feed_mm_s"),
            power_W_per_m: figure("power_W_per_m"),
            kerf_mm: figure("kerf_mm").optional(),
            lag_mm: figure("lag_mm").optional(),
            span_mm: figure("length_mm").optional(),
            width_mm: figure("width_mm").optional(),
            tension_N: figure("force_N").optional(),
          })
          .superRefine((cut, ctx) => {
            if (cut.lag_mm === undefined) return;
            for (const key of ["span_mm", "width_mm", "tension_N"] as const) if (cut[key] === undefined) refuse(ctx, key, "is required with lag_mm");
          }),
      )
      .min(1, { error: "needs at least one cut" })
      .max(200, { error: "has room for 200 cuts" }),
  }),
  {
    cuts: [
      { wire: { alloy: "nicr-80-20", diameter_mm: 0.5 }, foam: "xps-35", feed_mm_s: 3, power_W_per_m: 55, kerf_mm: 1.6 },
      {
        wire: { alloy: "nicr-80-20", diameter_mm: 0.5 },
        foam: "xps-35",
        feed_mm_s: 4,
        power_W_per_m: 60,
        kerf_mm: 1.3,
        lag_mm: 2.4,
        span_mm: 800,
        width_mm: 600,
        tension_N: 40,
      },
    ],
  },
  (input) => {
    const fit = calibrate(
      input.cuts.map((cut) => ({
        wire: cut.wire,
        foam: cut.foam,
        ambientC: cut.ambient_C,
        feedMPerS: cut.feed_mm_s / 1000,
        powerWPerM: cut.power_W_per_m,
        kerfM: cut.kerf_mm === undefined ? undefined : cut.kerf_mm / 1000,
        lag:
          cut.lag_mm === undefined
            ? undefined
            : { lagM: cut.lag_mm / 1000, spanM: (cut.span_mm as number) / 1000, widthM: (cut.width_mm as number) / 1000, tensionN: cut.tension_N as number },
      })),
    );
    return {
      learnt: fit.figures,
      residuals: fit.residuals.map((row) => ({
        cut: row.cut,
        what: row.what,
        measured_mm: row.measured * 1000,
        fitted_mm: row.fitted * 1000,
        sigmas: row.sigmas,
        weight: row.weight,
      })),
      kerfSpread_mm: fit.kerfSpreadM.map((spread) => ({ before: spread.before * 1000, after: spread.after * 1000 })),
      iterations: fit.iterations,
    };
  },
);

const controlKinds = z.enum(CONTROL_KINDS, { error: `must be one of ${CONTROL_KINDS.join(", ")}` });

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
        leadGauge_awg: figure("leadGauge_awg").optional(),
        ambient_C: ambient,
      }),
      wires: z.array(wireSchema).max(5000, { error: "has room for 5000 wires" }).optional(),
      supplies: z.array(supplySchema).max(500, { error: "has room for 500 supplies" }).optional(),
      controls: z
        .array(z.union([controlKinds, controlSchema], { error: "must be control kinds or controls" }))
        .max(20, { error: "has room for 20 controls" })
        .optional(),
      prices: z
        .strictObject({
          wires_per_m: z.array(figure("price").nullable()).optional(),
          supplies: z.array(figure("price").nullable()).optional(),
          controls: z.partialRecord(controlKinds, figure("price")).optional(),
        })
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
        bowM: job.bow_mm === undefined ? usualBowM(job.width_mm / 1000) : job.bow_mm / 1000,
        ambientC: job.ambient_C,
        leadGaugeAwg: job.leadGauge_awg,
      },
      input.wires,
      input.supplies,
      [...new Set<ControlKind>(kinds)],
      { wires: input.prices?.wires_per_m, supplies: input.prices?.supplies, controls: input.prices?.controls },
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
        fuse_A: candidate.fuseA,
        price: candidate.price,
        margins: candidate.margins,
        score: candidate.score,
        reasons: candidate.reasons,
      })),
      rejected: result.rejected,
      schools: result.schools.map((school) => ({ alloy: school.alloy, score: school.best?.score ?? null, behind: school.behind, words: school.words })),
      tried: result.tried,
    };
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

/** Whole designs, searches and maps. */
export const DESIGN_VERBS: readonly Verb[] = [bandVerb, knobVerb, fitVerb, solveVerb, searchVerb, mapVerb];
