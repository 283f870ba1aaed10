import { z } from "zod";
import { measureSupply } from "@/core/drawer/measuredSupply";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { cutAtPower } from "@/core/physics/cut/cut";
import { resolveWire } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { measureSpring, rateFromWeight } from "@/core/physics/mechanics/springs";
import { STIFF_ENOUGH, solderingTip, stiffBowM, stiffWireM, TIP_METALS, type TipMetal, wandCut } from "@/core/physics/mechanics/stiffTools";
import { solveTension, strungN } from "@/core/physics/mechanics/tension";
import { batteryRun } from "@/core/physics/power/powerAdvice";
import { figure } from "@/core/units/figure";
import { circuitInput, cuttingFits, drivenWire } from "./drivenWire";
import { ambient, exactlyOne, refuse, type Verb, verb, withWarnings } from "./verb";

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
    const answer = solveTension({
      wire,
      spanM,
      hotC: input.hot_C ?? input.ambient_C,
      ambientC: input.ambient_C,
      set: { coldN },
      device: { kind: "arm", rateNPerM: rate },
    });
    return withWarnings({ cold_N: coldN, hot_N: answer.hotN, drawn_mm: drawnM * 1000 }, answer.warnings);
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
    return { rate_N_per_mm: spring.rateNPerM / 1000, initial_N: spring.initialN, worstMiss_N: spring.worstMissN };
  },
);

const batteryVerb = verb(
  "battery",
  "How long a battery drives a wire, bare or cutting: to empty or to its floor, and how far the heat fades on the way.",
  drivenWire.superRefine(cuttingFits).superRefine((input, ctx) => {
    if (input.supply.kind !== "battery") refuse(ctx, "supply", "must be a battery: nothing else runs down");
  }),
  {
    wire: { alloy: "ss-304", diameter_mm: 0.41, temper: "spring" },
    length_mm: 700,
    supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 },
    control: { kind: "pwm", duty: 0.6 },
    cutting: { foam: "eps-18", feed_mm_s: 6, width_mm: 600 },
  },
  (input) => {
    const run = batteryRun({ ...circuitInput(input), untilItMelts: true });
    // A setting that draws nothing never empties it.
    return { runTime_s: Number.isFinite(run.runTimeS) ? run.runTimeS : null, fade: run.fade, endedBy: run.endedBy };
  },
);

const measureVerb = verb(
  "measure-supply",
  "A supply without a plate from two readings of a meter: its volts with nothing on it, and across a load of known ohms.",
  z.strictObject({
    open_V: z.number({ error: "must be a number of volts above 0" }).positive({ error: "must be a number of volts above 0" }),
    loaded_V: figure("voltage_V"),
    load_ohm: figure("load_ohm"),
    alternating: z.boolean({ error: "must be true or false" }).default(false),
  }),
  { open_V: 13.8, loaded_V: 12.1, load_ohm: 4.7 },
  (input) => {
    const measured = measureSupply({ openV: input.open_V, loadedV: input.loaded_V, loadOhm: input.load_ohm, alternating: input.alternating });
    return { supply: measured.supply, internal_ohm: measured.internalOhm, proven_A: measured.provenA, notes: measured.notes };
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
    const answer = solderingTip(
      { foam: resolveFoam(input.foam), ambientC: input.ambient_C },
      { metal: input.metal, diameterM: input.diameter_mm / 1000, depthM: input.depth_mm / 1000 },
      { watts: input.iron_W, atC: input.iron_C },
      input.feed_mm_s / 1000,
    );
    return {
      root_C: answer.rootC,
      end_C: answer.endC,
      takes_W: answer.takesW,
      ironFalls: answer.ironFalls,
      rootKerf_mm: answer.rootKerfM * 1000,
      endKerf_mm: answer.endKerfM * 1000,
      cuts_mm: answer.cutsM * 1000,
    };
  },
);

/** How things are strung, what a supply or spring without a label is, how long a battery lasts, and the small tools. */
export const TOOL_VERBS: readonly Verb[] = [strungVerb, springVerb, batteryVerb, measureVerb, wandVerb, loopVerb, tipVerb];
