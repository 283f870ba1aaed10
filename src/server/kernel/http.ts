import type { z } from "zod";
import { CoreError } from "@/core/kernel/errors";
import { parseOrThrow } from "@/core/kernel/parse";
import type { Role } from "@/core/workshop/roles";
import { auditEntry } from "./access/audit";
import type { Member } from "./access/member";
import { admit, admitFromMemory, heldAccess, workFor } from "./access/who";
import { SECURE_HEADER } from "./accessGuard";
import { awayError, engineDied, isShared, reviveDatabase } from "./db/client";
import { dataFolder, requireFreeSpace, storageFault } from "./db/dataFolder";
import { ServerError } from "./errors";
import { logFault } from "./log";
import { metrics, routeOf } from "./metrics";

/** Most bytes a request body may have unless a route says otherwise. */
const MAX_BODY_BYTES = 128 * 1024;
const MIB = 1024 * 1024;

/** A limit as people read it: "48 MB", "128 KB". */
export const sizeWords = (bytes: number): string => (bytes >= MIB ? `${Math.floor(bytes / MIB)} MB` : `${Math.floor(bytes / 1024)} KB`);
/** A body that is larger than its route takes. */
export const tooLarge = (maxBytes: number): ServerError =>
  new ServerError("too-large", 413, `This is larger than ${sizeWords(maxBytes)}, the most that is accepted here. Nothing was changed.`);

/** The body's bytes, read no further than the limit. */
export async function readBytes(request: Request, maxBytes: number): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of bodyChunks(request, maxBytes)) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** The body's bytes as they come, no further than the limit. @throws ServerError `too-large` */
export async function* bodyChunks(request: Request, maxBytes: number): AsyncGenerator<Uint8Array> {
  if (Number(request.headers.get("content-length") ?? Number.NaN) > maxBytes) throw tooLarge(maxBytes);
  const reader = request.body?.getReader();
  if (!reader) return;
  let size = 0;
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      size += value.byteLength;
      if (size > maxBytes) throw tooLarge(maxBytes);
      yield value;
    }
  } finally {
    await reader.cancel().catch(() => {
      // Anyone who sent it is gone: there is nothing left to refuse.
    });
  }
}

/** The request's JSON, through a schema. */
export async function readJson<T extends z.ZodType>(request: Request, schema: T, maxBytes = MAX_BODY_BYTES): Promise<z.output<T>> {
  const text = (await readBytes(request, maxBytes)).toString("utf8");
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new ServerError("unreadable", 400, "The request is not valid JSON.");
  }
  return parseOrThrow(schema, value);
}

function refused(error: ServerError): Response {
  metrics().refused.inc({ code: error.code });
  return Response.json({ error: { code: error.code, message: error.message, ...error.extra } }, { status: error.status });
}

async function failure(error: unknown): Promise<Response> {
  if (error instanceof ServerError) return refused(error);
  if (error instanceof CoreError) {
    return Response.json({ error: { code: error.code, path: error.path, message: error.message } }, { status: 422 });
  }
  const away = await awayError(error);
  // The kind of fault goes to the log; the client learns only that it failed. Where it arose says nothing of a server that is away.
  logFault(error, { withPlace: away === null });
  if (away) return refused(away);
  const storage = storageFault(error, dataFolder());
  const died = !isShared() && engineDied(error);
  if (died) await reviveDatabase().catch(logFault);
  if (storage) return refused(storage);
  // An engine dies of one thing in practice: its log had no room to grow.
  if (died) {
    return refused(
      new ServerError("disk-full", 507, "The database could not write and was opened again: nothing was changed. Is the disk full or failing? Then try again."),
    );
  }
  return Response.json({ error: { code: "server-failed", message: "The server met a fault. Your change was not saved." } }, { status: 500 });
}

/** A request on its way through a route's policies. */
interface Call<C> {
  request: Request;
  context: C;
  /** anyone who asks, once a policy has looked; null where nobody needs to sign in */
  member: Member | null;
}
type Next<C> = (call: Call<C>) => Promise<Response>;
/** One rule of a route: refuses a call, or passes it on. */
export type Policy = <C>(call: Call<C>, next: Next<C>) => Promise<Response>;
type Handler<C> = (request: Request, context: C, member: Member | null) => Promise<Response>;

/** Refuses a read that another site's page asked the browser to make: it could not see the result, but the server would do the work. */
const ownSite: Policy = (call, next) => {
  const site = call.request.headers.get("sec-fetch-site");
  if (site === "cross-site" || site === "same-site")
    throw new ServerError("cross-origin", 403, "This request did not come from this app's own page, so it was refused.");
  return next(call);
};

/** Refuses a change that another site's page asked the browser to make. The scheme counts: https on the same host is another origin. */
export const sameOrigin: Policy = (call, next) => {
  const { headers } = call.request;
  const origin = headers.get("origin");
  const site = headers.get("sec-fetch-site");
  const own = `${headers.get(SECURE_HEADER) === "1" ? "https" : "http"}://${headers.get("host")}`;
  const same =
    origin !== null ? URL.canParse(origin) && URL.canParse(own) && new URL(origin).origin === new URL(own).origin && origin !== "null" : site === "same-origin";
  if (!same || (site !== null && site !== "same-origin"))
    throw new ServerError("cross-origin", 403, "This change did not come from this app's own page, so it was refused.");
  return next(call);
};

/** Admits those whose role is at least this one; null where the route itself looks at who asks. */
export const role =
  (needed: Role | null): Policy =>
  async (call, next) => {
    const member = needed === null ? null : await admit(call.request, needed);
    return workFor(member, () => next({ ...call, member }));
  };

/** As {@link role}, by what this process remembers of sessions: never waits for the database. */
export const roleFromMemory =
  (needed: Role): Policy =>
  async (call, next) => {
    const member = await admitFromMemory(call.request, needed);
    return workFor(member, () => next({ ...call, member }));
  };

/** @throws ServerError `disk-full` while the disk of an embedded database is nearly full */
export function requireDiskSpace(): void {
  if (!isShared()) requireFreeSpace(dataFolder());
}

/** Refuses a change while the disk is nearly full. */
const diskSpace: Policy = (call, next) => {
  requireDiskSpace();
  return next(call);
};

/** Records what a member changed. */
const audited: Policy = async (call, next) => {
  const response = await next(call);
  const { request, member } = call;
  const entry = member && response.ok ? auditEntry(request.method, new URL(request.url).pathname) : null;
  // What was done is done, whether or not it can be recorded.
  if (member && entry)
    await heldAccess()
      ?.remember(member, entry.did, entry.on)
      .catch((error) => logFault(error));
  return response;
};

/** A route: its policies in order, then its handler; what any of them refuses or fails at becomes a response. HEAD never runs anything: a body that nobody reads would be made for nothing. */
export function route<C>(policies: readonly Policy[], handler: Handler<C>): (request: Request, context: C) => Promise<Response> {
  const run = policies.reduceRight<Next<C>>(
    (next, policy) => (call) => policy(call, next),
    ({ request, context, member }) => handler(request, context, member),
  );
  return async (request, context) => {
    if (request.method === "HEAD") return refused(new ServerError("method", 405, "HEAD is not answered here: use GET."));
    const done = metrics().requests.startTimer({ route: routeOf(new URL(request.url).pathname), method: request.method });
    let response: Response;
    try {
      response = await run({ request, context, member: null });
    } catch (error) {
      response = await failure(error);
    }
    done({ status: String(response.status) });
    return response;
  };
}

/** A route that reads. @param needed role of anyone who asks; null where the route itself looks at who it is */
export const query = <C>(handler: Handler<C>, needed: Role | null = "look") => route<C>([ownSite, role(needed)], handler);

/** A route that changes something. @param needed role of anyone who asks; null for those who are not signed in yet */
export const mutation = <C>(handler: Handler<C>, needed: Role | null = "work") => route<C>([sameOrigin, role(needed), diskSpace, audited], handler);

/** A route that makes the wire safe, or says that somebody is there: origin and session only, from memory. It is never refused for a full disk and never waits for the database. */
export const safeCommand = <C>(handler: Handler<C>) => route<C>([sameOrigin, roleFromMemory("work")], handler);
