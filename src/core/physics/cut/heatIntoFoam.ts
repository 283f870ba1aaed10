import { type CutPair, heatForKerf, kerfFeedProduct, leastKerfM, wireInKerfC } from "./cut";

/** Heats at which the cut model is asked. */
const FOAM_HEATS = 400;

/**
 * Heat the foam takes from a wire at a temperature, W/m. Where the wire melts its way the cut model gives temperature from heat, so its pairs are read the
 * other way round. Colder than that the foam touches the wire and carries heat off in proportion to its rise, as the moving line source does without melting.
 */
export function heatIntoFoam(pair: CutPair, feedMPerS: number): (wireC: number) => number {
  const least = heatForKerf(pair, feedMPerS, leastKerfM(pair));
  const heats = Float64Array.from({ length: FOAM_HEATS }, (_, i) => least * (1e5 / least) ** (i / (FOAM_HEATS - 1)));
  const temperatures = heats.map((heat) => wireInKerfC(pair, heat, kerfFeedProduct(pair, heat) / feedMPerS));
  const onset = temperatures[0] as number;
  return (wireC) => {
    if (wireC <= onset) return (least * Math.max(0, wireC - pair.ambientC)) / (onset - pair.ambientC);
    // Read in rising order by the table that is built from it, but any order is right.
    let lo = 0;
    let hi = FOAM_HEATS - 1;
    while (hi - lo > 1) {
      const mid = (lo + hi) >> 1;
      if ((temperatures[mid] as number) <= wireC) lo = mid;
      else hi = mid;
    }
    const [c0, c1] = [temperatures[lo] as number, temperatures[hi] as number];
    return (heats[lo] as number) + (((heats[hi] as number) - (heats[lo] as number)) * (wireC - c0)) / (c1 - c0);
  };
}
