"use client";
import Button from "@mui/material/Button";
import dynamic from "next/dynamic";
import { useRouter } from "next/navigation";
import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import type { Design } from "@/core/cutters/design/schema";
import { Cautions } from "../../cutter/Cautions";
import type { PartId } from "../../cutter/partId";
import { Rod } from "../../cutter/Rod";
import type { DeskView } from "../../cutter/views";
import { ApiError, api } from "../../kit/api";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { seen } from "../../kit/lastSeen";
import { NameInput } from "../../kit/NameInput";
import { Presence } from "../../kit/Presence";
import { SavedMark } from "../../kit/SavedMark";
import { useCalm } from "../../kit/useCalm";
import { useLateAnswer } from "../../kit/useLateAnswer";
import { answerOf } from "./answerOf";
import { CuttingWindow } from "./CuttingWindow";
import { Chooser } from "./choosers/Chooser";
import type { DeskStore } from "./deskStore";
import { LiveFigures, PartFigures } from "./Figures";
import { Knob } from "./Knob";
import { ReadyMark } from "./ReadyMark";
import { Sentence } from "./Sentence";
import { VerdictPanel } from "./VerdictPanel";

// Views bring their charts, canvases and file readers along: fetched by those who go there.
const SetupFinder = dynamic(() => import("../setups/SetupFinder").then((module) => module.SetupFinder), { ssr: false });
const BenchView = dynamic(() => import("../bench/BenchView").then((module) => module.BenchView), { ssr: false });
const LogView = dynamic(() => import("../log/LogView").then((module) => module.LogView), { ssr: false });
const SheetView = dynamic(() => import("../sheets/SheetView").then((module) => module.SheetView), { ssr: false });
const TensionView = dynamic(() => import("../tension/TensionView").then((module) => module.TensionView), { ssr: false });
const WiringView = dynamic(() => import("../sheets/WiringView").then((module) => module.WiringView), { ssr: false });

/** The rod and, below it, whichever view is open: what moves with the design. */
export function DeskWork({
  store,
  view,
  finding,
  part,
  pick,
  closePart,
  closeSetups,
}: {
  store: DeskStore;
  view: DeskView;
  /** The set-up finder stands over the desk. */
  finding: boolean;
  /** The part whose chooser is open. */
  part: PartId | null;
  pick: (part: PartId) => void;
  closePart: () => void;
  closeSetups: () => void;
}) {
  const design = useStore(store, ({ document }) => document);
  const id = useStore(store, (state) => state.id);
  const answer = answerOf(design);
  const [onBench, setOnBench] = useState<Design | null>(null);
  // The rod draws what lies on the bench while somebody works there.
  const rod = view === "bench" && onBench ? onBench : design;
  const rodAnswer = answerOf(rod);
  // The point, the rod and the four figures follow the hand; what is read comes in steps.
  const now = useMemo(() => ({ design, answer, rod, rodAnswer }), [design, answer, rod, rodAnswer]);
  const calm = useCalm(now);
  const late = useLateAnswer(calm.rod, calm.rodAnswer);
  // For when the workshop's computer does not answer: the card of what was last on the desk.
  useEffect(() => {
    if (id) seen({ cutter: { id, design: calm.design, at: new Date().toISOString() } });
  }, [id, calm.design]);
  const sentence = useRef<HTMLDivElement>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  useLayoutEffect(() => {
    if (part && view === "desk") setAnchor(sentence.current?.querySelector<HTMLElement>(`[data-part="${part === "kerf" ? "foam" : part}"]`) ?? null);
  }, [part, view]);
  const change = useCallback((next: Design, key?: string) => store.change(next, key), [store]);
  const turn = useCallback((next: Design) => store.change(next, "knob"), [store]);
  const move = useCallback((next: Design) => store.change(next, "point"), [store]);
  const replace = useCallback((next: Design) => store.change(next), [store]);
  const open = view === "desk" ? part : null;

  return (
    <>
      <header className="rod-strip">
        <h1 className="visually-hidden">{design.name}</h1>
        <InstrumentBoundary name="the rod">
          <Rod design={rod} answer={rodAnswer} course={late.course} onPick={pick} grown={view === "tension"} />
        </InstrumentBoundary>
        <LiveFigures design={rod} answer={rodAnswer} />
      </header>
      {view === "desk" && (
        <main className="desk-main">
          <div className="bench-column">
            <div className="desk-name">
              <Named store={store} />
              <Saved store={store} />
            </div>
            <Deeds store={store} />
            <div ref={sentence}>
              <Sentence design={calm.design} answer={calm.answer} onPick={pick} />
            </div>
            <Knob design={design} calm={calm} curve={late.curve} onChange={turn} />
            <Cautions cautions={calm.answer.cautions} />
            <PartFigures design={calm.design} answer={calm.answer} late={late} />
          </div>
          <div className="window-column">
            <div className="window-frame">
              <InstrumentBoundary name="the cutting window">
                <CuttingWindow design={design} answer={answer} onChange={move} />
              </InstrumentBoundary>
            </div>
            <VerdictPanel design={calm.design} answer={calm.answer} late={late} onChange={replace} />
          </div>
        </main>
      )}
      {view === "tension" && <TensionView design={design} answer={answer} id={id} onChange={change} />}
      {view === "bench" && <BenchView design={design} onTake={replace} onShown={setOnBench} />}
      {view === "wiring" && <WiringView design={design} answer={answer} onChange={(next) => change(next, "wiring")} />}
      {view === "log" && <LogView design={design} answer={answer} id={id} onChange={replace} />}
      {view === "sheet" && <SheetView design={design} id={id} onBeforePdf={() => store.flush()} />}
      {open !== null && <Chooser part={open} anchor={anchor} onClose={closePart} design={design} answer={answer} change={change} />}
      {finding && (
        <SetupFinder
          open
          onClose={closeSetups}
          design={design}
          onTake={(next) => {
            replace(next);
            closeSetups();
          }}
        />
      )}
    </>
  );
}

const Named = memo(function Named({ store }: { store: DeskStore }) {
  const name = useStore(store, ({ document }) => document.name);
  return <NameInput label="Cutter's name" name={name} onName={(next) => store.change({ ...store.getState().document, name: next }, "name")} />;
});

const Saved = memo(function Saved({ store }: { store: DeskStore }) {
  const save = useStore(store, (state) => state.save);
  const id = useStore(store, (state) => state.id);
  return (
    <>
      <SavedMark save={save} onRetry={() => void store.flush()} />
      <Presence at={id && `cutters/${id}`} />
    </>
  );
});

/** Ready or not, undo, and what is done with the whole cutter. */
const Deeds = memo(function Deeds({ store }: { store: DeskStore }) {
  const id = useStore(store, (state) => state.id);
  const undoable = useStore(store, ({ past }) => past.length > 0);
  const redoable = useStore(store, ({ future }) => future.length > 0);
  const router = useRouter();
  const keepCopy = async () => {
    try {
      const kept = await api.create(store.getState().document);
      router.push(`/cutters/${kept.id}`);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      store.setState({ notice: error.message });
    }
  };
  return (
    <div className="desk-deeds">
      <ReadyMark store={store} />
      <span className="spring" />
      <Button size="small" disabled={!undoable} onClick={() => store.undo()}>
        Undo
      </Button>
      <Button size="small" disabled={!redoable} onClick={() => store.redo()}>
        Redo
      </Button>
      {id ? (
        <Button size="small" href={`/api/cutters/${id}/file`} onClick={() => void store.flush()}>
          Export
        </Button>
      ) : (
        <Button size="small" variant="contained" onClick={() => void keepCopy()}>
          Keep a copy
        </Button>
      )}
    </div>
  );
});
