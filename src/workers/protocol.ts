import type { BenchReport } from "@/core/bench/face";
import type { Hand, SupplyTrouble, TrackRow } from "@/core/bench/setup";
import type { BenchOptions } from "@/core/bench/world";
import type { Lessons } from "@/core/calibration/learn";
import type { Design } from "@/core/cutters/design/schema";
import type { SearchJob } from "@/core/cutters/search/readyWire";
import type { SearchResult } from "@/core/cutters/search/search";
import type { Prices } from "@/core/cutters/search/setups";
import type { DeviceFault, DeviceName } from "@/core/devices/instruments";
import type { Holdings } from "@/core/drawer/holdings";
import type { MatchMark, Purchase } from "@/core/drawer/matches";
import type { TestCut } from "@/core/log/entries";
import type { CutPair, CutVerdict } from "@/core/physics/cut/cut";
import type { Axis } from "@/core/physics/cut/cutMap";
import type { WireSpec } from "@/core/physics/heat/wire";
import type { Supply } from "@/core/physics/power/circuit";
import type { ControlKind } from "@/core/physics/power/controls";
import type { Answers } from "@/core/start/answers";
import type { StartAnswer } from "@/core/start/choices";
import type { HeardPitch } from "@/core/tuner/pitch";
import type { PluckScene } from "@/core/tuner/synth";
import type { UnitSystem } from "@/core/units/units";

/** A filled outline in the map's own axes: rings of [feed mm/s, heat W/m]; inner rings are holes. */
export type Outline = [number, number][][][];

export interface MapJob {
  pair: CutPair;
  heat: Axis;
  /** m/s */
  feed: Axis;
  acceptedKerfM: number;
  /** Kerfs to draw lines of, m. */
  kerfLinesM: number[];
}

export interface MapPicture {
  regions: Record<CutVerdict, Outline>;
  /** Points [feed mm/s, heat W/m], one a row of the map. */
  kerfLines: { kerfM: number; line: [number, number][] }[];
  /** Time in the worker, for benchmarks: solving the cells, and all of it. */
  solvedMs: number;
  elapsedMs: number;
}

/** A search for set-ups as the page asks it. */
export interface SearchAsk {
  job: SearchJob;
  wires?: readonly WireSpec[] | undefined;
  supplies?: readonly Supply[] | undefined;
  controls?: readonly ControlKind[] | undefined;
  prices?: Prices | undefined;
}

/** Every task the worker knows, with what it is given and what it gives back. */
export interface Tasks {
  map: { job: MapJob; result: MapPicture };
  search: { job: SearchAsk; result: SearchResult };
  matches: { job: { job: SearchJob; holdings: Holdings }; result: MatchMark[][] };
  start: { job: { answers: Answers; held: Holdings; units: UnitSystem }; result: StartAnswer };
  learn: { job: { design: Design; cuts: TestCut[] }; result: Lessons };
  /** Done by a worker of its own: what listens to plucks. */
  hear: {
    job: { from: "samples"; samples: Float32Array; sampleRate: number } | { from: "wav"; bytes: Uint8Array } | { from: "simulated"; scene: PluckScene };
    result: HeardPitch;
  };
  oneThing: { job: { jobs: { name: string; job: SearchJob }[]; holdings: Holdings; offers: Holdings }; result: Purchase[] };
}
export type TaskName = keyof Tasks;

/** Everything the page says to the worker. */
export type ToWorker = { [K in TaskName]: { kind: K; run: number; job: Tasks[K]["job"] } }[TaskName];

/** Everything the worker says back; errors cross as data. */
export type FromWorker =
  | { [K in TaskName]: { kind: "done"; task: K; run: number; result: Tasks[K]["result"] } }[TaskName]
  | { kind: "failed"; run: number; code: string; message: string };

/** What the page sees of the bench at a moment. Lengths in m, along p and across q as the simulator has them. */
export interface BenchFrame {
  timeS: number;
  wayM: number;
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
  /** Times real time; 0 stands still. */
  | { kind: "pace"; run: number; times: number }
  | { kind: "fault"; run: number; device: DeviceName; fault: DeviceFault; on: boolean }
  | { kind: "say"; run: number; id: number; device: DeviceName; line: string }
  | { kind: "report"; run: number; id: number };

/** Everything the bench says back. */
export type FromBench =
  | { kind: "frame"; run: number; frame: BenchFrame }
  | { kind: "said"; run: number; id: number; answer: string | null }
  | { kind: "report"; run: number; id: number; report: BenchReport }
  | { kind: "failed"; run: number; code: string; message: string };
