import type { CutPair } from "../physics/cut/cut";
import type { CircuitInput } from "../physics/power/circuit";
import type { Grain } from "./grain";

/** Where the ends of the wire are led: straight, or with one corner. */
export interface BenchPath {
  /** Way from the foam's face to the corner, m; null for a straight cut. */
  cornerAtM: number | null;
  turnDeg: number;
}

/** A cutter, a foam and a block on the bench. SI. */
export interface BenchSetup {
  pair: CutPair;
  /** Supply, control, leads and wire; without foam. */
  circuit: CircuitInput;
  /** Foam along the wire, in its middle. */
  widthM: number;
  /** Foam along the cut. */
  blockM: number;
  tensionN: number;
  acceptedKerfM: number;
  path: BenchPath;
  grain: Grain;
}

/**
 * What the maker's hand does: holds still, walks at a pace, pushes with a force, or leads the wire's ends to a place along the path.
 * m/s, N, m from where the wire starts.
 */
export type Hand = { mode: "still" } | { mode: "pace"; mPerS: number } | { mode: "push"; newtons: number } | { mode: "lead"; toM: number };

/** One kept moment of one place of the wire as it went through the foam. */
export interface TrackRow {
  timeS: number;
  /** along the first direction and across it, m from the foam's face */
  p: number;
  q: number;
  kerfM: number;
  wireC: number;
  feedMPerS: number;
  /** feed over top feed */
  ratio: number;
}

export interface TraceSeries {
  timeS: number[];
  forceN: number[];
  airC: number[];
  foamC: number[];
  feedMmS: number[];
  currentA: number[];
}

export interface BenchLedger {
  generated: number;
  toAir: number;
  toFoam: number;
}

export type SupplyTrouble = "ok" | "tripped" | "off";
