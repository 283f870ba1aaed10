"use client";
import { useCallback, useSyncExternalStore } from "react";
import { type Answers, answersSchema, FIRST_ANSWERS } from "@/core/start/answers";

const KEY = "upwind-start";
const listeners = new Set<() => void>();
let held: { text: string | null; answers: Answers } = { text: null, answers: FIRST_ANSWERS };

function read(): Answers {
  const text = sessionStorage.getItem(KEY);
  if (text !== held.text) {
    let parsed: unknown = null;
    try {
      parsed = JSON.parse(text ?? "null");
    } catch {
      // Not ours, or cut short by a full store: the questions begin afresh.
    }
    const checked = answersSchema.safeParse(parsed);
    held = { text, answers: checked.success ? checked.data : FIRST_ANSWERS };
  }
  return held.answers;
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** The foreman's questions as answered so far in this tab: Back, Next and a reload lose none of them. */
export function useAnswers(): { answers: Answers; change: (part: Partial<Answers>) => void; forget: () => void } {
  const answers = useSyncExternalStore(subscribe, read, () => FIRST_ANSWERS);
  const write = useCallback((text: string | null) => {
    if (text === null) sessionStorage.removeItem(KEY);
    else sessionStorage.setItem(KEY, text);
    for (const listener of listeners) listener();
  }, []);
  const change = useCallback((part: Partial<Answers>) => write(JSON.stringify({ ...read(), ...part })), [write]);
  const forget = useCallback(() => write(null), [write]);
  return { answers, change, forget };
}
