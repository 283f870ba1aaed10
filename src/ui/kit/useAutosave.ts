import { useEffect } from "react";
import { watchChanges } from "./changes";

/** What of a document's store keeps it. */
interface Administrator {
  recoverDraft: () => void;
  flush: (keepalive?: boolean) => Promise<void>;
  refresh: () => Promise<void>;
  onRemoteChange: (id: string, revision: number | null | undefined) => Promise<void>;
  kind: string;
}

/** Keeps a store's promises to the browser: save before leaving, look again on coming back and when others save, take up a lost draft. */
export function useAutosave(store: Administrator): void {
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
    // What others save is joined in as it comes, and meets what is being changed here as two tabs meet.
    const deaf = watchChanges(({ table, id, revision }) => {
      if (table === store.kind && id !== undefined) void store.onRemoteChange(id, revision);
      if (table === undefined) void store.refresh();
    });
    return () => {
      deaf();
      document.removeEventListener("visibilitychange", onHide);
      window.removeEventListener("pagehide", onLeave);
      window.removeEventListener("focus", store.refresh);
      void store.flush(true);
    };
  }, [store]);
}
