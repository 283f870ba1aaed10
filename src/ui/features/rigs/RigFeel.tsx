"use client";
import Button from "@mui/material/Button";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Feel, FeelScore, Passed } from "@/core/rigs/feel";
import type { Show } from "@/core/rigs/record";
import { LessonOutcome } from "../../kit/Lesson";
import { cellWords } from "./RigSums";

/** The rig runs no longer than this, s: one that stands is called off. */
const LONGEST_S = 240;
/** A page that slept goes on by no more than this at once, s. */
const LONGEST_STEP_S = 0.1;

interface Running {
  atS: number;
  alongMm: number;
  speed: number;
}
const REST: Running = { atS: 0, alongMm: 0, speed: 0 };

/** The rig in the hand: it runs automatically while one thing is set and one held, and is judged at its end. */
export function RigFeel({ feel, show }: { feel: Feel; show: Show }) {
  const [knob, setKnob] = useState(feel.knob.start);
  const [held, setHeld] = useState(false);
  const [run, setRun] = useState<Running>(REST);
  const [state, setState] = useState<"ready" | "running" | "done">("ready");
  const [score, setScore] = useState<FeelScore | null>(null);
  const hand = useRef({ knob, held });
  hand.current = { knob, held };
  const trail = useRef<Passed[]>([]);
  const start = useCallback(() => {
    trail.current = [{ atS: 0, alongMm: 0 }];
    setRun(REST);
    setScore(null);
    setState("running");
  }, []);
  useEffect(() => {
    if (state !== "running") return;
    let frame = 0;
    let before = performance.now();
    let now = REST;
    const step = (clock: number) => {
      const dt = Math.min(LONGEST_STEP_S, Math.max(0, (clock - before) / 1000));
      before = clock;
      const speed = feel.speed(now.alongMm, hand.current.knob, hand.current.held);
      const alongMm = Math.min(feel.pathMm, now.alongMm + speed * dt);
      now = { atS: now.atS + dt, alongMm, speed };
      trail.current.push({ atS: now.atS, alongMm });
      setRun(now);
      if (alongMm >= feel.pathMm - 1e-9 || now.atS > LONGEST_S) {
        setScore(feel.judge(trail.current, hand.current.knob));
        setState("done");
        return;
      }
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [state, feel]);
  useEffect(() => {
    const press = (down: boolean) => (event: KeyboardEvent) => {
      if (event.code !== "KeyH" || feel.holdN === null || (event.target as Element).closest("input, textarea")) return;
      event.preventDefault();
      setHeld(down);
    };
    const [onDown, onUp] = [press(true), press(false)];
    window.addEventListener("keydown", onDown);
    window.addEventListener("keyup", onUp);
    return () => {
      window.removeEventListener("keydown", onDown);
      window.removeEventListener("keyup", onUp);
    };
  }, [feel]);
  const share = feel.pathMm > 0 ? run.alongMm / feel.pathMm : 0;
  const most = Math.max(2 * feel.wantedMmS, run.speed);
  return (
    <section aria-label={feel.title} data-testid="rig-feel" data-state={state} className="rig-feel">
      <h2>{feel.title}</h2>
      <p>{feel.brief}</p>
      <svg viewBox="0 0 600 90" role="img" aria-label={`${Math.round(100 * share)} % of the way, ${show("feed", run.speed)}`}>
        <title>how far, and how fast</title>
        <path d="M10 30h580" stroke="var(--line)" strokeWidth={10} strokeLinecap="round" />
        <path d={`M10 30h${(580 * share).toFixed(1)}`} stroke="var(--ember)" strokeWidth={10} strokeLinecap="round" />
        <path d={`M${10 + 580 * (feel.wantedMmS / most)} 58v24`} stroke="var(--graphite)" strokeWidth={2} />
        <path d={`M10 70h${(580 * Math.min(1, run.speed / most)).toFixed(1)}`} stroke="var(--cool)" strokeWidth={12} />
        <text x={10} y={16} fontSize={14} fill="var(--graphite)">
          {show("length", run.alongMm)} of {show("length", feel.pathMm)}, {run.atS.toFixed(1)} s
        </text>
        <text x={590} y={56} fontSize={14} textAnchor="end" fill="var(--graphite)">
          {show("feed", run.speed)}; wanted {show("feed", feel.wantedMmS)} at the mark
        </text>
      </svg>
      <label className="rig-knob">
        {feel.knob.label}: <span className="num">{show(feel.knob.quantity, knob, 1)}</span>
        <input
          type="range"
          className="rig-slider"
          min={feel.knob.min}
          max={feel.knob.max}
          step={feel.knob.step}
          value={knob}
          onChange={(event) => setKnob(Number(event.target.value))}
        />
      </label>
      <div className="plan-acts">
        <Button variant="contained" size="large" onClick={start}>
          {state === "ready" ? "Let it go" : "Again from the start"}
        </Button>
        {feel.holdN !== null && (
          <Button
            variant="outlined"
            size="large"
            aria-pressed={held}
            onPointerDown={() => setHeld(true)}
            onPointerUp={() => setHeld(false)}
            onPointerLeave={() => setHeld(false)}
          >
            Hold back (H)
          </Button>
        )}
      </div>
      {score && <LessonOutcome outcome={{ good: score.good, words: score.words, rows: score.rows.map(([what, cell]) => [what, cellWords(cell, show)]) }} />}
    </section>
  );
}
