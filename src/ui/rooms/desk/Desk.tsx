"use client";
import "../../kit/theme/screens.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Snackbar from "@mui/material/Snackbar";
import dynamic from "next/dynamic";
import { useRouter } from "next/navigation";
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useStore } from "zustand";
import type { Design } from "@/core/cutters/design/schema";
import { evaluateDesign } from "@/core/cutters/solve/evaluate";
import { Cautions } from "../../cutter/Cautions";
import type { PartId } from "../../cutter/partId";
import { Rod } from "../../cutter/Rod";
import { DESK_VIEWS, type DeskView } from "../../cutter/views";
import { usePlace } from "../../kit/address";
import { ApiError, api } from "../../kit/api";
import { takeFromHandover } from "../../kit/handover";
import { HOTKEYS } from "../../kit/hotkeys";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { Rail, RailButton, RailSwitches } from "../../kit/Rail";
import { DESK_SHORTCUTS, ShortcutsDialog } from "../../kit/Shortcuts";
import { useLateAnswer } from "../../kit/useLateAnswer";
import { useUnits } from "../../kit/useUnits";
import { CuttingWindow } from "./CuttingWindow";
import { Chooser } from "./choosers/Chooser";
import { createDeskStore, type DeskStart, type DeskStore } from "./deskStore";
import { LiveFigures, PartFigures } from "./Figures";
import { Knob } from "./Knob";
import { partWords } from "./partWords";
import { ReadyMark } from "./ReadyMark";
import { SavedMark } from "./SavedMark";
import { Sentence } from "./Sentence";
import { VerdictPanel } from "./VerdictPanel";

/** Keeps the store's promises to the browser: save before leaving, look again on coming back, take up a lost draft. */
function useKeeping(store: DeskStore): void {
  useEffect(() => {
    store.recoverDraft();
    const { id } = store.getState();
    const handed = id ? takeFromHandover(id) : null;
    if (handed) {
      store.change(handed.design);
      store.setState({ notice: `${handed.words} Undo brings back what stood here.` });
    }
    const onHide = () => {
      if (document.visibilityState === "hidden") void store.flush(true);
      else void store.refresh();
    };
    const onLeave = () => void store.flush(true);
    document.addEventListener("visibilitychange", onHide);
    window.addEventListener("pagehide", onLeave);
    window.addEventListener("focus", store.refresh);
    return () => {
      document.removeEventListener("visibilitychange", onHide);
      window.removeEventListener("pagehide", onLeave);
      window.removeEventListener("focus", store.refresh);
      void store.flush(true);
    };
  }, [store]);
}

// Views bring their charts, canvases and file readers along: fetched by those who go there.
const SetupFinder = dynamic(() => import("../setups/SetupFinder").then((module) => module.SetupFinder), { ssr: false });
const BenchView = dynamic(() => import("../bench/BenchView").then((module) => module.BenchView), { ssr: false });
const LogView = dynamic(() => import("../log/LogView").then((module) => module.LogView), { ssr: false });
const SheetView = dynamic(() => import("../sheets/SheetView").then((module) => module.SheetView), { ssr: false });
const TensionView = dynamic(() => import("../tension/TensionView").then((module) => module.TensionView), { ssr: false });
const WiringView = dynamic(() => import("../sheets/WiringView").then((module) => module.WiringView), { ssr: false });

/** One cutter on the desk: the rod above, the sentence and figures at the left, the cutting window at the right. */
export function Desk({ cutter }: { cutter: DeskStart }) {
  const [store] = useState(() => createDeskStore(cutter));
  const { document: design, save, conflict, notice, past, future, id } = useStore(store);
  const [part, setPart] = useState<PartId | null>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [shortcuts, setShortcuts] = useState(false);
  const { place, go } = usePlace();
  const named = (DESK_VIEWS as readonly string[]).includes(place[0] ?? "") ? (place[0] as DeskView) : "desk";
  const finding = named === "setups";
  const view = finding ? "desk" : named;
  const setView = (next: DeskView) => (next === "desk" ? go() : go(next));
  const sentence = useRef<HTMLDivElement>(null);
  const { system, setSystem, show } = useUnits();
  const router = useRouter();
  useKeeping(store);
  useEffect(() => {
    // Fetched as soon as the desk stands: it must open also while the server is away.
    void import("../setups/SetupFinder");
  }, []);
  const answer = useMemo(() => evaluateDesign(design), [design]);
  const [onBench, setOnBench] = useState<Design | null>(null);
  // The rod draws what lies on the bench while somebody works there.
  const rod = view === "bench" && onBench ? onBench : design;
  const rodAnswer = useMemo(() => (rod === design ? answer : evaluateDesign(rod)), [rod, design, answer]);
  const late = useLateAnswer(rod, rodAnswer);

  const pick = (next: PartId) => {
    // The sentence holds the anchors: a part opened from another view brings the desk back first.
    if (view !== "desk") go();
    setPart(next);
  };
  useLayoutEffect(() => {
    if (part && view === "desk") setAnchor(sentence.current?.querySelector<HTMLElement>(`[data-part="${part === "kerf" ? "foam" : part}"]`) ?? null);
  }, [part, view]);
  const change = (next: Design, key?: string) => store.change(next, key);
  useHotkeys("mod+z", () => store.undo(), HOTKEYS);
  useHotkeys("mod+y, mod+shift+z", () => store.redo(), HOTKEYS);
  useHotkeys("f", () => pick("foam"), HOTKEYS);
  useHotkeys("w", () => pick("wire"), HOTKEYS);
  useHotkeys("s", () => pick("supply"), HOTKEYS);
  useHotkeys("c", () => pick("control"), HOTKEYS);
  useHotkeys("t", () => pick("tension"), HOTKEYS);
  useHotkeys("v", () => pick("feed"), HOTKEYS);
  useHotkeys("p", () => document.querySelector<SVGGElement>('[role="slider"][aria-label^="Working point"]')?.focus(), HOTKEYS);
  useHotkeys("d", () => setView("desk"), HOTKEYS);
  useHotkeys("n", () => setView("tension"), HOTKEYS);
  useHotkeys("e", () => setView("bench"), HOTKEYS);
  useHotkeys("x", () => setView("wiring"), HOTKEYS);
  useHotkeys("k", () => setView("log"), HOTKEYS);
  useHotkeys("b", () => setView("sheet"), HOTKEYS);
  useHotkeys("g", () => go("setups"), HOTKEYS);
  useHotkeys("u", () => setSystem(system === "metric" ? "inch" : "metric"), HOTKEYS);
  useHotkeys("l", () => router.push("/cutters"), HOTKEYS);
  useHotkeys("?", () => setShortcuts(true), { ...HOTKEYS, useKey: true });

  const keepCopy = async () => {
    try {
      const kept = await api.create(design);
      router.push(`/cutters/${kept.id}`);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      store.setState({ notice: error.message });
    }
  };

  return (
    <div className="desk">
      <Rail current="desk">
        <hr />
        <RailButton onClick={() => setView("desk")} current={view === "desk"}>
          Desk
        </RailButton>
        <RailButton onClick={() => pick("foam")}>Job</RailButton>
        <RailButton onClick={() => pick("wire")} mark={answer.cautions.some((c) => c.place === "wire") ? "!" : undefined}>
          Wire
        </RailButton>
        <RailButton onClick={() => pick("supply")} mark={answer.cautions.some((c) => c.place === "supply" || c.place === "control") ? "!" : undefined}>
          Power
        </RailButton>
        <RailButton onClick={() => setView("tension")} current={view === "tension"} mark={answer.cautions.some((c) => c.place === "tension") ? "!" : undefined}>
          Tension
        </RailButton>
        <RailButton onClick={() => setView("bench")} current={view === "bench"}>
          Bench
        </RailButton>
        <hr />
        <RailButton onClick={() => go("setups")}>Set-ups</RailButton>
        <RailButton onClick={() => setView("wiring")} current={view === "wiring"} mark={answer.cautions.some((c) => c.place === "wiring") ? "!" : undefined}>
          Wiring
        </RailButton>
        <RailButton onClick={() => setView("sheet")} current={view === "sheet"}>
          Build sheet
        </RailButton>
        <RailButton onClick={() => setView("log")} current={view === "log"}>
          Cut and log
        </RailButton>
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
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
            <div className="desk-name" style={{ display: "flex", justifyContent: "space-between", alignItems: "baseline", gap: 10, flexWrap: "wrap" }}>
              <NameField design={design} onChange={change} />
              <SavedMark save={save} onRetry={() => void store.flush()} />
            </div>
            <div style={{ display: "flex", gap: 4, alignItems: "center", justifyContent: "flex-end", fontSize: 15 }}>
              <ReadyMark design={design} answer={answer} onChange={(next) => change(next)} />
              <span style={{ flex: 1 }} />
              <Button size="small" disabled={past.length === 0} onClick={() => store.undo()}>
                Undo
              </Button>
              <Button size="small" disabled={future.length === 0} onClick={() => store.redo()}>
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
            <div ref={sentence}>
              <Sentence design={design} answer={answer} onPick={pick} />
            </div>
            <Knob design={design} answer={answer} curve={late.curve} onChange={(next) => change(next, "knob")} />
            <Cautions cautions={answer.cautions} />
            <PartFigures design={design} answer={answer} late={late} />
          </div>
          <div className="window-column">
            <div className="window-frame">
              <InstrumentBoundary name="the cutting window">
                <CuttingWindow design={design} answer={answer} onChange={(next) => change(next, "point")} />
              </InstrumentBoundary>
            </div>
            <VerdictPanel design={design} answer={answer} onChange={(next) => change(next)} />
          </div>
        </main>
      )}
      {view === "tension" && <TensionView design={design} answer={answer} id={id} onChange={change} />}
      {view === "bench" && <BenchView design={design} onTake={(next) => change(next)} onShown={setOnBench} />}
      {view === "wiring" && <WiringView design={design} answer={answer} onChange={(next) => change(next, "wiring")} />}
      {view === "log" && <LogView design={design} answer={answer} id={id} onChange={(next) => change(next)} />}
      {view === "sheet" && <SheetView design={design} id={id} onBeforePdf={() => store.flush()} />}
      <Chooser part={view === "desk" ? part : null} anchor={anchor} onClose={() => setPart(null)} design={design} answer={answer} change={change} />
      {finding && (
        <SetupFinder
          open
          onClose={() => go()}
          design={design}
          onTake={(next) => {
            change(next);
            go();
          }}
        />
      )}
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={DESK_SHORTCUTS} />
      {/* Kept to the left columns, so that the cures beside it stay in sight. */}
      <Snackbar open={notice !== null} onClose={() => store.setState({ notice: null })} autoHideDuration={9000} sx={{ maxWidth: 500 }}>
        <Alert severity="info" variant="filled" onClose={() => store.setState({ notice: null })}>
          {notice}
        </Alert>
      </Snackbar>
      <Dialog open={conflict !== null} aria-labelledby="clash-title">
        <DialogTitle id="clash-title">Changed in two places</DialogTitle>
        <DialogContent>
          Another tab saved a different <strong>{conflict?.clashes.join(", ")}</strong> of this cutter while you changed it here. Whatever only one of you
          changed is kept either way.
          {conflict && (
            <table className="plain-table" style={{ marginTop: 12 }}>
              <thead>
                <tr>
                  <th scope="col" />
                  <th scope="col">here</th>
                  <th scope="col">in the other tab</th>
                </tr>
              </thead>
              <tbody>
                {conflict.clashes.map((label) => (
                  <tr key={label} data-clash={label}>
                    <th scope="row" style={{ fontWeight: 400 }}>
                      {label}
                    </th>
                    <td>{partWords(conflict.withMine, label, show)}</td>
                    <td>{partWords(conflict.merged, label, show)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </DialogContent>
        <DialogActions>
          <Button onClick={() => void store.resolve("theirs")}>Take the other tab's</Button>
          <Button onClick={() => void store.resolve("mine")}>Keep mine</Button>
          <Button variant="contained" onClick={() => void store.resolve("both")}>
            Keep both, mine as a new cutter
          </Button>
        </DialogActions>
      </Dialog>
    </div>
  );
}

/** The cutter's name, changed in place. */
function NameField({ design, onChange }: { design: Design; onChange: (next: Design, key: string) => void }) {
  const [text, setText] = useState(design.name);
  const [editing, setEditing] = useState(false);
  const shown = editing ? text : design.name;
  const blank = editing && text.trim() === "";
  return (
    <div style={{ flex: 1, minWidth: 180 }}>
      <input
        aria-label="Cutter's name"
        aria-invalid={blank}
        value={shown}
        maxLength={80}
        onFocus={() => {
          setText(design.name);
          setEditing(true);
        }}
        onBlur={() => setEditing(false)}
        onChange={(event) => {
          setText(event.target.value);
          const name = event.target.value.trim();
          if (name) onChange({ ...design, name }, "name");
        }}
        style={{
          font: "inherit",
          fontSize: 24,
          fontWeight: 700,
          color: "inherit",
          background: "none",
          border: 0,
          borderBottom: "1px solid var(--line)",
          width: "100%",
          padding: "2px 0",
          textOverflow: "ellipsis",
        }}
      />
      {blank && <div role="alert">a name has 1 to 80 characters; the old one stays until you type one</div>}
    </div>
  );
}
