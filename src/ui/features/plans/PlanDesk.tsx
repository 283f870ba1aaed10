"use client";
import type { StoredDocument } from "@/core/kernel/document";
import "../../kit/theme/screens.css";
import "../../kit/theme/plans.css";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { useCallback, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useStore } from "zustand";
import type { Design } from "@/core/cutters/design/schema";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import type { Board } from "@/core/plans/cutList";
import type { PlanEvaluation } from "@/core/plans/evaluate";
import { panelCount, panelPlan, withOneMore, withPanel } from "@/core/plans/panels";
import type { Plan } from "@/core/plans/plan";
import { type FinishedRun, planRunEntry, withMade, withRun } from "@/core/plans/runRecord";
import { LinkedRod } from "../../cutter/LinkedRod";
import { usePlace, useQueryParameter } from "../../kit/address";
import { DocumentFrame } from "../../kit/DocumentFrame";
import { HOTKEYS } from "../../kit/hotkeys";
import { logQueue } from "../../kit/logQueue";
import { RailButton } from "../../kit/Rail";
import { Tile } from "../../kit/Tile";
import { useLinkedDocument } from "../../kit/useLinkedDocument";
import { useUnits } from "../../kit/useUnits";
import { whose } from "../../kit/whose";
import { PlanChooser } from "./PlanChooser";
import { PlanFigures } from "./PlanFigures";
import { type PlanFrame, PlanMisfits } from "./PlanMisfits";
import { type PlanPart, PlanSentence } from "./PlanSentence";
import { PlanView } from "./PlanView";
import { createPlanStore } from "./planStore";
import { PLAN_STEPS, type PlanStep, STEP_WORDS } from "./steps";
import { usePlanEvaluation } from "./usePlanEvaluation";

const HOTKEY_OF: Readonly<Record<PlanStep, string>> = {
  part: "1",
  ends: "2",
  templates: "3",
  pace: "4",
  blank: "5",
  out: "6",
  cut: "7",
  finish: "8",
  practice: "9",
};
const STEPS = (["part", ...PLAN_STEPS] as const).map((id) => ({ id, words: STEP_WORDS[id], hotkey: HOTKEY_OF[id] }));

const SHORTCUTS = [
  { keys: "1 to 9", does: "part, ends, templates, pace, blank, export, pacer, finish, practice" },
  { keys: "F and J, in practice", does: "held, the root's and the tip's hand go on" },
  { keys: "space on the pacer", does: "start, pause, or a number passed; P pauses, Escape leads back" },
  { keys: "R, T", does: "the root's and the tip's shape" },
  { keys: "arrows on the drawing", does: "turn the block" },
  { keys: "arrows on an end", does: "move the handle that is held; Page Up and Page Down take the next" },
  { keys: "Ctrl Z, Ctrl Y", does: "undo, redo" },
  { keys: "U", does: "millimetres or inches" },
];

/** Notes on how the two ends' templates lie to each other. */
const OF_TEMPLATES: ReadonlySet<string> = new Set(["base-lines", "twist"]);

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

/** Dangers, cautions and notes of a plan, each with the basis of its figures. */
function PlanNotes({ notes }: { notes: PlanEvaluation["notes"] }) {
  return notes.map((note) => (
    <p key={note.code + note.words} data-note={note.code} className={`plan-note plan-note-${note.severity}`}>
      <strong>{{ danger: "Danger. ", caution: "Caution. ", note: "" }[note.severity]}</strong>
      {note.words} <span className="plan-basis">({note.basis})</span>
    </p>
  ));
}

/** Stores in the plan that its templates were made, and finished cuts; both say whether the plan is saved. */
function useMadeAndRun(store: ReturnType<typeof createPlanStore>, panel: number, spanMm: number) {
  const isSaved = async () => {
    await store.flush();
    return store.getState().save.kind === "saved";
  };
  const made = async (of: PlanEvaluation) => {
    store.change(withMade(store.getState().document, of, new Date().toISOString()));
    return isSaved();
  };
  /** Stores a finished cut in the plan, number by number, and as a run in its cutter's log. */
  const logRun = async (run: FinishedRun, of: PlanEvaluation) => {
    const at = new Date().toISOString();
    store.change(withRun(store.getState().document, run, panel, at));
    if (!(await isSaved())) throw new Error("the plan is not saved");
    const { document } = store.getState();
    const entry = planRunEntry(document, of, run, spanMm, at);
    if (document.cutter && entry) await logQueue.keep(document.cutter.id, entry);
  };
  return { made, logRun };
}

/** One plan: the part as a sentence, the block with its templates next to it, and the steps from drawing to paper. */
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
  const live = useLinkedDocument("cutters", plan.cutter?.id ?? null, cutter);
  const { place, go, goWithQuery } = usePlace();
  const [requestedPanel] = useQueryParameter("panel");
  const panels = panelCount(plan);
  // An address may name a panel that is no more.
  const panel = Math.min(panels, Math.max(1, Math.trunc(Number(requestedPanel) || 1))) - 1;
  const evaluated = usePlanEvaluation(plan, live.document, panel);
  const cutterEvaluation = useMemo(() => (live.document ? evaluateDesign(live.document) : null), [live.document]);
  const step: PlanStep = (PLAN_STEPS as readonly string[]).includes(place[0] ?? "") ? (place[0] as PlanStep) : "part";
  const [part, setPart] = useState<PlanPart | null>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const sentence = useRef<HTMLDivElement>(null);
  const { show } = useUnits();
  const router = useRouter();
  const goTo = useCallback(
    (next: PlanStep, of = panel) => {
      const where = next === "part" ? "" : next;
      if (of > 0) goWithQuery(where, "panel", String(of + 1));
      else go(...(where ? [where] : []));
    },
    [go, goWithQuery, panel],
  );
  const pick = useCallback((next: PlanPart) => setPart(next), []);
  useLayoutEffect(() => {
    if (part) setAnchor(sentence.current?.querySelector<HTMLElement>(`[data-part="${part}"]`) ?? null);
  }, [part]);
  /** The open panel as a plan of its own, and a change of it put back where it belongs. */
  const shown = evaluated?.panel?.plan ?? panelPlan(plan, panel);
  const change = useCallback((next: Plan, key?: string) => store.change(withPanel(store.getState().document, panel, next), key), [store, panel]);
  useHotkeys("r", () => pick("root"), HOTKEYS);
  useHotkeys("t", () => pick("tip"), HOTKEYS);
  const evaluation = evaluated?.panel?.evaluation ?? null;
  const { made, logRun } = useMadeAndRun(store, panel, shown.part.span_mm);
  const motors = frames[0]?.name ?? null;
  // Motors follow the lines themselves: how templates lie to one another is no matter there.
  const notes = evaluation?.notes.filter(({ code }) => motors === null || !OF_TEMPLATES.has(code)) ?? [];

  return (
    <DocumentFrame
      store={store}
      steps={STEPS}
      step={step}
      onStep={goTo}
      links={
        <>
          <hr />
          <RailButton onClick={() => router.push(`/rigs?plan=${start.id}`)}>Its rigs</RailButton>
          {plan.cutter && !live.gone && <RailButton onClick={() => router.push(`/cutters/${plan.cutter?.id}`)}>Its cutter</RailButton>}
        </>
      }
      rod={
        <LinkedRod design={live.document} evaluation={cutterEvaluation}>
          <p className="plan-no-cutter">
            {live.gone ? `${plan.cutter?.name} is not here any more: ` : ""}
            <button type="button" className="plain-link" onClick={() => pick("cutter")}>
              Name the cutter this is meant for
            </button>
            , and its kerf is computed.
          </p>
        </LinkedRod>
      }
      column={
        <>
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
          {evaluation && (
            <PlanMisfits
              plan={shown}
              evaluation={evaluation}
              frames={frames}
              cutterId={plan.cutter?.id ?? null}
              onChange={change}
              onOtherCutter={() => pick("cutter")}
            />
          )}
          {evaluation && <PlanFigures plan={shown} evaluation={evaluation} />}
          <PlanNotes notes={notes} />
        </>
      }
      view={
        <PlanView
          id={start.id}
          step={step}
          plan={plan}
          shown={shown}
          panel={panel}
          evaluation={evaluation}
          fault={evaluated?.fault ?? null}
          design={live.document}
          cutterEvaluation={cutterEvaluation}
          boards={boards}
          motors={motors}
          change={change}
          onMade={made}
          onRun={logRun}
        />
      }
      shortcuts={SHORTCUTS}
      conflict={({ withMine, merged, current }) => (
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
    >
      <PlanChooser part={part} anchor={anchor} onClose={() => setPart(null)} plan={shown} panel={panel} cutters={cutters} change={change} />
      <p className="visually-hidden" aria-live="polite">
        {evaluation ? `kerf ${show("kerf", evaluation.root.kerfMm)} at the root, ${show("kerf", evaluation.tip.kerfMm)} at the tip` : ""}
      </p>
    </DocumentFrame>
  );
}
