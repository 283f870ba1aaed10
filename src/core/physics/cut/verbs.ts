import { z } from "zod";
import { exactlyOne, refuse, type Verb, verb, withWarnings } from "@/core/kernel/verb";
import { foamSchema } from "@/core/materials/foamSchema";
import { type FoamSpec, resolveFoam } from "@/core/materials/foams";
import { hotSpots, solveAxial } from "@/core/physics/cut/axial";
import { followAxial } from "@/core/physics/cut/axialInTime";
import { type CutState, cutAtCurrent, cutAtPower, referenceDragNPerM } from "@/core/physics/cut/cut";
import { computeCutMap, MAP_VERDICTS } from "@/core/physics/cut/cutMap";
import { enterFoam } from "@/core/physics/cut/entry";
import { cornerDwell, cornerOnGrid, midSpanLag, pulledFeed } from "@/core/physics/cut/lag";
import { type Band, cutBands, DOUBTS } from "@/core/physics/cut/uncertainty";
import { type BarInput, TEMPLATE_MATERIALS } from "@/core/physics/cut/wireBar";
import { resolveWire, type WireSpec, wireTemperatureWarnings } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { ambient, figure } from "@/core/units/figure";
import { LIMITS } from "@/core/units/limits";
import { boundedWhole } from "../../kernel/bounded";

export const cutFields = (state: CutState) => ({
  kerf_mm: state.kerfM * 1000,
  maxFeed_mm_s: state.maxFeedMPerS * 1000,
  feedRatio: state.feedRatio,
  wireTemperature_C: state.wireC,
  drag_N_per_m: state.dragNPerM,
  power_W_per_m: state.powerWPerM,
  verdict: state.verdict,
});

const cutVerb = verb(
  "cut",
  "Kerf, top feed, wire temperature, drag and verdict of a cut at a heat or current. Drag is null at or above the top feed.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      feed_mm_s: figure("feed_mm_s"),
      maxKerf_mm: figure("maxKerf_mm").optional(),
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", feed_mm_s: 4, power_W_per_m: 70 },
  (input) => {
    const pair = { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C };
    const feed = input.feed_mm_s / 1000;
    const accepted = input.maxKerf_mm === undefined ? undefined : input.maxKerf_mm / 1000;
    const state =
      input.current_A !== undefined ? cutAtCurrent(pair, feed, input.current_A, accepted) : cutAtPower(pair, feed, input.power_W_per_m as number, accepted);
    return withWarnings(cutFields(state), state.warnings);
  },
);

const bandFields = (band: Band | null, scale = 1) =>
  band && { low: band.low * scale, mid: band.mid * scale, high: Number.isFinite(band.high) ? band.high * scale : null };

const bandVerb = verb(
  "band",
  "A cut's figures with their bands: doubtful inputs (collapse temperature, emissivity, density, drag constant, fume limit) moved by their doubts. high is null where there is no upper end.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      feed_mm_s: figure("feed_mm_s"),
      maxKerf_mm: figure("maxKerf_mm").default(2.5),
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", feed_mm_s: 4, power_W_per_m: 70 },
  (input) => {
    const pair = { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C };
    const drive = input.current_A !== undefined ? { currentA: input.current_A } : { powerWPerM: input.power_W_per_m as number };
    const bands = cutBands(pair, input.feed_mm_s / 1000, drive, input.maxKerf_mm / 1000);
    return {
      kerf_mm: bandFields(bands.kerfM, 1000),
      maxFeed_mm_s: bandFields(bands.maxFeedMPerS, 1000),
      wireTemperature_C: bandFields(bands.wireC),
      drag_N_per_m: bandFields(bands.dragNPerM),
      cleanFrom_mm_s: bandFields(bands.cleanFromMPerS, 1000),
      cleanTo_mm_s: bandFields(bands.cleanToMPerS, 1000),
      cleanShare: bands.cleanShare,
      doubts: DOUBTS,
    };
  },
);

/** What `axial` and `transient` share of a wire between clamps, next to its foam. */
const barFields = {
  cells: boundedWhole(10, 4000).optional(),
  edges: z
    .array(
      z.strictObject({
        at_mm: figure("position_mm"),
        thickness_mm: figure("edgeThickness_mm"),
        material: z.enum(TEMPLATE_MATERIALS, { error: `must be one of ${TEMPLATE_MATERIALS.join(", ")}` }),
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
  edges?: { at_mm: number; thickness_mm: number; material: (typeof TEMPLATE_MATERIALS)[number] }[] | undefined;
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
    const result = solveAxial({ ...bar, currentA: input.current_A });
    const spots = hotSpots(result, bar);
    return withWarnings(
      {
        position_mm: Array.from(result.positionM, (x) => x * 1000),
        temperature_C: Array.from(result.temperatureC),
        energyImbalance: result.energyImbalance,
        generated_W: result.generatedW,
        toAir_W: result.lossToAirW,
        toFoam_W: result.lossToFoamW,
        toEdges_W: result.lossToEdgesW,
        toClamps_W: result.lossToClampsW,
        hottest_C: spots.hottestC,
        hottest_mm: spots.hottestM * 1000,
        meanInFoam_C: spots.meanInFoamC,
        coldEnds_mm: spots.coldEndsM * 1000,
        iterations: result.iterations,
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

const entryVerb = verb(
  "entry",
  "The wire's entry from air into foam: how far its stored heat cuts on its own (the bite), how wide a mouth it opens, and how far the tail of it reaches until the kerf settles.",
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

const axis = (name: "power_W_per_m" | "feed_mm_s") =>
  z.tuple(
    [
      figure(name),
      figure(name),
      z
        .int({ error: "must be a whole number from 1 to 1000" })
        .min(1, { error: "must be a whole number from 1 to 1000" })
        .max(LIMITS.axisCount.max, { error: "must be a whole number from 1 to 1000" }),
    ],
    {
      error: "must be [from, to, n]",
    },
  );

const mapVerb = verb(
  "map",
  "Kerf and verdict over heat (rows) and feed (columns), and the top feed of each row.",
  z.strictObject({
    wire: wireSchema,
    foam: foamSchema,
    ambient_C: ambient,
    maxKerf_mm: figure("maxKerf_mm").optional(),
    power_W_per_m: axis("power_W_per_m"),
    feed_mm_s: axis("feed_mm_s"),
  }),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", power_W_per_m: [40, 80, 3], feed_mm_s: [2, 8, 4] },
  (input) => {
    const [heatFrom, heatTo, rows] = input.power_W_per_m;
    const [feedFrom, feedTo, columns] = input.feed_mm_s;
    const map = computeCutMap(
      { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C },
      { from: heatFrom, to: heatTo, count: rows },
      { from: feedFrom / 1000, to: feedTo / 1000, count: columns },
      input.maxKerf_mm === undefined ? undefined : input.maxKerf_mm / 1000,
    );
    const byRow = <T>(read: (at: number) => T) =>
      Array.from({ length: rows }, (_, row) => Array.from({ length: columns }, (_, column) => read(row * columns + column)));
    return {
      kerf_mm: byRow((at) => (map.kerf[at] as number) * 1000),
      verdict: byRow((at) => MAP_VERDICTS[map.verdict[at] as number]),
      maxFeed_mm_s: Array.from(map.maxFeed, (feed) => feed * 1000),
    };
  },
);

/** Enough for a smooth course; the grid's steps grow with its square. */
const COURSE_POINTS = 21;

const lagVerb = verb(
  "lag",
  "Bow of the wire in a straight cut as wide as the span, and the wait at a corner; with course, mid-span bow over time at the corner, solved on a grid. Lag and dwell are null at or above the top feed.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      span_mm: figure("length_mm"),
      tension_N: figure("force_N"),
      feed_mm_s: figure("feed_mm_s"),
      tolerance_mm: figure("tolerance_mm").default(0.2),
      course: z.boolean({ error: "must be true or false" }).default(false),
      current_A: figure("drivingCurrent_A").optional(),
      power_W_per_m: figure("power_W_per_m").optional(),
    })
    .superRefine(exactlyOne("current_A", "power_W_per_m")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", span_mm: 1220, tension_N: 66.7, feed_mm_s: 6, power_W_per_m: 60 },
  (input) => {
    const wire = resolveWire(input.wire);
    const foam = resolveFoam(input.foam);
    const pair = { wire, foam, ambientC: input.ambient_C };
    const feed = input.feed_mm_s / 1000;
    const cut = input.current_A !== undefined ? cutAtCurrent(pair, feed, input.current_A) : cutAtPower(pair, feed, input.power_W_per_m as number);
    const span = input.span_mm / 1000;
    const lag = cut.dragNPerM === null ? null : midSpanLag(cut.dragNPerM, span, span, input.tension_N);
    const corner = {
      lagM: lag?.lagM ?? 0,
      toleranceM: input.tolerance_mm / 1000,
      maxFeedMPerS: cut.maxFeedMPerS,
      referenceDragNPerM: referenceDragNPerM(pair),
      spanM: span,
      tensionN: input.tension_N,
    };
    const dwell = cornerDwell(corner);
    const course = input.course && lag && lag.lagM > corner.toleranceM ? cornerOnGrid({ ...corner, points: COURSE_POINTS }) : undefined;
    return withWarnings(
      {
        lag_mm: lag && lag.lagM * 1000,
        // A heat too small to melt anything leaves no top feed to relax at.
        relaxation_s: Number.isFinite(dwell.relaxationS) ? dwell.relaxationS : null,
        dwell_s: lag && dwell.dwellS,
        drag_N_per_m: cut.dragNPerM,
        maxFeed_mm_s: cut.maxFeedMPerS * 1000,
        verdict: cut.verdict,
        ...(course ? { time_s: course.timeS, middle_mm: course.midM.map((bow) => bow * 1000) } : {}),
      },
      [...cut.warnings, ...(lag?.warnings ?? [])],
    );
  },
);

const pullVerb = verb(
  "pull",
  "Speed at which a pull, or the cutter's own weight in a drop, takes the wire through; or the pull a speed needs.",
  z
    .strictObject({
      wire: wireSchema,
      foam: foamSchema,
      ambient_C: ambient,
      width_mm: figure("width_mm"),
      power_W_per_m: figure("power_W_per_m"),
      pull_N: figure("force_N").optional(),
      feed_mm_s: figure("feed_mm_s").optional(),
    })
    .superRefine(exactlyOne("pull_N", "feed_mm_s")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.635 }, foam: "xps-35", width_mm: 1200, power_W_per_m: 70, pull_N: 2.8 },
  (input) => {
    const pair = { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C };
    const width = input.width_mm / 1000;
    // Top feed depends on heat alone, not on the feed in the query.
    const { maxFeedMPerS } = cutAtPower(pair, (input.feed_mm_s ?? 1) / 1000, input.power_W_per_m);
    const feed = input.feed_mm_s !== undefined ? input.feed_mm_s / 1000 : pulledFeed(input.pull_N as number, maxFeedMPerS, referenceDragNPerM(pair), width);
    const cut = feed > 0 ? cutAtPower(pair, feed, input.power_W_per_m) : undefined;
    return {
      feed_mm_s: feed * 1000,
      pull_N: input.pull_N ?? (cut?.dragNPerM == null ? null : cut.dragNPerM * width),
      maxFeed_mm_s: maxFeedMPerS * 1000,
      ...(cut ? { kerf_mm: cut.kerfM * 1000, verdict: cut.verdict } : {}),
    };
  },
);

/** The headless verbs of this room. */
export const CUT_VERBS: readonly Verb[] = [cutVerb, bandVerb, mapVerb, axialVerb, transientVerb, entryVerb, lagVerb, pullVerb];
