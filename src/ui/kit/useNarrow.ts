import { useCallback, useSyncExternalStore } from "react";

/** Whether the window is at most so wide, CSS pixels; false where the page is drawn before it is seen. */
export function useNarrow(widthPx: number): boolean {
  const query = `(max-width: ${widthPx}px)`;
  const subscribe = useCallback(
    (notify: () => void) => {
      const media = window.matchMedia(query);
      media.addEventListener("change", notify);
      return () => media.removeEventListener("change", notify);
    },
    [query],
  );
  return useSyncExternalStore(
    subscribe,
    () => window.matchMedia(query).matches,
    () => false,
  );
}
