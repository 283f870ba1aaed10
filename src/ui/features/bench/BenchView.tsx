"use client";
import { knobLook } from "@/core/physics/power/controls";
import { BENCH_TABS } from "../../cutter/views";
import { usePlace, useQueryParameter, useTab } from "../../kit/address";
import "../../kit/theme/sheet.css";
import "../../kit/theme/bench.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import type { BenchReport } from "@/core/bench/face";
import { LESSONS, type Lesson, type LessonResult, type Readout } from "@/core/bench/lessons";
import { MELT_WIDTH } from "@/core/bench/meltWidth";
import type { Hand } from "@/core/bench/setup";
import { BENCH } from "@/core/bench/simulator";
import { BENCH_DEFAULTS, type BenchOptions } from "@/core/bench/world";
import type { Design } from "@/core/cutters/design/schema";
import { knobOf, withSetting } from "@/core/cutters/solve/evaluate";
import { DEVICES } from "@/core/devices/instruments";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { Why } from "../../kit/Why";
import { BenchEnd } from "./BenchEnd";
import { BenchAdvice, BenchFigures, BenchFoot, SupplyLine, VEIL } from "./BenchFigures";
import { BenchPlan } from "./BenchPlan";
import { BenchTraces } from "./BenchTraces";
import { FaceReport } from "./FaceReport";
import { FarDialKey } from "./FarDialKey";
import { InstrumentPanel } from "./InstrumentPanel";
import { LessonList, LessonScore } from "./LessonPanel";
import { useBench } from "./useBench";
import { useHiss } from "./useHiss";

type HandMode = "lead" | "pace" | "push";

const MODES: readonly { mode: HandMode; words: string }[] = [
  { mode: "pace", words: "at a pace" },
  { mode: "lead", words: "by hand" },
  { mode: "push", words: "with a push" },
];
/** What one press of an arrow key does: pace, mm/s; push, N; lead, m (an eighth of an inch). */
const PACE_STEP = 0.5;
const PUSH_STEP = 0.25;
const LEAD_STEP_M = 0.003175;
const MOST_PACE = 25;
const MOST_PUSH = 15;
const CORNER_MM = 60;
const BEST_KEY = "upwind-lessons";

function readBest(): Record<string, number> {
  try {
    return JSON.parse(localStorage.getItem(BEST_KEY) ?? "{}") as Record<string, number>;
  } catch {
    // Without storage the best scores last as long as the page.
    return {};
  }
}

/** The virtual bench: the open cutter, or a lesson's, cut by hand against the simulation. */
export function BenchView({
  design,
  onTake,
  onShown,
}: {
  design: Design;
  onTake: (next: Design) => void;
  /** The cutter that lies on the bench, for the rod; null when it is the open one as it is. */
  onShown: (shown: Design | null) => void;
}) {
  const { show } = useUnits();
  const bench = useBench();
  const hiss = useHiss(bench.addPainter);
  const [tab, setTab] = useTab("bench", BENCH_TABS);
  const { goWithQuery } = usePlace();
  const [lessonId, setLessonId] = useQueryParameter("lesson");
  const lesson = useMemo(() => LESSONS.find((each) => each.id === lessonId) ?? null, [lessonId]);
  const [options, setOptions] = useState<BenchOptions>(BENCH_DEFAULTS);
  /** The cutter on the bench with its knob as it is here. */
  const [onBench, setOnBench] = useState<Design>(design);
  const [mode, setMode] = useState<HandMode>("pace");
  const [pace, setPace] = useState(design.job.feed_mm_s);
  const [push, setPush] = useState(1);
  const [going, setGoing] = useState(false);
  const [times, setTimes] = useState(1);
  const [report, setReport] = useState<BenchReport | null>(null);
  const [result, setResult] = useState<LessonResult | null>(null);
  const [best, setBest] = useState<Record<string, number>>({});
  /** Current and volts as the wire met the foam. */
  const met = useRef<{ currentA: number; volts: number } | null>(null);
  const led = useRef(0);
  const controls = useRef<HTMLElement>(null);
  const knob = knobOf(onBench);
  const shown = lesson ? lesson.design : design;
  const setting = useMemo<BenchOptions>(() => (lesson ? { ...lesson.options, seed: options.seed } : options), [lesson, options]);
  useEffect(() => setBest(readBest()), []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is shown again is shown from its beginning
  useEffect(() => {
    controls.current?.scrollTo(0, 0);
  }, [tab, lesson]);
  useEffect(() => {
    onShown(onBench);
    return () => onShown(null);
  }, [onBench, onShown]);

  const { open } = bench;
  const lay = useCallback(
    (next: Design, with_: BenchOptions) => {
      setOnBench(next);
      setGoing(false);
      setTimes(1);
      setReport(null);
      setResult(null);
      met.current = null;
      led.current = 0;
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
      setMode(next.hand);
      if (next.hand === "pace") setPace(next.design.job.feed_mm_s);
      setPush(next.pushN ?? 1);
      lay(next.design, { ...next.options, seed });
    },
    [seed, lay],
  );
  // One that only the address names (a link, a reload, Back) is laid when that is read; one that was pressed lies there already.
  useEffect(() => {
    if (!lesson) lying.current = null;
    else if (lying.current !== `${lesson.id} ${seed}`) layLesson(lesson);
  }, [lesson, seed, layLesson]);

  const send = useCallback((hand: Hand) => bench.client.current?.send({ kind: "hand", hand }), [bench.client]);
  const go = useCallback(
    (on: boolean) => {
      setGoing(on);
      if (!on) send({ mode: "still" });
      else if (mode === "push") send({ mode: "push", newtons: push });
      else if (mode === "pace") send({ mode: "pace", mPerS: pace / 1000 });
    },
    [mode, pace, push, send],
  );
  // The hand follows its sliders while it goes.
  useEffect(() => {
    if (!going) return;
    if (mode === "push") send({ mode: "push", newtons: push });
    if (mode === "pace") send({ mode: "pace", mPerS: pace / 1000 });
  }, [going, mode, pace, push, send]);

  const heat = (on: boolean) => bench.client.current?.send({ kind: "heat", on });
  const turn = (value: number) => {
    if (!knob) return;
    const at = Math.min(knob.max, Math.max(knob.min, Number(value.toFixed(4))));
    const next = withSetting(onBench, at);
    // A clip is moved with the heat off: the wire is laid again.
    if (knob.kind === "live") lay(next, setting);
    else {
      setOnBench(next);
      bench.client.current?.send({ kind: "knob", setting: at });
    }
  };
  const choose = (next: HandMode) => {
    go(false);
    setMode(next);
  };
  const lead = (toM: number | null) => {
    if (mode !== "lead") return;
    if (toM === null) send({ mode: "still" });
    else {
      led.current = Math.max(led.current, toM);
      send({ mode: "lead", toM: led.current });
    }
  };
  const stand = (still: boolean) => {
    const next = still ? 0 : 1;
    setTimes(next);
    bench.client.current?.send({ kind: "pace", times: next });
  };
  const fast = (next: number) => {
    setTimes(next);
    bench.client.current?.send({ kind: "pace", times: next });
  };
  const begin = (next: Lesson) => {
    layLesson(next);
    goWithQuery("bench", "lesson", next.id);
  };
  const finish = useCallback(async () => {
    const whole = await bench.client.current?.report();
    if (!whole) return;
    setReport(whole);
    setGoing(false);
    send({ mode: "still" });
    if (!lesson) return;
    const judged = lesson.judge({ report: whole, design: onBench, currentA: met.current?.currentA ?? 0, volts: met.current?.volts ?? 0 });
    setResult(judged);
    setBest((all) => {
      const next = { ...all, [lesson.id]: Math.max(all[lesson.id] ?? 0, judged.score) };
      try {
        localStorage.setItem(BEST_KEY, JSON.stringify(next));
      } catch {
        // As above: the score then lasts as long as the page.
      }
      return next;
    });
  }, [bench.client, lesson, onBench, send]);

  const { status } = bench;
  const { frame } = bench.scene.current;
  if (status?.inFoam && frame && !met.current) met.current = { currentA: frame.currentA, volts: frame.volts };
  const heatOn = status?.heatOn ?? false;
  const ended = status !== null && (status.through || status.broken);
  useEffect(() => {
    if (ended && !report) void finish();
  }, [ended, report, finish]);

  const keys = { preventDefault: true } as const;
  useHotkeys("space", () => (mode === "lead" ? undefined : go(!going)), {
    ...keys,
    ignoreEventWhen: (event) => event.target instanceof HTMLButtonElement || event.target instanceof HTMLInputElement,
  });
  useHotkeys("h", () => heat(!heatOn), keys);
  useHotkeys("p", () => stand(times !== 0), keys);
  useHotkeys("r", () => lay(lesson ? lesson.design : onBench, setting), keys);
  const arrows = (sign: 1 | -1) => {
    if (mode === "pace") setPace((value) => Math.max(0.5, Math.min(MOST_PACE, value + sign * PACE_STEP)));
    else if (mode === "push") setPush((value) => Math.max(0.25, Math.min(MOST_PUSH, value + sign * PUSH_STEP)));
    else if (sign > 0) lead(Math.max(led.current, bench.scene.current.frame?.pathM ?? 0) + LEAD_STEP_M);
  };
  useHotkeys("down", () => arrows(1), keys);
  useHotkeys("up", () => arrows(-1), keys);
  useHotkeys("minus, comma", () => knob && (!lesson || lesson.knobFree) && turn(knob.value - (knob.rising ? 1 : -1) * knob.step), keys);
  useHotkeys("equal, period", () => knob && (!lesson || lesson.knobFree) && turn(knob.value + (knob.rising ? 1 : -1) * knob.step), keys);

  const hidden = (readout: Readout) => lesson?.hides.includes(readout) ?? false;
  const look = knob ? knobLook(knob.kind) : null;
  const knobWords =
    knob && look ? (knob.kind === "live" ? show("length", knob.value) : `${(knob.value * look.scale).toFixed(look.decimals)} ${look.unit}`) : "";
  return (
    <main className="bench-frame">
      <section
        ref={controls}
        className="bench-controls"
        aria-label="Bench controls"
        // A pointer leaves no focus behind, so that the space bar stays go and stop; the keyboard's own presses keep theirs.
        onClickCapture={(event) => {
          if (event.detail > 0 && event.target instanceof HTMLElement) event.target.closest("button")?.blur();
        }}
      >
        <TileRow>
          {BENCH_TABS.map((each) => (
            <Tile key={each} chosen={tab === each} onClick={() => setTab(each)}>
              {each}
            </Tile>
          ))}
        </TileRow>
        {bench.fault && <Alert severity="error">{bench.fault}</Alert>}
        {tab === "Lessons" && <LessonList best={best} current={lesson?.id ?? null} onBegin={begin} onLeave={() => setLessonId("")} />}
        {tab === "Instruments" && (
          <>
            <FarDialKey name={onBench.name} scene={bench.scene} />
            <InstrumentPanel key={setting.seed} bench={bench} devices={DEVICES.filter((each) => each !== "pwm" || onBench.control.kind === "pwm")} />
          </>
        )}
        {tab === "Cut" && (
          <>
            {lesson && (
              <div className="lesson-brief">
                <strong>{lesson.title}.</strong> {lesson.goal}
                <div style={{ fontSize: 14, marginTop: 4 }}>{lesson.brief}</div>
              </div>
            )}
            <div style={{ display: "flex", gap: 10, alignItems: "center" }}>
              <Button variant={heatOn ? "outlined" : "contained"} color={heatOn ? "error" : "primary"} onClick={() => heat(!heatOn)}>
                {heatOn ? "Heat off" : "Heat on"}
              </Button>
              <SupplyLine bench={bench} />
            </div>
            {knob && look && (
              <div>
                <div style={{ display: "flex", justifyContent: "space-between", fontSize: 15 }}>
                  <span>{look.name}</span>
                  <span className="num" data-figure="bench-knob" style={{ fontSize: 18, fontWeight: 600 }}>
                    {knobWords}
                  </span>
                </div>
                <div style={{ padding: "0 10px" }}>
                  <Slider
                    aria-label={`Bench: ${look.name}`}
                    disabled={lesson !== null && !lesson.knobFree}
                    value={knob.value * look.scale}
                    min={knob.min * look.scale}
                    max={knob.max * look.scale}
                    step={knob.step * look.scale}
                    getAriaValueText={() => knobWords}
                    onChange={(_, value) => turn((value as number) / look.scale)}
                  />
                </div>
              </div>
            )}
            <div>
              <div style={{ fontSize: 15, marginBottom: 4 }}>Take the wire through</div>
              <TileRow>
                {MODES.map((each) => (
                  <Tile key={each.mode} chosen={mode === each.mode} onClick={() => choose(each.mode)}>
                    {each.words}
                  </Tile>
                ))}
              </TileRow>
            </div>
            {mode === "lead" ? (
              <p style={{ margin: 0, fontSize: 15 }}>
                Press on the picture and lead the posts down at your own pace; or press the down arrow, an eighth of an inch each time.
              </p>
            ) : (
              <>
                <div style={{ display: "flex", justifyContent: "space-between", fontSize: 15 }}>
                  <span>{mode === "pace" ? "Pace" : "Push"}</span>
                  <span className="num" style={{ fontSize: 18, fontWeight: 600 }}>
                    {mode === "pace" ? (hidden("feed") ? VEIL : show("feed", pace)) : show("force", push, 2)}
                  </span>
                </div>
                <div style={{ padding: "0 10px" }}>
                  {mode === "pace" ? (
                    <Slider aria-label="Pace" min={0.5} max={MOST_PACE} step={0.1} value={pace} onChange={(_, value) => setPace(value as number)} />
                  ) : (
                    <Slider aria-label="Push" min={0.25} max={MOST_PUSH} step={0.05} value={push} onChange={(_, value) => setPush(value as number)} />
                  )}
                </div>
                <Button variant="contained" disabled={ended} onClick={() => go(!going)} sx={{ minHeight: 52 }}>
                  {going ? "Stop" : mode === "pace" ? "Go" : "Rest it on"}
                </Button>
              </>
            )}
            <div style={{ display: "flex", gap: 6, flexWrap: "wrap" }}>
              <Button variant="outlined" onClick={() => lay(lesson ? lesson.design : onBench, setting)}>
                Fresh block
              </Button>
              <Button variant="outlined" onClick={() => stand(times !== 0)}>
                {times === 0 ? "Go on" : "Stand still"}
              </Button>
              <Button onClick={() => fast(times === 4 ? 1 : 4)} aria-pressed={times === 4}>
                {times === 4 ? "Real time" : "4 times faster"}
              </Button>
              {!ended && status?.inFoam && <Button onClick={() => void finish()}>Look at the cut so far</Button>}
            </div>
            {!lesson && (
              <TileRow>
                <Tile
                  chosen={options.corner_mm !== null}
                  onClick={() => setOptions((old) => ({ ...old, corner_mm: old.corner_mm === null ? CORNER_MM : null }))}
                >
                  a corner
                </Tile>
                <Tile chosen={options.recycled} onClick={() => setOptions((old) => ({ ...old, recycled: !old.recycled }))}>
                  recycled board
                </Tile>
                <Tile chosen={false} onClick={() => setOptions((old) => ({ ...old, seed: old.seed + 1 }))}>
                  another block
                </Tile>
                <Tile chosen={hiss.on} onClick={hiss.toggle}>
                  sound
                </Tile>
              </TileRow>
            )}
            {!lesson && knob && knobOf(design)?.value !== knob.value && (
              <Button variant="outlined" onClick={() => onTake(onBench)}>
                Put {knobWords} on the desk
              </Button>
            )}
          </>
        )}
      </section>
      <section className="bench-stage" aria-label="Bench">
        <InstrumentBoundary name="the bench">
          <BenchPlan bench={bench} design={shown.control.kind === "clip" ? onBench : shown} options={setting} leads={mode === "lead" && !ended} onLead={lead} />
        </InstrumentBoundary>
        <BenchFigures bench={bench} hidden={hidden} />
        <div className="bench-advice">
          <BenchAdvice bench={bench} quiet={hidden("advice") || report !== null} />{" "}
          <Why of="the bench" relation={BENCH} inputs={`${onBench.name}: the figures next to this are simulated from its own.`} />
          <Why of="kerf in time" relation={MELT_WIDTH} inputs="the kerf of the middle, drawn along the wire." />
        </div>
        {report ? (
          <div className="bench-result">
            {result && lesson && <LessonScore lesson={lesson} result={result} onAgain={() => lay(lesson.design, setting)} />}
            <FaceReport report={report} />
            <InstrumentBoundary name="the kerf">
              <BenchEnd bench={bench} design={shown} options={setting} />
            </InstrumentBoundary>
          </div>
        ) : (
          <div className="bench-lower">
            <InstrumentBoundary name="the kerf">
              <BenchEnd bench={bench} design={shown} options={setting} />
            </InstrumentBoundary>
            <BenchTraces bench={bench} still={times === 0} />
          </div>
        )}
        <BenchFoot bench={bench} />
      </section>
    </main>
  );
}
