"use client";
import { foamNamed } from "@/core/materials/foams";
import "../../kit/theme/sheet.css";
import "../../kit/theme/log.css";
import Alert from "@mui/material/Alert";
import { useCallback, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { type DesignEvaluation, withSetting } from "@/core/cutters/solve/evaluate";
import type { Remedy } from "@/core/diagnosis/diagnosis";
import type { Diagnosis, LogEntry, TestCut } from "@/core/log/entries";
import { knobWords } from "@/core/sheets/buildSheet";
import type { CardRow } from "@/core/sheets/settingCard";
import { LIMITS } from "@/core/units/limits";
import { LOG_TABS } from "../../cutter/views";
import { useTab } from "../../kit/address";
import { ApiError, api, type DrawerRow, type LogRow, type UnreadableRow } from "../../kit/api";
import { useChanges } from "../../kit/changes";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { logQueue } from "../../kit/logQueue";
import { Tile, TileRow } from "../../kit/Tile";
import { tidy } from "../../kit/tidy";
import { UnreadableRows } from "../../kit/UnreadableRows";
import { useOnArrival } from "../../kit/useOnArrival";
import { useUnits } from "../../kit/useUnits";
import { CalibrationPanel } from "./CalibrationPanel";
import { DiagnosisPanel } from "./DiagnosisPanel";
import { Logbook } from "./Logbook";
import { SettingCard } from "./SettingCard";
import { TestCutForm } from "./TestCutForm";

/** Said of an entry that the server did not hear of yet. */
const WAITS = "The server does not answer: it waits in this browser, and goes into the log when the server is back.";
const newestFirst = (rows: LogRow[]) => [...rows].sort((a, b) => (a.entry.at < b.entry.at ? 1 : -1));

/** As many entries as the server sends at once. */
const NEWEST = 300;

/** What was really done at the cutter: test cuts, what they teach, where to set the knob, and everything dated. */
export function LogView({
  design,
  evaluation,
  id,
  onChange,
}: {
  design: Design;
  evaluation: DesignEvaluation;
  id: string | null;
  onChange: (next: Design) => void;
}) {
  const { system } = useUnits();
  const [tab, setTab] = useTab("log", LOG_TABS);
  const [log, setLog] = useState<LogRow[]>([]);
  const [older, setOlder] = useState(false);
  const [unreadable, setUnreadable] = useState<UnreadableRow[]>([]);
  const [drawer, setDrawer] = useState<DrawerRow[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const say = useCallback((error: Error) => setFault(error.message), []);
  const load = useCallback(
    async (signal?: AbortSignal) => {
      const [page, items] = await Promise.all([id ? api.log.list(id, undefined, signal) : null, api.drawer.list(signal)]);
      if (page) {
        setLog(page.entries);
        setUnreadable(page.unreadable);
        setOlder(page.older);
      }
      setDrawer(items);
    },
    [id],
  );
  useOnArrival(load, say);
  // Older pages that were asked for go on standing as they are: only the newest one is looked at again.
  useChanges(["log_entries", "drawer_items"], () => {
    if (log.length <= NEWEST) void load().catch(say);
  });
  const entries = useMemo(() => log.map((row) => row.entry), [log]);
  const past = useMemo(() => log.flatMap(({ id: entryId, entry }) => (entry.kind === "diagnosis" ? [{ id: entryId, entry }] : [])), [log]);
  const lastCut = entries.find((entry): entry is TestCut => entry.kind === "test-cut");

  /** Keeps an entry; refusals stay with anyone who asked. */
  const add = async (entry: LogEntry) => {
    if (!id) return;
    const row = await logQueue.keep(id, entry);
    if (row) setLog((all) => newestFirst([row, ...all]));
    setFault(null);
    return row !== null;
  };
  const addOrSay = (entry: LogEntry, words: string) => {
    add(entry).then(
      (there) => {
        setSaid(there ? words : WAITS);
        // A wire change makes a spool shorter.
        if (entry.kind === "wire-change") api.drawer.list().then(setDrawer, say);
      },
      (error: Error) => {
        if (!(error instanceof ApiError)) throw error;
        setFault(error.message);
      },
    );
  };
  const tryRemedy = (cut: TestCut, remedy: Remedy) => {
    if (remedy.design) onChange(remedy.design);
    const entry: Diagnosis = {
      kind: "diagnosis",
      at: new Date().toISOString(),
      fault: cut.face,
      cause: remedy.cause,
      change: remedy.change.slice(0, 300),
      outcome: "untried",
      note: "",
    };
    addOrSay(
      entry,
      remedy.design ? "Changed on the desk: make another test cut, then say whether it helped." : "Noted: make another test cut, then say whether it helped.",
    );
  };
  const tell = (entryId: string, outcome: Diagnosis["outcome"]) => {
    const row = log.find((each) => each.id === entryId);
    if (!id || row?.entry.kind !== "diagnosis") return;
    const put = (next: LogRow) => setLog((all) => all.map((each) => (each.id === entryId ? next : each)));
    api.log.save(id, row, { ...row.entry, outcome }).then(put, (error: Error) => {
      // Another tab changed the outcome: show the stored one, which can be changed again.
      if (error instanceof ApiError && error.status === 409 && error.current) put(error.current as LogRow);
      say(error);
    });
  };
  const use = (row: CardRow) => {
    const next: Design = { ...row.design, calibrations: design.calibrations };
    onChange(row.knob ? withSetting(next, row.knob.value) : next);
    addOrSay(
      {
        kind: "setting",
        at: new Date().toISOString(),
        foam: foamNamed(next.job.foam),
        width_mm: row.widthMm,
        setting: row.knob ? knobWords(row.knob.kind, row.knob.value, system) : "as it is",
        feed_mm_s: row.feedMmS,
        ...(row.volts >= LIMITS.voltage_V.min && row.volts <= LIMITS.voltage_V.max ? { volts_V: tidy(row.volts) } : {}),
        ...(row.currentA >= LIMITS.drivingCurrent_A.min ? { current_A: tidy(row.currentA) } : {}),
        note: "",
      },
      "On the desk, and noted in the log.",
    );
  };
  return (
    <main className="sheet-frame">
      {!id && <p style={{ marginTop: 0 }}>Keep a copy of this cutter first: its log is kept with it.</p>}
      <TileRow onScreenOnly>
        {LOG_TABS.map((each) => (
          <Tile
            key={each}
            chosen={tab === each}
            onClick={() => {
              setTab(each);
              setSaid(null);
            }}
          >
            {each}
          </Tile>
        ))}
      </TileRow>
      <UnreadableRows rows={unreadable} what="entry" />
      {fault && (
        <Alert severity="error" onClose={() => setFault(null)} sx={{ mt: 1 }}>
          {fault}
        </Alert>
      )}
      {said && (
        <Alert severity="info" onClose={() => setSaid(null)} sx={{ mt: 1 }}>
          {said}
        </Alert>
      )}
      <div style={{ marginTop: 12 }}>
        {tab === "Test cut" && (
          <TestCutForm
            design={design}
            evaluation={evaluation}
            id={id}
            drawer={drawer}
            onSaved={async (cut) => {
              await add(cut);
              setSaid("Kept.");
            }}
            beside={
              lastCut && id ? (
                <DiagnosisPanel design={design} cut={lastCut} past={past} onTry={(remedy) => tryRemedy(lastCut, remedy)} onOutcome={tell} />
              ) : (
                <p style={{ marginTop: 0 }}>
                  Time a cut as wide as the job, choose how its face looks, keep it. A kerf, a bow or the amps, where you have them, teach the desk. What went
                  wrong, and the one thing to change, will be here.
                </p>
              )
            }
          />
        )}
        {tab === "Calibration" && <CalibrationPanel design={design} entries={entries} onAccept={onChange} />}
        {tab === "Setting card" && <SettingCard key={design.job.width_mm + design.ambient_C} design={design} entries={entries} drawer={drawer} onUse={use} />}
        {tab === "Logbook" && (
          <InstrumentBoundary name="the logbook">
            <Logbook
              design={design}
              id={id}
              log={log}
              drawer={drawer}
              onAdd={(entry) => addOrSay(entry, "Kept.")}
              onStrike={(entryId) => {
                if (id) api.log.remove(id, entryId).then(() => setLog((rows) => rows.filter((row) => row.id !== entryId)), say);
              }}
              onReload={() => void load().catch(say)}
              older={older}
              onOlder={() => {
                const last = log.at(-1);
                if (id && last)
                  api.log.list(id, last).then((page) => {
                    setLog((all) => [...all, ...page.entries.filter((row) => !all.some((each) => each.id === row.id))]);
                    setUnreadable((all) => [...all, ...page.unreadable.filter((row) => !all.some((each) => each.id === row.id))]);
                    setOlder(page.older);
                  }, say);
              }}
              onFault={setFault}
            />
          </InstrumentBoundary>
        )}
      </div>
    </main>
  );
}
