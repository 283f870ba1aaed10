import { useMemo } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import type { OutDrawing } from "@/core/plans/outputs/drawing";
import type { Plan } from "@/core/plans/plan";
import { around, type RigSurroundings } from "@/core/rigs/around";
import { type Rig, rigRecord } from "@/core/rigs/kinds";
import type { RigEvaluation, Show } from "@/core/rigs/record";
import { solveRig } from "@/core/rigs/solved";
import { trim } from "@/core/units/trim";
import { useLettering } from "../../kit/useLettering";
import { useUnits } from "../../kit/useUnits";

export interface RigView {
  around: RigSurroundings;
  /** why the plan next to it counts for nothing */
  planFault: string | null;
  show: Show;
  evaluation: RigEvaluation | null;
  drawing: OutDrawing | null;
  /** a rig that cannot be: which field, and why */
  fault: { path: string; message: string } | null;
}

/** A rig worked out as it is changed. */
export function useRig(rig: Rig, design: Design | null, plan: Plan | null): RigView {
  const { show: shown } = useUnits();
  const show: Show = useMemo(() => (quantity, value, decimals) => trim(shown(quantity, value, decimals)), [shown]);
  const letters = useLettering(plan);
  const beside = useMemo(() => {
    if (!letters.ready) return { around: around(design, null), planFault: letters.fault };
    try {
      return { around: around(design, plan), planFault: null };
    } catch (error) {
      if (error instanceof CoreError) return { around: around(design, null), planFault: error.message };
      throw error;
    }
  }, [design, plan, letters.ready, letters.fault]);
  const found = useMemo(() => {
    const record = rigRecord(rig.kind);
    try {
      return { evaluation: solveRig(record, rig, beside.around, show), drawing: record.draw(rig, beside.around, show), fault: null };
    } catch (error) {
      if (error instanceof CoreError) return { evaluation: null, drawing: null, fault: { path: error.path, message: error.message } };
      throw error;
    }
  }, [rig, beside, show]);
  return { ...beside, ...found, show };
}
