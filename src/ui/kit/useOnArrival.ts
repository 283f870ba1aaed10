"use client";
import { useEffect } from "react";

/**
 * Asks for what a view needs when somebody comes to it, and calls the question off when they leave: the server need not finish, and no answer comes to a view that is gone.
 * @param ask memoised by the caller; asked again when it changes
 * @param say hears of a fault, never of a question that was called off
 */
export function useOnArrival(run: (signal: AbortSignal) => Promise<void>, say: (error: Error) => void): void {
  useEffect(() => {
    const leaving = new AbortController();
    run(leaving.signal).catch((error: Error) => {
      if (!leaving.signal.aborted) say(error);
    });
    return () => leaving.abort();
  }, [run, say]);
}
