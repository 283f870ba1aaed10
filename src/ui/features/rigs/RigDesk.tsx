"use client";
import type { StoredDocument } from "@/core/kernel/document";
import type { RigDocument } from "@/core/rigs/rig";
import "../../kit/theme/screens.css";
import "../../kit/theme/plans.css";
import "../../kit/theme/rigs.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import type { Design } from "@/core/cutters/design/schema";
import { CoreError } from "@/core/kernel/errors";
import type { Plan } from "@/core/plans/plan";
import { type Rig, rigRecord } from "@/core/rigs/kinds";
import { EngineClient } from "@/workers/clients";
import { LinkedRod } from "../../cutter/LinkedRod";
import { usePlace } from "../../kit/address";
import { DocumentFrame } from "../../kit/DocumentFrame";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { onDemand } from "../../kit/later";
import { RailButton } from "../../kit/Rail";
import { useLinkedDocument } from "../../kit/useLinkedDocument";
import { whose } from "../../kit/whose";
import { RigBuild } from "./RigBuild";
import { RigDrawing } from "./RigDrawing";
import { RigFeel } from "./RigFeel";
import { RigFields, RigNoteLine } from "./RigFields";
import { RigLog } from "./RigLog";
import { RigFigures, RigSums } from "./RigSums";
import { createRigStore } from "./rigStore";
import { RIG_STEP_WORDS, RIG_STEPS, type RigStep } from "./steps";
import { useRig } from "./useRig";

const RigPath = onDemand(() => import("./RigPath").then((module) => module.RigPath));
const RigLessons = onDemand(() => import("./RigLessons").then((module) => module.RigLessons));
const RigRun = onDemand(() => import("./run/RigRun").then((module) => module.RigRun));

const HOTKEY_OF: Partial<Record<RigStep, string>> = { rig: "1", sums: "2", build: "3", feel: "4", log: "5", program: "6", run: "7" };
const STEPS = (["rig", ...RIG_STEPS] as const).map((id) => ({ id, words: RIG_STEP_WORDS[id], hotkey: HOTKEY_OF[id] ?? "" }));

/** Steps of motorised rigs. */
const MOTORISED: readonly RigStep[] = ["program", "run", "lessons"];

type Named = { id: string; name: string };

const SHORTCUTS = [
  { keys: "1 to 7", does: "drawing, calculations, build sheet, practice, log a cut, path, run" },
  { keys: "space, S, in a run", does: "hold or go on; stop" },
  { keys: "arrows on a handle", does: "move it; with Shift, five times as far" },
  { keys: "H, in practice", does: "held, it holds back" },
  { keys: "Ctrl Z, Ctrl Y", does: "undo, redo" },
  { keys: "U", does: "millimetres or inches" },
];

/** A hand bow of the workshop, and what its wire carries, N. */
interface Bow {
  name: string;
  carriedN: number;
  weightN: number;
}

type RigState = ReturnType<typeof useRig>;
type Change = (next: Readonly<Record<string, unknown>>, key?: string) => void;

/** What a rig is made of: its sentence, its cautions, its fields, and what it is for. */
function RigColumn({
  store,
  view,
  cutters,
  plans,
  bows,
  planGone,
  changePlan,
  change,
}: {
  store: ReturnType<typeof createRigStore>;
  view: RigState;
  cutters: readonly Named[];
  plans: readonly Named[];
  bows: readonly Bow[];
  planGone: boolean;
  changePlan: (next: Plan) => Promise<unknown>;
  change: Change;
}) {
  const document = useStore(store, (state) => state.document);
  const { rig } = document;
  const record = rigRecord(rig.kind);
  const { evaluation, show, fault } = view;
  const [planFault, setPlanFault] = useState<string | null>(null);
  const curePlan = (next: Plan) => {
    setPlanFault(null);
    changePlan(next).catch((error: unknown) => setPlanFault(error instanceof Error ? error.message : String(error)));
  };
  const own = record.fields.map(({ key }) => key);
  const loose = evaluation?.notes.filter(({ field }) => field === undefined || !own.includes(field)) ?? [];
  const choose = (what: "cutter" | "plan", from: readonly Named[]) => (id: string) => {
    const chosen = from.find((each) => each.id === id) ?? null;
    store.change({ ...store.getState().document, [what]: chosen && { id: chosen.id, name: chosen.name } }, what);
  };

  return (
    <>
      <p className="rig-says" data-testid="rig-says" aria-live="polite">
        {evaluation ? evaluation.says : "This cannot be built so."}
      </p>
      {/* What cannot be cut is said first, before all that could be set. */}
      {loose
        .filter(({ severity }) => severity === "danger")
        .map((note) => (
          <RigNoteLine key={note.code} note={note} onCure={(next) => change(next, note.code)} onPlan={curePlan} />
        ))}
      {fault && !own.some((key) => fault.path.startsWith(key)) && (
        <Alert severity="error" role="alert">
          {fault.message}
        </Alert>
      )}
      {view.planFault && <Alert severity="warning">The plan next to it cannot be used: {view.planFault}</Alert>}
      {planGone && <Alert severity="info">{document.plan?.name} is not here any more: the rig is used without it.</Alert>}
      <div className="plan-pair" style={{ marginBottom: 8 }}>
        <Choice label="Cutter that hangs in it" value={document.cutter} from={cutters} onChoose={choose("cutter", cutters)} none="none: habit" />
        {record.takesPlan && <Choice label="Plan it cuts" value={document.plan} from={plans} onChoose={choose("plan", plans)} none="none" />}
      </div>
      {bows.length > 0 && <FromBow rig={rig} bows={bows} onChange={change} show={show} />}
      {rig.kind === "swing" && <BestPlace rig={rig} view={view} onChange={change} />}
      <RigFields record={record} rig={rig} notes={evaluation?.notes ?? []} fault={fault} onChange={change} />
      {loose
        .filter(({ severity }) => severity !== "danger")
        .map((note) => (
          <RigNoteLine key={note.code} note={note} onCure={(next) => change(next, note.code)} onPlan={curePlan} />
        ))}
      {planFault && (
        <Alert severity="error" onClose={() => setPlanFault(null)}>
          The plan is not changed: {planFault}
        </Alert>
      )}
      <NotesField notes={document.notes} onNotes={(notes) => store.change({ ...store.getState().document, notes }, "notes")} />
    </>
  );
}

/** The open step of a rig: the thing itself to scale, its figures, its program, its run, its build sheet or its log. */
function RigStepView({
  step,
  store,
  id,
  view,
  design,
  change,
}: {
  step: RigStep;
  store: ReturnType<typeof createRigStore>;
  id: string;
  view: RigState;
  design: Design | null;
  change: Change;
}) {
  const document = useStore(store, (state) => state.document);
  const { rig } = document;
  const record = rigRecord(rig.kind);
  const { evaluation, drawing, show } = view;
  const { cut } = view.around;
  const feel = useMemo(() => {
    if (step !== "feel" || !record.feel) return null;
    try {
      return record.feel(rig, view.around);
    } catch (error) {
      if (error instanceof CoreError) return null;
      throw error;
    }
  }, [step, record, rig, view.around]);
  const inputs = `${cut.computed ? (document.cutter?.name ?? "the cutter") : "the workshop's habit"}: kerf ${show("kerf", cut.kerfMm)} at ${show("feed", cut.feedMmS)}, drag ${cut.dragNPerM.toFixed(2)} N/m.`;
  return (
    <>
      {step === "rig" && drawing && (
        <InstrumentBoundary name="the drawing">
          <RigDrawing
            drawing={drawing}
            title={`${document.name}: ${evaluation?.says ?? ""}`}
            handles={record.handles?.(rig) ?? []}
            onMove={(handle, to) =>
              record.moved && change(record.moved(store.getState().document.rig, handle, to) as unknown as Record<string, unknown>, handle)
            }
          />
        </InstrumentBoundary>
      )}
      {step === "rig" && evaluation && <RigFigures figures={evaluation.figures} show={show} inputs={inputs} />}
      {step === "sums" && evaluation && <RigSums evaluation={evaluation} show={show} />}
      {step === "program" && rig.kind === "frame" && <RigPath rig={rig} around={view.around} show={show} name={document.name} onChange={change} />}
      {step === "run" && (
        <p className="run-of" data-testid="run-of">
          {document.cutter ? `Cutter: ${document.cutter.name}` : "No cutter is chosen: choose one on the drawing."}
          {document.plan ? ` · Plan: ${document.plan.name}` : ""}
        </p>
      )}
      {step === "run" &&
        evaluation?.notes
          .filter(({ severity }) => severity === "danger")
          .map((note) => <RigNoteLine key={note.code} note={note} onCure={(next) => change(next, note.code)} />)}
      {step === "run" && rig.kind === "frame" && (
        <RigRun id={id} document={document} rig={rig} around={view.around} feedMmS={Math.min(rig.feed_mm_s, cut.feedMmS)} show={show} />
      )}
      {step === "lessons" && record.program && <RigLessons show={show} />}
      {step === "build" && evaluation && (
        <RigBuild
          id={id}
          lines={record.build(rig, view.around, show)}
          onBefore={async () => {
            await store.flush();
            return store.getState().save.kind === "saved";
          }}
        />
      )}
      {step === "feel" && (feel ? <RigFeel key={JSON.stringify(rig)} feel={feel} show={show} /> : <p>This rig has no feel of its own to practise.</p>)}
      {step === "log" && <RigLog document={document} design={design} />}
    </>
  );
}

/** One rig: what is said of it at the left, the thing itself to scale at the right. */
export function RigDesk({
  start,
  cutter,
  plan,
  cutters,
  plans,
  bows,
}: {
  start: StoredDocument<RigDocument>;
  cutter: StoredDocument<Design> | null;
  plan: StoredDocument<Plan> | null;
  cutters: readonly Named[];
  plans: readonly Named[];
  bows: readonly Bow[];
}) {
  const [store] = useState(() => createRigStore(start));
  const document = useStore(store, (state) => state.document);
  const { rig } = document;
  const record = rigRecord(rig.kind);
  const live = useLinkedDocument("cutters", document.cutter?.id ?? null, cutter);
  const linkedPlan = useLinkedDocument("plans", document.plan?.id ?? null, plan);
  const view = useRig(rig, live.document, record.takesPlan ? linkedPlan.document : null);
  const { show } = view;
  const { place, go } = usePlace();
  const step: RigStep = (RIG_STEPS as readonly string[]).includes(place[0] ?? "") ? (place[0] as RigStep) : "rig";
  const steps = STEPS.filter(({ id }) => (id !== "feel" || record.feel) && (!MOTORISED.includes(id) || record.program));
  const goTo = useCallback((next: RigStep) => (next === "rig" ? go() : go(next)), [go]);
  const router = useRouter();
  const change = useCallback(
    (next: Readonly<Record<string, unknown>>, key?: string) => {
      const now = store.getState().document;
      store.change({ ...now, rig: { ...now.rig, ...next } as Rig }, key);
    },
    [store],
  );
  const { cut } = view.around;

  return (
    <DocumentFrame
      store={store}
      className="rig-desk"
      steps={steps}
      step={step}
      onStep={goTo}
      links={
        document.plan &&
        !linkedPlan.gone && (
          <>
            <hr />
            <RailButton onClick={() => router.push(`/plans/${document.plan?.id}`)}>Its plan</RailButton>
          </>
        )
      }
      rod={
        <LinkedRod design={live.document} evaluation={view.around.cutter?.evaluation ?? null}>
          <p className="plan-no-cutter">
            {live.gone ? `${document.cutter?.name} is not here any more. ` : ""}Without a cutter the workshop's habit counts: a kerf of{" "}
            {show("kerf", cut.kerfMm)}, drag of a light board (common practice).
          </p>
        </LinkedRod>
      }
      status={<span className="rig-kind">{record.title}</span>}
      column={
        step === "run" ? null : (
          <RigColumn
            store={store}
            view={view}
            cutters={cutters}
            plans={plans}
            bows={bows}
            planGone={linkedPlan.gone}
            changePlan={linkedPlan.change}
            change={change}
          />
        )
      }
      view={<RigStepView step={step} store={store} id={start.id} view={view} design={live.document} change={change} />}
      shortcuts={SHORTCUTS}
      conflict={({ withMine, merged, current }) => (
        <ul>
          <li>Here: {differences(withMine.rig, merged.rig)}</li>
          <li>
            {whose({ current })}: {differences(merged.rig, withMine.rig)}
          </li>
        </ul>
      )}
    />
  );
}

/** What one version of a rig says where another says something else, by its fields' names. */
function differences(mine: Rig, theirs: Rig): string {
  const other = theirs as unknown as Readonly<Record<string, unknown>>;
  const outcome = rigRecord(mine.kind).fields.flatMap(({ key, label }) => {
    const own = (mine as unknown as Readonly<Record<string, unknown>>)[key];
    return JSON.stringify(own) === JSON.stringify(other[key]) ? [] : [`${label} ${String(own)}`];
  });
  return outcome.join(", ") || "the same";
}

function Choice({
  label,
  value,
  from,
  none,
  onChoose,
}: {
  label: string;
  value: Named | null;
  from: readonly Named[];
  none: string;
  onChoose: (id: string) => void;
}) {
  const here = value && from.some(({ id }) => id === value.id);
  return (
    <TextField
      select
      size="small"
      fullWidth
      label={label}
      value={value?.id ?? ""}
      onChange={(event) => onChoose(event.target.value)}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      <MenuItem value="">{none}</MenuItem>
      {value && !here && <MenuItem value={value.id}>{value.name}, gone</MenuItem>}
      {from.map(({ id, name }) => (
        <MenuItem key={id} value={id}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** Notes are kept as they are typed. */
function NotesField({ notes, onNotes }: { notes: string; onNotes: (notes: string) => void }) {
  return (
    <TextField
      label="Notes"
      size="small"
      fullWidth
      multiline
      minRows={2}
      sx={{ mt: 1, mb: 2 }}
      value={notes}
      onChange={(event) => onNotes(event.target.value.slice(0, 2000))}
    />
  );
}

/** What a hand bow of this workshop carries, copied by a press. */
function FromBow({
  rig,
  bows,
  show,
  onChange,
}: {
  rig: Rig;
  bows: readonly { name: string; carriedN: number; weightN: number }[];
  show: ReturnType<typeof useRig>["show"];
  onChange: (change: Readonly<Record<string, unknown>>, key: string) => void;
}) {
  const round = (value: number) => Math.round(value * 100) / 100;
  const change = (bow: (typeof bows)[number]) => {
    if (rig.kind === "swing") return { carried_N: round(bow.carriedN) };
    if (rig.kind === "pull") return { bow_N: round(bow.weightN), share: round(bow.carriedN / bow.weightN) };
    if (rig.kind === "drop") return { weight_N: round(bow.weightN) };
    return null;
  };
  return (
    <>
      {bows.slice(0, 3).map((bow) => {
        const next = change(bow);
        return (
          next && (
            <Button key={bow.name} size="small" onClick={() => onChange(next, "bow")}>
              As {bow.name} hangs: {rig.kind === "drop" ? show("force", bow.weightN, 1) : `${show("force", bow.carriedN, 1)} on the wire`}
            </Button>
          )
        );
      })}
    </>
  );
}

/** Asks the worker for the pulley's best place, with the arm's turn as it is or free. */
function BestPlace({
  rig,
  view,
  onChange,
}: {
  rig: Extract<Rig, { kind: "swing" }>;
  view: ReturnType<typeof useRig>;
  onChange: (change: Readonly<Record<string, unknown>>, key: string) => void;
}) {
  const [busy, setBusy] = useState(false);
  const [outcome, setMessage] = useState<string | null>(null);
  const client = useRef<EngineClient<"bestPulley"> | null>(null);
  useEffect(() => {
    const mine = new EngineClient("bestPulley");
    client.current = mine;
    return () => mine.close();
  }, []);
  const travels =
    view.evaluation?.figures.reduce<Record<string, number>>(
      (all, { id, value }) => (typeof value === "number" ? Object.assign(all, { [id]: value }) : all),
      {},
    ) ?? {};
  const find = (turns: boolean) => {
    setBusy(true);
    setMessage(null);
    client.current
      ?.submit({
        arm: { fromDeg: rig.from_deg, toDeg: rig.to_deg, armMm: rig.arm_mm },
        room: { minX: -rig.tableWide_mm / 2, maxX: rig.tableWide_mm / 2, minY: 0, maxY: rig.tableDeep_mm },
        rootTravelMm: travels["travel-root"] ?? rig.rootTravel_mm,
        tipTravelMm: travels["travel-tip"] ?? rig.tipTravel_mm,
        turns,
      })
      .then(
        (found) => {
          setBusy(false);
          if (!found) {
            setMessage("No place on this table draws so much: a longer arm or a wider swing.");
            return;
          }
          const tenth = (value: number) => Math.round(value * 10) / 10;
          onChange(
            { pulleyX_mm: tenth(found.pulleyMm[0]), pulleyY_mm: tenth(found.pulleyMm[1]), from_deg: tenth(found.fromDeg), to_deg: tenth(found.toDeg) },
            "best",
          );
          setMessage(`Out of step by ${view.show("kerf", found.swing.worstMismatchMm)} at most there.`);
        },
        (error: Error) => {
          setBusy(false);
          setMessage(error.message);
        },
      );
  };
  return (
    <p className="rig-best">
      <Button size="small" variant="outlined" disabled={busy} onClick={() => find(false)}>
        Find the pulley's best place
      </Button>{" "}
      <Button size="small" disabled={busy} onClick={() => find(true)}>
        and turn the arm
      </Button>{" "}
      <span aria-live="polite">{busy ? "Looking…" : outcome}</span>
    </p>
  );
}
