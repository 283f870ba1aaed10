import { STEFAN_BOLTZMANN, ZERO_CELSIUS_K } from "../../kernel/constants";
import { CoreError, type Warning } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { bracketedRoot, expandUntilPositive } from "../../numerics/rootFinding";
import { convectionWPerM } from "./air";
import { resistanceOhmPerM, type Wire, wireTemperatureWarnings } from "./wire";

export const BARE_WIRE_BALANCE: Relation = {
  id: "bare-wire-balance",
  title: "Temperature of the bare wire in air",
  formula: "I^2 R'(T) = h pi d (T - Ta) + eps sigma pi d (T^4 - Ta^4)",
  words: "The wire settles where the heat the current makes equals what air and radiation carry off.",
  range: "straight horizontal wire in still air or a given draught, steady",
  basis: "published",
  source: "energy balance; convection after Morgan (1975), radiation after Stefan and Boltzmann, air after US Standard Atmosphere 1976",
};

export interface Surroundings {
  ambientC: number;
  airSpeedMPerS?: number;
}

export interface BareWireState {
  temperatureC: number;
  currentA: number;
  powerWPerM: number;
  convectionWPerM: number;
  radiationWPerM: number;
  iterations: number;
  warnings: Warning[];
}

/** A guess is taken to lie within this share of the rise. */
const NEAR_SHARE = 0.04;

/** Hottest wire the balance looks for, degC: far above any alloy's melting. */
export const HOTTEST_C = 8000;

/** Radiation of a grey cylinder to its surroundings, W/m. */
export function radiationWPerM(diameterM: number, emissivity: number, wireC: number, aroundC: number): number {
  // Squares of squares: the general power is several times slower.
  const wireSquared = (wireC + ZERO_CELSIUS_K) * (wireC + ZERO_CELSIUS_K);
  const aroundSquared = (aroundC + ZERO_CELSIUS_K) * (aroundC + ZERO_CELSIUS_K);
  return emissivity * STEFAN_BOLTZMANN * Math.PI * diameterM * (wireSquared * wireSquared - aroundSquared * aroundSquared);
}

/** Heat the bare wire gives off at a temperature, W/m. */
export function bareLossWPerM(wire: Wire, wireC: number, around: Surroundings): number {
  return (
    convectionWPerM(wire.outerDiameterM, wireC, around.ambientC, around.airSpeedMPerS).wPerM +
    radiationWPerM(wire.outerDiameterM, wire.alloy.emissivity, wireC, around.ambientC)
  );
}

function describe(wire: Wire, temperatureC: number, around: Surroundings, iterations: number): BareWireState {
  const convection = convectionWPerM(wire.outerDiameterM, temperatureC, around.ambientC, around.airSpeedMPerS);
  const radiation = radiationWPerM(wire.outerDiameterM, wire.alloy.emissivity, temperatureC, around.ambientC);
  const powerWPerM = convection.wPerM + radiation;
  const warnings = wireTemperatureWarnings(wire, temperatureC);
  if (convection.outOfRange && temperatureC > around.ambientC) {
    warnings.push({ code: "convection-out-of-range", message: "the convection correlation is used beyond its stated range" });
  }
  return {
    temperatureC,
    currentA: Math.sqrt(powerWPerM / resistanceOhmPerM(wire, temperatureC)),
    powerWPerM,
    convectionWPerM: convection.wPerM,
    radiationWPerM: radiation,
    iterations,
    warnings,
  };
}

/**
 * Current and heat that hold a bare wire at a temperature.
 * @throws CoreError `out-of-range` when the wire would be colder than the room
 */
export function bareWireAtTemperature(wire: Wire, temperatureC: number, around: Surroundings): BareWireState {
  if (temperatureC < around.ambientC) {
    throw new CoreError("out-of-range", "temperature_C", `temperature_C must be at or above ambient_C (${around.ambientC})`);
  }
  return describe(wire, temperatureC, around, 0);
}

/**
 * Temperature a bare wire settles at.
 * @param drive rms current in amperes, or heat in W per metre
 * @param nearC a guess that saves steps, such as the answer at a neighbouring current; a poor one costs two steps
 * @throws CoreError `no-solution` when nothing below 8000 degC balances it
 */
export function bareWireDriven(wire: Wire, drive: { currentA: number } | { powerWPerM: number }, around: Surroundings, nearC?: number): BareWireState {
  const heat = "currentA" in drive ? (c: number) => drive.currentA ** 2 * resistanceOhmPerM(wire, c) : () => drive.powerWPerM;
  const surplus = (c: number) => bareLossWPerM(wire, c, around) - heat(c);
  if (heat(around.ambientC) === 0) return describe(wire, around.ambientC, around, 0);
  const spread = nearC === undefined ? 0 : NEAR_SHARE * (nearC - around.ambientC);
  const close = nearC !== undefined && spread > 0 && surplus(nearC - spread) < 0 && surplus(nearC + spread) > 0;
  const bracket = close ? { below: nearC - spread, above: nearC + spread } : expandUntilPositive(surplus, around.ambientC, 100, HOTTEST_C);
  if (!bracket) {
    const path = "currentA" in drive ? "current_A" : "power_W_per_m";
    throw new CoreError("no-solution", path, "the wire would be vapour: no temperature below 8000 degC balances this");
  }
  const root = bracketedRoot(surplus, bracket.below, bracket.above, 1e-9);
  return describe(wire, root.x, around, root.iterations);
}
