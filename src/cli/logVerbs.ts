import { z } from "zod";
import { acceptedFrom, movedFigures, withCalibration } from "@/core/calibration/accept";
import { learnFrom } from "@/core/calibration/learn";
import { teachingCuts } from "@/core/calibration/measured";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import { diagnose } from "@/core/diagnosis/diagnosis";
import { CoreError } from "@/core/kernel/errors";
import { demoLog } from "@/core/log/demoLog";
import { type Diagnosis, entrySchema, type TestCut } from "@/core/log/entries";
import { spoolUse } from "@/core/log/spools";
import { foamFamily } from "@/core/materials/foamSchema";
import type { FoamSpec } from "@/core/materials/foams";
import { cardRow, foamKey } from "@/core/sheets/settingCard";
import { figure } from "@/core/units/figure";
import { designFrom } from "./designVerbs";
import { type Verb, verb } from "./verb";

const MOST_ENTRIES = 500;
const entriesSchema = z.array(entrySchema).max(MOST_ENTRIES, { error: `has room for ${MOST_ENTRIES} entries` });
const EXAMPLE_LOG = demoLog();

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

const cardVerb = verb(
  "card",
  "The setting card: for each foam, the knob, volts, amps and feed that cut it cleanly with this set-up, with their bands; for a width and a room of choice. null where no setting is clean.",
  z.strictObject({
    design: z.unknown(),
    foams: z
      .array(z.strictObject({ family: foamFamily, density_kg_m3: figure("density_kg_m3") }))
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

const diagnoseVerb = verb(
  "diagnose",
  "What went wrong with the newest test cut of a log, by its face and its own figures: causes, likeliest first, each with one change; what did not help before comes last.",
  z.strictObject({ design: z.unknown(), entries: entriesSchema }),
  { design: DEMO_CUTTERS[0], entries: EXAMPLE_LOG },
  (input) => {
    const design = designFrom(input.design, "design");
    const newest = [...input.entries].sort((a, b) => (a.at < b.at ? 1 : -1));
    const cut = newest.find((entry): entry is TestCut => entry.kind === "test-cut");
    if (!cut) throw new CoreError("missing-key", "entries", "entries: none is a test cut");
    const past = newest.filter((entry): entry is Diagnosis => entry.kind === "diagnosis");
    const { fault, remedies } = diagnose(design, cut, past, "metric");
    return { fault, remedies: remedies.map(({ cause, reading, change, before }) => ({ cause, reading, change, before })) };
  },
);

const spoolsVerb: Verb = verb(
  "spools",
  "What a log's wire changes took from each spool, how many wires broke, and the work done with them.",
  z.strictObject({ entries: entriesSchema }),
  { entries: EXAMPLE_LOG },
  (input) => ({
    spools: spoolUse(input.entries).map(({ spool, changes, usedM, broke, cutM, hotMin }) => ({
      spool,
      changes,
      used_m: usedM,
      broke,
      cut_m: cutM,
      hot_min: hotMin,
    })),
  }),
);

/** What a log teaches and says. */
export const LOG_VERBS: readonly Verb[] = [learnVerb, cardVerb, diagnoseVerb, spoolsVerb];
