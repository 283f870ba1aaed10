import { useCallback, useState } from "react";
import type { CsvRow } from "@/core/drawer/csv";
import { MAX_CSV_CHARACTERS } from "@/core/drawer/things";
import { ApiError, api, type DrawerRow } from "../../kit/api";
import { useChanges } from "../../kit/changes";

export type Notice = { kind: "none" } | { kind: "fault"; message: string } | { kind: "done"; message: string } | { kind: "removed"; row: DrawerRow };

/** The drawer's items as the server has them, and what is done with them; each change ends in a notice or a fault. */
export function useDrawer(first: DrawerRow[]) {
  const [rows, setRows] = useState(first);
  const [incoming, setIncoming] = useState<{ name: string; text: string; rows: CsvRow[] } | null>(null);
  const [notice, setNotice] = useState<Notice>({ kind: "none" });

  const reload = useCallback(async () => setRows(await api.drawer.list()), []);
  useChanges(["drawer_items"], () => void reload().catch(() => undefined));
  /** Runs a change and shows the drawer as the server then has it; a refusal is said and nothing is lost. */
  const act = useCallback(
    async (work: () => Promise<Notice | undefined>) => {
      try {
        setNotice((await work()) ?? { kind: "none" });
        await reload();
      } catch (error) {
        if (!(error instanceof ApiError)) throw error;
        setNotice({ kind: "fault", message: error.message });
        if (error.code === "stale-revision" || error.code === "not-found") await reload();
      }
    },
    [reload],
  );
  const save = async (row: DrawerRow, item: DrawerRow["item"]) => {
    const saved = await api.drawer.save(row.id, row.revision, item);
    setRows((all) => all.map((each) => (each.id === saved.id ? saved : each)));
    setNotice({ kind: "none" });
    return saved;
  };
  const remove = useCallback(
    (row: DrawerRow) =>
      void act(async () => {
        await api.drawer.remove(row.id);
        return { kind: "removed", row };
      }),
    [act],
  );
  const choose = (chosen: File) =>
    act(async () => {
      if (chosen.size > 4 * MAX_CSV_CHARACTERS)
        return { kind: "fault", message: `${chosen.name} is too large for a drawer: ${MAX_CSV_CHARACTERS} characters at most` };
      const text = await chosen.text();
      setIncoming({ name: chosen.name, text, rows: await api.drawer.preview(text) });
      return undefined;
    });
  const fault = useCallback(
    (message: string) => {
      setNotice({ kind: "fault", message });
      void reload();
    },
    [reload],
  );
  return {
    rows,
    notice,
    clear: () => setNotice({ kind: "none" }),
    incoming,
    closeImport: () => setIncoming(null),
    save,
    remove,
    choose,
    fault,
    add: async (item: DrawerRow["item"]) => {
      const row = await api.drawer.add(item);
      setRows((all) => [...all, row]);
    },
    importRows: (text: string) =>
      void act(async () => {
        const done = await api.drawer.importCsv(text);
        setIncoming(null);
        const taken = done.filter((row) => row.status === "new" || row.status === "change").length;
        return {
          kind: "done",
          message: `${taken} ${taken === 1 ? "row" : "rows"} imported, ${done.filter((row) => row.status === "refused").length} refused.`,
        };
      }),
    restore: (row: DrawerRow) =>
      void act(async () => {
        await api.drawer.restore(row.id);
        return undefined;
      }),
  };
}
