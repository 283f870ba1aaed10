import { CoreError, type Warning } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { type Alloy, alloyById } from "../../materials/alloys";
import { interpolate, type Table } from "../../numerics/interpolate";
import { awgDiameterMm, STRAND_ENVELOPE, swgDiameterMm } from "../../units/gauges";

/** An alloy the maker describes; figures left out are taken as nickel-chromium's and said so. */
export interface CustomAlloySpec {
  id: "custom";
  name?: string | undefined;
  resistivity_uohm_m: number;
  temperatureFactor: [number, number][];
  density_kg_m3: number;
  specificHeat_J_kgK?: number | undefined;
  conductivity_W_mK?: number | undefined;
  expansion_1e6_per_K?: number | undefined;
  emissivity?: number | undefined;
  melts_C?: number | undefined;
}

/** A wire as people name it: alloy and one of three sizes (of one strand). */
export interface WireSpec {
  alloy: string | CustomAlloySpec;
  diameter_mm?: number | undefined;
  gauge_awg?: number | undefined;
  gauge_swg?: number | undefined;
  strands?: number | undefined;
  temper?: "annealed" | "spring" | undefined;
  /** What a meter said of this very spool at room temperature; takes the place of the alloy's table value. */
  measured_ohm_per_m?: number | undefined;
  /** Load at which the whole wire breaks cold, N, as it is sold or was tried: takes the place of the temper. */
  breaking_N?: number | undefined;
}

/** A wire as the models use it; SI. */
export interface Wire {
  alloy: Alloy;
  /** Diameter of one strand, m. */
  diameterM: number;
  /** Diameter of the smallest circle round all strands, m: what air and foam meet. */
  outerDiameterM: number;
  metalAreaM2: number;
  strands: number;
  temper: "annealed" | "spring";
  /** Breaking stress at room temperature, Pa, where the breaking load is known. */
  breakingPa?: number | undefined;
}

export const WIRE_RESISTANCE: Relation = {
  id: "wire-resistance",
  title: "Ohms per metre of wire",
  formula: "R' = rho20 f(T) / A",
  words: "A thinner wire of the same alloy resists more, with the square of its diameter; heat changes it by the factor f.",
  range: "f(T) straight-lined between table rows, held at the ends with a warning",
  basis: "published",
  source: "definition of resistivity; rho20 and f(T) per alloy, see the alloy's row",
};

function resolveAlloy(spec: string | CustomAlloySpec): Alloy {
  if (typeof spec === "string") {
    const alloy = alloyById(spec);
    if (!alloy) throw new CoreError("not-one-of", "wire.alloy", `unknown alloy "${spec}"`);
    return alloy;
  }
  const stand = alloyById("nicr-80-20") as Alloy;
  const measured = { basis: "estimate", source: "given by the maker" } as const;
  return {
    ...stand,
    id: "custom",
    name: spec.name ?? "Custom alloy",
    shortName: spec.name ?? "custom alloy",
    resistivityUohmM: spec.resistivity_uohm_m,
    temperatureFactor: spec.temperatureFactor as Table,
    densityKgM3: spec.density_kg_m3,
    specificHeatJKgK: spec.specificHeat_J_kgK ?? stand.specificHeatJKgK,
    conductivityWMK: spec.conductivity_W_mK ?? stand.conductivityWMK,
    expansionPerK: spec.expansion_1e6_per_K === undefined ? stand.expansionPerK : spec.expansion_1e6_per_K * 1e-6,
    emissivity: spec.emissivity ?? stand.emissivity,
    meltsC: spec.melts_C ?? stand.meltsC,
    gains: "As you measured it.",
    costs: "Figures not given are taken as nickel-chromium's.",
    origin: { resistivity: measured, temperatureFactor: measured, other: measured },
  };
}

/**
 * The wire a specification names.
 * @throws CoreError `conflict` when not exactly one size is given, `not-one-of` for an unknown alloy or strand count
 * @example resolveWire({ alloy: "nicr-80-20", gauge_awg: 24 }).diameterM // 0.000511
 */
export function resolveWire(spec: WireSpec): Wire {
  const sizes = [spec.diameter_mm, spec.gauge_awg, spec.gauge_swg].filter((size) => size !== undefined);
  if (sizes.length !== 1) {
    throw new CoreError("conflict", "wire", "give exactly one of diameter_mm, gauge_awg, gauge_swg");
  }
  const strands = spec.strands ?? 1;
  const envelope = STRAND_ENVELOPE[strands];
  if (envelope === undefined) {
    throw new CoreError("not-one-of", "wire.strands", `strands must be one of ${Object.keys(STRAND_ENVELOPE).join(", ")}`);
  }
  const diameterMm = spec.diameter_mm ?? (spec.gauge_awg !== undefined ? awgDiameterMm(spec.gauge_awg) : swgDiameterMm(spec.gauge_swg as number));
  const diameterM = diameterMm / 1000;
  const metalAreaM2 = (strands * Math.PI * diameterM * diameterM) / 4;
  const alloy = resolveAlloy(spec.alloy);
  return {
    alloy: spec.measured_ohm_per_m === undefined ? alloy : { ...alloy, resistivityUohmM: spec.measured_ohm_per_m * metalAreaM2 * 1e6 },
    diameterM,
    outerDiameterM: diameterM * envelope,
    metalAreaM2,
    strands,
    temper: spec.temper ?? "annealed",
    ...(spec.breaking_N === undefined ? {} : { breakingPa: spec.breaking_N / metalAreaM2 }),
  };
}

/** Ohms per metre at a wire temperature. See {@link WIRE_RESISTANCE}. */
export function resistanceOhmPerM(wire: Wire, wireC: number): number {
  return (wire.alloy.resistivityUohmM * 1e-6 * interpolate(wire.alloy.temperatureFactor, wireC).y) / wire.metalAreaM2;
}

/** Warnings for a wire at a temperature: outside its resistance table, or molten. */
export function wireTemperatureWarnings(wire: Wire, wireC: number): Warning[] {
  const table = wire.alloy.temperatureFactor;
  const from = (table[0] as readonly [number, number])[0];
  const to = (table[table.length - 1] as readonly [number, number])[0];
  const warnings: Warning[] = [];
  if (wireC < from - 1e-9 || wireC > to + 1e-9) {
    warnings.push({
      code: "resistance-table-clamped",
      message: `${wire.alloy.name}: resistance against temperature is known from ${from} to ${to} degC; held at the end row for ${wireC.toFixed(0)} degC`,
    });
  }
  if (wireC > wire.alloy.meltsC) {
    warnings.push({ code: "wire-melts", message: `${wire.alloy.name} begins to melt near ${wire.alloy.meltsC} degC: this wire would be gone` });
  }
  return warnings;
}

/** Mass per metre, kg/m. */
export function massKgPerM(wire: Wire): number {
  return wire.metalAreaM2 * wire.alloy.densityKgM3;
}
