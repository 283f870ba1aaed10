import type { Design } from "@/core/cutters/design/schema";
import type { PaceJob, PlanPaceResult } from "@/core/pace/planPace";

export interface PaceTasks {
  pace: { job: { job: PaceJob; design: Design }; result: PlanPaceResult };
}
