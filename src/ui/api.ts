import type { Design } from "@/core/design/schema";

/** A cutter as the server sends it. */
export interface CutterRow {
  id: string;
  design: Design;
  revision: number;
  updatedAt: string;
  deletedAt: string | null;
}

/** What the server said no to: its code and words, and for a stale save the row it met. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly status: number,
    readonly path?: string,
    readonly current?: CutterRow,
  ) {
    super(message);
    this.name = "ApiError";
  }
}

async function call<T>(method: string, url: string, body?: unknown, keepalive = false): Promise<T> {
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      keepalive,
      headers: body === undefined ? undefined : { "content-type": "application/json" },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new ApiError("unreachable", "The server does not answer.", 0);
  }
  const answer = await response.json().catch(() => ({}));
  if (response.ok) return answer as T;
  const error = answer.error ?? {};
  throw new ApiError(error.code ?? "server-failed", error.message ?? `The server answered ${response.status}.`, response.status, error.path, error.current);
}

const cutter = (answer: { cutter: CutterRow }) => answer.cutter;

/** The server's routes, one function each. */
export const api = {
  list: () => call<{ cutters: CutterRow[]; deleted: CutterRow[] }>("GET", "/api/cutters"),
  get: (id: string) => call<{ cutter: CutterRow }>("GET", `/api/cutters/${id}`).then(cutter),
  create: (design: Design) => call<{ cutter: CutterRow }>("POST", "/api/cutters", { design }).then(cutter),
  save: (id: string, revision: number, design: Design, keepalive = false) =>
    call<{ cutter: CutterRow }>("PUT", `/api/cutters/${id}`, { revision, design }, keepalive).then(cutter),
  remove: (id: string) => call<{ cutter: CutterRow }>("DELETE", `/api/cutters/${id}`).then(cutter),
  restore: (id: string) => call<{ cutter: CutterRow }>("POST", `/api/cutters/${id}/restore`).then(cutter),
  duplicate: (id: string) => call<{ cutter: CutterRow }>("POST", `/api/cutters/${id}/duplicate`).then(cutter),
  importText: (text: string) => call<{ cutter: CutterRow }>("POST", "/api/cutters/import", { text }).then(cutter),
};
