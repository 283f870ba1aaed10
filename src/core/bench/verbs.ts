import { z } from "zod";
import { heldResponse } from "@/core/bench/heldResponse";
import { BENCH_DEFAULTS, BenchWorld } from "@/core/bench/world";
import { DEMO_CUTTERS } from "@/core/cutters/design/demoCutters";
import type { Design } from "@/core/cutters/design/schema";
import { pairOf } from "@/core/cutters/solve/evaluate";
import { designFrom } from "@/core/cutters/solve/verbs";
import { CoreError } from "@/core/kernel/errors";
import { refuse, type Verb, verb } from "@/core/kernel/verb";
import { degreesAPercent, tellingAlloys } from "@/core/physics/power/controls/held";
import { figure } from "@/core/units/figure";
import { bounded, boundedWhole } from "../kernel/bounded";

const handSchema = z.discriminatedUnion(
  "mode",
  [
    z.strictObject({ mode: z.literal("still") }),
    z.strictObject({ mode: z.literal("pace"), feed_mm_s: figure("feed_mm_s") }),
    z.strictObject({ mode: z.literal("push"), push_N: figure("force_N") }),
  ],
  { error: "mode must be one of still, pace, push" },
);

const stepSchema = z.strictObject({
  seconds: figure("seconds"),
  /** Turns of the design's heat knob, in its own unit, and of the switch, before this stretch of time. */
  knob: z.number({ error: "must be a number in the knob's own unit" }).optional(),
  heat: z.boolean({ error: "must be true or false" }).optional(),
  hand: handSchema.optional(),
});

const MOST_STEPS = 500;

const LONGEST_S = 3600;

const benchVerb = verb(
  "bench",
  "The virtual bench run through a script: heat on or off, knob (in its own unit), hand still, at a pace or pushing, each for so many seconds. Traces every 50 ms, the face of the cut, and the energy balance.",
  z
    .strictObject({
      design: z.unknown(),
      seed: boundedWhole(0, 2_147_483_647).default(1),
      block_mm: bounded(20, 1000, "mm").default(BENCH_DEFAULTS.block_mm),
      corner_mm: figure("position_mm").optional(),
      recycled: z.boolean({ error: "must be true or false" }).default(false),
      even: z.boolean({ error: "must be true or false" }).default(false),
      steps: z
        .array(stepSchema)
        .min(1, { error: "needs at least one step" })
        .max(MOST_STEPS, { error: `has room for ${MOST_STEPS} steps` }),
    })
    .superRefine((input, ctx) => {
      if (input.steps.reduce((sum, step) => sum + step.seconds, 0) > LONGEST_S) refuse(ctx, "steps", `must last at most ${LONGEST_S} s together`);
    }),
  {
    design: DEMO_CUTTERS[1],
    block_mm: 60,
    steps: [
      { seconds: 8, heat: true, knob: 0.3 },
      { seconds: 12, hand: { mode: "pace", feed_mm_s: 6 } },
      { seconds: 3, heat: false, hand: { mode: "still" } },
    ],
  },
  (input) => {
    const design = designFrom(input.design, "design");
    const world = new BenchWorld(design, { ...input, corner_mm: input.corner_mm ?? null });
    for (const [i, step] of input.steps.entries()) {
      if (step.heat !== undefined) world.heat(step.heat);
      if (step.knob !== undefined) {
        if (design.control.kind === "clip")
          throw new CoreError("conflict", `steps.${i}.knob`, "a clip is moved with the heat off: give the design the live length to run with");
        world.turn(step.knob);
      }
      if (step.hand) {
        const { hand } = step;
        world.hand(
          hand.mode === "pace" ? { mode: "pace", mPerS: hand.feed_mm_s / 1000 } : hand.mode === "push" ? { mode: "push", newtons: hand.push_N } : hand,
        );
      }
      world.run(step.seconds);
    }
    const { sim } = world;
    const report = world.report();
    const { face } = report;
    return {
      time_s: sim.traces.timeS,
      force_N: sim.traces.forceN,
      air_C: sim.traces.airC,
      foam_C: sim.traces.foamC,
      feed_mm_s: sim.traces.feedMmS,
      current_A: sim.traces.currentA,
      through: report.through,
      broken: report.broken,
      trips: report.trips,
      power_W_per_m: report.heatWPerM,
      lag_mm: report.mostLagM * 1000,
      face: face && {
        overall: face.overall,
        kerf_mm: face.kerfM.mean * 1000,
        groove_mm: face.grooveM * 1000,
        error_mm: face.errorM * 1000,
        hook_mm: face.hookM === null ? null : face.hookM * 1000,
        stretches: face.stretches.map(({ fromM, toM, face: look }) => ({ from_mm: fromM * 1000, to_mm: toM * 1000, face: look })),
      },
      energyImbalance: sim.energyImbalance(),
    };
  },
);

const GATEPOST = DEMO_CUTTERS[1] as Design;

/** A table of stainless, cut at a pace that takes its heat. */
const HOLDER = { ...GATEPOST, wire: { alloy: "ss-304", diameter_mm: 0.41, length_mm: 420 }, job: { ...GATEPOST.job, feed_mm_s: 8 } };

const heldVerb = verb(
  "held",
  "A controller that holds the wire by its ohms: what one per cent of its reading is in degrees for each alloy, and how it answers the foam on the bench.",
  z.strictObject({ design: z.unknown() }),
  { design: { ...HOLDER, control: { kind: "held", hold_C: 320 } } },
  (input) => {
    const design = designFrom(input.design, "design");
    if (design.control.kind !== "held") throw new CoreError("conflict", "design.control.kind", "design.control.kind must be held");
    const { hold_C } = design.control;
    const response = heldResponse(design);
    const telling = (degC: number) => (Number.isFinite(degC) ? degC : null);
    return {
      degC_per_percent: telling(degreesAPercent(pairOf(design).wire, hold_C)),
      alloys: tellingAlloys(hold_C).map(({ alloy, degC }) => ({ alloy, degC_per_percent: telling(degC) })),
      airDuty: response.airDuty,
      cutDuty: response.cutDuty,
      air_C: response.airC,
      lowest_C: response.lowestC,
      cut_C: response.cutC,
      ends_C: response.endsC,
      settles_s: response.settlesS,
    };
  },
);

/** The headless verbs of this room. */
export const BENCH_VERBS: readonly Verb[] = [benchVerb, heldVerb];
