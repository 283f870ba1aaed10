import { JUDGEMENT } from "../kernel/constants";
import type { Relation } from "../kernel/provenance";
import { type CutPair, type CutState, cleanFeeds, cutAtCurrent, cutAtPower } from "../physics/cut/cut";

export const TAPER: Relation = {
  id: "taper",
  title: "Two ends in the same time",
  formula: "v_tip = v_root * L_tip / L_root",
  words:
    "Both ends take the same time, so each runs as fast as its guide is long; the heat per length is the same all along the wire. The slower end cuts wider and hotter.",
  range: "any two guides of one part",
  basis: "estimate",
  source: "kinematics of one straight wire, with the kerf of the moving line source at each end's own feed",
};

/** What drives the wire: the same heat in every millimetre of it. */
export type Heat = { powerWPerM: number } | { currentA: number };

const cutOf = (pair: CutPair, feedMPerS: number, heat: Heat): CutState =>
  "powerWPerM" in heat ? cutAtPower(pair, feedMPerS, heat.powerWPerM) : cutAtCurrent(pair, feedMPerS, heat.currentA);

export interface TaperEnd {
  feedMmS: number;
  cut: CutState;
}

/**
 * The cut at both ends of a tapered part.
 * @param ratio tip's guide length over the root's, 0.02 to 50
 * @throws CoreError as `cutAtPower` does
 */
export function taperEnds(pair: CutPair, heat: Heat, rootFeedMmS: number, ratio: number): { root: TaperEnd; tip: TaperEnd } {
  const end = (feedMmS: number): TaperEnd => ({ feedMmS, cut: cutOf(pair, feedMmS / 1000, heat) });
  return { root: end(rootFeedMmS), tip: end(rootFeedMmS * ratio) };
}

/** Heats tried, W/m: each 1.5 % hotter than the one before. */
const TRIED = 400;

/**
 * The strongest taper that some one heat serves at both ends, at a root feed: the tip's length over the root's below which every heat that keeps up at the root cuts wide or smokes at the tip.
 * @param acceptedKerfM widest kerf that is still taken as clean
 * @returns `leastRatio` 0..1, with the heat that gets there; null where no heat cuts even the root cleanly
 */
export function leastTaper(
  pair: CutPair,
  rootFeedMmS: number,
  acceptedKerfM = JUDGEMENT.acceptedKerfMm / 1000,
): { leastRatio: number; powerWPerM: number } | null {
  let best: { leastRatio: number; powerWPerM: number } | null = null;
  for (let i = 0; i < TRIED; i++) {
    const powerWPerM = 2 * 1.015 ** i;
    const { from, to } = cleanFeeds(pair, powerWPerM, acceptedKerfM);
    const rootM = rootFeedMmS / 1000;
    if (from > to || rootM > to || rootM < from) continue;
    const ratio = from / rootM;
    if (!best || ratio < best.leastRatio) best = { leastRatio: ratio, powerWPerM };
  }
  return best;
}
