import { z } from "zod";
import { exactlyOne, type Verb, verb, withWarnings } from "@/core/kernel/verb";
import { type BareWireState, bareWireAtTemperature, bareWireDriven } from "@/core/physics/heat/bareWire";
import { massKgPerM, resistanceOhmPerM, resolveWire, wireTemperatureWarnings } from "@/core/physics/heat/wire";
import { wireSchema } from "@/core/physics/heat/wireSchema";
import { ambient, figure } from "@/core/units/figure";
import { bounded } from "../../kernel/bounded";

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
      power_W_per_m: bounded(0, 5000, "W/m").optional(),
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

/** The headless verbs of this room. */
export const HEAT_VERBS: readonly Verb[] = [wireVerb, airVerb];
