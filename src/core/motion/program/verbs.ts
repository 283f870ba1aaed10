import { z } from "zod";
import type { Point } from "../../geometry/points";
import { bounded } from "../../kernel/bounded";
import { CoreError } from "../../kernel/errors";
import { refuse, type Verb, verb, withWarnings } from "../../kernel/verb";
import { figure } from "../../units/figure";
import { JOINS, onePath } from "../path/onePath";
import type { Machine } from "./machine";
import { writeProgram } from "./program";
import { readProgram } from "./reader";
import { correctedSteps, moveTimeS, stepsPerMm } from "./steps";

const place = z.tuple([bounded(-100_000, 100_000, "mm"), bounded(-100_000, 100_000, "mm")], { error: "must be [x, y], mm" });
const line = (least: number) =>
  z
    .array(place, { error: "must be a list of points" })
    .min(least, { error: `must have at least ${least} points` })
    .max(250_000, { error: "has room for 250000 points" });

const stepsVerb = verb(
  "steps",
  "Steps a millimetre of a motor's drive, from its turn; or corrected from what was asked for and what was measured.",
  z
    .strictObject({
      stepsPerTurn: bounded(1, 100_000, "steps").optional(),
      microsteps: bounded(1, 1024, "to a step").optional(),
      travelPerTurn_mm: bounded(0.01, 10_000, "mm").optional(),
      stepsPerMm: bounded(0.001, 1_000_000, "steps/mm").optional(),
      asked_mm: bounded(0.01, 100_000, "mm").optional(),
      measured_mm: bounded(0.01, 100_000, "mm").optional(),
    })
    .superRefine((input, ctx) => {
      const [made, measured] = [["stepsPerTurn", "microsteps", "travelPerTurn_mm"] as const, ["stepsPerMm", "asked_mm", "measured_mm"] as const];
      const some = (keys: readonly (keyof typeof input)[]) => keys.some((key) => input[key] !== undefined);
      if (some(made) && some(measured)) {
        const extra = measured.find((key) => input[key] !== undefined) as string;
        refuse(ctx, extra, `give either ${made.join(", ")} or ${measured.join(", ")}, not both`);
        return;
      }
      for (const key of some(measured) ? measured : made)
        if (input[key] === undefined) refuse(ctx, key, `${key} is required: give ${made.join(", ")}, or ${measured.join(", ")}`);
    }),
  { stepsPerTurn: 200, microsteps: 16, travelPerTurn_mm: 40 },
  (input) => ({
    stepsPerMm:
      input.stepsPerMm === undefined
        ? stepsPerMm(input.stepsPerTurn as number, input.microsteps as number, input.travelPerTurn_mm as number)
        : correctedSteps(input.stepsPerMm, input.asked_mm as number, input.measured_mm as number),
  }),
);

const motionVerb = verb(
  "motion",
  "Time of moves that each begin and end at rest, at a feed and an acceleration.",
  z.strictObject({
    moves_mm: z.array(bounded(-100_000, 100_000, "mm"), { error: "must be a list of moves, mm" }).max(250_000, { error: "has room for 250000 moves" }),
    feed_mm_s: figure("feed_mm_s"),
    acceleration_mm_s2: bounded(0.01, 1_000_000, "mm/s2"),
  }),
  { moves_mm: [100, 1], feed_mm_s: 10, acceleration_mm_s2: 50 },
  (input) => ({ time_s: input.moves_mm.reduce((sum, mm) => sum + moveTimeS(mm, input.feed_mm_s, input.acceleration_mm_s2), 0) }),
);

const axisLetter = z.string({ error: "must be an axis letter" }).regex(/^[ABCUVWXYZ]$/, { error: "must be one of A, B, C, U, V, W, X, Y, Z" });
const machineSchema = z
  .strictObject({
    axes: z
      .array(axisLetter, { error: "must be two or four axis letters" })
      .refine((axes) => axes.length === 2 || axes.length === 4, { error: "must be two or four axis letters" }),
    length_mm: bounded(1, 20_000, "mm").optional(),
    toBlock_mm: bounded(0, 20_000, "mm").optional(),
    span_mm: bounded(1, 20_000, "mm").optional(),
    travel_mm: z
      .array(place, { error: "must be [least, most] of each of the two ways" })
      .length(2, { error: "must be [least, most] of each of the two ways" })
      .optional(),
    turn: z
      .strictObject({
        axis: axisLetter,
        deg: bounded(-360, 360, "degrees"),
        passes: z
          .number({ error: "must be a whole number from 1 to 360" })
          .int({ error: "must be a whole number from 1 to 360" })
          .min(1, { error: "must be a whole number from 1 to 360" })
          .max(360, { error: "must be a whole number from 1 to 360" }),
      })
      .optional(),
  })
  .superRefine(({ axes, length_mm, toBlock_mm = 0, span_mm, turn }, ctx) => {
    if (new Set([...axes, ...(turn ? [turn.axis] : [])]).size < axes.length + (turn ? 1 : 0)) refuse(ctx, "axes", "axes must have a letter of its own each");
    if ((length_mm === undefined) !== (span_mm === undefined))
      refuse(ctx, length_mm === undefined ? "length_mm" : "span_mm", "length_mm and span_mm must be given together");
    if (length_mm !== undefined && span_mm !== undefined && toBlock_mm + span_mm > length_mm)
      refuse(ctx, "span_mm", `span_mm must be a number from 1 to ${length_mm - toBlock_mm} mm: the block is between the carriages`);
  });
const machineOf = ({ axes, length_mm, toBlock_mm = 0, span_mm, travel_mm, turn }: z.output<typeof machineSchema>): Machine => ({
  axes,
  layout: length_mm === undefined || span_mm === undefined ? null : { lengthMm: length_mm, toBlockMm: toBlock_mm, spanMm: span_mm },
  travelMm: travel_mm ?? null,
  turn: turn ?? null,
});

const gcodeVerb = verb(
  "gcode",
  "A program of the published words that leads the wire along ways at the block's faces: by times, or at one feed with waits at some of its points, and at its end until the middle of the wire has come.",
  z
    .strictObject({
      path_mm: line(2),
      tipPath_mm: line(2).optional(),
      times_s: z.array(bounded(0, 10_000_000, "s"), { error: "must be a list of times" }).optional(),
      feed_mm_s: figure("feed_mm_s").optional(),
      waits: z
        .array(
          z.strictObject({
            index: z.number({ error: "must be a whole number" }).int({ error: "must be a whole number" }).min(0, { error: "must be at least 0" }),
            wait_s: bounded(0, 3600, "s"),
          }),
        )
        .optional(),
      machine: machineSchema,
      warmUp_s: bounded(0, 3600, "s").default(0),
      endWait_s: bounded(0, 3600, "s").default(0),
    })
    .superRefine(({ path_mm, tipPath_mm, times_s, feed_mm_s, waits }, ctx) => {
      if ((times_s === undefined) === (feed_mm_s === undefined)) refuse(ctx, "times_s", "give exactly one of times_s, feed_mm_s");
      if (tipPath_mm && tipPath_mm.length !== path_mm.length) refuse(ctx, "tipPath_mm", `tipPath_mm must have as many points as path_mm, ${path_mm.length}`);
      if (times_s && times_s.length !== path_mm.length) refuse(ctx, "times_s", `times_s must have as many times as path_mm has points, ${path_mm.length}`);
      if (times_s && waits) refuse(ctx, "waits", "waits are in times_s already: equal points with time between");
      const back = times_s?.findIndex((time, i) => i > 0 && time < (times_s[i - 1] as number)) ?? -1;
      if (back > 0) refuse(ctx, "times_s", `times_s must not decrease: it does at ${back}`);
      for (const { index } of waits ?? []) if (index >= path_mm.length) refuse(ctx, "waits", `waits name a point that path_mm has not: ${index}`);
    }),
  {
    path_mm: [
      [0, 0],
      [100, 0],
      [100, 50],
    ],
    tipPath_mm: [
      [10, 0],
      [70, 0],
      [70, 30],
    ],
    times_s: [0, 16, 26],
    machine: { axes: ["X", "Y", "U", "V"], length_mm: 1000, toBlock_mm: 200, span_mm: 600 },
    warmUp_s: 3,
  },
  (input) => {
    const [root, tip, times]: [Point[], Point[], number[]] = [[], [], []];
    let at = 0;
    for (const [i, point] of input.path_mm.entries()) {
      const far = input.tipPath_mm?.[i] ?? point;
      if (input.times_s) at = input.times_s[i] as number;
      else if (i > 0) {
        const before = input.path_mm[i - 1] as Point;
        const beforeTip = input.tipPath_mm?.[i - 1] ?? before;
        // The longer end goes at the feed.
        at +=
          Math.max(Math.hypot(point[0] - before[0], point[1] - before[1]), Math.hypot(far[0] - beforeTip[0], far[1] - beforeTip[1])) /
          (input.feed_mm_s as number);
      }
      root.push(point);
      tip.push(far);
      times.push(at);
      for (const { index, wait_s } of input.waits ?? []) {
        if (index !== i || wait_s === 0) continue;
        at += wait_s;
        root.push(point);
        tip.push(far);
        times.push(at);
      }
    }
    if (input.endWait_s > 0) {
      root.push(root.at(-1) as Point);
      tip.push(tip.at(-1) as Point);
      times.push(at + input.endWait_s);
    }
    const { text, timeS } = writeProgram(machineOf(input.machine), root, input.tipPath_mm ? tip : null, times, input.warmUp_s);
    const [last, before] = [root.at(-1) as Point, root.at(-2) as Point];
    const waits = Math.hypot(last[0] - before[0], last[1] - before[1]) < 1e-9;
    return withWarnings(
      { text, time_s: timeS },
      waits
        ? []
        : [
            {
              code: "no-end-wait",
              message: "The heat goes off where the path ends, and the middle of the wire is still behind. Give endWait_s, or the times that pace gives",
            },
          ],
    );
  },
);

const readVerb = verb(
  "read-gcode",
  "Follows a program of the published words: where the wire is led at the block's faces, and when. Refused with the line and the reason where it cannot be followed.",
  z.strictObject({ text: z.string({ error: "must be the program's text" }), machine: machineSchema }),
  { text: "G21\nG90\nG94\nG0 X0 Y0\nM3 S1000\nG1 X10 F600\nG4 P2\nG1 Y5\nM5\nM2\n", machine: { axes: ["X", "Y"] } },
  (input) => {
    const { path, tip, timesS, turns, warnings } = readProgram(input.text, machineOf(input.machine));
    if (path.length === 0) throw new CoreError("no-solution", "text", "text leads the wire nowhere: no move, no wait");
    return withWarnings({ path_mm: path, ...(tip ? { tipPath_mm: tip } : {}), times_s: timesS, ...(turns.length > 0 ? { turns } : {}) }, warnings);
  },
);

const outlineSchema = line(3).max(20_000, { error: "has room for 20000 points" });
const onePathVerb = verb(
  "onepath",
  "One unbroken line that frees every shape, half a kerf off its outlines: links through waste (or bars that unite the islands), slits to the holes, from a start and back to it.",
  z
    .strictObject({
      shapes: z
        .array(z.strictObject({ outline_mm: outlineSchema, holes_mm: z.array(outlineSchema, { error: "must be a list of outlines" }).optional() }), {
          error: "must be a list of shapes",
        })
        .min(1, { error: "must have at least one shape" })
        .max(2000, { error: "has room for 2000 shapes" }),
      kerf_mm: figure("kerf_mm"),
      join: z.enum(JOINS, { error: `must be one of ${JOINS.join(", ")}` }),
      bar_mm: bounded(0.1, 1000, "mm").optional(),
      start_mm: place.optional(),
    })
    .superRefine(({ join, bar_mm }, ctx) => {
      if (join === "joined" && bar_mm === undefined) refuse(ctx, "bar_mm", "bar_mm is required where islands are joined");
    }),
  {
    shapes: [
      {
        outline_mm: [
          [0, 0],
          [40, 0],
          [40, 40],
          [0, 40],
        ],
        holes_mm: [
          [
            [10, 10],
            [30, 10],
            [30, 30],
            [10, 30],
          ],
        ],
      },
      {
        outline_mm: [
          [50, 0],
          [80, 0],
          [65, 30],
        ],
      },
    ],
    kerf_mm: 1.2,
    join: "apart",
    start_mm: [-10, -10],
  },
  (input) => {
    const found = onePath({
      shapes: input.shapes.map(({ outline_mm, holes_mm }) => ({ outline: outline_mm, holes: holes_mm ?? [] })),
      kerfMm: input.kerf_mm,
      join: input.join,
      barMm: input.bar_mm,
      start: input.start_mm,
    });
    return { path_mm: found.path, length_mm: found.lengthMm, links: found.links, slits: found.slits, ...(input.join === "joined" ? { bars: found.bars } : {}) };
  },
);

export const MOTION_VERBS: readonly Verb[] = [onePathVerb, gcodeVerb, readVerb, stepsVerb, motionVerb];
