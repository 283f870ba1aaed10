import { z } from "zod";

/** Where a run can be. */
const RUN_PHASES = ["ready", "homing", "running", "holding", "held", "resuming", "stopped", "fault", "refused", "done", "lost"] as const;
export type RunPhase = (typeof RUN_PHASES)[number];

/** By axis, mm, as last reported; null where nothing was. */
const reportedAt = z.record(z.string(), z.number()).nullable();

/** What the protocol of a controller knows of a run. */
const runStateSchema = z.object({
  phase: z.enum(RUN_PHASES),
  /** of a fault, a refusal or a lost link */
  reason: z.string(),
  lines: z.int(),
  /** acknowledged, and under way as it was last reported */
  taken: z.int(),
  line: z.int(),
  at: reportedAt,
  /** S as last reported; null where nothing was */
  heat: z.number().nullable(),
  /** how far off home was found by the last homing, by axis in mm; null before one */
  homed: z.array(z.number()).nullable(),
});
export type RunState = z.output<typeof runStateSchema>;

/** What the policy of a run adds. */
export const runSessionStateSchema = runStateSchema.extend({
  /** of the run that is under way, or was last; null before the first */
  id: z.string().nullable(),
  /** the page whose pulses keep the heat on */
  page: z.string().nullable(),
  /** held because nobody was there */
  unwatched: z.boolean(),
  /** `waiting` and then `unconfirmed` after a hold or a stop that the controller has not acknowledged */
  heatOff: z.enum(["confirmed", "waiting", "unconfirmed"]),
});
export type RunSessionState = z.output<typeof runSessionStateSchema>;

/** A run that ended with the wire in the foam: kept until somebody says that the wire is out. */
export const stoppedRunSchema = z.object({ id: z.string(), line: z.int(), lines: z.int(), at: reportedAt });
export type StoppedRun = z.output<typeof stoppedRunSchema>;
