import { JUDGEMENT } from "../../kernel/constants";
import { type CutPair, type CutVerdict, judgeCut, kerfFeedProduct, leastKerfM, openAirWireC, wireInKerfC } from "./cut";

/** Evenly spaced axis: first and last value and how many. */
export interface Axis {
  from: number;
  to: number;
  count: number;
}

export const axisValue = (axis: Axis, i: number) => (axis.count === 1 ? axis.from : axis.from + ((axis.to - axis.from) * i) / (axis.count - 1));

/** Verdicts as small numbers in the order they are judged. */
export const MAP_VERDICTS: readonly CutVerdict[] = ["drags", "smokes", "wide", "clean"];

/** A map of cuts: row by row over heat, along each row over feed; index = row * feed.count + column. */
export interface CutMap {
  heat: Axis;
  feed: Axis;
  /** m */
  kerf: Float64Array;
  /** degC in the kerf */
  wireC: Float64Array;
  feedRatio: Float64Array;
  /** index into {@link MAP_VERDICTS} */
  verdict: Uint8Array;
  /** m/s, one a row */
  maxFeed: Float64Array;
}

/**
 * Solves every cell of a heat-against-feed map. Kerf goes as 1/feed along a row, so the line source is asked once a row.
 * @param heat W/m, all > 0
 * @param feed m/s, all > 0
 */
export function computeCutMap(pair: CutPair, heat: Axis, feed: Axis, acceptedKerfM: number = JUDGEMENT.acceptedKerfMm / 1000): CutMap {
  const cells = heat.count * feed.count;
  const map: CutMap = {
    heat,
    feed,
    kerf: new Float64Array(cells),
    wireC: new Float64Array(cells),
    feedRatio: new Float64Array(cells),
    verdict: new Uint8Array(cells),
    maxFeed: new Float64Array(heat.count),
  };
  const least = leastKerfM(pair);
  for (let row = 0; row < heat.count; row++) {
    const power = axisValue(heat, row);
    const product = kerfFeedProduct(pair, power);
    map.maxFeed[row] = product / least;
    // From fast to slow the wire only gets hotter, by little from cell to cell: each answer is the next one's guess.
    let gapC: number | undefined;
    const openAirC = openAirWireC(pair, power);
    for (let column = feed.count - 1; column >= 0; column--) {
      const at = row * feed.count + column;
      const kerf = product / axisValue(feed, column);
      const wireC = wireInKerfC(pair, power, kerf, gapC, openAirC);
      gapC = wireC;
      const ratio = least / kerf;
      map.kerf[at] = kerf;
      map.wireC[at] = wireC;
      map.feedRatio[at] = ratio;
      map.verdict[at] = MAP_VERDICTS.indexOf(judgeCut(ratio, wireC, kerf, pair.foam, acceptedKerfM));
    }
  }
  return map;
}
