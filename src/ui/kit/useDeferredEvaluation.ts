import { startTransition, useEffect, useRef, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { DeferredEvaluation } from "@/core/cutters/solve/deferredEvaluation";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";

/** `of` is the design these figures are of: one that is no longer the open one while a hand is moving. */
export type DeferredOf = DeferredEvaluation & { of: Design };

/** Fetched once the page has loaded: it must do also while the server is away. */
const inPage = () => import("@/core/cutters/solve/deferredEvaluation");

/** The figures that take longer than a frame, from the worker; the last ones stay until the new ones come. @param first those of the design as it came with the page */
export function useDeferredEvaluation(design: Design, first: DeferredEvaluation): DeferredOf {
  const [deferred, setDeferred] = useState<DeferredOf>(() => ({ of: design, ...first }));
  const client = useRef<EngineClient<"deferred"> | null>(null);
  const shown = useRef(design);
  useEffect(() => {
    const mine = new EngineClient("deferred");
    client.current = mine;
    inPage().catch(() => undefined);
    return () => mine.close();
  }, []);
  useEffect(() => {
    if (shown.current === design) return;
    shown.current = design;
    const take = (figures: DeferredEvaluation) => startTransition(() => setDeferred({ of: design, ...figures }));
    client.current?.submit(design).then(take, (error: Error) => {
      if (error instanceof Superseded) return;
      // Without its worker (the server is away before it was ever fetched) the page works them out itself, if it has what it takes; else the last ones stay, marked as another design's.
      inPage().then(
        ({ deferredEvaluationOf }) => take(deferredEvaluationOf(design)),
        () => undefined,
      );
    });
  }, [design]);
  return deferred;
}
