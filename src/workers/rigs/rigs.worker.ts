import { bestArm, bestPulley } from "@/core/rigs/bestPulley";
import { frameProgram } from "@/core/rigs/frame/path";
import { serve } from "../kit/serve";
import type { RigTasks } from "./protocol";

serve<RigTasks>({
  frame: ({ rig, job }) => frameProgram(rig, job),
  bestPulley: ({ arm, room, rootTravelMm, tipTravelMm, turns }) => {
    if (turns) return bestArm(arm, room, rootTravelMm, tipTravelMm);
    const found = bestPulley(arm, room, rootTravelMm, tipTravelMm);
    return found && { ...found, fromDeg: arm.fromDeg, toDeg: arm.toDeg };
  },
});
