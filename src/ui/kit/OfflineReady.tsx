"use client";
import { useEffect } from "react";

/** Makes the browser ready for when the workshop's computer does not answer, where it can: on this computer itself, or by TLS. */
export function OfflineReady() {
  useEffect(() => {
    if (process.env.NODE_ENV !== "production" || !("serviceWorker" in navigator)) return;
    navigator.serviceWorker.register("/sw.js").catch((error: Error) => {
      // The app works without it; anyone who looks into the browser's own output finds why.
      console.warn(`The offline page is not ready: ${error.message}`);
    });
  }, []);
  return null;
}
