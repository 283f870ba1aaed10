import { z } from "zod";
import { paceRowSchema, twoEndsSchema } from "@/core/pace/twoEndsSchema";
import { MEASURED } from "../instruments/contract";
import { endpoint, idSchema, nothing } from "../kernel/endpoint";

const words = z.string().max(200, { error: "must be at most 200 characters" });
const finite = z.number({ error: "must be a number" });
const point = z.tuple([finite, finite]);

/** One end's template as it is shown next to the numbers, mm. */
const template = z.object({
  lines: z.array(z.array(point).max(4000)).max(40),
  numbers: z.array(z.object({ label: words, at: point })).max(400),
});
const MOST_ROWS = 2000;

/** What is put on a second screen. */
const aboutSchema = z.discriminatedUnion(
  "kind",
  [
    z.object({
      kind: z.literal("pacer"),
      name: words,
      face: words,
      rows: z
        .array(paceRowSchema)
        .min(1)
        .max(MOST_ROWS, { error: `has room for ${MOST_ROWS} rows` }),
      parts: z.int().min(1).max(16),
      templates: z.object({ root: template, tip: template }),
    }),
    z.object({ kind: z.literal("stopwatch"), name: words }),
    z.object({ kind: z.literal("dial"), name: words }),
    z.object({ kind: z.literal("stop"), name: words, rig: idSchema }),
  ],
  { error: "kind must be one of pacer, stopwatch, dial, stop" },
);
export type SecondAbout = z.output<typeof aboutSchema>;

const end = z.enum(["root", "tip"], { error: "must be root or tip" });
const stopwatch = z.object({ startedMs: finite.nullable(), lapsMs: z.array(finite), stoppedMs: finite.nullable() });
const dial = z.object({ figures: z.partialRecord(z.enum(MEASURED), z.number()), troubles: z.array(z.string()), wired: z.array(z.string()) });
const stopKey = z.object({ phase: words, line: z.int(), lines: z.int(), heat: finite.nullable() });

/** As things stand, times in the server's clock. A dial and a stop key hold nothing of their own: what they show is asked for again. */
const view = z.object({
  revision: z.int(),
  /** the server's clock as this was said, ms */
  nowMs: finite,
  about: aboutSchema.optional(),
  /** under which this computer can be reached, for the code that is scanned; with `about` */
  addresses: z.array(z.string()).optional(),
  ended: z.boolean(),
  pacer: twoEndsSchema.optional(),
  stopwatch: stopwatch.optional(),
  dial: dial.optional(),
  stop: stopKey.optional(),
});
export type SecondView = z.output<typeof view>;

export const SECOND = {
  /** Opens a second screen. */
  make: endpoint(z.strictObject({ about: aboutSchema }), z.object({ ticket: z.string(), expiresAt: z.iso.datetime(), view })),
  get: endpoint(nothing, view),
  act: endpoint(
    z.discriminatedUnion(
      "do",
      [
        z.strictObject({ do: z.literal("look") }),
        z.strictObject({ do: z.literal("here"), end }),
        z.strictObject({ do: z.literal("begin"), by: z.enum(["pacer", "hand"], { error: "must be pacer or hand" }) }),
        z.strictObject({ do: z.literal("pause") }),
        z.strictObject({ do: z.literal("resume") }),
        z.strictObject({ do: z.literal("mark"), end, leads: z.boolean({ error: "must be true or false" }) }),
        z.strictObject({ do: z.literal("again") }),
        /** of a stopwatch */
        z.strictObject({ do: z.literal("press") }),
        z.strictObject({ do: z.literal("stop") }),
        z.strictObject({ do: z.literal("reset") }),
        /** of a run: as its large keys */
        z.strictObject({ do: z.literal("hold") }),
        /** of a dial: what the page that opened it reads, where no instrument is wired */
        z.strictObject({ do: z.literal("figures"), figures: z.partialRecord(z.enum(MEASURED), finite) }),
        z.strictObject({ do: z.literal("end") }),
      ],
      { error: "do must be one of look, here, begin, pause, resume, mark, again, press, stop, reset, hold, figures, end" },
    ),
    view,
  ),
};
export type SecondAction = z.input<typeof SECOND.act.request>;
