import type { CutPair, CutVerdict } from "@/core/models/cut";
import type { Axis } from "@/core/models/cutMap";

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

/** Everything the page says to the worker. */
export type ToWorker = { kind: "map"; run: number; job: MapJob };

/** Everything the worker says back; errors cross as data. */
export type FromWorker = { kind: "map-done"; run: number; picture: MapPicture } | { kind: "failed"; run: number; code: string; message: string };
