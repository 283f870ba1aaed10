import type { Relation } from "../kernel/provenance";
import { exponentialIntegral1 } from "../numerics/exponentialIntegral";
import type { CutPair } from "../physics/cut/cut";

export const MELT_WIDTH: Relation = {
  id: "melt-width",
  title: "A kerf that opens and narrows in time",
  formula: "d(w^2)/dt = 16 a u (1 - w/w_s), E1(u) = 4 pi k (Tc - T0)/q', w_s the steady kerf at the feed of the moment",
  words:
    "While the wire rests, the melted hole grows as heat from a standing line spreads; while it moves, the kerf tends to its steady width within about its own width of travel. A pause burns a groove.",
  range: "both ends are published laws: at rest the standing line source, in steady motion the moving one; the way between them is an estimate",
  basis: "estimate",
  source: "H. S. Carslaw, J. C. Jaeger, Conduction of Heat in Solids, 10.4 (line source switched on) joined to the moving line source by this project",
};

/** u of the standing line source: E1(u) = y. Newton on its logarithm; E1 falls steadily, so it always lands. */
function inverseE1(y: number): number {
  let logU = y > 1 ? -y - 0.5772156649015329 : Math.log(Math.max(1e-3, -Math.log(Math.max(y, 1e-300)) * 0.8));
  for (let i = 0; i < 60; i++) {
    const u = Math.exp(logU);
    const value = exponentialIntegral1(u);
    // d ln E1/d ln u = -exp(-u)/E1
    const next = logU + ((Math.log(value) - Math.log(y)) * value) / Math.exp(-u);
    if (Math.abs(next - logU) < 1e-12) return Math.exp(next);
    logU = next;
  }
  return Math.exp(logU);
}

/**
 * How fast the square of the melted width grows around a wire at rest, m2/s: 16 a u. See {@link MELT_WIDTH}.
 * @param powerWPerM heat to the foam, > 0
 */
export function stationaryGrowthM2PerS(pair: CutPair, powerWPerM: number): number {
  const { foam, ambientC, heatShare = 1 } = pair;
  const rise = foam.collapseC - ambientC;
  const diffusivity = foam.conductivityWMK / (foam.densityKgM3 * (foam.specificHeatJKgK + foam.latentJKg / rise));
  const y = (4 * Math.PI * foam.conductivityWMK * rise) / (powerWPerM * heatShare);
  return y > 600 ? 0 : 16 * diffusivity * inverseE1(y);
}
