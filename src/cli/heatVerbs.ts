import { z } from "zod";
import { foamSchema } from "@/core/materials/foamSchema";
import { type FoamSpec, resolveFoam } from "@/core/materials/foams";
import { hotSpots, solveAxial } from "@/core/physics/cut/axial";
import { followAxial } from "@/core/physics/cut/axialInTime";
import { enterFoam } from "@/core/physics/cut/entry";
import type { BarInput, TemplateMaterial } from "@/core/physics/cut/wireBar";
import type { WireSpec } from "@/core/physics/heat/wire";
import { resolveWire, wireTemperatureWarnings } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { warmUp } from "@/core/physics/power/warmup";
import { figure } from "@/core/units/figure";
import { LIMITS } from "@/core/units/limits";
import { ambient, refuse, type Verb, verb, withWarnings } from "./verb";

const wholeCells = { error: "must be a whole number from 10 to 4000" };
/** What `axial` and `transient` share of a wire between clamps, beside its foam. */
const barFields = {
  cells: z.int(wholeCells).min(10, wholeCells).max(4000, wholeCells).optional(),
  edges: z
    .array(
      z.strictObject({
        at_mm: figure("position_mm"),
        thickness_mm: figure("edgeThickness_mm"),
        material: z.enum(["aluminium", "laminate"], { error: "must be one of aluminium, laminate" }),
      }),
    )
    .max(20, { error: "has room for 20 template edges" })
    .optional(),
};

interface BarFields {
  wire: WireSpec;
  length_mm: number;
  ambient_C: number;
  clamp_C?: number | undefined;
  foam?: FoamSpec | undefined;
  feed_mm_s?: number | undefined;
  from_mm?: number | undefined;
  to_mm?: number | undefined;
  cells?: number | undefined;
  edges?: { at_mm: number; thickness_mm: number; material: TemplateMaterial }[] | undefined;
}

function barRules(input: BarFields, ctx: z.core.$RefinementCtx): void {
  if (input.foam !== undefined && input.feed_mm_s === undefined) refuse(ctx, "feed_mm_s", "is required with foam");
  if ((input.to_mm ?? input.length_mm) > input.length_mm) refuse(ctx, "to_mm", `must be at most length_mm (${input.length_mm} mm)`);
  if ((input.from_mm ?? 0) >= (input.to_mm ?? input.length_mm)) refuse(ctx, "from_mm", "must be less than to_mm");
}

function barOf(input: BarFields): BarInput {
  const wire = resolveWire(input.wire);
  return {
    wire,
    lengthM: input.length_mm / 1000,
    ambientC: input.ambient_C,
    clampC: input.clamp_C ?? input.ambient_C,
    cells: input.cells,
    edges: input.edges?.map((edge) => ({ atM: edge.at_mm / 1000, thicknessM: edge.thickness_mm / 1000, material: edge.material })),
    foam:
      input.foam === undefined
        ? undefined
        : {
            pair: { wire, foam: resolveFoam(input.foam), ambientC: input.ambient_C },
            feedMPerS: (input.feed_mm_s as number) / 1000,
            fromM: (input.from_mm ?? 0) / 1000,
            toM: (input.to_mm ?? input.length_mm) / 1000,
          },
  };
}

const axialVerb = verb(
  "axial",
  "Steady temperature along the wire: clamps, bare stretches and foam. Foam wants feed_mm_s; from_mm and to_mm default to the whole wire.",
  z
    .strictObject({
      wire: wireSchema,
      length_mm: figure("length_mm"),
      current_A: figure("current_A"),
      ambient_C: ambient,
      clamp_C: figure("temperature_C").optional(),
      foam: foamSchema.optional(),
      feed_mm_s: figure("feed_mm_s").optional(),
      from_mm: figure("position_mm").optional(),
      to_mm: figure("position_mm").optional(),
      ...barFields,
    })
    .superRefine(barRules),
  { wire: { alloy: "nicr-80-20", gauge_awg: 26 }, length_mm: 720, current_A: 2, foam: "eps-20", feed_mm_s: 6, from_mm: 60, to_mm: 660, cells: 12 },
  (input) => {
    const bar = barOf(input);
    const answer = solveAxial({ ...bar, currentA: input.current_A });
    const spots = hotSpots(answer, bar);
    return withWarnings(
      {
        position_mm: Array.from(answer.positionM, (x) => x * 1000),
        temperature_C: Array.from(answer.temperatureC),
        energyImbalance: answer.energyImbalance,
        generated_W: answer.generatedW,
        toAir_W: answer.lostToAirW,
        toFoam_W: answer.lostToFoamW,
        toEdges_W: answer.lostToEdgesW,
        toClamps_W: answer.lostToClampsW,
        hottest_C: spots.hottestC,
        hottest_mm: spots.hottestM * 1000,
        meanInFoam_C: spots.meanInFoamC,
        coldEnds_mm: spots.coldEndsM * 1000,
        iterations: answer.iterations,
      },
      wireTemperatureWarnings(bar.wire, Math.max(spots.hottestC, 20)),
    );
  },
);

const transientVerb = verb(
  "transient",
  "Temperatures along the wire in time, phase by phase: warming, cutting, leaving the foam, cooling. Energy is booked as it flows.",
  z
    .strictObject({
      wire: wireSchema,
      length_mm: figure("length_mm"),
      ambient_C: ambient,
      clamp_C: figure("temperature_C").optional(),
      foam: foamSchema.optional(),
      feed_mm_s: figure("feed_mm_s").optional(),
      from_mm: figure("position_mm").optional(),
      to_mm: figure("position_mm").optional(),
      ...barFields,
      phases: z
        .array(
          z.strictObject({ seconds: figure("seconds"), current_A: figure("current_A"), inFoam: z.boolean({ error: "must be true or false" }).default(false) }),
        )
        .min(1, { error: "needs at least one phase" })
        .max(50, { error: "has room for 50 phases" })
        .refine((phases) => phases.reduce((sum, phase) => sum + phase.seconds, 0) <= LIMITS.seconds.max, {
          error: `must last at most ${LIMITS.seconds.max} s together`,
        }),
    })
    .superRefine(barRules)
    .superRefine((input, ctx) => {
      if (input.foam === undefined && input.phases.some((phase) => phase.inFoam)) refuse(ctx, "foam", "is required where a phase is inFoam");
    }),
  {
    wire: { alloy: "nicr-80-20", gauge_awg: 26 },
    length_mm: 720,
    foam: "eps-20",
    feed_mm_s: 6,
    from_mm: 60,
    to_mm: 660,
    cells: 40,
    phases: [
      { seconds: 1, current_A: 2 },
      { seconds: 1, current_A: 2, inFoam: true },
      { seconds: 1, current_A: 0 },
    ],
  },
  (input) => {
    const bar = barOf(input);
    const course = followAxial({ ...bar, phases: input.phases.map((phase) => ({ seconds: phase.seconds, drive: phase.current_A, inFoam: phase.inFoam })) });
    return {
      time_s: course.timeS,
      middle_C: course.middleC,
      hottest_C: course.hottestC,
      foamPlace_C: course.foamPlaceC,
      position_mm: Array.from(course.positionM, (x) => x * 1000),
      phaseEnd_C: course.profilesC.map((profile) => Array.from(profile)),
      generated_J: course.ledgerJ.generated,
      toAir_J: course.ledgerJ.toAir,
      toFoam_J: course.ledgerJ.toFoam,
      toEdges_J: course.ledgerJ.toEdges,
      toClamps_J: course.ledgerJ.toClamps,
      stored_J: course.storedJ,
      energyImbalance: course.energyImbalance,
    };
  },
);

const warmupVerb = verb(
  "warmup",
  'Temperature of the bare wire after switch-on; with then:"off" it cools as long again.',
  z.strictObject({
    wire: wireSchema,
    current_A: figure("current_A"),
    ambient_C: ambient,
    seconds: figure("seconds"),
    // biome-ignore lint/suspicious/noThenProperty: the door's fixed name; the object is data, never awaited
    then: z.literal("off", { error: 'must be "off"' }).optional(),
  }),
  { wire: { alloy: "nicr-80-20", gauge_awg: 26 }, current_A: 2, seconds: 10 },
  (input) => {
    const wire = resolveWire(input.wire);
    const answer = warmUp(wire, input.current_A, { ambientC: input.ambient_C }, input.seconds, input.then === "off");
    return withWarnings(
      { time_s: answer.timeS, temperature_C: answer.temperatureC, timeTo95_s: answer.timeTo95S, steady_C: answer.steadyC },
      wireTemperatureWarnings(wire, Math.max(answer.steadyC, 20)),
    );
  },
);

const entryVerb = verb(
  "entry",
  "The wire's entry from air into foam: how far its stored heat cuts by itself (the bite), how wide a mouth it opens, and how far the tail of it reaches until the kerf settles.",
  z.strictObject({ wire: wireSchema, foam: foamSchema, ambient_C: ambient, feed_mm_s: figure("feed_mm_s"), current_A: figure("drivingCurrent_A") }),
  { wire: { alloy: "nicr-80-20", gauge_awg: 30 }, foam: "eps-20", feed_mm_s: 6, current_A: 1 },
  (input) => {
    const entry = enterFoam(
      { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C },
      input.feed_mm_s / 1000,
      input.current_A,
    );
    return {
      time_s: entry.timeS,
      wireTemperature_C: entry.wireC,
      kerf_mm: entry.kerfM.map((kerf) => kerf * 1000),
      bare_C: entry.bareC,
      settled_C: entry.settledC,
      settledKerf_mm: entry.settledKerfM * 1000,
      bite_mm: entry.biteM * 1000,
      mouth_mm: entry.mouthM * 1000,
      settles_s: entry.settlesS,
      settles_mm: entry.settlesM === null ? null : entry.settlesM * 1000,
    };
  },
);

/** Heat along the wire and in time. */
export const HEAT_VERBS: readonly Verb[] = [axialVerb, transientVerb, warmupVerb, entryVerb];
