"use client";
import type { StoredDocument } from "@/core/kernel/document";
import "../../kit/theme/screens.css";
import "../../kit/theme/plans.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { useCallback, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useStore } from "zustand";
import type { Design } from "@/core/cutters/design/schema";
import { heatCourseOf } from "@/core/cutters/solve/beside";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import type { Board } from "@/core/plans/cutList";
import type { PlanAnswer } from "@/core/plans/evaluate";
import { panelCount, panelPlan, withOneMore, withPanel } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import { Rod } from "../../cutter/Rod";
import { usePlace, useQuestion } from "../../kit/address";
import { ClashFrame, whose } from "../../kit/ClashFrame";
import { HOTKEYS } from "../../kit/hotkeys";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { logQueue } from "../../kit/logQueue";
import { NameInput } from "../../kit/NameInput";
import { PageTitle } from "../../kit/PageTitle";
import { Presence } from "../../kit/Presence";
import { Rail, RailButton, RailSwitches } from "../../kit/Rail";
import { SavedMark } from "../../kit/SavedMark";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { Tile } from "../../kit/Tile";
import { useKeeping } from "../../kit/useKeeping";
import { useLinkedDocument } from "../../kit/useLinkedDocument";
import { useUnits } from "../../kit/useUnits";
import { BlankView } from "./BlankView";
import { ComesOut } from "./ComesOut";
import { CutView } from "./CutView";
import { EndsView } from "./EndsView";
import { FinishView } from "./FinishView";
import { FlatTemplates } from "./FlatTemplates";
import { Loupe } from "./Loupe";
import { OutView } from "./OutView";
import type { DoneRun } from "./Pacer";
import { PaceView } from "./PaceView";
import { PlanChooser } from "./PlanChooser";
import { firstLook } from "./PlanDrawing";
import { PlanFigures } from "./PlanFigures";
import { type PlanFrame, PlanMisfits } from "./PlanMisfits";
import { type PlanPart, PlanSentence } from "./PlanSentence";
import { PlanWindow } from "./PlanWindow";
import { PracticeView } from "./PracticeView";
import { createPlanStore } from "./planStore";
import { PLAN_STEPS, type PlanStep, STEP_WORDS } from "./steps";
import { usePlanAnswer } from "./usePlanAnswer";

const SHORTCUTS = [
  { keys: "1 to 9", does: "part, ends, templates, pace, blank, give out, call it out, finish, practise" },
  { keys: "F and J, practising", does: "held, the root's and the tip's hand go on" },
  { keys: "space on the pacer", does: "start, pause, or a number passed; P pauses, Escape leads back" },
  { keys: "R, T", does: "the root's and the tip's shape" },
  { keys: "arrows on the drawing", does: "turn the block" },
  { keys: "arrows on an end", does: "move the handle that is held; Page Up and Page Down take the next" },
  { keys: "Ctrl Z, Ctrl Y", does: "undo, redo" },
  { keys: "U", does: "millimetres or inches" },
];

/** Notes on how the two ends' templates lie to each other. */
const OF_TEMPLATES: ReadonlySet<string> = new Set(["base-lines", "twist"]);

/** What an end said of its numbers, s. */
const said = (times: readonly (number | null)[]) => (times.length === 0 ? "nothing" : times.map((s) => (s === null ? "–" : s.toFixed(1))).join(" "));

/** Panels of a part of several: which one is open, one more beyond the last tip, or the last away. */
function PanelRow({
  count,
  open,
  onOpen,
  onAdd,
  onTakeAway,
}: {
  count: number;
  open: number;
  onOpen: (panel: number) => void;
  onAdd: () => void;
  onTakeAway: () => void;
}) {
  return (
    <nav className="plan-panels" aria-label="Panels">
      {count > 1 &&
        Array.from({ length: count }, (_, i) => i).map((i) => (
          <Tile key={i} chosen={open === i} onClick={() => onOpen(i)}>
            panel {i + 1}
          </Tile>
        ))}
      <Button size="small" onClick={onAdd} disabled={count > 12}>
        {count > 1 ? "One more beyond" : "Another panel beyond the tip"}
      </Button>
      {count > 1 && (
        <Button size="small" onClick={onTakeAway}>
          The last away
        </Button>
      )}
    </nav>
  );
}

/** One plan: the part as a sentence, the block with its templates beside it, and the steps from drawing to paper. */
export function PlanDesk({
  start,
  cutter,
  cutters,
  boards,
  frames,
}: {
  start: StoredDocument<Plan>;
  cutter: StoredDocument<Design> | null;
  cutters: { id: string; name: string }[];
  /** foam in the drawer */
  boards: readonly Board[];
  /** motorised frames that name this plan */
  frames: readonly PlanFrame[];
}) {
  const [store] = useState(() => createPlanStore(start));
  const plan = useStore(store, ({ document }) => document);
  const save = useStore(store, (state) => state.save);
  const notice = useStore(store, (state) => state.notice);
  const conflict = useStore(store, (state) => state.conflict);
  const undoable = useStore(store, ({ past }) => past.length > 0);
  const redoable = useStore(store, ({ future }) => future.length > 0);
  useKeeping(store);
  const live = useLinkedDocument("cutters", plan.cutter?.id ?? null, cutter);
  const { place, go, ask } = usePlace();
  const [askedPanel] = useQuestion("panel");
  const panels = panelCount(plan);
  // An address may name a panel that is no more.
  const panel = Math.min(panels, Math.max(1, Math.trunc(Number(askedPanel) || 1))) - 1;
  const answered = usePlanAnswer(plan, live.document, panel);
  const cutterAnswer = useMemo(() => (live.document ? evaluateDesign(live.document) : null), [live.document]);
  const course = useMemo(() => (live.document && cutterAnswer ? heatCourseOf(live.document, cutterAnswer) : null), [live.document, cutterAnswer]);
  const step: PlanStep = (PLAN_STEPS as readonly string[]).includes(place[0] ?? "") ? (place[0] as PlanStep) : "part";
  const [part, setPart] = useState<PlanPart | null>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [look, setLook] = useState(() => firstLook(start.document.part.span_mm, start.document.root.chord_mm ?? 1000));
  const [shortcuts, setShortcuts] = useState(false);
  const sentence = useRef<HTMLDivElement>(null);
  const { system, setSystem, show } = useUnits();
  const router = useRouter();
  const goTo = useCallback(
    (next: PlanStep, of = panel) => {
      const where = next === "part" ? "" : next;
      if (of > 0) ask(where, "panel", String(of + 1));
      else go(...(where ? [where] : []));
    },
    [go, ask, panel],
  );
  const pick = useCallback((next: PlanPart) => setPart(next), []);
  useLayoutEffect(() => {
    if (part) setAnchor(sentence.current?.querySelector<HTMLElement>(`[data-part="${part}"]`) ?? null);
  }, [part]);
  /** The open panel as a plan of its own, and a change of it put back where it belongs. */
  const shown = answered?.panel?.plan ?? panelPlan(plan, panel);
  const change = useCallback((next: Plan, key?: string) => store.change(withPanel(store.getState().document, panel, next), key), [store, panel]);
  useHotkeys("mod+z", () => store.undo(), HOTKEYS);
  useHotkeys("mod+y, mod+shift+z", () => store.redo(), HOTKEYS);
  useHotkeys("1", () => goTo("part"), HOTKEYS);
  useHotkeys("2", () => goTo("ends"), HOTKEYS);
  useHotkeys("3", () => goTo("templates"), HOTKEYS);
  useHotkeys("4", () => goTo("pace"), HOTKEYS);
  useHotkeys("5", () => goTo("blank"), HOTKEYS);
  useHotkeys("6", () => goTo("out"), HOTKEYS);
  useHotkeys("7", () => goTo("cut"), HOTKEYS);
  useHotkeys("8", () => goTo("finish"), HOTKEYS);
  useHotkeys("9", () => goTo("practice"), HOTKEYS);
  useHotkeys("r", () => pick("root"), HOTKEYS);
  useHotkeys("t", () => pick("tip"), HOTKEYS);
  useHotkeys("u", () => setSystem(system === "metric" ? "inch" : "metric"), HOTKEYS);
  useHotkeys("?", () => setShortcuts(true), { ...HOTKEYS, useKey: true });
  const answer = answered?.panel?.answer ?? null;
  const made = async ({ cutter, root, tip }: PlanAnswer) => {
    if (cutter)
      store.change({
        ...store.getState().document,
        made: {
          at: new Date().toISOString(),
          heat_W_per_m: cutter.heatWPerM,
          rootFeed_mm_s: root.feedMmS,
          rootKerf_mm: root.kerfMm,
          tipKerf_mm: tip.kerfMm,
        },
      });
    await store.flush();
    return store.getState().save.kind === "saved";
  };
  /** Keeps a cut with the plan, number by number, and as a run in its cutter's log. */
  const keepRun = async ({ face, labels, plannedS, realS, pausesS, ends }: DoneRun, { root, cutter }: PlanAnswer) => {
    const at = new Date().toISOString();
    const { document } = store.getState();
    const tenth = (s: number) => Math.round(s * 10) / 10;
    const tenthOr = (s: number | null) => (s === null ? null : Math.max(0, tenth(s)));
    store.change({
      ...document,
      runs: [
        {
          at,
          face,
          panel: panel + 1,
          labels,
          planned_s: plannedS.map(tenth),
          real_s: realS.map(tenth),
          pauses_s: tenth(pausesS),
          ...(ends ? { ends_s: { root: ends.root.map(tenthOr), tip: ends.tip.map(tenthOr) } } : {}),
        },
        ...document.runs,
      ].slice(0, 30),
    });
    await store.flush();
    if (store.getState().save.kind !== "saved") throw new Error("the plan is not saved");
    if (document.cutter && cutter) {
      const seconds = realS.reduce((sum, each) => sum + each, 0);
      const { foam } = cutter.design.job;
      await logQueue.keep(document.cutter.id, {
        kind: "run",
        at,
        foam: { family: foam.family, density_kg_m3: foam.density_kg_m3, ...(foam.own ? { own: foam.own } : {}) },
        width_mm: shown.part.span_mm,
        setting: "",
        feed_mm_s: root.feedMmS,
        pieces: 1,
        hot_min: Math.max(0.1, tenth(seconds / 60)),
        note: `${document.name}, ${face === "whole" ? "all round" : `${face} face`}: ${seconds.toFixed(0)} s, planned ${plannedS.reduce((sum, each) => sum + each, 0).toFixed(0)} s${ends ? `; by each end's own word: root ${said(ends.root)}, tip ${said(ends.tip)}` : ""}`.slice(
          0,
          500,
        ),
      });
    }
  };
  const motors = frames[0]?.name ?? null;
  // Motors follow the lines themselves: how templates lie to one another is no matter there.
  const notes = answer?.notes.filter(({ code }) => motors === null || !OF_TEMPLATES.has(code)) ?? [];
  const widest = answer ? Math.max(answer.root.kerfMm, answer.tip.kerfMm) + 2 * shown.part.skin_mm : 1;

  return (
    <div className="desk plan-desk">
      <Rail current="plans">
        <hr />
        {(["part", ...PLAN_STEPS] as const).map((each) => (
          <RailButton key={each} onClick={() => goTo(each)} current={step === each}>
            {STEP_WORDS[each]}
          </RailButton>
        ))}
        <hr />
        <RailButton onClick={() => router.push(`/rigs?plan=${start.id}`)}>Its rigs</RailButton>
        {plan.cutter && !live.gone && <RailButton onClick={() => router.push(`/cutters/${plan.cutter?.id}`)}>Its cutter</RailButton>}
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <header className="rod-strip">
        <PageTitle parts={[plan.name, step !== "part" && STEP_WORDS[step]]} />
        <h1 className="visually-hidden">{plan.name}</h1>
        {live.document && cutterAnswer && course ? (
          <InstrumentBoundary name="the rod">
            <Rod design={live.document} answer={cutterAnswer} course={course} onPick={null} label={`The wire of ${live.document.name}`} />
          </InstrumentBoundary>
        ) : (
          <p className="plan-no-cutter">
            {live.gone ? `${plan.cutter?.name} is not here any more: ` : ""}
            <button type="button" className="plain-link" onClick={() => pick("cutter")}>
              Name the cutter this is meant for
            </button>
            , and its kerf is computed.
          </p>
        )}
      </header>
      <main className="desk-main">
        <div className="bench-column">
          <div className="desk-name">
            <NameInput label="Plan's name" name={plan.name} onName={(name) => store.change({ ...store.getState().document, name }, "name")} />
            <SavedMark save={save} onRetry={() => void store.flush()} />
            <Presence at={`plans/${start.id}`} />
          </div>
          <div className="desk-deeds">
            <span className="spring" />
            <Button size="small" disabled={!undoable} onClick={() => store.undo()}>
              Undo
            </Button>
            <Button size="small" disabled={!redoable} onClick={() => store.redo()}>
              Redo
            </Button>
            <Button size="small" href={`/api/plans/${start.id}/file`} onClick={() => void store.flush()}>
              Export
            </Button>
          </div>
          {notice && (
            <Alert severity="info" onClose={() => store.setState({ notice: null })}>
              {notice}
            </Alert>
          )}
          <div ref={sentence}>
            <PlanSentence plan={shown} cutterFeed={live.document?.job.feed_mm_s ?? null} motors={motors} onPick={pick} />
          </div>
          <PanelRow
            count={panels}
            open={panel}
            onOpen={(next) => goTo(step, next)}
            onAdd={() => {
              store.change(withOneMore(plan));
              goTo(step, panels);
            }}
            onTakeAway={() => {
              store.change({ ...plan, panels: plan.panels.slice(0, -1) });
              goTo(step, Math.min(panel, panels - 2));
            }}
          />
          {answer && (
            <PlanMisfits
              plan={shown}
              answer={answer}
              frames={frames}
              cutterId={plan.cutter?.id ?? null}
              onChange={change}
              onOtherCutter={() => pick("cutter")}
            />
          )}
          {answer && <PlanFigures plan={shown} answer={answer} />}
          {notes.map((note) => (
            <p key={note.code + note.words} data-note={note.code} className={`plan-note plan-note-${note.severity}`}>
              <strong>{{ danger: "Danger. ", caution: "Caution. ", note: "" }[note.severity]}</strong>
              {note.words} <span className="plan-standing">({note.standing})</span>
            </p>
          ))}
        </div>
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and a step without anything to press must scroll by keys too */}
        <section className="window-column plan-column" aria-label={STEP_WORDS[step]} tabIndex={0}>
          {answered?.fault && (
            <Alert severity="error" role="alert">
              This cannot be drawn: {answered.fault}
            </Alert>
          )}
          {answer && step === "part" && (
            <>
              <InstrumentBoundary name="the drawing">
                <ComesOut plan={shown} answer={answer} look={look} onLook={setLook} />
              </InstrumentBoundary>
              <div className="plan-instruments">
                {answer.cutter &&
                  (shown.tip ? (["root", "tip"] as const) : (["root"] as const)).map((end) => (
                    <Loupe key={end} name={end} end={answer[end]} plan={shown} wireMm={answer.cutter?.wireMm ?? 0.5} pxPerMm={112 / widest} />
                  ))}
                {cutterAnswer && (
                  <InstrumentBoundary name="the cutting window">
                    <PlanWindow plan={answer} cutter={cutterAnswer} oneEnd={shown.tip === null} />
                  </InstrumentBoundary>
                )}
              </div>
            </>
          )}
          {answer && step === "ends" && <EndsView plan={shown} answer={answer} onChange={change} />}
          {motors !== null && (step === "templates" || step === "out") && (
            <Alert severity="info" sx={{ mb: 1 }}>
              The motors of {motors} cut this plan: templates are only for cutting it by hand.
            </Alert>
          )}
          {answer && step === "templates" && <FlatTemplates plan={shown} answer={answer} />}
          {answer && step === "pace" && (
            <PaceView
              plan={shown}
              answer={answer}
              onChange={change}
              onCut={() => {
                const face = new URLSearchParams(window.location.search).get("face");
                window.history.pushState(
                  null,
                  "",
                  `/plans/${start.id}/cut?${new URLSearchParams({ ...(panel > 0 ? { panel: String(panel + 1) } : {}), ...(face ? { face } : {}) })}`,
                );
              }}
              sheet={`/api/plans/${start.id}/sheet?panel=${panel + 1}`}
            />
          )}
          {answer && step === "cut" && (
            <CutView id={start.id} plan={shown} panel={panel} answer={answer} onClose={() => window.history.back()} onDone={(run) => keepRun(run, answer)} />
          )}
          {answer && step === "practice" && <PracticeView plan={shown} answer={answer} />}
          {answer && step === "finish" && <FinishView plan={shown} answer={answer} onChange={change} />}
          {answer && step === "blank" && (
            <InstrumentBoundary name="the blank">
              <BlankView plan={shown} answer={answer} boards={boards} whole={plan} design={live.document} onChange={change} />
            </InstrumentBoundary>
          )}
          {/* Another panel than the one that is shown may be one that cannot be drawn. */}
          {answer && step === "out" && (
            <InstrumentBoundary name="what is given out">
              <OutView id={start.id} plan={plan} design={live.document} onMade={made} />
            </InstrumentBoundary>
          )}
        </section>
      </main>
      <PlanChooser part={part} anchor={anchor} onClose={() => setPart(null)} plan={shown} panel={panel} cutters={cutters} change={change} />
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={SHORTCUTS} />
      <ClashFrame one="plan" conflict={conflict} onResolve={store.resolve}>
        {({ withMine, merged, current }) => (
          <>
            <p style={{ marginBottom: 0 }}>
              <strong>Here:</strong>
            </p>
            <PlanSentence plan={withMine} cutterFeed={null} onPick={() => undefined} />
            <p style={{ marginBottom: 0 }}>
              <strong>{whose({ current })}:</strong>
            </p>
            <PlanSentence plan={merged} cutterFeed={null} onPick={() => undefined} />
          </>
        )}
      </ClashFrame>
      <p className="visually-hidden" aria-live="polite">
        {answer ? `kerf ${show("kerf", answer.root.kerfMm)} at the root, ${show("kerf", answer.tip.kerfMm)} at the tip` : ""}
      </p>
    </div>
  );
}
