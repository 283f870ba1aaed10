import type { z } from "zod";
import { parseOrThrow } from "@/core/design/schema";
import { CoreError } from "@/core/errors";
import { ServerError } from "./errors";

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
  if (Number(request.headers.get("content-length") ?? 0) > maxBytes) throw tooLarge();
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

function failure(error: unknown): Response {
  if (error instanceof ServerError) {
    return Response.json({ error: { code: error.code, message: error.message, ...error.extra } }, { status: error.status });
  }
  if (error instanceof CoreError) {
    return Response.json({ error: { code: error.code, path: error.path, message: error.message } }, { status: 422 });
  }
  // The cause goes to the log; the client learns only that it failed.
  console.error(error);
  return Response.json({ error: { code: "server-failed", message: "The server met a fault. Your change was not saved." } }, { status: 500 });
}

type Handler<C> = (request: Request, context: C) => Promise<Response>;

/** A route that reads. */
export function query<C>(handler: Handler<C>): Handler<C> {
  return async (request, context) => {
    try {
      return await handler(request, context);
    } catch (error) {
      return failure(error);
    }
  };
}

/** A route that changes something: only from this app's own page. */
export function mutation<C>(handler: Handler<C>): Handler<C> {
  return query(async (request, context) => {
    requireSameOrigin(request);
    return handler(request, context);
  });
}
