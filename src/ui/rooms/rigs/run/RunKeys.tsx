"use client";
import { useEffect, useState } from "react";

/** One of the large keys of a run. */
export interface RunKey {
  word: string;
  small?: string;
  act: () => void;
  disabled?: boolean;
  /** begins to move and to heat: edged in ember */
  starts?: boolean;
  /** acts at once, whatever stood there before: it only ever makes cold */
  atOnce?: boolean;
}

/** So long a key does nothing where another stood a moment ago, ms: what is pressed twice in a fright must not be taken for an answer. */
const CALM_MS = 700;

/** Whether what is on show has been there long enough to be meant. */
export function useStood(shown: string): boolean {
  const [calm, setCalm] = useState<string | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setCalm(shown), CALM_MS);
    return () => clearTimeout(timer);
  }, [shown]);
  return calm === shown;
}

/** What may be pressed now, and Stop: always there, always at the same place, and never anything else. */
export function RunKeys({ keys, stop }: { keys: readonly RunKey[]; stop: (() => void) | null }) {
  const calm = useStood(keys.map(({ word }) => word).join());
  return (
    <div className="run-keys">
      {keys.map(({ word, small, act, disabled, starts, atOnce }) => (
        <button key={word} type="button" className={starts ? "run-key run-start" : "run-key"} onClick={act} disabled={disabled || !(calm || atOnce)}>
          {word}
          {small && <small>{small}</small>}
        </button>
      ))}
      <button type="button" className="run-key run-stop" onClick={stop ?? undefined} disabled={!stop}>
        Stop
        <small>S</small>
      </button>
    </div>
  );
}
