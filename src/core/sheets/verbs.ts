import { z } from "zod";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { designFrom } from "@/core/cutters/solve/verbs";
import { type Verb, verb } from "@/core/kernel/verb";
import { foamFamilySchema } from "@/core/materials/foamSchema";
import type { FoamSpec } from "@/core/materials/foams";
import { cardRow, foamKey } from "@/core/sheets/settingCard";
import { figure } from "@/core/units/figure";

const cardVerb = verb(
  "card",
  "The setting card: for each foam, the knob, volts, amps and feed that cut it cleanly with this set-up, with their bands; for a chosen width and room temperature. null where no setting is clean.",
  z.strictObject({
    design: z.unknown(),
    foams: z
      .array(z.strictObject({ family: foamFamilySchema, density_kg_m3: figure("density_kg_m3") }))
      .min(1, { error: "needs at least one foam" })
      .max(50, { error: "has room for 50 foams" })
      .optional(),
    width_mm: figure("width_mm").optional(),
    ambient_C: figure("ambient_C").optional(),
  }),
  {
    design: DEMO_CUTTERS[0],
    foams: [
      { family: "eps", density_kg_m3: 18 },
      { family: "xps", density_kg_m3: 35 },
    ],
    width_mm: 900,
  },
  (input) => {
    const design = designFrom(input.design, "design");
    const foams: FoamSpec[] = input.foams ?? [design.job.foam as FoamSpec];
    return {
      rows: foams.map((foam) => {
        const row = cardRow(design, { foam, widthMm: input.width_mm ?? design.job.width_mm, ambientC: input.ambient_C ?? design.ambient_C });
        return {
          foam: foamKey(foam),
          setting: row && {
            knob: row.knob && { kind: row.knob.kind, value: row.knob.value, from: row.settingBand?.low, to: row.settingBand?.high },
            feed_mm_s: row.feedMmS,
            volts_V: row.volts,
            current_A: row.currentA,
            power_W_per_m: row.heatWPerM,
            kerf_mm: row.kerfMm,
            kerfLow_mm: row.kerfBandMm.low,
            kerfHigh_mm: row.kerfBandMm.high,
            longerWire_mm: row.longerByMm,
            calibrated: row.calibrated,
          },
        };
      }),
    };
  },
);

/** The headless verbs of this room. */
export const SHEET_VERBS: readonly Verb[] = [cardVerb];
