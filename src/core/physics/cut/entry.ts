import { CoreError } from "../../kernel/errors";
import type { Relation } from "../../kernel/provenance";
import { bareWireDriven } from "../heat/bareWire";
import { massKgPerM, resistanceOhmPerM } from "../heat/wire";
import { type CutPair, heatInKerf, kerfFeedProduct, leastKerfM } from "./cut";
import { heatIntoFoam } from "./heatIntoFoam";

export const ENTRY: Relation = {
  id: "entry",
  title: "Entering the foam",
  formula:
    "bite = m' cp (T_air - T_kerf)/(q'/v); behind it m' cp dT/dt = I^2 R'(T) - q'_kerf(T), from the bare wire's temperature, settled when the kerf is within 5 % of its steady width",
  words:
    "The wire goes in with the heat it stored in air, and that heat cuts the first stretch on its own: it says nothing about a steady cut. The rest of the tail fades slowly.",
  range: "whole width enters at once; foam answers at once; one feed throughout",
  basis: "estimate",
  source: "lumped heat balance with the kerf model; practice says half an inch, and cut an inch before judging (common practice)",
};

export interface Entry {
  /** From the moment of touching the foam. */
  timeS: number[];
  wireC: number[];
  kerfM: number[];
  bareC: number;
  settledC: number;
  settledKerfM: number;
  /** Length of cut that the heat stored above the kerf's own would pay for, m: see {@link ENTRY}. */
  biteM: number;
  /** Widest mouth, m. */
  mouthM: number;
  /** Time and way until the kerf stays within 5 % of its steady width; null if it never settles within the longest run. */
  settlesS: number | null;
  settlesM: number | null;
}

const WITHIN = 0.05;
const POINTS = 160;
const LONGEST_S = 120;

/**
 * The wire's entry from air into foam at a steady current and feed. See {@link ENTRY}.
 * @param currentA rms amperes, > 0
 * @throws CoreError `outside-domain` where the steady cut is past the top feed: the wire never cuts its way in
 */
export function enterFoam(pair: CutPair, feedMPerS: number, currentA: number): Entry {
  const steady = heatInKerf(pair, feedMPerS, currentA);
  const settledKerfM = kerfFeedProduct(pair, steady.powerWPerM) / feedMPerS;
  if (settledKerfM < leastKerfM(pair) || steady.wireC <= pair.foam.collapseC) {
    throw new CoreError("outside-domain", "feed_mm_s", "the feed is past the top feed of this heat: the wire never cuts its way in");
  }
  const bareC = bareWireDriven(pair.wire, { currentA }, { ambientC: pair.ambientC }).temperatureC;
  const loss = heatIntoFoam(pair, feedMPerS);
  const capacity = massKgPerM(pair.wire) * pair.wire.alloy.specificHeatJKgK;
  const kerfAt = (wireC: number) => kerfFeedProduct(pair, Math.max(0.05, loss(wireC))) / feedMPerS;
  const off = (wireC: number) => Math.abs(kerfAt(wireC) - settledKerfM) / settledKerfM;
  const square = currentA * currentA;
  const rate = (wireC: number) => (square * resistanceOhmPerM(pair.wire, wireC) - loss(wireC)) / capacity;
  // The foam's pull on the wire is steepest where it is hottest: a twentieth of that time constant keeps fourth-order steps exact.
  const hottest = Math.max(bareC, steady.wireC) + 1;
  const constant = capacity / Math.max(1e-6, (loss(hottest) - loss(hottest - 2)) / 2);
  const seconds = Math.min(LONGEST_S, 12 * constant);
  const dt = Math.min(constant / 20, seconds / POINTS);
  const timeS = [0];
  const wireC = [bareC];
  let here = bareC;
  let settlesS: number | null = off(here) <= WITHIN ? 0 : null;
  const stride = Math.max(1, Math.round(seconds / POINTS / dt));
  for (let i = 1; i * dt <= seconds; i++) {
    const k1 = rate(here);
    const k2 = rate(here + (dt * k1) / 2);
    const k3 = rate(here + (dt * k2) / 2);
    const k4 = rate(here + dt * k3);
    here += (dt * (k1 + 2 * k2 + 2 * k3 + k4)) / 6;
    if (off(here) > WITHIN) settlesS = null;
    else settlesS ??= i * dt;
    if (i % stride === 0) {
      timeS.push(i * dt);
      wireC.push(here);
    }
  }
  const kerfM = wireC.map(kerfAt);
  return {
    timeS,
    wireC,
    kerfM,
    bareC,
    settledC: steady.wireC,
    settledKerfM,
    biteM: (capacity * Math.max(0, bareC - steady.wireC) * feedMPerS) / steady.powerWPerM,
    mouthM: Math.max(...kerfM),
    settlesS,
    settlesM: settlesS === null ? null : settlesS * feedMPerS,
  };
}
