"use client";
import { useEffect, useState } from "react";
import { UnplugNote } from "./RunNotes";
import type { KeyId, RunKey } from "./runScreen";

/** So long a key does nothing where another was a moment ago, ms: what is pressed twice in a fright must not be taken for an answer. */
const THROTTLE_MS = 700;

/** Whether what is on show has been there long enough to be meant. */
export function useUnchanged(shown: string): boolean {
  const [settled, setSettled] = useState<string | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(shown), THROTTLE_MS);
    return () => clearTimeout(timer);
  }, [shown]);
  return settled === shown;
}

/** What may be pressed now, and Stop: fixed at the bottom of the screen, always at the same place, and never anything else. */
export function RunKeys({
  keys,
  question,
  unplug,
  onKey,
  onStop,
  canStop,
}: {
  keys: readonly RunKey[];
  /** what the keys answer; null where they answer nothing */
  question: string | null;
  /** the controller does not acknowledge that the heat is off */
  unplug: boolean;
  onKey: (id: KeyId) => void;
  onStop: () => void;
  canStop: boolean;
}) {
  const settled = useUnchanged(keys.map(({ id }) => id).join());
  return (
    <div className="run-keys">
      {unplug && <UnplugNote />}
      {question && <strong className="run-question">{question}</strong>}
      {keys.map(({ id, word, small, disabled, starts, atOnce }) => (
        <button
          key={id}
          type="button"
          className={starts ? "run-key run-start" : "run-key"}
          onClick={() => onKey(id)}
          disabled={disabled || !(settled || atOnce)}
        >
          {word}
          {small && <small>{small}</small>}
        </button>
      ))}
      <button type="button" className="run-key run-stop" onClick={onStop} data-idle={!canStop}>
        Stop
        <small>S</small>
      </button>
    </div>
  );
}
