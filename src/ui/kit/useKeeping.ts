import { useEffect } from "react";

/** What of a document's store keeps it. */
interface Keeper {
  recoverDraft: () => void;
  flush: (keepalive?: boolean) => Promise<void>;
  refresh: () => Promise<void>;
}

/** Keeps a store's promises to the browser: save before leaving, look again on coming back, take up a lost draft. */
export function useKeeping(store: Keeper): void {
  useEffect(() => {
    store.recoverDraft();
    const onHide = () => {
      if (document.visibilityState === "hidden") void store.flush(true);
      else void store.refresh();
    };
    const onLeave = () => void store.flush(true);
    document.addEventListener("visibilitychange", onHide);
    window.addEventListener("pagehide", onLeave);
    window.addEventListener("focus", store.refresh);
    return () => {
      document.removeEventListener("visibilitychange", onHide);
      window.removeEventListener("pagehide", onLeave);
      window.removeEventListener("focus", store.refresh);
      void store.flush(true);
    };
  }, [store]);
}
