import { detectPitch } from "@/core/tuner/pitch";
import { pluckedSound } from "@/core/tuner/synth";
import { readWav } from "@/core/tuner/wav";
import { serve } from "../kit/serve";
import type { EarTasks } from "./protocol";

function hear(job: EarTasks["hear"]["job"]): EarTasks["hear"]["result"] {
  switch (job.from) {
    case "samples":
      return detectPitch(job.samples, job.sampleRate);
    case "wav": {
      const { samples, sampleRate } = readWav(job.bytes);
      return detectPitch(samples, sampleRate);
    }
    case "simulated":
      return detectPitch(pluckedSound(job.scene), job.scene.sampleRate);
  }
}

serve<EarTasks>({ hear });
