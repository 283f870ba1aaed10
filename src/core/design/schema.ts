import { z } from "zod";
import { CoreError, type CoreErrorCode } from "../errors";
import { ALLOY_IDS } from "../materials/alloys";
import { FOAM_FAMILIES, type FoamFamilyId, type FoamSpec, forbiddenFoam, parseFoamId } from "../materials/foams";
import { FRAMING_IDS } from "../materials/framing";
import { STRAND_ENVELOPE } from "../materials/gauges";
import { DC_MAKES, mismatch } from "../models/circuit";
import type { CustomAlloySpec, WireSpec } from "../models/wire";
import { LIMITS, type LimitName } from "./limits";

/** A number inside one of the {@link LIMITS}; messages name the range. */
export function figure(name: LimitName) {
  const { min, max, unit } = LIMITS[name];
  const range = `must be a number from ${min} to ${max} ${unit}`;
  const error = (issue: { input?: unknown }) => (issue.input === undefined ? `is required: it ${range}` : range);
  return z.number({ error }).min(min, { error }).max(max, { error });
}

const fail = (ctx: z.core.$RefinementCtx, code: CoreErrorCode, message: string, path: (string | number)[] = []) =>
  ctx.issues.push({ code: "custom", message, path, params: { code }, input: undefined, continue: false });

const LONE_HALF = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/;

/** Text the database keeps as it is: no NUL, no half of a character pair. */
export const plainText = (most: number, message: string) =>
  z
    .string({ error: message })
    .max(most, { error: message })
    .refine((text) => !text.includes("\u0000") && !LONE_HALF.test(text), { error: "has a character that cannot be kept" });

/** Runs a schema inside a transform and passes its issues on with their own paths. */
function parsed<T extends z.ZodType>(schema: T, value: unknown, ctx: z.core.$RefinementCtx): z.output<T> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  for (const issue of result.error.issues) ctx.issues.push({ ...issue, input: undefined } as never);
  return z.NEVER;
}

const familyIds = FOAM_FAMILIES.map((family) => family.id);

/** A foam family by id; a foam that must never meet a hot wire is refused by name. */
export const foamFamily = z.string({ error: "is required: the foam's family" }).transform((id, ctx): FoamFamilyId => {
  const forbidden = forbiddenFoam(id);
  if (forbidden) fail(ctx, "forbidden-foam", `${forbidden.name} must never be cut with a hot wire: ${forbidden.why}`);
  else if (!familyIds.includes(id as FoamFamilyId)) fail(ctx, "not-one-of", `must be one of ${familyIds.join(", ")}`);
  return id as FoamFamilyId;
});

const foamFields = {
  density_kg_m3: figure("density_kg_m3"),
  /** True when the density is of a block that was measured and weighed. */
  weighed: z.boolean({ error: "must be true or false" }).optional(),
  /** A board with recycled content: it cuts less well, and things in it stop the wire. */
  recycled: z.boolean({ error: "must be true or false" }).optional(),
  conductivity_W_mK: figure("conductivity_W_mK").optional(),
  specificHeat_J_kgK: figure("specificHeat_J_kgK").optional(),
  latent_kJ_kg: figure("latent_kJ_kg").optional(),
  collapse_C: figure("collapse_C").optional(),
  strength10_kPa: figure("strength10_kPa").optional(),
};
const foamObject = z.strictObject({
  family: foamFamily,
  ...foamFields,
});

/** A foam by short name ("eps-20") or by figures. */
export const foamSchema = z.unknown().transform((value, ctx): FoamSpec => {
  if (typeof value !== "string") return parsed(foamObject, value, ctx);
  try {
    return parseFoamId(value);
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    fail(ctx, error.code, error.message);
    return z.NEVER;
  }
});

const customAlloy = z.strictObject({
  id: z.literal("custom", { error: 'must be "custom"' }),
  name: plainText(60, "must be at most 60 characters").optional(),
  resistivity_uohm_m: figure("resistivity_uohm_m"),
  temperatureFactor: z
    .array(
      z.tuple([figure("temperature_C"), z.number().min(0.5, { error: "factor must be from 0.5 to 10" }).max(10, { error: "factor must be from 0.5 to 10" })]),
    )
    .min(1, { error: "needs at least one [degC, factor] row" })
    .max(100, { error: "has room for 100 rows" })
    .refine((rows) => rows.every((row, i) => i === 0 || row[0] > (rows[i - 1] as [number, number])[0]), { error: "temperatures must rise from row to row" }),
  density_kg_m3: figure("alloyDensity_kg_m3"),
  specificHeat_J_kgK: z.number().min(50).max(2000).optional(),
  conductivity_W_mK: z.number().min(1).max(500).optional(),
  expansion_1e6_per_K: z.number().min(0).max(50).optional(),
  emissivity: z.number().min(0.01, { error: "must be from 0.01 to 1" }).max(1, { error: "must be from 0.01 to 1" }).optional(),
  melts_C: z.number().min(200).max(4000).optional(),
});

const alloySchema = z.unknown().transform((value, ctx): string | CustomAlloySpec => {
  if (value !== null && typeof value === "object") return parsed(customAlloy, value, ctx);
  if (typeof value === "string" && ALLOY_IDS.includes(value)) return value;
  fail(ctx, value === undefined ? "missing-key" : "not-one-of", `must be one of ${ALLOY_IDS.join(", ")}, or {id:"custom", ...}`);
  return z.NEVER;
});

/** The keys of a wire: alloy, one of three sizes, strands, temper or the load it breaks at, and what a meter said of it. */
export const wireFields = {
  alloy: alloySchema,
  diameter_mm: figure("diameter_mm").optional(),
  gauge_awg: figure("gauge_awg").optional(),
  gauge_swg: figure("gauge_swg")
    .int({ error: `must be a whole number from ${LIMITS.gauge_swg.min} to ${LIMITS.gauge_swg.max}` })
    .optional(),
  strands: z
    .number()
    .refine((n) => STRAND_ENVELOPE[n] !== undefined, { error: `must be one of ${Object.keys(STRAND_ENVELOPE).join(", ")}` })
    .optional(),
  temper: z.enum(["annealed", "spring"], { error: 'must be "annealed" or "spring"' }).optional(),
  measured_ohm_per_m: figure("measured_ohm_per_m").optional(),
  breaking_N: figure("breaking_N").optional(),
};
/** Refinement: exactly one size. */
export const oneSize = (wire: WireSpec, ctx: z.core.$RefinementCtx<WireSpec>) => {
  if ([wire.diameter_mm, wire.gauge_awg, wire.gauge_swg].filter((size) => size !== undefined).length !== 1) {
    fail(ctx as z.core.$RefinementCtx, "conflict", "must give exactly one of diameter_mm, gauge_awg, gauge_swg");
  }
};

export const wireSchema = z.strictObject(wireFields).superRefine(oneSize);

/** Supplies that kill: named so that they can be refused with their reason, never computed. */
export const LETHAL_SUPPLIES: Readonly<Record<string, { name: string; why: string }>> = {
  mains: { name: "Mains on the wire", why: "mains on the wire kills: it is refused, not computed. Use an isolated, earthed, fused extra-low-voltage supply." },
  "oven-transformer": {
    name: "Rewound oven transformer",
    why: "a rewound oven transformer kills, before and after rewinding: it is refused, not computed. Use a factory-made isolated supply.",
  },
  autotransformer: {
    name: "Autotransformer",
    why: "an autotransformer is not isolated from the mains: the wire can be at mains voltage. It is refused as a wire supply.",
  },
};

const voltage = z.unknown().transform((value, ctx): number => {
  if (typeof value === "number" && value > LIMITS.voltage_V.max) {
    fail(
      ctx,
      "lethal",
      `must be a number from ${LIMITS.voltage_V.min} to ${LIMITS.voltage_V.max} V: above that the bare wire can kill, and it is refused, not computed`,
    );
    return z.NEVER;
  }
  return parsed(figure("voltage_V"), value, ctx);
});

const dcSupply = z.strictObject({
  kind: z.literal("dc"),
  voltage_V: voltage,
  maxCurrent_A: figure("maxCurrent_A"),
  internal_ohm: figure("internal_ohm").optional(),
  make: z.enum(DC_MAKES, { error: `must be one of ${DC_MAKES.join(", ")}` }).optional(),
  maxVoltage_V: voltage.optional(),
});
const benchSupply = z.strictObject({
  kind: z.literal("bench"),
  voltage_V: voltage,
  current_A: figure("maxCurrent_A"),
  maxVoltage_V: voltage.optional(),
  maxCurrent_A: figure("maxCurrent_A").optional(),
});
const batterySupply = z.strictObject({
  kind: z.literal("battery"),
  chemistry: z.enum(["lead-acid", "lithium-ion", "nimh", "alkaline"], { error: "must be one of lead-acid, lithium-ion, nimh, alkaline" }),
  cells: figure("cells").int({ error: "must be a whole number from 1 to 50" }),
  capacity_Ah: figure("capacity_Ah"),
  stateOfCharge: figure("stateOfCharge").optional(),
  internal_ohm: figure("internal_ohm").optional(),
});
const transformerSupply = z.strictObject({
  kind: z.literal("transformer"),
  voltage_Vrms: z.unknown().transform((value, ctx): number => {
    if (typeof value === "number" && value > LIMITS.voltage_Vrms.max) {
      fail(
        ctx,
        "lethal",
        `must be a number from ${LIMITS.voltage_Vrms.min} to ${LIMITS.voltage_Vrms.max} V: above that alternating current on a bare wire can kill, and it is refused, not computed`,
      );
      return z.NEVER;
    }
    return parsed(figure("voltage_Vrms"), value, ctx);
  }),
  rating_VA: figure("rating_VA"),
  internal_ohm: figure("internal_ohm").optional(),
});
const kindsError = (kinds: string) => ({ error: `kind must be one of ${kinds}` });

/** Parses a supply with a union after refusing the ones that kill by name. */
const refusingLethal = <T extends z.ZodType>(union: T) =>
  z.unknown().transform((value, ctx): z.output<T> => {
    const kind = value !== null && typeof value === "object" && "kind" in value ? value.kind : undefined;
    const why = typeof kind === "string" ? LETHAL_SUPPLIES[kind]?.why : undefined;
    if (why) {
      fail(ctx, "lethal", why, ["kind"]);
      return z.NEVER;
    }
    return parsed(union, value, ctx);
  });

/** Every supply the core solves. */
export const supplySchema = refusingLethal(
  z.discriminatedUnion("kind", [dcSupply, benchSupply, batterySupply, transformerSupply], kindsError("dc, bench, battery, transformer")),
);

const directControl = z.strictObject({ kind: z.literal("direct") });
const pwmControl = z.strictObject({ kind: z.literal("pwm"), duty: figure("duty") });
/** Every control the core solves. */
export const controlSchema = z.discriminatedUnion(
  "kind",
  [
    directControl,
    pwmControl,
    z.strictObject({ kind: z.literal("phase"), delay_deg: figure("delay_deg") }),
    z.strictObject({ kind: z.literal("buck"), voltage_V: figure("voltage_V"), efficiency: figure("efficiency").optional() }),
    z.strictObject({ kind: z.literal("rheostat"), ohm: figure("rheostat_ohm") }),
    z.strictObject({ kind: z.literal("tap"), fraction: figure("fraction") }),
    z.strictObject({ kind: z.literal("clip"), live_mm: figure("length_mm") }),
  ],
  kindsError("direct, pwm, phase, buck, rheostat, tap, clip"),
);

export const leadsSchema = z.strictObject({
  gauge_awg: figure("leadGauge_awg"),
  oneWay_m: figure("oneWay_m"),
  joint_ohm: figure("joint_ohm").optional(),
});

const frameSize = figure("frameSize_mm");
const sectionSize = figure("sectionSize_mm");
/** A cross-section that bends. */
export const sectionSchema = z
  .discriminatedUnion(
    "shape",
    [
      z.strictObject({ shape: z.literal("bar"), width_mm: sectionSize, depth_mm: sectionSize }),
      z.strictObject({ shape: z.literal("rod"), diameter_mm: sectionSize }),
      z.strictObject({ shape: z.literal("tube"), diameter_mm: sectionSize, wall_mm: sectionSize }),
    ],
    { error: "shape must be one of bar, rod, tube" },
  )
  .superRefine((section, ctx) => {
    if (section.shape === "tube" && 2 * section.wall_mm > section.diameter_mm) {
      fail(ctx as z.core.$RefinementCtx, "out-of-range", `must be at most half of diameter_mm (${section.diameter_mm / 2} mm)`, ["wall_mm"]);
    }
  });
const framing = z.enum(FRAMING_IDS, { error: `must be one of ${FRAMING_IDS.join(", ")}` });

/** The frame that holds the wire. */
const frameSchema = z.discriminatedUnion(
  "kind",
  [
    z.strictObject({
      kind: z.literal("bow-saw"),
      wire_arm_mm: frameSize,
      cable_arm_mm: frameSize,
      arm_material: framing,
      arm: sectionSchema,
      spreader_mm: frameSize,
      spreader_material: framing,
      spreader: sectionSchema,
      ends: z.enum(["pinned", "one fixed", "fixed"], { error: "must be one of pinned, one fixed, fixed" }),
    }),
    z.strictObject({ kind: z.literal("c-frame"), throat_mm: frameSize, back_mm: frameSize, material: framing, section: sectionSchema }),
    z.strictObject({ kind: z.literal("table-arm"), arm_mm: frameSize, material: framing, section: sectionSchema }),
    z.strictObject({ kind: z.literal("camber-tube"), span_mm: frameSize, rise_mm: frameSize, material: framing, section: sectionSchema }),
  ],
  { error: "kind must be one of bow-saw, c-frame, table-arm, camber-tube" },
);

export const SWITCHES = ["foot", "hand", "none"] as const;
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
});

/** What this cutter's test cuts taught about one foam, accepted by the maker. See docs/file-format.md. */
const calibrationSchema = z.strictObject({
  foam: z.strictObject({ family: foamFamily, density_kg_m3: figure("density_kg_m3") }),
  /** When it was accepted, and from how many cuts. */
  at: z.iso.datetime({ error: "must be a date and time" }),
  cuts: z.number().int({ error: "must be a whole number" }).min(1, { error: "must be 1 to 200" }).max(200, { error: "must be 1 to 200" }),
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

export const CUTTER_KINDS = ["bow", "table", "drop", "template", "slicer", "frame", "loop", "wand"] as const;
export type CutterKind = (typeof CUTTER_KINDS)[number];
export const TENSION_DEVICES = ["spring", "weight", "arm", "turnbuckle", "band"] as const;
export type TensionDevice = (typeof TENSION_DEVICES)[number];

export const DESIGN_FORMAT = "upwind-rod/design";
export const DESIGN_VERSION = 2;

/** A cutter and the job it is set up for: what is saved, exported and solved. Format version 2; see docs/file-format.md. */
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
      maxKerf_mm: figure("maxKerf_mm").default(2.5),
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
  })
  .superRefine((design, ctx) => {
    const trouble = mismatch(design.supply, design.control);
    if (trouble) fail(ctx as z.core.$RefinementCtx, "conflict", trouble, ["control", "kind"]);
    if (design.control.kind === "clip" && design.control.live_mm > design.wire.length_mm) {
      fail(ctx as z.core.$RefinementCtx, "out-of-range", `must be at most wire.length_mm (${design.wire.length_mm} mm)`, ["control", "live_mm"]);
    }
  });
export type Design = z.output<typeof designSchema>;

const issueCodes: Partial<Record<string, CoreErrorCode>> = {
  too_small: "out-of-range",
  too_big: "out-of-range",
  invalid_value: "not-one-of",
  invalid_union: "not-one-of",
};

/** The first complaint of a schema as the core's own error: stable code, dotted path, words that name the field. */
export function toCoreError(error: z.ZodError, prefix = ""): CoreError {
  const issue = error.issues[0] as z.core.$ZodIssue;
  const steps = [...(prefix ? [prefix] : []), ...issue.path.map(String)];
  if (issue.code === "unrecognized_keys") {
    const path = [...steps, issue.keys[0]].join(".");
    return new CoreError("unknown-key", path, `${path} is not a known key`);
  }
  const path = steps.join(".");
  const asked = issue.code === "custom" ? (issue.params?.code as CoreErrorCode | undefined) : undefined;
  const missing = issue.message.startsWith("is required") || issue.message.includes("received undefined");
  const code = asked ?? (missing ? "missing-key" : (issueCodes[issue.code] ?? (issue.code === "custom" ? "out-of-range" : "wrong-type")));
  return new CoreError(code, path, path && !issue.message.startsWith(path) ? `${path} ${issue.message}` : issue.message);
}

/**
 * Parses with a schema or throws the first complaint as a {@link CoreError}.
 * @param prefix put before the path, such as a list index
 */
export function parseOrThrow<T extends z.ZodType>(schema: T, value: unknown, prefix = ""): z.output<T> {
  const result = schema.safeParse(value);
  if (!result.success) throw toCoreError(result.error, prefix);
  return result.data;
}
