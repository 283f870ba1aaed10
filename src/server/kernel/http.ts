import type { z } from "zod";
import { CoreError } from "@/core/kernel/errors";
import { parseOrThrow } from "@/core/kernel/parse";
import type { Role } from "@/core/workshop/roles";
import { deedOf } from "./access/deeds";
import type { Member } from "./access/member";
import { admit, heldAccess, workFor } from "./access/who";
import { awayWords, engineDied, isShared, reviveDatabase } from "./db/client";
import { dataFolder, requireRoom, storageFault } from "./db/dataFolder";
import { ServerError } from "./errors";
import { logFault } from "./log";
import { metrics, routeOf } from "./metrics";

/** Most bytes a request body may have unless a route says otherwise. */
const MAX_BODY_BYTES = 128 * 1024;

/** Refuses a change that another site's page asked the browser to make. */
function requireSameOrigin(request: Request): void {
  const origin = request.headers.get("origin");
  const host = request.headers.get("host");
  const site = request.headers.get("sec-fetch-site");
  const same = origin !== null ? origin !== "null" && URL.canParse(origin) && new URL(origin).host === host : site === "same-origin";
  if (!same || (site !== null && site !== "same-origin")) {
    throw new ServerError("cross-origin", 403, "This change did not come from this app's own page, so it was refused.");
  }
}

/** The body's bytes, read no further than the limit. */
export async function readBytes(request: Request, maxBytes: number): Promise<Buffer> {
  const tooLarge = () => new ServerError("too-large", 413, `The request is larger than the ${Math.floor(maxBytes / 1024)} KiB allowed here.`);
  const said = Number(request.headers.get("content-length") ?? Number.NaN);
  if (said > maxBytes) throw tooLarge();
  const reader = request.body?.getReader();
  if (!reader) return Buffer.alloc(0);
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.byteLength;
    if (size > maxBytes) {
      await reader.cancel();
      throw tooLarge();
    }
    chunks.push(value);
  }
  return Buffer.concat(chunks);
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
  const away = await awayWords(error);
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

type Handler<C> = (request: Request, context: C) => Promise<Response>;

/** Does a route's work for whoever asks, or tells in words why not. */
function answered<C>(handler: (request: Request, context: C, member: Member | null) => Promise<Response>, needed: Role | null): Handler<C> {
  return async (request, context) => {
    const done = metrics().requests.startTimer({ route: routeOf(new URL(request.url).pathname), method: request.method });
    let response: Response;
    try {
      const member = needed === null ? null : await admit(request, needed);
      response = await workFor(member, () => handler(request, context, member));
    } catch (error) {
      response = await failure(error);
    }
    done({ status: String(response.status) });
    return response;
  };
}

/** A route that reads. @param needed of whoever asks, where the door wants to know; null where the route itself looks at who it is */
export const query = <C>(handler: Handler<C>, needed: Role | null = "look"): Handler<C> => answered(handler, needed);

/** A route that changes something: only from this app's own page. What a member changes is remembered. @param needed of whoever asks; null for those who are not in yet */
export const mutation = <C>(handler: Handler<C>, needed: Role | null = "work"): Handler<C> =>
  answered(async (request, context, member) => {
    requireSameOrigin(request);
    if (!isShared()) requireRoom(dataFolder());
    const response = await handler(request, context);
    const deed = member && response.ok ? deedOf(request.method, new URL(request.url).pathname) : null;
    // What was done is done, whether or not it can be noted down.
    if (member && deed)
      await heldAccess()
        ?.remember(member, deed.did, deed.on)
        .catch((error) => logFault(error));
    return response;
  }, needed);
