import { z } from "zod";
import { figure, foamFamily, plainText, wireSchema } from "../design/schema";

/** A check of the wire's tension: what was measured, and how. */
const tensionCheck = z.strictObject({
  kind: z.literal("tension-check"),
  at: z.iso.datetime({ error: "must be a date and time" }),
  tension_N: figure("tension_N"),
  frequency_Hz: figure("frequency_Hz").optional(),
  how: z.enum(["pitch", "spring", "weight"], { error: "must be one of pitch, spring, weight" }),
  /** Wire hot or cold while it was measured. */
  hot: z.boolean({ error: "must be true or false" }).default(false),
  note: plainText(300, "must be at most 300 characters").default(""),
});

export const FACES = ["matt", "glossy", "ridged", "grooved", "hooked"] as const;
export type Face = (typeof FACES)[number];

/** A cut really made at the cutter: the set-up it was made with, and what came out. */
const testCut = z.strictObject({
  kind: z.literal("test-cut"),
  at: z.iso.datetime({ error: "must be a date and time" }),
  foam: z.strictObject({ family: foamFamily, density_kg_m3: figure("density_kg_m3") }),
  width_mm: figure("width_mm"),
  /** The wire that made it. */
  wire: wireSchema,
  wire_length_mm: figure("length_mm"),
  /** What the knob said, in words, and what was measured where it was. */
  setting: plainText(60, "must be at most 60 characters").default(""),
  volts_V: figure("voltage_V").optional(),
  current_A: figure("drivingCurrent_A").optional(),
  /** Heat in the cut as reckoned for this set-up at the time: what a calibration will be held against. */
  heat_W_per_m: figure("power_W_per_m").optional(),
  feed_mm_s: figure("feed_mm_s"),
  kerf_mm: figure("kerf_mm").optional(),
  lag_mm: figure("lag_mm").optional(),
  face: z.enum(FACES, { error: `must be one of ${FACES.join(", ")}` }),
  note: plainText(500, "must be at most 500 characters").default(""),
});

/** One dated entry of a cutter's log. */
export const entrySchema = z.discriminatedUnion("kind", [tensionCheck, testCut], { error: "kind must be one of tension-check, test-cut" });
export type LogEntry = z.output<typeof entrySchema>;
export type TensionCheck = Extract<LogEntry, { kind: "tension-check" }>;
export type TestCut = Extract<LogEntry, { kind: "test-cut" }>;

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
