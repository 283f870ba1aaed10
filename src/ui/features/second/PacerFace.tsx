"use client";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { COUNT_IN_S, elapsedS, type Run, type Schedule, shownAt } from "@/core/pace/pacer";
import { isDone, rowAt, type ScreenEnd } from "@/core/pace/twoEnds";
import { HOTKEYS } from "../../kit/hotkeys";
import { useAwake } from "../../kit/useAwake";
import { useUnits } from "../../kit/useUnits";
import type { Drive } from "./drive";
import { localVoice, PacerSound, type Sounded, speak } from "./pacerSound";

/** What the hands see of a run at a moment: one number, one bar. */
function shownOf(schedule: Schedule, run: Run | null, atS: number) {
  if (run?.by !== "hand") return shownAt(schedule, Math.max(0, atS));
  // Led by hand, the next number is the first that has not been passed.
  const row = rowAt(schedule, run, atS);
  const passed = run.passedS.length;
  const since = atS - (passed === 0 ? 0 : (run.passedS[passed - 1] as number));
  const wants = (schedule.rows[row]?.seconds ?? 1) + (passed > 0 ? (schedule.rows[passed - 1]?.waitS ?? 0) : 0);
  return {
    row,
    number: schedule.rows[row]?.to ?? "",
    next: schedule.rows[row + 1]?.to ?? null,
    share: Math.min(1, Math.max(0, since / wants)),
    waitLeftS: null,
    leftS: Math.max(0, schedule.totalS - (schedule.startsS[row] ?? 0) - Math.max(0, since)),
    done: isDone(schedule, run, atS),
  };
}

/** The words next to the number. */
export interface PacerNow {
  atS: number;
  done: boolean;
  /** how long it has been stopped, s */
  stoppedS: number;
  row: number;
}

/** Calls a face out: one number, one bar, one colour and sound, for arm's length and gloves. */
export function PacerFace({
  title,
  label,
  schedule,
  parts,
  drive,
  end,
  onEnd,
  back,
  marks = false,
  leads = true,
  onTick,
  head,
  body,
  children,
}: {
  title: string;
  label: string;
  schedule: Schedule;
  parts: number;
  drive: Drive;
  end: ScreenEnd;
  onEnd: (end: ScreenEnd) => void;
  back?: () => void;
  /** whether this end says by a key of its own when it is at its number */
  marks?: boolean;
  /** whether a hand at this end leads, where one does */
  leads?: boolean;
  onTick?: (nowMs: number) => void;
  head?: ReactNode;
  body?: (now: PacerNow) => ReactNode;
  children?: (now: PacerNow) => ReactNode;
}) {
  const { show } = useUnits();
  const [hand, setHand] = useState(false);
  const [spoken, setSpoken] = useState(false);
  const [now, setNow] = useState(() => Date.now());
  const sound = useRef(new PacerSound());
  const said = useRef(-COUNT_IN_S - 1);
  const { run } = drive;
  const tip = end === "tip";
  const atS = run ? elapsedS(run, now) : -COUNT_IN_S;
  const byHand = run?.by === "hand";
  const shown = shownOf(schedule, run, atS);
  const going = run !== null && run.pausedMs === null && !shown.done;
  useAwake(run !== null && !shown.done);

  useEffect(() => () => sound.current.close(), []);
  useEffect(() => {
    if (!going && run?.pausedMs === null && shown.done) return;
    let frame = 0;
    const look = () => {
      setNow(Date.now());
      frame = requestAnimationFrame(look);
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [going, run?.pausedMs, shown.done]);

  // Everything that has come due since it was last looked at, once each; what came due long ago is not called any more.
  useEffect(() => {
    if (!run) {
      said.current = -COUNT_IN_S - 1;
      return;
    }
    if (run.pausedMs !== null) return;
    const from = said.current;
    said.current = atS;
    if (atS < from) return;
    const beep = (what: Sounded) => sound.current.beep(what);
    for (let s = 1 - COUNT_IN_S; s <= 0; s++) if (s > from && s <= atS && atS - s < 0.5) beep(s === 0 ? "go" : "count");
    if (!byHand) {
      const voice = spoken ? localVoice() : null;
      for (const call of schedule.calls) {
        if (call.atS <= from || call.atS > atS || atS - call.atS > 0.5) continue;
        beep(call.kind);
        if (voice && (call.kind === "station" || call.kind === "corner" || call.kind === "end" || call.kind === "wait"))
          speak(call.kind === "wait" ? "wait" : call.label, voice);
      }
    }
    onTick?.(now);
  }, [atS, run, byHand, schedule, spoken, onTick, now]);

  const begin = () => {
    sound.current.start();
    drive.begin(hand ? "hand" : "pacer");
  };
  const toggle = () => {
    if (!run) begin();
    else if (shown.done) return;
    else {
      sound.current.start();
      if (run.pausedMs === null) drive.pause();
      else drive.resume();
      setNow(Date.now());
    }
  };
  const mark = () => {
    sound.current.start();
    if (!run || run.pausedMs !== null || shown.done) return;
    sound.current.beep("station");
    drive.mark();
  };
  const step = () => {
    if (!run) begin();
    else if (byHand && run.pausedMs === null && !shown.done) mark();
    else toggle();
  };
  useHotkeys("space, enter, pagedown", step, HOTKEYS);
  useHotkeys("p", toggle, HOTKEYS);
  useHotkeys("m", mark, HOTKEYS);
  useHotkeys("escape", () => back?.(), HOTKEYS);

  const stoppedS = run && run.pausedMs !== null ? (now - run.pausedMs) / 1000 : 0;
  const here = schedule.rows[shown.row];
  const big = !run ? "ready" : atS < 0 ? String(Math.ceil(-atS)) : shown.done ? "done" : shown.waitLeftS !== null ? shown.waitLeftS.toFixed(1) : shown.number;
  const view: PacerNow = { atS, done: run !== null && shown.done, stoppedS, row: shown.row };
  return (
    <section
      className="pacer"
      aria-label={label}
      data-state={!run ? "ready" : run.pausedMs !== null ? "paused" : shown.done ? "done" : atS < 0 ? "counting" : "running"}
      data-at={atS.toFixed(3)}
      data-started={run?.startedMs.toFixed(1)}
    >
      <header>
        {back && (
          <button type="button" onClick={back}>
            Back
          </button>
        )}
        <span>{title}</span>
        <button type="button" aria-pressed={!tip} onClick={() => onEnd("root")}>
          root, left
        </button>
        <button type="button" aria-pressed={tip} onClick={() => onEnd("tip")}>
          tip, right
        </button>
        {head}
      </header>
      <button type="button" className="pacer-face" onClick={step} title={run ? (byHand ? "number passed" : "pause or go on") : "start"}>
        <span className="pacer-word">
          {!run ? "" : atS < 0 ? "get ready for" : shown.done ? "" : shown.waitLeftS !== null ? `wait at ${shown.number}` : "to"}
        </span>
        <span className="pacer-number num" data-testid="pacer-number" data-long={String(big).length > 3 || undefined}>
          {big}
        </span>
        <span className="pacer-next num">{shown.done ? "" : !run ? `then ${shown.number}` : shown.next ? `then ${shown.next}` : "the last"}</span>
      </button>
      {body?.(view)}
      <div
        className="pacer-bar"
        role="progressbar"
        aria-valuemin={0}
        aria-valuemax={1}
        aria-valuenow={Number(shown.share.toFixed(2))}
        aria-label="of the way to this number"
      >
        <span style={{ transform: `scaleX(${atS < 0 ? 0 : shown.share})` }} />
        {Array.from({ length: parts - 1 }, (_, k) => (k + 1) / parts).map((share) => (
          <i key={share} style={{ left: `${100 * share}%` }} />
        ))}
      </div>
      <footer>
        <span className="num">
          {here ? show("feed", tip ? here.tipFeedMmS : here.rootFeedMmS) : ""}
          {run && !shown.done ? `, ${shown.leftS.toFixed(0)} s left` : ""}
        </span>
        {!run && (
          <>
            <button type="button" aria-pressed={!hand} onClick={() => setHand(false)}>
              the pacer leads
            </button>
            {leads && (
              <button type="button" aria-pressed={hand} onClick={() => setHand(true)}>
                I lead, space at each number
              </button>
            )}
            <button type="button" aria-pressed={spoken} onClick={() => setSpoken(!spoken)}>
              spoken numbers {spoken ? (localVoice() ? "on" : "on: no voice on this machine") : "off"}
            </button>
          </>
        )}
        {run && !shown.done && (
          <button type="button" onClick={toggle}>
            {run.pausedMs === null ? "Pause" : "Go on"}
          </button>
        )}
        {marks && run && !byHand && !shown.done && run.pausedMs === null && (
          <button type="button" onClick={mark}>
            I am at it <small>M</small>
          </button>
        )}
        {run && (shown.done || run.pausedMs !== null) && (
          <button type="button" onClick={drive.again}>
            From the start
          </button>
        )}
        {children?.(view)}
      </footer>
    </section>
  );
}
