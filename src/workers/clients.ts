import type { DrawingTasks } from "./drawings/protocol";
import type { EarTasks } from "./ear/protocol";
import type { EngineTasks } from "./engine/protocol";
import { TaskClient } from "./kit/client";
import type { LearnTasks } from "./learn/protocol";
import type { PaceTasks } from "./pace/protocol";
import type { RigTasks } from "./rigs/protocol";

/** Every task that a page may have done for it. */
export type Tasks = EngineTasks & LearnTasks & EarTasks & DrawingTasks & PaceTasks & RigTasks;
export type TaskName = keyof Tasks;

const engine = () => new Worker(new URL("./engine/engine.worker.ts", import.meta.url), { type: "module" });
/** Which worker does which task: what brings packages along has one of its own. */
const STARTS: Readonly<Record<TaskName, () => Worker>> = {
  map: engine,
  deferred: engine,
  edges: engine,
  search: engine,
  matches: engine,
  oneThing: engine,
  start: engine,
  drawing: () => new Worker(new URL("./drawings/drawings.worker.ts", import.meta.url), { type: "module" }),
  hear: () => new Worker(new URL("./ear/ear.worker.ts", import.meta.url), { type: "module" }),
  pace: () => new Worker(new URL("./pace/pace.worker.ts", import.meta.url), { type: "module" }),
  frame: () => new Worker(new URL("./rigs/rigs.worker.ts", import.meta.url), { type: "module" }),
  bestPulley: () => new Worker(new URL("./rigs/rigs.worker.ts", import.meta.url), { type: "module" }),
  learn: () => new Worker(new URL("./learn/learn.worker.ts", import.meta.url), { type: "module" }),
};

/** The client for one kind of task. */
export class EngineClient<K extends TaskName> extends TaskClient<Tasks, K> {
  constructor(task: K) {
    super(task, STARTS[task]);
  }
}
