import type { Foam } from "../../materials/foams";
import { type CutPair, DRAG_SHARE, movedCollapseC } from "./cut";

/** Figures that test cuts may move; shares multiply, shifts add. */
export interface Learnt {
  heatShare: number;
  collapseShiftK: number;
  densityShare: number;
  dragShare: number;
  /** Room the kerf must leave next to the wire. */
  clearanceShare: number;
  /** Ohms of supply, leads and joints beyond those computed; negative where there are fewer. */
  extraOhm: number;
}
/** Ohms that were learnt, held so that fewer than computed never leave less than none of what was computed. */
export function besidesComputed(extraOhm: number, computedOhm: number): number {
  return Math.max(extraOhm, -0.9 * computedOhm);
}

/** The pair with what was learnt about it. */
export function calibratedPair(pair: CutPair, learnt: Omit<Learnt, "extraOhm">): CutPair {
  const foam: Foam = { ...pair.foam, collapseC: movedCollapseC(pair, learnt.collapseShiftK), densityKgM3: pair.foam.densityKgM3 * learnt.densityShare };
  return {
    ...pair,
    foam,
    heatShare: (pair.heatShare ?? 1) * learnt.heatShare,
    dragShare: (pair.dragShare ?? DRAG_SHARE) * learnt.dragShare,
    clearanceShare: (pair.clearanceShare ?? 1) * learnt.clearanceShare,
  };
}
