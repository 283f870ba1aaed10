import type { BenchReport } from "@/core/bench/face";
import type { Hand, SupplyTrouble, TrackRow } from "@/core/bench/setup";
import type { BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import type { DeviceFault, DeviceName } from "@/core/devices/instruments";

/** What the page sees of the bench at a moment. Lengths in m, along p and across q as the simulator has them. */
export interface BenchFrame {
  timeS: number;
  pathM: number;
  endP: number;
  endQ: number;
  endFeedMPerS: number;
  forceN: number;
  lagM: number;
  currentA: number;
  volts: number;
  airC: number;
  supply: SupplyTrouble;
  heatOn: boolean;
  broken: boolean;
  through: boolean;
  /** Charge left of a battery; null for other supplies. */
  charge: number | null;
  /** What thermometer and scale show. */
  shownC: number | null;
  shownN: number | null;
  middle: number;
  xM: Float32Array;
  p: Float32Array;
  q: Float32Array;
  wireC: Float32Array;
  kerfM: Float32Array;
  heatWPerM: number;
  topFeedMPerS: number;
  inFoam: boolean;
  /** Rows of the middle's track since the last frame; the last one of before may come again, wider. */
  track: { from: number; rows: TrackRow[] };
  /** Points of the traces since the last frame. */
  traces: { timeS: number[]; forceN: number[]; airC: number[]; foamC: number[]; feedMmS: number[] };
}

/** Everything the page says to the bench. A run's messages carry its number; those of an older run are left lying. */
export type ToBench =
  | { kind: "open"; run: number; design: Design; options: BenchOptions }
  | { kind: "hand"; run: number; hand: Hand }
  | { kind: "knob"; run: number; setting: number }
  | { kind: "heat"; run: number; on: boolean }
  /** Times real time; 0 does not move. */
  | { kind: "pace"; run: number; times: number }
  | { kind: "fault"; run: number; device: DeviceName; fault: DeviceFault; on: boolean }
  | { kind: "say"; run: number; id: number; device: DeviceName; line: string }
  | { kind: "report"; run: number; id: number };

/** Everything the bench says back. */
export type FromBench =
  | { kind: "frame"; run: number; frame: BenchFrame }
  | { kind: "said"; run: number; id: number; evaluation: string | null }
  | { kind: "report"; run: number; id: number; report: BenchReport }
  | { kind: "failed"; run: number; code: string; message: string };
