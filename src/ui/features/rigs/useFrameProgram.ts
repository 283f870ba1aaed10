import { useMemo } from "react";
import type { Point } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import type { RigProgram } from "@/core/rigs/answer";
import type { Around } from "@/core/rigs/around";
import type { FrameRig } from "@/core/rigs/frame/fields";
import { type FrameJob, frameJob } from "@/core/rigs/frame/path";
import { useCalm } from "../../kit/useCalm";
import { useEngine } from "../../kit/useEngine";

/** The plan's program on this frame, worked out next to the page when the hand rests. */
export function useFrameProgram(
  rig: FrameRig,
  around: Around,
): { program: RigProgram | null; fault: string | null; places: readonly Point[]; job: FrameJob | null; current: boolean } {
  const asked = useMemo(() => {
    try {
      return { question: { rig, job: frameJob(rig, around) }, fault: null };
    } catch (error) {
      if (error instanceof CoreError) return { question: null, fault: error.message };
      throw error;
    }
  }, [rig, around]);
  const calm = useCalm(asked.question);
  const { result, fault, places, current } = useEngine("frame", calm);
  const settled = calm === asked.question;
  return {
    program: asked.question && !fault ? result : null,
    fault: asked.fault ?? (calm ? fault : null),
    places: fault && !asked.fault ? places : [],
    job: asked.question?.job ?? null,
    current: settled && (current || fault !== null || asked.fault !== null),
  };
}
