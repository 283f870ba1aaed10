import { z } from "zod";
import { boundedWhole } from "../../kernel/bounded";
import { JUDGEMENT } from "../../kernel/constants";
import { fail, plainText } from "../../kernel/parse";
import { foamNameFields, foamObject } from "../../materials/foamSchema";
import { oneSize, wireFields } from "../../physics/heat/wireSchema";
import { frameSchema } from "../../physics/mechanics/frameSchema";
import { mismatch } from "../../physics/power/circuit";
import { controlSchema } from "../../physics/power/controlSchema";
import { leadsSchema } from "../../physics/power/leadsSchema";
import { supplySchema } from "../../physics/power/supplySchema";
import { figure } from "../../units/figure";
import { CUTTER_KINDS, DESIGN_FORMAT, DESIGN_VERSION, SAFETY_KEYS, SWITCHES, TENSION_DEVICES } from "./vocabulary";

const answeredSchema = z.strictObject({
  at: z.iso.datetime({ error: "must be a date and time" }),
  by: plainText(80, "must be at most 80 characters").nullable(),
});

/** Choices of the wiring that can be made wrong. */
const wiringSchema = z.strictObject({
  /** Current is led past the tension spring by a jumper, or the lead sits on the wire itself. */
  jumper: z.boolean({ error: "must be true or false" }).optional(),
  /** One post is insulated from the frame. */
  insulatedPost: z.boolean({ error: "must be true or false" }).optional(),
  switch: z.enum(SWITCHES, { error: `must be one of ${SWITCHES.join(", ")}` }).optional(),
  /** Fuse fitted, A; null for none. */
  fuse_A: figure("maxCurrent_A").nullable().optional(),
  /** Whether the supply is known to be isolated from the mains. */
  isolation: z.enum(["isolated", "unknown"], { error: "must be isolated or unknown" }).optional(),
  /** Which of these a person has answered, when, and who where somebody was signed in. What is not here is unknown, even where the field has a value. */
  answered: z.partialRecord(z.enum(SAFETY_KEYS), answeredSchema).optional(),
});

/** What this cutter's test cuts taught about one foam, accepted by the maker. See docs/file-format.md. */
const calibrationSchema = z.strictObject({
  foam: z.strictObject(foamNameFields),
  /** When it was accepted, and from how many cuts. */
  at: z.iso.datetime({ error: "must be a date and time" }),
  cuts: boundedWhole(1, 200),
  heatShare: figure("learntShare"),
  collapseShift_K: figure("learntShift_K"),
  densityShare: figure("learntShare"),
  dragShare: figure("learntShare"),
  clearanceShare: figure("learntShare"),
  extra_ohm: figure("learntOhm"),
  /** Lower triangular factor of the covariance of heat, collapse, density, drag and clearance, row by row. */
  factor: z.array(z.number({ error: "must be a number" })).length(15, { error: "must have fifteen numbers" }),
});
export type AcceptedCalibration = z.output<typeof calibrationSchema>;
const MOST_CALIBRATIONS = 30;

/** A cutter and the job it is set up for: what is saved, exported and solved. Format version 3; see docs/file-format.md. */
export const designSchema = z
  .strictObject({
    format: z.literal(DESIGN_FORMAT, { error: `must be "${DESIGN_FORMAT}"` }),
    version: z.literal(DESIGN_VERSION, { error: `must be ${DESIGN_VERSION}` }),
    name: plainText(400, "is required: the cutter's name")
      .trim()
      .min(1, { error: "must be 1 to 80 characters" })
      .max(80, { error: "must be 1 to 80 characters" }),
    kind: z.enum(CUTTER_KINDS, { error: `must be one of ${CUTTER_KINDS.join(", ")}` }),
    notes: plainText(4000, "must be at most 4000 characters").default(""),
    ambient_C: figure("ambient_C").default(20),
    job: z.strictObject({
      foam: foamObject,
      width_mm: figure("width_mm"),
      thickness_mm: figure("thickness_mm"),
      feed_mm_s: figure("feed_mm_s"),
      maxKerf_mm: figure("maxKerf_mm").default(JUDGEMENT.acceptedKerfMm),
    }),
    wire: z.strictObject({ ...wireFields, length_mm: figure("length_mm") }).superRefine(oneSize),
    supply: supplySchema,
    control: controlSchema,
    leads: leadsSchema.optional(),
    tension: z.strictObject({
      device: z.enum(TENSION_DEVICES, { error: `must be one of ${TENSION_DEVICES.join(", ")}` }),
      hot_N: figure("force_N"),
      rate_N_per_mm: figure("rate_N_per_mm").optional(),
      /** A spring's own figures, measured: pull it is wound with, length at rest, most it may be stretched. */
      initial_N: figure("tension_N").optional(),
      rest_mm: figure("length_mm").optional(),
      travel_mm: figure("travel_mm").optional(),
    }),
    frame: frameSchema.optional(),
    calibrations: z
      .array(calibrationSchema)
      .max(MOST_CALIBRATIONS, { error: `has room for ${MOST_CALIBRATIONS} foams` })
      .optional(),
    /** How it is joined up; what is left out is done as advised. */
    wiring: wiringSchema.optional(),
    /** The maker called it ready to switch on. Never with a hazard that blocks. */
    ready: z.literal(true, { error: "must be true or left out" }).optional(),
    /** It was called ready before its safety questions were asked of a person: said until it is called ready again. */
    readyWithdrawn: z.literal(true, { error: "must be true or left out" }).optional(),
  })
  .superRefine((design, ctx) => {
    const trouble = mismatch(design.supply, design.control);
    if (trouble) fail(ctx as z.core.$RefinementCtx, "conflict", trouble, ["control", "kind"]);
    if (design.control.kind === "clip" && design.control.live_mm > design.wire.length_mm) {
      fail(ctx as z.core.$RefinementCtx, "out-of-range", `must be at most wire.length_mm (${design.wire.length_mm} mm)`, ["control", "live_mm"]);
    }
  });
export type Design = z.output<typeof designSchema>;
