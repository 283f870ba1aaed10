"use client";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import type { Design } from "@/core/cutters/design/schema";
import type { DeferredEvaluation } from "@/core/cutters/solve/deferredEvaluation";
import { withSetting } from "@/core/cutters/solve/evaluate";
import { Cautions } from "../../cutter/Cautions";
import type { PartId } from "../../cutter/partId";
import { Rod } from "../../cutter/Rod";
import { DESK_VIEW_WORDS, type DeskView } from "../../cutter/views";
import { ApiError, api } from "../../kit/api";
import { DocumentHeader } from "../../kit/DocumentShell";
import { type AnyStore, DocumentActions, DocumentName } from "../../kit/DocumentStatus";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { InTurn } from "../../kit/InTurn";
import { seen } from "../../kit/lastSeen";
import { later, onDemand } from "../../kit/later";
import { useDeferredEvaluation } from "../../kit/useDeferredEvaluation";
import { useThrottled } from "../../kit/useThrottled";
import type { FinderProps } from "../setups/SetupFinder";
import { CuttingWindow } from "./CuttingWindow";
import type { OpenChooserProps } from "./choosers/Chooser";
import type { DeskStore } from "./deskStore";
import { evaluationOf } from "./evaluationOf";
import { LiveFigures, PartFigures } from "./Figures";
import { Knob } from "./Knob";
import { ReadyMark } from "./ReadyMark";
import { Sentence } from "./Sentence";
import { VerdictPanel } from "./VerdictPanel";

// Views bring their charts, canvases and file readers along: fetched by those who go there.
const BenchView = onDemand(() => import("../bench/BenchView").then((module) => module.BenchView));
const LogView = onDemand(() => import("../log/LogView").then((module) => module.LogView));
const SheetView = onDemand(() => import("../sheets/SheetView").then((module) => module.SheetView));
const TensionView = onDemand(() => import("../tension/TensionView").then((module) => module.TensionView));
const WiringView = onDemand(() => import("../sheets/WiringView").then((module) => module.WiringView));

const SetupFinder = later<FinderProps>(
  () => import("../setups/SetupFinder").then((module) => module.SetupFinder),
  ({ open }) => open,
);
const Chooser = later<OpenChooserProps>(
  () => import("./choosers/Chooser").then((module) => module.Chooser),
  ({ part }) => part !== null,
);

/** Changes that follow one another sooner than this are a hand's, which is still moving, ms. */
const MOVING_MS = 300;

/** The rod and, below it, whichever view is open: what moves with the design. */
export function DeskWork({
  store,
  first,
  view,
  finding,
  part,
  pick,
  closePart,
  closeSetups,
}: {
  store: DeskStore;
  /** The slower figures of the design as it came with the page. */
  first: DeferredEvaluation;
  view: DeskView;
  /** The set-up finder is over the desk. */
  finding: boolean;
  /** The part whose chooser is open. */
  part: PartId | null;
  pick: (part: PartId) => void;
  closePart: () => void;
  closeSetups: () => void;
}) {
  const design = useStore(store, ({ document }) => document);
  const id = useStore(store, (state) => state.id);
  const evaluation = evaluationOf(design);
  const [onBench, setOnBench] = useState<Design | null>(null);
  // The rod draws what lies on the bench while somebody works there.
  const rod = view === "bench" && onBench ? onBench : design;
  const rodEvaluation = evaluationOf(rod);
  // The point, the rod and the four figures follow the hand; what is read comes in steps.
  const now = useMemo(() => ({ design, evaluation, rod, rodEvaluation }), [design, evaluation, rod, rodEvaluation]);
  const throttled = useThrottled(now);
  const deferred = useDeferredEvaluation(throttled.rod, first);
  const settled = useMemo(() => ({ design: throttled.design, evaluation: throttled.evaluation, deferred }), [throttled, deferred]);
  // For when the workshop's computer does not answer: the card of what was last on the desk.
  useEffect(() => {
    if (id) seen({ cutter: { id, design: throttled.design, at: new Date().toISOString() } });
  }, [id, throttled.design]);
  const sentence = useRef<HTMLDivElement>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  useLayoutEffect(() => {
    if (part && view === "desk") setAnchor(sentence.current?.querySelector<HTMLElement>(`[data-part="${part === "kerf" ? "foam" : part}"]`) ?? null);
  }, [part, view]);
  const change = useCallback((next: Design, key?: string) => store.change(next, key), [store]);
  // When a hand last moved the point or the knob, ms: soon after, it is moving still.
  const handAt = useRef(Number.NEGATIVE_INFINITY);
  const moving = useCallback(() => performance.now() - handAt.current < MOVING_MS, []);
  // Under its own hand the knob follows it; under the point's it is read, and comes in steps with the rest.
  const [turning, setTurning] = useState(false);
  const turn = useCallback(
    (setting: number) => {
      setTurning(true);
      handAt.current = performance.now();
      store.change(withSetting(store.getState().document, setting), "knob");
    },
    [store],
  );
  const move = useCallback(
    (next: Design) => {
      setTurning(false);
      handAt.current = performance.now();
      store.change(next, "point");
    },
    [store],
  );
  const replace = useCallback((next: Design) => store.change(next), [store]);
  const open = view === "desk" ? part : null;

  return (
    <>
      <DocumentHeader name={design.name} view={finding ? DESK_VIEW_WORDS.setups : view !== "desk" && DESK_VIEW_WORDS[view]}>
        <InstrumentBoundary name="the rod">
          <Rod design={rod} evaluation={rodEvaluation} course={deferred.course} onPick={pick} grown={view === "tension"} />
        </InstrumentBoundary>
        <LiveFigures design={rod} evaluation={rodEvaluation} />
      </DocumentHeader>
      {view === "desk" && (
        <main className="desk-main">
          <div className="bench-column">
            <div className="desk-name">
              <DocumentName store={store as unknown as AnyStore} />
            </div>
            <CutterActions store={store} />
            <div ref={sentence}>
              <InTurn value={settled} frames={3} moving={moving}>
                {({ design, evaluation }) => <Sentence design={design} evaluation={evaluation} onPick={pick} />}
              </InTurn>
            </div>
            <Knob design={turning ? design : throttled.design} throttled={throttled} curve={deferred.curve} onSet={turn} />
            <InTurn value={settled} frames={4} moving={moving}>
              {({ evaluation }) => <Cautions cautions={evaluation.cautions} />}
            </InTurn>
            <InTurn value={settled} frames={2} moving={moving}>
              {({ design, evaluation, deferred }) => <PartFigures design={design} evaluation={evaluation} deferred={deferred} />}
            </InTurn>
          </div>
          <div className="window-column">
            <div className="window-frame">
              <InstrumentBoundary name="the cutting window">
                <CuttingWindow design={design} evaluation={evaluation} onChange={move} />
              </InstrumentBoundary>
            </div>
            <InTurn value={settled} frames={1} moving={moving}>
              {({ design, evaluation, deferred }) => <VerdictPanel design={design} evaluation={evaluation} deferred={deferred} onChange={replace} />}
            </InTurn>
          </div>
        </main>
      )}
      {view === "tension" && <TensionView design={design} evaluation={evaluation} id={id} onChange={change} />}
      {view === "bench" && <BenchView design={design} onTake={replace} onShown={setOnBench} />}
      {view === "wiring" && <WiringView design={design} evaluation={evaluation} onChange={(next) => change(next, "wiring")} />}
      {view === "log" && <LogView design={design} evaluation={evaluation} id={id} onChange={replace} />}
      {view === "sheet" && <SheetView design={design} id={id} onBeforePdf={() => store.flush()} />}
      <Chooser part={open} anchor={anchor} onClose={closePart} design={design} evaluation={evaluation} change={change} />
      <SetupFinder
        open={finding}
        onClose={closeSetups}
        design={design}
        onTake={(next) => {
          replace(next);
          closeSetups();
        }}
      />
    </>
  );
}

/** Ready or not, undo, and what is done with the whole cutter. */
const CutterActions = memo(function CutterActions({ store }: { store: DeskStore }) {
  const id = useStore(store, (state) => state.id);
  const router = useRouter();
  const keepCopy = async () => {
    try {
      const saved = await api.cutters.create(store.getState().document);
      router.push(`/cutters/${saved.id}`);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      store.setState({ notice: error.message });
    }
  };
  return (
    <div className="document-actions">
      <ReadyMark store={store} />
      <span className="spring" />
      <DocumentActions store={store as unknown as AnyStore} />
      {!id && (
        <Button size="small" variant="contained" onClick={() => void keepCopy()}>
          Keep a copy
        </Button>
      )}
    </div>
  );
});
