import { useEffect, useRef, useState } from "react";
import type { TaskName, Tasks } from "@/workers/clients";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";
import { WorkerFault } from "@/workers/kit/messages";

/** Answers that are kept at most: the oldest goes first. */
const MOST_STORED = 8;

function keep<T>(saved: Map<string, T> | undefined, question: string, result: T): void {
  saved?.set(question, result);
  for (const oldest of [...(saved?.keys() ?? [])].slice(0, -MOST_STORED)) saved?.delete(oldest);
}

/**
 * Runs a task in the worker whenever its job changes; the last result stays until the new one comes.
 * @param job null runs nothing
 * @param saved results found before, by their job: they are not computed again
 * @returns `far` is the task's progress, where it reports it; `current` is whether `result` is of the present job and not of an older one
 */
export function useEngine<K extends TaskName>(
  task: K,
  job: Tasks[K]["job"] | null,
  saved?: Map<string, Tasks[K]["result"]>,
): {
  result: Tasks[K]["result"] | null;
  current: boolean;
  fault: string | null;
  /** places that the fault is about, mm */
  places: readonly (readonly [number, number])[];
  far: { share: number; doing: string } | null;
} {
  const [evaluation, setAnswer] = useState<{ result: Tasks[K]["result"]; question: string } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [places, setPlaces] = useState<readonly (readonly [number, number])[]>([]);
  const [far, setFar] = useState<{ share: number; doing: string } | null>(null);
  const client = useRef<EngineClient<K> | null>(null);
  useEffect(() => {
    const mine = new EngineClient(task);
    client.current = mine;
    return () => mine.close();
  }, [task]);
  const question = job === null ? null : JSON.stringify(job);
  const known = question === null ? undefined : saved?.get(question);
  useEffect(() => {
    if (question === null || saved?.has(question)) return;
    const started = performance.now();
    client.current
      ?.submit(JSON.parse(question) as Tasks[K]["job"], { onProgress: (share, doing) => setFar({ share, doing }) })
      .then((result) => {
        setFar(null);
        performance.measure(`engine-${task}`, { start: started });
        setFault(null);
        keep(saved, question, result);
        setAnswer({ result, question });
      })
      .catch((error: Error) => {
        if (error instanceof Superseded) return;
        setFault(error.message);
        setPlaces(error instanceof WorkerFault ? (error.places ?? []) : []);
      });
  }, [task, question, saved]);
  if (known !== undefined) return { result: known, current: true, fault: null, places: [], far: null };
  return { result: evaluation?.result ?? null, current: evaluation !== null && evaluation.question === question, fault, places, far };
}
