import { STANDARD_GRAVITY, STANDARD_PRESSURE_PA, ZERO_CELSIUS_K } from "../../kernel/constants";
import type { Relation } from "../../kernel/provenance";

const GAS_CONSTANT_AIR = 287.05287;
/** 10^(-12/T) = exp(-12 ln 10/T): the exponential is several times faster than the power. */
const TEN_TO_MINUS_12 = -12 * Math.LN10;
const SPECIFIC_HEAT_AIR = 3.5 * GAS_CONSTANT_AIR;

/** Properties of dry air at one temperature; SI. */
export interface Air {
  densityKgM3: number;
  viscosityPaS: number;
  conductivityWMK: number;
  kinematicM2S: number;
  diffusivityM2S: number;
  prandtl: number;
}

export const AIR_PROPERTIES: Relation = {
  id: "air-properties",
  title: "Air at the film temperature",
  formula: "mu = 1.458e-6 T^1.5/(T + 110.4); k = 2.64638e-3 T^1.5/(T + 245.4 x 10^(-12/T)); rho = p/(287.05 T); cp = 3.5 R",
  words: "How thin, sticky and conductive the air round the wire is, half-way between wire and room.",
  range: "200 to 1500 K, dry air, site pressure",
  basis: "published",
  source: "US Standard Atmosphere 1976, equations 51 and 53; ideal gas",
};

/** Conductivity of air, W/mK, at an absolute temperature in kelvin. Source: US Standard Atmosphere 1976. */
export function airConductivity(kelvin: number): number {
  return (2.64638e-3 * kelvin * Math.sqrt(kelvin)) / (kelvin + 245.4 * Math.exp(TEN_TO_MINUS_12 / kelvin));
}

/** Conductivity of air with its slope per kelvin; see {@link airConductivity}. */
export function airConductivityAndSlope(kelvin: number): { value: number; slope: number } {
  const tail = 245.4 * Math.exp(TEN_TO_MINUS_12 / kelvin);
  const value = (2.64638e-3 * kelvin * Math.sqrt(kelvin)) / (kelvin + tail);
  return { value, slope: value * (1.5 / kelvin - (1 + (tail * Math.LN10 * 12) / (kelvin * kelvin)) / (kelvin + tail)) };
}

/** Air at an absolute temperature (K) and pressure (Pa). */
export function airAt(kelvin: number, pressurePa: number = STANDARD_PRESSURE_PA): Air {
  const densityKgM3 = pressurePa / (GAS_CONSTANT_AIR * kelvin);
  const viscosityPaS = (1.458e-6 * kelvin * Math.sqrt(kelvin)) / (kelvin + 110.4);
  const conductivityWMK = airConductivity(kelvin);
  const kinematicM2S = viscosityPaS / densityKgM3;
  const diffusivityM2S = conductivityWMK / (densityKgM3 * SPECIFIC_HEAT_AIR);
  return { densityKgM3, viscosityPaS, conductivityWMK, kinematicM2S, diffusivityM2S, prandtl: kinematicM2S / diffusivityM2S };
}

export const MORGAN: Relation = {
  id: "free-convection-morgan",
  title: "Heat a still wire gives to still air",
  formula: "Nu = 0.675 Ra^0.058 (Ra < 1e-2); 1.02 Ra^0.148 (< 1e2); 0.850 Ra^0.188 (< 1e4); 0.480 Ra^0.250 (< 1e7)",
  words: "Warm air rises off the wire; a thin wire loses far more per square millimetre than a thick one.",
  range: "slender horizontal cylinder, 1e-10 <= Ra < 1e7",
  basis: "published",
  source: "V. T. Morgan, Advances in Heat Transfer 11 (1975)",
};

/** Free-convection Nusselt number of a slender horizontal cylinder. Source: {@link MORGAN}. */
export function nusseltMorgan(rayleigh: number): number {
  if (rayleigh < 1e-2) return 0.675 * rayleigh ** 0.058;
  if (rayleigh < 1e2) return 1.02 * rayleigh ** 0.148;
  if (rayleigh < 1e4) return 0.85 * rayleigh ** 0.188;
  return 0.48 * rayleigh ** 0.25;
}

/** Free-convection Nusselt number, cross-check. Source: S. W. Churchill, H. H. S. Chu, Int. J. Heat Mass Transfer 18 (1975) 1049. */
export function nusseltChurchillChu(rayleigh: number, prandtl: number): number {
  const bracket = (1 + (0.559 / prandtl) ** (9 / 16)) ** (16 / 9);
  return (0.6 + 0.387 * (rayleigh / bracket) ** (1 / 6)) ** 2;
}

export const CHURCHILL_BERNSTEIN: Relation = {
  id: "forced-convection",
  title: "Heat a wire gives to a draught",
  formula: "Nu = 0.3 + 0.62 Re^0.5 Pr^(1/3)/[1 + (0.4/Pr)^(2/3)]^0.25 x [1 + (Re/282000)^(5/8)]^0.8",
  words: "A draught cools the wire more than its own rising air; the larger of the two is taken.",
  range: "Re Pr > 0.2",
  basis: "published",
  source: "S. W. Churchill, M. Bernstein, J. Heat Transfer 99 (1977) 300",
};

/** Nusselt number of a cylinder across a stream. Source: {@link CHURCHILL_BERNSTEIN}. */
export function nusseltChurchillBernstein(reynolds: number, prandtl: number): number {
  const front = (0.62 * Math.sqrt(reynolds) * Math.cbrt(prandtl)) / (1 + (0.4 / prandtl) ** (2 / 3)) ** 0.25;
  return 0.3 + front * (1 + (reynolds / 282000) ** (5 / 8)) ** 0.8;
}

/**
 * Heat a bare cylinder gives to air by convection, W per metre.
 * @param diameterM metres
 * @param speedMPerS draught across the wire; 0 is still air
 * @returns W/m and whether a correlation was used beyond its stated range
 */
export function convectionWPerM(
  diameterM: number,
  wireC: number,
  ambientC: number,
  speedMPerS = 0,
  pressurePa = STANDARD_PRESSURE_PA,
): { wPerM: number; rayleigh: number; outOfRange: boolean } {
  const difference = wireC - ambientC;
  if (difference <= 0) return { wPerM: 0, rayleigh: 0, outOfRange: false };
  const filmK = (wireC + ambientC) / 2 + ZERO_CELSIUS_K;
  const air = airAt(filmK, pressurePa);
  const rayleigh = (STANDARD_GRAVITY * difference * diameterM ** 3) / (filmK * air.kinematicM2S * air.diffusivityM2S);
  let nusselt = nusseltMorgan(rayleigh);
  let outOfRange = rayleigh < 1e-10 || rayleigh >= 1e7;
  if (speedMPerS > 0) {
    const reynolds = (speedMPerS * diameterM) / air.kinematicM2S;
    const forced = nusseltChurchillBernstein(reynolds, air.prandtl);
    if (forced > nusselt) {
      nusselt = forced;
      outOfRange = reynolds * air.prandtl < 0.2;
    }
  }
  return { wPerM: Math.PI * air.conductivityWMK * nusselt * difference, rayleigh, outOfRange };
}
