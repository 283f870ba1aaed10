import type { Lessons } from "@/core/calibration/learn";
import type { Design } from "@/core/cutters/design/schema";
import type { TestCut } from "@/core/log/entries";

/** What test cuts teach: asked of a worker of its own, which brings the fitting along. */
export interface LearnTasks {
  learn: { job: { design: Design; cuts: TestCut[]; trusted?: number[] }; result: Lessons };
}
