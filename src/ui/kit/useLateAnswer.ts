import { startTransition, useEffect, useRef, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DesignAnswer } from "@/core/cutters/solve/evaluate";
import { type LateAnswer, lateAnswerOf } from "@/core/cutters/solve/late";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";

/** `of` is the design these figures are of: one that is no longer the open one while a hand is moving. */
export type Late = LateAnswer & { of: Design };

/** The figures that take longer than a frame, from the worker; the last ones stand until the new ones come. The first come with the page. */
export function useLateAnswer(design: Design, answer: DesignAnswer): Late {
  const [late, setLate] = useState<Late>(() => ({ of: design, ...lateAnswerOf(design, answer) }));
  const client = useRef<EngineClient<"late"> | null>(null);
  const shown = useRef(design);
  useEffect(() => {
    const mine = new EngineClient("late");
    client.current = mine;
    return () => mine.close();
  }, []);
  useEffect(() => {
    if (shown.current === design) return;
    shown.current = design;
    const take = (figures: LateAnswer) => startTransition(() => setLate({ of: design, ...figures }));
    client.current?.ask(design).then(take, (error: Error) => {
      // Without its worker (the server is away before it was ever fetched) the page works them out itself.
      if (!(error instanceof Superseded)) take(lateAnswerOf(design));
    });
  }, [design]);
  return late;
}
