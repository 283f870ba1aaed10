import { z } from "zod";
import { acceptedFrom, movedFigures, withCalibration } from "@/core/calibration/accept";
import { calibrate } from "@/core/calibration/fit";
import { learnFrom } from "@/core/calibration/learn";
import { teachingCuts } from "@/core/calibration/measured";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designFrom } from "@/core/cutters/solve/verbs";
import { CoreError } from "@/core/kernel/errors";
import { refuse, type Verb, verb } from "@/core/kernel/verb";
import { EXAMPLE_LOG, entriesSchema } from "@/core/log/verbs";
import { foamSchema } from "@/core/materials/foamSchema";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { ambient, figure } from "@/core/units/figure";

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

const learnVerb = verb(
  "learn",
  "What a design's log teaches about its foam: the estimates as fitted, with their bands before and after, what of the design it would move, the design with it accepted, and the test cut that would teach most next.",
  z.strictObject({ design: z.unknown(), entries: entriesSchema, at: z.iso.datetime({ error: "must be a date and time" }).default("2026-01-01T00:00:00Z") }),
  { design: DEMO_CUTTERS[0], entries: EXAMPLE_LOG },
  (input) => {
    const design = designFrom(input.design, "design");
    const cuts = teachingCuts(design, input.entries);
    if (cuts.length === 0) throw new CoreError("missing-key", "entries", "entries: none is a test cut of this foam with a kerf, a bow or a current measured");
    const { fit, next } = learnFrom(design, cuts);
    const accepted = withCalibration(design, acceptedFrom(fit, design.job.foam, cuts.length, input.at));
    return {
      cuts: cuts.length,
      learnt: fit.figures,
      residuals: fit.residuals,
      moved: movedFigures(design, accepted),
      next: next && { feed_mm_s: next.feedMPerS * 1000, power_W_per_m: next.powerWPerM, measure: next.measure, before: next.before, after: next.after },
      design: accepted,
    };
  },
);

/** The headless verbs of this room. */
export const CALIBRATION_VERBS: readonly Verb[] = [fitVerb, learnVerb];
