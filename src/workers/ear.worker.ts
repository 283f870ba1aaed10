import { CoreError } from "@/core/kernel/errors";
import { hearPitch } from "@/core/tuner/pitch";
import { pluckedSound } from "@/core/tuner/synth";
import { readWav } from "@/core/tuner/wav";
import type { FromWorker, Tasks, ToWorker } from "./protocol";

const port = self as unknown as { onmessage: ((event: MessageEvent<ToWorker>) => void) | null; postMessage: (message: FromWorker) => void };

function hear(job: Tasks["hear"]["job"]): Tasks["hear"]["result"] {
  switch (job.from) {
    case "samples":
      return hearPitch(job.samples, job.sampleRate);
    case "wav": {
      const { samples, sampleRate } = readWav(job.bytes);
      return hearPitch(samples, sampleRate);
    }
    case "simulated":
      return hearPitch(pluckedSound(job.scene), job.scene.sampleRate);
  }
}

port.onmessage = ({ data }) => {
  try {
    if (data.kind !== "hear") throw new Error(`the ear does not know ${data.kind}`);
    port.postMessage({ kind: "done", task: "hear", run: data.run, result: hear(data.job) });
  } catch (error) {
    port.postMessage({ kind: "failed", run: data.run, code: error instanceof CoreError ? error.code : "worker-failed", message: (error as Error).message });
  }
};
