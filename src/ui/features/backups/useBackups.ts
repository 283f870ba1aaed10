import { useCallback, useState } from "react";
import type { RestoreCount } from "@/core/workshop/restoring";
import { ApiError, api, type RestoreSource, type StoredBackup } from "../../kit/api";
import { useOnArrival } from "../../kit/useOnArrival";

/** A backup that was looked into, before anything is restored. */
export interface Requested {
  source: RestoreSource;
  words: string;
  made: string;
  counts: RestoreCount[];
}

/** The backups stored here, and what is done with them: one thing at a time, each ending in a notice or a fault. */
export function useBackups() {
  const [saved, setSaved] = useState<StoredBackup[] | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [done, setDone] = useState<{ words: string; undo: string | null } | null>(null);
  const [requested, setRequested] = useState<Requested | null>(null);
  const [busy, setBusy] = useState(false);
  const say = useCallback((error: Error) => setFault(error.message), []);
  const load = useCallback(async (signal?: AbortSignal) => setSaved(await api.backups.list(signal)), []);
  useOnArrival(load, say);
  /** Runs one thing at a time and says how it ended. */
  const run = (work: () => Promise<void>) => {
    setBusy(true);
    setFault(null);
    work()
      .catch((error: unknown) => {
        if (!(error instanceof ApiError)) throw error;
        setFault(error.message);
      })
      .finally(() => {
        setBusy(false);
        load().catch(say);
      });
  };
  const look = (source: RestoreSource, words: string) =>
    run(async () => {
      setDone(null);
      setRequested({ source, words, ...(await api.backups.preview(source)) });
    });
  const restore = (source: RestoreSource, mode: "replace" | "add", words: string) =>
    run(async () => {
      const { undo } = await api.backups.restore(source, mode);
      setRequested(null);
      setDone({ words, undo });
    });
  return {
    saved,
    fault,
    clearFault: () => setFault(null),
    done,
    busy,
    requested,
    cancel: () => setRequested(null),
    look,
    restore,
    make: () =>
      run(async () => {
        const backup = await api.backups.make();
        setDone({ words: `Stored here as ${backup.name}.`, undo: null });
      }),
  };
}

export type BackupsState = ReturnType<typeof useBackups>;
