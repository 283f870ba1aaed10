import { z } from "zod";
import { CATALOGUE_CONTROLS, searchSetups, usualBowM } from "@/core/cutters/search/search";
import { type Verb, verb } from "@/core/kernel/verb";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { controlSchema } from "@/core/physics/power/controlSchema";
import { CONTROL_KINDS, type ControlKind } from "@/core/physics/power/controls";
import { supplySchema } from "@/core/physics/power/supplySchema";
import { ambient, figure } from "@/core/units/figure";

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

/** The headless verbs of this room. */
export const SEARCH_VERBS: readonly Verb[] = [searchVerb];
