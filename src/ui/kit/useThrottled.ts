import { startTransition, useLayoutEffect, useRef, useState } from "react";

/** How often what is read, and not followed with the eye, changes while a hand moves. */
const EVERY_MS = 150;

/** The value, changing no oftener than seven times a second: a single change comes at once, a drag's come in steps and its last one always. */
export function useThrottled<T>(value: T): T {
  const [throttled, setThrottled] = useState(value);
  const lastAt = useRef(Number.NEGATIVE_INFINITY);
  useLayoutEffect(() => {
    if (throttled === value) return;
    const take = () => {
      lastAt.current = performance.now();
      setThrottled(value);
    };
    const wait = lastAt.current + EVERY_MS - performance.now();
    if (wait <= 0) {
      take();
      return;
    }
    // In slices, so that the next frame of the drag need not wait for it.
    const timer = setTimeout(() => startTransition(take), wait);
    return () => clearTimeout(timer);
  }, [value, throttled]);
  return throttled;
}
