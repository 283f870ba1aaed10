import { useRouter } from "next/navigation";
import { useMemo, useState } from "react";
import { ApiError } from "./api";

/** What a list says after an action: a refusal, or a document that was archived and can be restored. */
export type ListNotice = { kind: "error"; message: string } | { kind: "archived"; id: string; name: string };

interface Named {
  id: string;
  document: { name: string };
  revision: number;
}

/** The routes of one kind of document that a list calls. */
export interface ListClient {
  get: (id: string) => Promise<Named>;
  save: (id: string, revision: number, document: never) => Promise<unknown>;
  duplicate: (id: string) => Promise<unknown>;
  remove: (id: string) => Promise<Named>;
  restore: (id: string) => Promise<unknown>;
  importText: (text: string) => Promise<Named>;
}

interface ListPage {
  notify: (notice: ListNotice | null) => void;
  /** Shows the list as the server has it now. */
  refresh: () => void;
  onImported: (id: string) => void;
}

/** Every action of a list. A refusal by the server becomes a notice; any other error is thrown. */
export function listActions(client: ListClient, { notify, refresh, onImported }: ListPage) {
  const run = async (work: () => Promise<ListNotice | undefined>): Promise<void> => {
    try {
      notify((await work()) ?? null);
      refresh();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      notify({ kind: "error", message: error.message });
    }
  };
  const silently = (work: () => Promise<unknown>) =>
    run(async () => {
      await work();
      return undefined;
    });
  return {
    run: silently,
    rename: (id: string, name: string) =>
      silently(async () => {
        const { revision, document } = await client.get(id);
        await client.save(id, revision, { ...document, name } as never);
      }),
    copy: (id: string) => silently(() => client.duplicate(id)),
    archive: (id: string) =>
      run(async () => {
        const { document } = await client.remove(id);
        return { kind: "archived", id, name: document.name };
      }),
    restore: (id: string) => silently(() => client.restore(id)),
    importFile: (file: Pick<File, "name" | "size" | "text">, maxCharacters: number) =>
      run(async () => {
        // A character takes at most four bytes.
        if (file.size > 4 * maxCharacters)
          return { kind: "error", message: `${file.name} is too large. A file of this kind has at most ${maxCharacters.toLocaleString("en")} characters.` };
        onImported((await client.importText(await file.text())).id);
        return undefined;
      }),
    forget: () => notify(null),
  };
}
export type ListActions = ReturnType<typeof listActions>;

/** @param onImported called with the id of a document that was imported */
export function useListActions(client: ListClient, onImported: (id: string) => void = () => undefined): { notice: ListNotice | null; actions: ListActions } {
  const [notice, setNotice] = useState<ListNotice | null>(null);
  const router = useRouter();
  const actions = useMemo(() => listActions(client, { notify: setNotice, refresh: () => router.refresh(), onImported }), [client, router, onImported]);
  return { notice, actions };
}
