import type { Source } from "../../kernel/provenance";
import type { Table } from "../../numerics/interpolate";

/** A foam family: what its cell walls are made of, and the densities it is sold in. */
export interface FoamFamily {
  id: string;
  name: string;
  /** How the sentence on the desk calls it. */
  shortName: string;
  polymer: "polystyrene" | "polypropylene" | "polyethylene";
  gradesKgM3: readonly number[];
  densityMinKgM3: number;
  densityMaxKgM3: number;
  conductivityWMK: number;
  specificHeatJKgK: number;
  latentKJKg: number;
  collapseC: number;
  fumeCautionC: number;
  fumeLimitC: number;
  flashIgnitionC: number;
  selfIgnitionC: number;
  /** [kg/m3, kPa at 10 % strain] */
  strength10: Table;
  notes: string;
  /** How people tell it without a data sheet (common practice): by eye, and in the hand. */
  look: string;
  feel: string;
  /** Size of its beads or cells, m, and how unevenly they melt, share (this project's estimates; common practice: beads of a few millimetres, sheet is even). */
  grain: { cellM: number; spread: number };
  /** Pace a hand takes in it, against white beads (common practice). */
  pace: number;
  /** Its grain as it is drawn: a tile in CSS pixels. The ground is the colour token --foam-id, in both modes. */
  pattern: { width: number; height: number; d: string; stroke: string; strokeWidth: number; opacity: number };
  origin: Record<"thermal" | "fumes" | "ignition" | "strength", Source>;
}

/** Where the figures of the families that come with the program are from. */
export const thermal: Source = {
  basis: "from memory",
  source: "polymer handbooks, written from memory",
  note: "a tuning log replaces it by what was measured",
};
export const fumes: Source = {
  basis: "estimate",
  source: "this project's estimate for the wire's temperature in the kerf",
  note: "test cuts calibrate it",
};
export const ignition: Source = { basis: "from memory", source: "fire-safety handbooks, written from memory" };
export const strength: Source = {
  basis: "from memory",
  source: "makers' data sheets and ASTM C578 grades, written from memory",
  note: "straight lines between grades, held at the ends",
};
