import { useState } from "react";
import { type LogFileRow, MAX_LOG_FILE_CHARACTERS } from "@/core/log/files";
import { ApiError, api } from "../../kit/api";
import type { LogDesk } from "./useLog";

/** A log file on its way in: read and shown first, imported by a press. */
export function useLogImport(id: string | null, { reload, setFault }: LogDesk) {
  const [incoming, setIncoming] = useState<{ name: string; text: string; rows: LogFileRow[] } | null>(null);
  const report = (error: unknown) => {
    if (!(error instanceof ApiError)) throw error;
    setFault(error.message);
  };
  return {
    incoming,
    close: () => setIncoming(null),
    read: async (chosen: File | undefined) => {
      if (!chosen || !id) return;
      try {
        if (chosen.size > MAX_LOG_FILE_CHARACTERS) throw new ApiError("too-large", `${chosen.name} is larger than a log can be.`, 0);
        const text = await chosen.text();
        setIncoming({ name: chosen.name, text, rows: await api.log.preview(id, text) });
      } catch (error) {
        report(error);
      }
    },
    take: async () => {
      if (!incoming || !id) return;
      try {
        await api.log.importFile(id, incoming.text);
        reload();
      } catch (error) {
        report(error);
      } finally {
        setIncoming(null);
      }
    },
  };
}
