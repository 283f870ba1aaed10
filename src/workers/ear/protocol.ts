import type { DetectedPitch } from "@/core/tuner/pitch";
import type { PluckScene } from "@/core/tuner/synth";

/** What listens to plucks. */
export interface EarTasks {
  hear: {
    job: { from: "samples"; samples: Float32Array; sampleRate: number } | { from: "wav"; bytes: Uint8Array } | { from: "simulated"; scene: PluckScene };
    result: DetectedPitch;
  };
}
