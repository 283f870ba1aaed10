import { z } from "zod";
import { CONTROLLER_FAULTS } from "@/core/motion/standIn";
import { exchange, idSchema } from "../kernel/exchange";

const PHASES = ["ready", "homing", "running", "holding", "held", "resuming", "stopped", "fault", "refused", "done", "lost"] as const;

/** A run as the page sees it. */
const runState = z.object({
  /** the frame it stands on, and the program's name; null before the first */
  rig: idSchema.nullable(),
  program: z.string().nullable(),
  phase: z.enum(PHASES),
  reason: z.string(),
  lines: z.int(),
  taken: z.int(),
  line: z.int(),
  at: z.record(z.string(), z.number()).nullable(),
  heat: z.number().nullable(),
  /** since it began, holds and all, s */
  seconds: z.number(),
  /** a stand-in: it can be made to misbehave, and to hurry */
  practice: z.boolean(),
  /** it was held because nobody was there */
  unwatched: z.boolean(),
  /** what was done could not be put into the log */
  unlogged: z.boolean(),
});
/** `wired` is false where whoever started the app named no controller; `trouble` says why one that was named cannot be reached. */
const told = z.object({
  wired: z.boolean(),
  trouble: z.string().nullable(),
  /** what the log says of this frame's last run, where that never came to an end: the wire may still be in the foam */
  cutOff: z.string().nullable(),
  run: runState.nullable(),
});

const seconds = z
  .number({ error: "must be a number from 0 to 600" })
  .min(0, { error: "must be a number from 0 to 600" })
  .max(600, { error: "must be a number from 0 to 600" });

export const RUN = {
  /** The page stands before a frame: the controller is reached, and a stand-in takes the frame's shape. One that broke off a run is reached again when the person says so. */
  open: exchange(z.strictObject({ rig: idSchema, again: z.boolean({ error: "must be true or false" }).default(false) }), told),
  /** The page is there, and so is the person: without it the run is held and the heat goes off. */
  pulse: exchange(z.strictObject({ present: z.boolean({ error: "must be true or false" }) }), told),
  start: exchange(
    z.strictObject({
      rig: idSchema,
      program: z.string().min(1).max(120, { error: "must be at most 120 characters" }),
      text: z.string().min(1, { error: "must be the program's text" }),
    }),
    told,
  ),
  act: exchange(
    z.discriminatedUnion(
      "act",
      [
        z.strictObject({ act: z.enum(["hold", "stop", "home", "clear"]) }),
        z.strictObject({ act: z.literal("resume"), warm_s: seconds }),
        z.strictObject({ act: z.literal("misbehave"), fault: z.enum(CONTROLLER_FAULTS), on: z.boolean() }),
        z.strictObject({
          act: z.literal("speed"),
          times: z
            .number({ error: "must be a number from 1 to 1000" })
            .min(1, { error: "must be a number from 1 to 1000" })
            .max(1000, { error: "must be a number from 1 to 1000" }),
        }),
      ],
      { error: "act must be one of hold, stop, home, clear, resume, misbehave, speed" },
    ),
    told,
  ),
};
export type RunTold = z.output<typeof told>;
