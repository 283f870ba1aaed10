import { useCallback, useEffect, useState } from "react";
import type { StoredDocument } from "@/core/kernel/document";
import { ApiError, api } from "./api";
import { watchChanges } from "./changes";

/** The kinds that another document names. */
interface LinkedTypes {
  cutters: Awaited<ReturnType<typeof api.cutters.get>>["document"];
  plans: Awaited<ReturnType<typeof api.plans.get>>["document"];
}
interface Client<T> {
  get: (id: string) => Promise<StoredDocument<T>>;
  save: (id: string, revision: number, document: T) => Promise<StoredDocument<T>>;
}

/**
 * The current state of a document that another one names. It is fetched when another id is named, when the user comes back to the page, and when somebody saves it.
 * @param first the document that the page came with
 * @returns `gone` when it has been deleted; `change` saves over the newest revision
 */
export function useLinkedDocument<Kind extends keyof LinkedTypes>(
  kind: Kind,
  id: string | null,
  first: Pick<StoredDocument<LinkedTypes[Kind]>, "id" | "document"> | null,
) {
  type T = LinkedTypes[Kind];
  const client = api[kind] as unknown as Client<T>;
  const [known, setKnown] = useState(first);
  const [gone, setGone] = useState<string | null>(null);
  useEffect(() => {
    if (id === null) return;
    const fetchIt = () =>
      void client.get(id).then(
        ({ document }) => {
          setKnown({ id, document });
          setGone(null);
        },
        (error) => {
          // While the server does not answer, the last known state stays.
          if (error instanceof ApiError && error.code === "not-found") setGone(id);
        },
      );
    if (known?.id !== id) fetchIt();
    window.addEventListener("focus", fetchIt);
    const stop = watchChanges((change) => change.table === kind && change.id === id && fetchIt());
    return () => {
      stop();
      window.removeEventListener("focus", fetchIt);
    };
  }, [client, kind, id, known?.id]);
  const change = useCallback(
    async (document: T) => {
      if (id === null) return;
      const { revision } = await client.get(id);
      const saved = await client.save(id, revision, document);
      setKnown({ id, document: saved.document });
    },
    [client, id],
  );
  const isGone = id !== null && gone === id;
  return { document: known && known.id === id && !isGone ? known.document : null, gone: isGone, change };
}
