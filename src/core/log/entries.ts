import { z } from "zod";
import { plainText } from "../kernel/parse";
import type { RowKind } from "../kernel/rowDocument";
import { foamNameFields } from "../materials/foamSchema";
import { wireSchema } from "../physics/heat/wireSchema";
import { controlSchema } from "../physics/power/controlSchema";
import { leadsSchema } from "../physics/power/leadsSchema";
import { supplySchema } from "../physics/power/supplySchema";
import { figure } from "../units/figure";
import { QUANTITIES, type Quantity } from "../units/units";

/** When something happened: within living memory and a lifetime ahead, so that a slip of the keyboard is seen. */
const datedSchema = z.iso
  .datetime({ error: "must be a date and time" })
  .refine((text) => text >= "1900" && text < "2101", { error: "must be a date from 1900 to 2100" });

/** A check of the wire's tension: what was measured, and how. */
const tensionCheck = z.strictObject({
  kind: z.literal("tension-check"),
  at: datedSchema,
  tension_N: figure("tension_N"),
  frequency_Hz: figure("frequency_Hz").optional(),
  how: z.enum(["pitch", "spring", "weight"], { error: "must be one of pitch, spring, weight" }),
  /** Wire hot or cold while it was measured. */
  hot: z.boolean({ error: "must be true or false" }).default(false),
  note: plainText(300, "must be at most 300 characters").default(""),
});

export const CUT_FACES = ["matt", "hairs", "glossy", "ridged", "grooved", "hooked", "burnt-end", "tapered", "thin-middle", "twisted"] as const;
export type CutFace = (typeof CUT_FACES)[number];

const at = datedSchema;
const note = plainText(500, "must be at most 500 characters").default("");
const foam = z.strictObject({ ...foamNameFields, weighed: z.boolean({ error: "must be true or false" }).optional() });
const setting = plainText(60, "must be at most 60 characters").default("");
const spoolName = plainText(80, "must be at most 80 characters");

/** A cut really made at the cutter: the set-up it was made with, and what came out. */
const testCut = z.strictObject({
  kind: z.literal("test-cut"),
  at,
  foam,
  /** The block's name in the drawer. */
  block: plainText(80, "must be at most 80 characters").optional(),
  width_mm: figure("width_mm"),
  /** The wire that made it. */
  wire: wireSchema,
  wire_length_mm: figure("length_mm"),
  /** Its supply, control and leads, the knob as it was; the room; the pull while hot. */
  supply: supplySchema.optional(),
  control: controlSchema.optional(),
  leads: leadsSchema.optional(),
  ambient_C: figure("ambient_C").optional(),
  tension_N: figure("force_N").optional(),
  /** What the knob said, in words, and what was measured where it was: across the wire, and through it. */
  setting,
  volts_V: figure("voltage_V").optional(),
  current_A: figure("drivingCurrent_A").optional(),
  /** Heat in the cut as computed for this set-up at the time: what a calibration will be held against. */
  heat_W_per_m: figure("power_W_per_m").optional(),
  feed_mm_s: figure("feed_mm_s"),
  kerf_mm: figure("kerf_mm").optional(),
  /** How far from where the wire went in the kerf was measured, where somebody said. */
  kerf_at_mm: figure("width_mm").optional(),
  lag_mm: figure("lag_mm").optional(),
  face: z.enum(CUT_FACES, { error: `must be one of ${CUT_FACES.join(", ")}` }),
  /** A picture kept next to the log. */
  photo: z.uuid({ error: "must be an id" }).optional(),
  note,
});

/** A wire taken off and another put on. */
const wireChange = z.strictObject({
  kind: z.literal("wire-change"),
  at,
  why: z.enum(["broke", "worn", "other wire", "first"], { error: "must be one of broke, worn, other wire, first" }),
  wire: wireSchema,
  /** Spool it was cut from, by its name in the drawer, and how much with both ends. */
  spool: spoolName.optional(),
  cut_mm: figure("length_mm"),
  note,
});

/** Work done: pieces cut, and how long the wire was hot. */
const run = z.strictObject({
  kind: z.literal("run"),
  at,
  foam,
  width_mm: figure("width_mm"),
  setting,
  feed_mm_s: figure("feed_mm_s"),
  pieces: figure("pieces").int({ error: "must be a whole number" }).default(1),
  /** Way cut, all pieces together. */
  cut_m: figure("cutLength_m").optional(),
  hot_min: figure("minutes").optional(),
  note,
});

/** A setting taken off the card for a job. */
const settingUsed = z.strictObject({
  kind: z.literal("setting"),
  at,
  foam,
  width_mm: figure("width_mm"),
  setting,
  feed_mm_s: figure("feed_mm_s"),
  volts_V: figure("voltage_V").optional(),
  current_A: figure("drivingCurrent_A").optional(),
  note,
});

/** What went wrong with a cut, the one change that was tried for it, and whether it helped. */
const diagnosis = z.strictObject({
  kind: z.literal("diagnosis"),
  at,
  fault: z.enum(CUT_FACES, { error: `must be one of ${CUT_FACES.join(", ")}` }),
  cause: plainText(60, "must be at most 60 characters"),
  change: plainText(300, "must be at most 300 characters"),
  outcome: z.enum(["untried", "helped", "no help"], { error: "must be one of untried, helped, no help" }).default("untried"),
  note,
});

/** A cut on a rig: what the rig's own record asks for, each figure with its name, so that it is read without the rig. */
const rigCut = z.strictObject({
  kind: z.literal("rig-cut"),
  at,
  /** the rig's kind, and its own name */
  rig: plainText(20, "must be at most 20 characters"),
  name: plainText(80, "must be at most 80 characters"),
  figures: z
    .array(
      z.strictObject({
        key: plainText(30, "must be at most 30 characters"),
        label: plainText(60, "must be at most 60 characters"),
        quantity: z.enum(Object.keys(QUANTITIES) as [Quantity, ...Quantity[]], { error: "must be a quantity" }).optional(),
        value: z
          .number({ error: "must be a number" })
          .min(-1e6, { error: "must be a number from -1000000 to 1000000" })
          .max(1e6, { error: "must be a number from -1000000 to 1000000" }),
      }),
    )
    .max(12, { error: "has room for 12 figures" }),
  note,
});

/** What may be done with a part after it is cut, in its order. */
export const FINISHING = ["stress", "cool", "hairs", "lines", "tail", "nose", "check", "glue", "skin", "rest"] as const;
export type Finishing = (typeof FINISHING)[number];

/** A cut part finished: what was done with it. */
const finish = z.strictObject({
  kind: z.literal("finish"),
  at,
  /** the part's name, and how many of it */
  part: plainText(80, "must be at most 80 characters").min(1, { error: "must be 1 to 80 characters" }),
  pieces: figure("pieces").int({ error: "must be a whole number" }).default(1),
  done: z
    .array(z.enum(FINISHING, { error: `must be one of ${FINISHING.join(", ")}` }))
    .min(1, { error: "must name at least one step" })
    .max(FINISHING.length, { error: `has room for ${FINISHING.length} steps` }),
  note,
});

/** One dated entry of a cutter's log. */
export const entrySchema = z.discriminatedUnion("kind", [tensionCheck, testCut, wireChange, run, settingUsed, diagnosis, rigCut, finish], {
  error: "kind must be one of tension-check, test-cut, wire-change, run, setting, diagnosis, rig-cut, finish",
});
export type LogEntry = z.output<typeof entrySchema>;
export type EntryKind = LogEntry["kind"];
export const ENTRY_KINDS = [
  "test-cut",
  "setting",
  "run",
  "wire-change",
  "tension-check",
  "diagnosis",
  "rig-cut",
  "finish",
] as const satisfies readonly EntryKind[];
export type TensionCheck = Extract<LogEntry, { kind: "tension-check" }>;
export type TestCut = Extract<LogEntry, { kind: "test-cut" }>;
export type WireChange = Extract<LogEntry, { kind: "wire-change" }>;
export type Diagnosis = Extract<LogEntry, { kind: "diagnosis" }>;

const DAY_MS = 24 * 3600 * 1000;
/** Timber creeps, springs settle and joints slip in the first days; after that a month will do (common practice). */
const FIRST_DAYS = 3;
const LATER_DAYS = 30;
/** A tension that fell by more than this since the last check has not settled. */
const SETTLED_SHARE = 0.05;

export interface Recheck {
  /** ISO date and time when it should be checked again. */
  dueAt: string;
  due: boolean;
  words: string;
}

/**
 * When the tension should be looked at again.
 * @param checks dated tension checks in any order
 * @param now ISO date and time
 */
export function nextTensionCheck(checks: readonly TensionCheck[], now: string): Recheck | null {
  const sorted = [...checks].sort((a, b) => (a.at < b.at ? 1 : -1));
  const [last, before] = sorted;
  if (!last) return null;
  const fell = before ? 1 - last.tension_N / Math.max(0.01, before.tension_N) : 1;
  const settled = before !== undefined && fell < SETTLED_SHARE;
  const dueMs = Date.parse(last.at) + (settled ? LATER_DAYS : FIRST_DAYS) * DAY_MS;
  const due = Date.parse(now) >= dueMs;
  const why = settled
    ? "it held since the check before"
    : before
      ? fell > 0
        ? `it had lost ${Math.round(fell * 100)} % since the check before: springs settle, timber creeps, joints slip`
        : "it was tightened since the check before"
      : "the first days settle most";
  return { dueAt: new Date(dueMs).toISOString(), due, words: `${due ? "Check it now" : "Check again"}: ${why}.` };
}

/** An entry of the log as a kind of row. */
export const ENTRY_KIND: RowKind<LogEntry> = { one: "log entry", version: 1, schema: entrySchema, upgrades: {} };
