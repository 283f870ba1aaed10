"use client";
import Button from "@mui/material/Button";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import {
  beginRun,
  COUNT_IN_S,
  elapsedS,
  LONGEST_STOP_S,
  pass,
  pause,
  type Run,
  realTimes,
  resume,
  revived,
  type Schedule,
  scheduleOf,
  shownAt,
} from "@/core/pace/pacer";
import type { PaceRow } from "@/core/pace/planPace";
import { waitReach } from "@/core/physics/string/reach";
import type { PlanAnswer } from "@/core/plans/evaluate";
import type { Face } from "@/core/plans/guide";
import type { Plan } from "@/core/plans/plan";
import { useQuestion } from "../../kit/address";
import { HOTKEYS } from "../../kit/hotkeys";
import { useAwake } from "../../kit/useAwake";
import { useUnits } from "../../kit/useUnits";
import { FACE_NAMES } from "./PaceView";
import { localVoice, PacerSound, type Sounded, speak } from "./pacerSound";

/** Stops whose bite is reckoned beforehand, s; one in between goes evenly. */
const STOPS_S = [0, 0.5, 1, 2, 3, 5, 8, 12, 20, 30, LONGEST_STOP_S];
/** How often a run is put down where a reload finds it, ms. */
const PUT_DOWN_MS = 250;

const between = (xs: readonly number[], ys: readonly number[], x: number): number => {
  const i = Math.max(1, xs.findIndex((each) => each >= x) === -1 ? xs.length - 1 : xs.findIndex((each) => each >= x));
  const [a, b] = [xs[i - 1] as number, xs[i] as number];
  const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
  return (ys[i - 1] as number) * (1 - t) + (ys[i] as number) * t;
};

export interface DoneRun {
  face: Face;
  labels: string[];
  plannedS: number[];
  realS: number[];
  pausesS: number;
}

/** A run kept where a reload finds it. */
function useKeptRun(key: string): [Run | null, (next: Run | null) => void] {
  const [run, setRun] = useState<Run | null>(null);
  useEffect(() => {
    const kept = sessionStorage.getItem(key);
    if (kept) setRun(revived(JSON.parse(kept) as Run));
  }, [key]);
  const set = useCallback(
    (next: Run | null) => {
      setRun(next);
      if (next) sessionStorage.setItem(key, JSON.stringify(next));
      else sessionStorage.removeItem(key);
    },
    [key],
  );
  return [run, set];
}

/** Calls a face out: one number, one bar, one colour and sound, for arm's length and gloves. */
export function Pacer({
  plan,
  answer,
  face,
  rows,
  storeKey,
  onClose,
  onDone,
}: {
  plan: Plan;
  answer: PlanAnswer;
  face: Face;
  rows: readonly PaceRow[];
  /** names this plan, panel and face */
  storeKey: string;
  onClose: () => void;
  onDone: (run: DoneRun) => Promise<void>;
}) {
  const { show } = useUnits();
  const schedule = useMemo(() => scheduleOf(rows, plan.stations.parts), [rows, plan.stations.parts]);
  const [run, setRun] = useKeptRun(storeKey);
  const [end, setEnd] = useQuestion("view");
  const [hand, setHand] = useState(false);
  const [spoken, setSpoken] = useState(false);
  const [now, setNow] = useState(() => Date.now());
  const [saved, setSaved] = useState<"no" | "saving" | "yes" | string>("no");
  const sound = useRef(new PacerSound());
  const said = useRef(-COUNT_IN_S - 1);
  const kept = useRef(0);
  const tip = end === "tip";
  const atS = run ? elapsedS(run, now) : -COUNT_IN_S;
  const byHand = run?.by === "hand";
  const shown = byHand ? handShown(schedule, run, atS) : shownAt(schedule, Math.max(0, atS));
  const going = run !== null && run.pausedMs === null && !shown.done;
  useAwake(run !== null && !shown.done);

  // What a stop burns at this end's feed, reckoned once.
  const feed = tip ? answer.tip.feedMmS : answer.root.feedMmS;
  const bites = useMemo(() => {
    if (!answer.cutter) return null;
    const { pair, heatWPerM } = answer.cutter;
    return STOPS_S.map((s) => {
      const { radiusMm, halfKerfMm } = waitReach(pair, heatWPerM, feed, s);
      return Math.max(0, radiusMm - halfKerfMm);
    });
  }, [answer.cutter, feed]);

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
    if (!run || run.pausedMs !== null) return;
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
    if (now - kept.current > PUT_DOWN_MS) {
      kept.current = now;
      sessionStorage.setItem(storeKey, JSON.stringify({ ...run, seenMs: now }));
    }
  }, [atS, run, byHand, schedule, spoken, storeKey, now]);

  const begin = () => {
    sound.current.start();
    said.current = -COUNT_IN_S - 1;
    setSaved("no");
    setRun(beginRun(hand ? "hand" : "pacer", Date.now()));
  };
  const toggle = () => {
    if (!run) begin();
    else if (shown.done) return;
    else {
      sound.current.start();
      const at = Date.now();
      const next = run.pausedMs === null ? pause(run, at) : resume(run, at);
      said.current = elapsedS(next, at);
      setRun(next);
      setNow(at);
    }
  };
  const step = () => {
    if (!run) begin();
    else if (byHand && run.pausedMs === null && !shown.done) {
      sound.current.beep("station");
      setRun(pass(run, Date.now()));
    } else toggle();
  };
  const again = () => {
    setRun(null);
    setSaved("no");
  };
  const keep = async () => {
    if (!run) return;
    const { labels, plannedS, realS } = realTimes(schedule, run);
    setSaved("saving");
    try {
      await onDone({ face, labels, plannedS, realS, pausesS: run.pauses.reduce((sum, { longS }) => sum + longS, 0) });
      setSaved("yes");
      sessionStorage.removeItem(storeKey);
    } catch (error) {
      setSaved(`it could not be kept: ${(error as Error).message}`);
    }
  };
  useHotkeys("space, enter, pagedown", step, HOTKEYS);
  useHotkeys("p", toggle, HOTKEYS);
  useHotkeys("escape", onClose, HOTKEYS);

  const stoodS = run && run.pausedMs !== null ? (now - run.pausedMs) / 1000 : 0;
  const bite = bites && run?.pausedMs != null && atS > 0 ? between(STOPS_S, bites, Math.min(LONGEST_STOP_S, stoodS)) : null;
  const here = rows[shown.row];
  const big = !run ? "ready" : atS < 0 ? String(Math.ceil(-atS)) : shown.done ? "done" : shown.waitLeftS !== null ? shown.waitLeftS.toFixed(1) : shown.number;
  return (
    <section
      className="pacer"
      aria-label={`Pacer, ${FACE_NAMES[face]}`}
      data-state={!run ? "ready" : run.pausedMs !== null ? "paused" : shown.done ? "done" : atS < 0 ? "counting" : "running"}
      data-at={atS.toFixed(3)}
    >
      <header>
        <button type="button" onClick={onClose}>
          Back
        </button>
        <span>
          {plan.name}, {FACE_NAMES[face]}
        </span>
        <button type="button" aria-pressed={!tip} onClick={() => setEnd("")}>
          root, left
        </button>
        <button type="button" aria-pressed={tip} onClick={() => setEnd("tip")}>
          tip, right
        </button>
      </header>
      <button type="button" className="pacer-face" onClick={step} title={run ? (byHand ? "number passed" : "pause or go on") : "start"}>
        <span className="pacer-word">
          {!run ? "" : atS < 0 ? "get ready for" : shown.done ? "" : shown.waitLeftS !== null ? `wait at ${shown.number}` : "to"}
        </span>
        <span className="pacer-number num" data-testid="pacer-number">
          {big}
        </span>
        <span className="pacer-next num">{shown.done ? "" : shown.next ? `then ${shown.next}` : "the last"}</span>
      </button>
      <div
        className="pacer-bar"
        role="progressbar"
        aria-valuemin={0}
        aria-valuemax={1}
        aria-valuenow={Number(shown.share.toFixed(2))}
        aria-label="of the way to this number"
      >
        <span style={{ transform: `scaleX(${atS < 0 ? 0 : shown.share})` }} />
        {Array.from({ length: plan.stations.parts - 1 }, (_, k) => (k + 1) / plan.stations.parts).map((share) => (
          <i key={share} style={{ left: `${100 * share}%` }} />
        ))}
      </div>
      <footer>
        <span className="num">
          {here ? show("feed", tip ? here.tipFeedMmS : here.rootFeedMmS) : ""}
          {run && !shown.done ? `, ${shown.leftS.toFixed(0)} s left` : ""}
        </span>
        {run && run.pausedMs !== null && (
          <span role="status" data-testid="pacer-stop">
            stopped {stoodS.toFixed(0)} s
            {bite === null
              ? ""
              : `: a groove ${show("kerf", bite)} deep burns here. ${bite < plan.pace.tolerance_mm ? "It is within the tolerance: go on." : "Lift the wire out into the waste if you can, or switch the heat off."}`}
          </span>
        )}
        {!run && (
          <>
            <button type="button" aria-pressed={!hand} onClick={() => setHand(false)}>
              the pacer leads
            </button>
            <button type="button" aria-pressed={hand} onClick={() => setHand(true)}>
              I lead, space at each number
            </button>
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
        {run && (shown.done || run.pausedMs !== null) && (
          <button type="button" onClick={again}>
            From the start
          </button>
        )}
        {shown.done && run && (
          <Button variant="contained" size="large" disabled={saved === "saving" || saved === "yes"} onClick={() => void keep()}>
            {saved === "yes" ? "Kept" : "Keep this cut in the log"}
          </Button>
        )}
        {saved !== "no" && saved !== "yes" && saved !== "saving" && <span role="alert">{saved}</span>}
      </footer>
    </section>
  );
}

/** Led by hand, the next number is the first that has not been passed. */
function handShown(schedule: Schedule, run: Run, atS: number) {
  const passed = run.passedS.length;
  const row = Math.min(passed, schedule.rows.length - 1);
  const since = atS - (passed === 0 ? 0 : (run.passedS[passed - 1] as number));
  const wants = (schedule.rows[row]?.seconds ?? 1) + (passed > 0 ? (schedule.rows[passed - 1]?.waitS ?? 0) : 0);
  return {
    row,
    number: schedule.rows[row]?.to ?? "",
    next: schedule.rows[row + 1]?.to ?? null,
    share: Math.min(1, Math.max(0, since / wants)),
    waitLeftS: null,
    leftS: Math.max(0, schedule.totalS - (schedule.startsS[row] ?? 0) - Math.max(0, since)),
    done: passed >= schedule.rows.length,
  };
}
