import { useMemo } from "react";
import type { Point } from "@/core/geometry/points";
import { CoreError } from "@/core/kernel/errors";
import type { RigSurroundings } from "@/core/rigs/around";
import type { RigProgram } from "@/core/rigs/evaluation";
import type { FrameRig } from "@/core/rigs/frame/fields";
import { type FrameJob, frameJob } from "@/core/rigs/frame/path";
import { useEngine } from "../../kit/useEngine";
import { useThrottled } from "../../kit/useThrottled";

/** The plan's program on this frame, worked out next to the page when the hand rests. */
export function useFrameProgram(
  rig: FrameRig,
  around: RigSurroundings,
): { program: RigProgram | null; fault: string | null; places: readonly Point[]; job: FrameJob | null; current: boolean } {
  const requested = useMemo(() => {
    try {
      return { question: { rig, job: frameJob(rig, around) }, fault: null };
    } catch (error) {
      if (error instanceof CoreError) return { question: null, fault: error.message };
      throw error;
    }
  }, [rig, around]);
  const throttled = useThrottled(requested.question);
  const { result, fault, places, current } = useEngine("frame", throttled);
  const settled = throttled === requested.question;
  return {
    program: requested.question && !fault ? result : null,
    fault: requested.fault ?? (throttled ? fault : null),
    places: fault && !requested.fault ? places : [],
    job: requested.question?.job ?? null,
    current: settled && (current || fault !== null || requested.fault !== null),
  };
}
