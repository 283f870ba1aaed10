"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { type PointerEvent, useEffect, useMemo, useRef, useState } from "react";
import { scheduleOf, shownAt } from "@/core/pace/pacer";
import { type HandsAt, PRACTICE, PRACTICE_LESSONS, perfectHands, type Score, scoreOf } from "@/core/pace/practice";
import { evaluatePlan, type PlanEvaluation } from "@/core/plans/evaluate";
import type { Plan } from "@/core/plans/plan";
import { useQueryParameter } from "../../kit/address";
import { Tile, TileRow } from "../../kit/Tile";
import { useSize } from "../../kit/useSize";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { PacerSound } from "../second/pacerSound";
import { FACE_NAMES } from "./PaceView";
import { useFace, usePace } from "./usePace";

/** A held key leads at so many times the pace: so that one may run ahead, and must let go. */
const KEY_PACE = 1.35;
const LOOK_MS = 50;
const HIGH = 190;
const [LEFT, ROOT_Y, TIP_Y] = [46, 62, 128];
const KEYS = { f: "root", j: "tip" } as const;

/** The virtual bench with this plan on it, or with a lesson: two hands lead both ends, the pacer calls, and the face is judged. */
export function PracticeView({ plan, evaluation }: { plan: Plan; evaluation: PlanEvaluation }) {
  const [requested, setRequested] = useQueryParameter("lesson");
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
      <TileRow>
        <Tile chosen={lesson === null} onClick={() => setRequested("")}>
          this plan
        </Tile>
        {PRACTICE_LESSONS.map(({ id, title }) => (
          <Tile key={id} chosen={lesson?.id === id} onClick={() => setRequested(id)}>
            {title}
          </Tile>
        ))}
      </TileRow>
      <p style={{ margin: 0 }}>{lesson?.words ?? `${plan.name}, ${FACE_NAMES[face]}: lead both ends as you would at the bow.`}</p>
      {fault && (
        <Alert severity="warning" role="alert">
          {fault}
        </Alert>
      )}
      {!evaluation.cutter && <p>Name the cutter this is meant for: without it nothing is cut.</p>}
      {job && evaluation.cutter && found && current ? (
        <TwoHands key={`${lesson?.id ?? "own"} ${face}`} job={job} pair={evaluation.cutter.pair} rows={found.rows} parts={here.plan.stations.parts} />
      ) : (
        evaluation.cutter && !fault && <p aria-live="polite">Looking for the pace{far ? `: ${far.doing}` : ""}…</p>
      )}
    </div>
  );
}

type Hand = "root" | "tip";

function TwoHands({
  job,
  pair,
  rows,
  parts,
}: {
  job: Parameters<typeof scoreOf>[0];
  pair: Parameters<typeof scoreOf>[1];
  rows: Parameters<typeof scheduleOf>[0];
  parts: number;
}) {
  const { show } = useUnits();
  const [ref, { width }] = useSize<HTMLDivElement>({ width: 900, height: HIGH });
  const schedule = useMemo(() => scheduleOf(rows, parts), [rows, parts]);
  const numbers = rows.length;
  const [hands, setHands] = useState<HandsAt | null>(null);
  const [score, setScore] = useState<{ mine: Score; perfect: Score } | null>(null);
  const samples = useRef<HandsAt[]>([]);
  const aims = useRef<Record<Hand, number>>({ root: 0, tip: 0 });
  const held = useRef<Record<Hand, boolean>>({ root: false, tip: false });
  const grips = useRef(new Map<number, Hand>());
  const sound = useRef(new PacerSound());
  const svg = useRef<SVGSVGElement>(null);
  const stations = job.stations.stations.filter(({ whole }) => whole);
  const longest = Math.max(job.stations.rootLengthMm, job.stations.tipLengthMm);
  const scale = (width - LEFT - 30) / longest;
  const alongOf = (hand: Hand, number: number): number => {
    const k = Math.min(numbers - 1, Math.floor(number));
    const [a, b] = [stations[k], stations[k + 1]];
    const key = hand === "root" ? "rootAlongMm" : "tipAlongMm";
    return (a?.[key] ?? 0) + ((b?.[key] ?? 0) - (a?.[key] ?? 0)) * (number - k);
  };
  const px = (hand: Hand, number: number) => LEFT + alongOf(hand, number) * scale;
  const numberAt = (hand: Hand, x: number): number => {
    const mm = (x - LEFT) / scale;
    let k = 0;
    while (k < numbers - 1 && alongOf(hand, k + 1) < mm) k += 1;
    const [a, b] = [alongOf(hand, k), alongOf(hand, k + 1)];
    return Math.min(numbers, Math.max(0, k + (b > a ? (mm - a) / (b - a) : 0)));
  };
  const going = hands !== null && score === null;

  const begin = () => {
    sound.current.start();
    samples.current = [{ atS: 0, root: 0, tip: 0 }];
    aims.current = { root: 0, tip: 0 };
    setScore(null);
    setHands({ atS: 0, root: 0, tip: 0 });
  };
  useEffect(() => () => sound.current.close(), []);
  useEffect(() => {
    if (!going) return;
    const started = performance.now();
    let before = started;
    const called = { at: 0 };
    const timer = setInterval(() => {
      const now = performance.now();
      const dt = (now - before) / 1000;
      before = now;
      const last = samples.current.at(-1) as HandsAt;
      const atS = (now - started) / 1000;
      const next = { atS, root: last.root, tip: last.tip };
      for (const hand of ["root", "tip"] as const) {
        const pace = 1 / Math.max(0.2, rows[Math.min(numbers - 1, Math.floor(last[hand]))]?.seconds ?? 1);
        // A hand goes on and never back; a drag leads it as fast as it can follow.
        if (held.current[hand]) aims.current[hand] = Math.max(aims.current[hand], last[hand] + KEY_PACE * pace * dt);
        next[hand] = Math.min(numbers, Math.max(last[hand], Math.min(aims.current[hand], last[hand] + 4 * pace * dt)));
      }
      samples.current.push(next);
      for (const call of schedule.calls) if (call.atS > called.at && call.atS <= atS) sound.current.beep(call.kind);
      called.at = atS;
      setHands(next);
      if (next.root >= numbers && next.tip >= numbers) setScore({ mine: scoreOf(job, pair, samples.current), perfect: scoreOf(job, pair, perfectHands(rows)) });
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [going, job, pair, rows, numbers, schedule]);
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const hand = KEYS[event.key.toLowerCase() as keyof typeof KEYS];
      if (!hand || event.ctrlKey || event.metaKey || event.target instanceof HTMLInputElement) return;
      held.current[hand] = event.type === "keydown";
    };
    window.addEventListener("keydown", key);
    window.addEventListener("keyup", key);
    return () => {
      window.removeEventListener("keydown", key);
      window.removeEventListener("keyup", key);
    };
  }, []);
  const lead = (event: PointerEvent<SVGSVGElement>) => {
    const hand = grips.current.get(event.pointerId);
    if (!hand) return;
    const box = svg.current?.getBoundingClientRect();
    aims.current[hand] = Math.max(aims.current[hand], numberAt(hand, event.clientX - (box?.left ?? 0)));
  };
  const at = hands ?? { atS: 0, root: 0, tip: 0 };
  const called = shownAt(schedule, at.atS);
  const target = Math.min(numbers, called.row + called.share);
  return (
    <div ref={ref} data-testid="two-hands" data-state={score ? "done" : going ? "going" : "ready"}>
      <p className="num" style={{ fontSize: 44, lineHeight: 1, margin: "4px 0" }} aria-live="off">
        {going ? (called.waitLeftS === null ? `to ${called.number}` : `wait ${called.waitLeftS.toFixed(1)}`) : score ? "done" : "ready"}
      </p>
      <svg
        ref={svg}
        width={width}
        height={HIGH}
        style={{ touchAction: "none", display: "block" }}
        onPointerDown={(event) => {
          const box = svg.current?.getBoundingClientRect();
          grips.current.set(event.pointerId, event.clientY - (box?.top ?? 0) < (ROOT_Y + TIP_Y) / 2 ? "root" : "tip");
          event.currentTarget.setPointerCapture(event.pointerId);
          lead(event);
        }}
        onPointerMove={lead}
        onPointerUp={(event) => grips.current.delete(event.pointerId)}
        onPointerCancel={(event) => grips.current.delete(event.pointerId)}
      >
        <title>two rulers, a hand on each</title>
        {(["root", "tip"] as const).map((hand) => {
          const y = hand === "root" ? ROOT_Y : TIP_Y;
          return (
            <g key={hand}>
              <path d={`M${px(hand, 0)} ${y}H${px(hand, numbers)}`} stroke="var(--graphite)" strokeWidth={2} />
              {stations.map(({ label }, k) => (
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
      <p style={{ margin: "4px 0", fontSize: 15 }}>
        Drag both hands along, by mouse or two fingers; or hold F for the root's and J for the tip's. They go on and never back.
      </p>
      <Button variant="contained" onClick={begin}>
        {hands ? "Again from the start" : "Start"}
      </Button>
      {score && (
        <div role="status" data-testid="score" data-held={score.mine.held}>
          <p style={{ fontSize: 18, margin: "10px 0 4px" }}>
            <strong>{score.mine.words}</strong> <Why of="practice" relation={PRACTICE} inputs={`${show("kerf", job.toleranceMm)} of tolerance.`} />
          </p>
          <table className="plain-table">
            <thead>
              <tr>
                <th scope="col" aria-label="what" />
                <th scope="col">you</th>
                <th scope="col">the pace to the letter</th>
              </tr>
            </thead>
            <tbody>
              {(
                [
                  ["time", ({ seconds }: Score) => `${seconds.toFixed(1)} s`],
                  ["the middle misses", ({ middleMm }: Score) => show("kerf", middleMm)],
                  [
                    "one hand ahead",
                    ({ aheadNumbers, ahead }: Score) => (ahead && aheadNumbers > 0.01 ? `${ahead}, ${aheadNumbers.toFixed(2)} numbers` : "no"),
                  ],
                  ["longest stop", ({ stopS, stopMm }: Score) => `${stopS.toFixed(1)} s${stopMm > 0 ? `, ${show("kerf", stopMm)} deep` : ""}`],
                  ["the face comes out", ({ thinnerMm }: Score) => `${show("kerf", Math.abs(thinnerMm))} ${thinnerMm > 0 ? "thinner" : "thicker"}`],
                ] as const
              ).map(([what, of]) => (
                <tr key={what}>
                  <th scope="row" style={{ fontWeight: 400 }}>
                    {what}
                  </th>
                  <td className="num">{of(score.mine)}</td>
                  <td className="num">{of(score.perfect)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}
