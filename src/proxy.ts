import { type NextRequest, NextResponse } from "next/server";
import type { Member } from "./server/kernel/access/member";
import { isLoopback, plainAddress, standingOf } from "./server/kernel/access/standing";
import { heldAccess, SESSION_COOKIE } from "./server/kernel/access/who";
import { awayWords } from "./server/kernel/db/client";
import { LOCAL_HEADER, MEMBER_HEADER, SECURE_HEADER } from "./server/kernel/doorGuard";
import type { ServerError } from "./server/kernel/errors";
import { logFault } from "./server/kernel/log";

/**
 * Names this server answers to: loopback, the very address it was reached at, and what UPWIND_HOSTS adds (comma-separated). Stops another site's name from being pointed here:
 * what a name points to can be changed under way, a bare address cannot.
 */
function isOwnHost(host: string | null, local: string | null): boolean {
  if (!host) return false;
  const name = plainAddress(host.replace(/:\d+$/, ""));
  const extra = (process.env.UPWIND_HOSTS ?? "").split(",").map((entry) => plainAddress(entry.trim()));
  return isLoopback(name) || (name !== "" && (extra.includes(name) || name === local));
}

/** Where nobody needs to be signed in: the page and the route where one does that, second screens, whose routes look at the ticket, health, metrics and the archive, whose routes look at who asks, the offline page, which knows nothing but what its browser saw, and what every page is made of. */
const OUTSIDE =
  /^\/(sign-in$|api\/access\/sign-in$|second\/[^/]+$|api\/(health|metrics|backup)$|api\/second\/[^/]+(\/events)?$|_next\/|(icon\.svg|icon-\d+\.png|manifest\.webmanifest|sw\.js|offline)$)/;

function contentSecurityPolicy(nonce: string): string {
  const dev = process.env.NODE_ENV === "development";
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ""}`,
    // Emotion and drawings set styles from script; no style can run code.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${dev ? " ws:" : ""}`,
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
}

/** Said while the database server is away; a page comes again by itself. */
function notNow(pathname: string, { code, message, status }: ServerError): NextResponse {
  if (pathname.startsWith("/api/")) return NextResponse.json({ error: { code, message } }, { status });
  const words = "<h1>The workshop's database server does not answer</h1><p>Nothing that was saved is lost. This page tries again every five seconds.</p>";
  return new NextResponse(
    `<!doctype html><meta charset="utf-8"><title>Upwind Rod</title><main style="font:1.1rem sans-serif;max-width:32rem;padding:3rem">${words}</main>`,
    {
      status,
      headers: {
        "content-type": "text/html; charset=utf-8",
        refresh: "5",
        "cache-control": "no-store",
        "content-security-policy": "default-src 'none'; style-src 'unsafe-inline'",
      },
    },
  );
}

export async function proxy(request: NextRequest) {
  if (!isOwnHost(request.headers.get("host"), request.headers.get(LOCAL_HEADER))) {
    return new NextResponse("This address is not one this server answers to. Set UPWIND_HOSTS to add it.\n", { status: 421 });
  }
  const nonce = btoa(crypto.randomUUID());
  const policy = contentSecurityPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const { door } = standingOf(process.env);
  const { pathname } = request.nextUrl;
  let member: Member | null | undefined;
  try {
    member = door === "phrase" ? await heldAccess()?.read(request.cookies.get(SESSION_COOKIE)?.value) : undefined;
  } catch (error) {
    // Whether somebody is signed in cannot be looked up: that is no reason to send them to sign in anew, nor to keep from anyone what is for everyone, such as how the house stands.
    const away = await awayWords(error);
    logFault(error, { withPlace: away === null });
    if (!away) throw error;
    if (!OUTSIDE.test(pathname)) return notNow(pathname, away);
  }
  if (door === "phrase" && !member && !OUTSIDE.test(pathname)) {
    if (pathname.startsWith("/api/"))
      return NextResponse.json({ error: { code: "sign-in", message: "Sign in first: this workshop has an access phrase." } }, { status: 401 });
    // By the name it was asked by: the framework's own idea of its address is that of the socket.
    const to = new URL("/sign-in", `http${request.headers.get(SECURE_HEADER) === "1" ? "s" : ""}://${request.headers.get("host")}`);
    to.searchParams.set("to", `${pathname}${request.nextUrl.search}`);
    return NextResponse.redirect(to);
  }
  headers.set(MEMBER_HEADER, encodeURIComponent(JSON.stringify({ door, name: member?.name ?? null, role: member?.role ?? "keep" })));
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  return response;
}

export const config = { matcher: ["/((?!_next/static|favicon.ico).*)"] };
