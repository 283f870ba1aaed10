import { searchSetups } from "@/core/cutters/search/search";
import { matchMatrix, oneThing } from "@/core/drawer/matches";
import { CoreError } from "@/core/kernel/errors";
import { chooseSetups } from "@/core/start/choices";
import { drawMap } from "./mapPicture";
import type { FromWorker, TaskName, Tasks, ToWorker } from "./protocol";

const port = self as unknown as { onmessage: ((event: MessageEvent<ToWorker>) => void) | null; postMessage: (message: FromWorker) => void };

const TASKS: { [K in Exclude<TaskName, "hear" | "learn">]: (job: Tasks[K]["job"]) => Tasks[K]["result"] } = {
  map: drawMap,
  matches: ({ job, holdings }) => matchMatrix(job, holdings),
  oneThing: ({ jobs, holdings, offers }) => oneThing(jobs, holdings, offers),
  search: ({ job, wires, supplies, controls, prices }) => searchSetups(job, wires, supplies, controls, prices),
  start: ({ answers, held, units }) => chooseSetups(answers, held, units),
};

port.onmessage = ({ data }) => {
  try {
    if (data.kind === "hear" || data.kind === "learn") throw new Error(`${data.kind} has a worker of its own`);
    const work = TASKS[data.kind] as (job: unknown) => never;
    port.postMessage({ kind: "done", task: data.kind, run: data.run, result: work(data.job) });
  } catch (error) {
    port.postMessage({ kind: "failed", run: data.run, code: error instanceof CoreError ? error.code : "worker-failed", message: (error as Error).message });
  }
};
