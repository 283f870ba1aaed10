import { drawMap } from "./mapPicture";
import type { FromWorker, ToWorker } from "./protocol";

const port = self as unknown as { onmessage: ((event: MessageEvent<ToWorker>) => void) | null; postMessage: (message: FromWorker) => void };

port.onmessage = ({ data }) => {
  try {
    port.postMessage({ kind: "map-done", run: data.run, picture: drawMap(data.job) });
  } catch (error) {
    port.postMessage({ kind: "failed", run: data.run, code: "map-failed", message: (error as Error).message });
  }
};
