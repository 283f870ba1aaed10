import { z } from "zod";
import { CoreError } from "@/core/kernel/errors";
import { foamSchema } from "@/core/materials/foamSchema";
import { resolveFoam } from "@/core/materials/foams";
import { cutAtCurrent, cutAtPower } from "@/core/physics/cut/cut";
import { type BareWireState, bareWireAtTemperature, bareWireDriven } from "@/core/physics/heat/bareWire";
import { massKgPerM, resistanceOhmPerM, resolveWire, wireTemperatureWarnings } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { solveCircuit } from "@/core/physics/power/circuit";
import { batteryRun, fuseAdvice } from "@/core/physics/power/powerAdvice";
import { figure } from "@/core/units/figure";
import { BENCH_VERBS } from "./benchVerbs";
import { DESIGN_VERBS } from "./designVerbs";
import { circuitInput, cuttingFits, drivenWire } from "./drivenWire";
import { FORCE_VERBS } from "./forceVerbs";
import { HEAT_VERBS } from "./heatVerbs";
import { LOG_VERBS } from "./logVerbs";
import { TOOL_VERBS } from "./toolVerbs";
import { ambient, circuitFields, cutFields, exactlyOne, type Verb, verb, withWarnings } from "./verb";

const wireVerb = verb(
  "wire",
  "Diameter, metal area, ohms and mass per metre of a wire at a temperature.",
  z.strictObject({ wire: wireSchema, temperature_C: figure("temperature_C").default(20) }),
  { wire: { alloy: "nicr-80-20", gauge_awg: 24 }, temperature_C: 300 },
  (input) => {
    const wire = resolveWire(input.wire);
    return withWarnings(
      {
        diameter_mm: wire.diameterM * 1000,
        outerDiameter_mm: wire.outerDiameterM * 1000,
        metalArea_mm2: wire.metalAreaM2 * 1e6,
        resistance_ohm_per_m: resistanceOhmPerM(wire, input.temperature_C),
        mass_g_per_m: massKgPerM(wire) * 1000,
      },
      wireTemperatureWarnings(wire, input.temperature_C),
    );
  },
);

const bareFields = (state: BareWireState) => ({
  temperature_C: state.temperatureC,
  current_A: state.currentA,
  power_W_per_m: state.powerWPerM,
  convection_W_per_m: state.convectionWPerM,
  radiation_W_per_m: state.radiationWPerM,
});

const airVerb = verb(
  "air",
  "A bare wire in air: temperature, current and heat per metre, from any one of them.",
  z
    .strictObject({
      wire: wireSchema,
      ambient_C: ambient,
      airSpeed_m_s: figure("airSpeed_m_s").default(0),
      temperature_C: figure("temperature_C").optional(),
      current_A: figure("current_A").optional(),
      power_W_per_m: z.number().min(0, { error: "must be a number from 0 to 5000 W/m" }).max(5000, { error: "must be a number from 0 to 5000 W/m" }).optional(),
    })
    .superRefine(exactlyOne("temperature_C", "current_A", "power_W_per_m")),
  { wire: { alloy: "nicr-80-20", gauge_awg: 26 }, temperature_C: 427 },
  (input) => {
    const wire = resolveWire(input.wire);
    const around = { ambientC: input.ambient_C, airSpeedMPerS: input.airSpeed_m_s };
    const state =
      input.temperature_C !== undefined
        ? bareWireAtTemperature(wire, input.temperature_C, around)
        : bareWireDriven(wire, input.current_A !== undefined ? { currentA: input.current_A } : { powerWPerM: input.power_W_per_m as number }, around);
    return withWarnings({ ...bareFields(state), iterations: state.iterations }, state.warnings);
  },
);

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
    const circuit = circuitInput(input);
    const answer = solveCircuit(circuit);
    const run = input.supply.kind === "battery" ? batteryRun(circuit) : undefined;
    const { fuseA, leadRatingA, leadGaugeAwg } = fuseAdvice(answer.supplyCurrentA, input.leads?.gauge_awg);
    return withWarnings(
      {
        ...circuitFields(answer),
        fuse_A: fuseA,
        leadRating_A: leadRatingA,
        leadGauge_awg: leadGaugeAwg,
        ...(run && Number.isFinite(run.runTimeS) ? { runTime_s: run.runTimeS, fade: run.fade, endedBy: run.endedBy } : {}),
      },
      answer.warnings,
    );
  },
);

const computing: readonly Verb[] = [
  wireVerb,
  airVerb,
  cutVerb,
  circuitVerb,
  ...HEAT_VERBS,
  ...FORCE_VERBS,
  ...TOOL_VERBS,
  ...DESIGN_VERBS,
  ...BENCH_VERBS,
  ...LOG_VERBS,
];

const helpVerb: Verb = {
  name: "help",
  summary: "Lists the verbs, one example each.",
  example: null,
  run: () => ({ verbs: VERBS.map(({ name, summary, example }) => ({ verb: name, summary, example })) }),
};

/** Every verb of the headless door. */
export const VERBS: readonly Verb[] = [...computing, helpVerb];

/**
 * Answers one verb. A list in gives a list of the same length out; any refusal refuses the whole, its path beginning with the index.
 * @throws CoreError for an unknown verb or bad input
 */
export function answer(name: string, input: unknown): unknown {
  const found = VERBS.find((row) => row.name === name);
  if (!found) throw new CoreError("unknown-verb", "", `unknown verb "${name}": use one of ${VERBS.map((row) => row.name).join(", ")}`);
  if (!Array.isArray(input)) return run(found, input, "");
  return input.map((item, i) => run(found, item, String(i)));
}

function run(found: Verb, input: unknown, prefix: string): unknown {
  try {
    return found.run(input, prefix);
  } catch (error) {
    if (!(error instanceof CoreError) || prefix === "" || error.path.startsWith(prefix)) throw error;
    throw new CoreError(error.code, error.path ? `${prefix}.${error.path}` : prefix, error.message);
  }
}
