import { useEffect, useMemo, useRef, useState } from "react";
import type { Lessons } from "@/core/calibration/learn";
import { teachingCuts } from "@/core/calibration/measured";
import type { Design } from "@/core/cutters/design/schema";
import type { LogEntry } from "@/core/log/entries";
import { EngineClient } from "@/workers/clients";
import { Superseded } from "@/workers/kit/client";

/** What a cutter's logged cuts teach, fitted in a worker when asked. Lessons of other cuts, or of another foam, are dropped. */
export function useLessons(design: Design, entries: readonly LogEntry[]) {
  const cuts = useMemo(() => teachingCuts(design, entries), [design, entries]);
  const [learnt, setLearnt] = useState<{ of: string; lessons: Lessons } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  /** How often a person has confirmed a reading, by its cut: at twice, it counts. */
  const [confirmed, setConfirmed] = useState<Readonly<Record<number, number>>>({});
  const engine = useRef<EngineClient<"learn"> | null>(null);
  useEffect(() => {
    const mine = new EngineClient("learn");
    engine.current = mine;
    return () => mine.close();
  }, []);
  const key = `${cuts.length} ${cuts[0]?.at ?? ""} ${design.job.foam.family} ${design.job.foam.density_kg_m3}`;
  const learn = (by: Readonly<Record<number, number>>) => {
    const trusted = Object.keys(by)
      .map(Number)
      .filter((cut) => by[cut] === 2);
    setBusy(true);
    setFault(null);
    engine.current
      ?.submit({ design, cuts, trusted })
      .then((lessons) => setLearnt({ of: key, lessons }))
      .catch((error: Error) => {
        if (!(error instanceof Superseded)) setFault(error.message);
      })
      .finally(() => setBusy(false));
  };
  return {
    cuts,
    lessons: learnt?.of === key ? learnt.lessons : null,
    fault,
    busy,
    learn: () => learn(confirmed),
    confirmed,
    confirm: (cut: number) => {
      const next = { ...confirmed, [cut]: (confirmed[cut] ?? 0) + 1 };
      setConfirmed(next);
      if (next[cut] === 2) learn(next);
    },
  };
}
