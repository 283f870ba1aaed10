import { CoreError } from "../kernel/errors";
import type { Relation } from "../kernel/provenance";
import { LETHAL_SUPPLIES } from "../physics/power/lethal";
import type { Supply } from "../physics/power/supplies";
import { LIMITS } from "../units/limits";

export const MEASURED_SUPPLY: Relation = {
  id: "measured-supply",
  title: "A supply without a plate, by a meter and a known load",
  formula: "E = volts with nothing on it; r = R_load (E/V_loaded - 1); it has shown that it sustains V_loaded/R_load",
  words:
    "First read its volts with nothing connected, then across a load of known ohms. The drop in volts gives its inner ohms; the current it drove is what it is known to sustain.",
  range: "a load heavy enough that the volts fall by a few per cent; both readings direct, or both alternating",
  basis: "published",
  source: "Ohm's law; a source as an EMF behind a resistance",
};

/** Two readings off a supply of unknown rating. */
export interface SupplyReadings {
  openV: number;
  loadedV: number;
  loadOhm: number;
  alternating: boolean;
}

export interface MeasuredSupply {
  supply: Supply;
  internalOhm: number;
  /** What it drove into the load, A: all it is known to sustain. */
  provenA: number;
  notes: string[];
}

/** A fall smaller than this share of the open volts is as much the meter as the supply. */
const CLEAR_FALL = 0.02;

/**
 * A supply from two readings. See {@link MEASURED_SUPPLY}.
 * @throws CoreError `lethal` above the touch limits, `out-of-range` where the loaded volts are not below the open ones
 */
export function measureSupply({ openV, loadedV, loadOhm, alternating }: SupplyReadings): MeasuredSupply {
  const limit = alternating ? LIMITS.voltage_Vrms.max : LIMITS.voltage_V.max;
  if (openV > limit)
    throw new CoreError(
      "lethal",
      "open_V",
      `open_V must be at most ${limit} V${alternating ? " alternating" : ""}: ${LETHAL_SUPPLIES.mains?.why ?? "refused"}`,
    );
  if (loadedV > openV)
    throw new CoreError("out-of-range", "loaded_V", `loaded_V must be at most open_V (${openV} V): a load never raises the volts; read both again`);
  const provenA = loadedV / loadOhm;
  const internalOhm = loadOhm * (openV / loadedV - 1);
  const ohm = Number(internalOhm.toPrecision(3));
  const amps = Number(provenA.toPrecision(3));
  const notes = [`it is known to sustain ${amps} A, not more: try a heavier load step by step, and feel whether it warms, before asking more of it`];
  if (openV - loadedV < CLEAR_FALL * openV) notes.push("its volts hardly fell: a heavier load would tell its inner ohms better");
  if (loadedV < openV / 2) notes.push("its volts fell by more than half: that load is past what it gives; take a lighter one");
  return {
    supply: alternating
      ? { kind: "transformer", voltage_Vrms: openV, rating_VA: Number((openV * provenA).toPrecision(3)), internal_ohm: ohm }
      : { kind: "dc", voltage_V: openV, maxCurrent_A: amps, internal_ohm: ohm, make: "hot-knife" },
    internalOhm,
    provenA,
    notes,
  };
}
