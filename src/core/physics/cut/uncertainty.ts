import type { Relation } from "../../kernel/provenance";
import { type CutPair, cleanFeeds, cutAtCurrent, cutAtPower, DRAG_SHARE, movedCollapseC } from "./cut";
import { midSpanLag } from "./lag";

/** What is not known well, and how well. One standard deviation each. */
export interface Doubts {
  /** Foam's collapse temperature, K. */
  collapseK: number;
  /** Wire's emissivity. */
  emissivity: number;
  /** Foam's density, as a share of it; a weighed block has far less. */
  densityShare: number;
  /** Drag constant, as a share of it. */
  dragShare: number;
  /** Room the kerf must leave next to the wire, as a share of it. */
  clearanceShare: number;
  /** Fume limit, K. */
  fumeLimitK: number;
  /** Share of the wire's heat that opens the kerf, as a share of it. */
  heatShare: number;
  /**
   * What test cuts left of the doubts of heat, collapse, density, drag and clearance together, in place of their own: a lower triangular factor of their
   * covariance, row by row (15 numbers). Cuts leave these figures hanging together: more heat in a denser foam cuts the same kerf.
   */
  learnt?: readonly number[] | undefined;
}

/** Doubt before anything was measured on this cutter (this project's judgement; test cuts narrow it). */
export const DOUBTS: Doubts = { collapseK: 5, emissivity: 0.1, densityShare: 0.08, dragShare: 0.35, clearanceShare: 0.35, fumeLimitK: 20, heatShare: 0.1 };
/** Doubt of a density from a block that was measured and weighed, as a share of it. */
export const WEIGHED_DENSITY_SHARE = 0.02;
/** Doubts of a board with recycled content: what is in it changes from hand to hand (this project's judgement). */
export const RECYCLED_DOUBTS = { densityShare: 0.15, dragShare: 0.6, clearanceShare: 0.6 } as const;

export const BAND: Relation = {
  id: "band",
  title: "How sure a figure is",
  formula: "mean and spread over 2n points at +-sqrt(n) standard deviations of n doubtful inputs, equal weights; band = mean +- 1.645 spreads",
  words:
    "Each doubtful input is moved up and down on its own and the cut solved again; the spread of the answers is the band, which holds the true figure nine times in ten if the doubts are right.",
  range: "doubts independent and small enough that the answer bends only gently",
  basis: "estimate",
  source: "spherical cubature (unscented) points; the doubts themselves are this project's judgement until test cuts narrow them",
};

/** A figure with its band. */
export interface Band {
  low: number;
  mid: number;
  high: number;
}

const BEYOND = 1e300;
/** Spread that holds nine in ten of a normal law. */
const NINE_IN_TEN = 1.645;

/** Figures that cuts teach together: heat, collapse, density, drag, clearance. */
const TAUGHT = 5;

/** Steps of the figures that cuts teach for as many independent standard steps: each by its own doubt, or together as cuts left them. */
function joint(doubts: Doubts, by: readonly number[]): number[] {
  const l = doubts.learnt;
  const own = [doubts.heatShare, doubts.collapseK, doubts.densityShare, doubts.dragShare, doubts.clearanceShare];
  if (!l) return own.map((doubt, i) => doubt * (by[i] ?? 0));
  return own.map((_, row) => {
    let sum = 0;
    for (let column = 0; column <= row; column++) sum += (l[(row * (row + 1)) / 2 + column] ?? 0) * (by[column] ?? 0);
    return sum;
  });
}

/** The pair with its doubtful inputs moved by so many standard deviations each: those that cuts teach, then emissivity and fume limit. */
function moved(pair: CutPair, doubts: Doubts, by: readonly number[]): CutPair {
  const [heat = 0, collapse = 0, density = 0, drag = 0, clearance = 0] = joint(doubts, by);
  const [emissivity = 0, fume = 0] = by.slice(TAUGHT);
  const { foam, wire } = pair;
  return {
    ...pair,
    // Shares move by their logarithm, so that no density or drag turns negative however far the points reach.
    heatShare: (pair.heatShare ?? 1) * Math.exp(heat),
    dragShare: (pair.dragShare ?? DRAG_SHARE) * Math.exp(drag),
    clearanceShare: (pair.clearanceShare ?? 1) * Math.exp(clearance),
    wire: { ...wire, alloy: { ...wire.alloy, emissivity: Math.min(1, Math.max(0.02, wire.alloy.emissivity + emissivity * doubts.emissivity)) } },
    foam: {
      ...foam,
      collapseC: movedCollapseC(pair, collapse),
      densityKgM3: foam.densityKgM3 * Math.exp(density),
      fumeLimitC: foam.fumeLimitC + fume * doubts.fumeLimitK,
    },
  };
}

const INPUTS = TAUGHT + 2;

/** The 2n points: each doubt alone, up and down. Steps in standard deviations. */
function points(): number[][] {
  const reach = Math.sqrt(INPUTS);
  return Array.from({ length: 2 * INPUTS }, (_, k) => Array.from({ length: INPUTS }, (_, i) => (i === k >> 1 ? (k % 2 === 0 ? reach : -reach) : 0)));
}

const POINTS = points();

/** Band of a figure from its values at the points; `mid` is the figure as solved. A value that has no answer makes the band open upward. */
function bandOf(mid: number, values: readonly (number | null)[]): Band {
  // A border that lies beyond all feeds comes as the largest number there is: no figure to average.
  const known = values.filter((value) => value !== null && Math.abs(value) < BEYOND) as number[];
  if (known.length < values.length) return { low: Math.min(mid, ...known), mid, high: Number.POSITIVE_INFINITY };
  const mean = known.reduce((a, b) => a + b, 0) / known.length;
  const spread = Math.sqrt(known.reduce((sum, value) => sum + (value - mean) ** 2, 0) / known.length);
  // Figures here are sizes, and none falls below nothing; a wire that never warms may be below nought in a cold shed.
  return { low: Math.min(mid, Math.max(0, mean - NINE_IN_TEN * spread)), mid, high: Math.max(mid, mean + NINE_IN_TEN * spread) };
}

export interface CutBands {
  kerfM: Band;
  maxFeedMPerS: Band;
  wireC: Band;
  /** high is Infinity where some point is past its top feed */
  dragNPerM: Band | null;
  lagM: Band | null;
  /** Clean feeds at this heat. */
  cleanFromMPerS: Band;
  cleanToMPerS: Band;
  /** Share of the points that are clean. */
  cleanShare: number;
}

/**
 * Bands of a cut's figures at a current. See {@link BAND}.
 * @param hold span, foam width and tension, for the bow
 */
export function cutBands(
  pair: CutPair,
  feedMPerS: number,
  drive: { currentA: number } | { powerWPerM: number },
  acceptedKerfM: number,
  hold?: { spanM: number; widthM: number; tensionN: number },
  doubts: Doubts = DOUBTS,
): CutBands {
  const at = (each: CutPair) => {
    const cut =
      "currentA" in drive ? cutAtCurrent(each, feedMPerS, drive.currentA, acceptedKerfM) : cutAtPower(each, feedMPerS, drive.powerWPerM, acceptedKerfM);
    return { cut, feeds: cleanFeeds(each, cut.powerWPerM, acceptedKerfM) };
  };
  const mid = at(pair);
  const all = POINTS.map((by) => at(moved(pair, doubts, by)));
  const lag = (drag: number | null) => (drag === null || !hold ? null : midSpanLag(drag, hold.spanM, hold.widthM, hold.tensionN).lagM);
  const midLag = lag(mid.cut.dragNPerM);
  return {
    kerfM: bandOf(
      mid.cut.kerfM,
      all.map(({ cut }) => cut.kerfM),
    ),
    maxFeedMPerS: bandOf(
      mid.cut.maxFeedMPerS,
      all.map(({ cut }) => cut.maxFeedMPerS),
    ),
    wireC: bandOf(
      mid.cut.wireC,
      all.map(({ cut }) => cut.wireC),
    ),
    dragNPerM:
      mid.cut.dragNPerM === null
        ? null
        : bandOf(
            mid.cut.dragNPerM,
            all.map(({ cut }) => cut.dragNPerM),
          ),
    lagM:
      midLag === null
        ? null
        : bandOf(
            midLag,
            all.map(({ cut }) => lag(cut.dragNPerM)),
          ),
    cleanFromMPerS: bandOf(
      mid.feeds.from,
      all.map(({ feeds }) => feeds.from),
    ),
    cleanToMPerS: bandOf(
      mid.feeds.to,
      all.map(({ feeds }) => feeds.to),
    ),
    cleanShare: all.filter(({ cut }) => cut.verdict === "clean").length / all.length,
  };
}

/** One row of the window's borders with their bands. */
export interface BorderRow {
  powerWPerM: number;
  /** Slower border: smokes or wide. */
  from: Band;
  /** Faster border: drags. */
  to: Band;
}

/** The cutting window's two borders with their bands, at each heat. Closed forms only: some microseconds a row. */
export function borderBands(pair: CutPair, heats: readonly number[], acceptedKerfM: number, doubts: Doubts = DOUBTS): BorderRow[] {
  const moves = POINTS.map((by) => moved(pair, doubts, by));
  return heats.map((powerWPerM) => {
    const mid = cleanFeeds(pair, powerWPerM, acceptedKerfM);
    const all = moves.map((each) => cleanFeeds(each, powerWPerM, acceptedKerfM));
    return {
      powerWPerM,
      from: bandOf(
        mid.from,
        all.map((feeds) => feeds.from),
      ),
      to: bandOf(
        mid.to,
        all.map((feeds) => feeds.to),
      ),
    };
  });
}
