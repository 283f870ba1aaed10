import { useEffect } from "react";
import { takeFromHandover } from "../../kit/handover";
import type { DeskStore } from "./deskStore";

/** Keeps the store's promises to the browser: save before leaving, look again on coming back, take up a lost draft. */
export function useKeeping(store: DeskStore): void {
  useEffect(() => {
    store.recoverDraft();
    const { id } = store.getState();
    const handed = id ? takeFromHandover(id) : null;
    if (handed) {
      store.change(handed.design);
      store.setState({ notice: `${handed.words} Undo brings back what stood here.` });
    }
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
