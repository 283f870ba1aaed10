import { useMemo, useRef, useState } from "react";
import { press, RESET, type Stopwatch, stop } from "@/core/log/stopwatch";
import { useQueryParameter } from "../../kit/address";
import { useSecond } from "../second/useSecond";
import type { StopwatchAction } from "./BigStopwatch";

/** The stopwatch of a test cut. On a second screen it is one for both, its times in this page's steady clock (ms). */
export function useCutWatch() {
  const [ownWatch, setWatch] = useState<Stopwatch>(RESET);
  const [ticket, setTicket] = useQueryParameter("second");
  const second = useSecond(ticket || null);
  const together = ticket !== "" && !second.over;
  const shared = second.view?.stopwatch;
  const steadyMs = useRef(Date.now() - performance.now());
  const offset = second.offsetMs === null ? null : second.offsetMs + steadyMs.current;
  const farWatch = useMemo(
    (): Stopwatch | null =>
      shared && offset !== null
        ? {
            startedMs: shared.startedMs === null ? null : shared.startedMs - offset,
            lapsMs: shared.lapsMs.map((each) => each - offset),
            stoppedMs: shared.stoppedMs === null ? null : shared.stoppedMs - offset,
          }
        : null,
    [shared, offset],
  );
  return {
    watch: together && farWatch ? farWatch : ownWatch,
    takeTime: (action: StopwatchAction) => {
      if (together) void second.act({ do: action });
      else {
        const now = performance.now();
        setWatch(action === "press" ? press(ownWatch, now) : action === "stop" ? stop(ownWatch, now) : RESET);
      }
    },
    ticket: together ? ticket : null,
    setTicket: (next: string | null) => setTicket(next ?? "", "replace"),
  };
}
