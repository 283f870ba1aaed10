import { z } from "zod";
import { exactlyOne, refuse, type Verb, verb, withWarnings } from "@/core/kernel/verb";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { FRAMING_IDS } from "@/core/materials/framing";
import { cutAtPower } from "@/core/physics/cut/cut";
import { massKgPerM, resolveWire } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { sectionSchema } from "@/core/physics/mechanics/frameSchema";
import { measureSpring, rateFromWeight, storedEnergyJ } from "@/core/physics/mechanics/springs";
import { STIFF_ENOUGH, stiffBowM, stiffWireM } from "@/core/physics/mechanics/stiffBow";
import { solderingTip, TIP_METALS, type TipMetal, wandCut } from "@/core/physics/mechanics/stiffTools";
import { armRateNPerM, pitchHz, solveTension, strungN, type TensionDeviceModel, tensionFromPitch, wireStiffnessNPerM } from "@/core/physics/mechanics/tension";
import { wireEnds } from "@/core/physics/mechanics/wireEnds";
import { ambient, figure } from "@/core/units/figure";

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
    const result = solveTension({
      wire: resolveWire(input.wire),
      spanM: input.span_mm / 1000,
      hotC: input.hot_C,
      ambientC: input.ambient_C,
      set: input.cold_N !== undefined ? { coldN: input.cold_N } : { hotN: input.hot_N as number },
      device: deviceModel(input.device),
    });
    return withWarnings(
      {
        cold_N: result.coldN,
        hot_N: result.hotN,
        growth_mm: result.growthM * 1000,
        travel_mm: result.travelM * 1000,
        allowable_N: result.hotLimits.recommendedN,
        pitchCold_Hz: result.pitchColdHz,
        pitchHot_Hz: result.pitchHotHz,
        yieldPitch_Hz: result.yieldPitchHz,
      },
      result.warnings,
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

const strungVerb = verb(
  "strung",
  "Pull of an arm or frame by how it is strung: drawn so far from its rest, a wire cut short by so much, or an arm bent back and drawn straight.",
  z
    .strictObject({
      wire: wireSchema,
      span_mm: figure("length_mm"),
      rate_N_per_mm: figure("rate_N_per_mm"),
      drawn_mm: figure("travel_mm").optional(),
      short_mm: figure("travel_mm").optional(),
      bend_deg: figure("bend_deg").optional(),
      arm_mm: figure("frameSize_mm").optional(),
      hot_C: figure("temperature_C").optional(),
      ambient_C: ambient,
    })
    .superRefine(exactlyOne("drawn_mm", "short_mm", "bend_deg"))
    .superRefine((input, ctx) => {
      if (input.bend_deg !== undefined && input.arm_mm === undefined) refuse(ctx, "arm_mm", "is required with bend_deg");
      if (input.hot_C !== undefined && input.hot_C < input.ambient_C) refuse(ctx, "hot_C", `must be at or above ambient_C (${input.ambient_C})`);
    }),
  { wire: { alloy: "ss-304", diameter_mm: 0.41, temper: "spring" }, span_mm: 350, rate_N_per_mm: 1.1, bend_deg: 10, arm_mm: 200, hot_C: 300 },
  (input) => {
    const wire = resolveWire(input.wire);
    const spanM = input.span_mm / 1000;
    const rate = input.rate_N_per_mm * 1000;
    const how =
      input.drawn_mm !== undefined
        ? { drawnM: input.drawn_mm / 1000 }
        : input.short_mm !== undefined
          ? { shortM: input.short_mm / 1000 }
          : { armM: (input.arm_mm as number) / 1000, bendDeg: input.bend_deg as number };
    const { coldN, drawnM } = strungN(how, rate, wire, spanM);
    const result = solveTension({
      wire,
      spanM,
      hotC: input.hot_C ?? input.ambient_C,
      ambientC: input.ambient_C,
      set: { coldN },
      device: { kind: "arm", rateNPerM: rate },
    });
    return withWarnings({ cold_N: coldN, hot_N: result.hotN, drawn_mm: drawnM * 1000 }, result.warnings);
  },
);

const weights = z
  .array(z.strictObject({ force_N: figure("force_N"), length_mm: figure("length_mm") }))
  .min(2, { error: "needs two weights with their lengths" })
  .max(50, { error: "has room for 50 readings" });

const springVerb = verb(
  "spring",
  "Rate of a spring: from one hung weight and the stretch it makes, or from two or more weights and the lengths they draw it to, which also tell what it is wound with.",
  z
    .strictObject({
      force_N: figure("force_N").optional(),
      stretch_mm: figure("travel_mm").optional(),
      initial_N: figure("tension_N").default(0),
      rest_mm: figure("length_mm").optional(),
      readings: weights.optional(),
    })
    .superRefine(exactlyOne("force_N", "readings"))
    .superRefine((input, ctx) => {
      if (input.force_N !== undefined && input.stretch_mm === undefined) refuse(ctx, "stretch_mm", "is required with force_N");
      if (input.readings !== undefined && input.rest_mm === undefined) refuse(ctx, "rest_mm", "is required with readings");
    }),
  { force_N: 19.6, stretch_mm: 16 },
  (input) => {
    if (input.readings === undefined) {
      return {
        rate_N_per_mm: rateFromWeight(input.force_N as number, (input.stretch_mm as number) / 1000, input.initial_N) / 1000,
        initial_N: input.initial_N,
      };
    }
    const spring = measureSpring(
      (input.rest_mm as number) / 1000,
      input.readings.map((row) => ({ forceN: row.force_N, lengthM: row.length_mm / 1000 })),
    );
    return { rate_N_per_mm: spring.rateNPerM / 1000, initial_N: spring.initialN, worstMiss_N: spring.worstErrorN };
  },
);

const stiffFields = {
  wire: wireSchema,
  foam: foamSchema,
  ambient_C: ambient,
  feed_mm_s: figure("feed_mm_s"),
  power_W_per_m: figure("power_W_per_m"),
  depth_mm: figure("toolDepth_mm"),
};

const wandVerb = verb(
  "wand",
  "A wand: the wire goes in and comes back beside itself. Its hole, its fastest feed and how far its end bends back.",
  z.strictObject({ ...stiffFields, gap_mm: figure("legGap_mm").default(1) }),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.8 }, foam: "eps-20", feed_mm_s: 3, power_W_per_m: 40, depth_mm: 60 },
  (input) => {
    const pair = { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C };
    const tool = { kind: "wand", depthM: input.depth_mm / 1000 } as const;
    const cut = wandCut(pair, input.feed_mm_s / 1000, input.power_W_per_m, input.gap_mm / 1000);
    const bowM = cut.dragNPerM === null ? null : stiffBowM(tool, pair.wire, cut.dragNPerM);
    return {
      kerf_mm: cut.kerfM * 1000,
      maxFeed_mm_s: cut.maxFeedMPerS * 1000,
      feedRatio: cut.feedRatio,
      wireTemperature_C: cut.wireC,
      drag_N_per_m: cut.dragNPerM,
      bends_mm: bowM === null ? null : bowM * 1000,
      stiffEnough: bowM !== null && bowM <= STIFF_ENOUGH * tool.depthM,
      wire_mm: stiffWireM(tool) * 1000,
    };
  },
);

const loopVerb = verb(
  "loop",
  "A bent loop on a handle: the groove it leaves, the wire it takes and how far it bends back under the drag.",
  z.strictObject({ ...stiffFields, width_mm: figure("toolDepth_mm") }),
  { wire: { alloy: "nicr-80-20", diameter_mm: 0.8 }, foam: "eps-20", feed_mm_s: 3, power_W_per_m: 40, depth_mm: 20, width_mm: 30 },
  (input) => {
    const pair = { wire: resolveWire(input.wire), foam: resolveFoam(input.foam), ambientC: input.ambient_C };
    const tool = { kind: "loop", widthM: input.width_mm / 1000, depthM: input.depth_mm / 1000 } as const;
    const cut = cutAtPower(pair, input.feed_mm_s / 1000, input.power_W_per_m);
    const bowM = cut.dragNPerM === null ? null : stiffBowM(tool, pair.wire, cut.dragNPerM);
    return {
      groove_mm: input.width_mm + (cut.kerfM - pair.wire.outerDiameterM) * 1000,
      kerf_mm: cut.kerfM * 1000,
      verdict: cut.verdict,
      bends_mm: bowM === null ? null : bowM * 1000,
      stiffEnough: bowM !== null && bowM <= STIFF_ENOUGH * tool.depthM,
      wire_mm: stiffWireM(tool) * 1000,
    };
  },
);

const metals = Object.keys(TIP_METALS) as [TipMetal, ...TipMetal[]];

const tipVerb = verb(
  "tip",
  "A rod in a soldering iron: how hot its root and its end are in the foam, what it takes of the iron's watts, and how deep it still cuts.",
  z.strictObject({
    metal: z.enum(metals, { error: `must be one of ${metals.join(", ")}` }),
    diameter_mm: figure("diameter_mm"),
    depth_mm: figure("toolDepth_mm"),
    iron_W: figure("iron_W"),
    iron_C: figure("temperature_C"),
    foam: foamSchema,
    ambient_C: ambient,
    feed_mm_s: figure("feed_mm_s"),
  }),
  { metal: "copper", diameter_mm: 2, depth_mm: 40, iron_W: 40, iron_C: 350, foam: "eps-20", feed_mm_s: 3 },
  (input) => {
    const result = solderingTip(
      { foam: resolveFoam(input.foam), ambientC: input.ambient_C },
      { metal: input.metal, diameterM: input.diameter_mm / 1000, depthM: input.depth_mm / 1000 },
      { watts: input.iron_W, atC: input.iron_C },
      input.feed_mm_s / 1000,
    );
    return {
      root_C: result.rootC,
      end_C: result.endC,
      takes_W: result.takesW,
      ironFalls: result.ironFalls,
      rootKerf_mm: result.rootKerfM * 1000,
      endKerf_mm: result.endKerfM * 1000,
      cuts_mm: result.cutsM * 1000,
    };
  },
);

/** The headless verbs of this room. */
export const MECHANICS_VERBS: readonly Verb[] = [tensionVerb, pluckVerb, endsVerb, strungVerb, springVerb, wandVerb, loopVerb, tipVerb];
