import { useCallback, useEffect, useMemo, useReducer, useRef, useState } from "react";
import { LESSONS, type Lesson } from "@/core/bench/lessons";
import type { Hand } from "@/core/bench/setup";
import { BENCH_DEFAULTS, type BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import { knobOf, withSetting } from "@/core/cutters/solve/evaluate";
import { usePlace, useQueryParameter } from "../../kit/address";
import { useBestScores } from "../../kit/Lesson";
import { benchReducer, handOf, newSession } from "./benchSession";
import { useBench } from "./useBench";

/** One press of an arrow key guides the wire an eighth of an inch on, m. */
const LEAD_STEP_M = 0.003175;

/** The bench with the open cutter or a lesson's on it: its session, and what hand, knob and keys do. */
export function useBenchSession(design: Design) {
  const bench = useBench();
  const { goWithQuery } = usePlace();
  const [lessonId, setLessonId] = useQueryParameter("lesson");
  const lesson = useMemo(() => LESSONS.find((each) => each.id === lessonId) ?? null, [lessonId]);
  const [options, setOptions] = useState<BenchOptions>(BENCH_DEFAULTS);
  const [session, dispatch] = useReducer(benchReducer, design, newSession);
  const [best, noteScore] = useBestScores("bench");
  /** Current and volts as the wire met the foam. */
  const met = useRef<{ currentA: number; volts: number } | null>(null);
  const guidedM = useRef(0);
  const setting = useMemo<BenchOptions>(() => (lesson ? { ...lesson.options, seed: options.seed } : options), [lesson, options]);

  const { open, client } = bench;
  const lay = useCallback(
    (next: Design, with_: BenchOptions, from?: Lesson) => {
      dispatch({ kind: "laid", design: next, ...(from ? { lesson: from } : {}) });
      met.current = null;
      guidedM.current = 0;
      open(next, with_);
    },
    [open],
  );
  // The open cutter lies on the bench until a lesson's does; a change on the desk lays it again.
  useEffect(() => {
    if (!lesson) lay(design, options);
  }, [design, lesson, options, lay]);
  /** The lesson that lies on the bench, by its name and its block. */
  const lying = useRef<string | null>(null);
  const { seed } = options;
  const layLesson = useCallback(
    (next: Lesson) => {
      lying.current = `${next.id} ${seed}`;
      lay(next.design, { ...next.options, seed }, next);
    },
    [seed, lay],
  );
  // One that only the address names (a link, a reload, Back) is laid when that is read; one that was pressed lies there already.
  useEffect(() => {
    if (!lesson) lying.current = null;
    else if (lying.current !== `${lesson.id} ${seed}`) layLesson(lesson);
  }, [lesson, seed, layLesson]);

  const send = useCallback((hand: Hand) => client.current?.send({ kind: "hand", hand }), [client]);
  const hand = handOf(session);
  const moves = JSON.stringify(hand);
  // The hand follows its sliders while it goes.
  useEffect(() => {
    send(JSON.parse(moves) as Hand);
  }, [moves, send]);

  const knob = knobOf(session.design);
  const turn = (value: number) => {
    if (!knob) return;
    const at = Math.min(knob.max, Math.max(knob.min, Number(value.toFixed(4))));
    const next = withSetting(session.design, at);
    // A clip is moved with the heat off: the wire is laid again.
    if (knob.kind === "live") lay(next, setting);
    else {
      dispatch({ kind: "knob", design: next });
      client.current?.send({ kind: "knob", setting: at });
    }
  };
  const guide = (toM: number | null) => {
    if (session.mode !== "lead") return;
    if (toM === null) return send({ mode: "still" });
    guidedM.current = Math.max(guidedM.current, toM);
    send({ mode: "lead", toM: guidedM.current });
  };
  const step = (sign: 1 | -1) => {
    if (session.mode !== "lead") dispatch({ kind: "step", sign });
    else if (sign > 0) guide(Math.max(guidedM.current, bench.scene.current.frame?.pathM ?? 0) + LEAD_STEP_M);
  };
  const setTimes = (times: number) => {
    dispatch({ kind: "times", times });
    client.current?.send({ kind: "pace", times });
  };
  const begin = (next: Lesson) => {
    layLesson(next);
    goWithQuery("bench", "lesson", next.id);
  };
  const { design: onBench, report } = session;
  const finish = useCallback(async () => {
    const whole = await client.current?.report();
    if (!whole) return;
    const result = lesson ? lesson.judge({ report: whole, design: onBench, currentA: met.current?.currentA ?? 0, volts: met.current?.volts ?? 0 }) : null;
    dispatch({ kind: "finished", report: whole, result });
    send({ mode: "still" });
    if (lesson && result) noteScore(lesson.id, { good: null, score: result.score });
  }, [client, lesson, onBench, send, noteScore]);

  const { status } = bench;
  const { frame } = bench.scene.current;
  if (status?.inFoam && frame && !met.current) met.current = { currentA: frame.currentA, volts: frame.volts };
  const heatOn = status?.heatOn ?? false;
  const ended = status !== null && (status.through || status.broken);
  useEffect(() => {
    if (ended && !report) void finish();
  }, [ended, report, finish]);

  return {
    bench,
    session,
    dispatch,
    lesson,
    leaveLesson: () => setLessonId(""),
    begin,
    best,
    options,
    setOptions,
    setting,
    knob: knob && { ...knob, free: !lesson || lesson.knobFree },
    turn,
    guide,
    step,
    setTimes,
    heatOn,
    setHeat: (on: boolean) => client.current?.send({ kind: "heat", on }),
    ended,
    inFoam: status?.inFoam ?? false,
    finish,
    freshBlock: () => lay(lesson ? lesson.design : onBench, setting),
    hides: (readout: Lesson["hides"][number]) => lesson?.hides.includes(readout) ?? false,
  };
}

export type BenchDesk = ReturnType<typeof useBenchSession>;
