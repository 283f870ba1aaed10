import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { bisect } from "../../numerics/bisection";
import { solveAxial } from "../cut/axial";
import { type CutPair, kerfFeedProduct, leastKerfM, referenceDragNPerM, wireInKerfC } from "../cut/cut";
import { heatIntoFoam } from "../cut/heatIntoFoam";
import { resolveWire, type Wire } from "../heat/wire";

export const WAND: Relation = {
  id: "wand",
  title: "A wand's hole",
  formula: "two legs side by side count as one line of twice the heat: kerf = w(2 q') at the feed; least kerf = two wires, their gap and the clearance",
  words:
    "The wire goes in and comes back beside itself, so a wand brings twice its wire's heat to each millimetre of depth, and cuts a slot as wide as both legs.",
  range: "gap between the legs small against the kerf",
  basis: "estimate",
  source: "the moving line source with both legs' heat on one line; this project's estimate",
};

export interface WandCut {
  kerfM: number;
  maxFeedMPerS: number;
  feedRatio: number;
  wireC: number;
  /** on both legs together; null at or above the top feed */
  dragNPerM: number | null;
}

/** The cut of a wand whose legs stand a gap apart. See {@link WAND}. @param powerWPerM heat of one leg */
export function wandCut(pair: CutPair, feedMPerS: number, powerWPerM: number, gapM: number): WandCut {
  const product = kerfFeedProduct(pair, 2 * powerWPerM);
  const least = leastKerfM(pair) + pair.wire.outerDiameterM + gapM;
  const kerfM = product / feedMPerS;
  const feedRatio = product === 0 ? Number.MAX_VALUE : least / kerfM;
  return {
    kerfM,
    maxFeedMPerS: product / least,
    feedRatio,
    // Each leg has half the mouth to itself.
    wireC: wireInKerfC(pair, powerWPerM, kerfM / 2),
    dragNPerM: feedRatio < 1 ? (2 * referenceDragNPerM(pair) * feedRatio) / (1 - feedRatio) : null,
  };
}

export const SOLDERING_TIP: Relation = {
  id: "soldering-tip",
  title: "A tip in a soldering iron",
  formula: "k A d2T/dx2 = q'_foam(T), T(0) = iron, dT/dx = 0 at the end; sum of q' at most the iron's watts",
  words:
    "No current flows in the tip: its heat comes down from the iron, so it is hottest at the root and cuts less toward its end. Past some depth the end no longer melts anything.",
  range: "bare copper or steel rod, all of it in the foam; iron holds its temperature until its watts are spent",
  basis: "estimate",
  source: "fin equation with the kerf model's heat; conductivities from memory of metals handbooks",
};

/** What a tip is made of: conductivity W/mK. From memory of metals handbooks. */
export const TIP_METALS = { copper: 380, brass: 110, steel: 45 } as const;
export type TipMetal = keyof typeof TIP_METALS;

const tipWire = (metal: TipMetal, diameterM: number): Wire =>
  resolveWire({
    // Only its conductivity and its skin matter here: no current flows.
    alloy: {
      id: "custom",
      name: `${metal} tip`,
      resistivity_uohm_m: 0.1,
      temperatureFactor: [[20, 1]],
      density_kg_m3: 8800,
      conductivity_W_mK: TIP_METALS[metal],
      emissivity: 0.6,
    },
    diameter_mm: diameterM * 1000,
  });

export interface TipAnswer {
  /** Where the rod leaves the iron, and its free end, degC. */
  rootC: number;
  endC: number;
  /** Heat it takes from the iron, W; at most the iron's own. */
  takesW: number;
  /** The iron cannot hold its temperature at this feed. */
  ironFalls: boolean;
  rootKerfM: number;
  /** 0 where the end melts nothing */
  endKerfM: number;
  /** Depth to which it still cuts, m. */
  cutsM: number;
}

const TIP_CELLS = 120;

/**
 * A rod in a soldering iron as a cutting tool. See {@link SOLDERING_TIP}.
 * @param pair its wire is not looked at: foam and room are
 * @throws CoreError `no-solution` where the iron is no hotter than the foam's collapse temperature
 */
export function solderingTip(
  pair: Omit<CutPair, "wire">,
  tip: { metal: TipMetal; diameterM: number; depthM: number },
  iron: { watts: number; atC: number },
  feedMPerS: number,
): TipAnswer {
  if (iron.atC <= pair.foam.collapseC)
    throw new CoreError("no-solution", "iron_C", `iron_C must be above the foam's collapse temperature (${pair.foam.collapseC} degC): it would melt nothing`);
  const wire = tipWire(tip.metal, tip.diameterM);
  const own: CutPair = { ...pair, wire };
  const loss = heatIntoFoam(own, feedMPerS);
  // Twice the rod, held hot at both ends: its middle is the free end of the real one, through which no heat flows.
  const at = (rootC: number) => {
    const { temperatureC, positionM } = solveAxial({
      wire,
      lengthM: 2 * tip.depthM,
      ambientC: pair.ambientC,
      clampC: rootC,
      cells: 2 * TIP_CELLS,
      currentA: 0,
      foam: { pair: own, feedMPerS, fromM: 0, toM: 2 * tip.depthM },
    });
    const half = temperatureC.slice(0, TIP_CELLS);
    const takesW = half.reduce((sum, c) => sum + loss(c), 0) * (tip.depthM / TIP_CELLS);
    return { half, positionM, takesW, rootC };
  };
  let state = at(iron.atC);
  const ironFalls = state.takesW > iron.watts;
  if (ironFalls) {
    state = at(bisect((ironC) => at(ironC).takesW <= iron.watts, pair.ambientC, iron.atC, 40).low);
  }
  const least = leastKerfM(own);
  const kerfAt = (c: number) => (c <= pair.foam.collapseC ? 0 : kerfFeedProduct(own, Math.max(0.05, loss(c))) / feedMPerS);
  const cuts = state.half.findIndex((c) => kerfAt(c) < least);
  const endC = state.half[TIP_CELLS - 1] as number;
  return {
    rootC: state.rootC,
    endC,
    takesW: state.takesW,
    ironFalls,
    rootKerfM: kerfAt(state.rootC),
    endKerfM: kerfAt(endC),
    cutsM: cuts < 0 ? tip.depthM : (cuts * tip.depthM) / TIP_CELLS,
  };
}
