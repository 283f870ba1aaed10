import type { Design } from "@/core/cutters/design/schema";
import type { SearchJob } from "@/core/cutters/search/readyWire";
import type { SearchResult } from "@/core/cutters/search/search";
import type { Prices } from "@/core/cutters/search/setups";
import type { DeferredEvaluation } from "@/core/cutters/solve/deferredEvaluation";
import type { Holdings } from "@/core/drawer/holdings";
import type { MatchMark, Purchase } from "@/core/drawer/matches";
import type { CutPair, CutVerdict } from "@/core/physics/cut/cut";
import type { Axis } from "@/core/physics/cut/cutMap";
import type { BorderRow, Doubts } from "@/core/physics/cut/uncertainty";
import type { WireSpec } from "@/core/physics/heat/wire";
import type { ControlKind } from "@/core/physics/power/controls";
import type { Supply } from "@/core/physics/power/supplies";
import type { EdgeCost } from "@/core/plans/edges";
import type { Answers } from "@/core/start/answers";
import type { StartResult } from "@/core/start/choices";
import type { UnitSystem } from "@/core/units/units";

/** A filled outline in the map's own axes: rings of [feed mm/s, heat W/m]; inner rings are holes. */
export type RegionOutline = [number, number][][][];

export interface MapJob {
  pair: CutPair;
  heat: Axis;
  /** m/s */
  feed: Axis;
  acceptedKerfM: number;
  /** How well its inputs are known: the borders' bands. */
  doubts: Doubts;
  /** Kerfs to draw lines of, m. */
  kerfLinesM: number[];
}

export interface MapPicture {
  regions: Record<CutVerdict, RegionOutline>;
  /** Points [feed mm/s, heat W/m], one a row of the map. */
  kerfLines: { kerfM: number; line: [number, number][] }[];
  /** Where the borders may lie, some heats apart. */
  borders: BorderRow[];
  /** Time in the worker, for benchmarks: solving the cells, and all of it. */
  solvedMs: number;
  elapsedMs: number;
}

/** A search for set-ups as the page asks it. */
export interface SearchInput {
  job: SearchJob;
  wires?: readonly WireSpec[] | undefined;
  supplies?: readonly Supply[] | undefined;
  controls?: readonly ControlKind[] | undefined;
  prices?: Prices | undefined;
}

/** What the engine's worker is asked, and what it gives back. */
export interface EngineTasks {
  map: { job: MapJob; result: MapPicture };
  deferred: { job: Design; result: DeferredEvaluation };
  edges: { job: { design: Design; spanMm: number; feedMmS: number; thicknessMm: number }; result: EdgeCost[] };
  search: { job: SearchInput; result: SearchResult };
  matches: { job: { job: SearchJob; holdings: Holdings }; result: MatchMark[][] };
  start: { job: { answers: Answers; held: Holdings; units: UnitSystem }; result: StartResult };
  oneThing: { job: { jobs: { name: string; job: SearchJob }[]; holdings: Holdings; offers: Holdings }; result: Purchase[] };
}
