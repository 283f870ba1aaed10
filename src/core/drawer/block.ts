import type { Relation } from "../kernel/provenance";

export const BLOCK_DENSITY: Relation = {
  id: "block-density",
  title: "Density of a block",
  formula: "rho = m/(l w t); spread = rho sqrt((dm/m)^2 + (dl/l)^2 + (dw/w)^2 + (dt/t)^2)",
  words: "Weigh it, measure it: a thin sheet's thickness is what spoils the figure.",
  range: "square blocks; rule read to 1 mm, kitchen scale to 1 g",
  basis: "published",
  source: "definition of density; spreads of independent readings add as squares",
};

/** Half a division of a rule or scale people have, taken as one standard deviation. */
const RULE_MM = 0.5;
const SCALE_G = 1;

export interface WeighedSizes {
  block_length_mm?: number | undefined;
  block_width_mm?: number | undefined;
  block_thickness_mm?: number | undefined;
  mass_g?: number | undefined;
}

/** Density of a measured and weighed block with its spread (one standard deviation), kg/m3; null unless all four readings are there. See {@link BLOCK_DENSITY}. */
export function blockDensity(block: WeighedSizes): { densityKgM3: number; spreadKgM3: number } | null {
  const { block_length_mm: length, block_width_mm: width, block_thickness_mm: thickness, mass_g: mass } = block;
  if (!length || !width || !thickness || !mass) return null;
  const densityKgM3 = mass / 1000 / ((length * width * thickness) / 1e9);
  const share = Math.hypot(SCALE_G / mass, RULE_MM / length, RULE_MM / width, RULE_MM / thickness);
  return { densityKgM3, spreadKgM3: densityKgM3 * share };
}
