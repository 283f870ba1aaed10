import { learnFrom } from "@/core/calibration/learn";
import { CoreError } from "@/core/kernel/errors";
import type { FromWorker, ToWorker } from "./protocol";

const port = self as unknown as { onmessage: ((event: MessageEvent<ToWorker>) => void) | null; postMessage: (message: FromWorker) => void };

port.onmessage = ({ data }) => {
  try {
    if (data.kind !== "learn") throw new Error(`this worker does not know ${data.kind}`);
    port.postMessage({ kind: "done", task: "learn", run: data.run, result: learnFrom(data.job.design, data.job.cuts) });
  } catch (error) {
    port.postMessage({ kind: "failed", run: data.run, code: error instanceof CoreError ? error.code : "worker-failed", message: (error as Error).message });
  }
};
