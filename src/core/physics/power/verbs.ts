import { z } from "zod";
import { refuse, type Verb, verb, withWarnings } from "@/core/kernel/verb";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { cutFields } from "@/core/physics/cut/verbs";
import { resolveWire, wireTemperatureWarnings } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { type CircuitInput, type CircuitResult, solveCircuit } from "@/core/physics/power/circuit";
import { controlSchema } from "@/core/physics/power/controlSchema";
import { leadsSchema } from "@/core/physics/power/leadsSchema";
import { batteryRun, fuseAdvice } from "@/core/physics/power/powerAdvice";
import { supplySchema } from "@/core/physics/power/supplySchema";
import { warmUp } from "@/core/physics/power/warmup";
import { ambient, figure } from "@/core/units/figure";
import { supplyRecordOf } from "./supplies";

/** A wire on a supply, bare or cutting, as several verbs take it. */
export const drivenWire = z.strictObject({
  wire: wireSchema,
  length_mm: figure("length_mm"),
  supply: supplySchema,
  control: controlSchema,
  leads: leadsSchema.optional(),
  spring_ohm: figure("spring_ohm").optional(),
  ambient_C: ambient,
  cutting: z.strictObject({ foam: foamSchema, feed_mm_s: figure("feed_mm_s"), width_mm: figure("width_mm") }).optional(),
});

type DrivenWire = z.output<typeof drivenWire>;

/** Refinement: the foam is no wider than the wire is long. */
export function cuttingFits({ cutting, length_mm }: DrivenWire, ctx: z.core.$RefinementCtx): void {
  if (!cutting || cutting.width_mm <= length_mm) return;
  ctx.issues.push({
    code: "custom",
    message: `must be a number from 1 to length_mm (${length_mm} mm)`,
    path: ["cutting", "width_mm"],
    params: { code: "out-of-range" },
    input: undefined,
  });
}

/** The same as the solver takes it, in SI. */
export function circuitVerbInput({ cutting, ...input }: DrivenWire): CircuitInput {
  const wire = resolveWire(input.wire);
  return {
    wire,
    lengthM: input.length_mm / 1000,
    supply: input.supply,
    control: input.control,
    leads: input.leads,
    springOhm: input.spring_ohm,
    ambientC: input.ambient_C,
    cutting: cutting && {
      pair: { wire, foam: resolveFoam(cutting.foam), ambientC: input.ambient_C },
      feedMPerS: cutting.feed_mm_s / 1000,
      widthM: cutting.width_mm / 1000,
    },
  };
}

export const circuitFields = (result: CircuitResult) => ({
  current_A: result.currentA,
  onCurrent_A: result.onCurrentA,
  wireVoltage_V: result.wireVoltageV,
  wirePower_W: result.wirePowerW,
  power_W_per_m: result.powerWPerM,
  wireTemperature_C: result.wireC,
  hotResistance_ohm: result.hotOhm,
  coldResistance_ohm: result.coldOhm,
  supplyCurrent_A: result.supplyCurrentA,
  inrush_A: result.inrushA,
  leadLoss_W: result.leadLossW,
  leads_C: result.leadC,
  joints_C: result.jointC,
  controlLoss_W: result.controlLossW,
  state: result.state,
  iterations: result.iterations,
  residual_A: result.residualA,
  // A supply that cannot hold, or a wire that melts nothing, makes no cut to print.
  ...(result.cut && result.state !== "overload" && result.cut.wireC > result.collapseC ? { cut: cutFields(result.cut) } : {}),
});

const circuitVerb = verb(
  "circuit",
  "Supply, control, leads and wire solved together with the wire's heat, in air or cutting.",
  drivenWire.superRefine(cuttingFits),
  {
    wire: { alloy: "nicr-80-20", gauge_awg: 24 },
    length_mm: 720,
    supply: { kind: "dc", voltage_V: 19, maxCurrent_A: 4.7 },
    control: { kind: "pwm", duty: 0.34 },
    leads: { gauge_awg: 18, oneWay_m: 1 },
    cutting: { foam: "eps-20", feed_mm_s: 6, width_mm: 600 },
  },
  (input) => {
    const circuit = circuitVerbInput(input);
    const result = solveCircuit(circuit);
    const run = supplyRecordOf(input.supply).record.charge ? batteryRun(circuit) : undefined;
    const { fuseA, leadRatingA, leadGaugeAwg } = fuseAdvice(result.supplyCurrentA, input.leads?.gauge_awg);
    return withWarnings(
      {
        ...circuitFields(result),
        fuse_A: fuseA,
        leadRating_A: leadRatingA,
        leadGauge_awg: leadGaugeAwg,
        ...(run && Number.isFinite(run.runTimeS) ? { runTime_s: run.runTimeS, fade: run.fade, endedBy: run.endedBy } : {}),
      },
      result.warnings,
    );
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
    // biome-ignore lint/suspicious/noThenProperty: the command line's fixed name; the object is data, never awaited
    then: z.literal("off", { error: 'must be "off"' }).optional(),
  }),
  { wire: { alloy: "nicr-80-20", gauge_awg: 26 }, current_A: 2, seconds: 10 },
  (input) => {
    const wire = resolveWire(input.wire);
    const result = warmUp(wire, input.current_A, { ambientC: input.ambient_C }, input.seconds, input.then === "off");
    return withWarnings(
      { time_s: result.timeS, temperature_C: result.temperatureC, timeTo95_s: result.timeTo95S, steady_C: result.steadyC },
      wireTemperatureWarnings(wire, Math.max(result.steadyC, 20)),
    );
  },
);

const batteryVerb = verb(
  "battery",
  "How long a battery drives a wire, bare or cutting: to empty or to its floor, and how far the heat fades on the way.",
  drivenWire.superRefine(cuttingFits).superRefine((input, ctx) => {
    if (!supplyRecordOf(input.supply).record.charge) refuse(ctx, "supply", "must be a battery: nothing else runs down");
  }),
  {
    wire: { alloy: "ss-304", diameter_mm: 0.41, temper: "spring" },
    length_mm: 700,
    supply: { kind: "battery", chemistry: "lead-acid", cells: 6, capacity_Ah: 40 },
    control: { kind: "pwm", duty: 0.6 },
    cutting: { foam: "eps-18", feed_mm_s: 6, width_mm: 600 },
  },
  (input) => {
    const run = batteryRun({ ...circuitVerbInput(input), untilItMelts: true });
    // A setting that draws nothing never empties it.
    return { runTime_s: Number.isFinite(run.runTimeS) ? run.runTimeS : null, fade: run.fade, endedBy: run.endedBy };
  },
);

/** The headless verbs of this room. */
export const POWER_VERBS: readonly Verb[] = [circuitVerb, warmupVerb, batteryVerb];
