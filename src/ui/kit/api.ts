import type { Design } from "@/core/cutters/design/schema";
import type { CsvRow } from "@/core/drawer/csv";
import type { Item } from "@/core/drawer/items";
import type { LogEntry } from "@/core/log/entries";
import type { LogFileRow } from "@/core/log/files";
import type { RestoreCount, RestoreMode } from "@/core/workshop/restoring";

/** A cutter as the server sends it. */
export interface CutterRow {
  id: string;
  design: Design;
  revision: number;
  updatedAt: string;
  deletedAt: string | null;
}

/** A log entry as the server sends it. */
export interface LogRow {
  id: string;
  entry: LogEntry;
  revision: number;
}

/** What the instruments wired to the app say; `wired` is empty where there are none. */
export interface InstrumentReadings {
  figures: Partial<Record<"volts_V" | "current_A" | "duty_percent" | "wire_C" | "pull_N", number>>;
  troubles: string[];
  wired: string[];
}

/** A thing in the drawer as the server sends it. */
export interface DrawerRow {
  id: string;
  item: Item;
  revision: number;
}

/** A row this program cannot read, such as one a newer program wrote: told by name, touched by nothing. */
export interface UnreadableRow {
  id: string;
  name: string;
  why: string;
}

/** What the server said no to: its code and words, and for a stale save the row it met. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly status: number,
    readonly path?: string,
    readonly current?: unknown,
  ) {
    super(message);
    this.name = "ApiError";
  }
}

/** `signal` calls the question off: whoever asked is gone. */
async function call<T>(
  method: string,
  url: string,
  body?: unknown,
  { keepalive = false, signal }: { keepalive?: boolean; signal?: AbortSignal | undefined } = {},
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      keepalive,
      signal: signal ?? null,
      // A picture goes as its own bytes, everything else as JSON.
      headers: body === undefined || body instanceof Blob ? undefined : { "content-type": "application/json" },
      body: body === undefined ? undefined : body instanceof Blob ? body : JSON.stringify(body),
    });
  } catch {
    throw new ApiError("unreachable", "The server does not answer.", 0);
  }
  const answer = await response.json().catch(() => ({}));
  if (response.ok) return answer as T;
  const error = answer.error ?? {};
  throw new ApiError(error.code ?? "server-failed", error.message ?? `The server answered ${response.status}.`, response.status, error.path, error.current);
}

const row = (answer: { row: DrawerRow }) => answer.row;
const cutter = (answer: { cutter: CutterRow }) => answer.cutter;

/** An archive that lies on the server, what one would change, and where one comes from. */
export interface KeptBackup {
  name: string;
  at: string;
  bytes: number;
}
export type RestoreSource = { name: string } | { bytes: Blob };

/** Sends an archive of one's own as its bytes, one that lies there by its name. */
const withArchive = <T>(what: "preview" | "restore", source: RestoreSource, mode: RestoreMode) =>
  "name" in source ? call<T>("POST", `/api/backups/${what}`, { name: source.name, mode }) : call<T>("POST", `/api/backups/${what}?mode=${mode}`, source.bytes);

/** The server's routes, one function each. */
export const api = {
  list: (limit = 200, signal?: AbortSignal) =>
    call<{ cutters: CutterRow[]; deleted: CutterRow[] }>("GET", `/api/cutters?limit=${limit}`, undefined, { signal }),
  get: (id: string) => call<{ cutter: CutterRow }>("GET", `/api/cutters/${id}`).then(cutter),
  create: (design: Design) => call<{ cutter: CutterRow }>("POST", "/api/cutters", { design }).then(cutter),
  save: (id: string, revision: number, design: Design, keepalive = false) =>
    call<{ cutter: CutterRow }>("PUT", `/api/cutters/${id}`, { revision, design }, { keepalive }).then(cutter),
  remove: (id: string) => call<{ cutter: CutterRow }>("DELETE", `/api/cutters/${id}`).then(cutter),
  restore: (id: string) => call<{ cutter: CutterRow }>("POST", `/api/cutters/${id}/restore`).then(cutter),
  duplicate: (id: string) => call<{ cutter: CutterRow }>("POST", `/api/cutters/${id}/duplicate`).then(cutter),
  log: {
    /** The newest entries, or those before one that is shown; `older` tells whether there are more. */
    list: (id: string, before?: LogRow, signal?: AbortSignal) =>
      call<{ entries: LogRow[]; unreadable: UnreadableRow[]; older: boolean }>(
        "GET",
        `/api/cutters/${id}/log${before ? `?before=${encodeURIComponent(before.entry.at)}&after=${before.id}` : ""}`,
        undefined,
        { signal },
      ),
    add: (id: string, entry: LogEntry) => call<{ row: LogRow }>("POST", `/api/cutters/${id}/log`, { entry }).then((answer) => answer.row),
    save: (id: string, { id: entryId, revision }: Pick<LogRow, "id" | "revision">, entry: LogEntry) =>
      call<{ row: LogRow }>("PUT", `/api/cutters/${id}/log/${entryId}`, { revision, entry }).then((answer) => answer.row),
    remove: (id: string, entry: string) => call<unknown>("DELETE", `/api/cutters/${id}/log/${entry}`),
    preview: (id: string, text: string) => call<{ rows: LogFileRow[] }>("POST", `/api/cutters/${id}/log/preview`, { text }).then((answer) => answer.rows),
    importFile: (id: string, text: string) => call<{ rows: LogFileRow[] }>("POST", `/api/cutters/${id}/log/import`, { text }).then((answer) => answer.rows),
    addPhoto: (id: string, picture: Blob) => call<{ id: string }>("POST", `/api/cutters/${id}/photos`, picture).then((answer) => answer.id),
  },
  backups: {
    list: (signal?: AbortSignal) => call<{ backups: KeptBackup[] }>("GET", "/api/backups", undefined, { signal }).then((answer) => answer.backups),
    make: () => call<{ backup: KeptBackup }>("POST", "/api/backups").then((answer) => answer.backup),
    preview: (source: RestoreSource) => withArchive<{ made: string; counts: RestoreCount[] }>("preview", source, "replace"),
    restore: (source: RestoreSource, mode: RestoreMode) => withArchive<{ put: number; undo: string }>("restore", source, mode),
  },
  instruments: () => call<InstrumentReadings>("GET", "/api/instruments"),
  drawer: {
    list: (signal?: AbortSignal) => call<{ items: DrawerRow[] }>("GET", "/api/drawer", undefined, { signal }).then((answer) => answer.items),
    add: (item: Item) => call<{ row: DrawerRow }>("POST", "/api/drawer", { item }).then(row),
    save: (id: string, revision: number, item: Item) => call<{ row: DrawerRow }>("PUT", `/api/drawer/${id}`, { revision, item }).then(row),
    remove: (id: string) => call<unknown>("DELETE", `/api/drawer/${id}`),
    restore: (id: string) => call<{ row: DrawerRow }>("POST", `/api/drawer/${id}/restore`).then(row),
    preview: (text: string) => call<{ rows: CsvRow[] }>("POST", "/api/drawer/preview", { text }).then((answer) => answer.rows),
    importCsv: (text: string) => call<{ rows: CsvRow[] }>("POST", "/api/drawer/import", { text }).then((answer) => answer.rows),
  },
  importText: (text: string) => call<{ cutter: CutterRow }>("POST", "/api/cutters/import", { text }).then(cutter),
};
