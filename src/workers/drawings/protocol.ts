import type { DrawingUnit, Imported } from "@/core/plans/imports/imported";

/** A drawing to be read. */
export interface DrawingJob {
  format: "svg" | "dxf" | "coordinates";
  text: string;
  unit?: DrawingUnit | undefined;
  gapMm: number;
}

export interface DrawingTasks {
  drawing: { job: DrawingJob; result: Imported };
}
