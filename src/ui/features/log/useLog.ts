import { useCallback, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { withSetting } from "@/core/cutters/solve/evaluate";
import type { Remedy } from "@/core/diagnosis/diagnosis";
import type { Diagnosis, LogEntry, TestCut } from "@/core/log/entries";
import type { CardRow } from "@/core/sheets/settingCard";
import { ApiError, api, type DrawerRow, type LogRow, type UnreadableRow } from "../../kit/api";
import { useChanges } from "../../kit/changes";
import { logQueue } from "../../kit/logQueue";
import { useOnArrival } from "../../kit/useOnArrival";
import { useUnits } from "../../kit/useUnits";
import { diagnosisOf, mergedPage, newestFirst, settingEntryOf } from "./logRows";

/** Shown for an entry that the server has not received yet. */
const WAITS = "The server does not answer: it waits in this browser, and goes into the log when the server is back.";
/** As many entries as the server sends at once. */
const NEWEST = 300;

/**
 * A cutter's log: its rows, the drawer next to it, and what a person does with them.
 * @param id null for a cutter that is not stored
 * @param onChange a design that a remedy or the setting card changes
 */
export function useLog(design: Design, id: string | null, onChange: (next: Design) => void) {
  const { system } = useUnits();
  const [log, setLog] = useState<LogRow[]>([]);
  const [older, setOlder] = useState(false);
  const [unreadable, setUnreadable] = useState<UnreadableRow[]>([]);
  const [drawer, setDrawer] = useState<DrawerRow[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [notice, setNotice] = useState<string | null>(null);
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
  // Older pages that were asked for stay as they are: only the newest one is read again.
  useChanges(["log_entries", "drawer_items"], () => {
    if (log.length <= NEWEST) void load().catch(say);
  });
  const entries = useMemo(() => log.map((row) => row.entry), [log]);

  /** Stores an entry. @returns whether the server has it, or undefined where the cutter is not stored @throws ApiError where it is refused */
  const add = async (entry: LogEntry) => {
    if (!id) return;
    const row = await logQueue.keep(id, entry);
    if (row) setLog((all) => newestFirst([row, ...all]));
    setFault(null);
    return row !== null;
  };
  const addOrReport = (entry: LogEntry, words: string) => {
    add(entry).then(
      (there) => {
        setNotice(there ? words : WAITS);
        // A wire change makes a spool shorter.
        if (entry.kind === "wire-change") api.drawer.list().then(setDrawer, say);
      },
      (error: Error) => {
        if (!(error instanceof ApiError)) throw error;
        setFault(error.message);
      },
    );
  };
  return {
    log,
    entries,
    older,
    unreadable,
    drawer,
    fault,
    setFault,
    notice,
    setNotice,
    past: useMemo(() => log.flatMap(({ id: entryId, entry }) => (entry.kind === "diagnosis" ? [{ id: entryId, entry }] : [])), [log]),
    lastCut: entries.find((entry): entry is TestCut => entry.kind === "test-cut"),
    reload: () => void load().catch(say),
    add: (entry: LogEntry) => addOrReport(entry, "Logged."),
    addCut: async (cut: TestCut) => {
      await add(cut);
      setNotice("Logged.");
    },
    tryRemedy: (cut: TestCut, remedy: Remedy) => {
      if (remedy.design) onChange(remedy.design);
      addOrReport(
        diagnosisOf(cut, remedy, new Date().toISOString()),
        remedy.design ? "Changed on the desk: make another test cut, then say whether it helped." : "Noted: make another test cut, then say whether it helped.",
      );
    },
    setOutcome: (entryId: string, outcome: Diagnosis["outcome"]) => {
      const row = log.find((each) => each.id === entryId);
      if (!id || row?.entry.kind !== "diagnosis") return;
      const replace = (next: LogRow) => setLog((all) => all.map((each) => (each.id === entryId ? next : each)));
      api.log.save(id, row, { ...row.entry, outcome }).then(replace, (error: Error) => {
        // Another tab changed the outcome: show the stored one, which can be changed again.
        if (error instanceof ApiError && error.status === 409 && error.current) replace(error.current as LogRow);
        say(error);
      });
    },
    useRow: (row: CardRow) => {
      const next: Design = { ...row.design, calibrations: design.calibrations };
      onChange(row.knob ? withSetting(next, row.knob.value) : next);
      addOrReport(settingEntryOf(row, system, new Date().toISOString()), "On the desk, and noted in the log.");
    },
    remove: (entryId: string) => {
      if (id) api.log.remove(id, entryId).then(() => setLog((rows) => rows.filter((row) => row.id !== entryId)), say);
    },
    loadOlder: () => {
      const last = log.at(-1);
      if (!id || !last) return;
      api.log.list(id, last).then((page) => {
        setLog((all) => mergedPage(all, page.entries));
        setUnreadable((all) => mergedPage(all, page.unreadable));
        setOlder(page.older);
      }, say);
    },
  };
}

export type LogDesk = ReturnType<typeof useLog>;
