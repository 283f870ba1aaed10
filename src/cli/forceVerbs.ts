import { z } from "zod";
import { DEMO_CUTTERS, DEMO_FRAME } from "@/core/cutters/design/demoCutters";
import { sectionSchema } from "@/core/cutters/design/schema";
import { frameOf } from "@/core/cutters/solve/frameModel";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { FRAMING_IDS } from "@/core/materials/framing";
import { cutAtCurrent, cutAtPower, referenceDragNPerM } from "@/core/physics/cut/cut";
import { cornerDwell, cornerOnGrid, midSpanLag, pulledFeed } from "@/core/physics/cut/lag";
import { massKgPerM, resolveWire } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { storedEnergyJ } from "@/core/physics/mechanics/springs";
import { armRateNPerM, pitchHz, solveTension, type TensionDeviceModel, tensionFromPitch, wireStiffnessNPerM } from "@/core/physics/mechanics/tension";
import { wireEnds } from "@/core/physics/mechanics/wireEnds";
import { figure } from "@/core/units/figure";
import { designFrom } from "./designVerbs";
import { ambient, exactlyOne, refuse, type Verb, verb, withWarnings } from "./verb";

const deviceSchema = z.discriminatedUnion(
  "kind",
  [
    z.strictObject({ kind: z.literal("spring"), rate_N_per_mm: figure("rate_N_per_mm") }),
    z.strictObject({ kind: z.literal("weight") }),
    z.strictObject({ kind: z.literal("rigid") }),
    z.strictObject({ kind: z.literal("band"), rate_N_per_mm: figure("rate_N_per_mm") }),
    z.strictObject({
      kind: z.literal("arm"),
      material: z.enum(FRAMING_IDS, { error: `must be one of ${FRAMING_IDS.join(", ")}` }),
      length_mm: figure("length_mm"),
      section: sectionSchema,
      arms: z.union([z.literal(1), z.literal(2)], { error: "must be 1 or 2" }).default(2),
    }),
  ],
  { error: "kind must be one of spring, weight, rigid, band, arm" },
);

/** The device as the tension model knows it. */
function deviceModel(device: z.output<typeof deviceSchema>): TensionDeviceModel {
  switch (device.kind) {
    case "spring":
    case "band":
      return { kind: device.kind, rateNPerM: device.rate_N_per_mm * 1000 };
    case "arm":
      return {
        kind: "arm",
        rateNPerM: armRateNPerM({ material: device.material, section: device.section, lengthM: device.length_mm / 1000, arms: device.arms }),
      };
    default:
      return device;
  }
}

const tensionVerb = verb(
  "tension",
  "Tension cold and hot, growth, working limit and pitch, from either tension and the device.",
  z
    .strictObject({
      wire: wireSchema,
      span_mm: figure("length_mm"),
      hot_C: figure("temperature_C"),
      ambient_C: ambient,
      cold_N: figure("tension_N").optional(),
      hot_N: figure("tension_N").optional(),
      device: deviceSchema,
    })
    .superRefine(exactlyOne("cold_N", "hot_N"))
    .superRefine((input, ctx) => {
      if (input.hot_C < input.ambient_C) refuse(ctx, "hot_C", `must be at or above ambient_C (${input.ambient_C})`);
    }),
  { wire: { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" }, span_mm: 1220, hot_C: 330, hot_N: 65, device: { kind: "spring", rate_N_per_mm: 2.4 } },
  (input) => {
    const answer = solveTension({
      wire: resolveWire(input.wire),
      spanM: input.span_mm / 1000,
      hotC: input.hot_C,
      ambientC: input.ambient_C,
      set: input.cold_N !== undefined ? { coldN: input.cold_N } : { hotN: input.hot_N as number },
      device: deviceModel(input.device),
    });
    return withWarnings(
      {
        cold_N: answer.coldN,
        hot_N: answer.hotN,
        growth_mm: answer.growthM * 1000,
        travel_mm: answer.travelM * 1000,
        allowable_N: answer.hotLimits.recommendedN,
        pitchCold_Hz: answer.pitchColdHz,
        pitchHot_Hz: answer.pitchHotHz,
        yieldPitch_Hz: answer.yieldPitchHz,
      },
      answer.warnings,
    );
  },
);

const pluckVerb = verb(
  "pluck",
  "Pitch from tension, or tension from pitch, with the wire's stiffness counted.",
  z
    .strictObject({
      wire: wireSchema,
      span_mm: figure("length_mm"),
      tension_N: figure("tension_N").optional(),
      frequency_Hz: figure("frequency_Hz").optional(),
    })
    .superRefine(exactlyOne("tension_N", "frequency_Hz")),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.4 }, span_mm: 500, tension_N: 20 },
  (input) => {
    const wire = resolveWire(input.wire);
    const span = input.span_mm / 1000;
    if (input.frequency_Hz !== undefined) return { tension_N: tensionFromPitch(wire, span, input.frequency_Hz), frequency_Hz: input.frequency_Hz };
    const tension = input.tension_N as number;
    return { tension_N: tension, frequency_Hz: pitchHz(wire, span, tension), mass_g_per_m: massKgPerM(wire) * 1000 };
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
    // Top feed goes with heat alone, whatever the feed asked about.
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

const frameVerb: Verb = {
  name: "frame",
  summary:
    "A whole design file with a frame: forces, stresses and movement of its members under the wire's tension, each against what it stands. null without a frame.",
  example: { ...DEMO_CUTTERS[0], frame: DEMO_FRAME },
  run: (input, prefix) => {
    const design = designFrom(input, prefix);
    const answer = frameOf(design);
    return (
      answer && {
        checks: answer.checks.map(({ part, value, limit, unit, ok, words }) => ({ part, value, limit, unit, ok, words })),
        closes_mm: answer.closesM * 1000,
        rate_N_per_mm: answer.rateNPerM / 1000,
        ownTension_N: answer.ownTensionN,
      }
    );
  },
};

const endsVerb = verb(
  "ends",
  "Least bend radius, wire used at each end and length to cut for a span, and what a break would let go.",
  z.strictObject({
    wire: wireSchema,
    span_mm: figure("length_mm"),
    tension_N: figure("force_N").optional(),
    rate_N_per_mm: figure("rate_N_per_mm").optional(),
  }),
  { wire: { alloy: "ss-304", diameter_mm: 0.64, temper: "spring" }, span_mm: 1300, tension_N: 65, rate_N_per_mm: 2.4 },
  (input) => {
    const wire = resolveWire(input.wire);
    const spanM = input.span_mm / 1000;
    const ends = wireEnds(wire, spanM);
    const energy =
      input.tension_N === undefined
        ? null
        : storedEnergyJ({
            tensionN: input.tension_N,
            rateNPerM: input.rate_N_per_mm === undefined ? null : input.rate_N_per_mm * 1000,
            wireStiffnessNPerM: wireStiffnessNPerM(wire, spanM),
          });
    return {
      bendRadius_mm: ends.bendRadiusM * 1000,
      end_mm: ends.endM * 1000,
      cut_mm: ends.cutM * 1000,
      advice: ends.advice,
      ...(energy ? { device_J: energy.deviceJ, wire_J: energy.wireJ } : {}),
    };
  },
);

/** Tension, pitch, bow and pull. */
export const FORCE_VERBS: readonly Verb[] = [tensionVerb, pluckVerb, lagVerb, pullVerb, frameVerb, endsVerb];
