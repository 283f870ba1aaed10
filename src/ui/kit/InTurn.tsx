"use client";
import { type ReactNode, useLayoutEffect, useMemo, useState } from "react";

/**
 * What does not move next to a hand that moves is drawn one piece a frame, so that no frame has it all: each piece so many frames after the value came. Any other change is drawn at once.
 * @param moving whether a hand is at it, asked as a value comes
 * @param children draws the value; what else it uses must not change
 */
export function InTurn<T>({ value, frames, moving, children }: { value: T; frames: number; moving: () => boolean; children: (value: T) => ReactNode }) {
  const [shown, setShown] = useState(value);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is shown already, and for how many frames it waits, is no reason to ask again
  useLayoutEffect(() => {
    if (shown === value) return;
    if (!moving()) {
      setShown(value);
      return;
    }
    let left = frames;
    const tick = () => {
      left -= 1;
      if (left > 0) id = requestAnimationFrame(tick);
      else setShown(value);
    };
    let id = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(id);
  }, [value]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what it draws hangs on the value alone
  return useMemo(() => children(shown), [shown]);
}
