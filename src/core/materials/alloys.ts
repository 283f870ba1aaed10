import type { Source } from "../kernel/provenance";
import type { Table } from "../numerics/interpolate";

export interface Alloy {
  id: string;
  name: string;
  /** Short words for the sentence on the desk. */
  shortName: string;
  resistivityUohmM: number;
  /** [degC, resistance relative to 20 degC] */
  temperatureFactor: Table;
  densityKgM3: number;
  specificHeatJKgK: number;
  conductivityWMK: number;
  expansionPerK: number;
  emissivity: number;
  /** Start of melting, degC. */
  meltsC: number;
  /** What choosing it gains and costs, for the person choosing. */
  gains: string;
  costs: string;
  origin: Record<"resistivity" | "temperatureFactor" | "other", Source>;
}

const memory = (source: string, note?: string): Source => ({ basis: "from memory", source, note });
const handbookValues = memory("values written from memory of metals handbooks", "emissivity is for an oxidised wire");

const stainlessFactor: Table = [
  [20, 1],
  [100, 1.083],
  [200, 1.18],
  [300, 1.264],
  [400, 1.347],
  [500, 1.417],
  [600, 1.472],
  [700, 1.51],
];

/** Resistance wires by id. Every figure carries its origin; all of these are from memory until a citable table replaces them. */
export const ALLOYS: readonly Alloy[] = [
  {
    id: "nicr-80-20",
    name: "Nickel-chromium 80/20",
    shortName: "nickel-chromium",
    resistivityUohmM: 1.08,
    temperatureFactor: [
      [20, 1],
      [93, 1.016],
      [204, 1.037],
      [316, 1.054],
      [427, 1.066],
      [538, 1.07],
      [649, 1.064],
      [760, 1.062],
      [871, 1.066],
      [982, 1.072],
    ],
    densityKgM3: 8400,
    specificHeatJKgK: 450,
    conductivityWMK: 13,
    expansionPerK: 15e-6,
    emissivity: 0.75,
    meltsC: 1400,
    gains: "Resistance hardly moves with heat, does not rust, withstands red heat.",
    costs: "Stretches under heat and tension; a thick one wants a lot of current.",
    origin: {
      resistivity: memory("80Ni-20Cr resistance wire, ASTM B344 nominal"),
      temperatureFactor: memory("80Ni-20Cr temperature factor, ASTM B344 family of tables"),
      other: handbookValues,
    },
  },
  {
    id: "nicr-60-16",
    name: "Nickel-chromium-iron 60/16",
    shortName: "60/16 nickel-chromium",
    resistivityUohmM: 1.12,
    temperatureFactor: [
      [20, 1],
      [93, 1.019],
      [204, 1.044],
      [316, 1.07],
      [427, 1.092],
      [538, 1.108],
      [649, 1.112],
      [760, 1.118],
      [871, 1.13],
    ],
    densityKgM3: 8250,
    specificHeatJKgK: 450,
    conductivityWMK: 13,
    expansionPerK: 15e-6,
    emissivity: 0.75,
    meltsC: 1390,
    gains: "Cheaper than 80/20 and a little more resistance.",
    costs: "Less at ease at red heat; stretches as 80/20 does.",
    origin: {
      resistivity: memory("60Ni-16Cr-Fe resistance wire, ASTM B344 nominal"),
      temperatureFactor: memory("60Ni-16Cr-Fe temperature factor, ASTM B344 family of tables"),
      other: handbookValues,
    },
  },
  {
    id: "fecral",
    name: "Iron-chromium-aluminium",
    shortName: "iron-chromium-aluminium",
    resistivityUohmM: 1.45,
    temperatureFactor: [
      [20, 1],
      [200, 1.005],
      [400, 1.01],
      [600, 1.02],
      [800, 1.03],
      [1000, 1.04],
    ],
    densityKgM3: 7150,
    specificHeatJKgK: 480,
    conductivityWMK: 13,
    expansionPerK: 12e-6,
    emissivity: 0.7,
    meltsC: 1500,
    gains: "Most ohms per metre, cheap, an oxide skin that protects it.",
    costs: "Brittle once it has been hot: do not re-bend it.",
    origin: {
      resistivity: memory("Fe-22Cr-5.8Al resistance wire, nominal"),
      temperatureFactor: memory("Fe-22Cr-5.8Al temperature factor"),
      other: handbookValues,
    },
  },
  {
    id: "ss-304",
    name: "Stainless 302/304",
    shortName: "stainless 304",
    resistivityUohmM: 0.72,
    temperatureFactor: stainlessFactor,
    densityKgM3: 7930,
    specificHeatJKgK: 500,
    conductivityWMK: 16,
    expansionPerK: 17.8e-6,
    emissivity: 0.6,
    meltsC: 1400,
    gains: "Cheap and strong; hard-drawn it holds its tension; steadies itself on a fixed voltage.",
    costs: "Resistance climbs a third by cutting heat, so it starts with a bigger rush of current; grows most when hot.",
    origin: {
      resistivity: memory("302/304 stainless, 20 degC handbook value"),
      temperatureFactor: memory("304 stainless resistivity against temperature"),
      other: handbookValues,
    },
  },
  {
    id: "ss-316",
    name: "Stainless 316",
    shortName: "stainless 316",
    resistivityUohmM: 0.74,
    temperatureFactor: stainlessFactor,
    densityKgM3: 7980,
    specificHeatJKgK: 500,
    conductivityWMK: 15,
    expansionPerK: 17e-6,
    emissivity: 0.6,
    meltsC: 1370,
    gains: "As 304, and easier to find as fine rigging or leader wire.",
    costs: "As 304.",
    origin: {
      resistivity: memory("316 stainless, 20 degC handbook value"),
      temperatureFactor: memory("taken as 304 stainless"),
      other: handbookValues,
    },
  },
  {
    id: "ni-superalloy",
    name: "Nickel superalloy 19Cr-11Co-10Mo",
    shortName: "nickel superalloy",
    resistivityUohmM: 1.31,
    temperatureFactor: [
      [20, 1],
      [200, 1.01],
      [400, 1.02],
      [600, 1.03],
      [800, 1.03],
    ],
    densityKgM3: 8250,
    specificHeatJKgK: 450,
    conductivityWMK: 11,
    expansionPerK: 13.5e-6,
    emissivity: 0.75,
    meltsC: 1316,
    gains: "Very strong while hot, so a fine wire can be pulled hard: favoured for polypropylene.",
    costs: "Dear, and sold in few sizes.",
    origin: {
      resistivity: memory("Ni-19Cr-11Co-10Mo-3Ti, handbook value"),
      temperatureFactor: memory("Ni-19Cr-11Co-10Mo-3Ti resistivity against temperature"),
      other: handbookValues,
    },
  },
  {
    id: "cuni-44",
    name: "Copper-nickel 44",
    shortName: "copper-nickel",
    resistivityUohmM: 0.49,
    temperatureFactor: [
      [20, 1],
      [600, 1],
    ],
    densityKgM3: 8900,
    specificHeatJKgK: 410,
    conductivityWMK: 22,
    expansionPerK: 15e-6,
    emissivity: 0.6,
    meltsC: 1225,
    gains: "Resistance flat within one per cent: good for measuring.",
    costs: "Few ohms per metre and weak when hot: wants most current.",
    origin: {
      resistivity: memory("Cu-44Ni resistance wire, nominal"),
      temperatureFactor: memory("flat within 1 %"),
      other: handbookValues,
    },
  },
];

export const ALLOY_IDS = ALLOYS.map((alloy) => alloy.id);

export function alloyById(id: string): Alloy | undefined {
  return ALLOYS.find((alloy) => alloy.id === id);
}
