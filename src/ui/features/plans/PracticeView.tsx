"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { type PointerEvent, useEffect, useMemo, useRef } from "react";
import type { Outcome } from "@/core/kernel/lesson";
import { scheduleOf } from "@/core/pace/pacer";
import { PRACTICE, PRACTICE_LESSONS, type Score, type scoreOf } from "@/core/pace/practice";
import { evaluatePlan, type PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import { useQueryParameter } from "../../kit/address";
import { LessonList, LessonOutcome, useBestScores } from "../../kit/Lesson";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { FACE_NAMES } from "./PaceView";
import { PRACTICE_HANDS, type PracticeHand, rulersOf } from "./twoHands";
import { useFace, usePace } from "./usePace";
import { useTwoHands } from "./useTwoHands";

const HIGH = 190;
const [LEFT, ROOT_Y, TIP_Y] = [46, 62, 128];

/** The virtual bench with this plan on it, or with a lesson: two hands lead both ends, the pacer calls, and the face is judged. */
export function PracticeView({ plan, evaluation }: { plan: Plan; evaluation: PlanEvaluation }) {
  const [requested, setRequested] = useQueryParameter("lesson");
  const [best, noteScore] = useBestScores("hands");
  const lesson = PRACTICE_LESSONS.find(({ id }) => id === requested) ?? null;
  const [ownFace] = useFace(plan);
  const design = evaluation.cutter?.design ?? null;
  const taught = useMemo(() => {
    if (!lesson) return null;
    const own = lesson.plan(plan.cutter);
    return { plan: own, evaluation: evaluatePlan(own, design, false) };
  }, [lesson, plan.cutter, design]);
  const here = taught ?? { plan, evaluation };
  const face = lesson?.face ?? ownFace;
  const { job, fault, found, current, far } = usePace(here.plan, here.evaluation, face);
  return (
    <div className="pace-view">
      <LessonList
        lessons={PRACTICE_LESSONS}
        best={best}
        current={lesson?.id ?? null}
        own={{ words: "this plan", onChoose: () => setRequested("") }}
        onChoose={({ id }) => setRequested(id)}
      />
      <p style={{ margin: 0 }}>{lesson?.brief ?? `${plan.name}, ${FACE_NAMES[face]}: guide both ends as you would at the bow.`}</p>
      {fault && (
        <Alert severity="warning" role="alert">
          {fault}
        </Alert>
      )}
      {!evaluation.cutter && <p>Name the cutter this is meant for: without it nothing is cut.</p>}
      {job && evaluation.cutter && found && current ? (
        <TwoHands
          key={`${lesson?.id ?? "own"} ${face}`}
          job={job}
          pair={evaluation.cutter.pair}
          rows={found.rows}
          parts={here.plan.stations.parts}
          onHeld={lesson && (() => noteScore(lesson.id, { good: true }))}
        />
      ) : (
        evaluation.cutter && !fault && <p aria-live="polite">Looking for the pace{far ? `: ${far.doing}` : ""}…</p>
      )}
    </div>
  );
}

/** The two rulers with a hand on each, dragged by mouse or fingers; a bar where the pacer is. */
function Rulers({ stations, practice }: { stations: Parameters<typeof rulersOf>[0]; practice: ReturnType<typeof useTwoHands> }) {
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 900, height: HIGH });
  const svg = useRef<SVGSVGElement>(null);
  const grips = useRef(new Map<number, PracticeHand>());
  const { labels, px, numberAt } = rulersOf(stations, LEFT, width - LEFT - 30);
  const { at, going, called, drag } = practice;
  const numbers = labels.length - 1;
  const target = Math.min(numbers, called.row + called.share);
  const follow = (event: PointerEvent<SVGSVGElement>) => {
    const hand = grips.current.get(event.pointerId);
    if (hand) drag(hand, numberAt(hand, event.clientX - (svg.current?.getBoundingClientRect().left ?? 0)));
  };
  return (
    <div ref={ref}>
      <svg
        ref={svg}
        width={width}
        height={HIGH}
        style={{ touchAction: "none", display: "block" }}
        onPointerDown={(event) => {
          const top = svg.current?.getBoundingClientRect().top ?? 0;
          grips.current.set(event.pointerId, event.clientY - top < (ROOT_Y + TIP_Y) / 2 ? "root" : "tip");
          event.currentTarget.setPointerCapture(event.pointerId);
          follow(event);
        }}
        onPointerMove={follow}
        onPointerUp={(event) => grips.current.delete(event.pointerId)}
        onPointerCancel={(event) => grips.current.delete(event.pointerId)}
      >
        <title>two rulers, a hand on each</title>
        {PRACTICE_HANDS.map((hand) => {
          const y = hand === "root" ? ROOT_Y : TIP_Y;
          return (
            <g key={hand}>
              <path d={`M${px(hand, 0)} ${y}H${px(hand, numbers)}`} stroke="var(--graphite)" strokeWidth={2} />
              {labels.map((label, k) => (
                <g key={label}>
                  <path d={`M${px(hand, k)} ${y}v${hand === "root" ? -10 : 10}`} stroke="var(--graphite)" />
                  <text x={px(hand, k)} y={y + (hand === "root" ? -16 : 26)} textAnchor="middle" fontSize={14} className="num" fill="var(--graphite)">
                    {label}
                  </text>
                </g>
              ))}
              <text x={4} y={y + 5} fontSize={14} fontStyle="italic" fill="var(--graphite)">
                {hand}
              </text>
              {going && <path d={`M${px(hand, target)} ${y - 14}v28`} stroke="var(--cool)" strokeWidth={3} />}
              <circle cx={px(hand, at[hand])} cy={y} r={15} fill="var(--ember)" data-hand={hand} data-number={at[hand].toFixed(2)} />
            </g>
          );
        })}
        <path d={`M${px("root", at.root)} ${ROOT_Y}L${px("tip", at.tip)} ${TIP_Y}`} stroke="var(--ember)" strokeWidth={2} />
      </svg>
    </div>
  );
}

/** How the run went, next to the pace followed exactly. */
function outcomeOf({ mine, perfect }: { mine: Score; perfect: Score }, show: ReturnType<typeof useUnits>["show"]): Outcome {
  const rows: readonly (readonly [string, (score: Score) => string])[] = [
    ["time", ({ seconds }) => `${seconds.toFixed(1)} s`],
    ["the middle is off by", ({ middleMm }) => show("kerf", middleMm)],
    ["one hand ahead", ({ aheadNumbers, ahead }) => (ahead && aheadNumbers > 0.01 ? `${ahead}, ${aheadNumbers.toFixed(2)} numbers` : "no")],
    ["longest stop", ({ stopS, stopMm }) => `${stopS.toFixed(1)} s${stopMm > 0 ? `, ${show("kerf", stopMm)} deep` : ""}`],
    ["the face comes out", ({ thinnerMm }) => `${show("kerf", Math.abs(thinnerMm))} ${thinnerMm > 0 ? "thinner" : "thicker"}`],
  ];
  return { good: mine.held, words: mine.words, columns: ["you", "the pace exactly"], rows: rows.map(([what, of]) => [what, of(mine), of(perfect)]) };
}

function TwoHands({
  job,
  pair,
  rows,
  parts,
  onHeld,
}: {
  job: Parameters<typeof scoreOf>[0];
  pair: Parameters<typeof scoreOf>[1];
  rows: Parameters<typeof scheduleOf>[0];
  parts: number;
  /** a lesson's own: called when the face is held */
  onHeld: (() => void) | null;
}) {
  const { show } = useUnits();
  const schedule = useMemo(() => scheduleOf(rows, parts), [rows, parts]);
  const practice = useTwoHands(job, pair, rows, schedule);
  const { going, score, called, begun, begin } = practice;
  const held = score?.mine.held === true;
  // biome-ignore lint/correctness/useExhaustiveDependencies: noted once, as it is judged
  useEffect(() => {
    if (held) onHeld?.();
  }, [held]);
  return (
    <div data-testid="two-hands" data-state={score ? "done" : going ? "going" : "ready"}>
      <p className="num" style={{ fontSize: 44, lineHeight: 1, margin: "4px 0" }} aria-live="off">
        {going ? (called.waitLeftS === null ? `to ${called.number}` : `wait ${called.waitLeftS.toFixed(1)}`) : score ? "done" : "ready"}
      </p>
      <Rulers stations={job.stations} practice={practice} />
      <p style={{ margin: "4px 0", fontSize: 15 }}>
        Drag both hands along, by mouse or two fingers; or hold F for the root's and J for the tip's. They go on and never back.
      </p>
      <Button variant="contained" onClick={begin}>
        {begun ? "Again from the start" : "Start"}
      </Button>
      {score && (
        <LessonOutcome outcome={outcomeOf(score, show)}>
          <Why of="practice" relation={PRACTICE} inputs={`${show("kerf", job.toleranceMm)} of tolerance.`} />
        </LessonOutcome>
      )}
    </div>
  );
}
