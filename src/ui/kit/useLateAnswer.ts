import { startTransition, useEffect, useRef, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { LateAnswer } from "@/core/cutters/solve/late";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";

/** `of` is the design these figures are of: one that is no longer the open one while a hand is moving. */
export type Late = LateAnswer & { of: Design };

/** Fetched once the page stands: it must do also while the server is away. */
const inPage = () => import("@/core/cutters/solve/late");

/** The figures that take longer than a frame, from the worker; the last ones stand until the new ones come. @param first those of the design as it came with the page */
export function useLateAnswer(design: Design, first: LateAnswer): Late {
  const [late, setLate] = useState<Late>(() => ({ of: design, ...first }));
  const client = useRef<EngineClient<"late"> | null>(null);
  const shown = useRef(design);
  useEffect(() => {
    const mine = new EngineClient("late");
    client.current = mine;
    inPage().catch(() => undefined);
    return () => mine.close();
  }, []);
  useEffect(() => {
    if (shown.current === design) return;
    shown.current = design;
    const take = (figures: LateAnswer) => startTransition(() => setLate({ of: design, ...figures }));
    client.current?.ask(design).then(take, (error: Error) => {
      if (error instanceof Superseded) return;
      // Without its worker (the server is away before it was ever fetched) the page works them out itself, if it has what it takes; else the last ones stand, marked as another design's.
      inPage().then(
        ({ lateAnswerOf }) => take(lateAnswerOf(design)),
        () => undefined,
      );
    });
  }, [design]);
  return late;
}
