import type { Room } from "@/core/rigs/bestPulley";
import type { Swing, SwingArm } from "@/core/rigs/swing";

export interface RigTasks {
  /** Where the pulley, and the arm, stand best. */
  bestPulley: {
    job: { arm: Omit<SwingArm, "pulleyMm">; room: Room; rootTravelMm: number; tipTravelMm: number; turns: boolean };
    result: { pulleyMm: [number, number]; swing: Swing; fromDeg: number; toDeg: number } | null;
  };
}
