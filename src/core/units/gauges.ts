import { CoreError } from "../kernel/errors";

export const AWG_RANGE = { min: -3, max: 56 } as const;

/**
 * Diameter of an American wire gauge number, mm. 0000 is -3.
 * Source: ASTM B258, d = 0.127 mm x 92^((36 - n)/39).
 * @example awgDiameterMm(24) // 0.5106
 */
export function awgDiameterMm(gauge: number): number {
  if (!(gauge >= AWG_RANGE.min && gauge <= AWG_RANGE.max)) {
    throw new CoreError("out-of-range", "gauge_awg", `American wire gauge runs from ${AWG_RANGE.min} (0000) to ${AWG_RANGE.max}`);
  }
  return 0.127 * 92 ** ((36 - gauge) / 39);
}

/** Nearest whole American gauge to a diameter in mm; the last one there is for wire beyond it. */
export function nearestAwg(diameterMm: number): number {
  const gauge = Math.round(36 - (39 * Math.log(diameterMm / 0.127)) / Math.log(92));
  return Math.min(AWG_RANGE.max, Math.max(AWG_RANGE.min, gauge));
}

/** Standard (imperial) wire gauge, inches by number. Source: BS 3737 table. */
const SWG_INCH: readonly number[] = [
  0.324, 0.3, 0.276, 0.252, 0.232, 0.212, 0.192, 0.176, 0.16, 0.144, 0.128, 0.116, 0.104, 0.092, 0.08, 0.072, 0.064, 0.056, 0.048, 0.04, 0.036, 0.032, 0.028,
  0.024, 0.022, 0.02, 0.018, 0.0164, 0.0148, 0.0136, 0.0124, 0.0116, 0.0108, 0.01, 0.0092, 0.0084, 0.0076, 0.0068, 0.006, 0.0052, 0.0048, 0.0044, 0.004, 0.0036,
  0.0032, 0.0028, 0.0024, 0.002, 0.0016, 0.0012, 0.001,
];

export const SWG_RANGE = { min: 0, max: SWG_INCH.length - 1 } as const;

/**
 * Diameter of a standard wire gauge number, mm.
 * Source: BS 3737 table.
 * @example swgDiameterMm(22) // 0.7112
 */
export function swgDiameterMm(gauge: number): number {
  const inch = SWG_INCH[gauge];
  if (inch === undefined) {
    throw new CoreError("out-of-range", "gauge_swg", `standard wire gauge runs from 0 to ${SWG_RANGE.max}, whole numbers`);
  }
  return inch * 25.4;
}

/**
 * Diameter of the smallest circle round n equal strands, in strand diameters. Seven strands lie hexagonally: 3.
 * Source: circle packing in a circle (proved optimal for these counts); 19 is the usual hexagonal lay.
 */
export const STRAND_ENVELOPE: Readonly<Record<number, number>> = {
  1: 1,
  2: 2,
  3: 1 + 2 / Math.sqrt(3),
  4: 1 + Math.SQRT2,
  5: 1 + Math.sqrt(2 * (1 + 1 / Math.sqrt(5))),
  6: 3,
  7: 3,
  19: 5,
};
