import { z } from "zod";
import { bounded, boundedWhole } from "../kernel/bounded";
import type { DocumentKind } from "../kernel/document";
import { mergerOf, type PartsOf } from "../kernel/merge";
import { plainText } from "../kernel/parse";
import { figure } from "../units/figure";
import { type EndShape, shapeSchema } from "./shapes";

export const PLAN_FORMAT = "upwind-rod/plan";
export const PLAN_VERSION = 1;
/** Longest file, characters: an outline of many points at each end. */
export const MAX_PLAN_CHARACTERS = 4_000_000;

export const GUIDANCE = ["edge", "centre"] as const;
export const FACES = ["pair", "single", "flip"] as const;
export const MATERIALS = ["metal", "laminate", "plywood", "card"] as const;
export const HANDS = ["one", "left and right"] as const;
/** How a part's faces follow one another. All three schools (common practice). */
export const ORDERS = ["lower first", "round", "flip"] as const;
/** How a template lies on its base line: turned by the washout, so that both ends' base lines agree, or along its own chord. */
export const BASES = ["turned", "chord"] as const;
/** What is made for a spar: a slot that the wire cuts, or only a mark where one rests. */
export const SPARS = ["slot", "mark"] as const;

const size = (least: number, most: number) => bounded(least, most, "mm");
const degrees = (most: number) => bounded(-most, most, "degrees");
const share = bounded(0, 1, "(share of the chord)");
const oneOf = <T extends readonly [string, ...string[]]>(of: T) => z.enum(of, { error: `must be one of ${of.join(", ")}` });

const seconds = (least: number, most: number) => bounded(least, most, "s");
const pairsSchema = z
  .array(z.tuple([boundedWhole(0, 10_000), boundedWhole(0, 10_000)], { error: "must be [corner at the root, corner at the tip]" }))
  .max(1000, { error: "has room for 1000 pairs" })
  .default([]);

const endSchema = z.strictObject({
  shape: shapeSchema,
  /** x extent; a shape of its own size may go without */
  chord_mm: figure("chord_mm").optional(),
  /** heights times so many */
  thickness: z
    .number({ error: "must be a number from 0.1 to 5" })
    .min(0.1, { error: "must be a number from 0.1 to 5" })
    .max(5, { error: "must be a number from 0.1 to 5" })
    .default(1),
  /** Counter-clockwise, before the chord is measured. */
  turn_deg: degrees(180).default(0),
  /** Where it lies from where it would: aft, and up. */
  x_mm: size(-5000, 5000).default(0),
  y_mm: size(-5000, 5000).default(0),
});

/** How a tip lies to its root. */
const lie = {
  span_mm: size(1, 10_000),
  /** tip's leading edge aft of the root's */
  sweep_mm: size(-5000, 5000).default(0),
  /** tip up */
  offset_mm: size(-5000, 5000).default(0),
  /** tip turned nose down */
  washout_deg: degrees(45).default(0),
};

/** A further panel: from the tip of the one before it to a tip of its own. The two share a template at the joint. */
const panelSchema = z.strictObject({ tip: endSchema, ...lie, tipKerf_mm: figure("maxKerf_mm").optional() });

const endTimesSchema = z.array(seconds(0, 86_400).nullable()).max(2000, { error: "has room for 2000 stations" });

/** A part to be cut and everything its templates and its blank come from. Format version 1; see docs/file-format.md. */
export const planSchema = z.strictObject({
  format: z.literal(PLAN_FORMAT, { error: `must be "${PLAN_FORMAT}"` }),
  version: z.literal(PLAN_VERSION, { error: `must be ${PLAN_VERSION}` }),
  name: plainText(400, "is required: the plan's name").trim().min(1, { error: "must be 1 to 80 characters" }).max(80, { error: "must be 1 to 80 characters" }),
  notes: plainText(4000, "must be at most 4000 characters").default(""),
  /** The cutter it is meant for: its id here, and its name for a workshop that has it not. */
  cutter: z.strictObject({ id: z.uuid({ error: "must be an id" }), name: plainText(80, "must be at most 80 characters") }).nullable(),
  root: endSchema,
  /** null: the same as the root, a part of one section all along */
  tip: endSchema.nullable(),
  part: z.strictObject({
    ...lie,
    washoutAt: share.default(0.25),
    /** laid on afterwards, each face */
    skin_mm: size(0, 50).default(0),
    hands: oneOf(HANDS).default("one"),
  }),
  /** Beyond the tip, each from the one before. */
  panels: z.array(panelSchema).max(12, { error: "has room for 12 panels beyond the first" }).default([]),
  cut: z.strictObject({
    /** at the root; null takes the cutter's own */
    feed_mm_s: figure("feed_mm_s").nullable().default(null),
    guidance: oneOf(GUIDANCE).default("edge"),
    /** Measured, where somebody measured them: they count before the computed ones. */
    rootKerf_mm: figure("maxKerf_mm").optional(),
    tipKerf_mm: figure("maxKerf_mm").optional(),
  }),
  template: z.strictObject({
    faces: oneOf(FACES).default("pair"),
    material: oneOf(MATERIALS).default("laminate"),
    thickness_mm: size(0.1, 30).default(1),
    /** The ramp the wire comes in by: its slope and its length along the chord. */
    ramp_deg: degrees(60).default(20),
    ramp_mm: size(0, 500).default(30),
    runOut_mm: size(0, 500).default(25),
    /** Pin holes that both faces and both ends share, shares of the chord. */
    pins: z.array(share).max(6, { error: "has room for 6 pins" }).default([0.3, 0.7]),
    /** A twist between the two base lines is wanted. */
    twist: z.boolean({ error: "must be true or false" }).default(false),
    base: oneOf(BASES).default("turned"),
    /** For a spar, at a share of each end's chord. */
    spar: z
      .strictObject({ as: oneOf(SPARS), face: oneOf(["upper", "lower"]), at: share, width_mm: size(0.5, 200), depth_mm: size(0.5, 500) })
      .nullable()
      .default(null),
    /** The wire runs past sharp outer corners by so much and comes back on the next edge's line. */
    ear_mm: size(0, 100).default(0),
  }),
  blank: z.strictObject({
    nose_mm: size(0, 500).default(15),
    tail_mm: size(0, 500).default(30),
    top_mm: size(0, 500).default(10),
    bottom_mm: size(0, 500).default(10),
    /** Off both faces of an extruded board before the cut, so that its stress does not bow the part. */
    trim_mm: size(0, 50).default(0),
    /** The thickest place of the root in the middle of the block's height: the margins are then the least above and below. */
    centred: z.boolean({ error: "must be true or false" }).default(false),
  }),
  stations: z
    .strictObject({
      /** Whole numbers on a face; null: as many as come every so many seconds. */
      count: boundedWhole(1, 500).nullable().default(null),
      seconds: seconds(0.5, 60).default(4),
      parts: boundedWhole(1, 16).default(4),
      /** Corners that a person tied: which at the root, which at the tip, from 0, by face. */
      pairs: z.strictObject({ upper: pairsSchema, lower: pairsSchema, whole: pairsSchema }).default({ upper: [], lower: [], whole: [] }),
    })
    .default({ count: null, seconds: 4, parts: 4, pairs: { upper: [], lower: [], whole: [] } }),
  pace: z
    .strictObject({
      tolerance_mm: size(0.02, 20).default(0.3),
      hold: z.enum(["line", "face"], { error: "must be one of line, face" }).default("line"),
      corner: z.enum(["wait", "slow", "past", "best"], { error: "must be one of wait, slow, past, best" }).default("best"),
      order: oneOf(ORDERS).default("lower first"),
      /** Templates biased by part of what the middle lags, so that root, middle and tip miss by half instead of the middle by all. */
      share: z.boolean({ error: "must be true or false" }).default(false),
    })
    .default({ tolerance_mm: 0.3, hold: "line", corner: "best", order: "lower first", share: false }),
  /** What is done with the part after the cut. */
  finish: z
    .strictObject({
      grit: boundedWhole(40, 2000).default(150),
      glue: plainText(60, "must be at most 60 characters").default(""),
      skin: plainText(60, "must be at most 60 characters").default(""),
      /** Hours before it is measured again; null: as its foam wants. */
      rest_h: z
        .number({ error: "must be a number from 0 to 1000 h" })
        .min(0, { error: "must be a number from 0 to 1000 h" })
        .max(1000, { error: "must be a number from 0 to 1000 h" })
        .nullable()
        .default(null),
    })
    .default({ grit: 150, glue: "", skin: "", rest_h: null }),
  /** Cuts that were made by it, newest first: what each station should have taken and took. */
  runs: z
    .array(
      z.strictObject({
        at: z.iso.datetime({ error: "must be a date and time" }),
        face: z.enum(["upper", "lower", "whole"], { error: "must be one of upper, lower, whole" }),
        panel: boundedWhole(1, 13).default(1),
        labels: z.array(plainText(12, "must be at most 12 characters")).max(2000, { error: "has room for 2000 stations" }),
        planned_s: z.array(seconds(0, 86_400)).max(2000, { error: "has room for 2000 stations" }),
        real_s: z.array(seconds(0, 86_400)).max(2000, { error: "has room for 2000 stations" }),
        pauses_s: seconds(0, 86_400).default(0),
        /** what each end took by its own word, where two screens led it; null for a number it did not mark */
        ends_s: z.strictObject({ root: endTimesSchema, tip: endTimesSchema }).optional(),
      }),
    )
    .max(30, { error: "has room for 30 runs" })
    .default([]),
  /** What the templates were last made from, so that it shows when the cutter has moved since. */
  made: z
    .strictObject({
      at: z.iso.datetime({ error: "must be a date and time" }),
      heat_W_per_m: figure("power_W_per_m"),
      rootFeed_mm_s: figure("feed_mm_s"),
      rootKerf_mm: figure("maxKerf_mm"),
      tipKerf_mm: figure("maxKerf_mm"),
    })
    .optional(),
});
export type Plan = z.output<typeof planSchema>;
export type PlanEnd = Plan["root"];
export type Panel = Plan["panels"][number];

export const PLAN_KIND: DocumentKind<Plan> = {
  format: PLAN_FORMAT,
  version: PLAN_VERSION,
  one: "plan",
  maxCharacters: MAX_PLAN_CHARACTERS,
  schema: planSchema as z.ZodType<Plan>,
  upgrades: {},
};

const PARTS: PartsOf<Plan> = {
  format: null,
  version: null,
  name: "name",
  notes: "notes",
  cutter: "cutter",
  root: "root",
  tip: "tip",
  part: {
    each: {
      span_mm: "span",
      sweep_mm: "sweep",
      offset_mm: "offset",
      washout_deg: "washout",
      washoutAt: "washout's axis",
      skin_mm: "skin",
      hands: "hands",
    },
  },
  panels: "panels",
  cut: { each: { feed_mm_s: "feed", guidance: "guidance", rootKerf_mm: "root kerf", tipKerf_mm: "tip kerf" } },
  template: {
    each: {
      faces: "templates",
      material: "template material",
      thickness_mm: "template thickness",
      ramp_deg: "ramp",
      ramp_mm: "ramp's length",
      runOut_mm: "run-out",
      pins: "pins",
      twist: "twist",
      base: "base line",
      spar: "spar",
      ear_mm: "ears",
    },
  },
  blank: {
    each: {
      nose_mm: "nose margin",
      tail_mm: "tail margin",
      top_mm: "top margin",
      bottom_mm: "bottom margin",
      trim_mm: "trim",
      centred: "thickest part centred",
    },
  },
  stations: { each: { count: "number of stations", seconds: "seconds a station", parts: "parts of a station", pairs: "paired corners" } },
  pace: { each: { tolerance_mm: "tolerance", hold: "what is held", corner: "corners", order: "order of faces", share: "shared error" } },
  finish: { each: { grit: "grit", glue: "glue", skin: "skin of", rest_h: "rest" } },
  runs: "runs",
  made: "what the templates were made from",
};
export const planMerger = mergerOf(PARTS);

type GivenEnd = { shape: EndShape } & Partial<Omit<PlanEnd, "shape">>;

/** A plan from a few words; everything else as it usually begins. */
export function newPlan(
  name: string,
  given: {
    root: GivenEnd;
    tip?: GivenEnd | null;
    panels?: readonly ({ tip: GivenEnd; span_mm: number } & Partial<Omit<Panel, "tip" | "span_mm">>)[];
    part: Partial<Plan["part"]> & { span_mm: number };
  } & {
    [K in "cut" | "template" | "blank" | "stations" | "pace"]?: Partial<Plan[K]>;
  },
  cutter: Plan["cutter"] = null,
): Plan {
  return planSchema.parse({
    format: PLAN_FORMAT,
    version: PLAN_VERSION,
    name,
    cutter,
    root: given.root,
    tip: given.tip ?? null,
    part: given.part,
    panels: given.panels ?? [],
    cut: given.cut ?? {},
    template: given.template ?? {},
    blank: given.blank ?? {},
    ...(given.stations ? { stations: given.stations } : {}),
    ...(given.pace ? { pace: given.pace } : {}),
  });
}

/** Section, chord and span of a plan that nobody has given a size yet. */
const FIRST = { code: "2412", thick: 0.12, chordMm: 200, spanMm: 600 } as const;

/**
 * The plan a person begins with: one section all along until a second end is chosen.
 * @param job the block of the cutter that it is meant for, mm: the part is as long as the block is wide, and no thicker than its margins leave room for
 */
export function firstPlan(name = "New plan", cutter: Plan["cutter"] = null, job?: { width_mm: number; thickness_mm: number }): Plan {
  const shape = { kind: "naca4", code: FIRST.code } as const;
  const plan = newPlan(name, { root: { shape, chord_mm: FIRST.chordMm }, part: { span_mm: Math.min(10_000, job?.width_mm ?? FIRST.spanMm) } }, cutter);
  if (!job) return plan;
  const margin_mm = Math.min(plan.blank.top_mm, Math.floor(job.thickness_mm / 4));
  const chord_mm = Math.min(FIRST.chordMm, Math.max(1, Math.floor((job.thickness_mm - 2 * margin_mm) / FIRST.thick)));
  return { ...plan, root: { ...plan.root, chord_mm }, blank: { ...plan.blank, top_mm: margin_mm, bottom_mm: margin_mm } };
}
