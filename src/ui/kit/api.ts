import type { ACCESS, AccessAction, AccessView } from "@/contract/access/contract";
import type { BACKUPS, StoredBackup } from "@/contract/backups/contract";
import type { CUTTERS } from "@/contract/cutters/contract";
import type { DRAWER, DrawerRow } from "@/contract/drawer/contract";
import type { INSTRUMENTS, InstrumentReadings } from "@/contract/instruments/contract";
import type { Endpoint, ParsedResponse, RequestBody, UnreadableRow } from "@/contract/kernel/endpoint";
import type { LOG, LogRow } from "@/contract/log/contract";
import type { PLANS } from "@/contract/plans/contract";
import type { RIGS } from "@/contract/rigs/contract";
import type { RUN, RunView } from "@/contract/run/contract";
import type { SECOND, SecondAbout, SecondAction, SecondView } from "@/contract/second/contract";
import type { Design } from "@/core/cutters/design/schema";
import type { Item } from "@/core/drawer/items";
import type { StoredDocument } from "@/core/kernel/document";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import type { LogEntry } from "@/core/log/entries";
import type { Plan } from "@/core/plans/plan";
import type { RigDocument } from "@/core/rigs/rig";
import type { RestoreMode } from "@/core/workshop/restoring";

export type { AccessAction, AccessView, DrawerRow, InstrumentReadings, LogRow, RunView, SecondAbout, SecondAction, SecondView, StoredBackup, UnreadableRow };

export type RunCommand = RequestBody<(typeof RUN)["act"]>;

/** The contracts come with the first answer: a page is there before anything has been asked. */
const CONTRACTS = {
  access: (): Promise<typeof ACCESS> => import("@/contract/access/contract").then((module) => module.ACCESS),
  cutters: (): Promise<typeof CUTTERS> => import("@/contract/cutters/contract").then((module) => module.CUTTERS),
  drawer: (): Promise<typeof DRAWER> => import("@/contract/drawer/contract").then((module) => module.DRAWER),
  instruments: (): Promise<typeof INSTRUMENTS> => import("@/contract/instruments/contract").then((module) => module.INSTRUMENTS),
  backups: (): Promise<typeof BACKUPS> => import("@/contract/backups/contract").then((module) => module.BACKUPS),
  plans: (): Promise<typeof PLANS> => import("@/contract/plans/contract").then((module) => module.PLANS),
  rigs: (): Promise<typeof RIGS> => import("@/contract/rigs/contract").then((module) => module.RIGS),
  run: (): Promise<typeof RUN> => import("@/contract/run/contract").then((module) => module.RUN),
  second: (): Promise<typeof SECOND> => import("@/contract/second/contract").then((module) => module.SECOND),
  log: (): Promise<typeof LOG> => import("@/contract/log/contract").then((module) => module.LOG),
};
type Contracts = { [R in keyof typeof CONTRACTS]: Awaited<ReturnType<(typeof CONTRACTS)[R]>> };

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

const outside = new Set<() => void>();
/** Hears that the server does not know this browser any more. @returns what ends it */
export function onSignedOut(heard: () => void): () => void {
  outside.add(heard);
  return () => outside.delete(heard);
}

/** A question is given up as not answered after so long, ms; long uploads, and what an administrator has done with archives, are waited for. */
export const PATIENCE_MS = 30_000;
const SHORT = 1_000_000;

/** What is no JSON, such as a proxy's own page, says nothing. */
// biome-ignore lint/suspicious/noExplicitAny: the server's body of any shape; its contract parses it next
function readJson(text: string): any {
  try {
    return JSON.parse(text);
  } catch {
    return {};
  }
}

interface CallOptions {
  keepalive?: boolean;
  /** Calls the question off: anyone who asked is gone. */
  signal?: AbortSignal | undefined;
}

/** Asks, and reads the answer by the contract of that exchange. */
async function call<R extends keyof Contracts, K extends keyof Contracts[R] & string>(
  feature: R,
  name: K,
  method: string,
  url: string,
  body?: unknown,
  { keepalive = false, signal }: CallOptions = {},
): Promise<ParsedResponse<Contracts[R][K] & Endpoint>> {
  const json = body === undefined || body instanceof Blob ? undefined : JSON.stringify(body);
  const patience = feature === "backups" || body instanceof Blob || (json?.length ?? 0) > SHORT ? undefined : AbortSignal.timeout(PATIENCE_MS);
  const signals = [signal, patience].filter((each) => each !== undefined);
  let response: Response;
  let text: string;
  try {
    response = await fetch(url, {
      method,
      keepalive,
      signal: signals.length > 0 ? AbortSignal.any(signals) : null,
      // A picture goes as its own bytes, everything else as JSON.
      headers: body === undefined || body instanceof Blob ? undefined : { "content-type": "application/json" },
      body: body instanceof Blob ? body : json,
    });
    // An answer that breaks off on its way is none: what was asked is asked again.
    text = await response.text();
  } catch {
    throw new ApiError("unreachable", "The server does not answer.", 0);
  }
  const payload = readJson(text);
  if (response.ok) {
    const contract = (await CONTRACTS[feature]().catch(() => {
      throw new ApiError("unreachable", "The server does not answer.", 0);
    })) as Record<string, Endpoint>;
    const read = (contract[name] as Endpoint).response.safeParse(payload);
    if (read.success) return read.data as ParsedResponse<Contracts[R][K] & Endpoint>;
    throw new ApiError("unreadable-answer", `The server's answer cannot be read at ${read.error.issues[0]?.path.join(".") || "its root"}.`, response.status);
  }
  const error = payload.error ?? {};
  if (error.code === "sign-in") for (const heard of outside) heard();
  throw new ApiError(error.code ?? "server-failed", error.message ?? `The server answered ${response.status}.`, response.status, error.path, error.current);
}

/** An archive that lies on the server, or one's own. */
export type RestoreSource = { name: string } | { bytes: Blob };

const row = <T>(payload: { row: T }) => payload.row;
const rows = <T>(payload: { rows: T }) => payload.rows;

/** Sends an archive of one's own as its bytes, one that lies there by its name. */
const withArchive = <K extends "preview" | "restore">(what: K, source: RestoreSource, mode: RestoreMode) =>
  "name" in source
    ? call("backups", what, "POST", `/api/backups/${what}`, { name: source.name, mode })
    : call("backups", what, "POST", `/api/backups/${what}?mode=${mode}`, source.bytes);

/** The routes that every kind of document has. The payload has a key of its own in requests and responses; on this side it is `document`. */
function documentClient<T>(id: DocumentId) {
  const { one, payload } = DOCUMENT_NAMES[id];
  type Row = StoredDocument<T>;
  const storedOf = ({ [payload]: document, ...row }: Record<string, unknown>) => ({ ...row, document }) as Row;
  const send = async (
    name: "get" | "create" | "save" | "remove" | "restore" | "duplicate" | "importFile",
    method: string,
    at = "",
    body?: object,
    options?: CallOptions,
  ): Promise<Row> => {
    try {
      const response: Record<string, unknown> = await call(id, name, method, `/api/${id}${at}`, body, options);
      return storedOf(response[one] as Record<string, unknown>);
    } catch (error) {
      // A stale save is refused with the current row.
      if (error instanceof ApiError && error.current)
        throw new ApiError(error.code, error.message, error.status, error.path, storedOf(error.current as Record<string, unknown>));
      throw error;
    }
  };
  return {
    list: async (limit = 200, signal?: AbortSignal): Promise<Row[]> => {
      const response: Record<string, unknown> = await call(id, "list", "GET", `/api/${id}?limit=${limit}`, undefined, { signal });
      return (response[id] as Record<string, unknown>[]).map(storedOf);
    },
    get: (row: string) => send("get", "GET", `/${row}`),
    create: (document: T) => send("create", "POST", "", { [payload]: document }),
    save: (row: string, revision: number, document: T, keepalive = false) => send("save", "PUT", `/${row}`, { revision, [payload]: document }, { keepalive }),
    remove: (row: string) => send("remove", "DELETE", `/${row}`),
    restore: (row: string) => send("restore", "POST", `/${row}/restore`),
    duplicate: (row: string) => send("duplicate", "POST", `/${row}/duplicate`),
    importText: (text: string) => send("importFile", "POST", "/import", { text }),
  };
}

/** The server's routes, one function each. */
export const api = {
  cutters: documentClient<Design>("cutters"),
  log: {
    /** The newest entries, or those before one that is shown; `older` says whether there are more. */
    list: (id: string, before?: LogRow, signal?: AbortSignal) =>
      call("log", "list", "GET", `/api/cutters/${id}/log${before ? `?before=${encodeURIComponent(before.entry.at)}&after=${before.id}` : ""}`, undefined, {
        signal,
      }),
    /** @param own the entry's id, where it may have to be sent again */
    add: (id: string, entry: LogEntry, own?: string) =>
      call("log", "add", "POST", `/api/cutters/${id}/log`, own === undefined ? { entry } : { entry, id: own }).then(row),
    save: (id: string, { id: entryId, revision }: Pick<LogRow, "id" | "revision">, entry: LogEntry) =>
      call("log", "save", "PUT", `/api/cutters/${id}/log/${entryId}`, { revision, entry }).then(row),
    remove: (id: string, entry: string) => call("log", "remove", "DELETE", `/api/cutters/${id}/log/${entry}`),
    preview: (id: string, text: string) => call("log", "preview", "POST", `/api/cutters/${id}/log/preview`, { text }).then(rows),
    importFile: (id: string, text: string) => call("log", "importFile", "POST", `/api/cutters/${id}/log/import`, { text }).then(rows),
    addPhoto: (id: string, picture: Blob) => call("log", "addPhoto", "POST", `/api/cutters/${id}/photos`, picture).then((response) => response.id),
  },
  access: {
    signIn: (name: string, phrase: string, passphrase?: string) =>
      call("access", "signIn", "POST", "/api/access/sign-in", { name, phrase, ...(passphrase ? { passphrase } : {}) }),
    setPassphrase: (passphrase: string | null) => call("access", "passphrase", "POST", "/api/access/passphrase", { passphrase }),
    signOut: () => call("access", "signOut", "POST", "/api/access/sign-out"),
    members: (signal?: AbortSignal) => call("access", "members", "GET", "/api/access/members", undefined, { signal }),
    change: (action: AccessAction) => call("access", "change", "POST", "/api/access/members", action),
  },
  backups: {
    list: (signal?: AbortSignal) => call("backups", "list", "GET", "/api/backups", undefined, { signal }).then((response) => response.backups),
    make: () => call("backups", "make", "POST", "/api/backups").then((response) => response.backup),
    preview: (source: RestoreSource) => withArchive("preview", source, "replace"),
    restore: (source: RestoreSource, mode: RestoreMode) => withArchive("restore", source, mode),
  },
  plans: documentClient<Plan>("plans"),
  run: {
    open: (rig: string, page: string, again = false) => call("run", "open", "POST", "/api/run/open", { rig, page, again }),
    pulse: (run: string | null, page: string, present: boolean) => call("run", "pulse", "POST", "/api/run/pulse", { run, page, present }),
    start: (start: RequestBody<(typeof RUN)["start"]>) => call("run", "start", "POST", "/api/run", start),
    act: (command: RunCommand) => call("run", "act", "POST", "/api/run/act", command),
    program: async (run: string): Promise<string | null> => {
      const response = await fetch(`/api/run/program?run=${run}`);
      return response.ok ? response.text() : null;
    },
  },
  second: {
    make: (about: SecondAbout) => call("second", "make", "POST", "/api/second", { about }),
    get: (ticket: string, signal?: AbortSignal) => call("second", "get", "GET", `/api/second/${ticket}`, undefined, { signal }),
    act: (ticket: string, action: SecondAction) => call("second", "act", "POST", `/api/second/${ticket}`, action),
  },
  rigs: documentClient<RigDocument>("rigs"),
  instruments: () => call("instruments", "read", "GET", "/api/instruments"),
  drawer: {
    list: (signal?: AbortSignal) => call("drawer", "list", "GET", "/api/drawer", undefined, { signal }).then((response) => response.items),
    add: (item: Item) => call("drawer", "add", "POST", "/api/drawer", { item }).then(row),
    save: (id: string, revision: number, item: Item) => call("drawer", "save", "PUT", `/api/drawer/${id}`, { revision, item }).then(row),
    remove: (id: string) => call("drawer", "remove", "DELETE", `/api/drawer/${id}`),
    restore: (id: string) => call("drawer", "restore", "POST", `/api/drawer/${id}/restore`).then(row),
    preview: (text: string) => call("drawer", "preview", "POST", "/api/drawer/preview", { text }).then(rows),
    importCsv: (text: string) => call("drawer", "importFile", "POST", "/api/drawer/import", { text }).then(rows),
  },
};
