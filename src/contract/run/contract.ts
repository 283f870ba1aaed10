import { z } from "zod";
import { CONTROLLER_FAULTS } from "@/core/motion/controller/simulatedController";
import { runSessionStateSchema, stoppedRunSchema } from "@/core/motion/controller/states";
import { endpoint, idSchema } from "../kernel/endpoint";

/** An id that a page made for itself. */
const pageId = z.string({ error: "must be the page's own id" }).regex(/^[A-Za-z0-9-]{8,64}$/, { error: "must be an id of 8 to 64 letters, digits and dashes" });

/** A run as a page sees it. */
const runState = runSessionStateSchema.extend({
  /** the frame of the run, and the program's name; null before the first */
  rig: idSchema.nullable(),
  program: z.string().nullable(),
  /** since it began, holds and all, s */
  seconds: z.number(),
  /** a simulated controller: it can be made to misbehave, and to hurry */
  practice: z.boolean(),
  /** what was done could not be written into the log */
  unlogged: z.boolean(),
});

const view = z.object({
  /** false where anyone who started the app named no controller */
  wired: z.boolean(),
  /** why a controller that was named cannot be reached */
  trouble: z.string().nullable(),
  /** what the log says of this frame's last run, where that never came to an end: the wire may still be in the foam */
  brokenOff: z.string().nullable(),
  /** this frame's last run, where it ended early and nobody has said yet that the wire is out; `known` where its program can lead the wire out */
  stopped: stoppedRunSchema.omit({ id: true }).extend({ run: z.string(), program: z.string(), known: z.boolean() }).nullable(),
  run: runState.nullable(),
});
export type RunView = z.output<typeof view>;

const seconds = z
  .number({ error: "must be a number from 0 to 600" })
  .min(0, { error: "must be a number from 0 to 600" })
  .max(600, { error: "must be a number from 0 to 600" });
const runId = z.string({ error: "must be a run's id, or null" }).max(64).nullable();

export const RUN = {
  /** A page is open on a frame: the controller is connected, and a simulated one takes the frame's shape. One that broke off a run is connected again when the person says so. */
  open: endpoint(z.strictObject({ rig: idSchema, page: pageId, again: z.boolean({ error: "must be true or false" }).default(false) }), view),
  /** The page is there, and perhaps a person before it: without that the run is held and the heat goes off. `run` is the run that the page means; one that is not current does not count. */
  pulse: endpoint(z.strictObject({ run: runId, page: pageId, present: z.boolean({ error: "must be true or false" }) }), view),
  start: endpoint(
    z.strictObject({
      rig: idSchema,
      page: pageId,
      program: z.string().min(1).max(120, { error: "must be at most 120 characters" }),
      text: z.string().min(1, { error: "must be the program's text" }),
      /** whether this program leads the wire out of the foam after a run that ended early */
      leadsToDraw: z.boolean({ error: "must be true or false" }).default(false),
    }),
    view,
  ),
  act: endpoint(
    z.discriminatedUnion(
      "act",
      [
        z.strictObject({ act: z.enum(["hold", "stop", "home", "clear"]) }),
        /** goes on after a hold; the page that asks watches the run from then on */
        z.strictObject({ act: z.literal("resume"), warm_s: seconds, page: pageId }),
        /** watches the run from this page instead of the one that did */
        z.strictObject({ act: z.literal("take-over"), page: pageId }),
        /** somebody says that the wire is out of the foam */
        z.strictObject({ act: z.literal("freed"), rig: idSchema, page: pageId }),
        z.strictObject({ act: z.literal("misbehave"), fault: z.enum(CONTROLLER_FAULTS), on: z.boolean() }),
        z.strictObject({
          act: z.literal("speed"),
          times: z
            .number({ error: "must be a number from 1 to 1000" })
            .min(1, { error: "must be a number from 1 to 1000" })
            .max(1000, { error: "must be a number from 1 to 1000" }),
        }),
      ],
      { error: "act must be one of hold, stop, home, clear, resume, take-over, freed, misbehave, speed" },
    ),
    view,
  ),
};
