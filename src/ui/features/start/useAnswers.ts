"use client";
import { useCallback, useSyncExternalStore } from "react";
import { type Answers, FIRST_ANSWERS } from "@/core/start/answers";

const KEY = "upwind-start";
const listeners = new Set<() => void>();
let held: { text: string | null; answers: Answers } = { text: null, answers: FIRST_ANSWERS };

/** What reads answers back comes after the page: until then the questions are as at first. */
let check: ((value: unknown) => Answers | null) | null = null;
let ready: Promise<void> | null = null;
const whenReady = (): Promise<void> => {
  ready ??= import("@/core/start/answersSchema").then(
    ({ answersSchema }) => {
      check = (value) => answersSchema.safeParse(value).data ?? null;
      for (const listener of listeners) listener();
    },
    (error: unknown) => {
      // Without the server it is asked for again when somebody answers.
      ready = null;
      throw error;
    },
  );
  return ready;
};

function read(): Answers {
  const text = sessionStorage.getItem(KEY);
  if (text !== held.text) {
    if (text !== null && check === null) return FIRST_ANSWERS;
    let parsed: unknown = null;
    try {
      parsed = JSON.parse(text ?? "null");
    } catch {
      // Not ours, or cut short by a full store: the questions begin afresh.
    }
    held = { text, answers: check?.(parsed) ?? FIRST_ANSWERS };
  }
  return held.answers;
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  // Not there yet is no fault of the page's: answers that are stored wait.
  void whenReady().catch(() => undefined);
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
  const change = useCallback(
    (part: Partial<Answers>) => {
      const put = () => {
        const answers = { ...read(), ...part };
        held = { text: JSON.stringify(answers), answers };
        write(held.text);
      };
      // An answer given before the stored ones could be read waits for them: it is put with them, never in their place.
      if (check === null && sessionStorage.getItem(KEY) !== held.text) void whenReady().then(put);
      else put();
    },
    [write],
  );
  const forget = useCallback(() => write(null), [write]);
  return { answers, change, forget };
}
