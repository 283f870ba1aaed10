"use client";
import type { Design } from "@/core/cutters/design/schema";
import type { Conflict, DocumentStart } from "../../kit/documentStore";
import "../../kit/theme/screens.css";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useState } from "react";
import { useStore } from "zustand";
import type { DeferredEvaluation } from "@/core/cutters/solve/deferredEvaluation";
import type { PartId } from "../../cutter/partId";
import { DESK_VIEWS, type DeskView } from "../../cutter/views";
import { usePlace } from "../../kit/address";
import { ApiError, api } from "../../kit/api";
import { DocumentShell } from "../../kit/DocumentShell";
import { takeFromHandover } from "../../kit/handover";
import { later } from "../../kit/later";
import { RailButton } from "../../kit/Rail";
import { DESK_SHORTCUTS } from "../../kit/Shortcuts";
import type { DeskKeysProps } from "./DeskKeys";
import { DeskWork } from "./DeskWork";
import { createDeskStore, type DeskStore } from "./deskStore";
import { evaluationOf } from "./evaluationOf";

const DeskKeys = later<DeskKeysProps>(
  () => import("./DeskKeys").then((module) => module.DeskKeys),
  () => true,
);
const loadClashTable = () => import("./ClashTable").then((module) => module.ClashTable);
const ClashTable = later<Conflict<Design>>(loadClashTable, () => true);

/**
 * One cutter on the desk: the rod above, the sentence and figures at the left, the cutting window at the right.
 * Nothing here is drawn again while a hand moves: each part takes from the store the slice that it shows.
 */
export function Desk({ cutter, deferred }: { cutter: DocumentStart<Design>; deferred: DeferredEvaluation }) {
  const [store] = useState(() => createDeskStore(cutter));
  const [part, setPart] = useState<PartId | null>(null);
  const [keyed, setKeyed] = useState(false);
  const { place, go } = usePlace();
  const named = (DESK_VIEWS as readonly string[]).includes(place[0] ?? "") ? (place[0] as DeskView) : "desk";
  const finding = named === "setups";
  const view = finding ? "desk" : named;
  const setView = (next: DeskView) => (next === "desk" ? go() : go(next));
  // Fetched with the page's other late parts, so that the dialog of a conflict opens whole; what does not come now is requested again by the dialog.
  useEffect(() => void loadClashTable().catch(() => undefined), []);
  useEffect(() => {
    const { id } = store.getState();
    const handed = id ? takeFromHandover(id) : null;
    if (!handed) return;
    store.change(handed.design);
    store.setState({ notice: `${handed.words} Undo brings back what was here.` });
  }, [store]);
  const pick = useCallback(
    (next: PartId) => {
      // The sentence holds the anchors: a part opened from another view brings the desk back first.
      if (view !== "desk") go();
      setPart(next);
    },
    [view, go],
  );
  const closePart = useCallback(() => setPart(null), []);

  return (
    <DocumentShell
      store={store}
      current="desk"
      ready={keyed}
      keys={(onShortcuts) => (
        <DeskKeys store={store} pick={pick} onView={setView} onSetups={() => go("setups")} onShortcuts={onShortcuts} onReady={() => setKeyed(true)} />
      )}
      rail={<DeskRail store={store} view={view} setView={setView} pick={pick} onSetups={() => go("setups")} />}
      shortcuts={DESK_SHORTCUTS}
      conflict={(conflict) => <ClashTable {...conflict} />}
    >
      <DeskWork store={store} first={deferred} view={view} finding={finding} part={part} pick={pick} closePart={closePart} closeSetups={() => go()} />
    </DocumentShell>
  );
}

/** Places that have a button in the rail, and which of them a caution marks. */
const MARKED = ["wire", "supply", "control", "tension", "wiring"] as const;

function DeskRail({
  store,
  view,
  setView,
  pick,
  onSetups,
}: {
  store: DeskStore;
  view: DeskView;
  setView: (view: DeskView) => void;
  pick: (part: PartId) => void;
  onSetups: () => void;
}) {
  const marks = useStore(store, ({ document }) =>
    MARKED.filter((place) => evaluationOf(document).cautions.some((caution) => caution.place === place)).join(" "),
  );
  const id = useStore(store, (state) => state.id);
  const router = useRouter();
  /** A plan that is meant for this cutter, made and opened. */
  const planForThis = async () => {
    await store.flush();
    try {
      const { name, job } = store.getState().document;
      // Shapes and what draws them come only with a plan.
      const { firstPlan } = await import("@/core/plans/plan");
      const made = await api.plans.create(firstPlan("New plan", { id: id as string, name }, job));
      router.push(`/plans/${made.id}`);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      store.setState({ notice: error.message });
    }
  };
  const marked = (...places: (typeof MARKED)[number][]) => (places.some((place) => marks.split(" ").includes(place)) ? "!" : undefined);
  return (
    <>
      <RailButton onClick={() => setView("desk")} current={view === "desk"}>
        Desk
      </RailButton>
      <RailButton onClick={() => pick("foam")}>Job</RailButton>
      <RailButton onClick={() => pick("wire")} mark={marked("wire")}>
        Wire
      </RailButton>
      <RailButton onClick={() => pick("supply")} mark={marked("supply", "control")}>
        Power
      </RailButton>
      <RailButton onClick={() => setView("tension")} current={view === "tension"} mark={marked("tension")}>
        Tension
      </RailButton>
      <RailButton onClick={() => setView("bench")} current={view === "bench"}>
        Bench
      </RailButton>
      <hr />
      <RailButton onClick={onSetups}>Set-ups</RailButton>
      <RailButton onClick={() => setView("wiring")} current={view === "wiring"} mark={marked("wiring")}>
        Wiring
      </RailButton>
      <RailButton onClick={() => setView("sheet")} current={view === "sheet"}>
        Build sheet
      </RailButton>
      <RailButton onClick={() => setView("log")} current={view === "log"}>
        Cut and log
      </RailButton>
      {id && <RailButton onClick={() => void planForThis()}>Plan a part</RailButton>}
    </>
  );
}
