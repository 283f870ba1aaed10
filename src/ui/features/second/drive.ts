import { useCallback, useEffect, useMemo, useState } from "react";
import { beginRun, pass, pause, resume, revived } from "@/core/pace/pacer";
import type { ScreenEnd } from "@/core/pace/twoEnds";
import type { PacerRun } from "@/core/pace/twoEndsSchema";
import type { Second } from "./useSecond";

/** What leads the hands, whichever screen they are before; times in this page's own clock. */
export interface PacerDrive {
  run: PacerRun | null;
  begin: (by: PacerRun["by"]) => void;
  pause: () => void;
  resume: () => void;
  /** a number was passed at this end */
  mark: () => void;
  again: () => void;
}

/** A run of this page alone, kept where a reload finds it. */
export function useLocalDrive(key: string): PacerDrive & { seen: (nowMs: number) => void; forget: () => void } {
  const [run, setRun] = useState<PacerRun | null>(null);
  useEffect(() => {
    const saved = sessionStorage.getItem(key);
    if (saved) setRun(revived(JSON.parse(saved) as PacerRun));
  }, [key]);
  const set = useCallback(
    (next: PacerRun | null) => {
      setRun(next);
      if (next) sessionStorage.setItem(key, JSON.stringify(next));
      else sessionStorage.removeItem(key);
    },
    [key],
  );
  return useMemo(
    () => ({
      run,
      begin: (by) => set(beginRun(by, Date.now())),
      pause: () => run && set(pause(run, Date.now())),
      resume: () => run && set(resume(run, Date.now())),
      mark: () => run?.by === "hand" && set(pass(run, Date.now())),
      again: () => set(null),
      seen: (nowMs) => run && sessionStorage.setItem(key, JSON.stringify({ ...run, seenMs: nowMs })),
      forget: () => sessionStorage.removeItem(key),
    }),
    [run, set, key],
  );
}

/** How often each end says that it is there, ms. */
const HERE_MS = 4000;

/** A run on two screens, led by the server's clock. @param leads of the two ends, the one whose presses count where a hand leads */
export function useSharedDrive(second: Second, end: ScreenEnd, leads: boolean): PacerDrive {
  const { view, offsetMs, act, over } = second;
  const shared = view?.pacer?.run ?? null;
  const here = view !== null && !over;
  useEffect(() => {
    if (!here) return;
    const say = () => void act({ do: "here", end });
    say();
    const timer = setInterval(say, HERE_MS);
    return () => clearInterval(timer);
  }, [here, end, act]);
  const run = useMemo(
    (): PacerRun | null =>
      // Until the server's clock is known nothing is called: it would be called wrong.
      shared && offsetMs !== null
        ? {
            ...shared,
            startedMs: shared.startedMs - offsetMs,
            pausedMs: shared.pausedMs === null ? null : shared.pausedMs - offsetMs,
            seenMs: shared.seenMs - offsetMs,
          }
        : null,
    [shared, offsetMs],
  );
  return useMemo(
    () => ({
      run,
      begin: (by) => void act({ do: "begin", by }),
      pause: () => void act({ do: "pause" }),
      resume: () => void act({ do: "resume" }),
      mark: () => void act({ do: "mark", end, leads }),
      again: () => void act({ do: "again" }),
    }),
    [run, act, end, leads],
  );
}

/** Not heard of for so long an end is away, ms. */
const AWAY_MS = 10_000;

/** Whether the other end is there. */
export function endHere({ view }: Second, end: ScreenEnd): boolean {
  const at = view?.pacer?.here[end] ?? null;
  return view !== null && at !== null && view.nowMs - at < AWAY_MS;
}
