import { useCallback, useState } from "react";
import { nextTensionCheck } from "@/core/log/entries";
import { api, type LogRow } from "../../kit/api";
import { tidy } from "../../kit/tidy";
import { useOnArrival } from "../../kit/useOnArrival";

/** The tension checks of a stored cutter: what its log has, when the next is due, and how one is added or removed. @param id null for a cutter that is not stored */
export function useTensionChecks(id: string | null) {
  const [log, setLog] = useState<LogRow[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [now, setNow] = useState<string | null>(null);
  const say = useCallback((error: Error) => setFault(error.message), []);
  const look = useCallback(
    async (signal: AbortSignal) => {
      setNow(new Date().toISOString());
      if (id) setLog((await api.log.list(id, undefined, signal)).entries);
    },
    [id],
  );
  useOnArrival(look, say);
  const checks = log.flatMap(({ id: entryId, entry }) => (entry.kind === "tension-check" ? [{ id: entryId, entry }] : []));
  return {
    checks,
    next:
      now === null
        ? null
        : nextTensionCheck(
            checks.map(({ entry }) => entry),
            now,
          ),
    fault,
    clearFault: () => setFault(null),
    /** Stores a pluck's pull as a check of the cold wire. */
    add: (tensionN: number, hz: number) => {
      if (!id) return;
      api.log
        .add(id, { kind: "tension-check", at: new Date().toISOString(), tension_N: tidy(tensionN), frequency_Hz: tidy(hz), how: "pitch", hot: false, note: "" })
        .then((row) => setLog((all) => [row, ...all]), say);
    },
    remove: (entryId: string) => {
      if (id) api.log.remove(id, entryId).then(() => setLog((all) => all.filter((row) => row.id !== entryId)), say);
    },
  };
}

export type TensionChecks = Pick<ReturnType<typeof useTensionChecks>, "checks" | "next" | "remove">;
