import { type ReactNode, useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { heatCourseOf } from "@/core/cutters/solve/cutBands";
import type { DesignEvaluation } from "@/core/cutters/solve/evaluate";
import { InstrumentBoundary } from "../kit/InstrumentBoundary";
import { Rod } from "./Rod";

/** The rod of the cutter that a plan or a rig names; `children` in its place where there is none. */
export function LinkedRod({ design, evaluation, children }: { design: Design | null; evaluation: DesignEvaluation | null; children: ReactNode }) {
  const course = useMemo(() => (design && evaluation ? heatCourseOf(design, evaluation) : null), [design, evaluation]);
  if (!design || !evaluation || !course) return children;
  return (
    <InstrumentBoundary name="the rod">
      <Rod design={design} evaluation={evaluation} course={course} onPick={null} label={`The wire of ${design.name}`} />
    </InstrumentBoundary>
  );
}
