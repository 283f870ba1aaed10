import { z } from "zod";
import { bounded, boundedWhole } from "../kernel/bounded";
import { plainText } from "../kernel/parse";
import { type Verb, verb } from "../kernel/verb";
import { EFFORT_PER_S, scheduleSteps } from "./schedule";

const MOST_MIN = 10_000_000;
const minutes = boundedWhole(0, MOST_MIN);
const SHORT = { error: "must be 1 to 80 characters" };
/** An id or a name, in plain text. */
const word = plainText(80, SHORT.error).trim().min(1, SHORT);

const needSchema = z.union([z.strictObject({ kind: word, count: boundedWhole(1, 100).default(1) }), z.strictObject({ id: word })], {
  error: "must be {kind, count?} or {id}",
});

const scheduleVerb = verb(
  "schedule",
  "When each step of a plan begins, and on what: the earliest end that the effort finds, with what waits for what, resources that serve one step at a time, changes of set-up and working hours. `bound_min` is proven: no schedule ends before it. Times are whole minutes from 0. A step without `setup` keeps the last one; a changeover lies immediately before the step that needs another, and the first set-up is free; waits and changeovers may cross the hours. The same input gives the same schedule on every machine: `seconds` is how much is tried, as a middling computer would in that time.",
  z.strictObject({
    steps: z
      .array(
        z.strictObject({
          id: word,
          minutes,
          needs: z.array(needSchema).max(20, { error: "must be at most 20 needs" }).default([]),
          after: z.array(word).max(500, { error: "must be at most 500 ids" }).default([]),
          wait_min: minutes.default(0),
          setup: word.optional(),
        }),
      )
      .min(1, { error: "must be 1 to 2000 steps" })
      .max(2000, { error: "must be 1 to 2000 steps" }),
    resources: z.array(z.strictObject({ id: word, kind: word, changeover_min: minutes.default(0) })).max(200, { error: "must be at most 200 resources" }),
    windows: z
      .array(z.tuple([minutes, minutes], { error: "must be two whole numbers of minutes, [from, to]" }))
      .min(1, { error: "must be 1 to 1000 windows" })
      .max(1000, { error: "must be 1 to 1000 windows" })
      .optional(),
    seconds: bounded(0.1, 60, "s").default(1),
  }),
  {
    steps: [
      { id: "cut panes", minutes: 50, needs: [{ kind: "person" }, { id: "Thimble" }], setup: "0.4 mm" },
      { id: "glue panes", minutes: 20, needs: [{ kind: "person" }], after: ["cut panes"] },
      { id: "trim panes", minutes: 15, needs: [{ kind: "person" }], after: ["glue panes"], wait_min: 60 },
      { id: "cut fins", minutes: 40, needs: [{ kind: "person", count: 2 }, { id: "Long Tom" }] },
    ],
    resources: [
      { id: "first", kind: "person" },
      { id: "second", kind: "person" },
      { id: "Thimble", kind: "cutter", changeover_min: 10 },
      { id: "Long Tom", kind: "cutter", changeover_min: 15 },
    ],
    windows: [[0, 240]],
  },
  ({ steps, resources, windows, seconds }) => {
    const found = scheduleSteps({
      steps: steps.map(({ id, minutes, needs, after, wait_min, setup }) => ({
        id,
        minutes,
        needs,
        after,
        waitMin: wait_min,
        setup: setup ?? null,
        dueMin: null,
      })),
      resources: resources.map(({ id, kind, changeover_min }) => ({ id, kind, changeoverMin: changeover_min })),
      windows: windows ?? null,
      aim: "end",
      effort: seconds * EFFORT_PER_S,
    });
    return { starts: found.starts, uses: found.uses, end_min: found.endMin, bound_min: found.boundMin, changeovers: found.changeovers };
  },
);

export const JOB_VERBS: readonly Verb[] = [scheduleVerb];
