import { sql } from "drizzle-orm";
import { type NextRequest, NextResponse } from "next/server";
import { accessModeOf } from "./server/kernel/access/accessMode";
import type { Member } from "./server/kernel/access/member";
import { heldAccess, SESSION_COOKIE } from "./server/kernel/access/who";
import { MEMBER_HEADER, SECURE_HEADER } from "./server/kernel/accessGuard";
import { awayError, database, isShared } from "./server/kernel/db/client";
import type { ServerError } from "./server/kernel/errors";
import { logFault } from "./server/kernel/log";

/** Pages that need nobody signed in: where one signs in, second screens, which their ticket opens, the offline page, which knows only what its browser saw, and what every page is made of. */
const PUBLIC = /^\/(sign-in$|second\/[^/]+$|_next\/|(icon\.svg|icon-\d+\.png|manifest\.webmanifest|sw\.js|offline)$)/;

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

/** Shown while the database server is away; the page comes back automatically. */
function awayPage({ status }: ServerError): NextResponse {
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

/** Anyone who is signed in, where somebody must be; a database server that is away is found here, whichever page is asked for. */
async function memberOf(request: NextRequest, signsIn: boolean): Promise<Member | null> {
  if (signsIn) return (await heldAccess()?.read(request.cookies.get(SESSION_COOKIE)?.value)) ?? null;
  if (isShared()) await (await database()).execute(sql`select 1`);
  return null;
}

/** Pages only: routes of the API apply their own policies, and their bodies pass through no copy. */
export async function proxy(request: NextRequest) {
  const nonce = btoa(crypto.randomUUID());
  const policy = contentSecurityPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const { mode: accessMode } = accessModeOf(process.env);
  const { pathname } = request.nextUrl;
  const open = PUBLIC.test(pathname);
  let member: Member | null = null;
  try {
    if (!open || accessMode === "phrase") member = await memberOf(request, accessMode === "phrase");
  } catch (error) {
    // Whether somebody is signed in cannot be looked up: that is no reason to send them to sign in again, nor to keep from anyone what is for everyone.
    const away = await awayError(error);
    logFault(error, { withPlace: away === null });
    if (!away) throw error;
    if (!open) return awayPage(away);
  }
  if (accessMode === "phrase" && !member && !open) {
    // By the name it was asked by: the framework's own idea of its address is that of the socket.
    const to = new URL("/sign-in", `http${request.headers.get(SECURE_HEADER) === "1" ? "s" : ""}://${request.headers.get("host")}`);
    to.searchParams.set("to", `${pathname}${request.nextUrl.search}`);
    return NextResponse.redirect(to);
  }
  headers.set(MEMBER_HEADER, encodeURIComponent(JSON.stringify({ accessMode, name: member?.name ?? null, role: member?.role ?? "keep" })));
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  return response;
}

export const config = { matcher: ["/((?!api/|_next/static|favicon.ico).*)"] };
