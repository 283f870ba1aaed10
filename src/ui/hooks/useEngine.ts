import { useEffect, useRef, useState } from "react";
import { EngineClient, Superseded } from "@/workers/client";
import type { TaskName, Tasks } from "@/workers/protocol";

/**
 * Asks the worker whenever the question changes, and keeps the last answer until the new one stands.
 * @param job the question; null asks nothing
 * @param early starts the worker at once, where a question is sure to come
 */
export function useEngine<K extends TaskName>(
  task: K,
  job: Tasks[K]["job"] | null,
  early = false,
): { result: Tasks[K]["result"] | null; fault: string | null } {
  const [result, setResult] = useState<Tasks[K]["result"] | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const client = useRef<EngineClient<K> | null>(null);
  useEffect(() => {
    const mine = new EngineClient(task);
    client.current = mine;
    if (early) mine.warm();
    return () => mine.close();
  }, [task, early]);
  const question = job === null ? null : JSON.stringify(job);
  useEffect(() => {
    if (question === null) return;
    const started = performance.now();
    client.current
      ?.ask(JSON.parse(question) as Tasks[K]["job"])
      .then((answer) => {
        performance.measure(`engine-${task}`, { start: started });
        setFault(null);
        setResult(answer);
      })
      .catch((error: Error) => {
        if (!(error instanceof Superseded)) setFault(error.message);
      });
  }, [task, question]);
  return { result, fault };
}
