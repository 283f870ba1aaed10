import { useEffect, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { ApiError, api } from "./api";
import { hearChanges } from "./changes";

/** The cutter that a document is meant for, as it stands now: fetched again when another is named, when one comes back to the page, and when somebody saves it. */
export function useLiveCutter(id: string | null, first: { id: string; design: Design } | null): { design: Design | null; gone: boolean } {
  const [known, setKnown] = useState(first);
  const [gone, setGone] = useState<string | null>(null);
  useEffect(() => {
    if (id === null) return;
    const look = () =>
      void api.get(id).then(
        (row) => {
          setKnown({ id, design: row.design });
          setGone(null);
        },
        (error) => {
          // While the server does not answer, the cutter as it was last seen stands.
          if (error instanceof ApiError && error.code === "not-found") setGone(id);
        },
      );
    if (known?.id !== id) look();
    window.addEventListener("focus", look);
    const deaf = hearChanges((change) => change.table === "cutters" && change.id === id && look());
    return () => {
      deaf();
      window.removeEventListener("focus", look);
    };
  }, [id, known?.id]);
  return { design: known && known.id === id && gone !== id ? known.design : null, gone: id !== null && gone === id };
}
