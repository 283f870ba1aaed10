import type { Room } from "@/core/rigs/bestPulley";
import type { RigProgram } from "@/core/rigs/evaluation";
import type { FrameRig } from "@/core/rigs/frame/fields";
import type { FrameJob } from "@/core/rigs/frame/path";
import type { Swing, SwingArm } from "@/core/rigs/swing";

export interface RigTasks {
  /** A frame's path and program. */
  frame: { job: { rig: FrameRig; job: FrameJob }; result: RigProgram };
  /** Where the pulley, and the arm, stand best. */
  bestPulley: {
    job: { arm: Omit<SwingArm, "pulleyMm">; room: Room; rootTravelMm: number; tipTravelMm: number; turns: boolean };
    result: { pulleyMm: [number, number]; swing: Swing; fromDeg: number; toDeg: number } | null;
  };
}
