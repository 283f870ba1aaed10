import { useEffect } from "react";

/** Keeps the screen awake while a run goes on, where the browser can. */
export function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const take = () =>
      void navigator.wakeLock.request("screen").then(
        (got) => {
          if (gone) void got.release();
          else lock = got;
        },
        // A browser may say no, on low battery: what it was for goes on without.
        () => undefined,
      );
    // A page that was hidden has lost it.
    const again = () => document.visibilityState === "visible" && take();
    take();
    document.addEventListener("visibilitychange", again);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", again);
      void lock?.release();
    };
  }, [on]);
}
