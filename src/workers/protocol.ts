import type { SearchResult } from "@/core/design/search";
import type { ControlKind, Prices, SearchJob } from "@/core/design/setups";
import type { Holdings, MatchCell, Purchase } from "@/core/drawer/matches";
import type { Supply } from "@/core/models/circuit";
import type { CutPair, CutVerdict } from "@/core/models/cut";
import type { Axis } from "@/core/models/cutMap";
import type { WireSpec } from "@/core/models/wire";
import type { HeardPitch } from "@/core/tuner/pitch";
import type { PluckScene } from "@/core/tuner/synth";

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
  matches: { job: { job: SearchJob; holdings: Holdings }; result: { cells: MatchCell[][]; elapsedMs: number } };
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
