"use client";
import { BENCH_TABS } from "../../cutter/views";
import { useTab } from "../../kit/address";
import "../../kit/theme/sheet.css";
import "../../kit/theme/bench.css";
import Alert from "@mui/material/Alert";
import { useEffect, useRef } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { LESSONS, outcomeOf } from "@/core/bench/lessons";
import { MELT_WIDTH } from "@/core/bench/meltWidth";
import { BENCH } from "@/core/bench/simulator";
import type { Design } from "@/core/cutters/design/schema";
import { knobOf } from "@/core/cutters/solve/evaluate";
import { DEVICES } from "@/core/devices/instruments";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { LessonList, LessonOutcome } from "../../kit/Lesson";
import { Tile, TileRow } from "../../kit/Tile";
import { Why } from "../../kit/Why";
import { BenchEnd } from "./BenchEnd";
import { BenchAdvice, BenchFigures, BenchFoot } from "./BenchFigures";
import { BenchPlan } from "./BenchPlan";
import { BenchTraces } from "./BenchTraces";
import { CutControls } from "./CutControls";
import { FacePanel } from "./FaceReport";
import { FarDialKey } from "./FarDialKey";
import { InstrumentPanel } from "./InstrumentPanel";
import { type BenchDesk, useBenchSession } from "./useBenchSession";
import { useHiss } from "./useHiss";

/** Keys of the bench: H heat, minus and equal knob, arrows pace, space go, P pause, R fresh block. */
function useBenchKeys({ session, dispatch, knob, turn, step, heatOn, setHeat, setTimes, freshBlock }: BenchDesk) {
  const keys = { preventDefault: true } as const;
  useHotkeys("space", () => (session.mode === "lead" ? undefined : dispatch({ kind: "going", going: !session.going })), {
    ...keys,
    ignoreEventWhen: (event) => event.target instanceof HTMLButtonElement || event.target instanceof HTMLInputElement,
  });
  useHotkeys("h", () => setHeat(!heatOn), keys);
  useHotkeys("p", () => setTimes(session.times === 0 ? 1 : 0), keys);
  useHotkeys("r", freshBlock, keys);
  useHotkeys("down", () => step(1), keys);
  useHotkeys("up", () => step(-1), keys);
  const hotter = (sign: 1 | -1) => knob?.free && turn(knob.value + sign * (knob.rising ? 1 : -1) * knob.step);
  useHotkeys("minus, comma", () => hotter(-1), keys);
  useHotkeys("equal, period", () => hotter(1), keys);
}

/** Pictures and figures of the cut: the plan, the kerf, and traces or the report of what came out. */
function BenchStage({ desk, shown }: { desk: BenchDesk; shown: Design }) {
  const { bench, session, lesson, setting, ended, hides } = desk;
  const { report, result } = session;
  const kerf = (
    <InstrumentBoundary name="the kerf">
      <BenchEnd bench={bench} design={shown} options={setting} />
    </InstrumentBoundary>
  );
  return (
    <section className="bench-stage" aria-label="Bench">
      <InstrumentBoundary name="the bench">
        <BenchPlan
          bench={bench}
          design={shown.control.kind === "clip" ? session.design : shown}
          options={setting}
          leads={session.mode === "lead" && !ended}
          onLead={desk.guide}
        />
      </InstrumentBoundary>
      <BenchFigures bench={bench} hidden={hides} />
      <div className="bench-advice">
        <BenchAdvice bench={bench} quiet={hides("advice") || report !== null} />{" "}
        <Why of="the bench" relation={BENCH} inputs={`${session.design.name}: the figures next to this are simulated from its own.`} />
        <Why of="kerf in time" relation={MELT_WIDTH} inputs="the kerf of the middle, drawn along the wire." />
      </div>
      {report ? (
        <div className="bench-result">
          {result && lesson && <LessonOutcome outcome={outcomeOf(result)} title={lesson.title} onAgain={desk.freshBlock} />}
          <FacePanel report={report} />
          {kerf}
        </div>
      ) : (
        <div className="bench-lower">
          {kerf}
          <BenchTraces bench={bench} still={session.times === 0} />
        </div>
      )}
      <BenchFoot bench={bench} />
    </section>
  );
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
  const desk = useBenchSession(design);
  const { bench, lesson, setting } = desk;
  const { design: onBench } = desk.session;
  const hiss = useHiss(bench.addPainter);
  const [tab, setTab] = useTab("bench", BENCH_TABS);
  const controls = useRef<HTMLElement>(null);
  useBenchKeys(desk);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is shown again is shown from its beginning
  useEffect(() => {
    controls.current?.scrollTo(0, 0);
  }, [tab, lesson]);
  useEffect(() => {
    onShown(onBench);
    return () => onShown(null);
  }, [onBench, onShown]);
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
        {tab === "Lessons" && (
          <LessonList
            lessons={LESSONS}
            scored
            best={desk.best}
            current={lesson?.id ?? null}
            own={{ words: "my own cutter", onChoose: desk.leaveLesson }}
            onChoose={desk.begin}
          />
        )}
        {tab === "Instruments" && (
          <>
            <FarDialKey name={onBench.name} scene={bench.scene} />
            <InstrumentPanel key={setting.seed} bench={bench} devices={DEVICES.filter((each) => each !== "pwm" || onBench.control.kind === "pwm")} />
          </>
        )}
        {tab === "Cut" && <CutControls desk={desk} hiss={hiss} openKnob={knobOf(design)} onTake={() => onTake(onBench)} />}
      </section>
      <BenchStage desk={desk} shown={lesson ? lesson.design : design} />
    </main>
  );
}
