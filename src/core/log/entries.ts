import { z } from "zod";
import { figure, plainText } from "../design/schema";

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

/** One dated entry of a cutter's log. */
export const entrySchema = z.discriminatedUnion("kind", [tensionCheck], { error: "kind must be tension-check" });
export type LogEntry = z.output<typeof entrySchema>;

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
export function nextTensionCheck(checks: readonly LogEntry[], now: string): Recheck | null {
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
