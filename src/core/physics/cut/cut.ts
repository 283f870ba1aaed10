import { JUDGEMENT, STEFAN_BOLTZMANN, ZERO_CELSIUS_K } from "../../kernel/constants";
import { CoreError, type Warning } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import type { Foam } from "../../materials/foams";
import { bracketedRoot } from "../../numerics/rootFinding";
import { airConductivity, airConductivityAndSlope } from "../heat/air";
import { bareLossWPerM, radiationWPerM } from "../heat/bareWire";
import { halfKerf, thetaForHalfKerf } from "../heat/movingLineSource";
import { resistanceOhmPerM, type Wire, wireTemperatureWarnings } from "../heat/wire";

export const KERF_GAP: Relation = {
  id: "kerf-gap",
  title: "Wire temperature in the kerf",
  formula: "q' = 2 pi k_air (Tw - Tc)/ln(w/d) + eps sigma pi d (Tw^4 - Tc^4)",
  words: "In the cut the heat crosses a thin gap of gas to foam that sits at its collapse temperature; the wider the gap, the hotter the wire must be.",
  range:
    "w/d held at 1.05 or more; gas taken as air at the mean of wire and collapse temperature; never hotter than the same heat makes the wire in open air (common practice: a wire in foam is the cooler one)",
  basis: "estimate",
  source: "concentric-cylinder conduction with radiation; this project's estimate of the shape, calibrated by test cuts",
};

export const DRAG: Relation = {
  id: "drag",
  title: "Drag on the wire",
  formula: "F' = F_ref x/(1 - x), x = feed/top feed, F_ref = 0.015 d x (strength at 10 % strain)",
  words: "Pulling harder approaches the top feed and never passes it.",
  range: "0 <= x < 1",
  basis: "estimate",
  source: "this project's estimate; test cuts calibrate it",
};

export const TOP_FEED: Relation = {
  id: "top-feed",
  title: "Top feed",
  formula: "v_max: the feed at which kerf = wire diameter + clearance, clearance = 7e-6 m per kg/m3 of foam",
  words:
    "Above it the melted band no longer clears the wire and the shrunken skin next to it: the wire must push, bow and tear. Dense foam leaves more skin, so it wants the heavier wire.",
  range: "steady cut; 5 to 200 kg/m3",
  basis: "estimate",
  source:
    "the moving line source with this project's estimate of the clearance (0.13 mm at 18 kg/m3, 0.34 at 48), so that a heavier wire is at least as fast in dense board (common practice); test cuts calibrate it",
};

export const CUT_TIME: Relation = {
  id: "cut-time",
  title: "Time through the block",
  formula: "t = thickness/feed",
  words: "How long the wire is in the foam, if it never stops.",
  range: "one straight pass at one feed; corners wait besides",
  basis: "published",
  source: "definition of feed",
};

/** Reference drag as a share of diameter times strength: the estimate a tuning log calibrates. */
export const DRAG_SHARE = 0.015;

/** Room the kerf must leave next to the wire, m per kg/m3 of foam: the estimate a tuning log calibrates. See {@link TOP_FEED}. */
export const CLEARANCE_M_PER_KG_M3 = 7e-6;

export type CutVerdict = "drags" | "smokes" | "wide" | "clean";

/** A wire, a foam and the room: everything of a cut but its heat and feed. */
export interface CutPair {
  wire: Wire;
  foam: Foam;
  ambientC: number;
  /** This cutter's own drag constant in place of {@link DRAG_SHARE}. */
  dragShare?: number | undefined;
  /** Share of the wire's heat that opens the kerf, as test cuts taught it; all of it unless learnt. */
  heatShare?: number | undefined;
  /** Share of the usual clearance next to the wire, as test cuts taught it; all of it unless learnt. */
  clearanceShare?: number | undefined;
}

export interface CutState {
  powerWPerM: number;
  kerfM: number;
  maxFeedMPerS: number;
  feedRatio: number;
  wireC: number;
  /** null at or above the top feed, where the drag law has no answer */
  dragNPerM: number | null;
  verdict: CutVerdict;
  warnings: Warning[];
}

/** Thermal diffusivity (m2/s) of the foam with latent heat spread over its rise to collapse. */
export function diffusivity(pair: CutPair): number {
  const { foam, ambientC } = pair;
  const specificHeat = foam.specificHeatJKgK + foam.latentJKg / (foam.collapseC - ambientC);
  return foam.conductivityWMK / (foam.densityKgM3 * specificHeat);
}

/**
 * Kerf times feed at a heat, m2/s. At a given heat the kerf goes exactly as 1/feed, so this one number is the whole cut.
 * @param powerWPerM heat to the foam, W per metre of wire, > 0
 */
export function kerfFeedProduct(pair: CutPair, powerWPerM: number): number {
  const theta = (2 * Math.PI * pair.foam.conductivityWMK * (pair.foam.collapseC - pair.ambientC)) / (powerWPerM * (pair.heatShare ?? 1));
  return 4 * diffusivity(pair) * halfKerf(theta);
}

/** Least kerf that lets the wire through, m: its diameter and the clearance this foam asks. See {@link TOP_FEED}. */
export function leastKerfM({ wire, foam, clearanceShare = 1 }: Pick<CutPair, "wire" | "foam" | "clearanceShare">): number {
  return wire.outerDiameterM + clearanceShare * CLEARANCE_M_PER_KG_M3 * foam.densityKgM3;
}

/** Heat across the kerf's gap (W/m) for a wire temperature. See {@link KERF_GAP}. */
export function gapHeatWPerM(pair: CutPair, kerfM: number, wireC: number): number {
  const d = pair.wire.outerDiameterM;
  const collapse = pair.foam.collapseC;
  const gap = Math.log(Math.max(kerfM / d, JUDGEMENT.leastGapRatio));
  const conductivity = airConductivity((wireC + collapse) / 2 + ZERO_CELSIUS_K);
  return (2 * Math.PI * conductivity * (wireC - collapse)) / gap + radiationWPerM(d, pair.wire.alloy.emissivity, wireC, collapse);
}

/**
 * Heat a wire at a temperature gives off in a kerf, W/m: across the gap, and never less than it would lose to open air, since a wire in foam is the cooler one.
 */
export function kerfLossWPerM(pair: CutPair, kerfM: number, wireC: number): number {
  return Math.max(gapHeatWPerM(pair, kerfM, wireC), wireC > pair.ambientC ? bareLossWPerM(pair.wire, wireC, pair) : 0);
}

/**
 * Wire temperature in the kerf, degC, for a heat: what carries it across the gap, and never above what the same heat gives the wire in open air.
 * @param startC a guess that saves steps, such as the neighbouring cell's answer
 * @param openAirC what the same heat gives it in open air, where the caller knows it already
 */
export function wireInKerfC(pair: CutPair, powerWPerM: number, kerfM: number, startC?: number, openAirC?: number): number {
  const gapC = acrossGapC(pair, powerWPerM, kerfM, startC);
  if (openAirC !== undefined) return Math.min(gapC, openAirC);
  // Hotter than in open air exactly where open air would take more heat from it than there is: one look saves a solve.
  return gapC <= pair.ambientC || bareLossWPerM(pair.wire, gapC, pair) <= powerWPerM ? gapC : openAirWireC(pair, powerWPerM);
}

/** What a heat gives the bare wire, degC: the bare balance, at any heat however absurd, since a map asks of all. */
export function openAirWireC(pair: CutPair, powerWPerM: number): number {
  // Radiation alone would have to be hotter: that bounds it.
  const radiance = pair.wire.alloy.emissivity * STEFAN_BOLTZMANN * Math.PI * pair.wire.outerDiameterM;
  const most = (powerWPerM / radiance + (pair.ambientC + ZERO_CELSIUS_K) ** 4) ** 0.25 - ZERO_CELSIUS_K;
  return bracketedRoot((wireC) => bareLossWPerM(pair.wire, wireC, pair) - powerWPerM, pair.ambientC, most + 1, 1e-9).x;
}

/** Wire temperature, degC, that drives a heat across the gap. See {@link KERF_GAP}. */
function acrossGapC(pair: CutPair, powerWPerM: number, kerfM: number, startC?: number): number {
  // The heat rises steadily with wire temperature and bends upward, so Newton lands above the root once and then comes down to it.
  const d = pair.wire.outerDiameterM;
  const collapse = pair.foam.collapseC;
  const collapseK = collapse + ZERO_CELSIUS_K;
  const conductance = (2 * Math.PI) / Math.log(Math.max(kerfM / d, JUDGEMENT.leastGapRatio));
  const collapseFourth = collapseK ** 4;
  const radiance = pair.wire.alloy.emissivity * STEFAN_BOLTZMANN * Math.PI * d;
  let wireC = startC ?? collapse + Math.min(powerWPerM / (conductance * airConductivity(collapseK)), ((powerWPerM / radiance) ** 0.25 || 0) + 1);
  for (let i = 0; i < 100; i++) {
    const wireK = wireC + ZERO_CELSIUS_K;
    const air = airConductivityAndSlope((wireK + collapseK) / 2);
    const cube = wireK * wireK * wireK;
    const heat = conductance * air.value * (wireC - collapse) + radiance * (cube * wireK - collapseFourth);
    const slope = conductance * (air.value + (air.slope * (wireC - collapse)) / 2) + 4 * radiance * cube;
    const next = Math.max(collapse, wireC - (heat - powerWPerM) / slope);
    if (Math.abs(next - wireC) < 1e-9 * next) return next;
    wireC = next;
  }
  throw new CoreError("no-solution", "", "the wire temperature in the kerf did not settle");
}

/** First verdict that applies, in the order drags, smokes, wide. A wire no hotter than the foam's collapse melts nothing, however slow: it drags. */
export function judgeCut(feedRatio: number, wireC: number, kerfM: number, foam: Foam, acceptedKerfM: number): CutVerdict {
  if (feedRatio > JUDGEMENT.dragsAboveFeedRatio || wireC <= foam.collapseC) return "drags";
  if (wireC > foam.fumeLimitC) return "smokes";
  if (kerfM > acceptedKerfM) return "wide";
  return "clean";
}

/** A foam gives way at least so far above the room, however far lessons or doubts move its collapse: at the room's own temperature a cut has no meaning. */
const LEAST_RISE_K = 1;

/** Where the foam gives way once that is moved by so many kelvin: never at or below the room. */
export const movedCollapseC = ({ foam, ambientC }: Pick<CutPair, "foam" | "ambientC">, byK: number): number =>
  Math.max(foam.collapseC + byK, Math.min(foam.collapseC, ambientC + LEAST_RISE_K));

/** Reference drag F_ref of a wire in a foam, N per metre. */
export function referenceDragNPerM({ wire, foam, dragShare = DRAG_SHARE }: Pick<CutPair, "wire" | "foam" | "dragShare">): number {
  return dragShare * wire.outerDiameterM * foam.strength10Pa;
}

/**
 * The cut at a heat and feed.
 * @param feedMPerS > 0
 * @param powerWPerM heat to the foam per metre of wire, > 0
 */
export function cutAtPower(pair: CutPair, feedMPerS: number, powerWPerM: number, acceptedKerfM = JUDGEMENT.acceptedKerfMm / 1000): CutState {
  const product = kerfFeedProduct(pair, powerWPerM);
  const kerfM = product / feedMPerS;
  const least = leastKerfM(pair);
  const maxFeedMPerS = product / least;
  const feedRatio = product === 0 ? Number.MAX_VALUE : least / kerfM;
  const wireC = wireInKerfC(pair, powerWPerM, kerfM);
  const warnings = wireTemperatureWarnings(pair.wire, wireC);
  if (kerfM < JUDGEMENT.leastGapRatio * pair.wire.outerDiameterM) {
    warnings.push({ code: "gap-closed", message: "the foam touches the wire; its temperature is taken at the least gap the model allows" });
  }
  if (wireC <= pair.foam.collapseC) {
    warnings.push({ code: "no-melt", message: "this heat does not bring the wire to the foam's collapse temperature: nothing melts" });
  }
  if (feedRatio >= 1) {
    warnings.push({ code: "above-top-feed", message: "above the top feed this wire cannot melt its own way through: no drag figure is given" });
  }
  return {
    powerWPerM,
    kerfM,
    maxFeedMPerS,
    feedRatio,
    wireC,
    dragNPerM: feedRatio < 1 ? (referenceDragNPerM(pair) * feedRatio) / (1 - feedRatio) : null,
    verdict: judgeCut(feedRatio, wireC, kerfM, pair.foam, acceptedKerfM),
    warnings,
  };
}

const KERF_HOTTEST_C = 1e6;

/**
 * Heat a current makes in the kerf, W/m: resistance at the wire's temperature there, which that heat itself sets.
 * @param currentA rms amperes, > 0
 */
export function heatInKerf(pair: CutPair, feedMPerS: number, currentA: number): { powerWPerM: number; wireC: number; iterations: number } {
  const square = currentA * currentA;
  const settle = (wireC: number) => {
    const powerWPerM = square * resistanceOhmPerM(pair.wire, wireC);
    return wireInKerfC(pair, powerWPerM, kerfFeedProduct(pair, powerWPerM) / feedMPerS, wireC);
  };
  // Fixed point with Aitken's acceleration: resistance moves little with temperature, so the plain steps shrink fast already.
  let wireC = settle(pair.foam.collapseC + 100);
  for (let i = 1; i <= 60; i++) {
    const once = settle(wireC);
    if (Math.abs(once - wireC) < 1e-8 * once) return { powerWPerM: square * resistanceOhmPerM(pair.wire, once), wireC: once, iterations: i };
    const twice = settle(once);
    const bend = twice - 2 * once + wireC;
    const leap = bend === 0 ? twice : wireC - (once - wireC) ** 2 / bend;
    wireC = leap > pair.ambientC && Math.abs(leap - twice) < 500 ? leap : twice;
  }
  // Far past any use the steps may swing: halve between the room's and a temperature at which radiation alone outruns the wire's ohms.
  const root = bracketedRoot((at) => settle(at) - at, pair.ambientC, KERF_HOTTEST_C, 1e-9);
  return { powerWPerM: square * resistanceOhmPerM(pair.wire, root.x), wireC: root.x, iterations: 60 + root.iterations };
}

/** The cut at a current and feed. */
export function cutAtCurrent(pair: CutPair, feedMPerS: number, currentA: number, acceptedKerfM?: number): CutState {
  return cutAtPower(pair, feedMPerS, heatInKerf(pair, feedMPerS, currentA).powerWPerM, acceptedKerfM);
}

/** Feeds between which a heat cuts cleanly, m/s, and what lies beyond each end. `from > to` means no clean feed exists. */
export interface FeedWindow {
  from: number;
  below: "smokes" | "wide";
  to: number;
}

/** Kerf (m) at which the wire reaches a temperature while giving off this heat; Infinity when radiation alone carries it. */
function kerfAtWireC(pair: CutPair, powerWPerM: number, wireC: number): number {
  const d = pair.wire.outerDiameterM;
  const radiated = radiationWPerM(d, pair.wire.alloy.emissivity, wireC, pair.foam.collapseC);
  if (powerWPerM <= radiated) return Number.POSITIVE_INFINITY;
  const conductivity = airConductivity((wireC + pair.foam.collapseC) / 2 + ZERO_CELSIUS_K);
  const conductance = 2 * Math.PI * conductivity * (wireC - pair.foam.collapseC);
  return d * Math.exp(conductance / (powerWPerM - radiated));
}

/** Whether a heat brings the wire above the foam's collapse temperature at all: in a wide kerf it has no more than in open air. */
function melts(pair: CutPair, powerWPerM: number): boolean {
  return powerWPerM > bareLossWPerM(pair.wire, pair.foam.collapseC, pair);
}

/** Clean feeds at a heat. */
export function cleanFeeds(pair: CutPair, powerWPerM: number, acceptedKerfM: number): FeedWindow {
  const product = kerfFeedProduct(pair, powerWPerM);
  const smokeKerf = kerfAtWireC(pair, powerWPerM, pair.foam.fumeLimitC);
  const closest = JUDGEMENT.leastGapRatio * pair.wire.outerDiameterM;
  // A heat that would not bring the bare wire to the fume limit never does so in foam, however slow.
  const never = powerWPerM <= bareLossWPerM(pair.wire, pair.foam.fumeLimitC, pair);
  const smokes = never ? 0 : smokeKerf <= closest ? Number.MAX_VALUE : product / smokeKerf;
  const wide = product / acceptedKerfM;
  return {
    from: Math.max(smokes, wide),
    below: smokes >= wide ? "smokes" : "wide",
    to: melts(pair, powerWPerM) ? (JUDGEMENT.dragsAboveFeedRatio * product) / leastKerfM(pair) : 0,
  };
}

/** Heats between which a feed cuts cleanly, W/m, and what lies beyond the upper end. `from > to` means none does. */
export interface HeatWindow {
  from: number;
  to: number;
  above: "smokes" | "wide";
}

const LEAST_HEAT = 0.05;
const MOST_HEAT = 1e5;

/** Heat (W/m) that opens a kerf at a feed: the line source read backwards. */
export function heatForKerf(pair: CutPair, feedMPerS: number, kerfM: number): number {
  const rise = 2 * Math.PI * pair.foam.conductivityWMK * (pair.foam.collapseC - pair.ambientC);
  return rise / thetaForHalfKerf((kerfM * feedMPerS) / (4 * diffusivity(pair))) / (pair.heatShare ?? 1);
}

/** Clean heats at a feed. */
export function cleanHeats(pair: CutPair, feedMPerS: number, acceptedKerfM: number): HeatWindow {
  const { foam, wire } = pair;
  const from = Math.max(heatForKerf(pair, feedMPerS, leastKerfM(pair) / JUDGEMENT.dragsAboveFeedRatio), bareLossWPerM(wire, foam.collapseC, pair) * (1 + 1e-9));
  const wide = heatForKerf(pair, feedMPerS, acceptedKerfM);
  const excess = (log: number) => {
    const power = Math.exp(log);
    return acrossGapC(pair, power, kerfFeedProduct(pair, power) / feedMPerS) - foam.fumeLimitC;
  };
  // Both must carry less than the wire makes before it is that hot: the gap and open air.
  const smokes = Math.max(Math.exp(bracketedRoot(excess, Math.log(LEAST_HEAT), Math.log(MOST_HEAT), 1e-9).x), bareLossWPerM(wire, foam.fumeLimitC, pair));
  return { from, to: Math.min(wide, smokes), above: smokes <= wide ? "smokes" : "wide" };
}
