"use client";
import { type ReactNode, useState } from "react";
import type { Schedule } from "@/core/pace/pacer";
import type { ScreenEnd } from "@/core/pace/twoEnds";
import { useUnits } from "../../kit/useUnits";
import type { PacerDrive } from "./drive";
import { localVoice } from "./pacerSound";
import { faceWords, pacerState } from "./pacerView";
import { usePacer } from "./usePacer";

/** How much of the way to a number is done, with a mark at each part. */
function PacerBar({ share, parts }: { share: number; parts: number }) {
  return (
    <div
      className="pacer-bar"
      role="progressbar"
      aria-valuemin={0}
      aria-valuemax={1}
      aria-valuenow={Number(share.toFixed(2))}
      aria-label="of the way to this number"
    >
      <span style={{ transform: `scaleX(${share})` }} />
      {Array.from({ length: parts - 1 }, (_, k) => (k + 1) / parts).map((part) => (
        <i key={part} style={{ left: `${100 * part}%` }} />
      ))}
    </div>
  );
}

/** Before the start: who leads, and whether numbers are spoken. */
function StartKeys({
  leads,
  hand,
  onHand,
  spoken,
  onSpoken,
}: {
  leads: boolean;
  hand: boolean;
  onHand: (hand: boolean) => void;
  spoken: boolean;
  onSpoken: (spoken: boolean) => void;
}) {
  return (
    <>
      <button type="button" aria-pressed={!hand} onClick={() => onHand(false)}>
        the pacer leads
      </button>
      {leads && (
        <button type="button" aria-pressed={hand} onClick={() => onHand(true)}>
          I lead, space at each number
        </button>
      )}
      <button type="button" aria-pressed={spoken} onClick={() => onSpoken(!spoken)}>
        spoken numbers {spoken ? (localVoice() ? "on" : "on: no voice on this machine") : "off"}
      </button>
    </>
  );
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
  drive: PacerDrive;
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
  const { run, atS, byHand, shown, stoppedS, toggle, mark, step } = usePacer({ schedule, drive, spoken, hand, back, onTick });
  const tip = end === "tip";
  const here = schedule.rows[shown.row];
  const { word, big, next } = faceWords(run, atS, shown);
  const view: PacerNow = { atS, done: run !== null && shown.done, stoppedS, row: shown.row };
  return (
    <section
      className="pacer"
      aria-label={label}
      data-state={pacerState(run, atS, shown.done)}
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
        <span className="pacer-word">{word}</span>
        <span className="pacer-number num" data-testid="pacer-number" data-long={big.length > 3 || undefined}>
          {big}
        </span>
        <span className="pacer-next num">{next}</span>
      </button>
      {body?.(view)}
      <PacerBar share={atS < 0 ? 0 : shown.share} parts={parts} />
      <footer>
        <span className="num">
          {here ? show("feed", tip ? here.tipFeedMmS : here.rootFeedMmS) : ""}
          {run && !shown.done ? `, ${shown.leftS.toFixed(0)} s left` : ""}
        </span>
        {!run && <StartKeys leads={leads} hand={hand} onHand={setHand} spoken={spoken} onSpoken={setSpoken} />}
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
