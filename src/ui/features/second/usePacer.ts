import { useEffect, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { COUNT_IN_S, elapsedS, type Schedule } from "@/core/pace/pacer";
import { HOTKEYS } from "../../kit/hotkeys";
import { useAwake } from "../../kit/useAwake";
import type { PacerDrive } from "./drive";
import { localVoice, PacerSound, speak } from "./pacerSound";
import { dueCalls, shownOf } from "./pacerView";

/**
 * A run on the screen: its clock, its calls, and what keys and presses do.
 * @param spoken whether numbers are spoken, where this machine has a voice
 * @param hand whether a run that begins is led by hand
 * @param onTick called with the time (ms) at every look while it runs
 */
export function usePacer({
  schedule,
  drive,
  spoken,
  hand,
  back,
  onTick,
}: {
  schedule: Schedule;
  drive: PacerDrive;
  spoken: boolean;
  hand: boolean;
  back?: (() => void) | undefined;
  onTick?: ((nowMs: number) => void) | undefined;
}) {
  const [now, setNow] = useState(() => Date.now());
  const sound = useRef(new PacerSound());
  const calledS = useRef(-COUNT_IN_S - 1);
  const { run } = drive;
  const atS = run ? elapsedS(run, now) : -COUNT_IN_S;
  const byHand = run?.by === "hand";
  const shown = shownOf(schedule, run, atS);
  const paused = run !== null && run.pausedMs !== null;
  const finished = run !== null && !paused && shown.done;
  useAwake(run !== null && !shown.done);

  useEffect(() => () => sound.current.close(), []);
  useEffect(() => {
    if (finished) return;
    let frame = 0;
    const look = () => {
      setNow(Date.now());
      frame = requestAnimationFrame(look);
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [finished]);

  useEffect(() => {
    if (!run) {
      calledS.current = -COUNT_IN_S - 1;
      return;
    }
    if (run.pausedMs !== null) return;
    const from = calledS.current;
    calledS.current = atS;
    if (atS < from) return;
    const voice = spoken ? localVoice() : null;
    for (const call of dueCalls(schedule, from, atS, byHand)) {
      sound.current.beep(call.sound);
      if (voice && call.words !== null) speak(call.words, voice);
    }
    onTick?.(now);
  }, [atS, run, byHand, schedule, spoken, onTick, now]);

  const begin = () => {
    sound.current.start();
    drive.begin(hand ? "hand" : "pacer");
  };
  const toggle = () => {
    if (!run) begin();
    else if (!shown.done) {
      sound.current.start();
      if (paused) drive.resume();
      else drive.pause();
      setNow(Date.now());
    }
  };
  const mark = () => {
    sound.current.start();
    if (!run || paused || shown.done) return;
    sound.current.beep("station");
    drive.mark();
  };
  const step = () => {
    if (!run) begin();
    else if (byHand && !paused && !shown.done) mark();
    else toggle();
  };
  useHotkeys("space, enter, pagedown", step, HOTKEYS);
  useHotkeys("p", toggle, HOTKEYS);
  useHotkeys("m", mark, HOTKEYS);
  useHotkeys("escape", () => back?.(), HOTKEYS);
  return { run, atS, byHand, shown, stoppedS: run && run.pausedMs !== null ? (now - run.pausedMs) / 1000 : 0, toggle, mark, step };
}
