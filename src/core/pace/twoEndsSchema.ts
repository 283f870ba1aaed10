import { z } from "zod";

const text = z.string().max(200, { error: "must be at most 200 characters" });
const finite = z.number({ error: "must be a number" });

/** What holds a feed back. */
export const PACE_LIMITS = ["drag", "hand", "tolerance", "fumes", "kerf"] as const;

/** A row of a pace as it is called out: from one number to the next. */
export const paceRowSchema = z.object({
  from: text,
  to: text,
  rootFeedMmS: finite,
  tipFeedMmS: finite,
  seconds: finite.min(0).max(86_400),
  /** at the number it comes to */
  waitS: finite.min(0).max(86_400),
  limit: z.enum(PACE_LIMITS),
  /** the number it comes to is at a corner */
  corner: z.boolean(),
});

/** A run of the pacer as plain data, milliseconds of a clock that goes on over a reload. */
const pacerRunSchema = z.object({
  /** led by the pacer, or by hand: then each press is a number passed */
  by: z.enum(["pacer", "hand"]),
  startedMs: finite,
  pausedMs: finite.nullable(),
  /** every pause: when, since the start without pauses (s), and how long (s) */
  pauses: z.array(z.object({ atS: finite, longS: finite })),
  /** when each number was passed, s since the start without pauses: by hand */
  passedS: z.array(finite),
  /** when it was last seen alive */
  seenMs: finite,
});
export type PacerRun = z.output<typeof pacerRunSchema>;

const perEnd = <T extends z.ZodType>(each: T) => z.object({ root: each, tip: each });
/** A run led on two screens, one at each end of the wire; times of the server's clock, ms. */
export const twoEndsSchema = z.object({
  run: pacerRunSchema.nullable(),
  /** when each end says it was at each number, s since the start without pauses; null where it did not say */
  marks: perEnd(z.array(finite.nullable())),
  /** when each end was last heard of */
  here: perEnd(finite.nullable()),
});
export type TwoEnds = z.output<typeof twoEndsSchema>;
