"use client";
import { useEffect } from "react";

/**
 * Requests what a view needs when it opens, and aborts the request when it closes: the server need not finish, and no response comes to a view that is gone.
 * @param run memoised by the caller; run again when it changes
 * @param say receives an error, never that of an aborted request
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
