import { bestArm, bestPulley } from "@/core/rigs/bestPulley";
import { serve } from "../kit/serve";
import type { RigTasks } from "./protocol";

serve<RigTasks>({
  bestPulley: ({ arm, room, rootTravelMm, tipTravelMm, turns }) => {
    if (turns) return bestArm(arm, room, rootTravelMm, tipTravelMm);
    const found = bestPulley(arm, room, rootTravelMm, tipTravelMm);
    return found && { ...found, fromDeg: arm.fromDeg, toDeg: arm.toDeg };
  },
});
