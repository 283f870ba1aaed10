import { useEffect, useMemo, useRef, useState } from "react";
import { type Schedule, shownAt } from "@/core/pace/pacer";
import type { PaceRow } from "@/core/pace/planPace";
import { type HandsAt, perfectHands, type Score, scoreOf } from "@/core/pace/practice";
import { PacerSound } from "../second/pacerSound";
import { noInputs, stepHands } from "./twoHands";

const LOOK_MS = 50;
const KEYS = { f: "root", j: "tip" } as const;
const START: HandsAt = { atS: 0, root: 0, tip: 0 };

/** A practice run of two hands: their places, what the pacer calls, and the score at its end. */
export function useTwoHands(job: Parameters<typeof scoreOf>[0], pair: Parameters<typeof scoreOf>[1], rows: readonly PaceRow[], schedule: Schedule) {
  const [hands, setHands] = useState<HandsAt | null>(null);
  const [score, setScore] = useState<{ mine: Score; perfect: Score } | null>(null);
  const samples = useRef<HandsAt[]>([]);
  const inputs = useRef(noInputs());
  const sound = useRef(new PacerSound());
  const going = hands !== null && score === null;
  useEffect(() => () => sound.current.close(), []);
  useEffect(() => {
    if (!going) return;
    let before = performance.now();
    const timer = setInterval(() => {
      const now = performance.now();
      const last = samples.current.at(-1) ?? START;
      const next = stepHands(last, inputs.current, rows, (now - before) / 1000);
      before = now;
      samples.current.push(next);
      for (const call of schedule.calls) if (call.atS > last.atS && call.atS <= next.atS) sound.current.beep(call.kind);
      setHands(next);
      if (next.root >= rows.length && next.tip >= rows.length)
        setScore({ mine: scoreOf(job, pair, samples.current), perfect: scoreOf(job, pair, perfectHands(rows)) });
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [going, job, pair, rows, schedule]);
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const hand = KEYS[event.key.toLowerCase() as keyof typeof KEYS];
      if (!hand || event.ctrlKey || event.metaKey || event.target instanceof HTMLInputElement) return;
      inputs.current.held[hand] = event.type === "keydown";
    };
    window.addEventListener("keydown", key);
    window.addEventListener("keyup", key);
    return () => {
      window.removeEventListener("keydown", key);
      window.removeEventListener("keyup", key);
    };
  }, []);
  const at = hands ?? START;
  const called = useMemo(() => shownAt(schedule, at.atS), [schedule, at.atS]);
  return {
    at,
    begun: hands !== null,
    going,
    score,
    called,
    begin: () => {
      sound.current.start();
      samples.current = [START];
      inputs.current.aims = { root: 0, tip: 0 };
      setScore(null);
      setHands(START);
    },
    /** a hand was dragged to a number */
    drag: (hand: "root" | "tip", number: number) => {
      inputs.current.aims[hand] = Math.max(inputs.current.aims[hand], number);
    },
  };
}
