import http, { type IncomingMessage, type ServerResponse } from "node:http";
import { accessModeOf, isLoopback, plainAddress, requestOrigin } from "./access/accessMode";

/** What this server answers to; anything else is refused before the framework sees it. */
const METHODS = new Set(["GET", "HEAD", "POST", "PUT", "DELETE", "OPTIONS"]);
/** A body that says it is longer than it is would be waited for until the connection ends: after so long without a byte it is answered. */
const QUIET_MS = 3000;
const LOOK_MS = 500;

/** What the guard says of anyone who asks, in the request's own headers: what a client writes there itself is thrown away. */
export const CLIENT_HEADER = "x-upwind-client";
export const SECURE_HEADER = "x-upwind-secure";
export const LOCAL_HEADER = "x-upwind-local";
export const MEMBER_HEADER = "x-upwind-member";

const reply = (response: ServerResponse, status: number, code: string, message: string) => {
  response.writeHead(status, { "content-type": "application/json", connection: "close" });
  response.end(JSON.stringify({ error: { code, message } }));
};

/**
 * Names this server answers to: loopback, the very address it was reached at, and what UPWIND_HOSTS adds (comma-separated). Stops another site's name from being pointed here:
 * what a name points to can be changed at any time, a bare address cannot.
 */
export function isOwnHost(host: string | undefined, local: string): boolean {
  if (!host) return false;
  const name = plainAddress(host.replace(/:\d+$/, ""));
  const extra = (process.env.UPWIND_HOSTS ?? "").split(",").map((entry) => plainAddress(entry.trim()));
  return isLoopback(name) || (name !== "" && (extra.includes(name) || name === local));
}

/** Whether an address is a path of this server that can be decoded: not `*`, not another server's. */
function isReadable(url: string): boolean {
  if (!url.startsWith("/")) return false;
  try {
    decodeURIComponent(url);
    return true;
  } catch {
    // A stray per cent sign.
    return false;
  }
}

/** Answers a request whose body has stopped coming. */
function watchBody(request: IncomingMessage, response: ServerResponse): void {
  if (!request.headers["content-length"] && !request.headers["transfer-encoding"]) return;
  let seen = request.socket.bytesRead;
  let since = Date.now();
  const look = setInterval(() => {
    if (request.complete || response.writableEnded || response.destroyed) return clearInterval(look);
    if (request.socket.bytesRead !== seen) {
      seen = request.socket.bytesRead;
      since = Date.now();
    } else if (Date.now() - since >= QUIET_MS && !response.headersSent) {
      clearInterval(look);
      reply(response, 408, "unreadable", "The request's body stopped before its end: send it again.");
      request.socket.end();
    }
  }, LOOK_MS);
  look.unref();
}

/**
 * Stands before the framework: requests from where nobody should be, and requests it would answer with a fault of its own (a method it does not know, a path that cannot be read) or not at all (a body that lies about
 * its length) are answered in words. Patched into the server's own emitter, since the framework makes its server itself.
 */
export function installAccessGuard(): void {
  const guarded = http.Server.prototype as typeof http.Server.prototype & { upwindGuarded?: true };
  if (guarded.upwindGuarded) return;
  guarded.upwindGuarded = true;
  const stored = accessModeOf(process.env);
  const emit = guarded.emit;
  guarded.emit = function (this: http.Server, event: string | symbol, ...args: unknown[]) {
    if (event === "request") {
      const [request, response] = args as [IncomingMessage, ServerResponse];
      if (!METHODS.has(request.method ?? "")) {
        reply(response, 405, "method", "This server does not answer to that method.");
        return true;
      }
      if (!isReadable(request.url ?? "")) {
        reply(response, 400, "unreadable", "The address cannot be read: it does not begin with /, or has a stray % sign.");
        return true;
      }
      for (const name of [CLIENT_HEADER, SECURE_HEADER, LOCAL_HEADER, MEMBER_HEADER]) delete request.headers[name];
      const who = requestOrigin(stored, { remote: request.socket.remoteAddress, local: request.socket.localAddress, headers: request.headers });
      if ("refused" in who) {
        reply(response, 421, "not-here", who.refused);
        return true;
      }
      if (!isOwnHost(request.headers.host, who.local)) {
        reply(response, 421, "not-here", "This address is not one this server answers to. Set UPWIND_HOSTS to add it.");
        return true;
      }
      request.headers[CLIENT_HEADER] = who.client;
      request.headers[LOCAL_HEADER] = who.local;
      request.headers[SECURE_HEADER] = who.secure ? "1" : "0";
      watchBody(request, response);
    }
    return emit.apply(this, [event, ...args] as Parameters<typeof emit>);
  } as typeof guarded.emit;
}
